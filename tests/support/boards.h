// Ids of shipped board cards.
#pragma once

namespace cognitum::test {

constexpr auto small = "board-5v-8bit-6-analog", dual = "board-3v3-12bit-wifi",
               one_input = "board-3v3-wifi-1-analog";

} // namespace cognitum::test
