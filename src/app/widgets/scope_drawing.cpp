#include "app/widgets/scope_drawing.h"

#include "base/geometry.h"
#include "color/oklab.h"

#include <QPainter>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kLevels = 96;   // rows of a waveform that values are gathered in
constexpr double kWidest = 0.33; // chroma at the rim of the plane

struct Counted {
    Rgba colour;
    float weight;
    double across; ///< 0…1
};

/// Calls count(pixel) for what shows of the picture, as far as the mask lets it.
template <class Count>
void eachPixel(const QImage& image, const QImage& mask, Count count) {
    for (int y = 0; y < image.height(); ++y) {
        const auto* row = reinterpret_cast<const QRgb*>(image.constScanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            const int alpha = qAlpha(row[x]);
            float weight = float(alpha) / 255;
            if (!mask.isNull() && x < mask.width() && y < mask.height())
                weight *= float(qRed(reinterpret_cast<const QRgb*>(mask.constScanLine(y))[x])) / 255;
            if (weight <= 0) continue;
            const QRgb c = qUnpremultiply(row[x]);
            count(Counted{{float(qRed(c)) / 255, float(qGreen(c)) / 255, float(qBlue(c)) / 255, 1},
                          weight,
                          (x + 0.5) / image.width()});
        }
    }
}

/// Counts in cells become light: much of it white, a little still seen.
class Cells {
  public:
    Cells(int w, int h)
        : w_(w)
        , h_(h)
        , sums_(size_t(w) * size_t(h)) {}
    void add(double x, double y, const Rgba& colour, float weight) {
        const int i = int(x * w_), j = int(y * h_);
        if (i < 0 || j < 0 || i >= w_ || j >= h_) return;
        auto& sum = sums_[size_t(j) * size_t(w_) + size_t(i)];
        sum[0] += colour.r * weight, sum[1] += colour.g * weight, sum[2] += colour.b * weight,
            sum[3] += weight;
    }
    void paint(QImage& to) const {
        float most = 0;
        for (const auto& sum : sums_) most = std::max(most, sum[3]);
        if (most <= 0) return;
        for (int j = 0; j < h_; ++j)
            for (int i = 0; i < w_; ++i) {
                const auto& sum = sums_[size_t(j) * size_t(w_) + size_t(i)];
                if (sum[3] <= 0) continue;
                const float light = 0.25f + 0.75f * std::pow(sum[3] / most, 0.35f);
                const auto byte = [&](int c) {
                    const float own = sum[size_t(c)] / sum[3];
                    return int(std::lround(255 * std::min(1.0f, light * (0.35f + 0.65f * own))));
                };
                to.setPixelColor(i, j, QColor(byte(0), byte(1), byte(2)));
            }
    }

  private:
    int w_, h_;
    std::vector<std::array<float, 4>> sums_;
};

} // namespace

std::vector<Rgba> coloursOf(const QImage& image) {
    std::vector<Rgba> out;
    if (!image.isNull())
        eachPixel(image, {}, [&](const Counted& pixel) {
            out.push_back({pixel.colour.r, pixel.colour.g, pixel.colour.b, pixel.weight});
        });
    return out;
}

Histogram histogramOf(const QImage& image, const QImage& mask) {
    Histogram out{};
    eachPixel(image, mask, [&](const Counted& p) {
        const float values[4]{p.colour.r, p.colour.g, p.colour.b, lumaOf(p.colour)};
        for (size_t c = 0; c < 4; ++c) out[c][size_t(std::lround(values[c] * 255))] += p.weight;
    });
    return out;
}

namespace {

void drawHistogram(const QImage& image, const QImage& mask, QImage& to) {
    const Histogram counts = histogramOf(image, mask);
    float most = 1e-6f;
    for (size_t c = 0; c < 3; ++c)
        for (size_t i = 1; i < 255; ++i) most = std::max(most, counts[c][i]); // clipped ends may run over
    for (int x = 0; x < to.width(); ++x) {
        const size_t at = size_t(x) * 255 / size_t(std::max(1, to.width() - 1));
        for (int y = 0; y < to.height(); ++y) {
            const float level = 1 - float(y) / float(to.height());
            int rgb[3]{28, 28, 27};
            for (size_t c = 0; c < 3; ++c)
                if (std::sqrt(counts[c][at] / most) >= level) rgb[c] = 205;
            to.setPixelColor(x, y, QColor(rgb[0], rgb[1], rgb[2]));
        }
    }
}

void drawWaveform(const QImage& image, const QImage& mask, QImage& to) {
    QImage rows(to.width(), int(kLevels), QImage::Format_RGB32);
    rows.fill(to.pixel(0, 0));
    Cells cells(rows.width(), rows.height());
    eachPixel(image, mask, [&](const Counted& p) {
        for (const auto& [value, colour] : {std::pair{p.colour.r, Rgba{1, 0.25f, 0.2f, 1}},
                                            {p.colour.g, Rgba{0.25f, 1, 0.3f, 1}},
                                            {p.colour.b, Rgba{0.3f, 0.45f, 1, 1}}})
            cells.add(p.across, 0.999 - 0.998 * double(value), colour, p.weight);
    });
    cells.paint(rows);
    QPainter(&to).drawImage(to.rect(), rows);
}

/// Oklab's a to the right and b upwards: hue is the direction, chroma the way from the middle.
void drawPlane(const QImage& image, const QImage& mask, QImage& to) {
    Cells cells(to.width(), to.height());
    const double side = std::min(to.width(), to.height());
    const auto place = [&](double a, double b) {
        return Vec2{0.5 + a / kWidest / 2 * side / to.width(), 0.5 - b / kWidest / 2 * side / to.height()};
    };
    eachPixel(image, mask, [&](const Counted& p) {
        const Oklab c = toOklab(p.colour);
        const Vec2 at = place(double(c.a), double(c.b));
        cells.add(at.x, at.y, p.colour, p.weight);
    });
    cells.paint(to);
    QPainter painter(&to);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(QColor(255, 255, 255, 60), 1));
    const QPointF middle(to.width() / 2.0, to.height() / 2.0);
    for (const double share : {0.5, 1.0})
        painter.drawEllipse(middle, side / 2 * share - 1, side / 2 * share - 1);
    // Where pure hues lie: ticks of their own colour along the rim.
    for (int hue = 0; hue < 360; hue += 15) {
        const double angle = hue * std::numbers::pi / 180;
        const Rgba c = shownAs(Oklch{0.75, 0.15, double(hue)});
        painter.setPen(QPen(QColor::fromRgbF(c.r, c.g, c.b), 3));
        const QPointF way(std::cos(angle), -std::sin(angle));
        painter.drawLine(middle + way * (side / 2 - 7), middle + way * (side / 2 - 2));
    }
}

} // namespace

QImage scopeOf(ScopeKind kind, const QImage& image, const QImage& mask, int height) {
    QImage out(image.width(), height, QImage::Format_RGB32);
    out.fill(QColor(28, 28, 27));
    switch (kind) {
    case ScopeKind::Histogram:
        drawHistogram(image, mask, out);
        break;
    case ScopeKind::Waveform:
        drawWaveform(image, mask, out);
        break;
    case ScopeKind::Plane:
        drawPlane(image, mask, out);
        break;
    }
    return out;
}

} // namespace glyptos
