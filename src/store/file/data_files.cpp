#include "store/file/data_files.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <set>
#include <sstream>
#include <sys/stat.h>
#include <unistd.h>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

constexpr std::size_t card_size_limit = 1 << 20;

std::string environment(const char* name) {
    const char* value = std::getenv(name);
    return value ? value : "";
}

std::vector<std::string> json_files(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(folder, code))
        if (entry.path().extension() == ".json") out.push_back(entry.path().string());
    std::sort(out.begin(), out.end());
    return out;
}

template <typename Read>
auto load_json(const std::string& path, Read read) -> decltype(read(std::declval<JsonReader>())) {
    COGNITUM_TRY(text, read_text_file(path, card_size_limit));
    COGNITUM_TRY(document, JsonText::parse(path, text));
    return read(JsonReader(document));
}

template <typename Part, typename Read>
void load_part(const std::string& path, Part& part, std::vector<Error>& problems, Read read) {
    if (auto loaded = load_json(path, read))
        part = std::move(*loaded);
    else
        problems.push_back(loaded.error());
}

template <typename Card, typename Read>
void load_cards(const fs::path& folder, std::vector<Card>& cards, std::vector<Error>& problems, Read read,
                const std::set<std::string>* wanted = nullptr) {
    for (const std::string& path : json_files(folder)) {
        if (wanted && !wanted->contains(fs::path(path).stem().string())) continue;
        auto card = load_json(path, read);
        if (!card) {
            problems.push_back(card.error());
            continue;
        }
        // The user's own card of the same id stands for the shipped one.
        const auto same = std::find_if(cards.begin(), cards.end(), [&](const Card& c) { return c.id == card->id; });
        if (same != cards.end())
            *same = std::move(*card);
        else
            cards.push_back(std::move(*card));
    }
}

} // namespace

Result<int> open_regular_file(const std::string& path) {
    const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    if (file < 0)
        return failure(phrase("the file cannot be read ({}).", std::strerror(errno)), path,
                       phrase("Check its name and permissions."));
    struct stat about {};
    if (::fstat(file, &about) == 0 && S_ISREG(about.st_mode)) return file;
    ::close(file);
    return failure(phrase("this is no file on a disk, but a pipe, a device or a folder."), path,
                   phrase("Choose a file."));
}

Result<std::string> read_text_file(const std::string& path, std::size_t limit) {
    std::error_code code;
    if (!fs::exists(path, code)) return failure(phrase("there is no such file."), path, phrase("Check the name."));
    if (!fs::is_regular_file(path, code)) return failure(phrase("this is not a file."), path);
    if (const auto size = fs::file_size(path, code); size > limit)
        return failure(phrase("the file has {} bytes; at most {} are read.", size, limit), path);
    std::ifstream in(path, std::ios::binary);
    if (!in) return failure(phrase("the file cannot be read."), path, phrase("Ask for permission to read it."));
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

std::string data_folder() {
    if (std::string given = environment("COGNITUM_DATA"); !given.empty()) return given;
    std::error_code code;
    const fs::path program = fs::read_symlink("/proc/self/exe", code);
    return (program.parent_path().parent_path() / "share" / "cognitum").string();
}

LoadedCatalog load_catalog() {
    LoadedCatalog out;
    std::vector<fs::path> folders = {data_folder()};
    if (const std::string own = own_data_folder(); !own.empty()) folders.emplace_back(own);
    for (const fs::path& folder : folders) {
        load_cards(folder / "parts", out.catalog.parts, out.problems, read_part_card);
        load_cards(folder / "boards", out.catalog.boards, out.problems, read_board_card);
        load_cards(folder / "recipes", out.recipes, out.problems, read_recipe);
    }
    load_part(data_folder() + "/bringup/stimuli.json", out.guide.stimuli, out.problems, read_stimuli);
    load_part(data_folder() + "/bringup/symptoms.json", out.guide.symptoms, out.problems, read_symptoms);
    return out;
}

Catalog load_cards_of(const Bench& bench) {
    std::set<std::string> parts, boards;
    for (const Reading& reading : bench.readings)
        parts.insert(reading.sensor.part);
    for (const Module& module : bench.modules)
        parts.insert(module.part);
    for (const BoardUse& use : bench.boards)
        boards.insert(use.card);
    parts.erase(""); // not chosen
    boards.erase("");
    Catalog out;
    std::vector<Error> problems;
    load_cards(fs::path(data_folder()) / "parts", out.parts, problems, read_part_card, &parts);
    load_cards(fs::path(data_folder()) / "boards", out.boards, problems, read_board_card, &boards);
    if (const std::string own = own_data_folder(); !own.empty()) {
        load_cards(fs::path(own) / "parts", out.parts, problems, read_part_card);
        load_cards(fs::path(own) / "boards", out.boards, problems, read_board_card);
    }
    const bool all =
        std::all_of(parts.begin(), parts.end(), [&](const std::string& id) { return out.part(id); }) &&
        std::all_of(boards.begin(), boards.end(), [&](const std::string& id) { return out.board(id); });
    return all ? out : load_catalog().catalog;
}

std::string own_data_folder() {
    std::string own = environment("XDG_DATA_HOME");
    if (own.empty() && !environment("HOME").empty()) own = environment("HOME") + "/.local/share";
    return own.empty() ? own : (fs::path(own) / "cognitum").string();
}

Result<std::string> part_card_text(const std::string& id) {
    for (const std::string& folder : {own_data_folder(), data_folder()}) {
        if (folder.empty()) continue;
        for (const std::string& path : json_files(fs::path(folder) / "parts")) {
            COGNITUM_TRY(text, read_text_file(path, card_size_limit));
            const auto document = JsonText::parse(path, text);
            if (document && JsonReader(*document).string_or("id", {}).value_or("") == id) return text;
        }
    }
    return failure(phrase("there is no card \"{}\".", id));
}

bool is_own_part(const std::string& id) {
    std::error_code code;
    return !own_data_folder().empty() && fs::exists(fs::path(own_data_folder()) / "parts" / (id + ".json"), code);
}

Result<std::string> save_own_card(const std::string& text, Existing existing) {
    COGNITUM_TRY(document, JsonText::parse("card", text));
    const JsonReader reader(document);
    const Json& json = document.root;
    const bool recipe = json.is_object() && !json.contains("card") && json.contains("steps");
    const bool board = json.is_object() && json.value("card", Json()) == "board";
    std::string id;
    if (recipe) {
        COGNITUM_TRY(read, read_recipe(reader));
        id = read.id;
    } else if (board) {
        COGNITUM_TRY(read, read_board_card(reader));
        id = read.id;
    } else {
        COGNITUM_TRY(read, read_part_card(reader));
        id = read.id;
    }
    if (id.empty() || id.find_first_of("/\\") != std::string::npos || id.front() == '.')
        return failure(phrase("this id cannot be the name of a file."), "card/id",
                       phrase("Use letters, digits and -."));
    const std::string folder = own_data_folder();
    if (folder.empty())
        return failure(phrase("there is no home folder to keep it in."), {}, phrase("Set XDG_DATA_HOME."));
    const fs::path target = fs::path(folder) / (recipe ? "recipes" : board ? "boards" : "parts") / (id + ".json");
    std::error_code code;
    if (existing == Existing::keep && fs::exists(target, code) &&
        read_text_file(target.string()).value_or("") != text)
        return failure(phrase("another card of your own has this id."), target.string(),
                       phrase("Give this one another id, or take that file away first."));
    fs::create_directories(target.parent_path(), code);
    const fs::path waiting = target.string() + ".new";
    {
        std::ofstream out(waiting, std::ios::binary | std::ios::trunc);
        out << text;
        out.flush();
        if (!out)
            return failure(phrase("the card cannot be written."), target.string(),
                           phrase("Look at the disk and its permissions."));
    }
    fs::rename(waiting, target, code);
    if (code) {
        fs::remove(waiting, code);
        return failure(phrase("the card cannot be written."), target.string(),
                       phrase("Look at the folder's permissions."));
    }
    return target.string();
}

Result<Bench> load_bench_json(const std::string& path) {
    return load_json(path, read_bench);
}

} // namespace cognitum
