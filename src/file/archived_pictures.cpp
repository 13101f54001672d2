#include "file/archived_pictures.h"

#include "file/pictures/picture_reader.h"

namespace glyptos {

std::string fileEntry(const Source& source) {
    return (isFont(source) ? "fonts/" : "pictures/") + source.id + "." + source.format;
}

class ArchivedPictures::Entry : public PictureBytes::Place {
  public:
    Entry(std::shared_ptr<const ArchivedPictures> archive, const Source& source, size_t size)
        : archive_(std::move(archive))
        , entry_(fileEntry(source))
        , id_(source.id)
        , size_(size) {}

    Result<PictureBytes::Held> read() const override {
        std::unique_lock lock(archive_->mutex_);
        auto bytes = archive_->zip_.unpack(entry_, size_, false);
        lock.unlock();
        if (!bytes) return tl::unexpected(bytes.error());
        if (contentId(*bytes) != id_)
            return fail(Fault::Damaged, "it is damaged: it is not the one it was saved with");
        return std::make_shared<const std::vector<uint8_t>>(std::move(*bytes));
    }

  private:
    std::shared_ptr<const ArchivedPictures> archive_;
    std::string entry_, id_;
    size_t size_;
};

Result<ArchivedPictures::Found> ArchivedPictures::find(const std::shared_ptr<const ArchivedPictures>& archive,
                                                       const Source& source) {
    const std::unique_lock lock(archive->mutex_);
    const auto size = archive->zip_.claim(fileEntry(source), kMostFileBytes);
    if (!size) return tl::unexpected(size.error());
    return Found{std::make_shared<const Entry>(archive, source, *size), *size};
}

Result<PictureBytesPtr> ArchivedPictures::bytesOf(const std::shared_ptr<const ArchivedPictures>& archive,
                                                  const Source& source) {
    const auto found = find(archive, source);
    if (!found) return tl::unexpected(found.error());
    return std::make_shared<const PictureBytes>(found->size, found->place);
}

std::shared_ptr<const PictureBytes::Place>
ArchivedPictures::placeOf(const std::shared_ptr<const ArchivedPictures>& archive, const Source& source) {
    const auto found = find(archive, source);
    return found ? found->place : nullptr;
}

} // namespace glyptos
