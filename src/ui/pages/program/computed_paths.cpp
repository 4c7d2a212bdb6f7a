#include "ui/pages/program/computed_paths.h"

#include "core/program/proof_plan.h"
#include "core/units/format.h"
#include "ui/pages/program/wrapped_label.h"
#include "ui/widgets/parts.h"

#include <QPushButton>
#include <QVBoxLayout>

namespace cognitum {

ComputedPaths::ComputedPaths(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(8));
    auto* head = new QHBoxLayout;
    head->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("What it computes")), 1);
    m_run = make_button(tr("Run it in the simulator"), QStringLiteral("readRun"));
    m_run->setToolTip(
        tr("Compiles it for the 8-bit board and runs its machine code with the plan's parts at its pins"));
    head->addWidget(m_run);
    rows->addLayout(head);
    m_ran = new TextLabel(theme, TextLabel::Role::soft);
    m_ran->setObjectName(QStringLiteral("readRan"));
    m_ran->hide();
    rows->addWidget(m_ran);
    m_readings = new QVBoxLayout;
    m_readings->setSpacing(theme.px(12));
    rows->addLayout(m_readings);
    hide();
    connect(m_run, &QPushButton::clicked, this, &ComputedPaths::run);
    connect(&m_machine, &ProgramProof::finished, this, &ComputedPaths::showRun);
}

void ComputedPaths::show(const std::string& board, const std::vector<ProgramText>& files, const ProgramRead& read) {
    m_machine.stop();
    m_board = board;
    m_files = files;
    m_read = read;
    m_sent.clear();
    m_ran->hide();
    const BoardUse* use = m_context.session().bench().board(board);
    const BoardCard* card = use ? m_context.session().catalog().board(use->card) : nullptr;
    m_run->setVisible(card && is_simulated(*card));
    m_run->setEnabled(true);
    setVisible(!read.readings.empty());
    fill();
}

void ComputedPaths::run() {
    m_run->setEnabled(false);
    m_ran->show();
    m_ran->setColour({});
    set_text(m_ran, tr("It is compiled and run: this takes some seconds, of slow programs a minute …"));
    m_machine.startOwn(m_context.session().bench(), m_board, m_files, m_read.readings);
}

void ComputedPaths::showRun(const ProofReport& report) {
    m_run->setEnabled(true);
    m_ran->setColour(report.trouble.isEmpty() ? QColor() : m_context.theme().colours().bad);
    m_sent = report.sent_of;
    set_text(m_ran,
             !report.trouble.isEmpty()
                 ? report.trouble
                 : tr("Its machine code ran in the simulator: %1 of %2 KB of flash, %3 of %4 KB of memory; a turn "
                      "of loop() takes %5 ms at most.")
                       .arg(from_std(format_fixed(report.flash / 1024.0, 1)))
                       .arg(report.flash_there / 1024)
                       .arg(from_std(format_fixed(report.memory / 1024.0, 1)))
                       .arg(report.memory_there / 1024)
                       .arg(from_std(format_fixed(report.longest_loop_ms, 1))));
    fill();
    emit ran();
}

/// What the machine code sent, beside what was read.
QString ComputedPaths::ranText(const ReadPath& p) const {
    const auto sent = m_sent.find(p.reading);
    if (sent == m_sent.end() || sent->second.size() != p.prints_at.size()) return {};
    QStringList texts;
    bool same = true;
    for (std::size_t i = 0; i < p.prints_at.size(); ++i) {
        const QString text = sent->second[i];
        texts << (text.isEmpty() ? tr("nothing") : text);
        same = same && text == from_std(p.prints_at[i].printed);
    }
    return same ? tr("● its machine code sends the same")
                : tr("▲ its machine code sends %1").arg(texts.join(QStringLiteral("; ")));
}

void ComputedPaths::addReading(const ReadPath& p) {
    Theme& theme = m_context.theme();
    const Reading* r = m_context.session().bench().reading(p.reading);
    if (!r) return;
    auto* rows = new QVBoxLayout;
    rows->setSpacing(theme.px(2));
    auto* name = new TextLabel(theme, TextLabel::Role::body, tr("%1, line %2").arg(from_std(r->name)).arg(p.line));
    name->setObjectName(QStringLiteral("computes-") + from_std(p.reading));
    rows->addWidget(name);
    QStringList way;
    for (const ReadStep& step : p.steps)
        way << from_std(step.note.empty() ? step.what : step.what + " (" + step.note + ")");
    rows->addWidget(wrapped(new TextLabel(theme, TextLabel::Role::soft, way.join(QStringLiteral("  ")))));
    QStringList prints;
    for (const PrintsAt& at : p.prints_at) {
        const double step = r->quantity.accuracy / 10;
        const QString truth = r->path.stages.empty() && r->quantity.sample_s > 0
                                  ? from_std(format_measure(at.truth, "counts", 5))
                                  : from_std(format_value(at.truth, step, r->quantity.unit));
        prints << tr("at %1 it sends %2").arg(truth, at.printed.empty() ? tr("nothing") : from_std(at.printed));
    }
    if (!prints.isEmpty())
        rows->addWidget(
            wrapped(new TextLabel(theme, TextLabel::Role::mono_small, prints.join(QStringLiteral("; ")))));
    if (const QString ran = ranText(p); !ran.isEmpty()) {
        auto* machine = new TextLabel(theme, TextLabel::Role::mono_small, ran);
        machine->setObjectName(QStringLiteral("ran-") + from_std(p.reading));
        rows->addWidget(wrapped(machine));
    }
    // What the program computes already need not be computed again: the number that it sends has that path behind
    // it.
    const bool is_value = p.sent_as == SentAs::value || p.sent_as == SentAs::other_unit ||
                          p.sent_as == SentAs::on_the_way || p.sent_as == SentAs::another;
    if (is_value && path_behind(*r, p)) {
        auto* links = new QHBoxLayout;
        auto* link = make_link(tr("Take it as it is, in the path"), QStringLiteral("take-") + from_std(p.reading));
        link->setToolTip(tr("For a board that keeps this program: what it sends goes back through its arithmetic "
                            "to the raw number, and from there through the plan's path."));
        connect(link, &QPushButton::clicked, this, [this, p] { takePath(p); });
        links->addWidget(link);
        links->addStretch(1);
        rows->addLayout(links);
    }
    m_readings->addLayout(rows);
}

void ComputedPaths::takePath(const ReadPath& p) {
    const Reading* r = m_context.session().bench().reading(p.reading);
    const auto path = r ? path_behind(*r, p) : std::nullopt;
    if (!path) return;
    m_context.session().editReading(p.reading, tr("the program's arithmetic in the path"),
                                    [path](Reading& reading) { reading.path = *path; });
    emit m_context.said(
        tr("The path of %1 begins with the program's arithmetic now. Undo takes it back.").arg(from_std(r->name)));
    fill();
}

void ComputedPaths::fill() {
    clear_layout(m_readings);
    for (const ReadPath& path : m_read.readings)
        addReading(path);
    const Bench& bench = m_context.session().bench();
    QStringList missing;
    for (const std::string& id : m_read.not_in_it)
        if (const Reading* r = bench.reading(id)) missing << from_std(r->name);
    if (!missing.isEmpty() && !m_read.readings.empty())
        m_readings->addWidget(new TextLabel(m_context.theme(), TextLabel::Role::soft,
                                            tr("Not in it: %1.").arg(missing.join(QStringLiteral(", ")))));
}

} // namespace cognitum
