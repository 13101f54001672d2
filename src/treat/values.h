// The figures of one treatment as it is set.
#pragma once

#include "base/geometry.h"
#include "color/colour_run.h"
#include "raster/contour.h"
#include "treat/figure.h"
#include "treat/look_table.h"
#include "treat/tone_curve.h"

#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace glyptos {

using ColourRun = std::vector<GradientStop>;

/// The value of a figure: a double of a number, a flag (0 or 1) or a choice (its place in the list); a point
/// is nothing until it is placed; text is the id of a picture.
using FigureValue = std::variant<double, Ink, std::optional<Vec2>, ToneCurve, ColourRun, std::vector<Contour>,
                                 std::string, LookTablePtr>;

/// The standard of a figure; of a length, which the table has in mm, in units of which so many make one.
FigureValue standardOf(const Figure& figure, double unitsPerMm = 1);
/// Tables are compared by what is in them.
bool sameValue(const FigureValue& a, const FigureValue& b);

/// The values of all figures of a kind, in the order of its table.
class Figures {
  public:
    Figures() = default;
    explicit Figures(std::span<const Figure> table, double unitsPerMm = 1);

    size_t size() const { return values_.size(); }
    const FigureValue& operator[](size_t i) const { return values_[i]; }
    void set(size_t i, FigureValue value) { values_[i] = std::move(value); }

    double number(size_t i) const { return std::get<double>(values_[i]); }
    bool flag(size_t i) const { return number(i) != 0; }
    template <class Enum>
    Enum choice(size_t i) const {
        return static_cast<Enum>(int(number(i)));
    }
    uint32_t seed(size_t i) const { return uint32_t(number(i)); }
    const Ink& colour(size_t i) const { return std::get<Ink>(values_[i]); }
    const ToneCurve& curve(size_t i) const { return std::get<ToneCurve>(values_[i]); }
    const ColourRun& run(size_t i) const { return std::get<ColourRun>(values_[i]); }
    const std::vector<Contour>& path(size_t i) const { return std::get<std::vector<Contour>>(values_[i]); }
    const std::optional<Vec2>& point(size_t i) const { return std::get<std::optional<Vec2>>(values_[i]); }
    const std::string& picture(size_t i) const { return std::get<std::string>(values_[i]); }
    const LookTablePtr& table(size_t i) const { return std::get<LookTablePtr>(values_[i]); }

    std::vector<FigureValue>& values() { return values_; }
    const std::vector<FigureValue>& values() const { return values_; }
    bool operator==(const Figures& o) const;

  private:
    std::vector<FigureValue> values_;
};

} // namespace glyptos
