// Numbers on cards: at each limit a card is read, just beyond it the sentence names the member and what it has to
// be.
#include "core/catalog/cards.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <list>
#include <nlohmann/json.hpp>

using namespace cognitum;

namespace {

struct Limit {
    const char* member; ///< JSON pointer
    Json last, beyond;
    const char* says;
};

Json shipped(const char* path) {
    QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/data/") + QLatin1String(path));
    if (!file.open(QIODevice::ReadOnly)) qFatal("no %s", path);
    return Json::parse(file.readAll().toStdString());
}

/// The error of the card with that member; empty: it is read.
template <typename Read>
std::string trouble(Json card, const char* member, const Json& value, Read read) {
    card[Json::json_pointer(member)] = value;
    const auto text = JsonText::parse("card.json", card.dump());
    if (!text) return text.error().text();
    const auto made = read(JsonReader(*text));
    return made ? std::string() : made.error().text();
}

template <typename Read>
void at_and_beyond(const Json& card, const std::vector<Limit>& limits, Read read) {
    for (const Limit& limit : limits) {
        const std::string at_it = trouble(card, limit.member, limit.last, read);
        QVERIFY2(at_it.empty(), (std::string(limit.member) + ": " + at_it).c_str());
        const std::string beyond = trouble(card, limit.member, limit.beyond, read);
        QVERIFY2(beyond.find(limit.says) != std::string::npos, (std::string(limit.member) + ": " + beyond).c_str());
        const std::string name = std::string(limit.member).substr(std::string(limit.member).rfind('/') + 1);
        if (!name.empty() && name.find_first_not_of("0123456789") != std::string::npos)
            QVERIFY2(beyond.find(name) != std::string::npos, beyond.c_str());
    }
}

/// What a card may leave out, and what is not below zero where it stands.
std::vector<Limit> amounts(const std::string& inside, std::initializer_list<const char*> names) {
    static std::list<std::string> kept;
    std::vector<Limit> out;
    for (const char* name : names)
        out.push_back({kept.emplace_back(inside + "/" + name).c_str(), 0, -1e-9, "not below zero"});
    return out;
}

Json many(const Json& item, int count, const char* numbered) {
    Json out = Json::array();
    for (int i = 0; i < count; ++i) {
        out.push_back(item);
        out.back()[numbered] = "n" + std::to_string(i);
    }
    return out;
}

constexpr const char* above_zero = "must be above zero";

} // namespace

class TestCardLimits : public QObject {
    Q_OBJECT

  private slots:
    void sensors() {
        const Json card = shipped("parts/analog-thermometer-with-offset.json");
        const Json leg = {{"label", "a"}, {"role", "ground"}};
        at_and_beyond(card,
                      {{"/measures/0/low", 124.999, 125, "low must be below high"},
                       {"/measures/0/high", -39.999, -40, "low must be below high"},
                       {"/measures/0/accuracy", 1e-9, 0, above_zero},
                       {"/measures/0/unit", "degC", "mm", "no unit of temperature"},
                       {"/measures/0/quantity", "temperature", "warmth", "not known"},
                       {"/measures/0/limits", Json::array({{{"low", 0}, {"high", 70}, {"accuracy", 0}}}),
                        Json::array({{{"low", 70}, {"high", 70}, {"accuracy", 0}}}), "low must be below high"},
                       {"/measures/0/limits/0",
                        {{"low", 0}, {"high", 70}, {"accuracy", 0}, {"percent", 0}},
                        {{"low", 0}, {"high", 70}, {"accuracy", -0.1}},
                        "not below zero"},
                       {"/measures/0/limits/0",
                        {{"low", 0}, {"high", 70}, {"accuracy", 0}, {"percent", 0}},
                        {{"low", 0}, {"high", 70}, {"accuracy", 1}, {"percent", -0.1}},
                        "not below zero"},
                       {"/measures", card["measures"], Json::array(), "at least one quantity"},
                       {"/supply/low_V", 5.49, 5.5, "low_V must be below high_V"},
                       {"/supply/peak_mA", 0.05, 0.049, "cannot be below the typical"},
                       {"/legs", many(leg, 2, "label"), many(leg, 1, "label"), "at least two legs"},
                       {"/legs", many(leg, 64, "label"), many(leg, 65, "label"), "at most 64 legs"},
                       {"/legs/1/label", "out", "supply", "listed twice"},
                       {"/legs/1/role", "output", "exit", "role is one of"},
                       {"/price", "€€€", "€€€€", "price class"},
                       {"/price", "€", "", "price class"},
                       {"/id", "a", "", "words joined by hyphens"},
                       {"/id", "a-b", "a b", "words joined by hyphens"},
                       {"/id", "a_b", "../a", "words joined by hyphens"},
                       {"/kind", "sensor", "thing", "a kind is one of"},
                       {"/driver", "", "magic", "a driver is one of"},
                       {"/failure_values", Json::array({{{"value", "-127"}, {"means", "gone"}}}),
                        Json::array({{{"means", "gone"}}}), "say which value"}},
                      read_part_card);
        at_and_beyond(card,
                      amounts("", {"response_s", "warm_up_s", "minimum_interval_s", "sample_s", "dead_zone_mm",
                                   "beam_deg", "self_heating_K", "decoupling_nF", "needs_pull_up_ohm"}),
                      read_part_card);
        at_and_beyond(card, amounts("/measures/0", {"accuracy_percent", "resolution", "drift_per_year"}),
                      read_part_card);
        at_and_beyond(card, amounts("/supply", {"typical_mA"}), read_part_card);
        at_and_beyond(card,
                      amounts("/interface", {"max_kHz", "pull_up_ohm", "capacitance_pF", "conversion_ms", "high_V",
                                             "low_threshold_V"}),
                      read_part_card);
    }

    void networksAndDividers() {
        at_and_beyond(shipped("parts/ldr-divider.json"),
                      {{"/divider/fixed_ohm", 1e-9, 0, above_zero},
                       {"/divider/unknown", "bottom", "left", "must be top or bottom"},
                       {"/divider/tol_fixed_ohm", 0, -1, "not below zero"}},
                      read_part_card);
        at_and_beyond(
            shipped("parts/current-clamp.json"),
            {{"/network/ohm", 1e-9, 0, above_zero}, {"/network/kind", "bias", "filter", "a shunt or a bias"}},
            read_part_card);
    }

    void modules() {
        const Json card = shipped("parts/converter-16bit-4ch.json");
        at_and_beyond(card,
                      {{"/channels/count", 1, 0, "from 1 to 64"},
                       {"/channels/count", 64, 65, "from 1 to 64"},
                       {"/channels/bits", 0, -1, "from 0 to 32"},
                       {"/channels/bits", 32, 33, "from 0 to 32"},
                       {"/interface/addresses", Json::array({"0x08"}), Json::array({"0x07"}), "no 7-bit address"},
                       {"/interface/addresses", Json::array({"0x77"}), Json::array({"0x78"}), "no 7-bit address"},
                       {"/interface/addresses", Json::array({72}), Json::array({"72h"}), "is written as"},
                       {"/interface/addresses", Json::array({"72"}), Json::array(), "at least one address"},
                       {"/interface/kind", "i2c", "i3c", "an interface is one of"},
                       {"/measures", Json::array(), Json::array({1}), "measures"}},
                      read_part_card);
        at_and_beyond(card, amounts("/channels", {"tolerance", "samples_per_s", "resistance_ohm"}), read_part_card);
    }

    void boards() {
        const Json card = shipped("boards/board-5v-8bit-6-analog.json");
        const Json pin = {{"label", "x"}, {"port", 1}, {"functions", Json::array({"digital"})}};
        at_and_beyond(card,
                      {{"/bits", 1, 0, "from 1 to 32"},
                       {"/bits", 32, 33, "from 1 to 32"},
                       {"/input_limit_V", 1e-9, 0, above_zero},
                       {"/logic_V", 1e-9, 0, above_zero},
                       {"/high_threshold_V", 1e-9, 0, above_zero},
                       {"/references/0/voltage_V", 1e-9, 0, above_zero},
                       {"/references/1/tol_voltage_V", 0, -1e-9, "not below zero"},
                       {"/references/1/stability_V", 0, -1e-9, "not below zero"},
                       {"/references/0/follows", "3V3", "12V", "that is not there"},
                       {"/references", card["references"], Json::array(), "at least one reference"},
                       {"/rails/0/voltage_V", 1e-9, 0, above_zero},
                       {"/rails/1/tol_voltage_V", 0, -1e-9, "not below zero"},
                       {"/rails/1/stability_V", 0, -1e-9, "not below zero"},
                       {"/rails/1/current_mA", 1e-9, 0, above_zero},
                       {"/pins", many(pin, 200, "label"), many(pin, 201, "label"), "at most 200 pins"},
                       {"/pins/0/direction", "in", "out", "both or in"},
                       {"/pins/0/boot", "low", "middle", "high or low"},
                       {"/pins/0/label", "zero", "1", "listed twice"},
                       {"/pins/0/functions", Json::array({"analog"}), Json::array({"tea"}), "a function is one of"},
                       {"/pins/0/drive_mA", 0, -1, "not below zero"}},
                      read_board_card);
        at_and_beyond(card,
                      amounts("", {"usable_low_V", "usable_high_V", "input_Mohm", "source_ohm_max",
                                   "analog_limit_V", "drive_mA", "pins_total_mA", "input_low_V", "input_high_V",
                                   "asleep_mA", "awake_mA", "transmitting_mA", "usb_mA", "i2c_pull_up_ohm"}),
                      read_board_card);
        at_and_beyond(card, amounts("/regulator", {"dropout_V", "limit_mA", "K_per_W"}), read_board_card);
    }
};

RUN_TESTS_OF(TestCardLimits)
#include "tst_card_limits.moc"
