// Track lists in: pasted text, CSV, cue sheets, and the tags of audio files.
#pragma once

#include "base/error.h"
#include "release/release.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

struct TrackList {
    std::string artist, title; ///< of the release, where the list says so
    std::vector<Track> tracks;
    std::vector<std::string> notes; ///< what could not be taken over, a sentence each
};

/// Gives a track its length; one that no release holds is left out and noted.
void setLength(Track& track, int seconds, std::vector<std::string>& notes);

/// One track a line: a number or side and number ("3.", "03 -", "B2"), a title, and a duration at the end
/// ("4:08", "(4:08)"), the first and the last as they are there. A line "Side B" begins a side. Fails when
/// there is no track.
Result<TrackList> tracksFromText(std::string_view text);

/// RFC 4180, also with semicolons or tabs. A head line may name columns (title, name, song; duration, length,
/// time; side; artist; album); without one the column of durations and the first with words are taken.
Result<TrackList> tracksFromCsv(std::string_view text, const std::string& name);

/// A cue sheet: lengths are the ways from INDEX 01 to the next one in the same file; the last has none.
Result<TrackList> tracksFromCue(std::string_view text, const std::string& name);

/// A text file of one of these kinds, told by its ending and then by its content; for its encoding see
/// textOf().
[[nodiscard]] Result<TrackList> readTrackList(const std::filesystem::path& file);

/// Titles and lengths from the tags of audio files (WAV, AIFF, FLAC, MP3, Ogg, …), in the order of their disc
/// and track numbers, then of their names. Files that are none are told in the notes; fails when all are.
Result<TrackList> tracksFromAudio(const std::vector<std::filesystem::path>& files);

/// Whether the name ends as that of an audio file.
bool isAudioName(const std::string& name);

} // namespace glyptos
