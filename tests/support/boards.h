// Ids of shipped board cards.
#pragma once

namespace cognitum::test {

constexpr auto small = "board-5v-8bit-6-analog", dual = "board-3v3-12bit-wifi";

} // namespace cognitum::test
