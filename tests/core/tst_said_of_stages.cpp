// What each stage makes of numbers in its range, at its ends, at zero and beyond them: the value or why there is
// none, the way back, its arithmetic and its doubt, beside what was read by a person and kept in
// tests/fixtures/said/stages.txt. Over whole arrays the same comes out as one by one.
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "support/chains.h"
#include "support/run_tests.h"
#include "support/said.h"

using namespace cognitum;
using test::five_digits;

namespace {

struct Tried {
    const char* stage;
    std::vector<double> inputs;
};
const std::vector<Tried> tried_stages = {
    {R"({"stage":"adc","bits":10,"reference_V":5,"tol_reference_V":0.05})", {-1, 0, 1, 512, 1022, 1023, 1024}},
    {R"({"stage":"adc","bits":12,"reference_V":3.3,"convention":"2^N-1","centre":false})",
     {0, 1, 2047, 4094, 4095}},
    {R"({"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"})", {-1, 0, 0.5, 0.75}},
    {R"({"stage":"linear","zero":-0.5,"slope":0.032,"input_unit":"V","unit":"mS/cm"})", {-0.5, 0, 1}},
    {R"({"stage":"linear","zero":0.1,"slope":0.0004,"input_unit":"1","unit":"mm"})", {0.1, 0.5}},
    {R"({"stage":"scale","factor":0.2,"u_factor":0.01,"input_unit":"count","unit":"mm"})", {0, 1, 250}},
    {R"({"stage":"scale","factor":-2,"offset":3,"input_unit":"V","unit":"mm"})", {-1, 0, 1.5}},
    {R"({"stage":"divider","fixed_ohm":10000,"unknown":"top","supply_V":3.3})", {-0.1, 0, 1e-6, 1.1, 3.3, 3.4}},
    {R"({"stage":"divider","fixed_ohm":10000,"unknown":"bottom","supply_V":3.3})", {-0.1, 0, 1e-6, 1.1, 3.3, 3.4}},
    {R"({"stage":"divider","fixed_ohm":10000,"unknown":"bottom","supply_V":5,"load_ohm":100000})",
     {0.5, 2.5, 4.5, 4.6}},
    {R"({"stage":"divider","fixed_ohm":10000,"unknown":"top","supply_V":5,"load_ohm":100000})", {0.5, 2.5, 4.5}},
    {R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"bottom","bits":10})", {-1, 0, 1, 511, 1022, 1023}},
    {R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"top","bits":10})", {0, 1, 511, 1022, 1023}},
    {R"({"stage":"ratio_divider","fixed_ohm":4700,"unknown":"bottom","bits":12,"load_ohm":1000000})",
     {1, 2048, 4000}},
    {R"({"stage":"ratio","bits":10})", {-1, 0, 1, 512, 1023, 1024}},
    {R"({"stage":"current_loop","shunt_ohm":150,"tol_shunt_ohm":0.15})", {0, 0.539, 0.541, 0.6, 3, 3.149, 3.151}},
    {R"({"stage":"signed_word","bits":16})", {-1, 0, 32767, 32768, 65535, 65536, 0.5}},
    {R"({"stage":"photo_resistor","r10_ohm":14000,"tol_r10_ohm":3000,"gamma":0.7})", {-1, 0, 200, 14000, 90000}},
    {R"({"stage":"thermistor_beta","r0_ohm":10000,"t0_degC":25,"beta_K":3950})", {-1, 0, 100, 10000, 32650, 1e6}},
    {R"({"stage":"thermistor_steinhart_hart","a":1.129148e-3,"b":2.34125e-4,"c":8.76741e-8})",
     {0, 1, 361, 10000, 32650, 1e6}},
    {R"({"stage":"rtd","r0_ohm":100})", {-1, 17, 18.52, 60.26, 100, 138.51, 390.48, 391}},
    {R"({"stage":"thermocouple","type":"K","reference_degC":24,"tol_reference_degC":0.5})",
     {-8, -5, 0, 20, 53, 55}},
    {R"({"stage":"thermocouple","type":"T","reference_degC":0})", {-6.3, -5, 0, 4.279, 20.8, 21}},
    {R"({"stage":"straight_couple","type":"K","reference_degC":22,"u_reference_degC":1})",
     {-250, 0, 100, 900, 1500}},
    {R"({"stage":"infrared","emissivity":0.9,"u_emissivity":0.02,"ambient_degC":21})", {-300, -20, 21, 380}},
    {R"({"stage":"echo","temperature_degC":12})", {-1, 0, 100, 5000, 30000}},
    {R"({"stage":"echo","temperature_degC":30,"humidity":0.8,"pressure_Pa":99000})", {0, 5000, 30000}},
    {R"({"stage":"echo","temperature_degC":-5,"humidity":0.3,"pressure_Pa":85000})", {5000}},
    {R"({"stage":"echo","speed_m_s":340,"u_speed_m_s":2})", {0, 5000}},
    {R"({"stage":"level","mount_height_mm":2100})", {-10, 0, 300, 2099, 2100, 2110, 2300}},
    {R"({"stage":"vessel","shape":"box","length_m":1,"width_m":0.5,"height_m":1})",
     {-20, -1, 0, 400, 1000, 1001, 1100}},
    {R"({"stage":"vessel","shape":"upright-cylinder","diameter_m":1,"height_m":1})", {0, 250, 1000}},
    {R"({"stage":"vessel","shape":"lying-cylinder","diameter_m":1,"length_m":2})", {0, 1, 250, 500, 999, 1000}},
    {R"({"stage":"vessel","shape":"dished-cylinder","diameter_m":1,"length_m":2})", {0, 250, 500, 1000}},
    {R"({"stage":"vessel","shape":"cone","diameter_m":1,"height_m":1})", {0, 250, 500, 1000}},
    {R"({"stage":"vessel","shape":"sphere","diameter_m":1})", {0, 250, 500, 1000}},
    {R"({"stage":"vessel","shape":"strapping","levels_mm":[0,200,900],"volumes_L":[0,50,400]})",
     {-1, 0, 100, 200, 899, 901}},
    {R"({"stage":"vessel","shape":"box","length_m":1,"width_m":0.5,"height_m":1,"bulge":0.03})", {0, 500, 1000}},
    {R"({"stage":"vessel","shape":"stack","sections":[{"shape":"cone","diameter_m":1,"height_m":0.4},
        {"shape":"upright-cylinder","diameter_m":1,"height_m":0.8}]})",
     {0, 200, 400, 401, 1200}},
    {R"({"stage":"conductivity25","temperature_degC":14,"alpha_per_K":0.0191})", {-1, 0, 1.413, 60}},
    {R"({"stage":"conductivity25","temperature_degC":35,"alpha_per_K":0.02})", {1.413}},
    {R"({"stage":"conductivity25","compensation":"natural-water","temperature_degC":8})", {0, 0.5, 60}},
    {R"({"stage":"dissolved_solids","k":0.7,"tol_k":0.05})", {0, 0.5}},
    {R"({"stage":"salinity","temperature_degC":12,"u_temperature_degC":0.1})", {0, 1, 20, 42.914, 60}},
    {R"({"stage":"moist_air","wanted":"dew-point","temperature_degC":18})", {-1, 0, 10, 99, 100, 101}},
    {R"({"stage":"moist_air","wanted":"dew-point","temperature_degC":-12})", {30, 80}},
    {R"({"stage":"moist_air","wanted":"absolute-humidity","temperature_degC":18})", {0, 50, 100}},
    {R"({"stage":"moist_air","wanted":"vapour-pressure-deficit","temperature_degC":28})", {0, 50, 100}},
    {R"({"stage":"sea_level","altitude_m":420,"tol_altitude_m":5})", {0, 900, 1020}},
    {R"({"stage":"sea_level","altitude_m":1200,"temperature_degC":-4})", {880}},
    {R"({"stage":"altitude","base_hPa":1009})", {0, 500, 1009, 1040}},
    {R"({"stage":"gas_at","temperature_degC":38,"u_temperature_degC":1,"reference_degC":20})",
     {-101.4, 0, 220, 400}},
    {R"({"stage":"between","at_0":2.3,"tol_at_0":0.1,"at_100":1.0,"input_unit":"V"})",
     {0.9, 0.934, 0.936, 1, 1.65, 2.3, 2.364, 2.366}},
    {R"({"stage":"between","at_0":0,"at_100":2,"input_unit":"1"})", {-0.1, 0, 1, 2.1}},
    {R"({"stage":"threshold","level":1.2,"hysteresis":0.2,"on":"above","input_unit":"V"})",
     {1, 1.1, 1.2, 1.3, 1.4}},
    {R"({"stage":"threshold","level":300,"on":"below","input_unit":"count"})", {0, 299, 300, 301}},
    {R"({"stage":"table","inputs":[0,1,3,6],"outputs":[0,2,3,9],"input_unit":"V","unit":"mm"})",
     {-0.1, 0, 0.5, 2, 6, 6.1}},
    {R"({"stage":"table","inputs":[891,6570,8200,33000],"outputs":[67.5,22.5,45,0],"input_unit":"ohm","unit":"deg","nearest":true})",
     {30000, 33000, 35000, 36000, 7300, 891, 963, 700}},
    {R"({"stage":"formula","expression":"a * ln(x) + b","names":["a","b"],"a":3,"u_a":0.1,"b":-2,"input_unit":"ohm","unit":"degC"})",
     {-1, 0, 1, 5000}},
    {R"({"stage":"formula","expression":"x ^ 2","low":-2,"high":2,"input_unit":"V","unit":"mm"})",
     {-2, -1, 0, 1.5, 3}},
    {R"({"stage":"correction","offset":-0.62,"u_offset":0.18,"unit":"degC"})", {-1, 0, 20}},
    {R"({"stage":"correction","gain":1.02,"offset":0.3,"unit":"degC"})", {-1, 0, 20}},
    {R"({"stage":"correction","gain":1,"offset":0,"unit":"degC"})", {20}},
    {R"({"stage":"correction_curve","inputs":[0,1,3,6],"outputs":[0,2,3,9],"unit":"mm"})", {-3, 0, 0.5, 2, 6, 8}},
};

void add_stage_value(std::string& out, const Chain& chain, double x) {
    const Stage& stage = chain.stages[0];
    const Value value = forward(stage, x);
    out += fmt::format("  {}", five_digits(x));
    if (value.cause != Cause::none) out += ", " + cause_text(stage, value.cause, x);
    if (!value.ok()) {
        out += "\n";
        return;
    }
    const Walk back = walk_back(chain, value.number);
    const Budget doubt = budget(chain, x);
    out +=
        fmt::format(" → {} ± {}, back {}: {}\n", five_digits(value.number),
                    five_digits(doubt.expanded() < 1e-9 ? 0 : doubt.expanded()),
                    back.cause.empty() ? five_digits(back.steps[0].number) : back.cause, arithmetic_text(stage, x));
}

} // namespace

class TestSaidOfStages : public QObject {
    Q_OBJECT

  private slots:
    void values() {
        std::string out;
        for (const Tried& tried : tried_stages) {
            const Chain chain = test::chain_of(tried.stage);
            out += stage_json(chain.stages[0]).dump() + "\n";
            for (const double x : tried.inputs)
                add_stage_value(out, chain, x);
        }
        test::compare_said("stages", out);
    }
    void arraysAreOneByOne() {
        for (const Tried& tried : tried_stages) {
            const Chain chain = test::chain_of(tried.stage);
            std::vector<double> in = tried.inputs;
            for (const double x : {0.0, -1.0, -1e-9, 1e-9, 1.0, 1e9, double(INFINITY), std::nan("")})
                in.push_back(x);
            std::vector<double> out(in.size());
            forward(chain, in, out);
            for (std::size_t i = 0; i < in.size(); ++i) {
                const Value one = forward(chain, in[i]);
                QVERIFY2(std::isfinite(out[i]) == one.ok(), fmt::format("{} at {}", tried.stage, in[i]).c_str());
                if (one.ok()) CLOSE(out[i], one.number, 1e-9 * (1 + std::abs(one.number)));
            }
        }
    }
    /// From a value back to what is measured: usual values, zero, and what no input gives.
    void waysBack() {
        std::string out;
        for (const Tried& tried : tried_stages) {
            const Chain chain = test::chain_of(tried.stage);
            out += stage_json(chain.stages[0]).dump() + "\n ";
            for (const double y : {-300.0, -1.0, -1e-9, 0.0, 1e-9, 0.5, 1.0, 3.3, 50.0, 100.0, 101.0, 1e4, 1e9}) {
                const Walk back = walk_back(chain, y);
                out += fmt::format(" {}: {};", five_digits(y),
                                   back.cause.empty() ? five_digits(back.steps[0].number) : back.cause);
            }
            out += "\n";
        }
        test::compare_said("stages_back", out);
    }
    /// Each number of each stage, small, large, of nothing and below zero: whether it is taken, and what is said.
    void numbersOfStages() {
        std::string out;
        for (const Tried& tried : tried_stages) {
            const Json stage = Json::parse(tried.stage);
            for (const auto& [key, value] : stage.items()) {
                if (!value.is_number()) continue;
                std::string taken;
                std::map<std::string, std::string> refused;
                for (const double other :
                     {-300.0, -1.0, -1e-9, 0.0,  1e-9, 0.04, 0.05, 0.06, 0.5,  0.99,  1.0, 1.01, 1.5,
                      2.0,    7.0,  8.0,   10.0, 16.0, 24.0, 25.0, 32.0, 33.0, 100.0, 1e3, 1e5,  1e12}) {
                    Json changed = stage;
                    changed[key] = other == std::floor(other) && std::abs(other) < 1e9
                                       ? Json(static_cast<int>(other))
                                       : Json(other);
                    const auto chain = test::read_chain_of(changed.dump());
                    (chain ? taken : refused[chain.error().what]) += " " + five_digits(other);
                }
                out += fmt::format("{} {}:{}\n", stage["stage"].get<std::string>(), key, taken);
                for (const auto& [why, numbers] : refused)
                    add_said(out, "not", numbers.substr(1) + ": " + why);
            }
        }
        test::compare_said("numbers_of_stages", test::each_line_once(out));
    }
};

RUN_TESTS_OF(TestSaidOfStages)
#include "tst_said_of_stages.moc"
