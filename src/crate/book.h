// The book of the crate: one line of JSON for each thing that was done, only ever added to. It is what the
// crate is; the index is made from it and can be made again.
//
// Lines: {"glyptos-crate":1} first; {"put":{…entry…}}; {"drop":"ID"}; {"watch":"FOLDER"};
// {"unwatch":"FOLDER"}.
#pragma once

#include "base/error.h"

#include <filesystem>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

class Book {
  public:
    /// A new one is begun where there is none. Read-only when it cannot be written. Fails when it is no book,
    /// or a newer version's.
    [[nodiscard]] static Result<Book> open(const std::filesystem::path& file);
    ~Book();
    Book(Book&& other) noexcept;
    Book& operator=(Book&&) = delete;

    bool isReadOnly() const { return readOnly_; }
    /// Lines from byte `from` on, whole ones only; the byte behind the last. Fails when it cannot be read.
    [[nodiscard]] Result<size_t> read(size_t from, const std::function<void(std::string_view)>& line) const;
    size_t size() const;
    /// Whether another file has taken its place, as after it was written anew.
    bool isReplaced() const;

    /// Keeps other processes from writing while it is held.
    class Lock {
      public:
        explicit Lock(int file);
        ~Lock();
        Lock(const Lock&) = delete;
        Lock& operator=(const Lock&) = delete;

      private:
        int file_;
    };
    std::unique_ptr<Lock> lock() const;
    /// Adds lines and flushes them to the disk: all of them, or none and a sentence. The lock must be held.
    Result<void> append(const std::vector<std::string>& lines);

  private:
    Book() = default;
    std::filesystem::path path_;
    int file_ = -1;
    bool readOnly_ = false;
};

} // namespace glyptos
