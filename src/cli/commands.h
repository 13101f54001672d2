// The commands of glyptos-cli. Each prints to standard output and fails with one sentence. A command that did
// its work but has something to say of it prints that to standard error and ends with findings.
#pragma once

#include "base/error.h"

#include <array>
#include <string>
#include <vector>

namespace glyptos::cli {

enum class Outcome { Fine, Findings };

/// Writes a new release with one piece of each form; fails when `file` cannot be written, `brief` (a JSON
/// file; empty: none) cannot be read, or a form is not known.
struct NewOptions {
    std::string file, brief;
    std::vector<std::string> forms; ///< ids
};
Result<Outcome> makeNew(const NewOptions& options);

/// Lists what a release holds.
struct InfoOptions {
    std::string file;
    bool json = false;
};
Result<Outcome> tellInfo(const InfoOptions& options);

/// Compares the art along every fold; findings where it does not meet.
struct SeamsOptions {
    std::string file, piece; ///< an empty piece: all
    bool json = false;
};
Result<Outcome> tellSeams(const SeamsOptions& options);

/// Draws a piece folded, as a PNG on nothing or a JPEG on white.
struct FoldOptions {
    std::string file, piece, out;
    double at =
        1; ///< 0 flat … 1 made up; a booklet: open at its last leaf … closed; packed: 0 all out … 1 in
    bool packed = false;                 ///< with the pieces that go with it, in their case or sleeve
    std::array<double, 2> turn{25, -20}; ///< degrees about the upright axis, then about the level one
    std::array<int, 2> size{1200, 900};  ///< px
};
[[nodiscard]] Result<Outcome> drawFolded(const FoldOptions& options);

/// Cuts nothing, but tells and draws what a cutter would; findings where its paths are wrong.
struct CutterOptions {
    std::string file; ///< SVG or DXF
    std::string out;  ///< a PNG; empty: not drawn
    bool json = false;
};
[[nodiscard]] Result<Outcome> runCutter(const CutterOptions& options);

/// Lists all forms, or works one out. Fails when there is none of that name or a figure is out of range.
struct FormsOptions {
    std::string name;             ///< an id; empty: all
    std::vector<std::string> set; ///< "parameter=value", in the form's unit or with one
    bool json = false;
};
Result<Outcome> listForms(const FormsOptions& options);

/// Writes a PNG or JPEG, by the ending of `out`. Empty ids: the first piece, its whole flat, its current
/// take.
struct RenderOptions {
    std::string file, piece, panel, take, out;
    double ppi = 0; ///< 0: the form's own
    int width = 0;  ///< px; 0: by ppi
    bool bleed = false, json = false;
};
Result<Outcome> renderPicture(const RenderOptions& options);

/// Writes a file to hand over; `as` is "png", "jpeg", "pdf", "tiff", "ora", "svg-cut" or "dxf-cut".
struct ExportOptions {
    std::string file, piece, panel, as, out;
    int width = 0;       ///< px, of png and jpeg; 0: what the form asks for
    int quality = 95;    ///< of jpeg, 1…100
    std::string pages;   ///< of pdf and tiff, "1,3-5"; empty: all
    std::string profile; ///< of pdf and tiff: an ICC file; empty: the one that is shipped
    // Of pdf and tiff:
    std::string intent = "relative";
    bool noBlackPoint = false;
    std::vector<std::string> spot; ///< of pdf: plates besides: "cut", "white"
    bool pairs = false, filePerPage = false, report = false, slug = false;
    double sharpen = 0, richBlack = 0;
    // Of home:
    std::string paper = "a4", duplex = "none";
    int copies = 1;
    double overlap = 10; ///< mm
    bool json = false;
};
Result<Outcome> exportPiece(const ExportOptions& options);

// An empty `crate` is the user's own.

struct CrateAddOptions {
    std::string crate;
    std::vector<std::string> paths;
    bool json = false;
};
[[nodiscard]] Result<Outcome> addToCrate(const CrateAddOptions& options);

struct CrateFindOptions {
    std::string crate, kind, shape, colour, licence;
    std::vector<std::string> words;
    bool largeEnough = false, json = false;
    int most = 50;
};
/// Findings when there is nothing like that.
[[nodiscard]] Result<Outcome> findInCrate(const CrateFindOptions& options);

struct CrateSimilarOptions {
    std::string crate, source;
    double colour = 1, structure = 1;
    bool json = false;
    int most = 12;
};
[[nodiscard]] Result<Outcome> findSimilar(const CrateSimilarOptions& options);

struct CreditsOptions {
    std::string file;
    bool csv = false, json = false;
};
/// Findings when the maker of a picture is not known.
Result<Outcome> tellCredits(const CreditsOptions& options);

/// Cuts a figure off its ground: its alpha as an 8-bit grey PNG of the picture's size, and the
/// figure with its clean colours. Findings, with a sentence, when there is no figure to find.
struct CutOutOptions {
    std::string picture;
    std::array<double, 4> box{}; ///< x, y, width and height in px; empty: not told
    std::string hints; ///< a JSON file: a list of {kind: "figure" or "ground", radius, points: [[x, y], …]}
    std::string out, figure; ///< PNG files; empty: not written
};
[[nodiscard]] Result<Outcome> cutOut(const CutOutOptions& options);

/// Fills what a mask shows white from around it and writes a PNG of the picture's depth. Findings, with a
/// sentence, when the mask is empty or covers everything.
struct MendCommand {
    std::string picture, mask, out;
};
[[nodiscard]] Result<Outcome> mend(const MendCommand& options);

/// Tilts, bends or kneads a picture and writes a PNG of its depth, see-through outside. One of the three is
/// given.
struct WarpOptions {
    std::string picture, grid, knead, out; ///< files; JSON where they are not pictures
    std::vector<double> tilt;  ///< corners in px of what is written: x0, y0, … clockwise from left top
    int width = 0, height = 0; ///< px; 0: as the picture
};
[[nodiscard]] Result<Outcome> warp(const WarpOptions& options);

/// Lists the families at hand with what was worked out of their regular style (type/face_facts.h). Findings
/// when there is none like that.
struct FacesOptions {
    std::vector<std::string> sorts; ///< words for looks; all of them have to fit
    std::string has;                ///< characters that are needed
    bool json = false;
};
[[nodiscard]] Result<Outcome> listFaces(const FacesOptions& options);

/// Prints the faces most like words in a picture, best first. Findings when there is none.
struct FindFaceOptions {
    std::string picture, words;
    std::array<double, 4> box{}; ///< px of the picture; no width: all of it
    bool json = false;
};
[[nodiscard]] Result<Outcome> findFace(const FindFaceOptions& options);

/// Goes through a list of treatments as a release holds it and writes a PNG of the picture's depth. Files
/// that the list names lie beside it; lengths in mm are taken at 300 ppi.
struct TreatOptions {
    std::string picture, chain, out;
    bool list = false, json = false; ///< nothing is treated: all kinds are listed, as JSON
};
[[nodiscard]] Result<Outcome> treat(const TreatOptions& options);
/// Prints all kinds of treatments with their figures.
[[nodiscard]] Result<Outcome> listTreatments(bool json);

} // namespace glyptos::cli
