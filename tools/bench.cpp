// Speed, each figure beside a baseline of the same run: what each is stands with its target below. Prints
// one JSON object. Run it through tools/bench; it is no test.
#include "bench_parts.h"
#include "core/decode/table_decoder.h"
#include "core/plan/assign.h"
#include "core/plan/findings.h"
#include "core/signal_path/chain.h"
#include "core/units/quantity_kind.h"
#include "store/file/data_files.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <functional>
#include <random>
#include <sstream>
#include <string>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

using namespace cognitum;
using namespace cognitum::bench;

namespace {

Json p3() {
    std::string text;
    std::mt19937 random(2);
    char line[64];
    for (int i = 0; text.size() < 100'000'000; ++i) {
        const int length =
            std::snprintf(line, sizeof line, "%d,%u,%.2f\n", i, static_cast<unsigned>(random() % 1024),
                          static_cast<double>(random() % 10000) / 100);
        text.append(line, static_cast<std::size_t>(length));
    }
    double sum = 0;
    double check = 0;
    const Pair t = alternate(
        5,
        [&] {
            TableDecoder decoder;
            RecordBatch batch;
            sum = 0;
            for (std::size_t at = 0; at < text.size(); at += 1 << 16) {
                batch.clear();
                decoder.feed(std::string_view(text).substr(at, 1 << 16), batch);
                for (const double v : batch.values)
                    sum += v;
            }
        },
        [&] {
            std::istringstream in(text);
            std::string row;
            std::vector<double> values;
            check = 0;
            while (std::getline(in, row)) {
                values.clear();
                for (char* p = row.data(); *p;) {
                    values.push_back(std::strtod(p, &p));
                    if (*p == ',') ++p;
                }
                for (const double v : values)
                    check += v;
            }
        });
    const double ratio = t.baseline / t.ours;
    const double mb_s = static_cast<double>(text.size()) / 1e6 / t.ours;
    const bool same = std::abs(sum - check) <= 1e-9 * std::abs(check);
    return {{"what", "decode 100 MB of a,b,c lines, s; baseline std::getline and strtod"},
            {"value", t.ours},
            {"baseline", t.baseline},
            {"ratio", ratio},
            {"MB_per_s", mb_s},
            {"same_values", same},
            {"target", "ratio >= 5 and >= 100 MB/s"},
            {"met", same && ratio >= 5 && mb_s >= 100}};
}

/// Seconds that a command takes; NaN when it fails.
double run_s(const std::string& command) {
    int status = 0;
    const double s = time_s([&] { status = std::system(command.c_str()); });
    return WIFEXITED(status) && WEXITSTATUS(status) == 0 ? s : std::nan("");
}

Json p8(const std::string& folder) {
    // Both programs end by themselves after their first painted frame. The demo bench is made before the clock
    // runs.
    const std::string window = folder + "/cognitum --demo --until-painted";
    const std::string bare = folder + "/cognitum-bare-window";
    run_s(window);
    run_s(bare);
    std::vector<double> a, b;
    for (int i = 0; i < 9; ++i) {
        a.push_back(run_s(window));
        b.push_back(run_s(bare));
    }
    const double ratio = median(a) / median(b);
    return {
        {"what", "start to first painted window with the demo bench, s; baseline a bare Qt window with one plot"},
        {"value", median(a)},
        {"baseline", median(b)},
        {"ratio", ratio},
        {"target", "ratio <= 2"},
        {"met", ratio <= 2}};
}

/// What a program says as one JSON object; discarded when it says nothing.
Json told_by(const std::string& command) {
    FILE* run = ::popen(command.c_str(), "r");
    std::string text;
    char piece[512];
    while (run && std::fgets(piece, sizeof piece, run))
        text += piece;
    if (run) ::pclose(run);
    return Json::parse(text, nullptr, false);
}

Json convert_redraw(const std::string& folder) {
    const Json told = told_by(folder + "/cognitum-redraw");
    if (told.is_discarded()) return {{"what", "the Convert stop was not drawn"}, {"met", false}};
    const double typed = told["typed_ms"].get<double>(), edited = told["edited_ms"].get<double>();
    return {{"what",
             "a number typed at the Convert stop until it is drawn, ms; beside it a constant changed in the plan"},
            {"value", typed},
            {"baseline", 16.0},
            {"ratio", typed / 16},
            {"edited_ms", edited},
            {"typed_95_ms", told["typed_95_ms"]},
            {"edited_95_ms", told["edited_95_ms"]},
            {"one_of_1000_points_toggled_ms", told["toggled_ms"]},
            {"toggled_95_ms", told["toggled_95_ms"]},
            {"target", "<= 16 ms"},
            {"met", typed <= 16 && edited <= 16 && told["toggled_ms"].get<double>() <= 16}};
}

Json p5(const std::string& folder) {
    const Json told = told_by(folder + "/cognitum-live-load");
    if (told.is_discarded()) return {{"what", "live load did not run"}, {"met", false}};
    const double cores = told["cores"];
    // A header line is read, too; samples still waiting at the end are in memory, not lost.
    const double lost = told["samples_sent"].get<double>() - told["samples_saved"].get<double>();
    Json out = {{"what", "20 readings at 1000 lines/s, window open, recording; share of one core"},
                {"value", cores},
                {"baseline", told["samples_sent"]},
                {"ratio", lost / told["samples_sent"].get<double>()},
                {"target", "value <= 0.5, ratio (lost) 0"},
                {"met", cores <= 0.5 && lost <= 0}};
    out["told"] = told;
    return out;
}

Json p16(const std::string& folder) {
    double seen = 0, hidden = 0;
    Json each = Json::object();
    for (const char* where : {"overview", "4", "5"}) {
        const Json told = told_by(folder + "/cognitum-at-rest " + where);
        if (told.is_discarded()) return {{"what", "the window did not run"}, {"met", false}};
        seen = std::max(seen, told["seen"].get<double>());
        hidden = std::max(hidden, told["hidden"].get<double>());
        each[where] = told["seen"];
    }
    return {
        {"what", "window at rest with the demo, share of one core: the worst of Overview, Raw and Convert; hidden"},
        {"value", seen},
        {"hidden", hidden},
        {"each", each},
        {"target", "value <= 0.05, hidden <= 0.02"},
        {"met", seen <= 0.05 && hidden <= 0.02}};
}

Json p15(const std::string& folder) {
    constexpr const char* a_week_in_ten_minutes = " 1000 7";
    // The last 20 000 lines of each board are kept; slow boards fill that for weeks.
    constexpr double most_grown_MB = 3;
    const Json told = told_by(folder + "/cognitum-recorder-week " + folder + a_week_in_ten_minutes);
    if (told.is_discarded() || !told["at_rest"].contains("share") || !told["week"].is_array())
        return {{"what", "the recorder did not run"}, {"met", false}};
    const double share = told["at_rest"]["share"];
    const double memory = told["at_rest"]["resident_MB"];
    const Json& first = told["week"][2]; // by then every part has worked once
    const Json& last = told["week"].back();
    const auto own = [](const Json& day) {
        return day["heap_MB"].get<double>() - day["database_cache_MB"].get<double>();
    };
    const double grown = own(last) - own(first);
    const bool flat = grown <= most_grown_MB && last["descriptors"] <= first["descriptors"] &&
                      last["threads"] <= first["threads"];
    return {{"what",
             "recorder at rest with the demo's four boards: share of one core; MB; a week at 1000 times the speed"},
            {"value", share},
            {"resident_MB", memory},
            {"heap_grown_MB", grown},
            {"week", told["week"]},
            {"target", "value <= 0.02, resident_MB <= 60, heap_grown_MB <= 3, no descriptor or thread more"},
            {"met", share <= 0.02 && memory <= 60 && flat}};
}

/// `readings` readings of mixed kinds on `boards` boards of two kinds, without pins.
Bench large_bench(int readings, int boards) {
    static const std::pair<const char*, const char*> parts[] = {{"temperature", "analog-thermometer-with-offset"},
                                                                {"temperature", "one-wire-thermometer"},
                                                                {"temperature", "ntc-10k-in-divider"},
                                                                {"rain", "tipping-bucket"},
                                                                {"level", "echo-ranger-sealed"},
                                                                {"pressure", "air-pressure-humidity-i2c"},
                                                                {"contact", "reed-contact"},
                                                                {"temperature", "thermocouple-k-spi"},
                                                                {"light", "light-i2c"},
                                                                {"motion", "motion-infrared"}};
    Bench bench;
    for (int i = 0; i < boards; ++i) {
        BoardUse use;
        use.id = use.name = "board-" + std::to_string(i);
        use.card = i % 2 ? "board-3v3-12bit-wifi" : "board-5v-8bit-6-analog";
        use.radio_on = i % 2;
        bench.boards.push_back(use);
    }
    for (int i = 0; i < readings; ++i) {
        const auto& [kind, part] = parts[i % 10];
        Reading r;
        r.id = r.name = "reading-" + std::to_string(i);
        const QuantityKind* k = find_quantity_kind(kind);
        r.quantity.kind = kind;
        r.quantity.unit = k->units[0];
        r.quantity.low = k->low;
        r.quantity.high = k->high;
        r.quantity.accuracy = k->accuracy;
        r.sensor.part = part;
        // Bus parts that need 3.3 V sit on the boards that have it.
        const int board = i % boards;
        r.wiring.board = bench.boards[static_cast<std::size_t>(board)].id;
        bench.readings.push_back(r);
    }
    return bench;
}

Json p11() {
    const Catalog catalog = load_catalog().catalog;
    Bench large = assign_pins(large_bench(60, 10), catalog, Keep::fixed).bench;
    Bench one = assign_pins(large_bench(1, 1), catalog, Keep::fixed).bench;
    std::size_t found = 0;
    int turn = 0;
    const auto edit_and_check = [&](Bench& bench) {
        bench.readings[0].quantity.accuracy = 1 + ++turn % 3;
        found += check_bench(bench, catalog).size();
    };
    const Pair t = alternate(
        9, [&] { edit_and_check(large); }, [&] { edit_and_check(one); });
    keep(&found);
    return {{"what", "findings after one edit, 60 readings on 10 boards, s; baseline one reading on one board"},
            {"value", t.ours},
            {"baseline", t.baseline},
            {"ratio", t.ours / t.baseline},
            {"target", "value <= 0.050"},
            {"met", t.ours <= 0.05}};
}

Json p12() {
    const Catalog catalog = load_catalog().catalog;
    Bench large = large_bench(60, 10);
    const Bench one = large_bench(1, 1);
    const Bench first = assign_pins(large, catalog, Keep::fixed).bench;
    std::mt19937 random(12);
    bool independent = true;
    const Pair t = alternate(
        7,
        [&] {
            std::shuffle(large.readings.begin(), large.readings.end(), random);
            std::shuffle(large.boards.begin(), large.boards.end(), random);
            const Bench again = assign_pins(large, catalog, Keep::fixed).bench;
            for (const Reading& r : first.readings)
                independent = independent && again.reading(r.id)->wiring.pins == r.wiring.pins;
        },
        [&] { keep(assign_pins(one, catalog, Keep::fixed).bench.readings.data()); });
    return {{"what", "pin assignment from scratch, 60 readings on 10 boards, s; baseline one reading on one board"},
            {"value", t.ours},
            {"baseline", t.baseline},
            {"ratio", t.ours / t.baseline},
            {"independent_of_order", independent},
            {"target", "value <= 1, independent of input order"},
            {"met", t.ours <= 1 && independent}};
}

Json p13(const std::string& folder) {
    const std::string numbers = folder + "/bench-numbers.txt", chain = folder + "/bench-chain.json";
    {
        std::ofstream out(numbers);
        std::mt19937 random(13);
        for (int i = 0; i < 1'000'000; ++i) // codes, and means of codes
            out << (i % 2 ? static_cast<double>(random() % 1022 + 1)
                          : static_cast<double>(random() % 102200 + 1) / 100)
                << '\n';
        std::ofstream(chain) << R"({"name": "hut air", "input_unit": "count", "stages": [
            {"stage": "adc", "bits": 10, "reference_V": 5.0}, {"stage": "linear", "zero": 0.5, "slope": 0.01,
            "input_unit": "V", "unit": "degC"}, {"stage": "correction", "offset": -0.62, "unit": "degC"}]})";
    }
    bool went = true;
    const auto run = [&](const std::string& command) { went = std::system(command.c_str()) == 0 && went; };
    const auto against = [&](const std::string& option) {
        return alternate(
            7,
            [&] {
                run(folder + "/cognitum-cli convert" + option + " " + chain + " < " + numbers + " > /dev/null");
            },
            [&] {
                run("mawk '{printf \"%.8g °C\\n\", (($1 + 0.5) * 5 / 1024 - 0.5) / 0.01 - 0.62}' < " + numbers +
                    " > /dev/null");
            });
    };
    const Pair words = against(""), json = against(" --json");
    std::remove(numbers.c_str());
    std::remove(chain.c_str());
    const double times = std::min(words.baseline / words.ours, json.baseline / json.ours);
    return {{"what", "cognitum-cli convert of 10^6 numbers through three stages, s; baseline the same in mawk"},
            {"value", words.ours},
            {"json", json.ours},
            {"baseline", words.baseline},
            {"ratio", times},
            {"target", "3 times as fast, as text and as JSON"},
            {"met", went && times >= 3}};
}

} // namespace

int main(int argc, char** argv) {
    const std::string program = argv[0];
    const std::string folder = program.substr(0, program.rfind('/'));
    const auto want = [&](const char* id) {
        if (argc < 2) return true;
        return std::any_of(argv + 1, argv + argc, [&](const char* a) { return std::strcmp(a, id) == 0; });
    };
    Json out = Json::object();
    if (want("P1")) out["P1"] = p1();
    if (want("P2")) out["P2"] = p2();
    if (want("P3")) out["P3"] = p3();
    if (want("P4")) out["P4"] = p4(folder);
    if (want("P6") || want("P7")) {
        const auto [opened, moved] = p6_p7(folder);
        out["P6"] = opened;
        out["P7"] = moved;
    }
    if (want("P10")) out["P10"] = p10();
    if (want("growth")) out["growth"] = growth();
    if (want("P5")) out["P5"] = p5(folder);
    if (want("P15")) out["P15"] = p15(folder);
    if (want("P16")) out["P16"] = p16(folder);
    if (want("P8")) out["P8"] = p8(folder);
    if (want("P9")) out["P9"] = {{"draws", p9_draws()}, {"fits", p9_fits()}};
    if (want("convert")) out["convert"] = convert_redraw(folder);
    if (want("beats")) out["beats"] = beats_of_ten_million();
    if (want("rain")) out["rain"] = rain_of_a_million();
    if (want("P11")) out["P11"] = p11();
    if (want("P12")) out["P12"] = p12();
    if (want("P13")) out["P13"] = p13(folder);
    if (want("P14")) out["P14"] = p14();
    std::puts(out.dump(1).c_str());
    return 0;
}
