#include "base/picture_bytes.h"

namespace glyptos {

PictureBytes::PictureBytes(std::vector<uint8_t> bytes)
    : size_(bytes.size())
    , held_(std::make_shared<const std::vector<uint8_t>>(std::move(bytes))) {}

Result<PictureBytes::Held> PictureBytes::read() const {
    std::unique_lock lock(mutex_);
    if (held_) return held_;
    const auto place = place_;
    lock.unlock();
    auto bytes = place->read();
    if (bytes && (*bytes)->size() != size_) return fail(Fault::Damaged, "it has another size than it had");
    return bytes;
}

bool PictureBytes::areHeld() const {
    const std::lock_guard lock(mutex_);
    return held_ != nullptr;
}

void PictureBytes::keepIn(std::shared_ptr<const Place> place) const {
    const std::lock_guard lock(mutex_);
    place_ = std::move(place);
    held_.reset();
}

PictureBytesPtr pictureBytes(std::vector<uint8_t> bytes) {
    return std::make_shared<const PictureBytes>(std::move(bytes));
}

} // namespace glyptos
