// The book of the crate: one line of JSON for each thing that was done, only ever added to. It is what the
// crate is; the index is made from it and can be made again.
//
// Lines: {"glyptos-crate":1} first; {"put":{…entry…}}; {"drop":"ID"}; {"watch":"FOLDER"};
// {"unwatch":"FOLDER"}.
#pragma once

#include "file/disk/append_file.h"

#include <functional>
#include <string>
#include <string_view>

namespace glyptos {

class Book {
  public:
    /// A new one is begun where there is none. Read-only when it cannot be written. Fails when it is no book,
    /// or a newer version's.
    [[nodiscard]] static Result<Book> open(const std::filesystem::path& file);

    bool isReadOnly() const { return file_.isReadOnly(); }
    /// Lines from byte `from` on, whole ones only; the byte behind the last. Fails when it cannot be read.
    [[nodiscard]] Result<size_t> read(size_t from, const std::function<void(std::string_view)>& line) const;
    size_t size() const { return file_.size(); }
    /// Whether another file has taken its place, as after it was written anew.
    bool isReplaced() const { return file_.isReplaced(); }

    /// Keeps other processes from writing while it is held.
    std::unique_ptr<AppendFile::Lock> lock() const {
        return std::make_unique<AppendFile::Lock>(file_.lock());
    }
    /// Adds lines and flushes them to the disk: all of them, or none and a sentence. The lock must be held.
    Result<void> append(const std::vector<std::string>& lines);

  private:
    explicit Book(AppendFile file)
        : file_(std::move(file)) {}
    std::string folder() const { return file_.path().parent_path().string(); }
    AppendFile file_;
};

} // namespace glyptos
