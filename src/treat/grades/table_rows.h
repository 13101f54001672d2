// Internal to grades: a row of values looked up in a table, in two loops of which each is vector code.
#pragma once

#include "treat/grades/channel_tables.h"

#include <cstdint>

namespace glyptos {

/// For at most kRoom values, the entry at or below each and how far it is from there to the next.
struct TablePlaces {
    static constexpr size_t kRoom = 256;
    int32_t at[kRoom];
    float share[kRoom];
};

/// What lies outside 0…1 is at its end; 1 is the entry at `steps`, which another one must follow.
void findPlaces(const float* values, size_t n, int steps, TablePlaces& out);
void lookUp(const float* table, const TablePlaces& places, float* out, size_t n);

} // namespace glyptos
