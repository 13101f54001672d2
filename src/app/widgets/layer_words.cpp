#include "app/widgets/layer_words.h"

#include <QCoreApplication>
#include <cmath>

namespace glyptos {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("glyptos::layer_words", text);
}

QString fillWord(const Paint& paint) {
    if (std::holds_alternative<Gradient>(paint)) return tr("gradient fill");
    if (std::holds_alternative<Clouds>(paint)) return tr("clouds");
    if (std::holds_alternative<Paper>(paint)) return tr("paper");
    return std::holds_alternative<Pattern>(paint) ? tr("pattern") : tr("fill");
}

QString kindWord(const Layer& layer) {
    if (layer.as<PictureContent>()) return tr("picture");
    if (const auto* text = layer.as<TextContent>()) return text->tracks ? tr("track list") : tr("text");
    if (layer.as<EchoContent>()) return tr("echo");
    if (const auto* painted = layer.as<PaintedContent>()) return painted->holes ? tr("mend") : tr("paint");
    if (const auto* shape = layer.as<ShapeContent>()) return shapeWord(shape->kind);
    if (const auto* code = layer.as<CodeContent>()) return codeWord(code->kind);
    if (const auto* fill = layer.as<FillContent>()) return fillWord(fill->paint);
    if (layer.as<GradeContent>()) return tr("grade");
    return tr("group of %1").arg(layer.as<GroupContent>()->layers.size());
}

} // namespace

QString shapeWord(ShapeKind kind) {
    switch (kind) {
    case ShapeKind::Rectangle:
        return tr("box");
    case ShapeKind::Ellipse:
        return tr("ellipse");
    case ShapeKind::Polygon:
        return tr("polygon");
    case ShapeKind::Star:
        return tr("star");
    case ShapeKind::Line:
        return tr("line");
    default:
        return tr("free path");
    }
}

QString codeWord(CodeKind kind) {
    return kind == CodeKind::Qr     ? tr("QR code")
           : kind == CodeKind::UpcA ? tr("UPC-A barcode")
                                    : tr("EAN-13 barcode");
}

QString layerSummary(const Layer& layer) {
    const auto& mode = infoOf(layer.blend).label;
    QStringList words{kindWord(layer), QString::fromUtf8(mode.data(), qsizetype(mode.size()))};
    if (layer.opacity < 1) words << QStringLiteral("%1 %").arg(std::lround(layer.opacity * 100));
    if (layer.mask) words << (layer.mask->on ? tr("mask") : tr("mask off"));
    if (layer.locked) words << tr("locked");
    return words.join(QStringLiteral(" · "));
}

} // namespace glyptos
