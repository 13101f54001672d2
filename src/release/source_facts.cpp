#include "release/source_facts.h"

namespace glyptos {

const char* nameOf(SourceKind kind) {
    constexpr const char* kNames[] = {"Photo", "Texture", "Illustration", "Element", "Scan", "Look table"};
    return kNames[size_t(kind)];
}

std::string creditLine(const SourceFacts& facts) {
    if (!facts.credit.empty()) return facts.credit;
    std::string out = facts.title.empty() ? std::string() : "“" + facts.title + "”";
    for (const std::string* part : {&facts.maker, &facts.licence})
        if (!part->empty()) out += (out.empty() ? "" : ", ") + *part;
    return out;
}

} // namespace glyptos
