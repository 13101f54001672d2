#include "crate/entry.h"

#include "base/inside.h"
#include "base/path_text.h"
#include "base/text.h"
#include "file/release_json/facts_codec.h"
#include "file/release_json/paint_codec.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

std::string edgesToHex(const EdgePattern& edges) {
    return toHexDigits({reinterpret_cast<const char*>(edges.data()), edges.size()});
}

EdgePattern edgesFromHex(const std::string& hex, const std::string& where) {
    EdgePattern out{};
    const auto bytes = fromHexDigits(hex);
    if (!bytes) throw Wrong{Fault::Damaged, where + " is not hexadecimal"};
    if (bytes->size() != out.size()) throw Wrong{Fault::Damaged, where + " has the wrong length"};
    std::copy(bytes->begin(), bytes->end(), reinterpret_cast<char*>(out.data()));
    return out;
}

CrateEntry read(const Entry& e) {
    CrateEntry out;
    out.id = e.text("id");
    out.path = pathFromText(e.text("path"));
    if (out.id.empty() || out.path.empty()) throw Wrong{Fault::Damaged, "it has no id or path"};
    if (!std::filesystem::path(out.path).is_absolute() && !inside({}, out.path))
        e.wrong("leads out of the crate");
    if (e.has("copies"))
        for (const std::string& copy : e.texts("copies")) out.copies.push_back(pathFromText(copy));
    out.fileBytes = int64_t(e.number("bytes"));
    out.modified = int64_t(e.number("modified"));
    out.added = int64_t(e.number("added"));
    out.format = e.text("format");
    out.width = e.whole("width", 0, 65000);
    out.height = e.whole("height", 0, 65000);
    out.pages = e.has("pages") ? e.whole("pages", 1, 1'000'000) : 1;
    out.facts = readFacts(e.at("facts"));
    e.each("palette", [&](const Entry& c) {
        out.palette.push_back({readColour(c, "colour"), c.between("share", 0, 1)});
    });
    for (const PaletteColour& c : out.palette)
        out.traits.palette.push_back({toOklab(c.colour), float(c.share)});
    out.traits.edges = edgesFromHex(e.text("edges"), e.path("edges"));
    out.mainColour = mainColourOf(out.palette);
    return out;
}

} // namespace

std::string CrateEntry::name() const {
    return facts.title.empty() ? stemOf(path) : facts.title;
}

const char* nameOf(ShapeFacet shape) {
    constexpr const char* kNames[] = {"Square", "Tall", "Wide"};
    return kNames[size_t(shape)];
}

ShapeFacet shapeOf(const CrateEntry& entry) {
    const double aspect = double(std::max(entry.width, 1)) / std::max(entry.height, 1);
    return aspect > 1.04 ? ShapeFacet::Wide : aspect < 1 / 1.04 ? ShapeFacet::Tall : ShapeFacet::Square;
}

bool isLargeEnough(const CrateEntry& entry) {
    return entry.isDrawing() || std::min(entry.width, entry.height) >= kFrontPixels;
}

ColourFamily mainColourOf(const std::vector<PaletteColour>& palette) {
    ColourFamily best = ColourFamily::Grey;
    double bestWorth = -1;
    for (const PaletteColour& c : palette) {
        const double worth = c.share * (0.35 + 6 * toOklch(toOklab(c.colour)).C);
        if (worth > bestWorth) best = familyOf(toOklab(c.colour)), bestWorth = worth;
    }
    return best;
}

std::string entryToLine(const CrateEntry& e) {
    Json palette = Json::list();
    for (const PaletteColour& c : e.palette)
        palette.push_back({{"colour", toHex(c.colour)}, {"share", std::round(c.share * 1e4) / 1e4}});
    Json out{{"id", e.id},
             {"path", pathText(e.path)},
             {"bytes", e.fileBytes},
             {"modified", e.modified},
             {"added", e.added},
             {"format", e.format},
             {"width", e.width},
             {"height", e.height},
             {"facts", toJson(e.facts)},
             {"palette", std::move(palette)},
             {"edges", edgesToHex(e.traits.edges)}};
    for (const std::string& copy : e.copies) out["copies"].push_back(pathText(copy));
    if (e.pages > 1) out["pages"] = e.pages;
    return out.dump();
}

std::optional<CrateEntry> entryFromJson(std::string_view json) {
    auto entry = guarded(json, "source", read);
    return entry ? std::optional(std::move(*entry)) : std::nullopt;
}

} // namespace glyptos
