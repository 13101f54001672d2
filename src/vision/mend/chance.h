// Internal to mending: numbers by chance that are the same on every machine.
#pragma once

#include <cstddef>
#include <cstdint>

namespace glyptos::mending {

/// A small generator (G. Marsaglia, "Xorshift RNGs", 2003): one for each row and round.
class Chance {
  public:
    Chance(uint32_t a, uint32_t b, uint32_t c)
        : state_((a * 0x9e3779b9u) ^ (b * 0x85ebca6bu) ^ (c * 0xc2b2ae35u) ^ 0x27d4eb2fu) {
        if (state_ == 0) state_ = 1;
        next(), next();
    }
    uint32_t next() {
        state_ ^= state_ << 13, state_ ^= state_ >> 17, state_ ^= state_ << 5;
        return state_;
    }
    /// −most … most
    int within(int most) { return int(next() % uint32_t(2 * most + 1)) - most; }
    size_t below(size_t n) { return next() % n; }

  private:
    uint32_t state_;
};

} // namespace glyptos::mending
