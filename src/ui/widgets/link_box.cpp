#include "ui/widgets/link_box.h"

#include "core/decode/message_format.h"
#include "link/listening.h"
#include "link/serial_link.h"
#include "ui/widgets/folding_row.h"
#include "ui/widgets/link_fields.h"
#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>

namespace cognitum {

namespace {

/// Pages of one height, of which one shows; they take what room there is.
QStackedWidget* pages_of(const std::vector<LinkFields*>& all, QWidget* (*page)(LinkFields&)) {
    auto* pages = new QStackedWidget;
    pages->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    for (LinkFields* fields : all)
        if (QWidget* w = page(*fields)) pages->addWidget(w);
    return pages;
}

} // namespace

LinkBox::LinkBox(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(6));
    m_kind = new QComboBox;
    m_kind->setObjectName(QStringLiteral("linkKind"));
    m_kind->setAccessibleName(tr("Kind of link"));
    m_all = make_link_fields(theme);
    for (const LinkFields* fields : m_all)
        m_kind->addItem(fields->title());
    m_fields = pages_of(m_all, [](LinkFields& fields) -> QWidget* { return &fields; });
    m_format = new QComboBox;
    m_format->setObjectName(QStringLiteral("linkFormat"));
    m_format->setAccessibleName(tr("Format of the lines"));
    m_format->setEditable(true);
    m_format->lineEdit()->setAccessibleName(m_format->accessibleName());
    m_format->setMinimumWidth(theme.px(130));
    for (const FormatKind kind : all_format_kinds())
        if (kind != FormatKind::frames && kind != FormatKind::record)
            m_format->addItem(kind == FormatKind::automatic ? tr("format found") : from_std(format_kind_name(kind)),
                              from_std(format_kind_name(kind)));
    m_format->setToolTip(
        tr("Found from what arrives; or type: frames start=0D end=54, record little u16:level crc8"));
    m_unfold = make_link(tr("More"), QStringLiteral("linkMore"));
    m_open = make_button(tr("Connect"), QStringLiteral("linkOpen"), true);
    m_choice = new FoldingRow({m_kind}, m_fields, {m_unfold, m_open}, theme);
    box->addWidget(m_choice);
    auto* format = new TextLabel(theme, TextLabel::Role::soft, tr("Format"));
    format->setWordWrap(false);
    format->setContentsMargins(0, theme.px(7), 0, 0); // on the line of the fields beside it
    m_more = pages_of(m_all, [](LinkFields& fields) { return fields.more(); });
    m_folded = new FoldingRow({format, m_format}, m_more, {}, theme);
    m_folded->hide();
    box->addWidget(m_folded);
    box->addWidget(secretRow());
    box->addWidget(permissionRow());
    auto* below = new QHBoxLayout;
    m_state = new TextLabel(theme, TextLabel::Role::soft);
    m_state->setObjectName(QStringLiteral("linkState"));
    below->addWidget(m_state, 1);
    m_counts = new LiveLabel(theme, LiveLabel::Role::soft);
    m_counts->setObjectName(QStringLiteral("linkCounts"));
    m_counts->hide();
    below->addWidget(m_counts, 1);
    m_close = make_button(tr("Disconnect"), QStringLiteral("linkClose"));
    below->addWidget(m_close);
    box->addLayout(below);

    connect(m_kind, &QComboBox::currentIndexChanged, this, &LinkBox::showKind);
    connect(m_unfold, &QPushButton::clicked, this, [this] {
        m_unfolded = !m_unfolded;
        showKind();
    });
    connect(m_open, &QPushButton::clicked, this, &LinkBox::connectLink);
    connect(m_close, &QPushButton::clicked, this, &LinkBox::disconnectLink);
    for (const LinkFields* fields : m_all)
        for (const QLineEdit* place : fields->places())
            connect(place, &QLineEdit::returnPressed, this, &LinkBox::connectLink);
    connect(new PortWatch(this), &PortWatch::changed, this, &LinkBox::listChoices);
    connect(&context, &Context::refreshed, this, [this] {
        if (isVisible()) refresh();
    });
}

LinkFields& LinkBox::fields() const {
    return *m_all[static_cast<std::size_t>(m_kind->currentIndex())];
}

void LinkBox::showKind() {
    m_fields->setCurrentWidget(&fields());
    QWidget* more = fields().more();
    m_more->setVisible(more != nullptr);
    if (more) m_more->setCurrentWidget(more);
    m_choice->fit();
    m_folded->fit();
    m_unfold->setText(m_unfolded ? tr("Less") : tr("More"));
    m_folded->setVisible(m_unfolded && m_choice->isVisibleTo(this));
}

void LinkBox::setBoard(const std::string& board) {
    if (board == m_board && m_listed) return refresh();
    m_listed = true;
    m_board = board;
    m_complaint.clear();
    listChoices();
    if (const BoardUse* use = m_context.session().bench().board(board)) showPlan(use->link);
    refresh();
}

void LinkBox::showPlan(const LinkPlan& plan) {
    int kind = 0;
    for (int i = 0; i < m_kind->count(); ++i)
        if (m_all[static_cast<std::size_t>(i)]->areFor(plan.kind)) kind = i;
    m_kind->setCurrentIndex(kind);
    for (LinkFields* each : m_all)
        each->showPlan(plan);
    const int format = m_format->findData(from_std(plan.format));
    if (format >= 0)
        m_format->setCurrentIndex(format);
    else
        m_format->setEditText(from_std(plan.format));
}

void LinkBox::listChoices() {
    for (LinkFields* each : m_all)
        each->listChoices(m_context.session().bench().board(m_board), m_context.session().catalog());
}

QString LinkBox::readPlan(LinkPlan& plan) const {
    const int format = m_format->findText(m_format->currentText());
    plan.format =
        (format >= 0 ? m_format->itemData(format).toString() : m_format->currentText()).trimmed().toStdString();
    if (const auto read = parse_format(plan.format); !read) return from_std(read.error().text());
    plan.processor = plan.simulated = false;
    return fields().readPlan(plan);
}

/// A bench from a stranger may ask to be reached by the whole network: only a person here can allow it.
QWidget* LinkBox::permissionRow() {
    m_permission = new QWidget;
    auto* row = make_row(m_permission, m_context.theme().px(8));
    auto* asks = new TextLabel(m_context.theme(), TextLabel::Role::body,
                               tr("The bench asks to take posts from the whole network. Allow it only if you know "
                                  "why."));
    asks->setWordWrap(true);
    auto* allow = make_button(tr("Allow it"), QStringLiteral("linkAllow"));
    connect(allow, &QPushButton::clicked, this, [this] { m_context.session().allowWide(m_board); });
    row->addWidget(asks, 1);
    row->addWidget(allow, 0, Qt::AlignTop);
    return m_permission;
}

QWidget* LinkBox::secretRow() {
    m_secret = new QWidget;
    auto* row = make_row(m_secret, m_context.theme().px(8));
    m_user = make_field("linkUser", tr("User name"), tr("user name"));
    m_password = make_field("linkPassword", tr("Password"), tr("password"));
    m_password->setEchoMode(QLineEdit::Password);
    auto* enter = make_button(tr("Log in"), QStringLiteral("linkSecret"), true);
    const auto log_in = [this] {
        m_context.session().secrets().giveToBoard(m_board, {m_user->text(), m_password->text()},
                                                  m_keep->isChecked());
        m_password->clear();
    };
    connect(enter, &QPushButton::clicked, this, log_in);
    connect(m_password, &QLineEdit::returnPressed, this, log_in);
    row->addWidget(m_user);
    row->addWidget(m_password);
    m_keep = make_check("linkKeepSecret", tr("keep it"));
    m_keep->setToolTip(tr("The desktop’s secret service keeps it; neither the bench nor Cognitum does."));
    m_keep->setVisible(m_context.session().secrets().canKeep());
    row->addWidget(m_keep);
    row->addWidget(enter);
    row->addStretch(1);
    return m_secret;
}

void LinkBox::complain(const QString& sentence) {
    m_complaint = sentence;
    set_text(m_state, sentence);
}

void LinkBox::connectLink() {
    const BoardUse* use = m_context.session().bench().board(m_board);
    if (!use) return;
    LinkPlan plan = use->link;
    if (const QString trouble = readPlan(plan); !trouble.isEmpty()) return complain(trouble);
    m_complaint.clear();
    if (plan.kind == LinkKind::http && plan.http.wide) allow_wide(plan.http); // it was ticked here, by a person
    m_context.session().edit(tr("Connect board"), [&](Bench& bench) {
        if (BoardUse* board = bench.board(m_board)) board->link = plan;
    });
}

void LinkBox::disconnectLink() {
    m_complaint.clear();
    m_context.session().edit(tr("Disconnect board"), [&](Bench& bench) {
        if (BoardUse* use = bench.board(m_board)) use->link.kind = LinkKind::none;
    });
}

void LinkBox::refresh() {
    const BoardUse* use = m_context.session().bench().board(m_board);
    const bool linked = use && use->link.kind != LinkKind::none;
    m_close->setVisible(linked);
    m_choice->setVisible(!linked);
    showKind();
    m_open->setEnabled(use);
    const auto found = m_context.live().boards.find(m_board);
    const LiveBoard* board = found == m_context.live().boards.end() ? nullptr : &found->second;
    m_secret->setVisible(linked && board && !board->secret_wanted.isEmpty());
    m_permission->setVisible(linked && board && !board->permission_wanted.isEmpty());
    if (!linked || !board) {
        m_counts->hide();
        m_state->show();
        set_text(m_state, m_complaint.isEmpty() ? tr("Not connected.") : m_complaint);
        m_state->setColour({});
        return;
    }
    // Counts grow with every line and are only painted; a reason is a sentence that may take two lines.
    const bool counts = board->reason.isEmpty() && board->state == LinkState::open;
    m_counts->setVisible(counts);
    m_state->setVisible(!counts);
    if (counts) {
        m_counts->setText(countsText(*use, *board));
        return;
    }
    set_text(m_state, !board->reason.isEmpty()            ? board->reason
                      : board->state == LinkState::closed ? tr("Closed.")
                                                          : tr("Opening …"));
    m_state->setColour(board->state == LinkState::lost ? m_context.theme().colours().bad : QColor());
}

QString LinkBox::countsText(const BoardUse& use, const LiveBoard& board) {
    QString text = tr("Connected to %1: %2 lines, %3 lost, %4 rejected")
                       .arg(board.port.isEmpty() ? from_std(use.name) : board.port)
                       .arg(board.lines)
                       .arg(board.lost)
                       .arg(board.rejected);
    if (!board.rejections.empty()) {
        text += tr(" (%1)").arg(from_std(board.rejections.front().reason));
        m_counts->setToolTip(
            tr("Last set aside: %1")
                .arg(board.rejected_last.empty() ? QString() : from_std(board.rejected_last.back().text)));
    }
    if (board.dropped > 0) text += tr("; %1 came faster than they could be taken").arg(board.dropped);
    if (board.kept > 0) text += tr("; %1 kept by the broker").arg(board.kept);
    return text;
}

} // namespace cognitum
