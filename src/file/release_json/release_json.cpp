#include "file/release_json/release_json.h"

#include "base/text.h"
#include "file/release_json/brief_codec.h"
#include "file/release_json/kept_words_codec.h"
#include "file/release_json/paint_codec.h"
#include "file/release_json/piece_codec.h"
#include "file/release_json/source_codec.h"
#include "file/release_json/text_codec.h"
#include "file/starts.h"
#include "release/wall.h"

#include <algorithm>
#include <charconv>

namespace glyptos {
namespace {

constexpr int kMostIds = 1'000'000'000;

PiecePtr readWall(const Entry& e, LayerReading& reading) {
    auto wall = std::make_shared<Piece>(*reading.release.wall);
    auto take = std::make_shared<Take>(wall->take());
    reading.area = wall->flat->panels.front().withBleed();
    reading.unit = wall->flat->unit;
    take->stacks[kWallId] = readStack(e, reading);
    wall->takes.front() = std::move(take);
    return wall;
}

void checkVersion(const Entry& e) {
    const double version = e.number("version");
    if (version > kReleaseFormatVersion)
        throw Wrong{Fault::Unsupported, "it was written by a newer version of Glyptos (format " +
                                            shortNumber(version) + "); update Glyptos to open it"};
}

/// As the file says, unless that id, or a later one, has been given already.
int nextIdOf(const Entry& e, const std::set<std::string>& given) {
    const double said = e.has("nextId") && e.at("nextId").isNumber() ? e.number("nextId") : 1;
    int next = said >= 1 && said <= kMostIds ? int(said) : 1;
    for (const std::string& id : given) {
        int number = 0; // of "n12"
        const auto [end, fault] = std::from_chars(id.data() + 1, id.data() + id.size(), number);
        const bool isOurs = id[0] == 'n' && fault == std::errc() && end == id.data() + id.size();
        if (isOurs && number < kMostIds) next = std::max(next, number + 1);
    }
    return next;
}

Release readRelease(const Entry& e, const std::vector<std::shared_ptr<const Form>>& forms,
                    const TileSource& tiles, const LookSource& looks) {
    checkVersion(e);
    Release release;
    LayerReading reading{release, {}, {}, tiles, looks};
    release.brief = readBrief(e.at("brief"));
    release.linearLight = e.flagOr("linearLight", false);
    e.each("sources", [&](const Entry& source) { release.sources.push_back(readPictureFile(source)); });
    if (e.has("fonts"))
        e.each("fonts", [&](const Entry& font) { release.fonts.push_back(readFontFile(font)); });
    if (e.has("palette"))
        e.each("palette", [&](const Entry& swatch) {
            reading.uniqueId(swatch);
            release.palette.push_back(readSwatch(swatch));
        });
    if (e.has("textStyles"))
        e.each("textStyles", [&](const Entry& style) {
            reading.uniqueId(style);
            release.textStyles.push_back(readTextStyle(style));
        });
    if (e.has("keptWords")) release.keptWords = readAllKept(e.at("keptWords"));
    e.each("pieces", [&](const Entry& piece) { release.pieces.push_back(readPiece(piece, reading, forms)); });
    if (e.has("wall")) release.wall = readWall(e.at("wall"), reading);
    release.nextId = nextIdOf(e, reading.ids);
    return release;
}

StartingComposition readStart(const Entry& e) {
    StartingComposition out{e.text("id"), e.text("name"), e.text("note"), {}, {}};
    e.each("palette", [&](const Entry& colour) {
        out.palette.push_back({colour.text("name"), readColour(colour, "colour")});
    });
    const Release none;
    LayerReading reading{none, {0, 0, kStartSide, kStartSide}, {}, noTiles, noLooks, Unit::Px};
    out.layers = readStack(e.at("layers"), reading);
    return out;
}

template <class Items>
Json listOf(const Items& items) {
    Json out = Json::list();
    for (const auto& item : items) out.push_back(toJson(*item));
    return out;
}

} // namespace

std::string releaseToJson(const Release& release) {
    Json palette = Json::list(), styles = Json::list();
    for (const Swatch& s : release.palette) palette.push_back(toJson(s));
    for (const TextStyle& s : release.textStyles) styles.push_back(toJson(s));
    const Json all{{"version", kReleaseFormatVersion},
                   {"brief", toJson(release.brief)},
                   {"nextId", int(release.nextId)},
                   {"linearLight", release.linearLight},
                   {"palette", std::move(palette)},
                   {"textStyles", std::move(styles)},
                   {"sources", listOf(release.sources)},
                   {"fonts", listOf(release.fonts)},
                   {"keptWords", toJson(release.keptWords)},
                   {"pieces", listOf(release.pieces)},
                   {"wall", toJson(release.wall->take().stack(kWallId), release.wall->flat->unit)}};
    return all.dump(1) + "\n";
}

Result<Release> releaseFromJson(std::string_view json, const std::vector<std::shared_ptr<const Form>>& forms,
                                const TileSource& tiles, const LookSource& looks) {
    return guarded(json, "release", [&](const Entry& e) { return readRelease(e, forms, tiles, looks); });
}

Result<PixelTilePtr> noTiles(const std::string&, const PixelFormat&) {
    return fail(Fault::Damaged, "nothing can be painted here");
}

Result<LookTablePtr> noLooks(const std::string&) {
    return fail(Fault::Damaged, "no tables of colours can be named here");
}

Result<StartingComposition> startFromJson(std::string_view json, const std::string& where) {
    auto start = guarded(json, "start", readStart);
    if (!start)
        return fail(start.error().fault, "The starting composition “" + where +
                                             "” cannot be used: " + start.error().message + ".");
    return start;
}

Result<Brief> briefFromJson(std::string_view json) {
    return guarded(json, "brief", readBrief);
}

} // namespace glyptos
