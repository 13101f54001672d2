// Any run of colours by how light the picture is.

#include "treat/grades/run_by_light.h"

namespace glyptos {
namespace {

enum { Run, Reversed };
constexpr Figure kFigures[]{run("run", "Colours"), flag("reversed", "The other way round", false)};

ColourOp colourRunGrade(const Figures& f, const Place&) {
    if (f.run(Run).empty()) return {};
    RunTable table;
    for (int i = 0; i <= RunTable::kSteps; ++i) {
        const double t = double(i) / RunTable::kSteps;
        table.set(i, colourAlong(f.run(Run), f.flag(Reversed) ? 1 - t : t));
    }
    return coloursByLight(std::move(table));
}

} // namespace

extern const TreatmentKind kColourRun{
    "colour-run", "Colours by light", TreatmentFamily::Grade, kFigures, false, false, colourRunGrade};

} // namespace glyptos
