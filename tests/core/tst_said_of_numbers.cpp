// Each number of cards and of a bench's plan, small, large, of nothing and below zero: whether it is taken, and
// what is said where it is not; beside what was read by a person and kept in tests/fixtures/said.
#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <QDir>
#include <functional>

using namespace cognitum;

namespace {

/// What is wrong with a text of that kind; empty: it is read.
using Trouble = std::function<std::string(const Json&)>;

template <typename Read>
Trouble trouble_of(Read read) {
    return [read](const Json& json) {
        const auto text = JsonText::parse("it.json", json.dump());
        if (!text) return text.error().what;
        const auto made = read(JsonReader(*text));
        return made ? std::string() : made.error().what;
    };
}

/// Pointers of all numbers, with their places in lists left out: "/legs/*/top_ohm".
void numbers_in(const Json& json, const std::string& at, const std::string& plain,
                std::vector<std::pair<std::string, std::string>>& out) {
    if (json.is_number()) out.emplace_back(plain, at);
    if (!json.is_structured()) return;
    for (const auto& [key, value] : json.items())
        numbers_in(value, at + "/" + key, plain + "/" + (json.is_array() ? "*" : key), out);
}

class NumbersOf {
  public:
    NumbersOf(const char* what, Trouble trouble, std::vector<double> tried)
        : m_what(what), m_trouble(std::move(trouble)), m_tried(std::move(tried)) {}

    /// Tries the numbers at places that were in none before.
    void add(const Json& json) {
        if (const std::string sound = m_trouble(json); !sound.empty()) qFatal("%s", sound.c_str());
        std::vector<std::pair<std::string, std::string>> numbers;
        numbers_in(json, "", "", numbers);
        for (const auto& [plain, pointer] : numbers)
            if (m_known.insert(plain).second) m_said[plain] = tried(json, pointer);
    }
    [[nodiscard]] std::string said() const {
        std::string out;
        for (const auto& [plain, said] : m_said)
            out += fmt::format("{} {}:{}", m_what, plain, said);
        return out;
    }

  private:
    [[nodiscard]] std::string tried(const Json& json, const std::string& pointer) const {
        std::string taken;
        std::map<std::string, std::string> refused;
        for (const double other : m_tried) {
            Json changed = json;
            changed[Json::json_pointer(pointer)] = other == std::floor(other) && std::abs(other) < 1e10
                                                       ? Json(static_cast<std::int64_t>(other))
                                                       : Json(other);
            const std::string why = m_trouble(changed);
            (why.empty() ? taken : refused[why]) += " " + test::five_digits(other);
        }
        std::string out = taken + "\n";
        for (const auto& [why, numbers] : refused)
            test::add_said(out, "not", numbers.substr(1) + ": " + why);
        return out;
    }

    const char* m_what;
    Trouble m_trouble;
    std::vector<double> m_tried;
    std::set<std::string> m_known;
    std::map<std::string, std::string> m_said;
};

Json json_of(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) qFatal("no %s", qPrintable(path));
    return Json::parse(file.readAll().toStdString());
}

QStringList files_of(const char* folder) {
    const QDir dir(QStringLiteral(COGNITUM_SOURCE_DIR "/data/") + QLatin1String(folder));
    QStringList out;
    for (const QString& name : dir.entryList({"*.json"}, QDir::Files, QDir::Name))
        out << dir.filePath(name);
    return out;
}

} // namespace

class TestSaidOfNumbers : public QObject {
    Q_OBJECT

  private slots:
    void onCards() {
        const std::vector<double> tried = {-300, -1, -1e-9, 0,   1e-9, 0.5, 1,     1.5, 2,   7,
                                           8,    30, 64,    127, 128,  1e3, 65536, 1e9, 1e13};
        NumbersOf parts("part", trouble_of(read_part_card), tried),
            boards("board", trouble_of(read_board_card), tried);
        for (const QString& path : files_of("parts"))
            parts.add(json_of(path));
        for (const QString& path : files_of("boards"))
            boards.add(json_of(path));
        test::compare_said("numbers_on_cards", parts.said() + boards.said());
    }
    void inAPlan() {
        NumbersOf plans("plan", trouble_of(read_bench),
                        {-1, 0, 0.5, 1, 1440, 1e9}); // a plan takes its time to be read
        for (const QString& path : files_of("demo"))
            plans.add(json_of(path));
        Json more = json_of(files_of("demo").front()); // what that plan leaves out
        for (const char* key : {"supply_V", "adapter_V", "bytes_per_line", "sleep_s", "wake_s", "upload_s",
                                "quota_s", "i2c_kHz", "i2c_pull_up_ohm", "ambient_degC"})
            more["boards"][0][key] = 7;
        for (const char* key : {"change_s", "stale_s", "sample_s"})
            more["readings"][0]["quantity"][key] = 7;
        more["readings"][0]["wiring"]["own_supply_V"] = more["readings"][0]["wiring"]["address"] = 7;
        more["readings"][0]["quantity"]["vessel"] = {
            {"shape", "frustum"}, {"width_mm", 800}, {"length_mm", 0},     {"height_mm", 900},  {"mount_mm", 1000},
            {"full_mm", 800},     {"empty_mm", 10},  {"diameter_mm", 500}, {"bulge_percent", 1}};
        plans.add(more);
        test::compare_said("numbers_in_a_plan", plans.said());
    }
    /// A file that was cut, or in which one character is another: what is said, and of which line.
    void brokenFiles() {
        const std::string whole =
            "{\n \"schema\": 1,\n \"list\": [1, 2.5, \"a\\n[b\"],\n \"in\": {\"x\": true}\n}\n";
        std::string out;
        const auto add = [&](const std::string& what, const std::string& text) {
            const auto parsed = JsonText::parse("it.json", text);
            const std::string said = parsed ? "read" : parsed.error().text();
            test::add_said(out, what.c_str(), said.substr(0, said.find(" - "))); // behind it the library goes on
        };
        for (std::size_t cut = 0; cut <= whole.size(); cut += 2)
            add(fmt::format("first {}", cut), whole.substr(0, cut));
        for (const char other : {'x', '"', '}', '\0'})
            for (std::size_t at = 0; at < whole.size(); at += 3) {
                std::string text = whole;
                text[at] = other;
                add(fmt::format("{:02x} at {}", other, at), text);
            }
        add("1e400", "[1e400]");
        add("not UTF-8", "{\"a\": \"\xff\"}");
        test::compare_said("broken_files", test::each_line_once(out));
    }
    /// A value of another kind at each place of a card: what is said, and of which line.
    void valuesOfAnotherKind() {
        std::string out;
        std::set<std::string> known;
        const auto add = [&](const char* what, const QString& path, const auto& read) {
            const Json whole = json_of(path);
            for (const auto& [key, value] : whole.items()) {
                const std::string name = fmt::format("{} {}", what, key);
                if (!known.insert(name).second) continue;
                std::map<std::string, std::string> refused;
                for (const Json& other :
                     {Json(nullptr), Json(true), Json(-1), Json("x"), Json::array(), Json::object()}) {
                    Json changed = whole;
                    changed[key] = other;
                    const auto text = JsonText::parse("it.json", changed.dump(1));
                    const auto made = read(JsonReader(*text));
                    if (!made) refused[made.error().text()] += " " + other.dump();
                }
                for (const auto& [why, values] : refused)
                    test::add_said(out, (name + values).c_str(), why);
            }
        };
        for (const QString& path : files_of("parts"))
            add("part", path, read_part_card);
        for (const QString& path : files_of("boards"))
            add("board", path, read_board_card);
        test::compare_said("values_of_another_kind", out);
    }
};

RUN_TESTS_OF(TestSaidOfNumbers)
#include "tst_said_of_numbers.moc"
