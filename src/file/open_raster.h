// OpenRaster files (freedesktop.org, baseline of version 0.0.5): layers that travel between programs.
#pragma once

#include "base/error.h"
#include "render/renderer.h"

#include <filesystem>
#include <string>
#include <vector>

namespace glyptos {

/// What an OpenRaster file holds: layers of pixels on a canvas of width × height px, front to back.
struct OpenRaster {
    int width = 0, height = 0;
    Stack layers; ///< positions in px of the canvas
    std::vector<SourcePtr> sources;
    std::vector<std::string> notes; ///< one sentence for each thing that could not be taken over
};

/// True when the file's first bytes say that it is one.
bool isOpenRaster(const std::filesystem::path& file);

/// Reads a file. Fails with one sentence when it is damaged, unsafe or over a limit; blends and filters that
/// are not known are left out and noted.
[[nodiscard]] Result<OpenRaster> readOpenRaster(const std::filesystem::path& file,
                                                const std::atomic<bool>* cancel = nullptr);

/// The file as a release with one screen piece of its size, so that it can be rendered as it stands.
Result<ReleasePtr> releaseOf(const OpenRaster& raster, const std::string& name);

/// Its layers as one group without ids, the canvas scaled to just cover `area` in panel units, centred.
Layer asGroup(const OpenRaster& raster, const std::string& name, const Rect& area);

struct OpenRasterOptions {
    double pxPerUnit = 1;
    const std::atomic<bool>* cancel = nullptr; ///< stops the work once true
};

/// Writes one panel with its bleed: each layer as its own pixels, groups as stacks, and the flattened
/// picture. Returns one sentence for each thing that OpenRaster cannot hold. On failure nothing is left
/// behind.
[[nodiscard]] Result<std::vector<std::string>> writeOpenRaster(Renderer& renderer, const ReleasePtr& release,
                                                               const PanelRef& panel,
                                                               const OpenRasterOptions& options,
                                                               const std::filesystem::path& file);

} // namespace glyptos
