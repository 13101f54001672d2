// Forms: the geometry of the pieces, as data. A Form is what a file in data/forms says (docs/forms.md has the
// schema); flat.h has it worked out.
#pragma once

#include "base/error.h"
#include "base/units.h"
#include "form/outline.h"

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
    bool onlyChoices = false; ///< nothing but the choices
};

/// Which edges of a panel something applies to.
struct Edges {
    bool left = false, top = false, right = false, bottom = false;
    bool operator==(const Edges&) const = default;
};

/// Whether a part of a form is there, and how often. `{…}` in ids and names is a formula.
struct Presence {
    std::string when;      ///< formula: it is there where this is over 0; empty: always
    std::string as, count; ///< there `count` times, with the name `as` standing for 1, 2, …; empty: once
};

/// An outline by formulas.
struct OutlineForm {
    Outline::Kind kind = Outline::Kind::Rectangle;
    std::string x, y, w, h; ///< its box
    std::string corners, inner;
    /// Of a free outline: the end of each line, or of each curve behind its one or two control points, from
    /// the box's corner on. The first is where it begins.
    std::vector<std::vector<std::string>> nodes;
};

/// One side of a sheet of board or paper.
struct SheetForm {
    std::string id, name;
    Presence presence;
};

/// A panel as written.
struct PanelForm {
    std::string id, name, sheet;
    OutlineForm outline;
    std::string turn;            ///< formula for 0, 90, 180 or 270: clockwise, as the upright panel prints
    std::optional<Edges> bleeds; ///< edges of its box on the flat that bleed; left out: those with no
                                 ///< panel beside them
    bool safe = true;            ///< has a safety line
    Presence presence;
};

/// Which way a fold goes, seen from the printed side.
enum class FoldKind : unsigned char { Mountain, Valley };
inline constexpr const char* kFoldKindIds[] = {"mountain", "valley"};

/// A fold line on the flat, formulas too.
struct FoldForm {
    std::string id, sheet;
    FoldKind kind = FoldKind::Mountain;
    std::string x1, y1, x2, y2;
    std::string angle; ///< degrees by which it is folded when the piece is made up
    std::string order; ///< 1, 2, …: those of one number are folded together
    Presence presence;
};

/// Unprinted board beyond the trim, such as a glue flap; and what is cut out of the board.
struct BoardForm {
    std::string id, name, sheet;
    OutlineForm outline;
    Presence presence;
};

/// What a part of a panel is for.
enum class ZoneKind : unsigned char {
    Bare,   ///< nothing prints there
    Uneven, ///< ink shows unevenly
    Code,   ///< the barcode's place: nothing else may stand there
    Clear   ///< nothing that matters may stand there
};
inline constexpr const char* kZoneKindIds[] = {"bare", "uneven", "code", "clear"};

struct ZoneForm {
    std::string id, name, sheet;
    ZoneKind kind = ZoneKind::Clear;
    OutlineForm outline;
    Presence presence;
};

/// What a piece is for; lists of forms are in this order.
enum class FormGroup : unsigned char { Screen, Disc, Record, Cassette };
inline constexpr const char* kFormGroupIds[] = {"screen", "disc", "record", "cassette"};

struct Form {
    std::string id, name, note;
    FormGroup group = FormGroup::Screen;
    Unit unit = Unit::Mm;
    double ppi = 300;     ///< customary resolution of a print form
    bool retired = false; ///< pieces of it open; new ones are made of other forms
    bool own = false;     ///< made by the artist: releases carry it with them. No part of its file
    std::vector<Parameter> parameters;
    std::vector<SheetForm> sheets; ///< none: one
    std::vector<PanelForm> panels;
    std::vector<FoldForm> folds;
    std::vector<BoardForm> flaps, cutouts;
    std::vector<ZoneForm> zones;
    std::string front;                     ///< id of the panel that stands for the piece; empty: the last
    std::string bleed = "0", safety = "0"; ///< formulas
    std::string mirrored;  ///< over 0: left and right change places on every sheet; panels stay upright
    std::string bothSides; ///< over 0: the other side of each sheet prints too
    std::string thickness; ///< formula: of its board or paper; empty: 0.25 mm
    bool bound = false;    ///< sheets are the spreads of a booklet, in the order in which they are read
};

/// Before the id of a panel: the one on the other side of the sheet.
inline constexpr const char* kInsidePrefix = "inside-";

/// Values that the artist set, by parameter id; what is not named keeps its standard or formula.
using ParameterValues = std::map<std::string, double>;

/// A panel that is all of its form, at the origin, without a safety line.
PanelForm wholePanel(const std::string& id, const std::string& name, int width, int height);

/// Whether the form has a panel of that id, whatever its figures are set to.
bool mayHavePanel(const Form& form, std::string_view id);

/// Reads a form from JSON text. `where` names it in messages; each says which entry is wrong and why.
[[nodiscard]] Result<Form> parseForm(std::string_view json, const std::string& where);
[[nodiscard]] Result<Form> loadForm(const std::filesystem::path& file);

/// All forms of a folder, by group and name; the first that is wrong ends it.
[[nodiscard]] Result<std::vector<Form>> loadForms(const std::filesystem::path& folder);

} // namespace glyptos
