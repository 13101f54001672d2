// The hands that a bench works with.
#pragma once

#include "app/bench/bench_hand.h"

namespace glyptos {

/// One for each Hand, working on that bench, which must outlive them.
Hands allHands(ComposeBench& bench);

} // namespace glyptos
