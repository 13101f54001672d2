#include "file/release_json/source_codec.h"

#include "file/release_json/facts_codec.h"
#include "file/release_json/paint_codec.h"

namespace glyptos {
namespace {

constexpr int kLongestSide = 65000; // pixels
constexpr size_t kIdLength = 32;

std::shared_ptr<Source> readFile(const Entry& e) {
    auto s = std::make_shared<Source>();
    s->id = e.text("id");
    if (s->id.size() != kIdLength || s->id.find_first_not_of("0123456789abcdef") != s->id.npos)
        throw Wrong{Fault::Damaged, e.path("id") + " is not an id"};
    s->name = e.text("name");
    s->format = e.text("format");
    return s;
}

} // namespace

Json toJson(const Source& s) {
    Json out{{"id", s.id}, {"name", s.name}, {"format", s.format}};
    if (isFont(s)) return out;
    out.update({{"width", s.width}, {"height", s.height}, {"facts", toJson(s.facts)}});
    return out;
}

SourcePtr readPictureFile(const Entry& e) {
    const auto s = readFile(e);
    if (isFont(*s)) throw Wrong{Fault::Damaged, e.path("format") + " is not that of a picture"};
    s->width = e.whole("width", 1, kLongestSide);
    s->height = e.whole("height", 1, kLongestSide);
    if (e.has("facts")) s->facts = readFacts(e.at("facts"));
    return s;
}

SourcePtr readFontFile(const Entry& e) {
    const auto s = readFile(e);
    if (!isFont(*s)) throw Wrong{Fault::Damaged, e.path("format") + " is not that of a font"};
    return s;
}

Json toJson(const Swatch& s) {
    Json out{{"id", s.id}, {"name", s.name}, {"colour", toHex(s.colour)}};
    if (s.plate != Plate::Process) out["plate"] = kPlateIds[size_t(s.plate)];
    return out;
}

Swatch readSwatch(const Entry& e) {
    Swatch swatch{e.text("id"), e.text("name"), readColour(e, "colour")};
    if (e.has("plate")) swatch.plate = e.oneOf<Plate>("plate", kPlateIds);
    return swatch;
}

} // namespace glyptos
