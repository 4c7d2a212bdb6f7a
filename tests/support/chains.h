// Chains from the JSON of their stages.
#pragma once

#include "core/signal_path/chain.h"

#include <QtGlobal>
#include <string>

namespace cognitum::test {

inline Result<Chain> read_chain_of(const std::string& stages) {
    const auto text = JsonText::parse("chain.json", R"({"stages": [)" + stages + "]}");
    if (!text) return tl::make_unexpected(text.error());
    return read_chain(JsonReader(*text));
}

inline Chain chain_of(const std::string& stages) {
    auto chain = read_chain_of(stages);
    if (!chain) qFatal("%s", chain.error().text().c_str());
    return *chain;
}

} // namespace cognitum::test
