#include "type/font_library.h"

#include "base/text.h"
#include "type/style_name.h"

#include <algorithm>
#include <cmath>
#include <fontconfig/fontconfig.h>

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

struct FontLibrary::Config {
    FcConfig* fc = nullptr;
    ~Config() { FcConfigDestroy(fc); }
};

FontLibrary::FontLibrary(const std::filesystem::path& shipped, bool shippedOnly)
    : config_(std::make_unique<Config>())
    , shipped_(shipped) {
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

void FontLibrary::bring(std::vector<BroughtFontPtr> fonts) {
    const std::lock_guard lock(mutex_);
    brought_ = std::move(fonts);
    byName_.clear(), varied_.clear(), fallbacks_.clear();
    ++generation_;
}

std::vector<BroughtFontPtr> FontLibrary::brought() const {
    const std::lock_guard lock(mutex_);
    return brought_;
}

std::vector<FamilyInfo> FontLibrary::families() const {
    const std::lock_guard lock(mutex_);
    std::map<std::string, std::vector<std::pair<StyleTraits, std::string>>> own;
    for (const BroughtFontPtr& font : brought_)
        for (const BroughtFace& one : font->faces)
            own[one.face->family()].emplace_back(one.traits, one.face->style());
    std::vector<FamilyInfo> out;
    for (auto& [name, styles] : own) {
        std::sort(styles.begin(), styles.end(), [](const auto& a, const auto& b) {
            return std::tie(a.first.weight, a.first.slant, a.second) <
                   std::tie(b.first.weight, b.first.slant, b.second);
        });
        FamilyInfo& info = out.emplace_back(FamilyInfo{name, {}, false, true});
        for (const auto& [traits, style] : styles) addNew(info.styles, style);
    }
    for (const FamilyInfo& family : families_) {
        const auto there =
            std::find_if(out.begin(), out.end(), [&](const FamilyInfo& f) { return f.name == family.name; });
        if (there == out.end())
            out.push_back(family);
        else
            for (const std::string& style : family.styles) addNew(there->styles, style);
    }
    return out;
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
    FacePtr own;
    std::tuple<int, int, std::string> rank; // the sooner, the better
    const auto ranked = [&](const StyleTraits& traits, int order, const std::string& name) {
        return std::tuple(name == style ? -1 : distance(traits, wanted), order, name);
    };
    for (const BroughtFontPtr& font : brought_)
        for (const BroughtFace& one : font->faces) {
            if (one.face->family() != family) continue;
            auto here = ranked(one.traits, -1, one.face->style());
            if (!own || here <= rank) own = one.face, rank = std::move(here);
        }
    for (const FcSetName set : {FcSetApplication, FcSetSystem}) {
        const FcFontSet* fonts = FcConfigGetFonts(config_->fc, set);
        for (int i = 0; fonts && i < fonts->nfont; ++i) {
            const FcPattern* font = fonts->fonts[i];
            if (stringOf(font, FC_FAMILY) != family || !isUsable(font)) continue;
            const std::string name = stringOf(font, FC_STYLE);
            const StyleTraits traits{intOf(font, FC_WEIGHT, 80), intOf(font, FC_WIDTH, 100),
                                     intOf(font, FC_SLANT, 0)};
            auto here = ranked(traits, set == FcSetSystem, name);
            if ((!best && !own) || here < rank) best = font, rank = std::move(here);
        }
    }
    if (!best) return own;
    return opened(stringOf(best, FC_FILE), intOf(best, FC_INDEX, 0), family, stringOf(best, FC_STYLE));
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

bool FontLibrary::has(const std::string& family) const {
    const FacePtr found = face(family, "Regular");
    return found && found->family() == family;
}

bool FontLibrary::isShipped(const Face& face) const {
    return face.file().starts_with((shipped_ / "").string());
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
    for (const BroughtFontPtr& font : brought_)
        for (const BroughtFace& one : font->faces)
            if (!face && one.face->has(codepoint)) face = one.face;
    return fallbacks_[key] = face;
}

} // namespace glyptos
