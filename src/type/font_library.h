// The typefaces at hand: those shipped with Glyptos and those installed (fontconfig), opened for shaping
// (HarfBuzz).
#pragma once

#include "type/hyphenator.h"
#include "type/text_spec.h"

#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

struct hb_font_t;

namespace glyptos {

/// An axis of a variable font, and where this face stands on it.
struct FaceAxis {
    std::string tag, name; ///< "wght", "Weight"
    double least = 0, usual = 0, most = 0, at = 0;
};

/// A typeface file opened for shaping. Immutable, safe to use from several threads.
class Face {
  public:
    /// Nothing when the file is not a usable font.
    static std::shared_ptr<const Face> open(const std::string& file, int index, std::string family,
                                            std::string style);
    ~Face();
    Face(const Face&) = delete;
    Face& operator=(const Face&) = delete;

    const std::string& family() const { return family_; }
    const std::string& style() const { return style_; }
    const std::string& file() const { return file_; }
    int index() const { return index_; } ///< of the face in its file; the upper half as fontconfig has it
    /// Scaled to font units; `unitsPerEm` of them are one em.
    hb_font_t* font() const { return font_; }
    double unitsPerEm() const { return unitsPerEm_; }
    double ascentEm() const { return ascentEm_; }   ///< above the baseline, in em
    double descentEm() const { return descentEm_; } ///< below the baseline, in em, positive
    bool has(char32_t codepoint) const;
    /// Of a variable font; none otherwise.
    const std::vector<FaceAxis>& axes() const { return axes_; }
    /// The same face at other places of its axes; each within its range. Axes that it lacks are passed over.
    std::shared_ptr<const Face> at(const std::vector<AxisValue>& places) const;

  private:
    Face() = default;
    hb_font_t* font_ = nullptr;
    void measure();
    std::string family_, style_, file_;
    int index_ = 0;
    std::vector<FaceAxis> axes_;
    double unitsPerEm_ = 1000, ascentEm_ = 0.8, descentEm_ = 0.2;
};

using FacePtr = std::shared_ptr<const Face>;

/// One family in the list an artist chooses from.
struct FamilyInfo {
    std::string name;
    std::vector<std::string> styles; ///< lightest first
    bool shipped = false;
};

/// Finds faces by name and stand-ins for missing ones. Safe to use from several threads.
class FontLibrary {
  public:
    /// Looks at the fonts below `shipped` and, unless `shippedOnly`, at all installed ones.
    explicit FontLibrary(const std::filesystem::path& shipped, bool shippedOnly = false);
    ~FontLibrary();
    FontLibrary(const FontLibrary&) = delete;
    FontLibrary& operator=(const FontLibrary&) = delete;

    /// Shipped families first, then by name.
    const std::vector<FamilyInfo>& families() const { return families_; }
    /// The face of that family and style; else the style of the family that is nearest in slant, width and
    /// weight, by what its name says (style_name.h); else another family (compare the names). Nothing only
    /// when no font at all can be opened.
    FacePtr face(const std::string& family, const std::string& style) const;
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
    Hyphenator hyphenator_;
    std::vector<FamilyInfo> families_;
    mutable std::mutex mutex_;
    mutable std::map<std::pair<std::string, int>, FacePtr> open_;
    mutable std::map<std::pair<std::string, std::string>, FacePtr> byName_;
    mutable std::map<std::pair<const Face*, std::vector<double>>, FacePtr> varied_; ///< by places
    /// By code point and by the family and style that lack it.
    mutable std::map<std::tuple<char32_t, std::string, std::string>, FacePtr> fallbacks_;
};

} // namespace glyptos
