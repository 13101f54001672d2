// The crate: the library of sources, across releases. Its folder holds the book (what it is), the index (made
// from the book) and the pictures that have no other home.
//
// Several processes may have one crate open: writers take turns, and each sees what others have added after
// refresh(). All functions may be called from any thread.
#pragma once

#include "crate/book.h"
#include "crate/shelf.h"
#include "crate/word_index.h"

#include <atomic>
#include <memory>
#include <mutex>
#include <set>

namespace glyptos {

/// $XDG_DATA_HOME/glyptos/crate, or in ~/.local/share.
std::filesystem::path crateFolder();

class Crate {
  public:
    /// Opens the crate in a folder, or begins one there.
    [[nodiscard]] static Result<std::unique_ptr<Crate>> open(const std::filesystem::path& folder);

    /// What had to be mended or could not be used, a sentence each.
    std::vector<std::string> notes() const;
    bool isReadOnly() const { return book_->isReadOnly(); }
    const std::filesystem::path& folder() const { return folder_; }

    /// What is in it now.
    ShelfPtr shelf() const;
    /// Takes in what other processes have written. True when there was something.
    bool refresh();
    /// Ids of the sources that have all the words, the best first; nothing when `words` has none.
    std::optional<std::vector<std::string>> matching(const std::string& words);

    /// Puts entries in, replacing those with the same id.
    [[nodiscard]] Result<void> put(const std::vector<CrateEntry>& entries);
    /// Changes what is known of a source. Fails when it is not there.
    Result<void> change(const std::string& id, const SourceFacts& facts);
    /// Takes sources out. Files elsewhere stay; pictures that the crate kept itself are deleted.
    Result<void> remove(const std::vector<std::string>& ids);
    /// Folders whose new pictures come in by themselves.
    Result<void> setWatched(const std::filesystem::path& folder, bool watched);
    /// Never waits for a writer.
    std::set<std::string> watched() const;

    /// Keeps the bytes of a picture in the crate's own folder; the path for its entry.
    Result<std::string> keep(const std::vector<uint8_t>& bytes, const std::string& id,
                             const std::string& format) const;
    /// Where an entry's file is.
    std::filesystem::path fileOf(const CrateEntry& entry) const;

  private:
    using Changes = std::vector<WordIndex::Change>;
    Crate(std::filesystem::path folder, Book book);
    std::filesystem::path bookFile() const { return folder_ / "crate.book"; }
    std::filesystem::path indexFile() const { return folder_ / "crate-index.sqlite"; }
    /// Reads the book from where the shelf stops; what that changes.
    Result<Changes> catchUp();
    void takeLine(std::string_view line, Shelf& shelf, Changes& changes);
    /// The same for a book that another process has written anew.
    Result<void> reopenIfReplaced();
    void bringIndexUp(const Changes& changes, size_t before);
    [[nodiscard]] Result<void> write(const std::vector<std::string>& lines);
    /// Writes the book anew when most of its lines have been overtaken by later ones.
    void shorten();

    std::filesystem::path folder_;
    mutable std::mutex mutex_;
    std::unique_ptr<Book> book_;
    std::optional<WordIndex> index_;
    /// Read without the mutex: a writer may be waiting for the disk.
    std::atomic<ShelfPtr> shelf_ = std::make_shared<const Shelf>();
    std::set<std::string> watched_;
    std::atomic<std::shared_ptr<const std::set<std::string>>> watchedNow_ =
        std::make_shared<const std::set<std::string>>(); ///< watched_, read without the mutex
    std::vector<std::string> notes_;
    size_t bookBytes_ = 0; ///< of the book that are in shelf_
    size_t lines_ = 0, unreadable_ = 0;
};

} // namespace glyptos
