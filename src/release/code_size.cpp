#include "release/code_size.h"

#include "code/plain_size.h"
#include "release/text_style.h"

#include <algorithm>

namespace glyptos {

double codeModule(CodeKind kind, Unit unit) {
    return (isBarcode(kind) ? kBarcodeModuleMm : kQrModuleMm) * panelUnitsPerMm(unit);
}

Layer codeFor(const Panel& panel, CodeKind kind, Unit unit, std::string name) {
    Layer layer;
    layer.name = std::move(name);
    layer.content = CodeContent{kind, isBarcode(kind) ? "{barcode}" : "{address}"};
    const double module = codeModule(kind, unit);
    layer.placement.scaleX = layer.placement.scaleY = module;
    const double w = module * plainSize(kind).width, h = module * plainSize(kind).height;
    const Rect room = panel.safeArea().value_or(panel.trim());
    layer.placement.position = {room.right() - w / 2, room.bottom() - h / 2};
    const auto zone = std::find_if(panel.zones.begin(), panel.zones.end(),
                                   [](const Zone& z) { return z.kind == ZoneKind::Code; });
    if (zone != panel.zones.end()) layer.placement.position = zone->outline.box.centre();
    return layer;
}

} // namespace glyptos
