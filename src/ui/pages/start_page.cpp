#include "ui/pages/start_page.h"

#include "core/units/format.h"

#include "ui/widgets/parts.h"
#include "ui/window_memory.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

namespace cognitum {

namespace {

/// The path as the first thing that is seen: seven stops from a wire to a number.
class PathSketch : public QWidget {
  public:
    explicit PathSketch(Theme& theme) : m_theme(theme) { setFixedHeight(theme.px(84)); }

  protected:
    void paintEvent(QPaintEvent*) override {
        const Tokens& t = m_theme.colours();
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const QString names[] = {QObject::tr("Quantity"), QObject::tr("Sensor"),  QObject::tr("Wiring"),
                                 QObject::tr("Raw"),      QObject::tr("Convert"), QObject::tr("Calibrate"),
                                 QObject::tr("Watch")};
        const QString values[] = {QObject::tr("air"),
                                  QStringLiteral("10 mV/°C"),
                                  QStringLiteral("A2"),
                                  QStringLiteral("138"),
                                  from_std(format_value(17.6, 0.5, "degC")),
                                  from_std(format_with_doubt(17.0, 0.5, "1")),
                                  QObject::tr("in range")};
        const double step = (width() - m_theme.px(80)) / 6.0;
        const double y = m_theme.px(36);
        const double left = m_theme.px(40);
        p.setPen(m_theme.pen(t.accent, 3));
        p.drawLine(QPointF(left, y), QPointF(left + 6 * step, y));
        for (int i = 0; i < 7; ++i) {
            const QPointF at(left + i * step, y);
            p.setPen(m_theme.pen(t.accent, 2.4));
            p.setBrush(t.sheet);
            p.drawEllipse(at, m_theme.px(6), m_theme.px(6));
            p.setPen(t.soft);
            p.setFont(m_theme.text(12));
            p.drawText(QRectF(at.x() - step / 2, 0, step, m_theme.px(22)), Qt::AlignCenter, names[i]);
            p.setPen(t.ink);
            p.setFont(m_theme.mono(12));
            p.drawText(QRectF(at.x() - step / 2, y + m_theme.px(14), step, m_theme.px(22)), Qt::AlignCenter,
                       values[i]);
        }
    }

  private:
    Theme& m_theme;
};

} // namespace

StartPage::StartPage(Theme& theme, QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("page"));
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QVBoxLayout(this);
    outer->addStretch(2);
    auto* row = new QHBoxLayout;
    outer->addLayout(row);
    outer->addStretch(3);
    auto* column = new QVBoxLayout;
    column->setSpacing(theme.px(14));
    row->addStretch(1);
    row->addLayout(column, 4);
    row->addStretch(1);
    auto* title = new TextLabel(theme, TextLabel::Role::title, tr("From the wire to a number you can trust"));
    column->addWidget(title, 0, Qt::AlignHCenter);
    column->addWidget(new PathSketch(theme));
    auto* choices = new QHBoxLayout;
    choices->setSpacing(theme.px(32));
    column->addSpacing(theme.px(16));
    column->addLayout(choices);
    const auto choice = [&](const QString& text, const QString& name, bool main, const QString& about,
                            auto signal) {
        auto* box = new QVBoxLayout;
        box->setSpacing(theme.px(8));
        auto* button = make_button(text, name, main);
        connect(button, &QPushButton::clicked, this, signal);
        box->addWidget(button, 0, Qt::AlignLeft);
        box->addWidget(new TextLabel(theme, TextLabel::Role::soft, about));
        choices->addLayout(box, 1);
        return box;
    };
    QVBoxLayout* demo =
        choice(tr("Look at the demo bench"), QStringLiteral("startDemo"), true,
               tr("Whelk Point, an invented shore station with its boards simulated. Nothing to wire."),
               &StartPage::demoAsked);
    QPushButton* walk = make_link(tr("A walk through it, in ten stations"), QStringLiteral("startWalk"));
    connect(walk, &QPushButton::clicked, this, &StartPage::walkAsked);
    demo->addWidget(walk, 0, Qt::AlignLeft);
    demo->addStretch(1);
    choice(tr("Start a new bench"), QStringLiteral("startNew"), false,
           tr("Plug your board in, and see what it sends; or say what you want to know, and plan it before "
              "anything is "
              "wired."),
           &StartPage::newAsked)
        ->addStretch(1);
    choice(tr("Open a file"), QStringLiteral("startOpen"), false,
           tr("A bench from before: a file that ends in .cognitum."), &StartPage::openAsked)
        ->addStretch(1);
    buildRecent(theme, column);
}

void StartPage::buildRecent(Theme& theme, QVBoxLayout* column) {
    constexpr std::size_t most_shown = 4;
    const std::vector<RecentBench> known = recent_benches();
    if (known.empty()) return;
    column->addSpacing(theme.px(18));
    column->addWidget(new RuleLine(theme));
    column->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("Open last")));
    for (std::size_t i = 0; i < std::min(most_shown, known.size()); ++i) {
        const RecentBench& bench = known[i];
        auto* row = new QHBoxLayout;
        row->setSpacing(theme.px(12));
        QPushButton* open = make_link(on_button(bench.name), QStringLiteral("recent%1").arg(i + 1));
        open->setToolTip(bench.path);
        connect(open, &QPushButton::clicked, this, [this, path = bench.path] { emit recentAsked(path); });
        row->addWidget(open);
        row->addWidget(new TextLabel(theme, TextLabel::Role::soft, describe(bench)), 1);
        column->addLayout(row);
    }
}

} // namespace cognitum
