#include "type/faces/face_facts.h"

#include "type/glyph_outline.h"
#include "type/outline_scan.h"

#include <algorithm>
#include <cmath>
#include <hb.h>
#include <numbers>
#include <unicode/utf8.h>

namespace glyptos {
namespace {

constexpr std::string_view kWords[]{"blackletter", "script",        "hand",      "mono", "slab",   "serif",
                                    "grotesque",   "high-contrast", "condensed", "wide", "display"};

/// Letters of one face, drawn at em = 1, upwards below 0.
class Letters {
  public:
    explicit Letters(const FacePtr& face)
        : face_(face) {}

    bool has(char letter) const { return face_->has(char32_t(letter)); }
    OutlineScan scan(char letter) { return OutlineScan(glyphOutline(*face_, glyph(letter))); }
    double advance(char letter) {
        return hb_font_get_glyph_h_advance(face_->font(), glyph(letter)) / face_->unitsPerEm();
    }
    /// Above the baseline; 0 of a letter that is not there.
    double height(char letter) { return has(letter) ? -scan(letter).bounds().y : 0; }

    /// Of `measure(letter)` for those that are there.
    template <class Measure>
    double mean(std::string_view letters, Measure measure) {
        double sum = 0;
        int n = 0;
        for (const char letter : letters)
            if (has(letter)) sum += measure(letter), ++n;
        return n > 0 ? sum / n : 0;
    }

  private:
    uint32_t glyph(char letter) const {
        hb_codepoint_t out = 0;
        hb_font_get_nominal_glyph(face_->font(), hb_codepoint_t(letter), &out);
        return out;
    }
    FacePtr face_;
};

double median(std::vector<double> values) {
    if (values.empty()) return 0;
    std::nth_element(values.begin(), values.begin() + ptrdiff_t(values.size() / 2), values.end());
    return values[values.size() / 2];
}

/// The left stem of H above and below its bar, by shares of its height.
void measureStems(const OutlineScan& H, FaceFacts& out) {
    const double height = out.capHeight;
    std::vector<double> stems;
    std::vector<Vec2> middles;
    for (const double share : {0.2, 0.25, 0.3, 0.7, 0.75, 0.8})
        if (const auto runs = H.across(-share * height); !runs.empty()) {
            stems.push_back(runs.front().length());
            middles.push_back({runs.front().middle(), share * height});
        }
    if (stems.empty()) return;
    const double stem = median(stems);
    const Vec2 way = middles.back() - middles.front();
    out.slant = way.y > 0 ? std::atan2(way.x, way.y) * 180 / std::numbers::pi : 0;
    out.stem = stem * std::cos(out.slant * std::numbers::pi / 180) / height;

    const auto legs = H.across(-0.25 * height);
    if (legs.size() > 1) {
        const double between = (legs[0].to + legs[1].from) / 2;
        if (const auto bar = H.along({between, 0}, {0, -1}); !bar.empty())
            out.bar = bar.front().length() / stem;
    }

    // The foot: how much wider than the stem, and up to which height more than half of that.
    const auto widthAt = [&](double share) {
        const auto runs = H.across(-share * height);
        return runs.empty() ? 0 : runs.front().length();
    };
    double foot = 0;
    for (const double share : {0.01, 0.02, 0.03, 0.04, 0.06}) foot = std::max(foot, widthAt(share));
    out.feet = (foot - stem) / stem;
    constexpr double kStep = 0.005;
    constexpr int kSteps = 60; // to 0.3
    double upTo = 0;
    for (int i = 2; i < kSteps; ++i)
        if (widthAt(i * kStep) > stem + (foot - stem) / 2) upTo = i * kStep;
    out.feetHeight = upTo * height / stem;
}

Vec2 wayOf(int degrees) {
    const double turn = degrees * std::numbers::pi / 180;
    return {std::cos(turn), std::sin(turn)};
}

/// The first stretch inside that begins on the way from a point outside.
std::optional<Run> firstRun(const OutlineScan& letter, Vec2 from, Vec2 way) {
    for (const Run& run : letter.along(from, way))
        if (run.from >= 0) return run;
    return std::nullopt;
}

/// Thickest to thinnest stroke round the counter of a letter. Where a ray from its middle meets the stroke
/// the shortest way through is its thickness there.
double contrastOf(const OutlineScan& o) {
    constexpr int kStep = 15;
    constexpr double kAside = 1e-4; // em: in the counter still
    const Rect& box = o.bounds();
    const Vec2 middle{box.x + box.w / 2, box.y + box.h / 2};
    std::vector<double> all;
    for (int degrees = 0; degrees < 360; degrees += kStep) {
        const Vec2 way = wayOf(degrees);
        const auto run = firstRun(o, middle, way);
        if (!run) continue;
        const Vec2 inside = middle + way * (run->from - kAside);
        double thickness = run->length();
        for (int turn = -75; turn <= 75; turn += kStep)
            if (const auto other = firstRun(o, inside, wayOf(degrees + turn)); other && other->from < 0.02)
                thickness = std::min(thickness, other->length());
        all.push_back(thickness);
    }
    if (all.size() < 8) return 0;
    // Where strokes meet there is little that is very thin or thick.
    std::sort(all.begin(), all.end());
    const size_t few = all.size() / 10;
    return all[few] > 0 ? all[all.size() - 1 - few] / all[few] : 0;
}

void measureSmallLetters(Letters& letters, FaceFacts& out) {
    out.hasSmallLetters = letters.has('x') && letters.has('h') &&
                          std::abs(letters.height('x') - letters.height('X')) > 0.04 * out.capHeight;
    if (!out.hasSmallLetters) return;
    out.xHeight = letters.height('x');
    out.joins =
        letters.mean("nmuaeir", [&](char c) { return letters.advance(c) - letters.scan(c).bounds().w; });
    const double mean = letters.mean("xzvwur", [&](char c) { return letters.height(c); });
    out.unevenness = letters.mean("xzvwur", [&](char c) { return std::abs(letters.height(c) - mean); }) /
                     std::max(out.xHeight, 1e-3);
}

/// Of the table OS/2 of OpenType: what its PANOSE figures say the face is for. 0 when nothing is said.
int panoseKind(const Face& face) {
    constexpr unsigned kPanose = 32;
    hb_blob_t* table = hb_face_reference_table(hb_font_get_face(face.font()), HB_TAG('O', 'S', '/', '2'));
    unsigned size = 0;
    const char* bytes = hb_blob_get_data(table, &size);
    const int kind = size > kPanose ? uint8_t(bytes[kPanose]) : 0;
    hb_blob_destroy(table);
    return kind;
}

/// Letters that are called otherwise are pictures in their places.
bool isOfSymbols(const Face& face) {
    constexpr int kSymbols = 5; // of PANOSE
    hb_codepoint_t glyph = 0;
    char name[64] = "";
    if (!hb_font_get_nominal_glyph(face.font(), 'H', &glyph) ||
        !hb_font_get_glyph_name(face.font(), glyph, name, sizeof name))
        return panoseKind(face) == kSymbols;
    const std::string_view said(name);
    const auto begins = [&](std::string_view with) { return said.substr(0, with.size()) == with; };
    const bool isNumbered =
        begins("gid") || begins("glyph") || begins("cid") || begins("uni") || begins("u0");
    return panoseKind(face) == kSymbols || (!said.empty() && !isNumbered && !begins("H") && !begins("h"));
}

bool sortIs(FaceSort sort, const FaceFacts& f) {
    const bool isFormal = !f.is(FaceSort::Script) && !f.is(FaceSort::Hand) && !f.is(FaceSort::Blackletter);
    switch (sort) {
    case FaceSort::Blackletter:
        return f.corners > 0.6;
    case FaceSort::Script:
        return f.hasSmallLetters && !f.is(FaceSort::Blackletter) &&
               (f.joins < 0.01 || (f.slant > 5 && f.joins < 0.03));
    case FaceSort::Hand:
        return f.unevenness > 0.035;
    case FaceSort::Mono:
        return f.isMono;
    case FaceSort::Slab:
        return isFormal && f.feet > 0.5 && f.feetHeight > 0.5 && f.contrast < 1.7;
    case FaceSort::Serif:
        return isFormal && f.feet > 0.5;
    case FaceSort::Grotesque:
        return isFormal && f.feet < 0.2 && f.contrast < 1.8;
    case FaceSort::HighContrast:
        return f.contrast > 5 || (isFormal && f.contrast > 2.5 && f.bar < 0.41);
    case FaceSort::Condensed:
        return isFormal && !f.isMono && f.width < 0.62;
    case FaceSort::Wide:
        return isFormal && !f.isMono && f.width > 1.02;
    case FaceSort::Display:
        return !f.hasSmallLetters || f.stem > 0.26;
    }
    return false;
}

} // namespace

bool FaceFacts::is(FaceSort sort) const {
    return std::find(sorts.begin(), sorts.end(), sort) != sorts.end();
}

std::optional<FaceFacts> factsOf(const FacePtr& face) {
    Letters letters(face);
    if (!letters.has('H') || !letters.has('O') || isOfSymbols(*face)) return std::nullopt;
    const OutlineScan H = letters.scan('H');
    FaceFacts out;
    out.capHeight = -H.bounds().y;
    if (H.empty() || out.capHeight <= 0) return std::nullopt;
    measureStems(H, out);
    measureSmallLetters(letters, out);
    const OutlineScan o = letters.scan(letters.has('o') ? 'o' : 'O');
    out.contrast = contrastOf(o), out.corners = o.cornerShare();
    out.width = letters.mean("HEOANRS", [&](char c) { return letters.scan(c).bounds().w; }) / out.capHeight;
    out.isMono =
        letters.has('i') && letters.has('m') && std::abs(letters.advance('i') - letters.advance('m')) < 1e-3;
    for (size_t i = 0; i < std::size(kWords); ++i)
        if (const auto sort = FaceSort(i); sortIs(sort, out)) out.sorts.push_back(sort);
    return out;
}

bool hasAll(const Face& face, std::string_view utf8) {
    hb_unicode_funcs_t* unicode = hb_unicode_funcs_get_default();
    const auto shows = [&](UChar32 c) {
        const auto category = hb_unicode_general_category(unicode, hb_codepoint_t(c));
        return category != HB_UNICODE_GENERAL_CATEGORY_CONTROL &&
               category != HB_UNICODE_GENERAL_CATEGORY_FORMAT &&
               category != HB_UNICODE_GENERAL_CATEGORY_SPACE_SEPARATOR &&
               category != HB_UNICODE_GENERAL_CATEGORY_LINE_SEPARATOR &&
               category != HB_UNICODE_GENERAL_CATEGORY_PARAGRAPH_SEPARATOR;
    };
    for (size_t at = 0; at < utf8.size();) {
        UChar32 c = 0;
        U8_NEXT_OR_FFFD(reinterpret_cast<const uint8_t*>(utf8.data()), at, utf8.size(), c);
        if (shows(c) && !face.has(char32_t(c))) return false;
    }
    return true;
}

std::string_view wordFor(FaceSort sort) {
    return kWords[size_t(sort)];
}

std::optional<FaceSort> sortNamed(std::string_view word) {
    const auto found = std::find(std::begin(kWords), std::end(kWords), word);
    if (found == std::end(kWords)) return std::nullopt;
    return FaceSort(found - std::begin(kWords));
}

std::span<const std::string_view> sortWords() {
    return kWords;
}

} // namespace glyptos
