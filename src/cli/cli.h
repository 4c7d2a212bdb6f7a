// cognitum-cli: the verbs, and how they answer. Exit codes: 0 done; 1 done, and the answer is no; 2 usage; 3 bad
// input.
#pragma once

#include "core/analyse/signal.h"
#include "core/base/error.h"
#include "core/base/json_reader.h"
#include "core/bench/bench.h"
#include "core/program/program.h"
#include "store/exchange/text_table.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum::cli {

inline constexpr int done = 0, answer_is_no = 1, usage = 2, bad_input = 3;

/// Prints an error for a person on stderr and returns its exit code.
int complain(const Error& error, int code = bad_input);
/// Prints one JSON object on stdout.
void print_json(const Json& json);
/// Number or null.
Json number_or_null(double value);
/// True for a pipe, a terminal or a socket: what can be read once, and has no size.
bool is_pipe(const std::string& path);
/// A file or a pipe, up to 1 GiB; "-" is standard input.
Result<std::string> read_input(const std::string& path);
/// The same, read as a CSV text with a header.
Result<TextTable> read_table(const std::string& path);
/// Index of the reading of this name or id. Error that lists those there are.
Result<std::size_t> find_reading(const Bench& bench, const std::string& path, const std::string& name);

enum class EmptyCell { failed, no_sample };
/// Rows of `time` and `value` (by name where there is a header), in order of time. A cell with a word for no number
/// is a measurement that failed; `empty` says what one without anything is. Errors name file and line.
Result<std::vector<RawSample>> read_raw_series(const std::string& path, EmptyCell empty);

struct StretchGiven {
    std::optional<TimeUs> from, to; ///< empty: was left out
};
/// --from and --to as in files. Error that names the option: no time, or an end that is not behind the start.
Result<StretchGiven> stretch_given(const std::string& from, const std::string& to);

int run_physics(const std::string& name, const std::vector<std::string>& arguments, bool json);
int run_convert(const std::string& chain, bool inverse, bool uncertainty, bool json);
int run_vessel(const std::string& shape, const std::vector<std::string>& arguments, bool json);
int run_rain(const std::string& tips, const std::vector<std::string>& arguments, bool json);
int run_beats(const std::string& wave, const std::vector<std::string>& arguments, bool json);
int run_battery(const std::vector<std::string>& arguments, bool json);
int run_fit(const std::string& points, const std::string& model, bool json);
int run_compare(const std::string& first, const std::string& second, bool json);
int run_decode(const std::string& input, const std::string& format, long head, bool json);
int run_signal(const std::string& series, const std::vector<std::string>& arguments, bool json);
int run_path(const std::string& bench, const std::string& reading, bool json);
int run_check(const std::string& bench, bool json);
/// A bench file, or its JSON form.
Result<Bench> load_any_bench(const std::string& path);
struct ProgramRequest {
    std::string bench, board, out; ///< out: folder; empty: only printed
    ProgramOptions options;
};
int run_program(const ProgramRequest& request, bool json);

struct ReadProgramRequest {
    std::vector<std::string> files;
    std::string bench, board;
};
/// Asks cognitum-reader, a process of its own beside this one, and passes on what it says.
int run_read_program(const ReadProgramRequest& request, bool json);
struct ImportRequest {
    std::string input, bench;
    bool as_raw = false;
    std::vector<std::string> arguments; ///< zone= and dates=
};
int run_import(const ImportRequest& request, bool json);
struct ExportRequest {
    std::string format = "csv", output;
    std::vector<std::string> readings; ///< names or ids; empty: all but those about somebody's health
    bool causes = false, doubts = false, raw = false, both = false;
    std::string from, to; ///< times as in files, the end excluded; empty: from the first, to the last sample
};
int run_export(const std::string& bench, const ExportRequest& request);
struct VerifyCommand {
    std::string bench, mend, fingerprint; ///< fingerprint: compared with that of the readings or the calibration
    std::vector<std::string> readings;    ///< names or ids, in the order of the report
    std::string from, to;
    std::int64_t calibration = 0; ///< number of the record; 0: samples
};
int run_verify(const VerifyCommand& command, bool json);
struct StretchRequest {
    std::string bench, reading, from, to; ///< times as in files; empty: from the first, to the last sample
};
int run_summary(const StretchRequest& request, bool json);
struct PeriodRequest {
    std::string bench, reading, against, by = "month";
    std::vector<std::string> arguments; ///< zone= and day_start=
};
int run_months(const PeriodRequest& request, bool json);
struct MirrorRequest {
    std::string bench, address, as;
    std::vector<std::string> readings;
};
int run_mirror(const MirrorRequest& request, bool json);
struct SessionsRequest {
    std::string bench, name;        ///< name: also its summary
    std::string find, above, below; ///< reading to look through, and its limit with a unit
    std::string least = "1min", pause = "5min";
    std::string from, to;
    bool valued = false, with_private = false;
};
int run_sessions(const SessionsRequest& request, bool json);
struct BacktestRequest {
    std::string rules;   ///< a file of rules; or a bench, whose own rules are tried
    std::string series;  ///< a CSV file, or a bench
    std::string reading; ///< of a bench
    std::string rule;    ///< only this rule of the bench's own
    std::string from, to;
};
int run_backtest(const BacktestRequest& request, bool json);
int run_reevaluate(const StretchRequest& request, bool json);
struct ThinCommand {
    std::string bench, copy, before, step;
    std::vector<std::string> readings; ///< names or ids; empty: all
};
int run_thin(const ThinCommand& command, bool json);
int run_demo(const std::string& bench, const std::string& end);

} // namespace cognitum::cli
