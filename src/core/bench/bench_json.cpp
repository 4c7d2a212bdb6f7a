#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/bench/limits.h"
#include "core/bench/stored.h"
#include "core/bench/stored_control.h"
#include "core/bench/stored_sessions.h"
#include "core/bench/stored_watch.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

/// A list of things with an id each, which stands once; no longer than a person makes it.
struct ItemsForm {
    template <typename T>
    Json write(const std::vector<T>& items) const {
        return PlainForm{}.write(items);
    }
    template <typename T>
    Result<void> read(const JsonReader& json, std::vector<T>& out) const {
        COGNITUM_TRY(items, json.items());
        if (items.size() > most_items)
            return json.error(phrase("there are {} of them; at most {} are read.", items.size(), most_items));
        for (const JsonReader& item : items) {
            COGNITUM_TRY(read, read_described<T>(item));
            if (std::any_of(out.begin(), out.end(), [&](const T& known) { return known.id == read.id; }))
                return item.error(phrase("the id \"{}\" is used twice.", read.id), "id");
            out.push_back(std::move(read));
        }
        return {};
    }
};

/// Without the prices, which read_bench() and bench_json() add.
template <>
struct Description<Bench> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("bench", &Bench::name)
            .always("place", &Bench::place)
            .may("where", &Bench::where)
            .must("boards", &Bench::boards, ItemsForm{})
            .must("readings", &Bench::readings, ItemsForm{})
            .may("modules", &Bench::modules, ItemsForm{})
            .may("references", &Bench::references, ItemsForm{})
            .may("sessions", &Bench::sessions, ItemsForm{})
            .may("session_rules", &Bench::session_rules, ItemsForm{})
            .may("watch_rules", &Bench::watch_rules, ItemsForm{})
            .may("controls", &Bench::controls, ItemsForm{})
            .may("telling", &Bench::telling)
            .may("publishing", &Bench::publishing)
            .may("page", &Bench::page)
            .known("prices");
    }
};

Json prices_json(const Bench& bench) {
    Json out = Json::object();
    if (bench.prices.empty() && bench.currency == Bench{}.currency) return out;
    out["currency"] = bench.currency;
    out["each"] = Json::object();
    for (const Price& price : bench.prices)
        out["each"][price.item] = price.each;
    return out;
}

Result<void> read_prices(const JsonReader& json, Bench& bench) {
    return JsonFields(json)
        .may("currency", bench.currency)
        .object("each",
                [&](const JsonReader& each) -> Result<void> {
                    for (const auto& [item, price] : each.json().items()) {
                        if (!price.is_number() || price.get<double>() < 0)
                            return each.error(phrase("a price is a number from 0."), item);
                        bench.prices.push_back({item, price.get<double>()});
                    }
                    return {};
                })
        .done();
}

Json bench_json(const Bench& bench) {
    Json out = write_described(bench);
    if (const Json prices = prices_json(bench); !prices.empty()) out["prices"] = prices;
    return out;
}

Result<void> plan_within_limits(const Bench& bench) {
    const std::size_t most = std::max({bench.readings.size(), bench.boards.size(), bench.modules.size(),
                                       bench.references.size(), bench.sessions.size(), bench.session_rules.size(),
                                       bench.watch_rules.size(), bench.controls.size()});
    if (most <= most_items) return {};
    return failure(phrase(
        "it has {} readings, boards, modules, references, sessions, rules or controls; at most {} of each are "
        "read.",
        most, most_items));
}

Result<Bench> read_bench(const JsonReader& json) {
    COGNITUM_TRY(bench, read_described<Bench>(json));
    if (json.has("prices")) {
        COGNITUM_TRY(prices, json.object("prices"));
        COGNITUM_CHECK(read_prices(prices, bench));
    }
    return bench;
}

} // namespace cognitum
