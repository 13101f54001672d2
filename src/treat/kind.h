// A kind of treatment: one entry of the table that everything about treatments is made from. How to add one:
// docs/treatments.md.
#pragma once

#include "treat/colour_op.h"
#include "treat/place.h"
#include "treat/planes.h"
#include "treat/values.h"

#include <span>
#include <string_view>
#include <vector>

namespace glyptos {

/// What an artist would look for it under.
enum class TreatmentFamily : unsigned char { Grade, Blur, Detail, Drawn, Worn, Outline, Light, Surface };

/// What a treatment reads to draw a region: its layer, halved `level` times, over the region grown by `reach`
/// pixels of that level.
struct Need {
    int level = 0;
    int reach = 0;
};

/// The same over the region grown by that many output px more.
inline Need grownBy(Need need, int px) {
    need.reach += (px >> need.level) + 1;
    return need;
}

struct AroundJob {
    const Figures& figures;
    const Place& place;
    std::span<const Planes> inputs; ///< one for each need, in its order
    /// One for each figure that is a picture, over the region that is drawn; without an area where there is
    /// none, or where it is the layer itself. May be fewer.
    std::span<const Planes> pictures{};
    /// Nothing when it is not there.
    const Planes* picture(size_t i) const {
        return i < pictures.size() && !pictures[i].area.empty() ? &pictures[i] : nullptr;
    }
};

/// Either `colour` is set, for what changes colours one pixel at a time, or `needs` and `draw`.
struct TreatmentKind {
    std::string_view id;    ///< in files
    std::string_view title; ///< in the window, in English
    TreatmentFamily family;
    std::span<const Figure> figures;
    /// Draws on or round the outline of what shows, so that the layer's mask comes before it.
    bool followsOutline = false;
    /// What it does depends on the place too, so that no table of colours can say it.
    bool placed = false;
    /// Nothing (an empty function) when these figures change nothing.
    ColourOp (*colour)(const Figures& figures, const Place& place) = nullptr;
    /// Nothing when these figures change nothing.
    std::vector<Need> (*needs)(const Figures& figures, const Place& place) = nullptr;
    /// Draws all of out.area; the inputs are as needs() said.
    void (*draw)(const AroundJob& job, Planes& out) = nullptr;
    /// The figure that carries its strength; none: its first number.
    std::string_view carrier = {};
    /// Where pictures lie that cover the panel of themselves, as a map of the piece. None: there.
    Affine (*pictureOnPanel)(const Figures& figures, const Place& place) = nullptr;
    /// Sets figures by what is beneath: straight, encoded colours, of which there must be some. None: nothing
    /// in a picture says how they should be.
    void (*byPicture)(Figures& figures, std::span<const Rgba> colours) = nullptr;
    /// Asks where the lines of words are.
    bool readsLines = false;

    bool looksAround() const { return draw != nullptr; }
    /// The place of a figure in the table, or its size.
    size_t find(std::string_view figure) const;
};

/// All kinds, in the order in which they are shown.
std::span<const TreatmentKind* const> treatmentKinds();
/// Nothing when there is no such kind.
const TreatmentKind* treatmentKind(std::string_view id);

/// How far around itself it looks with these figures, in output px.
int reachOf(const TreatmentKind& kind, const Figures& figures, const Place& place);

} // namespace glyptos
