// Forms: the geometry of the pieces, as data. A Form is what a file in data/forms says (docs/forms.md has the
// schema); a Flat is that form with its parameters worked out, ready to draw and to measure against.
#pragma once

#include "base/error.h"
#include "base/geometry.h"
#include "base/units.h"

#include <array>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

struct Choice {
    std::string label;
    double value = 0;
};

/// A figure that the artist may set, or that follows from others by a formula (and may be overruled).
struct Parameter {
    std::string id, label, unit; ///< unit as shown behind the figure: "mm", "px", "" for a count
    double standard = 0;         ///< when there is no formula
    std::string formula;
    std::vector<Choice> choices;
    double least = 0, most = 1e6;
};

/// Which edges of a panel something applies to.
struct Edges {
    bool left = false, top = false, right = false, bottom = false;
    bool operator==(const Edges&) const = default;
};

/// A panel as written: a rectangle on the flat given by four formulas.
struct PanelForm {
    std::string id, name;
    std::string x, y, w, h;
    int turn = 0;     ///< 0, 90, 180 or 270: clockwise turn of the upright panel as it prints on the flat
    Edges bleeds;     ///< edges of the rectangle on the flat where art runs into the bleed
    bool safe = true; ///< has a safety line
};

/// Which way a fold goes, seen from the printed side.
enum class FoldKind : unsigned char { Mountain, Valley };
inline constexpr const char* kFoldKindIds[] = {"mountain", "valley"};

/// A fold line on the flat, formulas too.
struct FoldForm {
    std::string id;
    FoldKind kind = FoldKind::Mountain;
    std::string x1, y1, x2, y2;
};

/// Unprinted board beyond the trim, such as a glue flap.
struct FlapForm {
    std::string id, name, x, y, w, h;
};

/// What a piece is for; lists of forms are in this order.
enum class FormGroup : unsigned char { Screen, Disc, Record, Cassette };
inline constexpr const char* kFormGroupIds[] = {"screen", "disc", "record", "cassette"};

struct Form {
    std::string id, name, note;
    FormGroup group = FormGroup::Screen;
    Unit unit = Unit::Mm;
    double ppi = 300; ///< customary resolution of a print form
    std::vector<Parameter> parameters;
    std::vector<PanelForm> panels;
    std::vector<FoldForm> folds;
    std::vector<FlapForm> flaps;
    std::string bleed = "0", safety = "0"; ///< formulas
};

/// Values that the artist set, by parameter id; what is not named keeps its standard or formula.
using ParameterValues = std::map<std::string, double>;

struct Panel {
    std::string id, name;
    Rect onFlat; ///< trim rectangle on the flat
    int turn = 0;
    double width = 0, height = 0; ///< of the upright panel
    Edges bleeds;                 ///< in the panel's own upright directions
    double bleed = 0;
    double safety = 0; ///< inset; 0 when the panel has no safety line

    /// Trim rectangle in the panel's own frame: (0, 0, width, height).
    Rect trim() const { return {0, 0, width, height}; }
    /// Trim grown by the bleed on those edges that bleed.
    Rect withBleed() const {
        return trim().grown(bleeds.left ? bleed : 0, bleeds.top ? bleed : 0, bleeds.right ? bleed : 0,
                            bleeds.bottom ? bleed : 0);
    }
    std::optional<Rect> safeArea() const;
    /// From the panel's own frame to the flat.
    Affine toFlat() const;
};

struct Fold {
    FoldKind kind = FoldKind::Mountain;
    Vec2 from, to;
};

struct Flap {
    std::string name;
    Rect area;
};

/// A form worked out. All lengths in `unit`.
struct Flat {
    Unit unit = Unit::Mm;
    double ppi = 300;
    double bleed = 0, safety = 0;
    std::vector<Panel> panels;
    std::vector<Fold> folds;
    std::vector<Flap> flaps;
    ParameterValues values;                     ///< every parameter
    std::map<std::string, std::string> working; ///< for those with a formula: the sum with its figures
    const Panel* panel(std::string_view id) const;
    Rect trim() const;      ///< bounds of all panels
    Rect withBleed() const; ///< bounds of all panels with their bleed
};

/// Reads a form from JSON text. `where` names it in messages; each says which entry is wrong and why.
[[nodiscard]] Result<Form> parseForm(std::string_view json, const std::string& where);
[[nodiscard]] Result<Form> loadForm(const std::filesystem::path& file);

/// Works out a form. Fails on unknown parameters, values out of range, formulas that do not resolve, empty
/// panels.
[[nodiscard]] Result<Flat> workOut(const Form& form, const ParameterValues& set = {});

/// All forms of a folder, by group and name; the first that is wrong ends it.
[[nodiscard]] Result<std::vector<Form>> loadForms(const std::filesystem::path& folder);

} // namespace glyptos
