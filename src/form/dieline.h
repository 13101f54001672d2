// The lines of a printer's own sheet, and the form that they draw.
#pragma once

#include "form/form.h"
#include "raster/stroke.h"

#include <string>
#include <vector>

namespace glyptos {

/// What a line of a printer's sheet is for.
enum class DielineRole : unsigned char { Cut, Fold, Bleed, Other };
inline constexpr const char* kDielineRoleIds[] = {"cut", "fold", "bleed", "other"};

struct DielineLine {
    DielineRole role = DielineRole::Other;
    Polyline line;    ///< mm, y down
    std::string name; ///< of its layer, group or ink; may be empty
};

/// What the name of a layer or an ink says its lines are for: “die line”, “Crease”, “bleed 3 mm” and the
/// like, in any case. Other for names that say nothing.
DielineRole dielineRole(const std::string& name);

/// A form of one sheet as the lines draw it: closed cuts round the board, cuts inside of those are holes,
/// folds part the board into panels, which are named in the order in which they are read; narrow parts at the
/// edge that taper are flaps. Figures are to 0.01 mm, from the board's left-top corner. Ends within 0.1 mm of
/// each other meet. Fails, and says why, when nothing is cut, or no cut comes back to where it began.
struct Traced {
    Form form;
    Vec2 origin; ///< of the form's figures, on the sheet
};
[[nodiscard]] Result<Traced> tracedForm(const std::vector<DielineLine>& lines, const std::string& id,
                                        const std::string& name);

/// The form as the text of its file; reading that gives the same form.
std::string formToJson(const Form& form);

} // namespace glyptos
