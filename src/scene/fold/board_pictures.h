// What is printed on the boards of a piece, as pictures for their surfaces.
#pragma once

#include "render/renderer.h"
#include "scene/draw/surface_picture.h"
#include "scene/fold/folding.h"

#include <memory>

namespace glyptos {

struct BoardPictures {
    /// A side of a board, or nothing: blank paper all over its box.
    using Side = std::shared_ptr<const SurfacePicture>;
    struct Sides {
        Side face, back;
    };
    std::vector<Sides> boards;
};

/// Panels as they are printed, in `pxPerUnit` at most; a large piece in fewer. What is not printed is paper.
/// Stops early once `*cancel` is true.
BoardPictures boardPictures(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                            const Folding& folding, double pxPerUnit,
                            const std::atomic<bool>* cancel = nullptr);

/// What is printed on a panel, cut to its outline: on paper, or on something that shows where no art is. In
/// `pxPerUnit`, at most 4096 px a side.
BoardPictures::Side panelOnPaper(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                                 double pxPerUnit, const std::atomic<bool>* cancel = nullptr);
BoardPictures::Side panelWithoutPaper(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                                      double pxPerUnit, const std::atomic<bool>* cancel = nullptr);

} // namespace glyptos
