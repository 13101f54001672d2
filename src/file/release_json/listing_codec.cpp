#include "file/release_json/listing_codec.h"

#include "file/release_json/text_codec.h"

#include <algorithm>
#include <limits>

namespace glyptos {
namespace {

constexpr const char* kFactNames[] = {"number", "title", "performer", "length"};
constexpr const char* kNumberNames[] = {"by side", "on side", "through", "two figures"};
constexpr const char* kLetterKeys[] = {"figures", "performers", "headings"}; // as lettersOf() has them

} // namespace

Json toJson(const TrackListing& listing) {
    Json facts = Json::list();
    for (const TrackFact fact : listing.facts) facts.push_back(Json{{"fact", kFactNames[size_t(fact)]}});
    Json out{{"facts", std::move(facts)},
             {"numbers", kNumberNames[size_t(listing.numbers)]},
             {"sides", listing.sides},
             {"first", listing.first},
             {"last", listing.last},
             {"withHeadings", listing.headings},
             {"headingWord", listing.headingWord},
             {"performerBelow", listing.performerBelow}};
    TrackListing copy = listing;
    const auto all = lettersOf(copy);
    for (size_t i = 0; i < all.size(); ++i) {
        if (!all[i]->letters) continue;
        Json letters = lettersJson(*all[i]->letters);
        letters["textStyle"] = all[i]->style;
        out[kLetterKeys[i]] = std::move(letters);
    }
    return out;
}

TrackListing readTrackListing(const Entry& e) {
    constexpr int kMostTracks = std::numeric_limits<int>::max();
    TrackListing out;
    out.facts.clear();
    e.each("facts", [&](const Entry& f) {
        const auto fact = f.oneOf<TrackFact>("fact", kFactNames);
        if (std::find(out.facts.begin(), out.facts.end(), fact) != out.facts.end()) f.wrong("is there twice");
        out.facts.push_back(fact);
    });
    out.numbers = e.oneOf<TrackNumbers>("numbers", kNumberNames);
    out.sides = e.texts("sides");
    out.first = e.whole("first", 1, kMostTracks), out.last = e.whole("last", 0, kMostTracks);
    out.headings = e.flag("withHeadings"), out.headingWord = e.text("headingWord");
    out.performerBelow = e.flag("performerBelow");
    const auto all = lettersOf(out);
    for (size_t i = 0; i < all.size(); ++i) {
        if (!e.has(kLetterKeys[i])) continue;
        const Entry letters = e.at(kLetterKeys[i]);
        *all[i] = {letters.textOr("textStyle", {}), readLetters(letters)};
    }
    return out;
}

} // namespace glyptos
