#include "type/faces/face_catalogue.h"

#include "type/style_name.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kLight = 50, kBold = 180, kBlack = 205; // on the scale of StyleTraits
constexpr double kMiddleX = 0.7;                      // of the capitals

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](char c) { return c >= 'A' && c <= 'Z' ? char(c + 32) : c; });
    return text;
}

bool hasWeight(const FaceEntry& entry, FaceFilter::Weight weight) {
    switch (weight) {
    case FaceFilter::Weight::Light:
        return entry.lightest <= kLight;
    case FaceFilter::Weight::Bold:
        return entry.heaviest >= kBold;
    case FaceFilter::Weight::Black:
        return entry.heaviest >= kBlack;
    default:
        return true;
    }
}

double xShare(const FaceFacts& facts) {
    return facts.capHeight > 0 ? facts.xHeight / facts.capHeight : 0;
}

/// The sort that says most about how a face is built.
std::optional<FaceSort> structureOf(const FaceFacts& facts) {
    for (const FaceSort sort : {FaceSort::Blackletter, FaceSort::Script, FaceSort::Hand, FaceSort::Slab,
                                FaceSort::Serif, FaceSort::Grotesque, FaceSort::Mono})
        if (facts.is(sort)) return sort;
    return std::nullopt;
}

std::string figure(double value) {
    const int hundredths = int(std::lround(value * 100));
    return std::to_string(hundredths / 100) + "." + (hundredths % 100 < 10 ? "0" : "") +
           std::to_string(hundredths % 100);
}

FacePair pairOf(const FaceFacts& a, const FaceFacts& b) {
    FacePair out;
    const auto sortA = structureOf(a), sortB = structureOf(b);
    std::string contrast;
    if (sortA && sortB && *sortA != *sortB) {
        out.score += 1;
        contrast = std::string(wordFor(*sortB)) + " beside " + std::string(wordFor(*sortA));
    }
    const double thick = std::abs(std::log(std::max(a.contrast, 1.0) / std::max(b.contrast, 1.0)));
    if (thick > 0.5) {
        out.score += std::min(thick, 1.0) * 0.6;
        contrast += (contrast.empty() ? "" : ", ") +
                    std::string(b.contrast > a.contrast ? "thick and thin strokes" : "even strokes");
    }
    if (contrast.empty()) return {}; // too much alike to be a pair
    const double x = std::abs(xShare(a) - xShare(b)), width = std::abs(std::log(a.width / b.width)),
                 stem = std::abs(a.stem - b.stem);
    const bool bothHaveX = a.xHeight > 0 && b.xHeight > 0;
    if (bothHaveX) out.score += std::max(0.0, 1 - x / 0.12) * 0.8;
    out.score += std::max(0.0, 1 - width / 0.5) * 0.4 + std::max(0.0, 1 - stem / 0.12) * 0.3;
    const bool bothLoud = a.is(FaceSort::Display) && b.is(FaceSort::Display);
    const auto isOfHand = [](const FaceFacts& f) {
        return f.is(FaceSort::Script) || f.is(FaceSort::Hand) || f.is(FaceSort::Blackletter);
    };
    if (bothLoud || (isOfHand(a) && isOfHand(b))) out.score -= 1;
    out.reason = contrast;
    if (bothHaveX && x < 0.04)
        out.reason += "; x as high (" + figure(xShare(a)) + " and " + figure(xShare(b)) + " of the capitals)";
    if (width < 0.08) out.reason += "; as wide";
    return out;
}

} // namespace

FaceEntry entryOf(const FamilyInfo& family, const FontLibrary& fonts) {
    FaceEntry out;
    out.family = family.name, out.shipped = family.shipped;
    const FacePtr face = fonts.face(family.name, "Regular");
    out.style = face && face->family() == family.name ? face->style()
                : family.styles.empty()               ? std::string("Regular")
                                                      : family.styles.front();
    out.lightest = 1000, out.heaviest = 0;
    for (const std::string& style : family.styles) {
        const StyleTraits traits = traitsOf(style);
        out.lightest = std::min(out.lightest, traits.weight),
        out.heaviest = std::max(out.heaviest, traits.weight);
        out.hasItalic = out.hasItalic || traits.slant > 0;
    }
    out.brought = family.brought;
    if (face) out.facts = factsOf(face);
    return out;
}

bool passes(const FaceEntry& entry, const FaceFilter& filter, const FontLibrary& fonts) {
    if (!filter.name.empty() && lower(entry.family).find(lower(filter.name)) == std::string::npos)
        return false;
    if (filter.italic && !entry.hasItalic) return false;
    if (!hasWeight(entry, filter.weight)) return false;
    for (const FaceSort sort : filter.sorts)
        if (!entry.facts || !entry.facts->is(sort)) return false;
    if (filter.xHeight != FaceFilter::XHeight::Any) {
        if (!entry.facts || entry.facts->xHeight <= 0) return false;
        if ((xShare(*entry.facts) >= kMiddleX) != (filter.xHeight == FaceFilter::XHeight::Large))
            return false;
    }
    if (filter.letters.empty()) return true;
    const FacePtr face = fonts.face(entry.family, entry.style);
    return face && hasAll(*face, filter.letters);
}

std::vector<FacePair> pairsFor(const FaceEntry& face, const std::vector<FaceEntry>& others) {
    std::vector<FacePair> out;
    if (!face.facts) return out;
    for (size_t i = 0; i < others.size(); ++i) {
        const FaceEntry& other = others[i];
        if (!other.facts || other.family == face.family) continue;
        FacePair pair = pairOf(*face.facts, *other.facts);
        pair.entry = i;
        if (!pair.reason.empty() && pair.score > 1) out.push_back(std::move(pair));
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const FacePair& a, const FacePair& b) { return a.score > b.score; });
    return out;
}

std::optional<std::pair<std::string, std::string>> shippedPartner(const std::string& family,
                                                                  const FontLibrary& fonts) {
    std::vector<FaceEntry> shipped;
    std::optional<FaceEntry> own;
    for (const FamilyInfo& info : fonts.families()) {
        const bool isOwn = info.name == family;
        if (!isOwn && !info.shipped) continue;
        FaceEntry entry = entryOf(info, fonts);
        const bool isForText =
            entry.facts && entry.facts->hasSmallLetters && !entry.facts->is(FaceSort::Script);
        if (isOwn)
            own = std::move(entry);
        else if (isForText)
            shipped.push_back(std::move(entry));
    }
    const auto pairs = own ? pairsFor(*own, shipped) : std::vector<FacePair>();
    if (pairs.empty()) return std::nullopt;
    const FaceEntry& best = shipped[pairs.front().entry];
    return std::pair(best.family, best.style);
}

} // namespace glyptos
