#include "core/plan/bill.h"

#include "core/base/csv_text.h"

#include "core/base/phrase.h"
#include "core/plan/placed.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {

constexpr double resistor_guess = 0.1, capacitor_guess = 0.1, wire_guess = 0.4; ///< each; wire by the metre

class Bill {
  public:
    explicit Bill(const Bench& bench) : m_bench(bench) {}

    void add(const std::string& item, const std::string& what, double count, double guess,
             const std::string& used_for) {
        auto [at, is_new] = m_rows.try_emplace(item + "|" + what);
        BillRow& row = at->second;
        if (is_new) {
            row.item = item;
            row.what = what;
            row.each = price_of(m_bench, item, guess);
            row.guessed = std::none_of(m_bench.prices.begin(), m_bench.prices.end(),
                                       [&](const Price& p) { return p.item == item; });
            m_order.push_back(at->first);
        }
        row.count += count;
        if (row.used_for.find(used_for) == std::string::npos)
            row.used_for += (row.used_for.empty() ? "" : ", ") + used_for;
    }
    std::vector<BillRow> rows() const {
        std::vector<BillRow> out;
        for (const std::string& key : m_order)
            out.push_back(m_rows.at(key));
        return out;
    }

  private:
    const Bench& m_bench;
    std::map<std::string, BillRow> m_rows;
    std::vector<std::string> m_order;
};

void add_resistor(Bill& bill, double ohm, const std::string& used_for) {
    bill.add("resistor", phrase("Resistor {}, 1 %", format_ohm(ohm)), 1, resistor_guess, used_for);
}

void add_divider(Bill& bill, const LevelDivider& divider, const std::string& used_for) {
    if (!divider.there()) return;
    add_resistor(bill, divider.top_ohm, used_for);
    add_resistor(bill, divider.bottom_ohm, used_for);
}

std::string alternatives(const Catalog& catalog, const PartCard& part, const Reading& r) {
    std::vector<const PartCard*> others;
    for (const PartCard& o : catalog.parts) {
        const Measurand* m = o.measurand(r.quantity.kind);
        const Measurand* own = part.measurand(r.quantity.kind);
        if (o.id == part.id || o.kind != PartKind::sensor || !m || !own || m->unit != own->unit) continue;
        if (m->low <= own->low + 0.2 * (own->high - own->low) &&
            m->high >= own->high - 0.2 * (own->high - own->low))
            others.push_back(&o);
    }
    std::stable_sort(others.begin(), others.end(), [](const PartCard* a, const PartCard* b) {
        return price_guess(a->price) < price_guess(b->price);
    });
    std::string out;
    for (std::size_t i = 0; i < others.size() && i < 2; ++i)
        out += fmt::format("{}{} ({})", out.empty() ? "" : "; ", others[i]->name, others[i]->price);
    return out;
}

} // namespace

double price_of(const Bench& bench, const std::string& item, double guess) {
    for (const Price& p : bench.prices)
        if (p.item == item) return p.each;
    return guess;
}

std::vector<BillRow> bill_of_materials(const Bench& bench, const Catalog& catalog) {

    Bill bill(bench);
    std::map<std::string, std::string> others;
    for (const BoardUse& use : bench.boards) {
        const BoardCard* card = catalog.board(use.card);
        // Without a card it is a file or a receiver that this computer has: nothing to buy.
        if (!use.card.empty())
            bill.add(use.card, card ? card->name : use.card, 1, card ? price_guess(card->price) : 0, use.name);
        add_divider(bill, use.uplink.divider, use.name);
        if (use.i2c_pull_up_ohm > 0) {
            add_resistor(bill, use.i2c_pull_up_ohm, use.name);
            add_resistor(bill, use.i2c_pull_up_ohm, use.name);
        }
    }
    for (const Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (r.sensor.part.empty() || is_shared(bench, r)) continue;
        bill.add(r.sensor.part, part ? part->name : r.sensor.part, 1, part ? price_guess(part->price) : 0, r.name);
        if (!part) continue;
        if (others[part->id].empty()) others[part->id] = alternatives(catalog, *part, r);
        if (part->divider) add_resistor(bill, part->divider->fixed_ohm.value, r.name);
        for (const Connection& c : r.wiring.pins)
            add_divider(bill, c.divider, r.name);
        if (r.wiring.pull_up_ohm > 0) add_resistor(bill, r.wiring.pull_up_ohm, r.name);
        if (part->network.kind != Network::Kind::none) add_resistor(bill, part->network.ohm, r.name);
        if (part->network.kind == Network::Kind::bias) {
            add_resistor(bill, part->network.ohm, r.name);
            bill.add("capacitor", phrase("Capacitor 10 µF"), 1, capacitor_guess, r.name);
        }
        if (r.wiring.input_protected) {
            add_resistor(bill, 10000, r.name);
            bill.add("diode", phrase("Small Schottky diode"), 2, 0.2, r.name);
        }
        if (part->decoupling_nF > 0)
            bill.add("capacitor", phrase("Capacitor {} nF", format_constant(part->decoupling_nF)), 1,
                     capacitor_guess, r.name);
        if (!part->legs.empty() && !r.wiring.board.empty())
            bill.add("wire-m", phrase("Wire, four cores, by the metre"), r.wiring.cable_m, wire_guess, r.name);
    }
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        const BoardUse* use = bench.board(m.board);
        bill.add(m.part, part ? part->name : m.part, 1, part ? price_guess(part->price) : 0,
                 use ? phrase("{} on {}", m.name, use->name) : m.name);
    }
    std::vector<BillRow> rows = bill.rows();
    for (BillRow& row : rows)
        row.alternatives = others[row.item];
    return rows;
}

double bill_total(const std::vector<BillRow>& rows) {
    double sum = 0;
    for (const BillRow& row : rows)
        sum += row.total();
    return sum;
}

std::string bill_csv(const std::vector<BillRow>& rows, const std::string& currency) {
    std::string out = "item,what,count,each,total,currency,guessed,used for,alternatives\n";
    for (const BillRow& r : rows)
        out += fmt::format("{},{},{:g},{:.2f},{:.2f},{},{},{},{}\n", csv_field(r.item), csv_field(r.what), r.count,
                           r.each, r.total(), csv_field(currency), r.guessed ? "yes" : "no", csv_field(r.used_for),
                           csv_field(r.alternatives));
    return out;
}

Bench copy_build(const Bench& bench, const std::string& board, const std::string& place) {
    Bench out = bench;
    const BoardUse* use = bench.board(board);
    if (!use) return out;
    BoardUse copy = *use;
    copy.name = use->name + ", " + place;
    copy.id = out.free_id(copy.name);
    copy.link = {};
    copy.uplink = {};
    out.boards.push_back(copy);
    std::map<std::string, std::string> modules, readings;
    for (const Module& m : bench.modules) {
        if (m.board != board) continue;
        Module again = m;
        again.id = out.free_id(m.name);
        again.board = copy.id;
        modules[m.id] = again.id;
        out.modules.push_back(again);
    }
    for (const Reading& r : bench.readings) {
        if (r.wiring.board != board) continue;
        Reading again = r;
        again.name = r.name + ", " + place;
        again.id = out.free_id(again.name);
        again.quantity.place = place;
        again.wiring.board = copy.id;
        again.wiring.ticked.clear();
        again.wiring.mended.clear();
        if (const auto at = modules.find(r.wiring.module); at != modules.end()) again.wiring.module = at->second;
        again.correction.reset(); // a calibration belongs to one probe
        again.path.name = again.name;
        readings[r.id] = again.id;
        out.readings.push_back(again);
    }
    for (Reading& r : out.readings)
        if (r.wiring.board == copy.id)
            if (const auto at = readings.find(r.sensor.shared_with); at != readings.end())
                r.sensor.shared_with = at->second;
    for (Module& m : out.modules)
        if (m.board == copy.id) {
            if (const auto at = readings.find(m.switched_by); at != readings.end()) m.switched_by = at->second;
            if (const auto at = modules.find(m.module); at != modules.end()) m.module = at->second;
        }
    return out;
}

} // namespace cognitum
