// Internal to render: names the layers of a scene's panels in one tile (named_stack.h). What layers show by
// themselves is in named_stack.cpp, what their treatments make of it in namer_treatments.cpp.
#pragma once

#include "render/tiles/layer_recipes.h"
#include "render/tiles/named_stack.h"
#include "render/tiles/treated_steps.h"
#include "render/tiles/treated_tiles.h"

namespace glyptos {

class Namer {
  public:
    Namer(const RenderParts& parts, const Scene& scene, const IntRect& region,
          std::vector<PanelPlace> opened = {}, std::vector<std::string> read = {})
        : recipes_(parts, *scene.release, region, scene.moving ? Sampling::Draft : Sampling::Whole)
        , parts_(parts)
        , scene_(scene)
        , release_(*scene.release)
        , region_(region)
        , inHand_(scene.inHand)
        , opened_(std::move(opened))
        , read_(std::move(read)) {}

    std::vector<NamedLayer> name(const PanelView& view) { return name(view, view.toOutput); }

  private:
    /// A layer of a list, with those that are clipped into it: [from, base] of the list.
    struct Run {
        const Stack& stack;
        size_t from, base;
        bool beneath = false; ///< not the layer, a grade, but what lies beneath it
        const Layer& layer() const { return *stack[base]; }
        bool holdsMore() const { return from < base; }
    };

    /// Layers of a panel, which `toOutput` leads from to output px.
    std::vector<NamedLayer> name(const PanelView& view, const Mapping& toOutput);
    /// The layers of a list from the one at `first` on.
    std::vector<NamedLayer> name(const Stack& stack, const Mapping& toOutput, size_t first = 0);
    /// What shows nothing and leaves the backdrop as it is can be left out.
    static void keep(NamedLayer layer, std::vector<NamedLayer>& out);
    NamedLayer single(const Run& run, const Mapping& toOutput);
    /// What a run shows with its mask and treatments, before it is blended.
    NamedLayer whole(const Run& run, const Mapping& toOutput);
    /// What a layer shows by itself. What is recoloured, cut or clipped into meets it alone, so nothing
    /// passes through a group then.
    NamedLayer shown(const Run& run, const Mapping& toOutput);
    /// `out` within the layer's mask, and what is clipped into the layer on it.
    NamedLayer inner(const Run& run, NamedLayer out, const Mapping& toOutput);
    /// From the layer's own frame.
    Mapping mapping(const Layer& layer, const Mapping& toOutput) const;
    /// A linked mask, which lies on the panel, goes through its layer's warp.
    Mapping maskMapping(const Layer& layer, const Mapping& toOutput) const;
    static void addMask(TileRecipe mask, NamedLayer& out);
    void settle(const Layer& layer, NamedLayer& out) const;
    bool holds(const Layer& layer) const;
    /// Layers [from, base) of the stack inside `first`, which is what the layer `base` shows.
    NamedLayer withClipped(const Run& run, NamedLayer first, const Mapping& toOutput);
    static void setGroup(NamedGroup group, NamedLayer& out);
    NamedLayer rows(const Layer& layer, const GroupContent& content, const Mapping& toOutput);
    /// The other panel's layers, each cut to its own frame. An echo of something that is being drawn already
    /// shows nothing.
    NamedLayer rows(const Layer& layer, const EchoContent& echo, const Mapping& toOutput);
    NamedLayer rows(const Layer& layer, const PictureContent& content, const Mapping& toOutput);
    NamedLayer rows(const Layer& layer, const TextContent& content, const Mapping& toOutput);
    NamedLayer rows(const Layer& layer, const CodeContent& code, const Mapping& toOutput);
    /// It shows nothing of its own.
    NamedLayer rows(const Layer&, const GradeContent&, const Mapping&) { return {}; }
    NamedLayer rows(const Layer&, const FillContent& fill, const Mapping& toOutput);
    NamedLayer rows(const Layer& layer, const PaintedContent& painted, const Mapping& toOutput);
    NamedLayer rows(const Layer& layer, const ShapeContent& shape, const Mapping& toOutput);

    // Treatments.

    /// A run with the first `count` steps of its layer.
    NamedLayer upTo(const Run& run, const TreatedSteps& steps, size_t count, const Mapping& toOutput);
    GradeRecipe noGrades(const Mapping& toOutput) const;
    void addGrade(const Treatment& treatment, const Mapping& toOutput, GradeRecipe& out) const;
    std::optional<TileRecipe> maskOf(const Treatment& treatment, const Mapping& toOutput) const;
    static TileKey keyOf(const GradeRecipe& grades);
    /// A layer recoloured: grades clipped into it.
    static NamedLayer graded(NamedLayer layer, const GradeRecipe& grades);
    /// The tile of a treatment that looks around itself, on what the steps before it show.
    NamedLayer around(const Run& run, const TreatedSteps& steps, size_t step, const Affine& toOutput) const;
    Namer elsewhere(const IntRect& region) const { return {parts_, scene_, region, opened_, read_}; }
    /// What a treatment of a layer reads besides, in the order of its figures.
    std::vector<Naming> readBy(const Treatment& treatment, const std::string& layer,
                               const Place& place) const;
    /// A source that covers the panel, or another layer of it with its treatments; nothing when it is gone,
    /// or is being read already.
    std::vector<NamedLayer> read(const std::string& id, const Affine& onto, const Rect& panel);
    static std::optional<Run> find(const Stack& stack, const std::string& id);
    /// Whether what is laid behind lines may be seen there, though nothing of them is.
    static bool behindLines(const Place& place, const IntRect& seen);
    NamedLayer aroundTile(const Treatment& treatment, const Place& place, const std::vector<Naming>& pictures,
                          const Naming& naming) const;
    /// Through a mapping that is not affine: treated as it lies upright, and seen from there.
    NamedLayer upright(const Run& run, const TreatedSteps& steps, const Mapping& toOutput) const;
    NamedLayer drawnUpright(const Mapping& toOutput, const Naming& naming) const;
    /// What lies beneath a grade: in its list, or of what it is clipped into.
    NamedLayer beneath(const Run& run, const Mapping& toOutput);
    static NamedLayer eraser();
    /// A grade recolours what lies beneath it; one that looks around itself draws that anew.
    NamedLayer grade(const Run& run, const Mapping& toOutput);
    /// Units of the panel to output pixels, and where that panel is.
    Place placeOf(const Affine& toOutput) const;

    LayerRecipes recipes_;
    RenderParts parts_;
    const Scene& scene_;
    const Release& release_;
    IntRect region_;
    const std::string& inHand_;
    std::vector<PanelPlace> opened_; ///< panels that are being named, outermost first
    std::vector<std::string> read_;  ///< layers that are being treated or read, outermost first
    int echoes_ = 0;
    bool passing_ = false; ///< within a group that layers pass through
};

/// Whether a layer shows nothing in the tile.
inline bool isNothing(const NamedLayer& layer) {
    return std::holds_alternative<Nothing>(layer.rows);
}

} // namespace glyptos
