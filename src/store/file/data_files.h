// The shipped data and the user's own: where it lies, and the cards in it.
#pragma once

#include "core/bench/bench.h"
#include "core/bringup/guide.h"
#include "core/calibrate/recipe.h"
#include "core/catalog/cards.h"
#include "store/file/whole_file.h"

#include <string>
#include <vector>

namespace cognitum {

/// Opens for reading, without waiting, what is a file on a disk. Error for a pipe, a device or a folder: nobody
/// knows when, or whether, they end.
Result<int> open_regular_file(const std::string& path);

/// Whole file as text. Error when it is missing, unreadable or larger than `limit` bytes.
Result<std::string> read_text_file(const std::string& path, std::size_t limit = 16 << 20);

/// Folder with the shipped data: $COGNITUM_DATA, else ../share/cognitum beside the program.
std::string data_folder();

struct LoadedCatalog {
    Catalog catalog;
    BringUpGuide guide;          ///< bringup/stimuli.json and bringup/symptoms.json
    std::vector<Recipe> recipes; ///< recipes/*.json
    std::vector<Error> problems; ///< what could not be read, with file, line and pointer; the rest is there
};
/// Shipped cards, then the user's own from $XDG_DATA_HOME/cognitum (parts/*.json and boards/*.json).
LoadedCatalog load_catalog();
/// The cards that a plan names and the user's own, without reading the others; all of them when one that is named
/// is in no shipped file of its name and not among the user's own.
Catalog load_cards_of(const Bench& bench);

/// Where a person's own cards lie: $XDG_DATA_HOME/cognitum, else ~/.local/share/cognitum. Empty without a home.
std::string own_data_folder();
/// The JSON text of a part card, the person's own before the shipped one. Error when no file has that id.
Result<std::string> part_card_text(const std::string& id);
/// True for a part whose card was saved by save_own_card().
bool is_own_part(const std::string& id);
/// Reads the text as the card of a part or a board, or as a recipe, and, when it is one, writes it as
/// parts/ID.json, boards/ID.json or recipes/ID.json into the person's own folder, whole or not at all. Returns the
/// file's path; the error names line and pointer.
Result<std::string> save_own_card(const std::string& text, Existing existing = Existing::replace);

/// A bench in its JSON form.
Result<Bench> load_bench_json(const std::string& path);

} // namespace cognitum
