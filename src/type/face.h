// A typeface file opened for shaping (HarfBuzz).
#pragma once

#include "type/faces/brought_font.h"
#include "type/text_spec.h"

#include <memory>
#include <string>
#include <vector>

struct hb_blob_t;
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
    /// The same for a font in memory; its file has no name then.
    static std::shared_ptr<const Face> open(const FontBytes& bytes, int index, std::string family,
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
    static std::shared_ptr<Face> opened(hb_blob_t* blob, int index, std::string family, std::string style);
    hb_font_t* font_ = nullptr;
    void measure();
    std::string family_, style_, file_;
    int index_ = 0;
    std::vector<FaceAxis> axes_;
    double unitsPerEm_ = 1000, ascentEm_ = 0.8, descentEm_ = 0.2;
};

using FacePtr = std::shared_ptr<const Face>;

} // namespace glyptos
