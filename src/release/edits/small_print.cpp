#include "release/edits/small_print.h"

#include "base/units.h"
#include "release/edits/style_edits.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kSizePt = 6.5, kLeading = 1.3;
constexpr int kLines = 4; // that there is room for at first
constexpr const char* kFields = "{copyright} {phonogram}\n{made in} {catalogue}\n{credits}";

TextLook smallLook(const Ink& ink) {
    TextLook look;
    look.letters.size = kSizePt / kPtPerInch * kMmPerInch;
    look.letters.tracking = 10;
    look.leading = kLeading;
    look.colour = ink;
    return look;
}

/// Left of the place of the barcode, where there is one.
Rect roomOf(const Panel& panel) {
    Rect room = panel.safeArea().value_or(panel.trim());
    for (const Zone& zone : panel.zones)
        if (zone.kind == ZoneKind::Code && zone.outline.box.centre().x > room.centre().x)
            room.w = std::min(room.w, zone.outline.box.x - room.x);
    return room;
}

} // namespace

Made withSmallPrint(const ReleasePtr& release, const PanelRef& ref, const std::string& name, const Ink& ink) {
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return {release, {}};
    ReleasePtr next = release;
    auto style = std::find_if(release->textStyles.begin(), release->textStyles.end(),
                              [&](const TextStyle& s) { return s.name == name; });
    TextLook look = style == release->textStyles.end() ? smallLook(ink) : style->look;
    std::string follows = style == release->textStyles.end() ? std::string() : style->id;
    if (follows.empty()) {
        Made made = withTextStyle(next, name, look);
        next = made.release, follows = made.id;
    }
    TextContent text;
    text.spec.text = kFields;
    text.style = follows;
    setLook(text, look, piece->flat->unit);
    const Rect room = roomOf(*panel);
    text.spec.frame = InArea{std::max(room.w * 0.9, panel->width * 0.1), 0};
    Layer layer;
    layer.name = name;
    const double height = kLines * kLeading * text.spec.letters.size;
    layer.placement.position = {room.x, std::max(room.y, room.bottom() - height)};
    layer.content = std::move(text);
    return withLayer(next, ref, std::move(layer));
}

} // namespace glyptos
