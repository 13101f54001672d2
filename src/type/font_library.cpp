#include "type/font_library.h"

#include "type/style_name.h"

#include <algorithm>
#include <cmath>
#include <fontconfig/fontconfig.h>
#include <hb-ot.h>
#include <hb.h>

namespace glyptos {
namespace {

struct FreePattern {
    void operator()(FcPattern* p) const { FcPatternDestroy(p); }
};
using PatternPtr = std::unique_ptr<FcPattern, FreePattern>;

std::string stringOf(const FcPattern* pattern, const char* object) {
    FcChar8* text = nullptr;
    return FcPatternGetString(pattern, object, 0, &text) == FcResultMatch
               ? reinterpret_cast<const char*>(text)
               : "";
}

int intOf(const FcPattern* pattern, const char* object, int missing) {
    int value = missing;
    return FcPatternGetInteger(pattern, object, 0, &value) == FcResultMatch ? value : missing;
}

const FcChar8* fc(const std::string& text) {
    return reinterpret_cast<const FcChar8*>(text.c_str());
}

bool flagOf(const FcPattern* pattern, const char* object) {
    FcBool value = FcFalse;
    return FcPatternGetBool(pattern, object, 0, &value) == FcResultMatch && value;
}

/// Outlines of one style; a variable font stands for its instances, which are listed beside it.
bool isUsable(const FcPattern* pattern) {
    return flagOf(pattern, FC_OUTLINE) && !flagOf(pattern, FC_VARIABLE);
}

} // namespace

std::shared_ptr<const Face> Face::open(const std::string& file, int index, std::string family,
                                       std::string style) {
    hb_blob_t* blob = hb_blob_create_from_file_or_fail(file.c_str());
    if (!blob) return nullptr;
    hb_face_t* face = hb_face_create(blob, static_cast<unsigned>(index & 0xffff));
    hb_blob_destroy(blob);
    if (hb_face_get_glyph_count(face) == 0) {
        hb_face_destroy(face);
        return nullptr;
    }
    std::shared_ptr<Face> made(new Face);
    made->unitsPerEm_ = hb_face_get_upem(face);
    made->font_ = hb_font_create(face);
    hb_face_destroy(face);
    // The upper half of fontconfig's index names an instance of a variable font, counted from 1.
    if (const int instance = index >> 16; instance > 0)
        hb_font_set_var_named_instance(made->font_, static_cast<unsigned>(instance - 1));
    made->measure();
    hb_font_make_immutable(made->font_);
    made->file_ = file, made->index_ = index;
    made->family_ = std::move(family);
    made->style_ = std::move(style);
    return made;
}

void Face::measure() {
    hb_font_extents_t extents;
    if (hb_font_get_h_extents(font_, &extents)) {
        ascentEm_ = extents.ascender / unitsPerEm_;
        descentEm_ = -extents.descender / unitsPerEm_;
    }
    hb_face_t* const face = hb_font_get_face(font_);
    unsigned known = 0;
    const float* at = hb_font_get_var_coords_design(font_, &known);
    unsigned count = hb_ot_var_get_axis_count(face);
    std::vector<hb_ot_var_axis_info_t> infos(count);
    hb_ot_var_get_axis_infos(face, 0, &count, infos.data());
    for (unsigned i = 0; i < count; ++i) {
        const hb_ot_var_axis_info_t& info = infos[i];
        char tag[5] = {}, name[64] = {};
        hb_tag_to_string(info.tag, tag);
        unsigned size = sizeof name;
        hb_ot_name_get_utf8(face, info.name_id, HB_LANGUAGE_INVALID, &size, name);
        axes_.push_back({tag, name, double(info.min_value), double(info.default_value),
                         double(info.max_value), i < known ? double(at[i]) : double(info.default_value)});
    }
}

std::shared_ptr<const Face> Face::at(const std::vector<AxisValue>& places) const {
    std::shared_ptr<Face> made(new Face);
    made->unitsPerEm_ = unitsPerEm_;
    made->family_ = family_, made->style_ = style_;
    made->file_ = file_, made->index_ = index_;
    made->font_ = hb_font_create_sub_font(font_);
    std::vector<float> coordinates;
    for (const FaceAxis& axis : axes_) {
        double value = axis.at;
        for (const AxisValue& place : places)
            if (place.tag == axis.tag && std::isfinite(place.value))
                value = std::max(axis.least, std::min(place.value, axis.most));
        coordinates.push_back(float(value));
    }
    hb_font_set_var_coords_design(made->font_, coordinates.data(), unsigned(coordinates.size()));
    made->measure();
    hb_font_make_immutable(made->font_);
    return made;
}

Face::~Face() {
    hb_font_destroy(font_);
}

bool Face::has(char32_t codepoint) const {
    hb_codepoint_t glyph = 0;
    return hb_font_get_nominal_glyph(font_, codepoint, &glyph) && glyph != 0;
}

struct FontLibrary::Config {
    FcConfig* fc = nullptr;
    ~Config() { FcConfigDestroy(fc); }
};

FontLibrary::FontLibrary(const std::filesystem::path& shipped, bool shippedOnly)
    : config_(std::make_unique<Config>()) {
    config_->fc = shippedOnly ? FcConfigCreate() : FcInitLoadConfigAndFonts();
    if (!config_->fc) config_->fc = FcConfigCreate();
    FcConfigAppFontAddDir(config_->fc, fc(shipped.string()));

    struct Style {
        int weight, slant;
        std::string name;
    };
    std::map<std::string, std::pair<bool, std::vector<Style>>> found;
    for (const FcSetName set : {FcSetApplication, FcSetSystem}) {
        const FcFontSet* fonts = FcConfigGetFonts(config_->fc, set);
        for (int i = 0; fonts && i < fonts->nfont; ++i) {
            const FcPattern* font = fonts->fonts[i];
            if (!isUsable(font)) continue;
            auto& [own, styles] = found[stringOf(font, FC_FAMILY)];
            own = own || set == FcSetApplication;
            const Style style{intOf(font, FC_WEIGHT, 80), intOf(font, FC_SLANT, 0), stringOf(font, FC_STYLE)};
            if (std::none_of(styles.begin(), styles.end(),
                             [&](const Style& s) { return s.name == style.name; }))
                styles.push_back(style);
        }
    }
    for (auto& [name, entry] : found) {
        std::sort(entry.second.begin(), entry.second.end(), [](const Style& a, const Style& b) {
            return std::tie(a.weight, a.slant, a.name) < std::tie(b.weight, b.slant, b.name);
        });
        FamilyInfo info{name, {}, entry.first};
        for (Style& s : entry.second) info.styles.push_back(std::move(s.name));
        families_.push_back(std::move(info));
    }
    std::stable_partition(families_.begin(), families_.end(), [](const FamilyInfo& f) { return f.shipped; });
}

FontLibrary::~FontLibrary() = default;

FacePtr FontLibrary::opened(const std::string& file, int index, const std::string& family,
                            const std::string& style) const {
    auto& slot = open_[{file, index}];
    if (!slot) slot = Face::open(file, index, family, style);
    return slot;
}

/// Best file for a pattern, which it takes over.
FacePtr FontLibrary::matched(void* raw) const {
    const PatternPtr pattern(static_cast<FcPattern*>(raw));
    FcPatternAddBool(pattern.get(), FC_OUTLINE, FcTrue);
    FcConfigSubstitute(config_->fc, pattern.get(), FcMatchPattern);
    FcDefaultSubstitute(pattern.get());
    FcResult result = FcResultNoMatch;
    const auto open = [&](const FcPattern* font) -> FacePtr {
        if (!font || !flagOf(font, FC_OUTLINE)) return nullptr; // its name may count for more than that
        return opened(stringOf(font, FC_FILE), intOf(font, FC_INDEX, 0), stringOf(font, FC_FAMILY),
                      stringOf(font, FC_STYLE));
    };
    const PatternPtr best(FcFontMatch(config_->fc, pattern.get(), &result));
    if (FacePtr face = open(best.get())) return face;
    FcFontSet* all = FcFontSort(config_->fc, pattern.get(), FcFalse, nullptr, &result);
    FacePtr face;
    for (int i = 0; all && !face && i < all->nfont; ++i) face = open(all->fonts[i]);
    if (all) FcFontSetDestroy(all);
    return face;
}

/// Of that family the style that looks nearest to `wanted`; of equals the one of that name, then the first by
/// name.
FacePtr FontLibrary::nearestInFamily(const std::string& family, const std::string& style) const {
    const StyleTraits wanted = traitsOf(style);
    const FcPattern* best = nullptr;
    std::tuple<int, bool, std::string> rank;
    for (const FcSetName set : {FcSetApplication, FcSetSystem}) {
        const FcFontSet* fonts = FcConfigGetFonts(config_->fc, set);
        for (int i = 0; fonts && i < fonts->nfont; ++i) {
            const FcPattern* font = fonts->fonts[i];
            if (stringOf(font, FC_FAMILY) != family || !isUsable(font)) continue;
            const std::string name = stringOf(font, FC_STYLE);
            const StyleTraits own{intOf(font, FC_WEIGHT, 80), intOf(font, FC_WIDTH, 100),
                                  intOf(font, FC_SLANT, 0)};
            const std::tuple<int, bool, std::string> here{name == style ? -1 : distance(own, wanted),
                                                          set == FcSetSystem, name};
            if (!best || here < rank) best = font, rank = here;
        }
    }
    return best ? opened(stringOf(best, FC_FILE), intOf(best, FC_INDEX, 0), family, stringOf(best, FC_STYLE))
                : nullptr;
}

FacePtr FontLibrary::face(const std::string& family, const std::string& style) const {
    const std::lock_guard lock(mutex_);
    auto& slot = byName_[{family, style}];
    if (slot || (slot = nearestInFamily(family, style))) return slot;
    const StyleTraits wanted = traitsOf(style);
    FcPattern* pattern = FcPatternCreate();
    FcPatternAddString(pattern, FC_FAMILY, fc(family));
    FcPatternAddInteger(pattern, FC_WEIGHT, wanted.weight);
    FcPatternAddInteger(pattern, FC_WIDTH, wanted.width);
    FcPatternAddInteger(pattern, FC_SLANT, wanted.slant);
    return slot = matched(pattern);
}

FacePtr FontLibrary::face(const std::string& family, const std::string& style,
                          const std::vector<AxisValue>& axes) const {
    const FacePtr plain = face(family, style);
    if (!plain || axes.empty() || plain->axes().empty()) return plain;
    std::vector<double> places;
    for (const FaceAxis& axis : plain->axes()) {
        places.push_back(axis.at);
        for (const AxisValue& value : axes)
            if (value.tag == axis.tag) places.back() = value.value;
    }
    const std::lock_guard lock(mutex_);
    FacePtr& slot = varied_[{plain.get(), places}];
    if (!slot) slot = plain->at(axes);
    return slot;
}

FacePtr FontLibrary::fallbackFor(char32_t codepoint, const Face& like) const {
    const std::lock_guard lock(mutex_);
    const std::tuple key{codepoint, like.family(), like.style()};
    if (const auto known = fallbacks_.find(key); known != fallbacks_.end()) return known->second;
    const StyleTraits near = traitsOf(like.style());
    FcPattern* pattern = FcPatternCreate();
    FcPatternAddString(pattern, FC_FAMILY, fc(like.family()));
    FcPatternAddInteger(pattern, FC_WEIGHT, near.weight);
    FcPatternAddInteger(pattern, FC_SLANT, near.slant);
    FcCharSet* wanted = FcCharSetCreate();
    FcCharSetAddChar(wanted, codepoint);
    FcPatternAddCharSet(pattern, FC_CHARSET, wanted);
    FcCharSetDestroy(wanted);
    FacePtr face = matched(pattern);
    if (face && !face->has(codepoint)) face = nullptr;
    return fallbacks_[key] = face;
}

} // namespace glyptos
