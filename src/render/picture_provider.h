// Where the renderer gets decoded pictures from.
#pragma once

#include "raster/picture.h"
#include "release/release.h"

namespace glyptos {

/// A decoded picture. Its level 0 may have fewer or more pixels than the source says: a first, coarse decode,
/// or a drawing rendered for a large output. It always shows the whole source.
/// A picture that was asked for and cannot be decoded.
struct MissingPicture {
    std::string source, name; ///< id, and the file's name
    std::string sentence;     ///< for the artist
};

class PictureProvider {
  public:
    virtual ~PictureProvider() = default;
    /// The picture of `source` for an output in which one source pixel becomes `scale` output pixels. Nothing
    /// when it cannot be had, or not yet. Called from several threads.
    virtual PyramidPtr picture(const Source& source, double scale) = 0;
    /// Those that are left out of whatever was drawn; what is delivered without them must say so.
    virtual std::vector<MissingPicture> missing() const { return {}; }
};

} // namespace glyptos
