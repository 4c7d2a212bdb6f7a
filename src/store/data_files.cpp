#include "store/data_files.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sstream>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

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

template <typename Card, typename Read>
void load_cards(const fs::path& folder, std::vector<Card>& cards, std::vector<Error>& problems, Read read) {
    for (const std::string& path : json_files(folder)) {
        const auto load = [&]() -> Result<Card> {
            COGNITUM_TRY(text, read_text_file(path, 1 << 20));
            COGNITUM_TRY(document, JsonText::parse(path, text));
            return read(JsonReader(document));
        };
        auto card = load();
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

Result<std::string> read_text_file(const std::string& path, std::size_t limit) {
    std::error_code code;
    if (!fs::exists(path, code)) return failure("there is no such file.", path, "Check the name.");
    if (!fs::is_regular_file(path, code)) return failure("this is not a file.", path);
    if (const auto size = fs::file_size(path, code); size > limit)
        return failure(fmt::format("the file has {} bytes; at most {} are read.", size, limit), path);
    std::ifstream in(path, std::ios::binary);
    if (!in) return failure("the file cannot be read.", path, "Ask for permission to read it.");
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

std::string data_folder() {
    if (const std::string given = environment("COGNITUM_DATA"); !given.empty()) return given;
    std::error_code code;
    const fs::path program = fs::read_symlink("/proc/self/exe", code);
    const fs::path installed = program.parent_path().parent_path() / "share" / "cognitum";
    return fs::is_directory(installed / "parts", code) ? installed.string() : COGNITUM_SOURCE_DATA;
}

LoadedCatalog load_catalog() {
    LoadedCatalog out;
    std::string own = environment("XDG_DATA_HOME");
    if (own.empty() && !environment("HOME").empty()) own = environment("HOME") + "/.local/share";
    std::vector<fs::path> folders = {data_folder()};
    if (!own.empty()) folders.push_back(fs::path(own) / "cognitum");
    for (const fs::path& folder : folders) {
        load_cards(folder / "parts", out.catalog.parts, out.problems, read_part_card);
        load_cards(folder / "boards", out.catalog.boards, out.problems, read_board_card);
    }
    return out;
}

Result<Bench> load_bench_json(const std::string& path) {
    COGNITUM_TRY(text, read_text_file(path));
    COGNITUM_TRY(document, JsonText::parse(path, text));
    return read_bench(JsonReader(document));
}

} // namespace cognitum
