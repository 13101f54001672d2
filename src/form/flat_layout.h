// Internal to form: the parts of a form with their figures, on sheets that each have a plane of their own,
// and the steps from there to one flat.
#pragma once

#include "form/flat.h"

namespace glyptos {

struct LaidPanel {
    std::string id, name;
    size_t sheet = 0;
    Outline outline;
    int turn = 0;
    std::optional<Edges> bleeds; ///< on the flat
    bool safe = true;
};

struct LaidBoard {
    std::string id, name;
    size_t sheet = 0;
    Outline outline;
};

struct LaidZone {
    size_t sheet = 0;
    Zone zone;
};

struct FlatLayout {
    std::vector<Sheet> sheets;
    std::vector<LaidPanel> panels;
    std::vector<Fold> folds;
    std::vector<LaidBoard> flaps, cutouts;
    std::vector<LaidZone> zones;

    /// Bounds of a sheet's panels; of all its board, bleed included.
    Rect trimOf(size_t sheet) const;
    Rect boardOf(size_t sheet, double bleed) const;

    /// Left and right change places on each sheet.
    void mirror();
    /// The other side of each sheet, as it is seen when that is turned over like a page.
    void addOtherSides();
    /// Edges that were not said bleed where no panel lies beside them.
    void findBleeds();
    /// Finds what each fold joins. The first that joins nothing, or nothing.
    const Fold* findJoins();
    /// Moves all sheets but the first to where they are clear of each other, in rows that are about as wide
    /// as a screen is.
    void spread(double bleed);
    /// A pair of panels that lie on each other, or nothing.
    std::optional<std::pair<const LaidPanel*, const LaidPanel*>> overlap() const;

  private:
    template <class Act>
    void eachOutline(Act act);
    std::optional<BoardPart> partAt(size_t sheet, Vec2 at) const;
    /// Places along a fold, in shares of it, where both sides of it are looked at.
    std::vector<double> looksAlong(const Fold& fold) const;
};

} // namespace glyptos
