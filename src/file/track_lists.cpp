#include "file/track_lists.h"

#include "base/text.h"
#include "file/pictures/picture_reader.h"
#include "file/text_bytes.h"
#include "release/fields.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <optional>

namespace glyptos {
namespace {

std::string lower(std::string_view s) {
    std::string out(s);
    for (char& c : out)
        if (c >= 'A' && c <= 'Z')
            c = char(c - 'A' + 'a'); // not tolower(), which may change parts of characters
    return out;
}

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}

/// "4:08" or "1:02:07", with at least one colon, and with hundredths left out.
std::optional<int> clock(std::string_view text) {
    const std::string plain(text.substr(0, text.find_first_of(".,")));
    if (plain.find(':') == plain.npos) return std::nullopt;
    return durationFromText(plain);
}

/// "Side B", "SIDE two:" and the like.
std::optional<std::string> sideHeading(const std::string& line) {
    std::string words = lower(trimmed(line, ":.-–—[]()"));
    if (!words.starts_with("side ")) return std::nullopt;
    words = trimmed(words.substr(5));
    constexpr std::array<const char*, 6> kNumbers{"one", "two", "three", "four", "five", "six"};
    for (size_t i = 0; i < kNumbers.size(); ++i)
        if (words == kNumbers[i] || words == std::to_string(i + 1)) return std::string(1, char('A' + i));
    if (words.size() == 1 && std::isalpha(static_cast<unsigned char>(words[0])) != 0)
        return std::string(1, char(std::toupper(static_cast<unsigned char>(words[0]))));
    return std::nullopt;
}

/// Takes "3.", "03 -", "A1" or "B2)" off the front; the side it names, or none.
std::string takeNumber(std::string& line) {
    size_t at = 0;
    std::string side;
    if (line.size() > 1 && std::isalpha(static_cast<unsigned char>(line[0])) != 0 && isDigit(line[1]))
        side = line.substr(at++, 1);
    const size_t digits = at;
    while (at < line.size() && isDigit(line[at])) ++at;
    if (at == digits || at - digits > 3 || at == line.size()) return {};
    const std::string_view rest = std::string_view(line).substr(at);
    const bool marked = rest[0] == '.' || rest[0] == ')' || rest[0] == ':' || rest[0] == '-';
    const bool apart = rest[0] == '\t' || rest[0] == ' ';
    // "7 Seas 3:00" is a title that begins with a number; "07 Seas" and "7 - Seas" are numbered.
    const std::string after = trimmed(rest);
    const bool dashed = after.starts_with("-") || after.starts_with("–") || after.starts_with("—");
    if (!marked && !(apart && (line[digits] == '0' || !side.empty() || dashed || rest[0] == '\t'))) return {};
    std::string left = trimmed(rest, ".):-");
    while (left.starts_with("–") || left.starts_with("—")) left = trimmed(left.substr(3));
    if (left.empty()) return {};
    line = left;
    return side.empty() ? side : std::string(1, char(std::toupper(static_cast<unsigned char>(side[0]))));
}

/// Takes a duration off the end.
int takeDuration(std::string& line) {
    const size_t blank = line.find_last_of(" \t");
    if (blank == line.npos) return 0;
    const auto seconds = clock(trimmed(std::string_view(line).substr(blank), "()[]"));
    if (!seconds) return 0;
    line = trimmed(std::string_view(line).substr(0, blank));
    for (const char* sign : {"-", "–", "—", "…", "."})
        while (line.ends_with(sign) && line.size() > std::string_view(sign).size())
            line = trimmed(line.substr(0, line.size() - std::string_view(sign).size()));
    return *seconds;
}

/// Rows of cells.
using Cells = std::vector<std::vector<std::string>>;

Cells cellsOf(std::string_view text, char separator) {
    Cells rows(1);
    std::string cell;
    bool quoted = false;
    const auto endCell = [&] {
        rows.back().push_back(trimmed(cell));
        cell.clear();
    };
    for (size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '"' && i + 1 < text.size() && text[i + 1] == '"')
                cell += c, ++i;
            else if (c == '"')
                quoted = false;
            else
                cell += c;
        } else if (c == '"' && trimmed(cell).empty()) {
            quoted = true;
            cell.clear();
        } else if (c == separator) {
            endCell();
        } else if (c == '\n') {
            endCell();
            rows.emplace_back();
        } else {
            cell += c;
        }
    }
    endCell();
    std::erase_if(rows, [](const auto& row) {
        return std::all_of(row.begin(), row.end(), [](const std::string& s) { return s.empty(); });
    });
    return rows;
}

/// Which column holds what; -1: none.
struct Columns {
    int title = -1, time = -1, side = -1, artist = -1, album = -1;
    bool named = false;
};

Columns namedColumns(const std::vector<std::string>& head) {
    Columns out;
    const auto set = [](int& column, size_t at) {
        if (column < 0) column = int(at);
    };
    for (size_t i = 0; i < head.size(); ++i) {
        const std::string word = lower(head[i]);
        if (word == "title" || word == "name" || word == "song" || word == "track title" ||
            word == "track name")
            set(out.title, i);
        if (word == "duration" || word == "length" || word == "time") set(out.time, i);
        if (word == "side") set(out.side, i);
        if (word == "artist") set(out.artist, i);
        if (word == "album" || word == "release") set(out.album, i);
    }
    out.named = out.title >= 0;
    return out;
}

Columns guessedColumns(const Cells& rows) {
    Columns out;
    const auto& row = rows.front();
    for (size_t i = 0; i < row.size(); ++i) {
        const bool number = !row[i].empty() && std::all_of(row[i].begin(), row[i].end(), isDigit);
        if (clock(row[i]))
            out.time = int(i);
        else if (!number && row[i].size() == 1 && out.side < 0)
            out.side = int(i);
        else if (!number && !row[i].empty() && out.title < 0)
            out.title = int(i);
    }
    return out;
}

std::optional<int> seconds(const std::string& cell) {
    if (cell.empty()) return 0;
    if (const auto value = clock(cell)) return value;
    return durationFromText(cell.substr(0, cell.find('.')));
}

std::string quotedPart(const std::string& line) {
    const size_t from = line.find('"'), to = line.rfind('"');
    if (from != line.npos && to > from) return line.substr(from + 1, to - from - 1);
    const size_t blank = line.find_first_of(" \t");
    return blank == line.npos ? std::string() : trimmed(line.substr(blank));
}

/// mm:ss:ff with 75 frames a second, in frames.
std::optional<int> cueFrames(const std::string& text) {
    int value[3] = {};
    const auto parts = split(text, ':');
    if (parts.size() != 3) return std::nullopt;
    for (size_t i = 0; i < 3; ++i) {
        const auto [end, code] =
            std::from_chars(parts[i].data(), parts[i].data() + parts[i].size(), value[i]);
        if (code != std::errc() || end != parts[i].data() + parts[i].size() || value[i] < 0 ||
            value[i] > 5999)
            return std::nullopt;
    }
    return (value[0] * 60 + value[1]) * 75 + value[2];
}

auto noTracks(const std::string& name) {
    return fail(Fault::Damaged,
                "“" + name + "” holds no track list that can be read; the brief is as it was.");
}

} // namespace

void setLength(Track& track, int seconds, std::vector<std::string>& notes) {
    if (seconds <= kLongestTrack)
        track.seconds = seconds;
    else
        notes.push_back("“" + track.title + "” would be over 24 hours long; its length was left out.");
}

Result<TrackList> tracksFromText(std::string_view text) {
    TrackList out;
    std::string side;
    for (const std::string& raw : split(text, '\n')) {
        std::string line = trimmed(raw);
        if (line.empty()) continue;
        if (const auto heading = sideHeading(line)) {
            side = *heading;
            continue;
        }
        const std::string own = takeNumber(line);
        const int length = takeDuration(line);
        out.tracks.push_back({own.empty() ? side : own, line, length});
    }
    if (out.tracks.empty()) return noTracks("The text");
    return out;
}

Result<TrackList> tracksFromCsv(std::string_view text, const std::string& name) {
    const std::string_view head = text.substr(0, text.find('\n'));
    const auto often = [&](char c) { return std::count(head.begin(), head.end(), c); };
    const char separator = often('\t') > 0 ? '\t' : often(';') > often(',') ? ';' : ',';
    Cells rows = cellsOf(text, separator);
    if (rows.empty()) return noTracks(name);
    Columns columns = namedColumns(rows.front());
    if (columns.named)
        rows.erase(rows.begin());
    else
        columns = guessedColumns(rows);
    if (columns.title < 0) return noTracks(name);
    TrackList out;
    const auto cell = [](const std::vector<std::string>& row, int column) {
        return column >= 0 && size_t(column) < row.size() ? row[size_t(column)] : std::string();
    };
    for (const auto& row : rows) {
        const std::string title = cell(row, columns.title);
        if (title.empty()) continue;
        const auto length = seconds(cell(row, columns.time));
        if (!length)
            out.notes.push_back("The length of “" + title + "” (" + cell(row, columns.time) +
                                ") was not understood and left out.");
        out.tracks.push_back({cell(row, columns.side), title, length.value_or(0)});
        if (out.artist.empty()) out.artist = cell(row, columns.artist);
        if (out.title.empty()) out.title = cell(row, columns.album);
    }
    if (out.tracks.empty()) return noTracks(name);
    return out;
}

Result<TrackList> tracksFromCue(std::string_view text, const std::string& name) {
    struct Start {
        int file = 0, frames = -1;
    };
    TrackList out;
    std::vector<Start> starts;
    int file = 0;
    for (const std::string& raw : split(text, '\n')) {
        const std::string line = trimmed(raw), word = lower(line.substr(0, line.find_first_of(" \t")));
        if (word == "file") {
            ++file;
        } else if (word == "track") {
            out.tracks.emplace_back();
            starts.push_back({file, -1});
        } else if (word == "title") {
            (out.tracks.empty() ? out.title : out.tracks.back().title) = quotedPart(line);
        } else if (word == "performer" && out.tracks.empty()) {
            out.artist = quotedPart(line);
        } else if (word == "index" && !starts.empty()) {
            const auto parts = split(trimmed(line.substr(5)), ' ');
            const auto frames = parts.size() > 1 ? cueFrames(parts.back()) : std::nullopt;
            if (frames && parts.front() == "01") starts.back() = {file, *frames};
        }
    }
    if (out.tracks.empty()) return noTracks(name);
    for (size_t i = 0; i < out.tracks.size(); ++i) {
        Track& track = out.tracks[i];
        if (track.title.empty()) track.title = "Track " + std::to_string(i + 1);
        const bool measured = i + 1 < starts.size() && starts[i].frames >= 0 &&
                              starts[i + 1].file == starts[i].file && starts[i + 1].frames > starts[i].frames;
        if (measured)
            setLength(track, (starts[i + 1].frames - starts[i].frames + 37) / 75, out.notes);
        else
            out.notes.push_back("A cue sheet does not say how long “" + track.title + "” is; type it in.");
    }
    return out;
}

Result<TrackList> readTrackList(const std::filesystem::path& file) {
    constexpr size_t kMost = size_t(4) << 20;
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    const std::string name = nameOf(file), ending = lower(file.extension().string());
    if (bytes->size() > kMost || std::find(bytes->begin(), bytes->end(), 0) != bytes->end())
        return noTracks(name);
    const std::string text = textOf(*bytes);
    if (ending == ".cue") return tracksFromCue(text, name);
    if (ending == ".csv" || ending == ".tsv") return tracksFromCsv(text, name);
    auto out = tracksFromText(text);
    return out ? out : noTracks(name);
}

bool isAudioName(const std::string& name) {
    constexpr std::array<const char*, 11> kEndings{".wav", ".aif",  ".aiff", ".flac", ".mp3", ".ogg",
                                                   ".oga", ".opus", ".m4a",  ".wv",   ".ape"};
    const std::string low = lower(name);
    return std::any_of(kEndings.begin(), kEndings.end(), [&](const char* e) { return low.ends_with(e); });
}

} // namespace glyptos
