// Forms changed by hand: their parts with figures, and forms with other ones. Pure functions.
#pragma once

#include "form/form.h"

#include <array>

namespace glyptos {

enum class PartKind : unsigned char { Panel, Fold, Flap, Cutout, Zone };

/// Which part of a form.
struct PartRef {
    PartKind kind = PartKind::Panel;
    size_t index = 0; ///< in the list of its kind
    bool operator==(const PartRef&) const = default;
};

/// A part as it lies on the plane of its sheet.
struct FormPart {
    PartRef ref;
    std::string name;
    Outline outline;      ///< not of folds
    Vec2 from, to;        ///< of folds
    bool repeats = false; ///< comes several times: it is shown and not taken hold of
};

/// The parts of one sheet ("": the first) with those figures, in the order of their kinds; what is not there
/// with these figures is left out. Fails when a formula does not resolve.
[[nodiscard]] Result<std::vector<FormPart>> partsOf(const Form& form, const ParameterValues& values,
                                                    const std::string& sheet);

/// A part with another box: figures (to 0.01) stand in place of formulas where they change. Folds do not
/// change.
[[nodiscard]] Form withBox(Form form, const PartRef& part, const Rect& from, const Rect& to);
/// A fold along another line.
[[nodiscard]] Form withLine(Form form, size_t fold, Vec2 from, Vec2 to);
/// A new part at the end of its kind, on that sheet, with an id and a name that no other has; `box` is the
/// line of a fold from corner to corner. Cut-outs are round.
[[nodiscard]] Form withPart(Form form, PartKind kind, const Rect& box, const std::string& sheet,
                            PartRef& made);
[[nodiscard]] Form withoutPart(Form form, const PartRef& part);

/// The formulas of a part's box (x, y, w, h), or of a fold's line (x1, y1, x2, y2).
std::array<std::string, 4> figuresOf(const Form& form, const PartRef& part);
[[nodiscard]] Form withFigures(Form form, const PartRef& part, const std::array<std::string, 4>& figures);
std::string nameOf(const Form& form, const PartRef& part);
[[nodiscard]] Form withName(Form form, const PartRef& part, const std::string& name);

/// The form as the artist's own: under that name, with an id made of it.
[[nodiscard]] Form asOwn(Form form, const std::string& name);

} // namespace glyptos
