#include "store/samples/block_codec.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <memory>
#include <stdexcept>
#include <zstd.h>

namespace cognitum {

namespace {

constexpr char block_version = 1;
constexpr char by_dictionary = 0, by_planes = 1;
constexpr std::size_t largest_dictionary = 2048;
// A sample takes at most 10 bytes of time, 2 × 8 of numbers, 2 × 2 of indices and 3 of causes; a dictionary 16 KiB.
constexpr std::size_t largest_plain = samples_per_block * 40 + (1 << 17); // a block that claims more is none

void put_varint(std::string& out, std::uint64_t v) {
    while (v >= 0x80) {
        out.push_back(static_cast<char>(v | 0x80));
        v >>= 7;
    }
    out.push_back(static_cast<char>(v));
}

std::uint64_t zigzag(std::int64_t v) {
    return (static_cast<std::uint64_t>(v) << 1) ^ static_cast<std::uint64_t>(v >> 63);
}
std::int64_t unzigzag(std::uint64_t v) {
    return static_cast<std::int64_t>(v >> 1) ^ -static_cast<std::int64_t>(v & 1);
}

/// Reads what was put; `ok` turns false at the first byte that is not there, and all further reads give zero.
class Bytes {
  public:
    explicit Bytes(std::string_view bytes) : m_bytes(bytes) {}
    std::uint64_t varint() {
        std::uint64_t v = 0;
        for (int shift = 0; shift < 64; shift += 7) {
            const auto b = static_cast<std::uint8_t>(byte());
            v |= static_cast<std::uint64_t>(b & 0x7f) << shift;
            if (!(b & 0x80)) return v;
        }
        m_ok = false;
        return 0;
    }
    char byte() { return take(1) ? m_bytes[m_at - 1] : '\0'; }
    std::string_view block(std::size_t n) { return take(n) ? m_bytes.substr(m_at - n, n) : std::string_view(); }
    [[nodiscard]] bool ok() const { return m_ok; }
    [[nodiscard]] bool at_end() const { return m_at == m_bytes.size(); }

  private:
    bool take(std::size_t n) {
        if (!m_ok || n > m_bytes.size() - m_at) return m_ok = false;
        m_at += n;
        return true;
    }
    std::string_view m_bytes;
    std::size_t m_at = 0;
    bool m_ok = true;
};

/// Bytes of equal weight side by side: slow signals leave most planes constant.
void put_planes(std::string& out, std::span<const std::uint64_t> words, int bytes) {
    const std::size_t begin = out.size();
    out.resize(begin + words.size() * static_cast<std::size_t>(bytes));
    char* to = out.data() + begin;
    for (int plane = 0; plane < bytes; ++plane)
        for (const std::uint64_t w : words)
            *to++ = static_cast<char>(w >> (8 * plane));
}

std::vector<std::uint64_t> get_planes(Bytes& in, std::size_t n, int bytes) {
    std::vector<std::uint64_t> words(n, 0);
    for (int plane = 0; plane < bytes; ++plane) {
        const std::string_view column = in.block(n);
        for (std::size_t i = 0; i < column.size(); ++i)
            words[i] |= static_cast<std::uint64_t>(static_cast<std::uint8_t>(column[i])) << (8 * plane);
    }
    return words;
}

/// Distinct words in order of first appearance, found again by open addressing: it has room for twice as many as a
/// block may name, so that a search is short.
class Dictionary {
  public:
    std::uint64_t index_of(std::uint64_t word) {
        std::size_t at = static_cast<std::size_t>((word * 0x9e3779b97f4a7c15ULL) >> 52); // 4 096 places
        while (m_places[at] != 0 && m_words[m_places[at] - 1U] != word)
            at = (at + 1) % m_places.size();
        if (m_places[at] == 0) {
            m_words.push_back(word);
            m_places[at] = static_cast<std::uint16_t>(m_words.size());
        }
        return m_places[at] - 1U;
    }
    [[nodiscard]] const std::vector<std::uint64_t>& words() const { return m_words; }

  private:
    std::vector<std::uint64_t> m_words;
    std::array<std::uint16_t, 2 * largest_dictionary> m_places{}; ///< index + 1; 0: free
};

/// Numbers of few distinct values are kept as indices in order of first appearance: raw codes and the values made
/// of them then have the same index column, which costs next to nothing the second time.
template <typename Get>
void put_numbers(std::string& out, std::span<const Sample> samples, Get get) {
    std::vector<std::uint64_t> bits(samples.size());
    for (std::size_t i = 0; i < samples.size(); ++i)
        bits[i] = std::bit_cast<std::uint64_t>(get(samples[i]));
    Dictionary known;
    std::vector<std::uint64_t> indices;
    indices.reserve(bits.size());
    for (const std::uint64_t b : bits) {
        indices.push_back(known.index_of(b));
        if (known.words().size() > largest_dictionary) break;
    }
    const std::vector<std::uint64_t>& dictionary = known.words();
    if (dictionary.size() <= largest_dictionary && dictionary.size() * 2 <= samples.size() + 2) {
        out.push_back(by_dictionary);
        put_varint(out, dictionary.size());
        put_planes(out, dictionary, 8);
        put_planes(out, indices, 2);
        return;
    }
    out.push_back(by_planes);
    for (std::size_t i = bits.size(); i-- > 1;)
        bits[i] ^= bits[i - 1];
    put_planes(out, bits, 8);
}

template <typename Set>
bool get_numbers(Bytes& in, std::span<Sample> samples, Set set) {
    const char form = in.byte();
    if (form == by_dictionary) {
        const std::uint64_t size = in.varint();
        if (size > largest_dictionary) return false;
        const auto dictionary = get_planes(in, static_cast<std::size_t>(size), 8);
        const auto indices = get_planes(in, samples.size(), 2);
        if (!in.ok()) return false;
        for (std::size_t i = 0; i < samples.size(); ++i) {
            if (indices[i] >= dictionary.size()) return false;
            set(samples[i], std::bit_cast<double>(dictionary[indices[i]]));
        }
        return true;
    }
    if (form != by_planes) return false;
    auto bits = get_planes(in, samples.size(), 8);
    if (!in.ok()) return false;
    for (std::size_t i = 0; i < bits.size(); ++i) {
        if (i > 0) bits[i] ^= bits[i - 1];
        set(samples[i], std::bit_cast<double>(bits[i]));
    }
    return true;
}

std::string compress(std::string_view plain) {
    struct Free {
        void operator()(ZSTD_CCtx* p) const { ZSTD_freeCCtx(p); }
    };
    // Making one takes longer than packing a block with it; each thread keeps its own.
    thread_local const std::unique_ptr<ZSTD_CCtx, Free> context(ZSTD_createCCtx());
    ZSTD_CCtx_setParameter(context.get(), ZSTD_c_compressionLevel, 3);
    ZSTD_CCtx_setParameter(context.get(), ZSTD_c_checksumFlag, 1);
    std::string out(ZSTD_compressBound(plain.size()), '\0');
    const std::size_t size = ZSTD_compress2(context.get(), out.data(), out.size(), plain.data(), plain.size());
    if (ZSTD_isError(size)) throw std::runtime_error(ZSTD_getErrorName(size));
    out.resize(size);
    return out;
}

Result<std::string> decompress(std::string_view bytes) {
    const unsigned long long size = ZSTD_getFrameContentSize(bytes.data(), bytes.size());
    if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN || size > largest_plain)
        return failure(phrase("a block of samples is damaged."));
    std::string plain(static_cast<std::size_t>(size), '\0');
    const std::size_t got = ZSTD_decompress(plain.data(), plain.size(), bytes.data(), bytes.size());
    if (ZSTD_isError(got) || got != plain.size()) return failure(phrase("a block of samples is damaged."));
    return plain;
}

void put_double(std::string& out, double v) {
    char bytes[sizeof v];
    std::memcpy(bytes, &v, sizeof v);
    out.append(bytes, sizeof v);
}

double get_double(Bytes& in) {
    const std::string_view bytes = in.block(sizeof(double));
    double v = 0;
    if (bytes.size() == sizeof v) std::memcpy(&v, bytes.data(), sizeof v);
    return v;
}

} // namespace

std::string encode_block(std::span<const Sample> samples) {
    std::string plain;
    plain.reserve(samples.size() * 6 + 64);
    plain.push_back(block_version);
    put_varint(plain, samples.size());
    std::uint64_t last = 0; // unsigned, so that the widest step wraps and does not overflow
    std::uint64_t last_step = 0;
    for (const Sample& s : samples) {
        const auto time = static_cast<std::uint64_t>(s.time);
        const std::uint64_t step = time - last;
        put_varint(plain, zigzag(static_cast<std::int64_t>(step - last_step)));
        last = time;
        last_step = step;
    }
    put_numbers(plain, samples, [](const Sample& s) { return s.raw; });
    put_numbers(plain, samples, [](const Sample& s) { return s.value; });
    for (std::size_t i = 0; i < samples.size();) {
        std::size_t end = i;
        while (end < samples.size() && samples[end].cause == samples[i].cause)
            ++end;
        put_varint(plain, end - i);
        plain.push_back(static_cast<char>(samples[i].cause));
        i = end;
    }
    return compress(plain);
}

Result<std::vector<Sample>> decode_block(std::string_view bytes) {
    const auto plain = decompress(bytes);
    if (!plain) return tl::make_unexpected(plain.error());
    const auto damaged = failure(phrase("a block of samples is damaged."));
    Bytes in(*plain);
    if (in.byte() != block_version)
        return failure(phrase("a block of samples has a form that this version does not know."));
    const std::uint64_t n = in.varint();
    if (!in.ok() || n > samples_per_block || n > plain->size()) return damaged;
    std::vector<Sample> samples(static_cast<std::size_t>(n));
    std::uint64_t last = 0; // unsigned, so that damaged bytes wrap and do not overflow
    std::uint64_t step = 0;
    for (Sample& s : samples) {
        step += static_cast<std::uint64_t>(unzigzag(in.varint()));
        last += step;
        s.time = static_cast<TimeUs>(last);
    }
    if (!get_numbers(in, samples, [](Sample& s, double v) { s.raw = v; })) return damaged;
    if (!get_numbers(in, samples, [](Sample& s, double v) { s.value = v; })) return damaged;
    for (std::size_t i = 0; i < samples.size();) {
        const std::uint64_t run = in.varint();
        const auto cause = cause_from_number(static_cast<std::uint8_t>(in.byte()));
        if (!in.ok() || run == 0 || run > samples.size() - i || !cause) return damaged;
        for (const std::size_t end = i + static_cast<std::size_t>(run); i < end; ++i)
            samples[i].cause = *cause;
    }
    if (!in.ok() || !in.at_end()) return damaged;
    return samples;
}

Summary summarise(std::span<const Sample> samples) {
    Summary s;
    s.from = samples.front().time;
    s.to = samples.back().time;
    for (const Sample& sample : samples) {
        ++s.n;
        if (!std::isfinite(sample.value)) continue;
        s.low = s.valued ? std::min(s.low, sample.value) : sample.value;
        s.high = s.valued ? std::max(s.high, sample.value) : sample.value;
        s.sum += sample.value;
        ++s.valued;
    }
    return s;
}

Summary summarise(std::span<const Summary> parts) {
    Summary s;
    s.from = parts.front().from;
    s.to = parts.back().to;
    for (const Summary& part : parts) {
        s.n += part.n;
        if (!part.valued) continue;
        s.low = s.valued ? std::min(s.low, part.low) : part.low;
        s.high = s.valued ? std::max(s.high, part.high) : part.high;
        s.sum += part.sum;
        s.valued += part.valued;
    }
    return s;
}

std::vector<Summary> thinned(std::span<const Summary> parts, std::size_t most) {
    if (parts.size() <= most) return {parts.begin(), parts.end()};
    std::vector<Summary> out;
    const TimeUs width =
        std::max<TimeUs>(1, (parts.back().to - parts.front().from) / static_cast<TimeUs>(most) + 1);
    for (std::size_t begin = 0; begin < parts.size();) {
        const TimeUs slot = (parts[begin].from - parts.front().from) / width;
        std::size_t end = begin + 1;
        while (end < parts.size() && (parts[end].from - parts.front().from) / width == slot)
            ++end;
        out.push_back(summarise(parts.subspan(begin, end - begin)));
        begin = end;
    }
    return out;
}

std::vector<Summary> digest_of(std::span<const Sample> samples) {
    std::vector<Summary> out;
    const std::size_t runs = std::min(samples.size(), runs_per_block);
    for (std::size_t i = 0; i < runs; ++i) {
        const std::size_t begin = i * samples.size() / runs;
        const std::size_t end = (i + 1) * samples.size() / runs;
        out.push_back(summarise(samples.subspan(begin, end - begin)));
    }
    return out;
}

std::string encode_digest(std::span<const Summary> digest) {
    std::string plain;
    put_varint(plain, digest.size());
    for (const Summary& s : digest) {
        put_varint(plain, zigzag(s.from));
        put_varint(plain, zigzag(s.to - s.from));
        put_varint(plain, s.n);
        put_varint(plain, s.valued);
        for (const double v : {s.low, s.high, s.sum})
            put_double(plain, v);
    }
    return compress(plain);
}

Result<std::vector<Summary>> decode_digest(std::string_view bytes) {
    const auto plain = decompress(bytes);
    if (!plain) return tl::make_unexpected(plain.error());
    Bytes in(*plain);
    const std::uint64_t n = in.varint();
    if (n > runs_per_block) return failure(phrase("a summary is damaged."));
    std::vector<Summary> out;
    for (std::uint64_t i = 0; i < n && in.ok(); ++i) {
        Summary s;
        s.from = unzigzag(in.varint());
        s.to = static_cast<TimeUs>(static_cast<std::uint64_t>(s.from) +
                                   static_cast<std::uint64_t>(unzigzag(in.varint())));
        s.n = in.varint();
        s.valued = in.varint();
        s.low = get_double(in);
        s.high = get_double(in);
        s.sum = get_double(in);
        out.push_back(s);
    }
    if (!in.ok() || !in.at_end()) return failure(phrase("a summary is damaged."));
    return out;
}

} // namespace cognitum
