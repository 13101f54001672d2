// What moved while it was seen: straight at an angle, turning about a point, rushing at one. The mean along
// the way of each pixel (along_ways.h). Turning: the arc of the angle about the point; rushing: the stretch
// between e^(-z/2) and e^(z/2) times the distance from it, z = ln(1 + amount).

#include "treat/blurs/along_ways.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

#include <numbers>

namespace glyptos {
namespace {

constexpr double kTurn = std::numbers::pi / 180;

enum { Angle, Length };
constexpr Figure kAngleFigures[]{degrees("angle", "Direction", 0), length("length", "Length", 6)};

std::vector<Need> angleNeeds(const Figures& f, const Place& place) {
    const double px = place.px(f.number(Length));
    if (px < 0.5) return {};
    return {{0, reachAlong(px)}};
}

/// A row of pixels, moved alike or round a point.
class RowAt : public Ways {
  public:
    void startRow(float x, float y, size_t n) final { x_ = x, y_ = y, n_ = n; }

  protected:
    float x_ = 0, y_ = 0;
    size_t n_ = 0;
};

GLYPTOS_ROWS void ramp(float from, float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i) out[i] = from + float(int(i));
}

class StraightWays final : public RowAt {
  public:
    explicit StraightWays(const Vec2& way)
        : way_(way) {}
    void at(float t, float* outX, float* outY) const override {
        ramp(x_ + float(way_.x) * t, outX, n_);
        std::fill_n(outY, n_, y_ + float(way_.y) * t);
    }

  private:
    Vec2 way_;
};

void drawAngle(const AroundJob& job, Planes& out) {
    const Vec2 way = job.place.way(job.figures.number(Angle), job.figures.number(Length));
    StraightWays ways(way);
    out = meanAlong(job.inputs[0], out.area, way.length(), {std::abs(way.x), std::abs(way.y)}, ways);
}

enum { Middle, Turn };
constexpr Figure kTurningFigures[]{point("middle", "About"), degrees("turn", "Turns by", 12, 0, 360)};
constexpr Figure kRushingFigures[]{point("middle", "At"), share("amount", "How far", 0.2, 0, 3)};

/// The farthest that anything on the panel is from the point, px.
double farthest(const Figures& f, const Place& place, const Figure& figure) {
    const Vec2 at = place.at(figure, f.point(Middle));
    double out = 0;
    for (const Vec2 corner :
         {Vec2{place.panel.x, place.panel.y}, Vec2{place.panel.right(), place.panel.y},
          Vec2{place.panel.x, place.panel.bottom()}, Vec2{place.panel.right(), place.panel.bottom()}})
        out = std::max(out, (corner - at).length());
    return place.px(out);
}

Vec2 middleOf(const Figures& f, const Place& place, const Figure& figure) {
    return place.toOutput.map(place.at(figure, f.point(Middle)));
}

double longestArc(const Figures& f, const Place& place) {
    return farthest(f, place, kTurningFigures[Middle]) * f.number(Turn) * kTurn;
}

std::vector<Need> turningNeeds(const Figures& f, const Place& place) {
    if (f.number(Turn) == 0) return {};
    // No farther than from one side of the circle to the other.
    const double far = std::min(longestArc(f, place), 4 * farthest(f, place, kTurningFigures[Middle]));
    return {{0, reachAlong(far)}};
}

/// Turned by the angle with that cosine and sine about a point, and stretched by their length.
GLYPTOS_ROWS void turnedOn(float x, float y, const Vec2& middle, float c, float s, float* __restrict ox,
                           float* __restrict oy, size_t n) {
    const auto mx = float(middle.x), my = float(middle.y), dx = x - mx, dy = y - my;
    for (size_t i = 0; i < n; ++i) {
        const float to = dx + float(int(i));
        ox[i] = mx + to * c - dy * s;
        oy[i] = my + to * s + dy * c;
    }
}

class TurningWays final : public RowAt {
  public:
    TurningWays(const Vec2& middle, double angle)
        : middle_(middle)
        , angle_(angle) {}
    void at(float t, float* outX, float* outY) const override {
        turnedOn(x_, y_, middle_, float(std::cos(angle_ * t)), float(std::sin(angle_ * t)), outX, outY, n_);
    }

  private:
    Vec2 middle_;
    double angle_;
};

class RushingWays final : public RowAt {
  public:
    RushingWays(const Vec2& middle, double z)
        : middle_(middle)
        , z_(z) {}
    void at(float t, float* outX, float* outY) const override {
        turnedOn(x_, y_, middle_, float(std::exp(z_ * t)), 0, outX, outY, n_);
    }

  private:
    Vec2 middle_;
    double z_;
};

/// How far anything that is asked for, to make an area, can be from a point.
double farthestFrom(const Vec2& point, const IntRect& area, double longest) {
    const double by = drawnAlong(longest);
    const double x = std::max(std::abs(area.x - by - point.x), std::abs(area.right() + by - point.x)),
                 y = std::max(std::abs(area.y - by - point.y), std::abs(area.bottom() + by - point.y));
    return std::hypot(x, y);
}

void drawTurning(const AroundJob& job, Planes& out) {
    const Vec2 middle = middleOf(job.figures, job.place, kTurningFigures[Middle]);
    TurningWays ways(middle, job.figures.number(Turn) * kTurn);
    const double longest = longestArc(job.figures, job.place),
                 here = std::min(longest,
                                 farthestFrom(middle, out.area, longest) * job.figures.number(Turn) * kTurn);
    out = meanAlong(job.inputs[0], out.area, longest, {here, here}, ways);
}

double longestRush(const Figures& f, const Place& place) {
    return farthest(f, place, kRushingFigures[Middle]) * std::log1p(f.number(Turn));
}

std::vector<Need> rushingNeeds(const Figures& f, const Place& place) {
    if (f.number(Turn) == 0) return {};
    return {{0, reachAlong(longestRush(f, place) * std::sqrt(1 + f.number(Turn)))}};
}

void drawRushing(const AroundJob& job, Planes& out) {
    const Vec2 middle = middleOf(job.figures, job.place, kRushingFigures[Middle]);
    RushingWays ways(middle, std::log1p(job.figures.number(Turn)));
    const double amount = job.figures.number(Turn), longest = longestRush(job.figures, job.place),
                 here = std::min(longest, farthestFrom(middle, out.area, longest) * std::log1p(amount)) *
                        std::sqrt(1 + amount);
    out = meanAlong(job.inputs[0], out.area, longest, {here, here}, ways);
}

} // namespace

extern const TreatmentKind kAngleBlur{"angle-blur",
                                      "Blur at an angle",
                                      TreatmentFamily::Blur,
                                      kAngleFigures,
                                      false,
                                      false,
                                      nullptr,
                                      angleNeeds,
                                      drawAngle,
                                      "length"};
extern const TreatmentKind kTurningBlur{"turning-blur",  "Turning blur", TreatmentFamily::Blur,
                                        kTurningFigures, false,          false,
                                        nullptr,         turningNeeds,   drawTurning};
extern const TreatmentKind kRushingBlur{"rushing-blur",  "Rushing blur", TreatmentFamily::Blur,
                                        kRushingFigures, false,          false,
                                        nullptr,         rushingNeeds,   drawRushing};

} // namespace glyptos
