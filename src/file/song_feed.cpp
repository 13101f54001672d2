#include "file/song_feed.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "file/json_entry.h"
#include "file/picture_reader.h"

#include <QStringList>
#include <algorithm>

namespace glyptos {
namespace {

QString q(const std::string& s) {
    return QString::fromStdString(s);
}

Track readTrack(const Json& json, const std::string& where) {
    const bool good = json.is_array() && json.size() == 3 && json[0].is_string() && json[1].is_string() &&
                      json[2].is_number_integer() && json[2].get<int64_t>() >= 0 &&
                      json[2].get<int64_t>() <= 86400;
    if (!good) throw Wrong{Fault::Damaged, where + " should be a side, a title and seconds"};
    return {json[0].get<std::string>(), json[1].get<std::string>(), json[2].get<int>()};
}

} // namespace

std::vector<const FeedRelease*> SongFeed::find(const std::string& words) const {
    const QStringList wanted = q(words).split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<const FeedRelease*> out;
    for (const FeedRelease& r : releases) {
        QString all = q(r.artist) + QLatin1Char(' ') + q(r.title);
        for (const Track& t : r.tracks) all += QLatin1Char(' ') + q(t.title);
        if (std::all_of(wanted.begin(), wanted.end(),
                        [&](const QString& w) { return all.contains(w, Qt::CaseInsensitive); }))
            out.push_back(&r);
    }
    return out;
}

Result<SongFeed> songFeedFromJson(std::string_view json) {
    try {
        const Json parsed = Json::parse(json);
        const Entry e(parsed, "feed");
        SongFeed out;
        out.name = e.text("name");
        e.each("releases", [&](const Json& item, const std::string& where) {
            const Entry r(item, where);
            FeedRelease release{r.text("artist"), r.text("title"), r.text("year"), {}};
            r.each("tracks", [&](const Json& track, const std::string& at) {
                release.tracks.push_back(readTrack(track, at));
            });
            out.releases.push_back(std::move(release));
        });
        return out;
    } catch (const nlohmann::json::exception&) {
        return fail(Fault::Damaged, "The song feed is not valid JSON.");
    } catch (const Wrong& w) {
        return fail(w.fault, "The song feed cannot be read: " + w.what + ".");
    }
}

Result<SongFeed> shippedSongFeed() {
    const auto bytes = readFile(dataFolder() / "feed" / "song-feed.json");
    if (!bytes) return tl::unexpected(bytes.error());
    return songFeedFromJson({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
}

} // namespace glyptos
