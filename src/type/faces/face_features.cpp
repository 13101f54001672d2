#include "type/faces/face_features.h"

#include "type/glyph_outline.h"

#include <algorithm>
#include <hb-ot.h>
#include <hb.h>
#include <set>

namespace glyptos {
namespace {

struct Known {
    const char *tag, *label;
    bool onByItself;
};
constexpr Known kKnown[]{{"liga", "Ligatures", true},
                         {"dlig", "Rare ligatures", false},
                         {"hlig", "Historical ligatures", false},
                         {"calt", "Letters that suit their neighbours", true},
                         {"salt", "Alternates", false},
                         {"swsh", "Swashes", false},
                         {"cswh", "Swashes where there is room", false},
                         {"titl", "Titling capitals", false},
                         {"smcp", "Small capitals", false},
                         {"c2sc", "Small capitals for capitals", false},
                         {"case", "Marks to suit capitals", false},
                         {"onum", "Old-style figures", false},
                         {"lnum", "Lining figures", false},
                         {"tnum", "Tabular figures", false},
                         {"pnum", "Proportional figures", false},
                         {"frac", "Fractions", false},
                         {"ordn", "Ordinals", false},
                         {"sups", "Superiors", false},
                         {"subs", "Inferiors", false},
                         {"zero", "Slashed zero", false},
                         {"hist", "Historical forms", false}};

std::set<std::string> tagsOf(hb_face_t* face) {
    std::set<std::string> out;
    const unsigned all = hb_ot_layout_table_get_feature_tags(face, HB_OT_TAG_GSUB, 0, nullptr, nullptr);
    std::vector<hb_tag_t> tags(all);
    unsigned count = all;
    hb_ot_layout_table_get_feature_tags(face, HB_OT_TAG_GSUB, 0, &count, tags.data());
    for (unsigned i = 0; i < count; ++i) {
        char tag[5] = {};
        hb_tag_to_string(tags[i], tag);
        out.insert(tag);
    }
    return out;
}

/// "Set 3", or what the face calls it.
std::string labelOfSet(hb_face_t* face, const std::string& tag) {
    const std::string plain = "Set " + std::to_string(std::stoi(tag.substr(2)));
    const hb_tag_t wanted = hb_tag_from_string(tag.c_str(), -1);
    const unsigned all = hb_ot_layout_table_get_feature_tags(face, HB_OT_TAG_GSUB, 0, nullptr, nullptr);
    std::vector<hb_tag_t> tags(all);
    unsigned count = all;
    hb_ot_layout_table_get_feature_tags(face, HB_OT_TAG_GSUB, 0, &count, tags.data());
    const auto at = std::find(tags.begin(), tags.end(), wanted);
    hb_ot_name_id_t name = HB_OT_NAME_ID_INVALID;
    if (at == tags.end() ||
        !hb_ot_layout_feature_get_name_ids(face, HB_OT_TAG_GSUB, unsigned(at - tags.begin()), &name, nullptr,
                                           nullptr, nullptr, nullptr))
        return plain;
    char text[64] = {};
    unsigned size = sizeof text;
    hb_ot_name_get_utf8(face, name, HB_LANGUAGE_INVALID, &size, text);
    return *text ? text : plain;
}

double heightOf(const Face& face, char32_t c) {
    hb_codepoint_t glyph = 0;
    if (!hb_font_get_nominal_glyph(face.font(), c, &glyph)) return 0;
    const Path outline = glyphOutline(face, glyph);
    return outline.empty() ? 0 : -outline.bounds().y;
}

} // namespace

std::vector<FaceFeature> featuresOf(const Face& face) {
    hb_face_t* const file = hb_font_get_face(face.font());
    const std::set<std::string> tags = tagsOf(file);
    std::vector<FaceFeature> out;
    for (const Known& known : kKnown)
        if (tags.contains(known.tag)) out.push_back({known.tag, known.label, known.onByItself});
    for (const std::string& tag : tags)
        if (tag.starts_with("ss") && tag.find_first_not_of("0123456789", 2) == tag.npos)
            out.push_back({tag, labelOfSet(file, tag), false});
    return out;
}

bool hasFeature(const LetterStyle& letters, const FaceFeature& feature) {
    for (const FontFeature& f : letters.features)
        if (f.tag == feature.tag) return f.value != 0;
    return feature.onByItself;
}

LetterStyle withFeature(LetterStyle letters, const FaceFeature& feature, bool on) {
    std::erase_if(letters.features, [&](const FontFeature& f) { return f.tag == feature.tag; });
    if (on != feature.onByItself) letters.features.push_back({feature.tag, on ? 1U : 0U});
    std::sort(letters.features.begin(), letters.features.end(),
              [](const FontFeature& a, const FontFeature& b) { return a.tag < b.tag; });
    return letters;
}

double capHeightEm(const Face& face) {
    constexpr double kUsual = 0.7;
    for (const char32_t c : {U'H', U'8'})
        if (const double height = heightOf(face, c); height > 0) return height;
    return kUsual;
}

double xHeightEm(const Face& face) {
    return heightOf(face, U'x');
}

} // namespace glyptos
