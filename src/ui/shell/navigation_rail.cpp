#include "ui/shell/navigation_rail.h"

#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

namespace cognitum {

namespace {

/// A row with its title at the left and its keys at the right.
class PageRow : public QPushButton {
  public:
    PageRow(Theme& theme, const QString& title, QString keys, QWidget* parent)
        : QPushButton(title, parent), m_theme(theme), m_keys(std::move(keys)) {
        setProperty("row", true);
        setCheckable(true);
        setAccessibleName(title);
    }

  protected:
    void paintEvent(QPaintEvent* event) override {
        QPushButton::paintEvent(event);
        QPainter painter(this);
        painter.setFont(m_theme.text(11));
        painter.setPen(m_theme.colours().soft);
        painter.drawText(rect().adjusted(0, 0, -m_theme.px(16), 0), Qt::AlignRight | Qt::AlignVCenter, m_keys);
    }

  private:
    Theme& m_theme;
    QString m_keys;
};

} // namespace

NavigationRail::NavigationRail(Context& context, QMenu* bench_menu, QWidget* parent)
    : QWidget(parent), m_context(context), m_model(context), m_delegate(context.theme()) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("rail"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, theme.px(12), 0, theme.px(8));
    layout->setSpacing(0);

    m_title = new QPushButton(this);
    m_title->setObjectName(QStringLiteral("benchMenu"));
    m_title->setProperty("row", true);
    connect(m_title, &QPushButton::clicked, this,
            [this, bench_menu] { bench_menu->popup(m_title->mapToGlobal(QPoint(0, m_title->height()))); });
    m_title->setAccessibleName(tr("Bench menu: new, open, save a copy, import, export, appearance"));
    layout->addWidget(m_title);
    m_place = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_place->setObjectName(QStringLiteral("railPlace"));
    m_place->setContentsMargins(theme.px(16), 0, theme.px(16), theme.px(10));
    layout->addWidget(m_place);

    m_pages = new QWidget(this);
    m_pages->setLayout(new QVBoxLayout);
    m_pages->layout()->setContentsMargins(0, 0, 0, theme.px(8));
    m_pages->layout()->setSpacing(0);
    layout->addWidget(m_pages);
    addPage(QStringLiteral("overview"), tr("Overview"), tr("Ctrl ⇧ 1"));
    addPage(QStringLiteral("boards"), tr("Boards"), tr("Ctrl ⇧ 2"));
    addPage(QStringLiteral("logbook"), tr("Logbook"), tr("Ctrl ⇧ 3"));
    addPage(QStringLiteral("sessions"), tr("Sessions"), tr("Ctrl ⇧ 4"));
    addPage(QStringLiteral("findings"), tr("Findings"), tr("Ctrl ⇧ 5"));

    layout->addWidget(new RuleLine(theme, false, this));
    auto* heading = new QHBoxLayout;
    heading->setContentsMargins(theme.px(16), theme.px(10), theme.px(16), theme.px(4));
    heading->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("Readings"), this));
    QPushButton* add = make_link(tr("New"), QStringLiteral("newReading"), this);
    add->setAccessibleName(tr("New reading"));
    connect(add, &QPushButton::clicked, this, &NavigationRail::newReadingAsked);
    heading->addWidget(add);
    layout->addLayout(heading);

    m_list = new QListView(this);
    m_list->setObjectName(QStringLiteral("readingList"));
    m_list->setAccessibleName(tr("Readings"));
    m_list->setModel(&m_model);
    m_list->setItemDelegate(&m_delegate);
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setMouseTracking(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(m_list, 1);
    connect(m_list->selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& now) {
        if (!now.isValid()) return;
        m_context.selectReading(now.data(ReadingModel::id_role).toString().toStdString());
    });
    connect(m_list, &QListView::clicked, this, &NavigationRail::readingChosen);
    connect(m_list, &QListView::activated, this, &NavigationRail::readingChosen);

    layout->addWidget(new RuleLine(theme, false, this));
    m_boards = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_boards->setObjectName(QStringLiteral("railBoards"));
    m_boards->setContentsMargins(theme.px(16), theme.px(8), theme.px(16), 0);
    layout->addWidget(m_boards);

    connect(&context, &Context::refreshed, this, &NavigationRail::refresh);
    connect(&context, &Context::selectionChanged, this, &NavigationRail::refresh);
    const auto fix = [this] { setFixedWidth(m_context.theme().px(224)); };
    connect(&theme, &Theme::changed, this, fix);
    fix();
    refresh();
}

void NavigationRail::addPage(const QString& id, const QString& title, const QString& keys) {
    auto* row = new PageRow(m_context.theme(), title, keys, m_pages);
    row->setObjectName(QStringLiteral("page_") + id);
    connect(row, &QPushButton::clicked, this, [this, id] { emit pageChosen(id); });
    m_pages->layout()->addWidget(row);
    m_page_buttons.append(row);
}

void NavigationRail::setPage(const QString& page) {
    m_page = page;
    for (QPushButton* button : m_page_buttons)
        button->setChecked(button->objectName() == QStringLiteral("page_") + page);
    if (!page.isEmpty()) {
        const QSignalBlocker blocker(m_list->selectionModel());
        m_list->setCurrentIndex({});
        m_list->viewport()->update();
    }
    refresh();
}

void NavigationRail::refresh() {
    const Bench& bench = m_context.session().bench();
    const QString title = from_std(bench.name) + QStringLiteral("  ▾");
    if (m_title->text() != title) m_title->setText(title);
    const QString boards_there = tr("%n board(s)", nullptr, static_cast<int>(bench.boards.size()));
    set_text(m_place, bench.place.empty() ? boards_there
                                          : QStringLiteral("%1 · %2").arg(from_std(bench.place), boards_there));
    QStringList boards;
    for (const BoardUse& board : bench.boards)
        boards << from_std(board.name);
    set_text(m_boards, boards.isEmpty() ? tr("No board yet: Ctrl ⇧ 2") : boards.join(QStringLiteral("\n")));
    if (!m_page.isEmpty()) return;
    const int row = m_model.rowOf(m_context.readingId());
    if (row >= 0 && m_list->currentIndex().row() != row) m_list->setCurrentIndex(m_model.index(row));
}

void NavigationRail::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), m_context.theme().colours().paper);
    painter.fillRect(QRect(width() - 1, 0, 1, height()), m_context.theme().colours().rule);
}

} // namespace cognitum
