// Plain memory for pixels, with slack at the end so that vector loads may run past the last one.
#pragma once

#include <cstddef>
#include <cstdlib>
#include <memory>
#include <new>

namespace glyptos {

/// Rounded up to the widest vector that any kernel uses (64 bytes of floats).
constexpr size_t roundUpLanes(size_t n) {
    return (n + 15) / 16 * 16;
}

/// `count` values of T, aligned to 64 bytes, not initialised, with 64 bytes to spare behind the last one.
template <class T>
class Buffer {
  public:
    Buffer() = default;
    explicit Buffer(size_t count)
        : data_(static_cast<T*>(::operator new(count * sizeof(T) + 64, std::align_val_t(64))))
        , count_(count) {}

    T* data() { return data_.get(); }
    const T* data() const { return data_.get(); }
    size_t size() const { return count_; }
    T& operator[](size_t i) { return data_.get()[i]; }
    const T& operator[](size_t i) const { return data_.get()[i]; }
    T* begin() { return data_.get(); }
    T* end() { return data_.get() + count_; }

  private:
    struct Free {
        void operator()(T* p) const { ::operator delete(p, std::align_val_t(64)); }
    };
    std::unique_ptr<T, Free> data_;
    size_t count_ = 0;
};

} // namespace glyptos
