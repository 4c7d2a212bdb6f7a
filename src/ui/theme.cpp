#include "ui/theme.h"

#include "session/language.h"
#include "ui/settings.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QStyleFactory>
#include <algorithm>

// Resources of a static library are only there when they are asked for, from outside any namespace.
static void load_assets() {
    Q_INIT_RESOURCE(assets);
}

namespace cognitum {

namespace {

Tokens tokens(bool dark) {
    const auto c = [](const char* name) { return QColor(QLatin1String(name)); };
    if (dark)
        return {c("#14181B"), c("#1B2024"), c("#252C31"), c("#173033"), c("#353C42"), c("#EAE4D6"),
                c("#A9A79C"), c("#55C2C9"), c("#7CC48A"), c("#F0A257"), c("#F27F86"), c("#A9B0F0")};
    return {c("#F3EDE0"), c("#FBF8F1"), c("#EAE1CF"), c("#E3EFEC"), c("#D8CFBC"), c("#23262A"),
            c("#5C5A52"), c("#0A6570"), c("#2F6B3C"), c("#9A480A"), c("#A1232F"), c("#4A4E8A")};
}

} // namespace

Theme::Theme(QObject* parent) : QObject(parent), m_tokens(tokens(false)) {
    // The desktop's font setting scales everything; a desktop that says nothing gets the design's size.
    const double points = QApplication::font().pointSizeF();
    if (points > 0) m_desktop_scale = std::clamp(points / 10, 1.0, 2.0);
    m_scale = m_desktop_scale;
}

void Theme::follow(const Settings& settings, bool desktop_is_dark) {
    setScale(settings.scale > 0 ? settings.scale : m_desktop_scale);
    setDark(settings.appearance == Appearance::dark ||
            (settings.appearance == Appearance::as_desktop && desktop_is_dark));
}

void Theme::setDark(bool dark) {
    if (dark == m_dark) return;
    m_dark = dark;
    m_tokens = tokens(dark);
    apply();
}

void Theme::setScale(double scale) {
    scale = std::clamp(scale, 0.8, 2.0);
    if (scale == m_scale) return;
    m_scale = scale;
    apply();
}

QFont Theme::text(double design_px, bool semibold) const {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(design_px));
    font.setWeight(semibold ? QFont::DemiBold : QFont::Normal);
    return font;
}

QFont Theme::mono(double design_px, bool semibold) const {
    QFont font(QStringLiteral("JetBrains Mono"));
    font.setPixelSize(px(design_px));
    font.setWeight(semibold ? QFont::DemiBold : QFont::Normal);
    font.setStyleHint(QFont::Monospace);
    font.setStyleStrategy(QFont::PreferNoShaping); // "->" as it is typed, and laid out sooner
    return font;
}

QPen Theme::pen(const QColor& colour, double width) const {
    QPen pen(colour, width * std::max(1.0, m_scale));
    pen.setCapStyle(Qt::FlatCap);
    return pen;
}

void Theme::apply() {
    load_assets();
    if (!m_fonts_loaded) {
        for (const char* file :
             {"Inter-Regular.otf", "Inter-SemiBold.otf", "JetBrainsMono-Regular.ttf", "JetBrainsMono-SemiBold.ttf"})
            QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/") + QLatin1String(file));
        m_fonts_loaded = true;
        if (spoken_language().isEmpty()) speak(QStringLiteral("en")); // at least "1 board", "2 boards"
    }
    const Tokens& t = m_tokens;
    QPalette palette;
    palette.setColor(QPalette::Window, t.paper);
    palette.setColor(QPalette::Base, t.paper);
    palette.setColor(QPalette::AlternateBase, t.selected);
    palette.setColor(QPalette::Text, t.ink);
    palette.setColor(QPalette::WindowText, t.ink);
    palette.setColor(QPalette::Button, t.paper);
    palette.setColor(QPalette::ButtonText, t.ink);
    palette.setColor(QPalette::Highlight, t.accent);
    palette.setColor(QPalette::HighlightedText, t.sheet);
    palette.setColor(QPalette::PlaceholderText, t.soft);
    palette.setColor(QPalette::ToolTipBase, t.sheet);
    palette.setColor(QPalette::ToolTipText, t.ink);
    palette.setColor(QPalette::Mid, t.rule);
    for (const auto role : {QPalette::Text, QPalette::WindowText, QPalette::ButtonText})
        palette.setColor(QPalette::Disabled, role, t.soft);
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QApplication::setPalette(palette);
    QApplication::setFont(text());
    qApp->setStyleSheet(styleSheet());
    emit changed();
}

QString Theme::styleSheet() const {
    // @name is a token, #n# a scaled length.
    QString sheet = QStringLiteral(R"(
QWidget { color: @ink; }
QLabel[tone="soft"] { color: @soft; }
QWidget#page, QWidget#pageBody { background: @sheet; }
QWidget#paper { background: @paper; }
QScrollArea { border: none; background: transparent; }
QScrollArea#sidePanel { border-left: 1px solid @rule; background: @paper; }
QToolTip { color: @ink; background: @sheet; border: 1px solid @rule; padding: #4#px; }
QLineEdit, QComboBox, QSpinBox, QDoubleSpinBox, QPlainTextEdit {
  background: @paper; border: 1px solid @rule; border-radius: 3px; padding: #5#px #8#px; selection-background-color: @accent; }
QLineEdit:focus, QComboBox:focus, QDoubleSpinBox:focus, QSpinBox:focus { border: 1px solid @ink; }
QLineEdit[invalid="true"] { border: 1px solid @bad; }
QComboBox::drop-down { border: none; width: #20#px; }
QComboBox::down-arrow { image: url(:/icons/down-@kind.png); width: #9#px; height: #6#px; }
QComboBox QAbstractItemView { background: @sheet; border: 1px solid @rule; selection-background-color: @selected; selection-color: @ink; }
QTableView, QTreeView, QListView, QTextBrowser { border: 1px solid transparent; }
QTableView:focus, QTreeView:focus, QListView:focus, QTextBrowser:focus { border: 1px solid @accent; }
QCheckBox::indicator, QListView::indicator { width: #12#px; height: #12#px; border: 1px solid @soft; background: @sheet; }
QCheckBox::indicator:checked, QListView::indicator:checked { border: 1px solid @accent; background: @accent; }
QCheckBox::indicator:focus { border: 2px solid @accent; }
QPushButton { background: transparent; border: 1px solid @ink; border-radius: 3px; padding: #5#px #12#px; }
QPushButton:hover { background: @selected; }
QPushButton:checked { background: @selected; font-weight: 600; }
QPushButton:focus { border: 2px solid @accent; padding: #4#px #11#px; }
QPushButton:disabled { border-color: @rule; color: @soft; }
QPushButton[main="true"] { background: @accent; border-color: @accent; color: @sheet; }
QPushButton[main="true"]:focus { border: 2px solid @ink; }
QPushButton[main="true"]:disabled { background: @rule; border-color: @rule; color: @soft; }
QPushButton[link="true"] { border: none; color: @accent; padding: 0; text-align: left; font-weight: 600; background: transparent; }
QPushButton[link="true"]:hover, QPushButton[link="true"]:focus { text-decoration: underline; border: none; padding: 0; }
QPushButton[link="true"]:disabled { color: @soft; font-weight: 400; }
QPushButton[quiet="true"] { border: none; padding: 0; text-align: left; background: transparent; font-size: #12#px; }
QPushButton[quiet="true"]:hover, QPushButton[quiet="true"]:focus { text-decoration: underline; border: none; padding: 0; }
QPushButton[row="true"] { border: none; border-radius: 0; padding: #5#px #16#px; text-align: left; background: transparent; }
QPushButton[row="true"]:focus { text-decoration: underline; border: none; padding: #5#px #16#px; }
QPushButton[flush="true"] { padding: #5#px #6#px; }
QPushButton[row="true"]:hover { background: @selected; }
QPushButton[row="true"]:checked { background: @selected; font-weight: 600; }
QPushButton#benchMenu { font-size: #15#px; font-weight: 600; }
QPushButton[row="true"]:focus { border: none; background: @selected; }
QCheckBox { spacing: #8#px; }
QMenu { background: @sheet; border: 1px solid @rule; padding: #4#px; }
QMenu::item { padding: #5#px #24#px #5#px #12#px; }
QMenu::item:selected { background: @selected; }
QMenu::separator { height: 1px; background: @rule; margin: #4#px; }
QTableView, QTreeView, QListView { background: transparent; border: none; gridline-color: @rule; selection-background-color: @selected; selection-color: @ink; outline: none; }
QHeaderView { background: transparent; border: none; }
QHeaderView::section { background: @sheet; border: none; border-bottom: 1px solid @ink; color: @soft; padding: #4#px #9#px; text-align: left; }
QTableView::item { border-bottom: 1px solid @rule; padding: #3#px #6#px; }
QDialog { background: @sheet; }
QScrollBar:vertical { background: transparent; width: #10#px; }
QScrollBar::handle:vertical { background: @rule; min-height: #24#px; border-radius: 3px; margin: 1px; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar:horizontal { background: transparent; height: #10#px; }
QScrollBar::handle:horizontal { background: @rule; min-width: #24#px; border-radius: 3px; margin: 1px; }
)");
    sheet.replace(QStringLiteral("@kind"), m_dark ? QStringLiteral("dark") : QStringLiteral("light"));
    const Tokens& t = m_tokens;
    const std::pair<const char*, QColor> named[] = {
        {"@paper", t.paper}, {"@sheet", t.sheet}, {"@selected", t.selected}, {"@tint", t.tint},
        {"@rule", t.rule},   {"@ink", t.ink},     {"@soft", t.soft},         {"@accent", t.accent},
        {"@good", t.good},   {"@look", t.look},   {"@bad", t.bad},           {"@note", t.note}};
    for (const auto& [name, colour] : named)
        sheet.replace(QLatin1String(name), colour.name());
    for (int n = 24; n > 0; --n)
        sheet.replace(QStringLiteral("#%1#").arg(n), QString::number(px(n)));
    return sheet;
}

} // namespace cognitum
