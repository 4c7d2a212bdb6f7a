#include "store/file/given_file.h"

#include "core/base/json_reader.h"
#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "store/file/data_files.h"
#include "store/file/file_header.h"

#include <algorithm>
#include <array>
#include <filesystem>

namespace cognitum {

namespace {

constexpr std::size_t card_limit = 1 << 20;

std::string ending_of(const std::string& path) {
    return letters::small(std::filesystem::path(path).extension().string());
}

template <std::size_t n>
bool one_of(const std::string& ending, const std::array<const char*, n>& endings) {
    return std::find(endings.begin(), endings.end(), ending) != endings.end();
}

/// A card says that it is one; a recipe has steps. Everything else in JSON is taken for samples.
bool is_card(const std::string& path) {
    const auto text = read_text_file(path, card_limit);
    if (!text) return false;
    const auto document = JsonText::parse(path, *text);
    if (!document) return false;
    const Json& json = document->root;
    return json.is_object() && (json.contains("card") || (json.contains("steps") && json.contains("kinds")));
}

} // namespace

Result<GivenFile> what_is(const std::string& path) {
    const FileHeader header = read_file_header(path);
    if (header.kind == FileKind::missing) return tl::make_unexpected(header.error);
    const std::string ending = ending_of(path);
    if (header.kind != FileKind::foreign || ending == ".cognitum") return GivenFile::bench;
    if (one_of(ending, std::array{".ino", ".cpp", ".c", ".h", ".hpp"})) return GivenFile::program;
    if (ending == ".json") return is_card(path) ? GivenFile::card : GivenFile::table;
    if (one_of(ending, std::array{".csv", ".tsv", ".txt", ".senml", ".log", ".dat"})) return GivenFile::table;
    return failure(
        phrase("Cognitum does not know what to do with this file."), path,
        phrase(
            "It takes benches (.cognitum), tables (.csv, .txt, .json), cards (.json) and programs (.ino, .cpp)."));
}

} // namespace cognitum
