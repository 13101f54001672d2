#include "file/release_json/facts_codec.h"

namespace glyptos {
namespace {

constexpr std::pair<const char*, std::string SourceFacts::*> kTexts[] = {
    {"title", &SourceFacts::title},     {"maker", &SourceFacts::maker},   {"origin", &SourceFacts::origin},
    {"licence", &SourceFacts::licence}, {"credit", &SourceFacts::credit}, {"notes", &SourceFacts::notes}};

} // namespace

Json toJson(const SourceFacts& facts) {
    Json out{{"kind", kSourceKindIds[size_t(facts.kind)]}};
    for (const auto& [key, member] : kTexts)
        if (const std::string& text = facts.*member; !text.empty()) out[key] = text;
    if (!facts.tags.empty()) out["tags"] = facts.tags;
    return out;
}

SourceFacts readFacts(const Entry& e) {
    SourceFacts out;
    out.kind = e.oneOf<SourceKind>("kind", kSourceKindIds);
    for (const auto& [key, member] : kTexts) out.*member = e.textOr(key, {});
    if (e.has("tags")) out.tags = e.texts("tags");
    return out;
}

} // namespace glyptos
