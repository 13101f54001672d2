// Internal to draw: a few pieces of work of very different length, on all cores.
#pragma once

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace glyptos {

/// `act(0)` … `act(count - 1)`, each taken by whichever core is free: bands with the piece in them take long,
/// those beside it no time.
template <class Act>
void eachApart(int count, Act act) {
    tbb::parallel_for(
        tbb::blocked_range<int>(0, count, 1),
        [&](const tbb::blocked_range<int>& range) {
            for (int i = range.begin(); i < range.end(); ++i) act(i);
        },
        tbb::simple_partitioner());
}

} // namespace glyptos
