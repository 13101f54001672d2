// A form worked out: its sheets side by side on one plane, ready to draw and to measure against.
#pragma once

#include "form/form.h"

#include <memory>

namespace glyptos {

struct Zone {
    std::string id, name;
    ZoneKind kind = ZoneKind::Clear;
    Outline outline;
};

struct Panel {
    std::string id, name;
    Rect onFlat; ///< box of its trim on the flat
    int turn = 0;
    double width = 0, height = 0; ///< of the upright panel
    Edges bleeds;                 ///< in the panel's own upright directions
    double bleed = 0;
    double safety = 0; ///< inset; 0 when the panel has no safety line
    size_t sheet = 0;
    // In the panel's own frame:
    Outline outline; ///< of its trim
    std::vector<Outline> cutouts;
    std::vector<Zone> zones;
    /// Where art prints, when that is not all of withBleed(): the outline with its bleed, without bare zones,
    /// and into cut-outs by the bleed alone.
    std::shared_ptr<const Path> prints;

    /// Box of the trim in the panel's own frame: (0, 0, width, height).
    Rect trim() const { return {0, 0, width, height}; }
    /// That box grown by the bleed on those edges that bleed.
    Rect withBleed() const {
        return trim().grown(bleeds.left ? bleed : 0, bleeds.top ? bleed : 0, bleeds.right ? bleed : 0,
                            bleeds.bottom ? bleed : 0);
    }
    std::optional<Rect> safeArea() const; ///< the box of what lies within the safety line
    std::optional<Outline> safeOutline() const;
    /// From the panel's own frame to the flat.
    Affine toFlat() const;
};

/// One side of a sheet, as one page of a print file.
struct Sheet {
    std::string id, name;
    std::optional<size_t> behind; ///< the sheet that it is the other side of
    Rect trim, withBleed;         ///< on the flat
};

/// A part of the board: a panel or, behind all of those, a flap.
using BoardPart = size_t;

struct Fold {
    std::string id;
    FoldKind kind = FoldKind::Mountain;
    Vec2 from, to;
    double angle = 90; ///< degrees from flat, 0…180
    int order = 1;
    size_t sheet = 0;
    /// Parts that meet along it; one fold may have several such pairs in a row.
    std::vector<std::pair<BoardPart, BoardPart>> joins;
};

struct Flap {
    std::string name;
    Outline outline; ///< on the flat
    size_t sheet = 0;
};

/// All lengths in `unit`.
struct Flat {
    Unit unit = Unit::Mm;
    double ppi = 300;
    double bleed = 0, safety = 0;
    double thickness = 0.25;   ///< of the board or paper
    bool bound = false;        ///< sheets are the spreads of a booklet, in the order in which they are read
    std::vector<Sheet> sheets; ///< the first at its own place, others clear of it
    std::vector<Panel> panels;
    std::vector<Panel> wraps; ///< wide panels that lie over several of those (wrap.h): art alone, no board
    std::vector<Fold> folds;
    std::vector<Flap> flaps;
    std::vector<Flap> cutouts;
    size_t front = 0;                           ///< the panel that stands for the piece
    ParameterValues values;                     ///< every parameter
    std::map<std::string, std::string> working; ///< for those with a formula: the sum with its figures

    const Panel* panel(std::string_view id) const; ///< or wrap
    std::vector<const Panel*> places() const;      ///< all that can hold art: panels, then wraps
    const Panel& frontPanel() const { return panels[front]; }
    Rect trim() const;      ///< bounds of all sheets
    Rect withBleed() const; ///< bounds of all sheets with their bleed
};

/// Works out a form. Fails on unknown parameters, values out of range, formulas that do not resolve, panels
/// that are empty, huge, or lie on each other, and folds that join nothing.
[[nodiscard]] Result<Flat> workOut(const Form& form, const ParameterValues& set = {});

} // namespace glyptos
