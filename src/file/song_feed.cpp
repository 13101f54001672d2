#include "file/song_feed.h"

#include "base/json_entry.h"
#include "base/text.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"

#include <QStringList>
#include <algorithm>

namespace glyptos {
namespace {

QString q(const std::string& s) {
    return QString::fromStdString(s);
}

Track readTrack(const Entry& e) {
    constexpr size_t kParts = 3; // side, title, seconds
    return {e.item(0, kParts).text(), e.item(1, kParts).text(), e.item(2, kParts).whole(0, kLongestTrack)};
}

FeedRelease readRelease(const Entry& e) {
    FeedRelease out{e.text("artist"), e.text("title"), e.text("year"), {}};
    e.each("tracks", [&](const Entry& track) { out.tracks.push_back(readTrack(track)); });
    return out;
}

SongFeed readFeed(const Entry& e) {
    SongFeed out;
    out.name = e.text("name");
    e.each("releases", [&](const Entry& release) { out.releases.push_back(readRelease(release)); });
    return out;
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
    auto feed = guarded(json, "feed", readFeed);
    if (!feed) return fail(feed.error().fault, "The song feed cannot be read: " + feed.error().message + ".");
    return feed;
}

Result<SongFeed> shippedSongFeed() {
    const auto bytes = readFile(dataFolder() / "feed" / "song-feed.json");
    if (!bytes) return tl::unexpected(bytes.error());
    return songFeedFromJson({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
}

} // namespace glyptos
