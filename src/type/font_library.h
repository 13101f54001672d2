// The typefaces at hand: those shipped with Glyptos and those installed (fontconfig), opened for shaping
// (HarfBuzz).
#pragma once

#include "type/face.h"
#include "type/faces/brought_font.h"
#include "type/hyphenator.h"
#include "type/text_spec.h"

#include <atomic>
#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

namespace glyptos {

/// One family in the list an artist chooses from.
struct FamilyInfo {
    std::string name;
    std::vector<std::string> styles; ///< lightest first
    bool shipped = false;
    bool brought = false; ///< by bring(); it may be installed as well
};

/// Finds faces by name and stand-ins for missing ones. Safe to use from several threads.
class FontLibrary {
  public:
    /// Looks at the fonts below `shipped` and, unless `shippedOnly`, at all installed ones.
    explicit FontLibrary(const std::filesystem::path& shipped, bool shippedOnly = false);
    ~FontLibrary();
    FontLibrary(const FontLibrary&) = delete;
    FontLibrary& operator=(const FontLibrary&) = delete;

    /// Those that were brought first, then the shipped ones, each by name.
    std::vector<FamilyInfo> families() const;
    /// From now on these stand beside the shipped and installed ones, in the place of those that were brought
    /// before. A style of a name that others have, too, is theirs; of two that were brought, the later one's.
    void bring(std::vector<BroughtFontPtr> fonts);
    std::vector<BroughtFontPtr> brought() const;
    /// Goes up whenever words may be set in another face than before.
    int generation() const { return generation_; }
    /// The face of that family and style; else the style of the family that is nearest in slant, width and
    /// weight, by what its name says (style_name.h); else another family (compare the names). Nothing only
    /// when no font at all can be opened.
    FacePtr face(const std::string& family, const std::string& style) const;
    bool has(const std::string& family) const;
    bool isShipped(const Face& face) const;
    /// That face at other places of its axes, if it is variable.
    FacePtr face(const std::string& family, const std::string& style,
                 const std::vector<AxisValue>& axes) const;
    /// A face that has `codepoint`, near in style to `like`; nothing when no font has it. The same for every
    /// asker.
    FacePtr fallbackFor(char32_t codepoint, const Face& like) const;
    const Hyphenator& hyphenator() const { return hyphenator_; }

  private:
    struct Config;
    FacePtr matched(void* pattern) const;
    FacePtr nearestInFamily(const std::string& family, const std::string& style) const;
    FacePtr opened(const std::string& file, int index, const std::string& family,
                   const std::string& style) const;

    std::unique_ptr<Config> config_;
    std::filesystem::path shipped_;
    Hyphenator hyphenator_;
    std::vector<FamilyInfo> families_; ///< shipped and installed
    std::vector<BroughtFontPtr> brought_;
    std::atomic<int> generation_ = 0;
    mutable std::mutex mutex_;
    mutable std::map<std::pair<std::string, int>, FacePtr> open_;
    mutable std::map<std::pair<std::string, std::string>, FacePtr> byName_;
    mutable std::map<std::pair<const Face*, std::vector<double>>, FacePtr> varied_; ///< by places
    /// By code point and by the family and style that lack it.
    mutable std::map<std::tuple<char32_t, std::string, std::string>, FacePtr> fallbacks_;
};

} // namespace glyptos
