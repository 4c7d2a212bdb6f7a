// All harnesses are one program, which is linked once; FUZZ_HARNESS in the environment chooses.
#include "fuzz.h"

#include <cstdlib>
#include <map>
#include <string>

namespace {

std::map<std::string, Harness>& harnesses() {
    static std::map<std::string, Harness> all;
    return all;
}

Harness chosen = nullptr;

} // namespace

bool list_harness(const char* name, Harness harness) {
    harnesses()[name] = harness;
    return true;
}

extern "C" int LLVMFuzzerInitialize(int*, char***) {
    const char* wanted = std::getenv("FUZZ_HARNESS");
    const auto found = harnesses().find(wanted ? wanted : "");
    if (found == harnesses().end()) {
        std::fprintf(stderr, "fuzz: FUZZ_HARNESS must be one of:\n");
        for (const auto& [name, harness] : harnesses())
            std::fprintf(stderr, "  %s\n", name.c_str());
        std::exit(2);
    }
    chosen = found->second;
    return 0;
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    return chosen(data, size);
}
