// A plate of one colour behind words: round all of them, or one round each line; behind other layers round
// all they show. Rounded corners by their distance (a box without its corners, and circles there). Plates of
// lines that touch become one.

#include "treat/kind.h"
#include "treat/outlines/laying.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

constexpr const char* kEach[]{"one for all", "one a line"};
enum { Each, Across, Down, Corner, PlateColour, Strength };
constexpr Figure kFigures[]{
    choice("each", "Plates", kEach),
    length("across", "At the sides", 3, -kLongestFigure),
    length("down", "Above and below", 2, -kLongestFigure),
    length("corner", "Corner radius", 1),
    colour("colour", "Colour", {0.94f, 0.9f, 0.8f, 1}),
    share("strength", "Strength", 1),
};

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Strength) == 0) return {};
    // No more is read than is drawn; but so far beyond what shows it may be seen.
    const double padding = std::max({f.number(Across), f.number(Down), 0.0});
    return {{0, int(std::ceil(place.px(padding))) + 1}};
}

/// Padded, in units of the layer's own frame, whose lengths are `perUnit` times as long on the piece.
std::vector<Rect> platesOf(const Figures& f, const LineBoxes& lines) {
    const double sx = std::max(lines.toPiece.scaleX(), 1e-9), sy = std::max(lines.toPiece.scaleY(), 1e-9);
    std::vector<Rect> out;
    if (f.number(Each) == 1) {
        out = lines.boxes;
    } else {
        Rect all;
        for (const Rect& box : lines.boxes) all = all.united(box);
        out.push_back(all);
    }
    for (Rect& plate : out) {
        const double x = f.number(Across) / sx, y = f.number(Down) / sy;
        plate = plate.grown(x, y, x, y);
    }
    std::erase_if(out, [](const Rect& plate) { return plate.empty(); });
    return out;
}

/// Distance to a rounded box, negative inside; in the units of the box.
double distanceTo(const Rect& box, double corner, Vec2 at) {
    const double r = std::min({corner, box.w / 2, box.h / 2});
    const double dx = std::abs(at.x - box.centre().x) - box.w / 2 + r,
                 dy = std::abs(at.y - box.centre().y) - box.h / 2 + r;
    return std::hypot(std::max(dx, 0.0), std::max(dy, 0.0)) + std::min(std::max(dx, dy), 0.0) - r;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const LineBoxes& lines = job.place.lines;
    const Affine onto = job.place.toOutput * lines.toPiece;
    const Affine back = onto.inverse().value_or(Affine{});
    const double px = std::sqrt(std::abs(onto.determinant()));
    const double corner = f.number(Corner) / std::max(std::sqrt(std::abs(lines.toPiece.determinant())), 1e-9);
    const std::vector<Rect> plates = platesOf(f, lines);
    Plane cover(out.area);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const Vec2 at = back.map({out.area.x + i + 0.5, y + 0.5});
            double least = 1e9;
            for (const Rect& plate : plates) least = std::min(least, distanceTo(plate, corner, at) * px);
            cover.row(y)[i] = float(std::clamp(0.5 - least, 0.0, 1.0));
        }
    out = cutOut(job.inputs[0], out.area);
    layUnder({cover, f.colour(PlateColour), float(f.number(Strength))}, out);
}

} // namespace

extern const TreatmentKind kPlate{.id = "plate",
                                  .title = "Plate behind",
                                  .family = TreatmentFamily::Outline,
                                  .figures = kFigures,
                                  .followsOutline = true,
                                  .placed = true,
                                  .needs = needs,
                                  .draw = draw,
                                  .carrier = "across",
                                  .readsLines = true};

} // namespace glyptos
