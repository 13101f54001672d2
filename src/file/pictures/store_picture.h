// Finished pictures of pieces: for stores, and for looking at.
#pragma once

#include "render/renderer.h"

#include <filesystem>
#include <string>
#include <vector>

namespace glyptos {

enum class PictureFormat { Jpeg, Png };

/// Of a file name: ".jpg", ".jpeg" or ".png" in any case; nothing for others.
std::optional<PictureFormat> pictureFormatOf(const std::filesystem::path& file);

struct PictureOptions {
    PictureFormat format = PictureFormat::Jpeg;
    std::string panel; ///< empty: the whole flat
    int width = 0;     ///< pixels; 0: by ppi, or the piece's own size
    double ppi = 0;    ///< for pieces in mm; 0: the form's own
    bool bleed = false;
    int quality = 95;                          ///< JPEG
    const std::atomic<bool>* cancel = nullptr; ///< stops the work once true
};

struct EncodedPicture {
    int width = 0, height = 0;
    std::vector<uint8_t> bytes;
};

/// Renders and encodes; of the wall what is pinned, with a margin. JPEG shows white where nothing is; PNG
/// stays see-through there. Fails with one sentence on unknown pieces and panels and on sizes over the
/// limits.
[[nodiscard]] Result<EncodedPicture> encodePiece(Renderer& renderer, const ReleasePtr& release,
                                                 const std::string& piece, const PictureOptions& options);

} // namespace glyptos
