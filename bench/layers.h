// The work that benches do: layers of noise on a square cover.
#pragma once

#include "release/edits/edits.h"
#include "render/picture_provider.h"

#include <QImage>
#include <map>

namespace glyptos::bench {

/// Decoded pictures at hand, so that compositing is measured and not decoding.
class HeldPictures : public PictureProvider {
  public:
    PyramidPtr picture(const Source& source, double) override { return held.at(source.id); }
    std::map<std::string, PyramidPtr> held;
};

std::shared_ptr<const Form> screenForm(int width, int height);

/// Layers of one size, in Normal, Multiply, Screen, Overlay and Soft light by turns, at 0.9 opacity but for
/// the opaque rearmost one, on a screen piece of that size.
struct Layers {
    static constexpr std::array kTurns{BlendMode::Normal, BlendMode::Multiply, BlendMode::Screen,
                                       BlendMode::Overlay, BlendMode::SoftLight};
    static constexpr double kOpacity = 0.9;

    Layers(int width, int height, int count);
    BlendMode mode(size_t layer) const { return kTurns[layer % kTurns.size()]; }
    double opacity(size_t layer) const { return layer == 0 ? 1 : kOpacity; }

    int width, height;
    HeldPictures pictures;
    ReleasePtr release;
    PanelRef panel;
    /// Premultiplied RGBA bytes of each layer, rearmost first, at full opacity: what the peers take.
    std::vector<const uint8_t*> pixels;

  private:
    std::vector<std::vector<uint8_t>> premultiplied_;
};

} // namespace glyptos::bench
