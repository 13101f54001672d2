// What tones and colours a small picture has, counted and drawn. Safe to use from any thread.
#pragma once

#include "app/widgets/tone_curve_editor.h"
#include "color/color.h"

#include <QImage>

namespace glyptos {

enum class ScopeKind { Histogram, Waveform, Plane };

/// Counts what shows of a picture; of a mask of its size, as far as its red lets each pixel count. None: all
/// of them.
Histogram histogramOf(const QImage& image, const QImage& mask = {});
/// The colours of its pixels, straight.
std::vector<Rgba> coloursOf(const QImage& image);
/// As wide as the picture, so that no column stays empty, and `height` high.
QImage scopeOf(ScopeKind kind, const QImage& image, const QImage& mask, int height);

} // namespace glyptos
