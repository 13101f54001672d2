#include "release/fields.h"

#include "base/text.h"
#include "release/credits.h"
#include "release/walks.h"
#include "type/text_edits.h"

#include <algorithm>
#include <charconv>

namespace glyptos {
namespace {

constexpr std::string_view kCredits = "credits";

bool tellsCredits(const Layer& layer) {
    const auto* text = layer.as<TextContent>();
    return text && text->spec.text.find("{credits}") != std::string::npos;
}

std::string trackLines(const std::vector<Track>& tracks, std::string_view side) {
    std::string out;
    for (size_t i = 0; i < tracks.size(); ++i) {
        if (!side.empty() && tracks[i].side != side) continue;
        if (!out.empty()) out += '\n';
        out += trackNumber(tracks, i) + '\t' + tracks[i].title;
        if (tracks[i].seconds > 0) out += '\t' + durationText(tracks[i].seconds);
    }
    return out;
}

std::optional<std::string> fieldValue(std::string_view field, const Release& release) {
    const Brief& brief = release.brief;
    if (field == kCredits) return creditText(release);
    if (field == "artist") return brief.artist;
    if (field == "title") return brief.title;
    if (field == "label") return brief.label;
    if (field == "catalogue") return brief.catalogue;
    if (field == "year") return brief.year;
    if (field == "barcode") return brief.barcode;
    if (field == "address") return brief.address;
    if (field == "copyright") return brief.copyright;
    if (field == "phonogram") return brief.phonogram;
    if (field == "made in") return brief.madeIn;
    if (field == "tracks") return trackLines(brief.tracks, "");
    if (field.starts_with("tracks ")) return trackLines(brief.tracks, field.substr(7));
    return std::nullopt;
}

} // namespace

const std::vector<FieldInfo>& textFields() {
    static const std::vector<FieldInfo> fields{{"{title}", "Title"},
                                               {"{artist}", "Artist"},
                                               {"{label}", "Label"},
                                               {"{catalogue}", "Catalogue number"},
                                               {"{year}", "Year"},
                                               {"{copyright}", "© line"},
                                               {"{phonogram}", "℗ line"},
                                               {"{made in}", "Made in"},
                                               {"{barcode}", "Digits of the barcode"},
                                               {"{address}", "Address"},
                                               {"{tracks}", "Track list"},
                                               {"{tracks A}", "Tracks, side A"},
                                               {"{tracks B}", "Tracks, side B"},
                                               {"{credits}", "Credits of pictures"}};
    return fields;
}

std::vector<FieldSpan> fieldSpans(std::string_view text, const Release& release) {
    std::vector<FieldSpan> out;
    for (size_t at = text.find('{'); at != text.npos; at = text.find('{', at)) {
        const size_t end = text.find('}', at);
        if (end == text.npos) break;
        if (auto value = fieldValue(text.substr(at + 1, end - at - 1), release))
            out.push_back({at, end + 1, std::move(*value)});
        at = end + 1;
    }
    return out;
}

size_t filledByte(const std::vector<FieldSpan>& fields, size_t byte) {
    size_t out = byte;
    for (const FieldSpan& field : fields) {
        if (byte <= field.from) break;
        out += field.value.size();
        out -= std::min(byte, field.to) - field.from;
    }
    return out;
}

size_t writtenByte(const std::vector<FieldSpan>& fields, size_t byte) {
    size_t grown = 0, shrunk = 0; // by the fields before
    for (const FieldSpan& field : fields) {
        const size_t from = field.from + grown - shrunk, to = from + field.value.size();
        if (byte <= from) break;
        if (byte < to) return byte - from < to - byte ? field.from : field.to;
        grown += field.value.size(), shrunk += field.to - field.from;
    }
    return byte + shrunk - grown;
}

std::string filledText(std::string_view text, const Release& release) {
    std::string out(text);
    const std::vector<FieldSpan> fields = fieldSpans(text, release);
    for (auto field = fields.rbegin(); field != fields.rend(); ++field)
        out.replace(field->from, field->to - field->from, field->value);
    return out;
}

TextSpec resolvedText(const TextContent& text, const Release& release) {
    if (text.tracks) return listedText(text, *text.tracks, release.brief);
    TextSpec spec = text.spec;
    const std::vector<FieldSpan> fields = fieldSpans(spec.text, release);
    for (auto field = fields.rbegin(); field != fields.rend(); ++field)
        spec = replaced(std::move(spec), field->from, field->to, field->value);
    return spec;
}

bool tellsCredits(const Piece& piece) {
    for (const Panel* panel : piece.flat->places())
        if (firstLayer(piece.take().stack(panel->id), [](const Layer& l) { return tellsCredits(l); }))
            return true;
    return false;
}

std::string durationText(int seconds) {
    if (seconds <= 0) return {};
    const auto two = [](int n) { return (n < 10 ? "0" : "") + std::to_string(n); };
    const int minutes = seconds / 60;
    if (minutes < 60) return std::to_string(minutes) + ':' + two(seconds % 60);
    return std::to_string(minutes / 60) + ':' + two(minutes % 60) + ':' + two(seconds % 60);
}

std::optional<int> durationFromText(std::string_view text) {
    int total = 0;
    const auto parts = split(text, ':');
    if (parts.size() > 3) return std::nullopt;
    for (size_t i = 0; i < parts.size(); ++i) {
        int value = 0;
        const auto [end, code] = std::from_chars(parts[i].data(), parts[i].data() + parts[i].size(), value);
        if (code != std::errc() || end != parts[i].data() + parts[i].size() || value < 0 ||
            value > kLongestTrack)
            return std::nullopt;
        if (i > 0 && value > 59) return std::nullopt;
        total = total * 60 + value;
    }
    return total <= kLongestTrack ? std::optional(total) : std::nullopt;
}

std::string trackNumber(const std::vector<Track>& tracks, size_t index) {
    size_t place = 1;
    for (size_t i = 0; i < index; ++i) place += tracks[i].side == tracks[index].side;
    const std::string& side = tracks[index].side;
    const bool isDisc = !side.empty() && side.back() >= '0' && side.back() <= '9';
    return side + (isDisc ? "." : "") + std::to_string(place);
}

} // namespace glyptos
