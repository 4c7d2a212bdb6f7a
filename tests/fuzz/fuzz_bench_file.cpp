// A file that claims to be a bench: opened, asked for everything, and never trusted.
#include "fuzz.h"
#include "store/file/bench_file.h"
#include "store/samples/samples.h"

#include <cstdlib>
#include <fstream>
#include <string>
#include <unistd.h>

using namespace cognitum;

HARNESS(bench_file)(const std::uint8_t* data, std::size_t size) {
    static const std::string path = [] {
        const char* folder = std::getenv("TMPDIR");
        return std::string(folder ? folder : "/tmp") + "/cognitum-fuzz-" + std::to_string(::getpid()) + ".cognitum";
    }();
    {
        std::ofstream out(path, std::ios::binary | std::ios::trunc);
        out.write(reinterpret_cast<const char*>(data), static_cast<std::streamsize>(size));
    }
    if (auto file = BenchFile::open(path, Access::read)) {
        if (const auto plan = file->load_plan())
            for (const Reading& r : plan->readings)
                (void)file->calibrations(r.id);
        (void)file->log(50);
    }
    for (const char* suffix : {"", "-wal", "-shm", "-journal"})
        ::unlink((path + suffix).c_str());
    return 0;
}
