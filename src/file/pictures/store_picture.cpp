#include "file/pictures/store_picture.h"

#include "base/text.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_writer.h"
#include "release/wall.h"
#include "render/wall_layout.h"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace glyptos {

std::optional<PictureFormat> pictureFormatOf(const std::filesystem::path& file) {
    std::string end = file.extension().string();
    std::transform(end.begin(), end.end(), end.begin(), [](unsigned char c) { return std::tolower(c); });
    if (end == ".jpg" || end == ".jpeg") return PictureFormat::Jpeg;
    if (end == ".png") return PictureFormat::Png;
    return std::nullopt;
}

Result<EncodedPicture> encodePiece(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                   const PictureOptions& options) {
    const PiecePtr piece = release->piece(id);
    if (!piece)
        return fail(Fault::Usage, "There is no piece “" + id + "” in this release; nothing was written.");
    const Panel* panel = options.panel.empty() ? nullptr : piece->flat->panel(options.panel);
    if (!panel && !options.panel.empty())
        return fail(Fault::Usage,
                    piece->name + " has no panel “" + options.panel + "”; nothing was written.");

    const Flat& flat = *piece->flat;
    const bool wall = id == kWallId;
    const Rect pinned = wall ? wallArea(*release, renderer.paragraphs()) : Rect{};
    if (wall && pinned.empty())
        return fail(Fault::Usage, "Nothing is pinned to the wall; nothing was written.");
    const Rect area = wall    ? pinned
                      : panel ? (options.bleed ? panel->withBleed() : panel->trim())
                              : (options.bleed ? flat.withBleed() : flat.trim());
    const double ownScale = flat.unit == Unit::Px ? 1 : pxPerMm({options.ppi > 0 ? options.ppi : flat.ppi});
    const double scale = options.width > 0 ? options.width / area.w : ownScale;
    const int width = std::max(1, snapEdge(area.w * scale)), height = std::max(1, snapEdge(area.h * scale));
    if (width > kMostPixelsASide || height > kMostPixelsASide || long(width) * height > kMostPixels)
        return fail(Fault::TooLarge, "A picture of " + std::to_string(width) + " × " +
                                         std::to_string(height) +
                                         " pixels is over the limit; nothing was written.");

    const Vec2 offset{-area.x * scale, -area.y * scale};
    const Scene scene = panel ? panelScene(release, {id, panel->id}, {scale, options.bleed, offset})
                              : flatScene(release, id, {scale, options.bleed, offset});
    const Ppi resolution{flat.unit == Unit::Px ? 72 : scale * kMmPerInch};
    const IntRect region{0, 0, width, height};
    Result<std::vector<uint8_t>> bytes;
    if (options.format == PictureFormat::Jpeg) {
        const Buffer<uint8_t> rgb = renderer.renderRgb8OnWhite(scene, region, options.cancel);
        if (isCancelled(options.cancel)) return cancelled();
        bytes = encodeJpeg({rgb.data(), rgb.size()}, width, height, options.quality, resolution);
    } else {
        const Buffer<uint8_t> rgba = renderer.renderStraightRgba8(scene, region, options.cancel);
        if (isCancelled(options.cancel)) return cancelled();
        bytes = encodePng({rgba.data(), rgba.size()}, width, height, resolution);
    }
    if (!bytes) return tl::unexpected(bytes.error());
    return EncodedPicture{width, height, std::move(*bytes)};
}

} // namespace glyptos
