#include "core/decode/detect.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/decode/frames.h"
#include "core/decode/lines.h"
#include "core/decode/number_text.h"
#include "core/decode/table_decoder.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <span>

namespace cognitum {

namespace {

constexpr std::size_t sample_size = 65536;
constexpr std::size_t most_lines = 200;

std::vector<std::string_view> whole_lines(std::string_view bytes) {
    std::vector<std::string_view> out;
    std::size_t start = 0;
    while (out.size() < most_lines) {
        const std::size_t end = bytes.find('\n', start);
        if (end == std::string_view::npos) break;
        std::string_view line = trimmed(bytes.substr(start, end - start));
        if (line_sum(line) == LineSum::holds) line = without_sum(line);
        if (!line.empty() && line.front() != '#') out.push_back(line);
        start = end + 1;
    }
    return out;
}

struct Tally {
    std::size_t lines = 0, taken = 0, bytes = 0, taken_bytes = 0;
    [[nodiscard]] double share() const {
        return bytes == 0 ? 0 : static_cast<double>(taken_bytes) / static_cast<double>(bytes);
    }
};

/// How many lines a reader takes; the first line may be half a one and then does not count.
template <typename Read>
Tally tally(const std::vector<std::string_view>& lines, Read read) {
    Tally out;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const bool taken = read(lines[i], i);
        if (i == 0 && !taken && lines.size() > 1) continue;
        ++out.lines;
        out.bytes += lines[i].size();
        out.taken += taken;
        out.taken_bytes += taken ? lines[i].size() : 0;
    }
    return out;
}

bool has_a_word(std::string_view line) {
    return std::any_of(line.begin(), line.end(),
                       [](char c) { return letters::is_letter(c) || static_cast<unsigned char>(c) >= 0x80; });
}

using LineReader = Reason (*)(std::string_view, std::uint64_t, FieldTable&, Records&);

void try_lines(const std::vector<std::string_view>& lines, FormatKind kind, LineReader read, double weight,
               std::vector<FormatGuess>& out) {
    if (kind == FormatKind::text && std::none_of(lines.begin(), lines.end(), has_a_word))
        return; // rows of numbers, of whatever count, are no sentences
    FieldTable fields;
    Records records;
    const Tally t = tally(lines, [&](std::string_view line, std::size_t i) {
        records.clear();
        return is_plain_text(line) && read(line, i + 1, fields, records).empty();
    });
    if (t.taken == 0) return;
    FormatGuess g;
    g.format.kind = kind;
    g.score = weight * t.share();
    // A letter with a number alone ("A10") may as well be the name of a column.
    if (kind == FormatKind::pairs && lines.size() == 1 && !looks_like_pairs(lines.front())) g.score = 0.55;
    g.reason = phrase("{} of {} lines are {}", t.taken, t.lines, format_kind_title(kind));
    out.push_back(g);
}

/// "hut,21.5", "rock,19.5", "hut,21.6": each row begins with a name, and names come again. One column of numbers
/// would mix what belongs to each.
bool rows_have_names(std::span<const std::string_view> lines, char separator) {
    std::map<std::string_view, std::size_t> names;
    for (const std::string_view line : lines) {
        const std::string_view first = trimmed(line.substr(0, line.find(separator)));
        if (first.size() == line.size() || first.empty() || !letters::is_letter(first.front())) return false;
        const NumberText said = read_number_text(first); // "nan", "open" stand for a number
        if (said.there || said.failed) return false;
        ++names[first];
    }
    return names.size() > 1 && std::all_of(names.begin(), names.end(), [](const auto& n) { return n.second > 1; });
}

/// "level,3,temp,4": of what stands in lines with a number, half or more are words, and those of no failure or
/// state.
bool numbers_have_names(std::span<const std::string_view> lines, char separator) {
    std::size_t words = 0, all = 0;
    for (std::string_view line : lines) {
        std::size_t names = 0, numbers = 0;
        while (!line.empty()) {
            const std::size_t end = std::min(line.find(separator), line.size());
            const std::string_view field = trimmed(line.substr(0, end));
            const NumberText said = read_number_text(field);
            numbers += said.there && !said.state;
            names += !said.there && !said.failed && !field.empty() && has_a_word(field) &&
                     !letters::is_digit(field.front());
            line.remove_prefix(std::min(end + 1, line.size()));
        }
        if (numbers == 0) continue; // a heading
        words += names;
        all += names + numbers;
    }
    return words > 0 && 2 * words >= all;
}

/// "21,5 C": one comma between digits, and a unit behind them alone; no "21,48 %", which may be two columns.
bool is_comma_of_decimals(std::string_view line) {
    const std::size_t comma = line.find(',');
    const NumberText with = read_number_text(with_point(line));
    return comma != std::string_view::npos && line.find(',', comma + 1) == std::string_view::npos && with.there &&
           has_a_word(with.unit) && line.find('.') == std::string_view::npos;
}

/// Numbers alone, the same count in each line. A header counts for it.
void try_table(const std::vector<std::string_view>& lines, std::vector<FormatGuess>& out) {
    // Names and values may stand between the lines of a table; they do not speak against it.
    std::vector<std::string_view> table_lines;
    std::size_t bracketed = 0;
    for (const std::string_view line : lines) {
        bracketed += line.front() == '{' || line.front() == '[';
        if (!looks_like_pairs(line)) table_lines.push_back(line);
    }
    if (table_lines.empty() || 2 * bracketed > lines.size()) return;
    const auto guess = [&](std::span<const std::string_view> some) {
        TableDecoder decoder;
        RecordBatch batch;
        std::size_t fields = 0, no_numbers = 0;
        const Tally t = tally({some.begin(), some.end()}, [&](std::string_view line, std::size_t) {
            const std::uint64_t before = decoder.rejections().total();
            batch.clear();
            decoder.feed(std::string(line) + "\n", batch);
            fields += batch.values.size();
            no_numbers += static_cast<std::size_t>(
                std::count_if(batch.values.begin(), batch.values.end(), [](double v) { return std::isnan(v); }));
            return decoder.rejections().total() == before;
        });
        FormatGuess g;
        g.format.kind = FormatKind::table;
        // A header alone may be any list of words; numbers make it sure.
        const bool numbers = t.taken > decoder.headers();
        const auto& names = decoder.names();
        const bool words = names.size() > 1 || (names.size() == 1 && letters::is_letter(names[0][0]));
        if (t.taken > 0 && decoder.columns() > 0 && (numbers || words))
            g.score = (numbers ? 0.985 : 0.6) * t.share();
        if ((decoder.separator() == ' ' && 2 * no_numbers >= fields) ||
            rows_have_names(table_lines, decoder.separator()) ||
            numbers_have_names(table_lines, decoder.separator()) ||
            2 * std::ranges::count_if(table_lines, is_comma_of_decimals) >= std::ssize(table_lines))
            g.score *= 0.7; // rather a sentence
        g.reason = phrase("{} of {} lines are {}", t.taken, t.lines, decoder.format_text());
        return g;
    };
    // The first line may be half a one, and would teach the wrong width.
    FormatGuess best = guess(table_lines);
    if (table_lines.size() > 2)
        if (FormatGuess later = guess(std::span(table_lines).subspan(1)); later.score > best.score + 0.1)
            best = std::move(later);
    if (best.score > 0) out.push_back(best);
}

/// JSON may run over several lines: pieces are cut where brackets close, the same way for both kinds.
void try_json(std::string_view bytes, std::vector<FormatGuess>& out) {
    const std::size_t first = bytes.find_first_of("{[");
    if (first == std::string_view::npos) return;
    FieldTable fields;
    Records records;
    std::size_t pieces = 0;
    std::size_t good = 0;
    std::size_t senml = 0;
    std::size_t explained = 0;
    std::size_t blanks = 0;
    std::size_t at = 0;
    std::size_t cut = 0; // bytes of a last piece without an end
    while (at < bytes.size() && pieces < most_lines) {
        if (bytes[at] != '{' && bytes[at] != '[') {
            blanks += bytes[at] == '\n' || bytes[at] == '\r' || bytes[at] == ' ';
            ++at;
            continue;
        }
        const std::size_t length = json_length(bytes.substr(at));
        if (length == 0) {
            cut = bytes.size() - at;
            break;
        }
        const std::string_view piece = bytes.substr(at, length);
        ++pieces;
        records.clear();
        const bool is_pack = looks_like_senml(piece);
        if ((is_pack ? read_senml : read_json_message)(piece, pieces, fields, records).empty()) {
            ++good;
            explained += length;
            senml += is_pack;
        }
        at += length;
    }
    if (good == 0) return;
    const auto total = static_cast<double>(
        std::max<std::size_t>(1, std::min(at, bytes.size()) - blanks + (cut > 65536 ? cut : 0)));
    FormatGuess g;
    const bool is_senml = 2 * senml > good;
    g.format.kind = is_senml ? FormatKind::senml : FormatKind::json;
    g.score = 0.99 * static_cast<double>(explained) / total;
    g.reason = phrase("{} of {} pieces are {}", good, pieces, format_kind_title(g.format.kind));
    out.push_back(g);
}

bool is_number_char(char c) {
    return (c >= '0' && c <= '9') || c == '.' || c == '-' || c == '+' || c == ',' || c == ' ';
}

/// Numbers between marks that are no line ends: the byte before and the byte after each number, when they repeat.
void try_marks(std::string_view bytes, std::vector<FormatGuess>& out) {
    bytes = bytes.substr(0, 4096);
    std::map<std::pair<char, char>, std::size_t> seen;
    std::size_t numbers = 0;
    for (std::size_t i = 0; i < bytes.size();) {
        std::size_t end = i;
        while (end < bytes.size() && is_number_char(bytes[end]))
            ++end;
        const bool has_digit = std::any_of(bytes.begin() + static_cast<std::ptrdiff_t>(i),
                                           bytes.begin() + static_cast<std::ptrdiff_t>(end),
                                           [](char c) { return c >= '0' && c <= '9'; });
        if (end > i && has_digit && i > 0 && end < bytes.size()) {
            ++numbers;
            ++seen[{bytes[i - 1], bytes[end]}];
        }
        i = std::max(end, i + 1);
    }
    if (numbers < 3) return;
    const auto best = std::max_element(seen.begin(), seen.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    const auto [start, end] = best->first;
    if (10 * best->second < 8 * numbers || start == '=' || start == ':' || start == '"') return;
    // A line in the making, if no control byte marks its other end.
    const auto is_mark = [](char c) { return c >= 0 && c < ' ' && c != '\t' && c != '\n' && c != '\r'; };
    if ((end == '\n' && !is_mark(start)) || (start == '\n' && !is_mark(end))) return;
    FormatGuess g;
    g.format.kind = FormatKind::frames;
    g.format.end = std::string(1, end);
    if (start != end) g.format.start = std::string(1, start);
    // How much of the bytes do the frames explain?
    FrameReader reader(g.format);
    FieldTable fields;
    Records records;
    Rejections rejected;
    reader.feed(bytes, fields, records, rejected);
    if (records.rows.size() < 3) return;
    g.score = 0.9 * static_cast<double>(records.rows.size()) /
              static_cast<double>(records.rows.size() + rejected.total());
    g.reason = phrase("{} numbers stand between the bytes {:02X} and {:02X}", records.rows.size(),
                      static_cast<unsigned char>(start), static_cast<unsigned char>(end));
    out.push_back(g);
}

/// The least period at which most bytes come again; 0: none.
std::size_t period_of(std::string_view bytes) {
    constexpr std::size_t longest_period = 64;
    for (std::size_t p = 1; p <= longest_period && 2 * p <= bytes.size(); ++p) {
        std::size_t same = 0;
        for (std::size_t i = p; i < bytes.size(); ++i)
            same += bytes[i] == bytes[i - p];
        if (10 * same >= 8 * (bytes.size() - p)) return p;
    }
    return 0;
}

/// A counter counts by the same step from byte to byte: its sums hold by arithmetic, and prove nothing.
bool is_counter(std::string_view bytes) {
    std::map<unsigned char, std::size_t> steps;
    std::size_t most = 0;
    for (std::size_t i = 1; i < bytes.size(); ++i)
        most = std::max(most, ++steps[static_cast<unsigned char>(bytes[i] - bytes[i - 1])]);
    return 10 * most >= 8 * bytes.size();
}

/// Whether each record is several shorter ones: behind the first of them a CRC goes on as if nothing had been.
bool are_several_in_one(std::string_view records, std::size_t size, Checksum sum) {
    for (std::size_t part = 2; part <= size / 2; ++part) {
        bool all = size % part == 0;
        for (std::size_t at = 0; all && at < records.size(); at += part)
            all = checksum_holds(sum, records.substr(at, part));
        if (all) return true;
    }
    return false;
}

/// Binary records whose checksum holds many times in a row. Bytes that repeat at another period, and counters, have
/// sums that hold as well, and are none.
void try_records(std::string_view bytes, std::vector<FormatGuess>& out) {
    constexpr std::size_t smallest = 3;
    constexpr std::size_t largest = 40;
    constexpr std::size_t in_a_row = 5;
    bytes = bytes.substr(0, 1024);
    const std::size_t period = period_of(bytes);
    if (is_counter(bytes)) return;
    for (std::size_t size = smallest; size <= largest && size * (in_a_row + 1) <= bytes.size(); ++size) {
        if (period > 0 && size % period != 0) continue;
        for (const Checksum sum : all_checksums())
            for (std::size_t offset = 0; offset < size; ++offset) {
                std::size_t good = 0;
                std::size_t at = offset;
                bool differ[2] = {}; // every second one: half a record's other half may be all zeros
                for (; at + size <= bytes.size(); at += size) {
                    const std::string_view frame = bytes.substr(at, size);
                    if (!checksum_holds(sum, frame)) break;
                    differ[good % 2] |= frame != bytes.substr(offset + good % 2 * size, size);
                    ++good;
                }
                if (good < in_a_row || !differ[0] || !differ[1]) continue;
                if (are_several_in_one(bytes.substr(offset, at - offset), size, sum)) continue;
                FormatGuess g;
                g.format.kind = FormatKind::record;
                g.format.sum = sum;
                // Bytes that never change at the front are the sync; the rest is read as 16-bit fields.
                const std::string_view first = bytes.substr(offset, size);
                std::size_t fixed = 0;
                const std::size_t data = size - checksum_size(sum);
                const auto constant = [&](std::size_t i) {
                    for (std::size_t k = offset; k + size <= at; k += size)
                        if (bytes[k + i] != first[i]) return false;
                    return true;
                };
                while (fixed < std::min<std::size_t>(2, data - 1) && constant(fixed))
                    ++fixed;
                g.format.start = std::string(first.substr(0, fixed));
                for (std::size_t i = fixed; i < data; i += 2) {
                    RecordField field;
                    field.bytes = i + 1 < data ? 2 : 1;
                    g.format.fields.push_back(field);
                }
                g.score = 0.95 * static_cast<double>(good * size) / static_cast<double>(bytes.size() - offset);
                g.reason = phrase("{} records of {} bytes whose {} holds; their fields are a guess", good, size,
                                  checksum_name(sum));
                out.push_back(g);
                return;
            }
    }
}

} // namespace

double text_share(std::string_view bytes) {
    if (bytes.empty()) return 0;
    const auto good = std::count_if(bytes.begin(), bytes.end(), [](char c) {
        const auto u = static_cast<unsigned char>(c);
        return c == '\t' || c == '\n' || c == '\r' || (u >= 0x20 && u < 0x7f);
    });
    return static_cast<double>(good) / static_cast<double>(bytes.size());
}

std::vector<FormatGuess> guess_formats(std::string_view bytes) {
    bytes = bytes.substr(0, sample_size);
    std::vector<FormatGuess> out;
    const auto lines = whole_lines(bytes);
    try_json(bytes, out);
    if (!lines.empty()) {
        try_lines(lines, FormatKind::scratchpad, read_scratchpad_line, 0.995, out);
        try_lines(lines, FormatKind::humidity40, read_humidity_line, 0.994, out);
        try_lines(lines, FormatKind::pairs, read_pairs, 0.98, out);
        try_table(lines, out);
        try_lines(lines, FormatKind::text, read_text, 0.8, out);
    }
    if (out.empty() || std::none_of(out.begin(), out.end(), [](const FormatGuess& g) { return g.score > 0.7; })) {
        try_marks(bytes, out);
        if (text_share(bytes) < 0.9) try_records(bytes, out); // the dearest trial
    }
    std::erase_if(out, [](const FormatGuess& g) { return g.score < 0.5; });
    std::stable_sort(out.begin(), out.end(),
                     [](const FormatGuess& a, const FormatGuess& b) { return a.score > b.score; });
    return out;
}

std::string no_format_reason(std::string_view bytes) {
    if (bytes.size() < 8) return phrase("too few bytes to tell");
    const double text = text_share(bytes);
    if (text < 0.7)
        return phrase("{:.0f} % of the bytes are no text: a wrong speed, or a binary format without a checksum "
                      "that is known",
                      100 * (1 - text));
    if (bytes.find('\n') == std::string_view::npos) return phrase("no line has ended yet");
    return phrase("the lines hold no numbers that belong together");
}

} // namespace cognitum
