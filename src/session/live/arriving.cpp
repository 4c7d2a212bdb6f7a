#include "session/live/arriving.h"

#include "core/bench/quantity_change.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "link/serial_link.h"
#include "store/file/data_files.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr int ports_every_ms = 1000;

QString to_text(const std::string& s) {
    return QString::fromStdString(s);
}

std::string scratch_id(const std::string& board, const std::string& field) {
    return board + "\n" + field;
}

std::string free_name(const Bench& bench, const std::string& wanted) {
    const auto taken = [&](const std::string& name) {
        return std::any_of(bench.readings.begin(), bench.readings.end(),
                           [&](const Reading& r) { return r.name == name; }) ||
               std::any_of(bench.boards.begin(), bench.boards.end(),
                           [&](const BoardUse& b) { return b.name == name; });
    };
    std::string name = wanted;
    for (int n = 2; taken(name); ++n)
        name = fmt::format("{} {}", wanted, n);
    return name;
}

FieldProposal proposal_of(const Field& field, std::span<const RawSample> samples) {
    return propose_field({field.name, field.unit, field.example, field.numeric, samples});
}

/// The board that most of its numbers suggest.
std::string card_for(const Catalog& catalog, const ArrivingBoard& board) {
    int bits = 0;
    for (const ArrivedField& field : board.fields)
        bits = std::max(bits, field.proposal.bits);
    return propose_board(catalog, bits);
}

/// A person says that it is of another kind.
void as_kind(ArrivedField& field, const std::string& id) {
    FieldProposal& p = field.proposal;
    const QuantityKind& kind = quantity_kind(id);
    if (p.role == FieldRole::value || p.role == FieldRole::state || p.role == FieldRole::counter)
        p.unit = kind.is_counted ? "count" : kind.units.front();
    if (p.title == field.name || p.title.starts_with(quantity_kind(p.kind).title.text())) p.title = kind.title;
    p.role = p.role == FieldRole::counter && kind.is_counted ? FieldRole::pulses : p.role;
    p.kind = kind.id;
}

/// The reading that a proposal makes, in a bench that has its board.
Reading reading_from(const Bench& bench, const Catalog& catalog, const BoardUse& use, const ArrivedField& field) {
    const FieldProposal& p = field.proposal;
    const QuantityKind& kind = quantity_kind(p.kind);
    Reading r = new_reading(bench, kind, p.title.empty() ? field.name : p.title);
    if (field.samples.size() > 2) { // as often as it comes, in round numbers
        const double usual = seconds(field.samples.back().time - field.samples.front().time) /
                             static_cast<double>(field.samples.size() - 1);
        for (const double s : {0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0, 300.0, 600.0, 3600.0})
            if (usual < 1.3 * s) {
                r.quantity.interval_s = s;
                break;
            }
    }
    r.wiring.board = use.id;
    r.source.field = field.name;
    if (p.role == FieldRole::converter || p.role == FieldRole::pulses)
        r.source.unit = "count";
    else if (!same_unit(p.unit, kind.units.front()))
        r.source.unit = p.unit;
    const BoardCard* card = catalog.board(use.card);
    const Pin* pin = card ? card->pin(field.name) : nullptr;
    if (pin && pin->taken_by.empty() && (p.role != FieldRole::converter || pin->can("analog")))
        r.wiring.pins.push_back({"", pin->label, true, {}});
    return r;
}

} // namespace

Reading new_reading(const Bench& bench, const QuantityKind& kind, const std::string& wanted_name) {
    Reading r;
    r.name = free_name(bench, wanted_name);
    r.id = bench.free_id(r.name);
    r.quantity.kind = kind.id;
    r.quantity.unit = kind.units.front();
    r.quantity.low = kind.low;
    r.quantity.high = kind.high;
    r.quantity.accuracy = kind.accuracy;
    return r;
}

Arrivals::Arrivals(Session& session, SessionOptions options) : m_session(session), m_options(std::move(options)) {
    m_ports.setParent(this);
    m_ports.setInterval(ports_every_ms);
    connect(&m_ports, &QTimer::timeout, this, &Arrivals::lookAtPorts);
}

Arrivals::~Arrivals() = default;

void Arrivals::begin() {
    if (m_worker) return;
    m_worker =
        std::make_unique<Worker>(m_options.clock ? m_options.clock : Clock([this] { return m_session.now(); }),
                                 m_options.simulation_arguments, m_options.open_links);
    connect(m_worker.get(), &Worker::speedFound, this, [this](const QString& board, int baud) {
        for (Heard& heard : m_heard)
            if (to_text(heard.use.id) == board) {
                heard.use.link.baud = baud;
                heard.use.link.find_speed = false;
            }
    });
    lookAtPorts();
    m_ports.start();
}

void Arrivals::end() {
    m_ports.stop();
    m_worker.reset();
    m_heard.clear();
    m_seen.clear();
    m_scratch = {};
    m_live = {};
}

bool Arrivals::isOfBench(const LinkPlan& link) const {
    const std::vector<BoardUse>& boards = m_session.bench().boards;
    return std::any_of(boards.begin(), boards.end(), [&](const BoardUse& b) {
        return b.link.kind == link.kind && b.link.kind == LinkKind::serial && b.link.port == link.port;
    });
}

void Arrivals::listenTo(const LinkPlan& link, const QString& title) {
    begin();
    for (const Heard& heard : m_heard)
        if (heard.title == title) return;
    Heard heard;
    heard.use.id = fmt::format("arriving-{}", m_next++);
    heard.use.name = title.toStdString();
    heard.use.link = link;
    heard.title = title;
    heard.asked_for = true;
    m_heard.push_back(std::move(heard));
    tellWorker();
}

void Arrivals::lookAtPorts() {
    QList<PortInfo> ports = m_options.open_links ? list_ports() : QList<PortInfo>();
    ports.removeIf(
        [](const PortInfo& port) { return !port.on_usb; }); // the others may be the computer's own console
    bool changed = false;
    for (const PortInfo& port : ports) {
        const bool known =
            std::any_of(m_heard.begin(), m_heard.end(), [&](const Heard& h) { return h.title == port.path; });
        const LinkPlan link = LinkPlan::port_of_unknown_speed(port.path.toStdString());
        if (known || isOfBench(link)) continue;
        Heard heard;
        heard.use.id = fmt::format("arriving-{}", m_next++);
        heard.use.link = link;
        heard.use.name = link.port;
        heard.title = port.path;
        heard.about = port.about;
        m_heard.push_back(std::move(heard));
        changed = true;
    }
    const auto gone = std::erase_if(m_heard, [&](const Heard& h) {
        if (isOfBench(h.use.link)) return true;
        return !h.asked_for &&
               std::none_of(ports.begin(), ports.end(), [&](const PortInfo& p) { return p.path == h.title; });
    });
    if (changed || gone > 0) tellWorker();
}

void Arrivals::tellWorker() {
    if (!m_worker) return;
    m_scratch.boards.clear();
    for (const Heard& heard : m_heard)
        m_scratch.boards.push_back(heard.use);
    std::erase_if(m_scratch.readings, [&](const Reading& r) { return !m_scratch.board(r.wiring.board); });
    static const Cards none = [] {
        std::promise<std::shared_ptr<const LoadedCatalog>> ready;
        ready.set_value(std::make_shared<const LoadedCatalog>());
        return ready.get_future().share();
    }();
    m_worker->setPlan(m_scratch, {}, none);
}

std::vector<ArrivingBoard> Arrivals::look(const Live& live) {
    std::vector<ArrivingBoard> out;
    const Bench& bench = m_session.bench();
    const Catalog& catalog = m_session.catalog();
    const auto reading_with = [&](const std::string& board, const std::string& field) {
        for (const Reading& r : bench.readings)
            if (r.feed() == board && (r.field() == field || r.source.signal == field)) return r.id;
        return std::string();
    };
    for (const BoardUse& use : bench.boards) {
        const auto known = live.boards.find(use.id);
        if (use.link.kind == LinkKind::none || known == live.boards.end()) continue;
        ArrivingBoard board{use.id, use.id, to_text(use.name), {}, use.link, known->second, {}, use.card};
        for (const Field& f : known->second.fields) {
            ArrivedField field{f.name, to_text(f.example), {}, proposal_of(f, {}), reading_with(use.id, f.name)};
            if (field.reading.empty() && board.fields.size() < ArrivingBoard::most_fields)
                board.fields.push_back(std::move(field));
        }
        if (board.sends()) out.push_back(std::move(board));
    }
    bool new_fields = false;
    if (m_worker) m_worker->pull(m_live);
    for (const Heard& heard : m_heard) {
        ArrivingBoard board{heard.use.id, {}, heard.title, heard.about, heard.use.link, {}, {}, {}};
        if (const auto known = m_live.boards.find(heard.use.id); known != m_live.boards.end())
            board.live = known->second;
        for (const Field& f : board.live.fields) {
            if (board.fields.size() >= ArrivingBoard::most_fields) break;
            const std::string id = scratch_id(heard.use.id, f.name);
            ArrivedField field{f.name, to_text(f.example), {}, {}, {}};
            if (const auto now = m_live.readings.find(id); now != m_live.readings.end()) {
                const std::deque<LivePoint>& points = now->second.points;
                const std::size_t from = points.size() - std::min(points.size(), ArrivedField::most_samples);
                for (std::size_t i = from; i < points.size(); ++i)
                    field.samples.push_back({points[i].time, points[i].raw});
            }
            if (!m_scratch.reading(id)) {
                Reading r;
                r.id = id;
                r.name = f.name;
                r.quantity.kind = "number";
                r.quantity.unit = "1";
                r.wiring.board = heard.use.id;
                r.source.field = f.name;
                m_scratch.readings.push_back(std::move(r));
                new_fields = true;
            }
            field.proposal = proposal_of(f, field.samples);
            board.fields.push_back(std::move(field));
        }
        board.card = card_for(catalog, board);
        out.push_back(std::move(board));
    }
    if (new_fields) tellWorker();
    m_seen = out;
    return out;
}

std::string Arrivals::take(const std::string& arriving, const std::string& field, const std::string& card,
                           const std::string& kind) {
    const auto board = std::find_if(m_seen.begin(), m_seen.end(), [&](const auto& b) { return b.id == arriving; });
    if (board == m_seen.end() || !m_session.isOpen() || !m_session.lookOnly().isEmpty()) return {};
    const auto arrived = std::find_if(board->fields.begin(), board->fields.end(),
                                      [&](const ArrivedField& f) { return f.name == field; });
    if (arrived == board->fields.end()) return {};
    const ArrivingBoard from = *board;
    ArrivedField taken = *arrived;
    if (kind != taken.proposal.kind) as_kind(taken, kind);
    if (from.board.empty()) { // its port is let go of before the bench opens it
        std::erase_if(m_heard, [&](const Heard& h) { return h.use.id == arriving; });
        tellWorker();
    }
    std::string id;
    m_session.edit(tr("A reading from what arrives"), [&](Bench& bench) {
        BoardUse use;
        if (const BoardUse* known = bench.board(from.board)) {
            use = *known;
        } else {
            use.name = free_name(bench, tr("my board").toStdString());
            use.id = bench.free_id(use.name);
            use.card = card;
            use.link = from.link;
            bench.boards.push_back(use);
        }
        Reading r = reading_from(bench, m_session.catalog(), use, taken);
        id = r.id;
        bench.readings.push_back(r);
        const std::string& unit =
            taken.proposal.unit; // shown in the unit in which it is sent, where a person would
        const std::vector<std::string>& units = quantity_kind(r.quantity.kind).units;
        if (std::find(units.begin(), units.end(), unit) != units.end()) change_unit(bench, id, unit);
    });
    m_seen.clear();
    return id;
}

} // namespace cognitum
