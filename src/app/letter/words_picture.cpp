#include "app/letter/words_picture.h"

#include "type/faces/face_features.h"

#include <algorithm>

namespace glyptos {

QImage wordsPicture(TextSpec spec, const FontLibrary& fonts, QSize size, double capitals, const QColor& ink) {
    QImage out(size, QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    std::replace(spec.text.begin(), spec.text.end(), '\n', ' ');
    spec.frame = AtPoint{}, spec.align = Align::Left, spec.runs.clear();
    spec.rules.clear(), spec.poses.clear(), spec.tabs.clear();
    const FacePtr face = fonts.face(spec.letters.family, spec.letters.style, spec.letters.axes);
    if (!face || size.isEmpty()) return out;
    spec.letters.size = capitals / capHeightEm(*face);
    const Paragraph words = setParagraph(spec, fonts);
    if (words.outline.empty()) return out;
    // A script's flourishes may reach far: all of the ink must have room.
    const double baseline = size.height() * 0.72;
    const double above = words.baselines.front() - words.ink.y,
                 below = words.ink.bottom() - words.baselines.front();
    double scale = std::min(1.0, size.width() / std::max(words.ink.w, 1e-9));
    if (above > 0) scale = std::min(scale, (baseline - 1) / above);
    if (below > 0) scale = std::min(scale, (size.height() - baseline - 1) / below);
    const Affine place =
        Affine::translation(-words.ink.x * scale, baseline - words.baselines.front() * scale) *
        Affine::scaling(scale, scale);
    const Buffer<float> cover = coverage(words.outline, place, size.width(), size.height());
    for (int y = 0; y < size.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < size.width(); ++x) {
            const float share = cover.data()[size_t(y) * size_t(size.width()) + size_t(x)];
            row[x] = qPremultiply(qRgba(ink.red(), ink.green(), ink.blue(), int(share * 255 + 0.5F)));
        }
    }
    return out;
}

} // namespace glyptos
