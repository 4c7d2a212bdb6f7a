#include "ui/stops/sensor_page.h"

#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// The board that a comparison is made for: the reading's own, else the bench's first.
const BoardUse* board_for(const Bench& bench, const Reading& reading) {
    const BoardUse* use = bench.board(reading.wiring.board);
    return use ? use : bench.boards.empty() ? nullptr : &bench.boards.front();
}

} // namespace

SensorPage::SensorPage(Context& context) : Page(context, tr("What could measure this")) {
    auto* find_row = new QHBoxLayout;
    m_board_note = new TextLabel(theme(), TextLabel::Role::soft);
    find_row->addWidget(m_board_note, 1);
    m_find = new QLineEdit;
    m_find->setObjectName(QStringLiteral("findByFacts"));
    m_find->setAccessibleName(tr("Find a part by data-sheet facts"));
    m_find->setPlaceholderText(tr("find by facts: 10 mV, 3 legs, 5 V"));
    m_find->setFixedWidth(theme().px(250));
    find_row->addWidget(m_find);
    body()->addLayout(find_row);
    m_table = new CandidateTable(context);
    body()->addWidget(m_table);
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);
    m_choose = make_button(tr("Choose this part"), QStringLiteral("choosePart"), true);
    body()->addWidget(m_choose, 0, Qt::AlignLeft);
    body()->addStretch(1);

    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(theme().px(6));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("You asked for")));
    m_asked = new TextLabel(theme(), TextLabel::Role::body);
    side->addWidget(m_asked);
    side->addWidget(new RuleLine(theme()));
    m_about_title = new TextLabel(theme(), TextLabel::Role::name);
    m_about_title->setWordWrap(true);
    m_about = new TextLabel(theme(), TextLabel::Role::soft);
    side->addWidget(m_about_title);
    side->addWidget(m_about);
    m_side->hide();

    connect(m_find, &QLineEdit::textChanged, this, [this] {
        m_key.clear();
        refresh();
    });
    connect(m_table, &CandidateTable::chosenChanged, this, &SensorPage::refreshSide);
    connect(m_table, &CandidateTable::activated, this, &SensorPage::choose);
    connect(m_choose, &QPushButton::clicked, this, &SensorPage::choose);
}

void SensorPage::readingChanged() {
    m_key.clear();
    m_table->setChosen(-1);
}

void SensorPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    Session& session = context().session();
    const BoardUse* use = board_for(session.bench(), *r);
    const BoardCard* card = use ? session.catalog().board(use->card) : nullptr;
    // Only a changed plan or another search changes the comparison.
    const QString key = from_std(reading_json(*r).dump() + (use ? use->card : "")) + m_find->text();
    if (key == m_key) return;
    m_key = key;
    std::vector<Candidate> list;
    if (card) list = candidates(*r, *use, *card, session.bench(), session.catalog());
    const auto all = list.size();
    std::erase_if(list, [&](const Candidate& c) {
        const PartCard* part = session.catalog().part(c.part);
        return !part || !matches_facts(*part, m_find->text().toStdString());
    });
    int chosen = m_table->chosen();
    for (int i = 0; i < static_cast<int>(list.size()); ++i)
        if (chosen < 0 && list[static_cast<std::size_t>(i)].part == r->sensor.part) chosen = i;
    const bool none = list.empty();
    m_table->setCandidates(std::move(list));
    m_table->setChosen(none ? -1 : std::max(0, chosen));
    const QuantityKind* kind = find_quantity_kind(r->quantity.kind);
    m_table->setVisible(!none);
    m_choose->setEnabled(!none);
    m_empty->setVisible(none);
    if (!card)
        set_text(m_empty, tr("A comparison needs a board: add one under Boards (Ctrl ⇧ 2), then come back."));
    else if (all == 0)
        set_text(
            m_empty,
            tr("No part card here measures %1 yet. Cards are open JSON files; put your own under "
               "your data folder, cognitum/parts. A series from a file needs none: import it from the bench menu.")
                .arg(kind ? from_std(kind->title).toLower() : QString()));
    else
        set_text(m_empty, tr("No card has all of these facts. Use fewer words."));
    set_text(m_board_note, use ? tr("compared for %1").arg(from_std(use->name)) : QString());
    setTitle(tr("What could measure this %1").arg(kind ? from_std(kind->title).toLower() : QString()));
    refreshSide();
}

void SensorPage::refreshSide() {
    const Reading* r = context().reading();
    if (!r) return;
    const Quantity& q = r->quantity;
    set_text(m_asked, from_std(fmt::format("range {}…{}\ndoubt at most ± {}\nevery {}\n{}", format_constant(q.low),
                                           format_measure(q.high, q.unit), format_measure(q.accuracy, q.unit),
                                           format_measure(q.interval_s, "s"),
                                           q.place.empty() ? "place not said" : q.place)));
    const int row = m_table->chosen();
    const PartCard* part =
        row >= 0 ? context().session().catalog().part(m_table->candidates()[static_cast<std::size_t>(row)].part)
                 : nullptr;
    m_about_title->setVisible(part);
    m_about->setVisible(part);
    if (!part) return;
    set_text(m_about_title, from_std(part->name));
    set_text(m_about, from_std(fmt::format(
                          "{}\n\nNeeds: {}\n\nFails: {}\n\nCare: {}\n\nFollows in {} s; drifts up to {} a year.",
                          part->good_for, part->needs, part->fails, part->care, format_constant(part->response_s),
                          format_measure(part->drift_per_year, part->unit))));
    const Candidate& c = m_table->candidates()[static_cast<std::size_t>(row)];
    const bool chosen = r->sensor.part == c.part;
    const bool placed = !r->wiring.board.empty();
    m_choose->setText(!chosen ? tr("Choose this part") : placed ? tr("In use") : tr("Place it on the board"));
    m_choose->setEnabled(!chosen || !placed);
}

void SensorPage::choose() {
    const Reading* r = context().reading();
    const int row = m_table->chosen();
    if (!r || row < 0) return;
    Session& session = context().session();
    const Candidate chosen = m_table->candidates()[static_cast<std::size_t>(row)];
    const PartCard* part = session.catalog().part(chosen.part);
    const BoardUse* use = board_for(session.bench(), *r);
    const BoardCard* card = use ? session.catalog().board(use->card) : nullptr;
    if (!part || !card || (r->sensor.part == chosen.part && !r->wiring.board.empty())) return;
    std::string reason = chosen.because;
    for (const Candidate& other : m_table->candidates())
        if (other.part != chosen.part)
            if (const PartCard* o = session.catalog().part(other.part))
                reason += " Against " + o->name + ": " + other.because;
    Bench others = session.bench();
    others.reading(r->id)->wiring = {};
    const auto wiring = first_wiring(*part, *use, *card, others);
    if (!wiring) {
        emit context().said(from_std(wiring.error().text()));
        return;
    }
    session.editReading(r->id, tr("Choose part"), [&](Reading& reading) {
        const std::string pin = reading.wiring.pin;
        reading.sensor = {part->id, reason};
        reading.wiring = *wiring;
        if (!pin.empty()) reading.wiring.pin = pin; // the pin that the person has already soldered stays
        reading.path = build_path(*part, *card, reading.wiring);
        reading.path.name = reading.name;
    });
    emit context().said(
        tr("%1 on pin %2. Next: wire it.").arg(from_std(part->name), from_std(context().reading()->wiring.pin)));
    emit context().stopRequested(2);
}

} // namespace cognitum
