// What the Watch stop asks of the record: rules tried on it, what a kind of reading needs, what follows from it.
#pragma once

#include "core/catalog/cards.h"
#include "core/watch/marked.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "store/file/bench_file.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// How far back rules are tried.
inline constexpr TimeUs tried_back = 366 * day_us;

/// One rule on the record.
struct TriedRule {
    WatchRule rule;
    RuleTrial trial;
    MarkScore score;                 ///< of what is marked
    std::optional<WatchRule> calmer; ///< of one that speaks too often, see calmer()
    RuleTrial of_calmer;
};
/// `live`: lines are expected up to `now`, so that a silence that lasts is told.
Result<TriedRule> tried_rule(BenchFile& file, const Bench& bench, const Catalog& catalog, const WatchRule& rule,
                             TimeUs now, bool live);

/// "With 3 lines in a row and back below 19 °C: …" Only where there is a calmer rule.
std::string calmer_says(const TriedRule& tried, const Bench& bench);

struct WatchRecord {
    std::vector<TriedRule> rules; ///< of the reading, in the plan's order
    HourlyRecord record;
    std::vector<RuleOffer> offers;
    Outlook outlook;
};
Result<WatchRecord> watch_record(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                 const std::string& reading, TimeUs now, bool live);

/// A limit between what was marked as alarm and what was marked as none.
Result<LimitProposal> proposed_limit(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const WatchRule& rule, TimeUs now);

} // namespace cognitum
