// Internal to file: how track lists are set, as JSON.
#pragma once

#include "base/json_entry.h"
#include "release/track_listing.h"

namespace glyptos {

Json toJson(const TrackListing& listing);
TrackListing readTrackListing(const Entry& e);

} // namespace glyptos
