// Internal to crate: the words of all sources, searched with SQLite's FTS5. Made from the book, and thrown
// away and made again whenever it does not fit it.
#pragma once

#include "crate/database.h"
#include "crate/entry.h"

#include <filesystem>
#include <string>
#include <vector>

namespace glyptos {

class WordIndex {
  public:
    /// The index in a file, or in memory when the file cannot be used: it is read-only and behind, or of a
    /// newer version, which is left alone. A damaged one is deleted first. `note` says what happened, or
    /// nothing.
    [[nodiscard]] static Result<WordIndex> open(const std::filesystem::path& file, bool readOnly,
                                                std::string& note);

    /// An empty one in memory.
    static Result<WordIndex> inMemory();

    /// Bytes of the book that are in it.
    size_t bookBytes() const { return bookBytes_; }
    /// Writes puts and drops, and how far in the book they reach, as one transaction. False when that failed;
    /// then nothing has changed.
    struct Change {
        EntryPtr put; ///< or nothing:
        std::string drop;
    };
    bool apply(const std::vector<Change>& changes, size_t bookBytes, bool fromNothing);
    /// Reads again how far another process has brought it.
    void refresh();

    /// Ids of the sources that have all of the words, or words that begin with them, the best first.
    std::vector<std::string> matching(const std::string& words);

  private:
    explicit WordIndex(Database db)
        : db_(std::move(db)) {}
    bool write(const std::vector<Change>& changes, size_t bookBytes, bool fromNothing);
    Database db_;
    size_t bookBytes_ = 0;
};

} // namespace glyptos
