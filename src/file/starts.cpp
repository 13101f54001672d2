#include "file/starts.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/release_json.h"
#include "release/edits/edits.h"
#include "release/edits/palette_edits.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// The layer k times as large about (0, 0), then moved.
LayerPtr laid(const Layer& layer, double k, Vec2 to) {
    Layer out = layer;
    if (auto* group = std::get_if<GroupContent>(&out.content)) {
        for (LayerPtr& child : group->layers) child = laid(*child, k, to);
    } else if (auto* fill = std::get_if<FillContent>(&out.content)) {
        fill->paint = scaled(fill->paint, {{}, to, k, k});
    } else {
        out = moved(scaled(std::move(out), {0, 0}, k), to);
    }
    return std::make_shared<const Layer>(std::move(out));
}

/// Swatches by name become the ids that they have in the release.
void followPalette(Layer& layer, const std::vector<Swatch>& palette) {
    eachInk(layer, [&](Ink& ink) {
        const auto found = std::find_if(palette.begin(), palette.end(),
                                        [&](const Swatch& s) { return s.name == ink.swatch; });
        ink.swatch = found == palette.end() ? std::string() : found->id;
    });
    if (auto* group = std::get_if<GroupContent>(&layer.content))
        for (LayerPtr& child : group->layers) {
            auto copy = std::make_shared<Layer>(*child);
            followPalette(*copy, palette);
            child = std::move(copy);
        }
}

} // namespace

bool suitsStart(const Panel& panel) {
    return std::abs(std::log(panel.width / panel.height)) < std::log(1.1);
}

ReleasePtr withStart(const ReleasePtr& release, const PanelRef& ref, const StartingComposition& start) {
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return release;
    const double k = std::min(panel->width, panel->height) / kStartSide;
    const Vec2 to{(panel->width - kStartSide * k) / 2, (panel->height - kStartSide * k) / 2};
    ReleasePtr next = withSwatches(release, start.palette);
    for (size_t i = start.layers.size(); i-- > 0;) {
        Layer layer = *laid(*start.layers[i], k, to);
        followPalette(layer, next->palette);
        layer.id.clear();
        next = withLayer(next, ref, std::move(layer));
    }
    return next;
}

Result<std::vector<StartingComposition>> shippedStarts() {
    std::vector<std::filesystem::path> files;
    std::error_code code;
    for (const auto& entry : std::filesystem::directory_iterator(dataFolder() / "starts", code))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    std::sort(files.begin(), files.end());
    std::vector<StartingComposition> out;
    for (const auto& file : files) {
        const auto bytes = readFile(file);
        if (!bytes) return tl::unexpected(bytes.error());
        auto start =
            startFromJson({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, nameOf(file));
        if (!start) return tl::unexpected(start.error());
        out.push_back(std::move(*start));
    }
    return out;
}

} // namespace glyptos
