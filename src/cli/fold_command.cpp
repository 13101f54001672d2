#include "cli/commands.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_writer.h"
#include "scene/draw/rasterize.h"
#include "scene/fold/folded_facets.h"
#include "scene/pack/assembled.h"

namespace glyptos::cli {
namespace {

constexpr int kLongestSide = 8000;

/// Straight bytes of premultiplied ones.
std::vector<uint8_t> straight(const Buffer<uint8_t>& bgra) {
    std::vector<uint8_t> out(bgra.size());
    for (size_t i = 0; i + 3 < bgra.size(); i += 4) {
        const int a = bgra[i + 3];
        const auto byte = [&](size_t c) {
            return uint8_t(a == 0 ? 0 : std::min(255, (bgra[i + c] * 255 + a / 2) / a));
        };
        out[i] = byte(2), out[i + 1] = byte(1), out[i + 2] = byte(0), out[i + 3] = uint8_t(a);
    }
    return out;
}

std::vector<uint8_t> onWhite(const Buffer<uint8_t>& bgra) {
    std::vector<uint8_t> out;
    out.reserve(bgra.size() / 4 * 3);
    for (size_t i = 0; i + 3 < bgra.size(); i += 4)
        for (const size_t c : {2, 1, 0}) out.push_back(uint8_t(bgra[i + c] + 255 - bgra[i + 3]));
    return out;
}

Result<std::vector<uint8_t>> encoded(PictureFormat format, const Buffer<uint8_t>& bgra, int w, int h) {
    constexpr int kQuality = 92;
    if (format == PictureFormat::Jpeg) return encodeJpeg(onWhite(bgra), w, h, kQuality, {});
    return encodePng(straight(bgra), w, h, {});
}

Result<void> checked(const FoldOptions& options) {
    if (!(options.at >= 0 && options.at <= 1))
        return fail(Fault::Usage, "--at must lie between 0 (flat) and 1 (made up), not " +
                                      shortNumber(options.at) + "; nothing was written.");
    for (const int side : options.size)
        if (side < 16 || side > kLongestSide)
            return fail(Fault::Usage, "--size must lie between 16 and " + std::to_string(kLongestSide) +
                                          " px a side; nothing was written.");
    return {};
}

constexpr double kSharper = 1.5; // pictures of pieces than the picture of them
constexpr int kFiner = 2;

Pose turnOf(const FoldOptions& options) {
    return turnedAbout({}, {1, 0, 0}, options.turn[1]) * turnedAbout({}, {0, 1, 0}, options.turn[0]);
}

Result<Buffer<uint8_t>> foldedPixels(Engine& engine, const ReleasePtr& release, const Piece& piece,
                                     const FoldOptions& options) {
    const auto [width, height] = options.size;
    const Flat& flat = *piece.flat;
    const Folding folding(flat);
    const FoldShares shares = folding.sharesAt(options.at);
    const double pxPerUnit = kSharper * std::max(width, height) / std::max(flat.trim().w, flat.trim().h);
    const BoardPictures pictures = boardPictures(engine.renderer, release, piece.id, folding, pxPerUnit);
    return drawFacets(foldedFacets(flat, folding, shares, pictures),
                      eyeFor(folding, shares, turnOf(options), 1, width, height), Lamp{},
                      {width, height, kFiner});
}

Result<Buffer<uint8_t>> packedPixels(Engine& engine, const ReleasePtr& release, const Piece& piece,
                                     const FoldOptions& options) {
    const auto package = packageOf(*release, piece.id);
    if (!package)
        return fail(Fault::Usage,
                    piece.name + " is packed in nothing; leave out --packed. Nothing was written.");
    const auto [width, height] = options.size;
    const double pxPerMm = kSharper * std::max(width, height) / reachOf(*package);
    const Assembly assembly = assembled(engine.renderer, release, *package, pxPerMm);
    const std::vector<Facet> facets = assembly.facets(assembly.sharesAt(options.at));
    return drawFacets(facets, eyeOn(facets, turnOf(options), 1, width, height), Lamp{},
                      {width, height, kFiner});
}

} // namespace

Result<Outcome> drawFolded(const FoldOptions& options) {
    const auto format = pictureFormatOf(options.out);
    if (!format)
        return fail(Fault::Usage,
                    "“" + options.out + "” must end in .png, .jpg or .jpeg; nothing was written.");
    if (const auto good = checked(options); !good) return tl::unexpected(good.error());
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    const auto piece = pieceNamed(*file->release, options.piece);
    if (!piece) return tl::unexpected(piece.error());
    Engine engine;
    file->giveFonts(engine);
    const auto pixels = options.packed ? packedPixels(engine, file->release, **piece, options)
                                       : foldedPixels(engine, file->release, **piece, options);
    if (!pixels) return tl::unexpected(pixels.error());
    const auto [width, height] = options.size;
    const auto bytes = encoded(*format, *pixels, width, height);
    if (!bytes) return tl::unexpected(bytes.error());
    return drawn(engine, writeFile(options.out, *bytes), file->notes);
}

} // namespace glyptos::cli
