#include "core/program/read/syntax.h"

#include <algorithm>

namespace cognitum::program {

const std::string& SyntaxTree::line(const CodePlace& place) const {
    static const std::string none;
    if (place.file < 0 || place.file >= static_cast<int>(files.size())) return none;
    const auto& lines = files[static_cast<std::size_t>(place.file)].lines;
    return place.line < 1 || place.line > static_cast<int>(lines.size())
               ? none
               : lines[static_cast<std::size_t>(place.line - 1)];
}

const CodeType& SyntaxTree::type(int index) const {
    static const CodeType none;
    return index < 0 || index >= static_cast<int>(types.size()) ? none : types[static_cast<std::size_t>(index)];
}

int SyntaxTree::slot_count(int index) const {
    constexpr long most = 1 << 20;
    const CodeType& t = type(index);
    long out = 1;
    if (t.kind == CodeType::Kind::array) out = static_cast<long>(std::max(1, t.count)) * slot_count(t.element);
    if (t.kind == CodeType::Kind::record && t.record != nothing) {
        const Record& record = records[static_cast<std::size_t>(t.record)];
        out = field_slot(t.record, static_cast<int>(record.types.size()));
    }
    return static_cast<int>(std::clamp(out, 1L, most));
}

int SyntaxTree::field_slot(int record, int field) const {
    int out = 0;
    for (int i = 0; i < field; ++i)
        out += slot_count(records[static_cast<std::size_t>(record)].types[static_cast<std::size_t>(i)]);
    return out;
}

} // namespace cognitum::program
