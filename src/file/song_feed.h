// The song feed: a stand-in, shipped, for the list that a streaming service keeps of releases and their
// songs.
#pragma once

#include "file/track_lists.h"

namespace glyptos {

struct FeedRelease {
    std::string artist, title, year;
    std::vector<Track> tracks;
    TrackList list() const { return {artist, title, tracks, {}}; }
};

struct SongFeed {
    std::string name;
    std::vector<FeedRelease> releases;

    /// Releases that have all of the words in artist, title or songs, in any case; all when there are none.
    std::vector<const FeedRelease*> find(const std::string& words) const;
};

/// The feed in data/feed/.
Result<SongFeed> shippedSongFeed();
Result<SongFeed> songFeedFromJson(std::string_view json);

} // namespace glyptos
