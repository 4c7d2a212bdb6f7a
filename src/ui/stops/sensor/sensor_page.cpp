#include "ui/stops/sensor/sensor_page.h"

#include "core/base/phrase.h"
#include "core/bringup/field_proposal.h"
#include "core/plan/assign.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "ui/stops/sensor/card_editor.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

SensorPage::SensorPage(Context& context, QWidget* parent) : Page(context, tr("What could measure this"), parent) {
    auto* find_row = new QHBoxLayout;
    find_row->setSpacing(theme().px(8));
    auto* label = new TextLabel(theme(), TextLabel::Role::soft, tr("compared for"));
    label->setWordWrap(false);
    find_row->addWidget(label);
    m_board = new QComboBox;
    m_board->setObjectName(QStringLiteral("sensorBoard"));
    m_board->setAccessibleName(tr("Board that the comparison is made for"));
    find_row->addWidget(m_board);
    find_row->addStretch(1);
    m_find = new QLineEdit;
    m_find->setObjectName(QStringLiteral("findByFacts"));
    m_find->setAccessibleName(tr("Find a part by data-sheet facts"));
    m_find->setPlaceholderText(tr("find: i2c 0x23, 3 legs"));
    m_find->setMinimumWidth(theme().px(130));
    m_find->setMaximumWidth(theme().px(260));
    find_row->addWidget(m_find, 4);
    body()->addLayout(find_row);
    m_table = new CandidateTable(context);
    m_scroll = make_scroll(m_table);
    body()->addWidget(m_scroll, 1);
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);
    buildPlan();
    auto* below = new QHBoxLayout; // above each other where the words are long
    below->setSpacing(theme().px(8));
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(theme().px(8));
    below->addLayout(buttons, 1);
    m_choose = make_button(tr("Choose this part"), QStringLiteral("choosePart"), true);
    m_edit = make_button(tr("Make it a card of my own"), QStringLiteral("editCard"));
    m_edit->setToolTip(tr("Copies this card into your data folder, where you can change every fact"));
    buttons->addWidget(m_choose);
    buttons->addWidget(m_edit);
    buttons->addStretch(1);
    auto* printed = new QHBoxLayout;
    printed->setSpacing(theme().px(8));
    below->addLayout(printed);
    auto* marking_label = new TextLabel(theme(), TextLabel::Role::soft, tr("marked"));
    marking_label->setWordWrap(false);
    printed->addWidget(marking_label);
    m_marking = new QLineEdit;
    m_marking->setObjectName(QStringLiteral("partMarking"));
    m_marking->setAccessibleName(tr("What is printed on your own part"));
    m_marking->setPlaceholderText(tr("as printed on it"));
    m_marking->setFixedWidth(theme().px(185));
    printed->addWidget(m_marking);
    printed->addStretch(0);
    body()->addLayout(below);
    stackWhenNarrow(below, 0);
    m_record = new TextLabel(theme(), TextLabel::Role::soft);
    m_record->setObjectName(QStringLiteral("choiceRecord"));
    body()->addWidget(m_record);

    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(theme().px(6));
    const auto add = [&](TextLabel::Role role, const QString& text = {}) {
        auto* out = new TextLabel(theme(), role, text);
        side->addWidget(out);
        return out;
    };
    add(TextLabel::Role::name, tr("You asked for"));
    m_asked = add(TextLabel::Role::body);
    side->addWidget(new RuleLine(theme()));
    m_about_title = add(TextLabel::Role::name);
    m_about_title->setWordWrap(true);
    m_about = add(TextLabel::Role::soft);
    m_schools_title = add(TextLabel::Role::name, tr("Where practice differs"));
    m_schools = add(TextLabel::Role::soft);
    m_schools->setObjectName(QStringLiteral("schools"));
    m_side->hide();

    const auto again = [this] {
        m_key.clear();
        refresh();
    };
    connect(m_find, &QLineEdit::textChanged, this, again);
    connect(m_board, &QComboBox::activated, this, again);
    connect(m_table, &CandidateTable::chosenChanged, this, &SensorPage::refreshSide);
    connect(m_table, &CandidateTable::activated, this, &SensorPage::choose);
    connect(m_choose, &QPushButton::clicked, this, &SensorPage::choose);
    connect(m_edit, &QPushButton::clicked, this, &SensorPage::editCard);
    connect(m_marking, &QLineEdit::editingFinished, this, [this] {
        const Reading* r = this->context().reading();
        const std::string marking = m_marking->text().trimmed().toStdString();
        if (r && r->sensor.marking != marking)
            this->context().session().editReading(r->id, tr("Note the marking"),
                                                  [&](Reading& reading) { reading.sensor.marking = marking; });
    });
}

void SensorPage::buildPlan() {
    m_plan = new QWidget;
    auto* row = make_row(m_plan, theme().px(8));
    m_plan_card = new QComboBox;
    m_plan_card->setObjectName(QStringLiteral("planCard"));
    m_plan_card->setAccessibleName(tr("Kind of board to plan with"));
    m_plan_card->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_plan_card->setMinimumContentsLength(36);
    for (const BoardCard& card : context().session().catalog().boards)
        m_plan_card->addItem(from_std(card.name), from_std(card.id));
    m_plan_card->setCurrentIndex(
        std::max(0, m_plan_card->findData(from_std(propose_board(context().session().catalog(), 10)))));
    QPushButton* plan = make_button(tr("Compare for this board"), QStringLiteral("planBoard"), true);
    row->addWidget(m_plan_card);
    row->addWidget(plan);
    row->addStretch(1);
    body()->addWidget(m_plan);
    connect(plan, &QPushButton::clicked, this, &SensorPage::planBoard);
}

/// The bench's first board, as it is planned with: another can be chosen later.
void SensorPage::planBoard() {
    const std::string card = m_plan_card->currentData().toString().toStdString();
    context().session().edit(tr("Add board"), [&](Bench& bench) {
        BoardUse use;
        use.name = tr("my board").toStdString();
        use.id = bench.free_id(use.name);
        use.card = card;
        bench.boards.push_back(use);
    });
    m_key.clear();
    refresh();
}

void SensorPage::readingChanged() {
    m_key.clear();
    m_board->clear();
    m_table->setChosen(-1);
}

/// The reading's own board first, else the first of the bench that is not advised against.
void SensorPage::fillBoards() {
    const Session& session = context().session();
    const Reading* r = context().reading();
    if (m_board->count() == static_cast<int>(session.bench().boards.size())) return;
    m_board->clear();
    for (const BoardUse& use : session.bench().boards)
        m_board->addItem(from_std(use.name), from_std(use.id));
    const int own = r ? m_board->findData(from_std(r->wiring.board)) : -1;
    m_board->setCurrentIndex(std::max(0, own));
}

const BoardUse* SensorPage::board() const {
    return context().session().bench().board(m_board->currentData().toString().toStdString());
}

const Candidate* SensorPage::chosen() const {
    const int row = m_table->chosen();
    return row >= 0 ? &m_table->candidates()[static_cast<std::size_t>(row)] : nullptr;
}

void SensorPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    Session& session = context().session();
    fillBoards();
    const BoardUse* use = board();
    // Only a changed plan or another search changes the comparison.
    QString key = m_find->text() + m_board->currentText() + QString::number(session.planRevision());
    key += from_std(r->id);
    if (key == m_key) return;
    m_key = key;
    std::vector<Candidate> list;
    if (use && session.catalog().board(use->card)) list = candidates(session.bench(), session.catalog(), *r, *use);
    const auto all = list.size();
    std::erase_if(list, [&](const Candidate& c) {
        const PartCard* part = session.catalog().part(c.part);
        return !part || !matches_facts(*part, m_find->text().toStdString());
    });
    int row = m_table->chosen();
    for (int i = 0; i < static_cast<int>(list.size()); ++i)
        if (row < 0 && list[static_cast<std::size_t>(i)].part == r->sensor.part) row = i;
    const bool none = list.empty();
    m_table->setCandidates(std::move(list));
    m_table->setChosen(none ? -1 : std::max(0, row));
    const QuantityKind* kind = find_quantity_kind(r->quantity.kind);
    const QString name = kind ? from_std(inside_sentence(kind->title)) : QString();
    m_scroll->setVisible(!none);
    m_choose->setEnabled(!none);
    m_edit->setEnabled(!none);
    m_empty->setVisible(none);
    m_plan->setVisible(!use);
    if (!use)
        set_text(m_empty,
                 tr("A part fits one board and burns on another: what will it be wired to? The first of the list "
                    "is a guess; another board can be chosen later."));
    else if (all == 0)
        set_text(m_empty,
                 tr("No part card here measures %1 yet. Cards are open JSON files; put your own under "
                    "your data folder, cognitum/parts. A series from a file needs none: import it from the "
                    "bench menu.")
                     .arg(name));
    else
        set_text(m_empty, tr("No card has all of these facts. Use fewer words."));
    setTitle(tr("What could measure this %1").arg(name));
    if (!m_marking->hasFocus()) m_marking->setText(from_std(r->sensor.marking));
    m_marking->setEnabled(!r->sensor.part.empty());
    refreshSide();
    refreshRecord();
}

void SensorPage::refreshRecord() {
    const Reading* r = context().reading();
    const Catalog& catalog = context().session().catalog();
    const PartCard* part = catalog.part(r->sensor.part);
    QString text;
    if (!r->sensor.part.empty()) {
        text = tr("Chosen: %1. %2").arg(from_std(part ? part->name : r->sensor.part), from_std(r->sensor.reason));
        QStringList against;
        for (const Rejected& rejected : r->sensor.rejected) {
            const PartCard* other = catalog.part(rejected.part);
            if (against.size() < 2)
                against << tr("%1: %2").arg(from_std(other ? other->name : rejected.part),
                                            from_std(rejected.because));
        }
        const auto more = r->sensor.rejected.size() - static_cast<std::size_t>(against.size());
        if (!against.isEmpty()) text += tr(" Left: ") + against.join(QStringLiteral(" "));
        if (more > 0) text += tr(" And %n more.", nullptr, static_cast<int>(more));
    }
    set_text(m_record, text);
    m_record->setVisible(!text.isEmpty());
}

void SensorPage::refreshSide() {
    const Reading* r = context().reading();
    if (!r) return;
    const Quantity& q = r->quantity;
    set_text(m_asked, from_std(phrase("range {}…{}\ndoubt at most ± {}\nevery {}\n{}", format_constant(q.low),
                                      format_measure(q.high, q.unit), format_measure(q.accuracy, q.unit),
                                      format_measure(q.interval_s, "s"),
                                      q.place.empty() ? phrase("place not said") : q.place)));
    const Candidate* candidate = chosen();
    const PartCard* part = candidate ? context().session().catalog().part(candidate->part) : nullptr;
    m_about_title->setVisible(part);
    m_about->setVisible(part);
    const std::vector<std::string> ways = schools(m_table->candidates(), context().session().catalog());
    m_schools_title->setVisible(ways.size() > 1);
    m_schools->setVisible(ways.size() > 1);
    QString text;
    for (const std::string& way : ways)
        text += (text.isEmpty() ? QString() : QStringLiteral("\n\n")) + from_std(way);
    set_text(m_schools, text);
    if (!part) return;
    const Measurand* measured = part->measurand(q.kind);
    set_text(m_about_title, from_std(part->name));
    std::string about = phrase("{}\n\nNeeds: {}\n\nFails: {}\n\nCare: {}\n\nFollows in {}", part->good_for,
                               part->needs, part->fails, part->care, format_measure(part->response_s, "s"));
    if (measured && measured->drift_per_year > 0)
        about += phrase("; drifts up to {} a year", format_measure(measured->drift_per_year, measured->unit));
    if (part->warm_up_s > 0) about += phrase("; warms up in {}", format_measure(part->warm_up_s, "s"));
    about += ".";
    for (const FailureValue& f : part->failure_values)
        about += phrase("\n{} is no value: {}.", failure_text(f), f.means);
    set_text(m_about, from_std(about));
    const bool used = r->sensor.part == candidate->part;
    const bool placed = used && r->wiring.board == m_board->currentData().toString().toStdString();
    m_choose->setText(!used ? tr("Choose this part") : placed ? tr("In use") : tr("Place it on the board"));
    m_choose->setEnabled(!placed);
}

void SensorPage::choose() {
    const Reading* r = context().reading();
    const Candidate* picked = chosen();
    const BoardUse* use = board();
    if (!r || !picked || !use || !m_choose->isEnabled()) return;
    Session& session = context().session();
    const Candidate candidate = *picked;
    const PartCard* part = session.catalog().part(candidate.part);
    const std::string id = r->id;
    auto placed = choose_part(session.bench(), session.catalog(), id, candidate.part, use->id);
    if (!placed) {
        // Without an input it is planned all the same: Boards shows the ways to more.
        if (candidate.fitness != Fitness::fits_with_change) {
            emit context().said(from_std(placed.error().text()));
            return;
        }
        Bench waiting = session.bench();
        Reading& reading = *waiting.reading(id);
        reading.sensor.part = candidate.part;
        reading.wiring = {};
        reading.wiring.board = use->id;
        reading.path = {};
        placed = assign_pins(waiting, session.catalog(), Keep::placed, use->id).bench;
    }
    Reading& reading = *placed->reading(id);
    reading.sensor.reason = candidate.because;
    reading.sensor.rejected.clear();
    for (const Candidate& other : m_table->candidates())
        if (other.part != candidate.part && reading.sensor.rejected.size() < 12)
            reading.sensor.rejected.push_back({other.part, other.because});
    session.edit(tr("Choose part"), [&](Bench& bench) { bench = *placed; });
    const std::string pin = context().reading()->wiring.pin();
    emit context().said(pin.empty() ? tr("%1 is planned; it waits for an input.").arg(from_std(part->name))
                                    : tr("%1 on pin %2. Next: wire it.").arg(from_std(part->name), from_std(pin)));
    emit context().stopRequested(2);
}

void SensorPage::editCard() {
    const Candidate* picked = chosen();
    const PartCard* part = picked ? context().session().catalog().part(picked->part) : nullptr;
    if (!part) return;
    CardEditor editor(context(), *part, window());
    if (editor.exec() == QDialog::Accepted) {
        m_key.clear();
        refresh();
        emit context().said(tr("Your card stands in %1.").arg(editor.savedAs()));
    }
}

} // namespace cognitum
