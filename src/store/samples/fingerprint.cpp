#include "store/samples/fingerprint.h"

#include "store/samples/samples.h"

#include <array>
#include <cstring>
#include <fmt/format.h>
#include <nettle/sha2.h>

namespace cognitum {

namespace {

class Sha256 {
  public:
    Sha256() { sha256_init(&m_context); }
    void add(const void* bytes, std::size_t n) {
        sha256_update(&m_context, n, static_cast<const std::uint8_t*>(bytes));
    }
    std::string first_digits() {
        std::array<std::uint8_t, 8> digest{};
        sha256_digest(&m_context, digest.size(), digest.data());
        std::string out;
        for (const std::uint8_t byte : digest)
            out += fmt::format("{:02x}", byte);
        return out;
    }

  private:
    sha256_ctx m_context{};
};

void add_to(Sha256& sha, const Sample& sample) {
    std::array<char, 25> bytes{};
    std::memcpy(bytes.data(), &sample.time, 8);
    std::memcpy(bytes.data() + 8, &sample.raw, 8);
    std::memcpy(bytes.data() + 16, &sample.value, 8);
    bytes[24] = static_cast<char>(sample.cause);
    sha.add(bytes.data(), bytes.size());
}

} // namespace

std::string text_fingerprint(const std::string& text) {
    Sha256 sha;
    sha.add(text.data(), text.size());
    return sha.first_digits();
}

Result<std::string> samples_fingerprint(BenchFile& file, const std::vector<std::string>& readings,
                                        const Interval& stretch, std::vector<std::string>* unreadable) {
    Sha256 sha;
    for (const std::string& id : readings) {
        sha.add(id.c_str(), id.size() + 1);
        const auto read =
            for_each_sample(file, id, stretch.from, stretch.to - 1, [&](std::span<const Sample> part) {
                for (const Sample& s : part)
                    add_to(sha, s);
                return true;
            });
        if (read) continue;
        if (!unreadable) return tl::make_unexpected(read.error());
        unreadable->push_back(id);
    }
    return sha.first_digits();
}

} // namespace cognitum
