// Internal to mending: turned copies of a picture, for what runs through the hole along a circle.
//
// Pieces are only ever moved (shifts.h). An arc whose hidden part stands nowhere else is itself again when
// the picture is turned about its middle; so copies turned so far that the known part comes to lie over the
// hole are set below the picture, and pieces are moved from there.
#pragma once

#include "vision/mend/arcs.h"
#include "vision/mend/shifts.h"

namespace glyptos::mending {

struct WithTurned {
    Picture picture;  ///< the one that was given, and copies of what lies about the hole below it
    WorkPicture work; ///< of it; `own` rows of it are the picture, and what no copy shows is not known
    std::vector<Shift> shifts; ///< from the picture to each copy
};

/// `work` is of the picture, pixel by pixel.
WithTurned withTurned(const Picture& picture, const WorkPicture& work, const std::vector<Arc>& arcs);

} // namespace glyptos::mending
