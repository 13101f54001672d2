// Pictures and fonts that stay in the archive of a release until they are needed.
#pragma once

#include "file/zip_archive.h"
#include "release/release.h"

namespace glyptos {

/// The entry that a file of a release has.
std::string fileEntry(const Source& source);

/// An archive that is kept open. The file may be given another name, removed or replaced by one that takes
/// its place; when it is written over where it lies, what is read is told from what was there by its id.
class ArchivedPictures {
  public:
    explicit ArchivedPictures(ZipReader zip)
        : zip_(std::move(zip)) {}
    const ZipReader& zip() const { return zip_; }

    /// The bytes of a picture of an id, as long as somebody holds `archive`. Fails when it is not there, or
    /// too large.
    [[nodiscard]] static Result<PictureBytesPtr>
    bytesOf(const std::shared_ptr<const ArchivedPictures>& archive, const Source& source);
    /// The same as a place that bytes at hand can be kept in; nothing when the picture is not there.
    static std::shared_ptr<const PictureBytes::Place>
    placeOf(const std::shared_ptr<const ArchivedPictures>& archive, const Source& source);

  private:
    class Entry;
    struct Found {
        std::shared_ptr<const PictureBytes::Place> place;
        size_t size;
    };
    static Result<Found> find(const std::shared_ptr<const ArchivedPictures>& archive, const Source& source);
    ZipReader zip_;
    mutable std::mutex mutex_; ///< one entry is read at a time
};

} // namespace glyptos
