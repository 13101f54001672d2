// What changes colours one pixel at a time, in the space in which it does so; several in a row go from space
// to space as seldom as can be.
#pragma once

#include <cstddef>
#include <functional>

namespace glyptos {

/// sRGB-encoded (IEC 61966-2-1), the same in linear light, or Oklab (color/oklab.h) as L, a, b.
enum class ColourSpace : unsigned char { Encoded, Linear, Oklab };

/// A row of straight colours, changed in place; alpha stays. `x`, `y`: output pixel of the first.
struct ColourRow {
    float *r, *g, *b;
    const float* alpha;
    int x, y;
    size_t n;
};

/// Acts on one row at a time, at most 1024 px, from any thread. Empty: it changes nothing.
class ColourOp {
  public:
    ColourOp() = default;
    /// `act` is given rows in `space`, and leaves them there.
    template <class Act>
    requires std::invocable<Act, const ColourRow&> ColourOp(Act act, ColourSpace space = ColourSpace::Encoded)
        : act_(std::move(act))
        , space_(space) {}

    /// One of encoded rows that can leave them in linear light as well: `toLinear` is `act` and the way there
    /// in one, for rows that go on in another space.
    template <class Act, class ToLinear>
    requires std::invocable<ToLinear, const ColourRow&> ColourOp(Act act, ToLinear toLinear)
        : act_(std::move(act))
        , toLinear_(std::move(toLinear)) {}

    explicit operator bool() const { return bool(act_); }
    ColourSpace space() const { return space_; }
    void act(const ColourRow& row) const { act_(row); }
    bool canLeaveLinear() const { return bool(toLinear_); }
    void actToLinear(const ColourRow& row) const { toLinear_(row); }
    /// On an encoded row, which is encoded afterwards and kept within 0…1.
    void operator()(const ColourRow& row) const;

  private:
    std::function<void(const ColourRow&)> act_, toLinear_;
    ColourSpace space_ = ColourSpace::Encoded;
};

/// An encoded row on its way through grades. Between those that act in linear light or Oklab colours may lie
/// outside what can be shown; they are kept within 0…1 where they are encoded again.
class RowInSpace {
  public:
    explicit RowInSpace(const ColourRow& row)
        : row_(row) {}
    /// `op` must live until the row has gone on.
    void apply(const ColourOp& op);
    void toEncoded() { to(ColourSpace::Encoded); }

  private:
    void to(ColourSpace space);
    void finish(ColourSpace next);

    ColourRow row_;
    const ColourOp* waiting_ = nullptr; ///< until it is known in which space the next one acts
    ColourSpace space_ = ColourSpace::Encoded;
};

} // namespace glyptos
