#include "app/compose/scopes.h"

#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "color/oklab.h"
#include "render/layer_geometry.h"
#include "render/painting.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr int kWidth = 268, kHeight = 214, kHead = 40, kSmall = 252, kPad = 8;
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

void drawHistogram(const QImage& image, const QImage& mask, QImage& to) {
    std::array<std::array<float, 256>, 3> counts{};
    eachPixel(image, mask, [&](const Counted& p) {
        const float rgb[3]{p.colour.r, p.colour.g, p.colour.b};
        for (size_t c = 0; c < 3; ++c) counts[c][size_t(std::lround(rgb[c] * 255))] += p.weight;
    });
    float most = 1e-6f;
    for (const auto& channel : counts)
        for (size_t i = 1; i < 255; ++i) most = std::max(most, channel[i]); // clipped ends may run over
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

Scopes::Scopes(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , small_(service)
    , mask_(service) {
    setAccessibleName(tr("Scopes"));
    resize(kWidth, kHeight);
    setCursor(Qt::SizeAllCursor);
    auto* row = new QWidget(this);
    row->setGeometry(0, 4, kWidth, kHead - 6);
    row->setCursor(Qt::ArrowCursor);
    auto* head = new QHBoxLayout(row);
    head->setContentsMargins(kPad, 0, kPad, 0);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Scope"));
    kind_->addItems({tr("Histogram"), tr("Waveform"), tr("Hue and chroma")});
    of_ = new QComboBox;
    of_->setAccessibleName(tr("Of"));
    of_->addItems({tr("the whole"), tr("the selection"), tr("the layer")});
    head->addWidget(kind_, 1);
    head->addWidget(of_, 1);
    connect(kind_, &QComboBox::currentIndexChanged, this, &Scopes::draw);
    connect(of_, &QComboBox::currentIndexChanged, this, &Scopes::ask);
    connect(&small_, &Miniature::arrived, this, &Scopes::draw);
    connect(&engine, &Engine::pictureReady, this, &Scopes::ask);
    hide();
}

void Scopes::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &Scopes::ask);
    connect(document_, &Document::selectionChanged, this, &Scopes::ask);
    ask();
}

void Scopes::setKind(Kind kind) {
    kind_->setCurrentIndex(int(kind));
}

void Scopes::setOf(Of of) {
    of_->setCurrentIndex(int(of));
}

QRect Scopes::field() const {
    return rect().adjusted(kPad, kHead, -kPad, -kPad);
}

/// A small rendering of what is looked at; the rest is counting.
void Scopes::ask() {
    const Panel* panel = document_ ? document_->shownPanel() : nullptr;
    if (!panel || !isVisible()) return;
    const Rect area = panel->trim();
    const LayerPtr layer = document_->selectedLayer();
    if (of_->currentIndex() == int(Of::Layer) && layer && !isFrameless(*layer)) {
        const double k = kSmall / std::max(area.w, area.h);
        Scene scene = aloneScene(document_->shown(), *layer, true, Affine::scaling(k, k), area);
        const IntRect region = scene.bounds();
        return small_.ask(1, std::move(scene), region);
    }
    auto [scene, region] = fittedScene(document_->shown(), document_->panel(), area, QSizeF(kSmall, kSmall));
    small_.ask(1, std::move(scene), region);
}

void Scopes::draw() {
    const QImage& image = small_.image();
    if (image.isNull() || !document_) return;
    QImage mask;
    const Panel* panel = document_->shownPanel();
    const auto selection = selectionOf(*document_->shown(), document_->panel());
    if (of_->currentIndex() == int(Of::Selection) && selection && panel) {
        const Rect area = panel->trim();
        const double k = double(image.width()) / area.w;
        const Buffer<float> values =
            selectedShares(selection, Affine::scaling(k, k) * Affine::translation(-area.x, -area.y),
                           {0, 0, image.width(), image.height()});
        mask = QImage(image.size(), QImage::Format_RGB32);
        for (int y = 0; y < mask.height(); ++y)
            for (int x = 0; x < mask.width(); ++x) {
                const int v = int(std::lround(255 * values[size_t(y) * size_t(mask.width()) + size_t(x)]));
                mask.setPixel(x, y, qRgb(v, v, v));
            }
    }
    // One column a column of what is counted, so that none stays empty.
    picture_ =
        QImage(image.width(), image.width() * field().height() / field().width(), QImage::Format_RGB32);
    picture_.fill(QColor(28, 28, 27));
    switch (static_cast<Kind>(kind_->currentIndex())) {
    case Kind::Histogram:
        drawHistogram(image, mask, picture_);
        break;
    case Kind::Waveform:
        drawWaveform(image, mask, picture_);
        break;
    case Kind::Plane:
        drawPlane(image, mask, picture_);
        break;
    }
    update();
}

void Scopes::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(theme().paper);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    if (!picture_.isNull()) painter.drawImage(field(), picture_);
}

void Scopes::showEvent(QShowEvent*) {
    // At the foot of the bench, out of the way of the art's middle, until it is dragged.
    if (pos().isNull()) move(kPad, parentWidget()->height() - height() - kPad);
    ask();
    Q_EMIT opened(true);
}

void Scopes::hideEvent(QHideEvent*) {
    Q_EMIT opened(false);
}

void Scopes::mousePressEvent(QMouseEvent* event) {
    grabbed_ = event->position().toPoint();
}

void Scopes::mouseMoveEvent(QMouseEvent* event) {
    const QPoint to = mapToParent(event->position().toPoint() - grabbed_);
    move(std::clamp(to.x(), 0, parentWidget()->width() - width()),
         std::clamp(to.y(), 0, parentWidget()->height() - height()));
}

} // namespace glyptos
