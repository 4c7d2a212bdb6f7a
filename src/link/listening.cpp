#include "link/listening.h"

#include "store/file/data_files.h"

#include <filesystem>
#include <fstream>
#include <sstream>

namespace cognitum {

namespace {

std::string allowed_file() {
    return own_data_folder() + "/listening.txt";
}

std::string line_of(const HttpPlan& plan) {
    return plan.token_print + " " + std::to_string(plan.port);
}

} // namespace

void allow_wide(const HttpPlan& plan) {
    if (is_wide_allowed(plan)) return;
    std::error_code code;
    std::filesystem::create_directories(own_data_folder(), code);
    std::ofstream(allowed_file(), std::ios::app) << line_of(plan) << '\n';
}

bool is_wide_allowed(const HttpPlan& plan) {
    std::istringstream lines(read_text_file(allowed_file(), 1 << 20).value_or(""));
    for (std::string line; std::getline(lines, line);)
        if (line == line_of(plan)) return true;
    return false;
}

} // namespace cognitum
