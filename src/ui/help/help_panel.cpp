#include "ui/help/help_panel.h"

#include "session/language.h"
#include "ui/help/help_numbers.h"
#include "ui/widgets/parts.h"

#include <QDesktopServices>
#include <QFile>
#include <QKeyEvent>
#include <QPainter>
#include <QTextBlock>
#include <QVBoxLayout>

namespace cognitum {

namespace {
const QString suffix = QStringLiteral(".md"), news = QStringLiteral("changes");
constexpr qsizetype most_hits = 60;

/// "1 Quantity: what do you want to know?"
QString title_of(const QString& topic) {
    const QString first = help_text(topic).section(QLatin1Char('\n'), 0, 0);
    return first.startsWith(QStringLiteral("# ")) ? first.mid(2) : topic;
}
} // namespace

QStringList help_topics() {
    return {QStringLiteral("new"),
            QStringLiteral("quantity"),
            QStringLiteral("sensor"),
            QStringLiteral("wiring"),
            QStringLiteral("raw"),
            QStringLiteral("convert"),
            QStringLiteral("calibrate"),
            QStringLiteral("watch"),
            QStringLiteral("overview"),
            QStringLiteral("boards"),
            QStringLiteral("logbook"),
            QStringLiteral("sessions"),
            QStringLiteral("findings"),
            QStringLiteral("settings"),
            QStringLiteral("glossary"),
            QStringLiteral("walk"),
            news};
}

/// One station with its way on and back.
static QString station_text(int station) {
    const QString walk = help_text(QStringLiteral("walk"));
    const QString begin = QStringLiteral("\n## %1 ").arg(station);
    const qsizetype at = walk.indexOf(begin);
    if (at < 0 || station < 1) return {};
    QString text = walk.mid(at + 4, walk.indexOf(QStringLiteral("\n## "), at + 4) - at - 4).trimmed();
    text = QStringLiteral("# ") + text + QStringLiteral("\n\n");
    if (station < walk_stations) text += HelpPanel::tr("[Next station](walk-%1.md)").arg(station + 1);
    if (station > 1) text += QStringLiteral("   ") + HelpPanel::tr("[Back](walk-%1.md)").arg(station - 1);
    return text + HelpPanel::tr("\n\nStation %1 of %2").arg(station).arg(walk_stations);
}

QString help_text(const QString& topic) {
    if (topic.startsWith(QStringLiteral("walk-"))) return station_text(topic.mid(5).toInt());
    // In the language of the window, where it is written in that.
    for (const QString& folder : {spoken_language() + QLatin1Char('/'), QString()}) {
        QFile file(QStringLiteral(":/help/") + folder + topic + suffix);
        if (file.open(QIODevice::ReadOnly)) return QString::fromUtf8(file.readAll());
    }
    return {};
}

QString help_search(const QString& words) {
    const QStringList wanted = words.simplified().toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    QStringList hits;
    for (const QString& topic : help_topics()) {
        const QString text = help_text(topic);
        for (const QString& line : text.split(QLatin1Char('\n'))) {
            const QString low = line.toLower();
            const bool all = !wanted.isEmpty() && std::all_of(wanted.begin(), wanted.end(),
                                                              [&](const QString& w) { return low.contains(w); });
            if (!all || hits.size() >= most_hits) continue;
            QString shown = line;
            while (!shown.isEmpty() && QStringLiteral("#-|* ").contains(shown.front()))
                shown.remove(0, 1);
            shown.remove(QLatin1Char('|')).remove(QStringLiteral("**"));
            hits << QStringLiteral("- [%1](%2.md): %3")
                        .arg(title_of(topic).section(QLatin1Char(':'), 0, 0), topic, shown.simplified());
        }
    }
    return hits.join(QLatin1Char('\n'));
}

HelpPanel::HelpPanel(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("helpPanel"));
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(theme.px(16), theme.px(12), theme.px(12), theme.px(12));
    rows->setSpacing(theme.px(8));
    auto* head = new QHBoxLayout;
    m_search = make_field("helpSearch", tr("Search in the help"), tr("search in the help"));
    m_search->setClearButtonEnabled(true);
    head->addWidget(m_search, 1);
    for (const auto& [text, name, topic] : {std::tuple{tr("Words"), "helpWords", QStringLiteral("glossary")},
                                            std::tuple{tr("What is new"), "helpNews", news}}) {
        QPushButton* link = make_link(text, QLatin1String(name));
        connect(link, &QPushButton::clicked, this, [this, topic = topic] { showTopic(topic); });
        head->addWidget(link);
    }
    QPushButton* close = make_link(tr("Close"), QStringLiteral("helpClose"));
    connect(close, &QPushButton::clicked, this, &HelpPanel::closed);
    head->addWidget(close);
    rows->addLayout(head);
    m_text = new QTextBrowser;
    m_text->setObjectName(QStringLiteral("helpText"));
    m_text->setAccessibleName(tr("Help"));
    m_text->setOpenLinks(false);
    m_text->setFrameShape(QFrame::NoFrame);
    rows->addWidget(m_text, 1);
    connect(m_text, &QTextBrowser::anchorClicked, this, [this](const QUrl& link) {
        const QString topic = link.path().section(QLatin1Char('/'), -1).chopped(suffix.size());
        if (help_topics().contains(topic) || topic.startsWith(QStringLiteral("walk-"))) showTopic(topic);
    });
    connect(m_search, &QLineEdit::textChanged, this, [this](const QString& words) {
        if (words.simplified().size() < 2) return showTopic(m_topic);
        const QString hits = help_search(words);
        put(hits.isEmpty() ? tr("Nothing has all of these words.") : hits);
    });
    const auto fix = [this] {
        setFixedWidth(m_context.theme().px(400));
        showTopic(m_topic);
    };
    connect(&theme, &Theme::changed, this, fix);
    setFixedWidth(theme.px(400));
}

void HelpPanel::showTopic(const QString& topic) {
    m_topic = topic;
    const QSignalBlocker blocker(m_search);
    m_search->clear();
    put(help_text(topic) + help_numbers(m_context, topic));
    if (const int station = topic.startsWith(QStringLiteral("walk-")) ? topic.mid(5).toInt() : 0; station > 0)
        emit stationReached(station);
}

void HelpPanel::put(const QString& markdown) {
    m_text->document()->setDefaultFont(m_context.theme().text(13));
    m_text->setMarkdown(markdown);
    restyle();
    m_text->moveCursor(QTextCursor::Start);
}

/// Headings a little larger than the text, and the half-bold face that is shipped: a bolder one would be made up.
void HelpPanel::restyle() {
    const Theme& theme = m_context.theme();
    m_text->document()->setIndentWidth(theme.px(14));
    for (QTextBlock block = m_text->document()->begin(); block.isValid(); block = block.next()) {
        const int level = block.blockFormat().headingLevel();
        QTextBlockFormat space = block.blockFormat();
        space.setLineHeight(115, QTextBlockFormat::ProportionalHeight);
        space.setTopMargin(level > 1 ? theme.px(14) : 0);
        space.setBottomMargin(theme.px(5));
        QTextCursor(block).setBlockFormat(space);
        std::vector<std::pair<int, int>> bold;
        for (auto it = block.begin(); !it.atEnd(); ++it)
            if (it.fragment().charFormat().fontWeight() > QFont::Normal)
                bold.emplace_back(it.fragment().position(), it.fragment().length());
        for (const auto& [from, length] : bold) {
            QTextCursor cursor(m_text->document());
            cursor.setPosition(from);
            cursor.setPosition(from + length, QTextCursor::KeepAnchor);
            QTextCharFormat format = cursor.charFormat();
            format.clearProperty(QTextFormat::FontSizeAdjustment);
            format.setFont(theme.text(level == 1 ? 16 : level > 1 ? 14 : 13, true));
            cursor.setCharFormat(format);
        }
    }
}

void HelpPanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return emit closed();
    QWidget::keyPressEvent(event);
}

void HelpPanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), m_context.theme().colours().paper);
    painter.fillRect(QRect(0, 0, 1, height()), m_context.theme().colours().rule);
}

} // namespace cognitum
