// Soft proof: what art looks like in press inks on paper, on a screen.
#pragma once

#include "base/error.h"
#include "color/color.h"

#include <cstdint>
#include <memory>
#include <span>
#include <string>

namespace glyptos {

/// One plate alone, in grey.
enum class ProofPlate : unsigned char { All, Cyan, Magenta, Yellow, Black };
/// What is marked over the proof.
enum class ProofMark : unsigned char {
    None,
    Gamut, ///< colours that the press changes visibly: by over 3 in CIEDE2000
    Ink    ///< more ink in all than the limit allows, before it is taken back
};

struct ProofLook {
    bool paperWhite = true; ///< white is as the paper is, and not as the screen's white
    ProofPlate plate = ProofPlate::All;
    ProofMark mark = ProofMark::None;
    std::string spot = {}; ///< the swatch whose ink besides the four is seen alone; empty: as the plate says
    bool operator==(const ProofLook&) const = default;
};

/// Of the pixels that show art.
struct ProofTally {
    size_t shown = 0, outOfGamut = 0, overInk = 0;
    double mostInk = 0; ///< of all inks together, 1 = 100 %, before the limit

    void add(const ProofTally& other);
};

/// Safe to use from several threads.
class Proof {
  public:
    /// By a CMYK output profile and the limit of all inks together (1 = 100 %). To the press relative
    /// colorimetric with black point compensation and the ink limit, as print files are made; from there to
    /// the screen absolute colorimetric where the paper shows, else relative. Fails when the profile is no
    /// such profile.
    [[nodiscard]] static Result<std::shared_ptr<const Proof>> create(std::span<const uint8_t> profile,
                                                                     double inkLimit);
    ~Proof();
    Proof(const Proof&) = delete;
    Proof& operator=(const Proof&) = delete;

    /// `art`: premultiplied BGRA bytes, sRGB, without gaps; `out`: the same size. Art is on white paper
    /// first; where there is none at all, nothing is shown.
    ProofTally show(const uint8_t* art, uint8_t* out, size_t pixels, const ProofLook& look) const;
    /// The paper on screen.
    Rgba paper() const { return paper_; }
    const std::string& description() const { return description_; }

    static constexpr uint8_t kGamutMark[3] = {190, 30, 210}, kInkMark[3] = {240, 130, 0}; ///< R, G, B

  private:
    Proof() = default;
    struct Impl;
    std::unique_ptr<Impl> impl_;
    Rgba paper_{1, 1, 1, 1};
    std::string description_;
};

/// An ink besides the four laid over what show() made. `cover` has the pixels of a picture, premultiplied
/// BGRA, that is white where the ink is whole and black, or nothing, where there is none.
void layInk(const uint8_t* cover, uint8_t* shown, size_t pixels, const Rgba& ink);
/// Such an ink alone, in grey, wherever there is art.
void showInkAlone(const uint8_t* art, const uint8_t* cover, uint8_t* out, size_t pixels);

} // namespace glyptos
