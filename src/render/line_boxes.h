// Internal to render: boxes round what a layer shows, for what is laid behind it.
#pragma once

#include "render/layer_geometry.h"
#include "treat/place.h"

namespace glyptos {

/// The boxes of its lines of words, all of one height; of other layers one round all they show. Of a group
/// one round all in it, of what is warped one round where it is seen. Empty when nothing shows.
LineBoxes lineBoxesOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs);

} // namespace glyptos
