#include "file/release_json/brief_codec.h"

namespace glyptos {
namespace {

/// Words that older files may lack.
constexpr std::pair<const char*, std::string Brief::*> kLater[] = {
    {"genre", &Brief::genre},         {"audience", &Brief::audience}, {"notes", &Brief::notes},
    {"barcode", &Brief::barcode},     {"address", &Brief::address},   {"copyright", &Brief::copyright},
    {"phonogram", &Brief::phonogram}, {"madeIn", &Brief::madeIn}};

} // namespace

Json toJson(const Brief& b) {
    Json tracks = Json::list();
    for (const Track& t : b.tracks) {
        Json track{{"side", t.side}, {"title", t.title}, {"seconds", t.seconds}};
        if (!t.performer.empty()) track["performer"] = t.performer;
        tracks.push_back(std::move(track));
    }
    Json out{{"artist", b.artist}, {"title", b.title},
             {"label", b.label},   {"catalogue", b.catalogue},
             {"year", b.year},     {"tracks", std::move(tracks)},
             {"mood", b.mood}};
    for (const auto& [key, member] : kLater) out[key] = b.*member;
    return out;
}

Brief readBrief(const Entry& e) {
    Brief b;
    b.artist = e.text("artist"), b.title = e.text("title"), b.label = e.text("label");
    b.catalogue = e.text("catalogue"), b.year = e.text("year");
    if (e.has("mood")) b.mood = e.texts("mood");
    for (const auto& [key, member] : kLater) b.*member = e.textOr(key, {});
    e.each("tracks", [&](const Entry& t) {
        b.tracks.push_back({t.text("side"), t.text("title"), t.whole("seconds", 0, kLongestTrack),
                            t.textOr("performer", {})});
    });
    return b;
}

} // namespace glyptos
