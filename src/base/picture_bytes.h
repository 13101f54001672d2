// The bytes of a file that a picture came in, untouched. Where they are kept may change, what they are does
// not.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <memory>
#include <mutex>
#include <vector>

namespace glyptos {

class PictureBytes {
  public:
    using Held = std::shared_ptr<const std::vector<uint8_t>>;
    /// Somewhere they are read from when they are needed, from any thread.
    struct Place {
        virtual ~Place() = default;
        /// All of them. Fails with the end of a sentence ("it cannot be read any more").
        [[nodiscard]] virtual Result<Held> read() const = 0;
    };

    explicit PictureBytes(std::vector<uint8_t> bytes);
    PictureBytes(size_t size, std::shared_ptr<const Place> place)
        : size_(size)
        , place_(std::move(place)) {}
    PictureBytes(const PictureBytes&) = delete;
    PictureBytes& operator=(const PictureBytes&) = delete;

    size_t size() const { return size_; }
    /// They stay as long as what is given is held.
    [[nodiscard]] Result<Held> read() const;
    bool areHeld() const;
    /// From now on memory does not keep them.
    void keepIn(std::shared_ptr<const Place> place) const;

  private:
    size_t size_;
    mutable std::mutex mutex_;
    mutable Held held_;
    mutable std::shared_ptr<const Place> place_; ///< unless they are held
};
using PictureBytesPtr = std::shared_ptr<const PictureBytes>;

PictureBytesPtr pictureBytes(std::vector<uint8_t> bytes);

} // namespace glyptos
