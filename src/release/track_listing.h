// How the track list of the brief is set as words: which facts, of which tracks, in which letters.
#pragma once

#include "type/text_spec.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace glyptos {

struct Brief;
struct Track;
struct TextContent;

enum class TrackFact : unsigned char { Number, Title, Performer, Length };

enum class TrackNumbers : unsigned char {
    BySide,    ///< "A1": side and place on it; the place alone where there are no sides
    OnSide,    ///< "1", from the beginning on each side
    Through,   ///< "1", on through all sides
    TwoFigures ///< "01", on through all sides
};

/// Letters of some of the facts.
struct TrackLetters {
    std::string style;                  ///< the text style that they follow; empty: none
    std::optional<LetterStyle> letters; ///< none: as the titles
    bool operator==(const TrackLetters&) const = default;
};

/// The list is set in the text's own frame, which is a table (text_spec.h) with the columns that the facts
/// ask for; titles and performers break. Facts that no track has make no column.
struct TrackListing {
    std::vector<TrackFact> facts{TrackFact::Number, TrackFact::Title, TrackFact::Length}; ///< each once
    TrackNumbers numbers = TrackNumbers::BySide;
    std::vector<std::string> sides;   ///< those shown; none: all
    int first = 1, last = 0;          ///< of the tracks of those sides, counted from 1; last 0: to the end
    bool headings = true;             ///< a line over each side, when there are sides
    std::string headingWord = "Side"; ///< before a side's name: "Side A", "Disc 1"
    bool performerBelow = true;       ///< in a line of their own below the title, not beside it
    TrackLetters figures, performers, headingLetters; ///< figures: numbers and lengths
    bool operator==(const TrackListing&) const = default;
};

/// Those of the figures, performers and headings.
std::array<TrackLetters*, 3> lettersOf(TrackListing& listing);

/// Paints of the letters that are not titles (LetterStyle::paint); 0 is that of the titles.
inline constexpr int kFiguresPaint = 1, kPerformersPaint = 2, kHeadingsPaint = 3;

/// Sides in the order in which the tracks have them; none when no track says its side.
std::vector<std::string> sidesOf(const std::vector<Track>& tracks);

/// Indices of the tracks that a listing shows.
std::vector<size_t> listedTracks(const TrackListing& listing, const std::vector<Track>& tracks);

/// The spec of the text with its words, runs and columns made from the brief. Figures are tabular unless
/// their style says otherwise. A frame that is no table becomes one as wide as its lines.
TextSpec listedText(const TextContent& text, const TrackListing& listing, const Brief& brief);

} // namespace glyptos
