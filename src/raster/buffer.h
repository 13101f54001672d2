// Plain memory for pixels, with slack at the end so that vector loads may run past the last one.
#pragma once

#include <cstddef>
#include <memory>

namespace glyptos {

/// Rounded up to the widest vector that any kernel uses (64 bytes of floats).
constexpr size_t roundUpLanes(size_t n) {
    return (n + 15) / 16 * 16;
}

/// `bytes` of memory aligned to 64, not initialised. Large blocks ask for large pages: the rows of a tile lie
/// in as many small pages as it is high, more than a processor keeps track of. Throws std::bad_alloc.
void* allocatePixels(size_t bytes);
void freePixels(void* block);
/// The same for what is needed for one tile and then no more: it is kept for the next one, since clearing new
/// pages costs more than many a treatment.
void* allocatePassing(size_t bytes);
void freePassing(void* block);

/// `count` values of T with 64 bytes to spare behind the last one; not initialised.
template <class T>
class Buffer {
  public:
    Buffer() = default;
    explicit Buffer(size_t count)
        : data_(static_cast<T*>(allocatePixels(count * sizeof(T) + 64)), freePixels)
        , count_(count) {}
    /// Of passing memory.
    static Buffer passing(size_t count) {
        return {std::shared_ptr<T>(static_cast<T*>(allocatePassing(count * sizeof(T) + 64)), freePassing),
                count};
    }
    /// Values that lie elsewhere, as in a mapped file; 64 bytes behind them may be read too.
    Buffer(std::shared_ptr<T> values, size_t count)
        : data_(std::move(values))
        , count_(count) {}
    Buffer(Buffer&&) noexcept = default;
    Buffer& operator=(Buffer&&) noexcept = default;

    T* data() { return data_.get(); }
    const T* data() const { return data_.get(); }
    size_t size() const { return count_; }
    T& operator[](size_t i) { return data_.get()[i]; }
    const T& operator[](size_t i) const { return data_.get()[i]; }
    T* begin() { return data_.get(); }
    T* end() { return data_.get() + count_; }

  private:
    std::shared_ptr<T> data_;
    size_t count_ = 0;
};

} // namespace glyptos
