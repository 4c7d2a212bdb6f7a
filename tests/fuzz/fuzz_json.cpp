// Everything that people's JSON is read into: cards, a bench, a chain, the bring-up's tests and questions. What is
// read is used: a chain gives values, a bench is written and read again.
#include "core/bench/bench.h"
#include "core/bringup/guide.h"
#include "core/catalog/cards.h"
#include "core/signal_path/chain.h"
#include "fuzz.h"

#include <cmath>

using namespace cognitum;

HARNESS(json)(const std::uint8_t* data, std::size_t size) {
    const auto text = JsonText::parse("fuzz", std::string(text_of(data, size)));
    if (!text) return 0;
    const JsonReader json(*text);
    (void)read_part_card(json);
    (void)read_board_card(json);
    (void)read_stimuli(json);
    (void)read_symptoms(json);
    if (const auto chain = read_chain(json))
        for (const double x : {0.0, 1.0, 500.0, -3.0, 1e300}) {
            const Walk w = walk(*chain, x);
            PROMISE(w.result().ok() == std::isfinite(w.result().number));
            (void)inverse(*chain, x);
        }
    if (const auto bench = read_bench(json)) {
        const auto again = JsonText::parse("again", bench_json(*bench).dump());
        PROMISE(again);
        const auto same = read_bench(JsonReader(*again));
        PROMISE(same && *same == *bench);
    }
    return 0;
}
