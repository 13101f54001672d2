#include "release/track_listing.h"

#include "release/fields.h"

#include <algorithm>

namespace glyptos {
namespace {

bool hasFigures(const LetterStyle& letters) {
    return std::any_of(letters.features.begin(), letters.features.end(),
                       [](const FontFeature& f) { return f.tag == "tnum" || f.tag == "pnum"; });
}

/// A tab or a line of its own would be taken for one of the table.
std::string plain(std::string text) {
    std::replace_if(
        text.begin(), text.end(), [](char c) { return c == '\t' || c == '\n' || c == '\v' || c == '\r'; },
        ' ');
    return text;
}

/// Makes the words of a listing, one after the other.
class ListMaker {
  public:
    ListMaker(const TextContent& text, const TrackListing& listing, const Brief& brief)
        : listing_(listing)
        , tracks_(brief.tracks)
        , shown_(listedTracks(listing, brief.tracks))
        , out_(text.spec) {
        out_.text.clear(), out_.runs.clear(), out_.kerns.clear(), out_.poses.clear(), out_.leadings.clear();
        out_.tabs.clear();
        for (const TrackFact fact : listing.facts)
            if (isThere(fact)) facts_.push_back(fact);
    }

    TextSpec make() {
        const bool hasHeadings = listing_.headings && !sidesOf(tracks_).empty();
        for (size_t i = 0; i < shown_.size(); ++i) {
            const std::string& side = tracks_[shown_[i]].side;
            const bool begins = i == 0 || tracks_[shown_[i - 1]].side != side;
            if (hasHeadings && begins && !side.empty()) heading(side);
            row(i);
        }
        if (!out_.text.empty()) out_.text.pop_back(); // the last line's end
        for (TextRun& run : out_.runs) run.to = std::min(run.to, out_.text.size());
        std::erase_if(out_.runs, [](const TextRun& run) { return run.from >= run.to; });
        setColumns();
        return std::move(out_);
    }

  private:
    bool isBelow() const {
        return listing_.performerBelow &&
               std::count(listing_.facts.begin(), listing_.facts.end(), TrackFact::Title) > 0;
    }
    bool isThere(TrackFact fact) const {
        const auto any = [&](const auto& has) {
            return std::any_of(shown_.begin(), shown_.end(), [&](size_t i) { return has(tracks_[i]); });
        };
        if (fact == TrackFact::Length) return any([](const Track& t) { return t.seconds > 0; });
        if (fact == TrackFact::Performer)
            return !isBelow() && any([](const Track& t) { return !t.performer.empty(); });
        return true;
    }

    /// In letters that are not those of the titles.
    void put(const std::string& words, const TrackLetters& letters, int paint) {
        if (words.empty()) return;
        TextRun run{out_.text.size(), out_.text.size() + words.size(),
                    letters.letters.value_or(out_.letters)};
        run.letters.paint = letters.letters ? paint : 0;
        if (paint == kFiguresPaint && !hasFigures(run.letters)) run.letters.features.push_back({"tnum", 1});
        out_.text += words;
        out_.runs.push_back(std::move(run));
    }

    void heading(const std::string& side) {
        const std::string& word = listing_.headingWord;
        put(plain(word.empty() ? side : word + ' ' + side), listing_.headingLetters, kHeadingsPaint);
        out_.text += '\n';
    }

    std::string numberOf(size_t shown) const {
        const size_t index = shown_[shown];
        if (listing_.numbers == TrackNumbers::BySide) return trackNumber(tracks_, index);
        size_t number = index + 1;
        if (listing_.numbers == TrackNumbers::OnSide) {
            number = 1;
            for (size_t i = 0; i < index; ++i) number += tracks_[i].side == tracks_[index].side;
        }
        const std::string out = std::to_string(number);
        return listing_.numbers == TrackNumbers::TwoFigures && out.size() < 2 ? "0" + out : out;
    }

    void row(size_t shown) {
        const Track& track = tracks_[shown_[shown]];
        const bool hasPerformers =
            std::count(listing_.facts.begin(), listing_.facts.end(), TrackFact::Performer) > 0;
        for (size_t i = 0; i < facts_.size(); ++i) {
            if (i > 0) out_.text += '\t';
            switch (facts_[i]) {
            case TrackFact::Number:
                put(numberOf(shown), listing_.figures, kFiguresPaint);
                break;
            case TrackFact::Title:
                out_.text += plain(track.title);
                if (isBelow() && hasPerformers && !track.performer.empty()) {
                    out_.text += '\v';
                    put(plain(track.performer), listing_.performers, kPerformersPaint);
                }
                break;
            case TrackFact::Performer:
                put(plain(track.performer), listing_.performers, kPerformersPaint);
                break;
            case TrackFact::Length:
                put(durationText(track.seconds), listing_.figures, kFiguresPaint);
                break;
            }
        }
        if (facts_.size() < 2) out_.text += '\t'; // a row, not a heading
        out_.text += '\n';
    }

    void setColumns() {
        if (!std::holds_alternative<InTable>(out_.frame)) {
            InTable table;
            if (const double measure = measureOf(out_); measure > 0) table.width = measure;
            out_.frame = table;
        }
        auto& table = std::get<InTable>(out_.frame);
        table.columns.clear();
        for (const TrackFact fact : facts_) {
            const bool isFigure = fact == TrackFact::Number || fact == TrackFact::Length;
            // Numbers are read from their left, unless they are of one and of two figures.
            const bool isRight = fact == TrackFact::Length ||
                                 (fact == TrackFact::Number &&
                                  (listing_.numbers != TrackNumbers::BySide || sidesOf(tracks_).empty()));
            table.columns.push_back({isRight ? Align::Right : Align::Left, !isFigure});
        }
        table.hangs = table.hangs && !facts_.empty() && facts_.front() == TrackFact::Number;
    }

    const TrackListing& listing_;
    const std::vector<Track>& tracks_;
    std::vector<size_t> shown_;
    std::vector<TrackFact> facts_; ///< that make a column
    TextSpec out_;
};

} // namespace

std::array<TrackLetters*, 3> lettersOf(TrackListing& listing) {
    return {&listing.figures, &listing.performers, &listing.headingLetters};
}

std::vector<std::string> sidesOf(const std::vector<Track>& tracks) {
    std::vector<std::string> out;
    for (const Track& track : tracks)
        if (!track.side.empty() && std::find(out.begin(), out.end(), track.side) == out.end())
            out.push_back(track.side);
    return out;
}

std::vector<size_t> listedTracks(const TrackListing& listing, const std::vector<Track>& tracks) {
    std::vector<size_t> out;
    int place = 0;
    for (size_t i = 0; i < tracks.size(); ++i) {
        const auto& sides = listing.sides;
        if (!sides.empty() && std::find(sides.begin(), sides.end(), tracks[i].side) == sides.end()) continue;
        ++place;
        if (place >= listing.first && (listing.last == 0 || place <= listing.last)) out.push_back(i);
    }
    return out;
}

TextSpec listedText(const TextContent& text, const TrackListing& listing, const Brief& brief) {
    return ListMaker(text, listing, brief).make();
}

} // namespace glyptos
