#include "ui/pages/arrivals/arriving_view.h"

#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <cmath>

namespace cognitum {

namespace {

/// How it comes, in the fewest words; what it is stands in its box.
QString role_words(const FieldProposal& p) {
    switch (p.role) {
    case FieldRole::counter: return ArrivingView::tr("counts the lines");
    case FieldRole::clock: return ArrivingView::tr("a clock");
    case FieldRole::words: return ArrivingView::tr("words");
    case FieldRole::converter: return ArrivingView::tr("raw, %1 bits").arg(p.bits);
    case FieldRole::pulses: return ArrivingView::tr("counted pulses");
    case FieldRole::state: return ArrivingView::tr("on or off");
    case FieldRole::value:
        return p.kind == "number" ? ArrivingView::tr("a number")
                                  : ArrivingView::tr("finished, in %1").arg(from_std(unit_symbol(p.unit)));
    }
    return {};
}

QString state_words(const ArrivingBoard& board) {
    if (!board.live.reason.isEmpty() && !board.sends()) return board.live.reason;
    switch (board.live.state) {
    case LinkState::closed: return ArrivingView::tr("not open");
    case LinkState::opening: return ArrivingView::tr("opening …");
    case LinkState::lost: return ArrivingView::tr("not there");
    case LinkState::open: break;
    }
    if (!board.sends()) return ArrivingView::tr("open, and nothing came yet");
    QString out = ArrivingView::tr("Your board sends %1").arg(board.live.format);
    if (board.live.lines_per_s > 0)
        out += ArrivingView::tr(", %1 lines a second").arg(from_std(format_constant(board.live.lines_per_s, 2)));
    if (board.link.kind == LinkKind::serial && !board.link.find_speed)
        out += ArrivingView::tr(", at %1 Bd").arg(board.link.baud);
    return out + ArrivingView::tr(". Which of it do you want to know?");
}

} // namespace

FieldTrace::FieldTrace(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setAccessibleName(tr("Its last numbers"));
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

QSize FieldTrace::sizeHint() const {
    return {m_theme.px(110), m_theme.px(24)};
}

QString FieldTrace::spoken() const {
    double least = 0, most = 0, last = 0;
    int n = 0;
    for (const RawSample& s : m_samples) {
        if (!std::isfinite(s.code)) continue;
        least = n == 0 ? s.code : std::min(least, s.code);
        most = n == 0 ? s.code : std::max(most, s.code);
        last = s.code;
        ++n;
    }
    const auto number = [](double v) { return from_std(format_constant(v, 5)); };
    return n == 0 ? tr("Nothing came yet.")
                  : tr("The last numbers: from %1 to %2, now %3.").arg(number(least), number(most), number(last));
}

void FieldTrace::setSamples(std::vector<RawSample> samples) {
    constexpr std::size_t most = 120;
    if (samples.size() > most) samples.erase(samples.begin(), samples.end() - most);
    m_samples = std::move(samples);
    update();
}

void FieldTrace::paintEvent(QPaintEvent*) {
    double low = 0, high = 0;
    std::vector<double> numbers;
    for (const RawSample& s : m_samples)
        if (std::isfinite(s.code)) numbers.push_back(s.code);
    if (numbers.size() < 2) return;
    low = *std::min_element(numbers.begin(), numbers.end());
    high = *std::max_element(numbers.begin(), numbers.end());
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double inner = height() - m_theme.px(6), span = high > low ? high - low : 1;
    QPolygonF line;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        line << QPointF(width() * static_cast<double>(i) / static_cast<double>(numbers.size() - 1),
                        m_theme.px(3) + inner * (high > low ? 1 - (numbers[i] - low) / span : 0.5));
    p.setPen(m_theme.pen(m_theme.colours().accent, 1.4));
    p.drawPolyline(line);
}

ArrivingView::ArrivingView(Theme& theme, const Catalog& catalog, QWidget* parent)
    : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("arriving"));
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(6));
    auto* head = new QHBoxLayout;
    head->setSpacing(theme.px(10));
    m_title = new TextLabel(theme, TextLabel::Role::name);
    m_title->setWordWrap(false);
    head->addWidget(m_title);
    head->addStretch(1);
    m_like = new QWidget;
    auto* like = make_row(m_like, theme.px(8));
    auto* label = new TextLabel(theme, TextLabel::Role::soft, tr("a board like"));
    label->setWordWrap(false);
    like->addWidget(label);
    m_card = new QComboBox;
    m_card->setObjectName(QStringLiteral("arrivingCard"));
    m_card->setAccessibleName(tr("What the board is like"));
    m_card->setToolTip(
        tr("Its converter's bits and its reference voltage come from here. Guessed from the numbers: "
           "look whether it is right."));
    m_card->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_card->setMinimumContentsLength(24);
    for (const BoardCard& card : catalog.boards)
        m_card->addItem(from_std(card.name), from_std(card.id));
    like->addWidget(m_card);
    head->addWidget(m_like);
    rows->addLayout(head);
    m_says = new TextLabel(theme, TextLabel::Role::soft);
    m_says->setObjectName(QStringLiteral("arrivingSays"));
    rows->addWidget(m_says);
    m_grid = new QGridLayout;
    m_grid->setHorizontalSpacing(theme.px(16));
    m_grid->setVerticalSpacing(theme.px(4));
    m_grid->setColumnStretch(3, 1);
    rows->addLayout(m_grid);
    connect(m_card, &QComboBox::activated, this, [this] { m_chosen = true; });
}

std::string ArrivingView::card() const {
    return m_card->currentData().toString().toStdString();
}

void ArrivingView::addRow(const ArrivedField& field) {
    const QString name = from_std(field.name);
    Row row{new TextLabel(m_theme, TextLabel::Role::mono, name),
            new TextLabel(m_theme, TextLabel::Role::mono),
            new TextLabel(m_theme, TextLabel::Role::soft),
            new FieldTrace(m_theme),
            new QComboBox,
            make_button(tr("I want to know it"), QStringLiteral("take_") + name)};
    for (TextLabel* label : {row.name, row.last})
        label->setWordWrap(false);
    row.last->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    row.kind->setObjectName(QStringLiteral("kindOf_") + name);
    row.kind->setAccessibleName(tr("What %1 is").arg(name));
    for (const QuantityKind& kind : quantity_kinds())
        row.kind->addItem(kind.id == "number" ? tr("not said yet") : from_std(kind.title), from_std(kind.id));
    connect(row.kind, &QComboBox::activated, this, [this, id = field.name] { m_rows[id].chosen = true; });
    row.anyway = make_link(tr("measures something all the same"), QStringLiteral("anyway_") + name);
    connect(row.anyway, &QPushButton::clicked, this, [this, id = field.name] {
        Row& known = m_rows[id];
        known.chosen = true;
        known.kind->show();
        known.take->show();
        known.anyway->hide();
    });
    row.take->setAccessibleName(tr("Make a reading of %1").arg(name));
    connect(row.take, &QPushButton::clicked, this,
            [this, name, kind = row.kind] { emit taken(name, kind->currentData().toString()); });
    const int at = m_grid->rowCount();
    int column = 0;
    for (QWidget* part :
         std::initializer_list<QWidget*>{row.name, row.last, row.trace, row.about, row.kind, row.take})
        m_grid->addWidget(part, at, column++);
    m_grid->addWidget(row.anyway, at, 4, 1, 2, Qt::AlignRight);
    m_rows[field.name] = row;
}

void ArrivingView::show(const ArrivingBoard& board) {
    set_text(m_title, board.about.isEmpty() ? board.title : board.title + QStringLiteral(" · ") + board.about);
    set_text(m_says, state_words(board));
    m_like->setVisible(board.sends() && board.board.empty());
    if (!m_chosen) m_card->setCurrentIndex(std::max(0, m_card->findData(from_std(board.card))));
    for (const ArrivedField& field : board.fields) {
        if (!m_rows.contains(field.name)) addRow(field);
        const Row& row = m_rows[field.name];
        if (!row.chosen) row.kind->setCurrentIndex(row.kind->findData(from_std(field.proposal.kind)));
        set_text(row.last, field.example.left(16));
        set_text(row.about, role_words(field.proposal));
        row.about->setToolTip(from_std(field.proposal.why));
        row.trace->setSamples(field.samples);
        const bool offered = field.proposal.is_reading();
        row.kind->setVisible(offered || row.chosen);
        row.take->setVisible(offered || row.chosen);
        row.anyway->setVisible(!offered && !row.chosen && field.proposal.role != FieldRole::words);
        const QColor soft = m_theme.colours().soft;
        for (TextLabel* label : {row.name, row.last, row.about})
            label->setColour(offered ? QColor() : soft);
    }
}

} // namespace cognitum
