#include "ui/stops/raw/raw_lines.h"

#include "ui/save_file.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <QScrollBar>
#include <QShortcut>
#include <QStyledItemDelegate>
#include <QTextStream>
#include <algorithm>

namespace cognitum {

namespace {

bool ends_value(char c) {
    return c == ',' || c == ';' || c == '\t' || c == ' ' || c == '}' || c == ']' || c == '&' || c == '|';
}

TextSpan until_end(std::string_view text, std::size_t at) {
    std::size_t end = at;
    while (end < text.size() && !ends_value(text[end]))
        ++end;
    return {at, end - at};
}

class LineDelegate : public QStyledItemDelegate {
  public:
    LineDelegate(Context& context, QObject* parent) : QStyledItemDelegate(parent), m_context(context) {}
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {m_context.theme().px(120), m_context.theme().px(22)};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto* model = qobject_cast<const LineModel*>(index.model());
        const KeptLine& line = model->line(index.row());
        Theme& theme = m_context.theme();
        const Tokens& t = theme.colours();
        painter->save();
        if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.selected);
        painter->setPen(theme.pen(t.rule));
        painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
        const QRect box = option.rect.adjusted(theme.px(2), 0, -theme.px(4), 0);
        const QFont mono = theme.mono(12);
        painter->setFont(mono);
        const QFontMetrics metrics(mono);
        const QDateTime time = QDateTime::fromMSecsSinceEpoch(line.time / 1000);
        painter->setPen(t.soft);
        painter->drawText(box, Qt::AlignVCenter | Qt::AlignLeft,
                          time.toString(QStringLiteral("mm:ss.zzz")).left(8));
        const int left = box.left() + metrics.horizontalAdvance(QStringLiteral("00:00.000"));
        QRect rest(left, box.top(), box.right() - left, box.height());
        if (!line.rejected.empty()) {
            const QString why = from_std(line.rejected);
            painter->setPen(t.look);
            painter->setFont(theme.text(11));
            painter->drawText(rest, Qt::AlignVCenter | Qt::AlignRight, QStringLiteral("▲ ") + why);
            rest.setRight(rest.right() -
                          QFontMetrics(theme.text(11)).horizontalAdvance(QStringLiteral("▲  ") + why));
            painter->setFont(mono);
        }
        paintText(*painter, rest, line, metrics);
        painter->restore();
    }

  private:
    void paintText(QPainter& painter, QRect box, const KeptLine& line, const QFontMetrics& metrics) const {
        const Tokens& t = m_context.theme().colours();
        const Reading* r = m_context.reading();
        const LiveBoard* board = m_context.liveBoard();
        TextSpan span;
        if (r && board && line.fields != 0 && !line.is_comment()) {
            const std::string field = r->source.signal.empty() ? r->field() : r->source.signal;
            int column = -1;
            for (std::size_t i = 0; i < board->fields.size(); ++i)
                if (board->fields[i].name == field) column = static_cast<int>(i);
            span = value_span(line.text, field, column);
        }
        const auto piece = [&](std::size_t from, std::size_t n, const QColor& colour, bool strong) {
            if (n == 0 || box.width() <= 0) return;
            QString text = QString::fromUtf8(line.text.data() + from, static_cast<qsizetype>(n));
            if (metrics.horizontalAdvance(text) > box.width())
                text = metrics.elidedText(text, Qt::ElideRight, box.width());
            painter.setFont(m_context.theme().mono(12, strong));
            painter.setPen(colour);
            painter.drawText(box, Qt::AlignVCenter | Qt::AlignLeft, text);
            box.setLeft(box.left() + metrics.horizontalAdvance(text));
        };
        const QColor plain = line.is_comment() || !line.rejected.empty() ? t.soft : t.ink;
        // The reading's own number is seen, however much stands before it.
        std::size_t from = 0;
        const auto before = QString::fromUtf8(line.text.data(), static_cast<qsizetype>(span.at + span.length));
        if (span.length > 0 && metrics.horizontalAdvance(before) > box.width()) {
            from = span.at - std::min<std::size_t>(span.at, 14);
            painter.setPen(t.soft);
            painter.drawText(box, Qt::AlignVCenter | Qt::AlignLeft, QStringLiteral("… "));
            box.setLeft(box.left() + metrics.horizontalAdvance(QStringLiteral("… ")));
        }
        piece(from, span.at - from, plain, false);
        piece(span.at, span.length, t.accent, true);
        piece(span.at + span.length, line.text.size() - span.at - span.length, plain, false);
    }

    Context& m_context;
};

} // namespace

TextSpan value_span(std::string_view text, std::string_view field, int column) {
    // Nested names are joined by points; in the text only the last one stands before the value.
    const std::size_t point = field.rfind('.');
    const std::string_view name = point == std::string_view::npos ? field : field.substr(point + 1);
    for (std::size_t at = text.find(name); at != std::string_view::npos && !name.empty();
         at = text.find(name, at + 1)) {
        std::size_t p = at + name.size();
        const bool quoted = at > 0 && text[at - 1] == '"';
        if (quoted && p < text.size() && text[p] == '"') ++p;
        const bool starts = at == 0 || quoted || ends_value(text[at - 1]) || text[at - 1] == '{';
        if (!starts || p >= text.size() || (text[p] != '=' && text[p] != ':')) continue;
        ++p;
        while (p < text.size() && text[p] == ' ')
            ++p;
        return until_end(text, p);
    }
    // A payload that is one bare value under a topic of that name.
    if (const std::size_t blank = text.find(' '); blank != std::string_view::npos)
        if (const std::string_view topic = text.substr(0, blank);
            topic == field || topic.ends_with("/" + std::string(field)))
            return until_end(text, blank + 1);
    const char separator = text.find(',') != std::string_view::npos    ? ','
                           : text.find(';') != std::string_view::npos  ? ';'
                           : text.find('\t') != std::string_view::npos ? '\t'
                                                                       : '\n';
    if (column < 0 || text.find('=') != std::string_view::npos || text.find('{') != std::string_view::npos)
        return {};
    std::size_t at = 0;
    for (int i = 0; i < column; ++i) {
        at = text.find(separator, at);
        if (at == std::string_view::npos) return {};
        ++at;
    }
    return until_end(text, at);
}

int LineModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_shown.size());
}

QVariant LineModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const KeptLine& l = line(index.row());
    if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole) return from_std(l.text);
    if (role == Qt::ToolTipRole && !l.rejected.empty()) return tr("Set aside: %1").arg(from_std(l.rejected));
    return {};
}

bool LineModel::wanted(const KeptLine& line) const {
    return m_wanted.empty() || line.text.find(m_wanted) != std::string::npos;
}

void LineModel::append(std::vector<KeptLine> lines) {
    std::vector<KeptLine> shown;
    for (KeptLine& l : lines) {
        if (wanted(l)) shown.push_back(l);
        m_all.push_back(std::move(l));
    }
    while (m_all.size() > most_rows)
        m_all.pop_front();
    if (shown.empty()) return;
    const int first = rowCount();
    beginInsertRows({}, first, first + static_cast<int>(shown.size()) - 1);
    for (KeptLine& l : shown)
        m_shown.push_back(std::move(l));
    endInsertRows();
    if (const int over = rowCount() - static_cast<int>(most_rows); over > 0) {
        beginRemoveRows({}, 0, over - 1);
        m_shown.erase(m_shown.begin(), m_shown.begin() + over);
        endRemoveRows();
    }
}

void LineModel::clear() {
    beginResetModel();
    m_all.clear();
    m_shown.clear();
    endResetModel();
}

void LineModel::setWanted(const QString& text) {
    m_wanted = text.toStdString();
    beginResetModel();
    m_shown.clear();
    for (const KeptLine& l : m_all)
        if (wanted(l)) m_shown.push_back(l);
    endResetModel();
}

RawLines::RawLines(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(6));
    auto* head = new QHBoxLayout;
    head->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("Lines")));
    m_note = new TextLabel(theme, TextLabel::Role::soft);
    m_note->setObjectName(QStringLiteral("linesNote"));
    m_note->setWordWrap(false);
    head->addWidget(m_note, 1);
    m_pause = make_link(tr("Pause P"), QStringLiteral("linesPause"));
    m_export = make_link(tr("Export"), QStringLiteral("linesExport"));
    head->addWidget(m_pause);
    head->addWidget(m_export);
    box->addLayout(head);
    m_search = new QLineEdit;
    m_search->setObjectName(QStringLiteral("linesSearch"));
    m_search->setAccessibleName(tr("Show only lines that hold this text"));
    m_search->setPlaceholderText(tr("Find in lines (Ctrl F)"));
    m_search->setClearButtonEnabled(true);
    box->addWidget(m_search);
    m_model = new LineModel(this);
    m_view = new QListView;
    m_view->setObjectName(QStringLiteral("rawLines"));
    m_view->setAccessibleName(tr("Lines as they came, newest last"));
    m_view->setFrameShape(QFrame::NoFrame);
    m_view->setUniformItemSizes(true);
    m_view->setSelectionMode(QAbstractItemView::ExtendedSelection);
    m_view->setMinimumHeight(theme.px(160));
    m_view->setModel(m_model);
    m_view->setItemDelegate(new LineDelegate(context, m_view));
    box->addWidget(m_view, 1);
    connect(m_pause, &QPushButton::clicked, this, [this] { setPaused(!m_paused); });
    connect(m_export, &QPushButton::clicked, this, &RawLines::exportLines);
    connect(m_search, &QLineEdit::textChanged, m_model, &LineModel::setWanted);
    connect(new QShortcut(QKeySequence::Find, this), &QShortcut::activated, this, &RawLines::find);
}

void RawLines::find() {
    m_search->setFocus();
    m_search->selectAll();
}

void RawLines::forget() {
    m_model->clear();
    m_last = m_stream_lines = 0;
    m_paused = false;
}

void RawLines::setPaused(bool paused) {
    m_paused = paused;
    refresh();
}

void RawLines::refresh() {
    const Reading* r = m_context.reading();
    const LiveBoard* board = m_context.liveBoard();
    if (!r || !board) return;
    if (r->feed() != m_board || r->id != m_reading || board->lines < m_stream_lines)
        forget(); // another one, or begun anew
    m_board = r->feed();
    m_reading = r->id;
    m_stream_lines = board->lines;
    const std::string field = r->source.signal.empty() ? r->field() : r->source.signal;
    std::uint64_t mask = 0;
    for (std::size_t i = 0; i < std::min<std::size_t>(64, board->fields.size()); ++i)
        if (board->fields[i].name == field) mask = std::uint64_t(1) << i;
    const LineStore& store = m_context.session().worker().lines();
    if (m_paused) {
        tellState(store.since(m_board, m_last, mask, LineStore::most).size());
        return;
    }
    auto lines = store.since(m_board, m_last, mask, LineModel::most_rows);
    if (!lines.empty()) m_last = lines.back().number;
    const QScrollBar* bar = m_view->verticalScrollBar();
    const bool at_end = bar->value() >= bar->maximum() - 2;
    m_model->append(std::move(lines));
    if (at_end) m_view->scrollToBottom();
    tellState(0);
}

void RawLines::tellState(std::uint64_t waiting) {
    set_text(m_note, m_paused ? tr("paused; %1 wait").arg(waiting) : QString());
    m_pause->setText(m_paused ? tr("Go on P") : tr("Pause P"));
}

void RawLines::exportLines() {
    const QString path = m_context.askSavePath(
        this, tr("Export lines"), QStringLiteral("%1-lines.txt").arg(from_std(m_board)), tr("Text (*.txt)"));
    if (path.isEmpty()) return;
    int written = 0;
    std::string text;
    for (const KeptLine& line : m_context.session().worker().lines().since(m_board, 0, 0, LineStore::most)) {
        text += iso_time(line.time) + " " + line.text + "\n";
        ++written;
    }
    const auto saved = save_text(path, text);
    emit m_context.said(saved ? tr("%n line(s) written to %1.", nullptr, written).arg(path)
                              : from_std(saved.error().text()));
}

} // namespace cognitum
