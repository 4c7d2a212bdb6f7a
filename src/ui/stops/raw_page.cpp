#include "ui/stops/raw_page.h"

#include "core/analyse/health.h"
#include "core/simulate/gauge_board.h"
#include "core/units/format.h"
#include "ui/plots/plot.h"
#include "ui/widgets/link_box.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {
constexpr int shown_samples = 120;
}

RawPage::RawPage(Context& context) : Page(context, tr("What the board sends")) {
    m_link = new LinkBox(context);
    body()->addWidget(m_link);
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);

    m_content = new QWidget;
    auto* columns = new QHBoxLayout(m_content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(8));
    columns->addLayout(left, 5);
    auto* trace_head = new QHBoxLayout;
    trace_head->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Counts")));
    m_trace_note = new TextLabel(theme(), TextLabel::Role::soft);
    m_trace_note->setWordWrap(false);
    trace_head->addWidget(m_trace_note, 1);
    left->addLayout(trace_head);
    m_trace = new Plot(theme());
    m_trace->setObjectName(QStringLiteral("rawTrace"));
    m_trace->setAccessibleName(tr("Trace of counts over the last lines"));
    m_trace->setMinimumHeight(theme().px(170));
    m_graph = m_trace->addGraph();
    m_now = m_trace->addGraph();
    left->addWidget(m_trace, 3);
    left->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("How often each code")));
    m_codes = new Plot(theme());
    m_codes->setObjectName(QStringLiteral("rawCodes"));
    m_codes->setAccessibleName(tr("Distribution over codes"));
    m_codes->setMinimumHeight(theme().px(90));
    m_bars = new QCPBars(m_codes->xAxis, m_codes->yAxis);
    m_codes->yAxis->setVisible(false);
    left->addWidget(m_codes, 2);
    auto* figures = new QGridLayout;
    figures->setHorizontalSpacing(theme().px(14));
    figures->setVerticalSpacing(theme().px(4));
    int column = 0;
    for (const QString& name :
         {tr("mean"), tr("scatter"), tr("peak to peak"), tr("good bits"), tr("drift"), tr("lines"), tr("gaps")}) {
        auto* label = new TextLabel(theme(), TextLabel::Role::soft, name);
        label->setWordWrap(false);
        figures->addWidget(label, 0, column);
        m_figures.append(new TextLabel(theme(), TextLabel::Role::mono));
        figures->addWidget(m_figures.last(), 1, column++);
    }
    figures->setColumnStretch(column, 1);
    left->addWidget(new RuleLine(theme()));
    left->addLayout(figures);
    m_health = new TextLabel(theme(), TextLabel::Role::body);
    m_health->setObjectName(QStringLiteral("rawHealth"));
    left->addWidget(m_health);

    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 3);
    auto* lines_head = new QHBoxLayout;
    lines_head->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Lines as they came")));
    m_lines_note = new TextLabel(theme(), TextLabel::Role::soft);
    m_lines_note->setWordWrap(false);
    m_lines_note->setAlignment(Qt::AlignRight);
    lines_head->addWidget(m_lines_note, 1);
    right->addLayout(lines_head);
    m_lines = new QListWidget;
    m_lines->setObjectName(QStringLiteral("rawLines"));
    m_lines->setAccessibleName(tr("Lines as they came, newest last"));
    m_lines->setFrameShape(QFrame::NoFrame);
    m_lines->setUniformItemSizes(true);
    m_lines->setMinimumHeight(theme().px(160));
    m_lines->setSelectionMode(QAbstractItemView::ExtendedSelection);
    right->addWidget(m_lines, 1);
    body()->addWidget(m_content, 1);
    buildSide();

    const auto restyle = [this] {
        const Tokens& t = theme().colours();
        m_graph->setPen(theme().pen(t.ink, 1.4));
        m_graph->setLineStyle(QCPGraph::lsStepLeft);
        m_now->setPen(theme().pen(t.accent));
        m_now->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, theme().px(8)));
        QColor fill = t.accent;
        fill.setAlphaF(0.7F);
        m_bars->setPen(Qt::NoPen);
        m_bars->setBrush(fill);
        m_lines->setStyleSheet(QStringLiteral("QListWidget { font-family: 'JetBrains Mono'; font-size: %1px; } "
                                              "QListWidget::item { border-bottom: 1px solid %2; padding: %3px 0; }")
                                   .arg(theme().px(12))
                                   .arg(t.rule.name())
                                   .arg(theme().px(3)));
    };
    connect(m_trace, &Plot::restyled, this, restyle);
    restyle();
    setFocusPolicy(Qt::StrongFocus);
}

void RawPage::buildSide() {
    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(theme().px(6));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Ask the board")));
    m_command = new QLineEdit;
    m_command->setObjectName(QStringLiteral("boardCommand"));
    m_command->setAccessibleName(tr("Command line to the board"));
    m_command->setPlaceholderText(tr("interval 250"));
    side->addWidget(m_command);
    m_answer = new TextLabel(theme(), TextLabel::Role::mono_soft);
    m_answer->setObjectName(QStringLiteral("boardAnswer"));
    m_answer->setWordWrap(true);
    side->addWidget(m_answer);
    connect(m_command, &QLineEdit::returnPressed, this, &RawPage::ask);

    m_simulated = new QWidget;
    auto* bench = new QVBoxLayout(m_simulated);
    bench->setContentsMargins(0, theme().px(8), 0, 0);
    bench->addWidget(new RuleLine(theme()));
    bench->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Simulated bench")));
    bench->addWidget(new TextLabel(theme(), TextLabel::Role::soft,
                                   tr("This board is simulated: give it a fault and see how it shows.")));
    auto* fault = new QComboBox;
    fault->setObjectName(QStringLiteral("simulatedFault"));
    fault->setAccessibleName(tr("Fault of the simulated board"));
    fault->addItem(tr("no fault"), QStringLiteral("none"));
    for (const simulate::Fault f : simulate::all_faults())
        fault->addItem(from_std(simulate::fault_name(f)).replace(QLatin1Char('-'), QLatin1Char(' ')),
                       from_std(simulate::fault_name(f)));
    bench->addWidget(fault);
    auto* plug = new QCheckBox(tr("cable plugged in"));
    plug->setObjectName(QStringLiteral("simulatedPlug"));
    plug->setChecked(true);
    bench->addWidget(plug);
    side->addWidget(m_simulated);
    connect(fault, &QComboBox::activated, this, [this, fault] {
        if (const Reading* r = context().reading())
            context().session().sendCommand(r->wiring.board,
                                            QStringLiteral("fault ") + fault->currentData().toString());
    });
    connect(plug, &QCheckBox::toggled, this, [this](bool on) {
        if (const Reading* r = context().reading()) context().session().setPlugged(r->wiring.board, on);
    });
    m_side->hide();
}

void RawPage::ask() {
    const Reading* r = context().reading();
    if (!r || m_command->text().trimmed().isEmpty()) return;
    context().session().sendCommand(r->wiring.board, m_command->text().trimmed());
    m_command->selectAll();
}

void RawPage::readingChanged() {
    m_lines_key.clear();
    m_lines->clear();
    m_paused = false;
}

void RawPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_P) {
        m_paused = !m_paused;
        refresh();
    } else {
        Page::keyPressEvent(event);
    }
}

void RawPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const BoardUse* use = context().session().bench().board(r->wiring.board);
    m_link->setVisible(use);
    m_side->setEnabled(use);
    if (use) m_link->setBoard(use->id);
    m_simulated->setVisible(use && use->link.kind == LinkKind::simulated);
    const LiveBoard* board = context().liveBoard();
    const LiveReading* live = context().liveReading();
    const bool has_lines = board && board->lines > 0;
    m_content->setVisible(has_lines);
    m_empty->setVisible(!has_lines);
    setNote({});
    if (!use)
        set_text(
            m_empty,
            tr("No board carries this reading yet. Choose a part at stop 2; it takes a pin of the bench’s board."));
    else if (!has_lines)
        set_text(m_empty, tr("Connect the board above. Its lines appear here as they come: numbers between commas, "
                             "with a header line that "
                             "names the pins, such as\n\nseq,ms,A2\n0,1000,138\n1,2000,139"));
    if (!has_lines) return;
    setNote(tr("format found: %1").arg(board->format));
    set_text(m_answer, board->answer.isEmpty() ? tr("commands go to the board as one line")
                                               : tr("answered: %1").arg(board->answer));
    const BoardCard* card = context().session().boardCard(*r);
    const int bits = card ? card->bits : 10;
    if (live) refreshPlots(*live, bits);
    refreshLines(*board, r->wiring.pin());
}

void RawPage::refreshPlots(const LiveReading& live, int bits) {
    std::vector<RawSample> samples;
    for (const LivePoint& p : live.points)
        samples.push_back({p.time, p.raw});
    if (samples.size() > 300) samples.erase(samples.begin(), samples.end() - 300);
    if (samples.empty()) return;
    const SignalFigures f = signal_figures(samples, bits);
    const double top = std::ldexp(1.0, bits) - 1;
    const Reading* r = context().reading();
    const Value a = inverse(r->path, r->quantity.low);
    const Value b = inverse(r->path, r->quantity.high);
    set_text(m_trace_note, a.ok() && b.ok()
                               ? tr("of 0…%1; your range is %2…%3")
                                     .arg(from_std(format_constant(top, 7)),
                                          from_std(format_constant(std::round(std::min(a.number, b.number)))),
                                          from_std(format_constant(std::round(std::max(a.number, b.number)))))
                               : tr("of 0…%1").arg(from_std(format_constant(top, 7))));
    QVector<double> x, y;
    std::map<int, int> histogram;
    const TimeUs now = context().session().now();
    const std::size_t from = samples.size() > shown_samples ? samples.size() - shown_samples : 0;
    for (std::size_t i = 0; i < samples.size(); ++i) {
        if (std::isfinite(samples[i].code)) ++histogram[static_cast<int>(samples[i].code)];
        if (i < from) continue;
        if (i > from && f.interval_s > 0 && seconds(samples[i].time - samples[i - 1].time) > 3 * f.interval_s) {
            x.append(seconds(samples[i - 1].time - now));
            y.append(qQNaN()); // a gap stays a gap
        }
        x.append(seconds(samples[i].time - now));
        y.append(samples[i].code);
    }
    m_graph->setData(x, y, true);
    m_now->setData({x.last()}, {y.last()});
    m_trace->xAxis->setRange(x.first(), std::max(0.0, -x.first() * 0.01));
    double low = top;
    double high = 0;
    for (const double v : y)
        if (std::isfinite(v)) {
            low = std::min(low, v);
            high = std::max(high, v);
        }
    if (low <= high) m_trace->yAxis->setRange(comfortable_range(low, high, 8));
    m_trace->xAxis->setLabel(tr("seconds before now"));
    m_trace->replot(QCustomPlot::rpQueuedReplot);

    QVector<double> codes, counts;
    for (const auto& [code, n] : histogram) {
        codes.append(code);
        counts.append(n);
    }
    m_bars->setData(codes, counts, true);
    m_bars->setWidth(0.8);
    if (!codes.isEmpty()) m_codes->xAxis->setRange(comfortable_range(codes.first(), codes.last(), 10));
    m_codes->yAxis->setRange(0, counts.isEmpty() ? 1 : *std::max_element(counts.begin(), counts.end()) * 1.05);
    m_codes->replot(QCustomPlot::rpQueuedReplot);

    const QStringList texts = {from_std(format_fixed(f.mean, 1)),
                               from_std(format_fixed(f.sd, 2)),
                               from_std(format_constant(f.peak_to_peak)),
                               tr("%1 of %2").arg(from_std(format_fixed(f.effective_bits, 1))).arg(bits),
                               tr("%1 /h").arg(from_std(format_fixed(f.drift_per_hour, 0))),
                               tr("%1 /s").arg(from_std(format_fixed(f.rate_hz, f.rate_hz < 10 ? 1 : 0))),
                               QString::number(f.gaps)};
    for (int i = 0; i < texts.size(); ++i)
        set_text(m_figures[i], texts[i]);
    const auto verdicts = judge_health(samples, bits);
    set_text(m_health, verdicts.empty() ? tr("● healthy: not stuck, not clipped, not floating, noise of %1 counts")
                                              .arg(from_std(format_fixed(f.noise, 2)))
                                        : tr("%1 %2: %3")
                                              .arg(verdicts[0].bad               ? QStringLiteral("◆")
                                                   : verdicts[0].id == "flicker" ? QStringLiteral("●")
                                                                                 : QStringLiteral("▲"),
                                                   from_std(verdicts[0].id), from_std(verdicts[0].evidence)));
    m_health->setColour(verdicts.empty() || verdicts[0].id == "flicker" ? theme().colours().good
                        : verdicts[0].bad                               ? theme().colours().bad
                                                                        : theme().colours().look);
}

void RawPage::refreshLines(const LiveBoard& board, const std::string&) {
    set_text(m_lines_note, m_paused ? tr("paused; %1 kept · P: go on").arg(board.recent.size()) : tr("P: pause"));
    const QString key = QString::number(board.lines);
    if (m_paused || key == m_lines_key) return;
    m_lines_key = key;
    const bool at_end = m_lines->verticalScrollBar()->value() >= m_lines->verticalScrollBar()->maximum() - 2;
    m_lines->clear();
    for (const LiveLine& line : board.recent) {
        const QDateTime time = QDateTime::fromMSecsSinceEpoch(line.time / 1000);
        auto* item = new QListWidgetItem(
            QStringLiteral("%1  %2").arg(time.toString(QStringLiteral("mm:ss.z")).left(7), line.text));
        if (line.text.startsWith(QLatin1Char('#'))) item->setForeground(theme().colours().soft);
        m_lines->addItem(item);
    }
    if (at_end) m_lines->scrollToBottom();
}

} // namespace cognitum
