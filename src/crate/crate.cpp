#include "crate/crate.h"

#include "base/inside.h"
#include "base/json.h"
#include "base/path_text.h"
#include "base/text.h"
#include "file/disk/atomic_file.h"
#include "file/xdg_folders.h"

#include <cstdlib>
#include <system_error>

namespace glyptos {
namespace {

constexpr std::string_view kPut = "{\"put\":"; // as putLine writes it
constexpr size_t kSlackLines = 5000;           // overtaken lines that are never worth writing the book anew

std::string lineOf(const char* key, const std::string& text) {
    return Json{{key, text}}.dump();
}

std::string putLine(const CrateEntry& entry) {
    return std::string(kPut) + entryToLine(entry) + "}";
}

} // namespace

std::filesystem::path crateFolder() {
    return dataHome() / "glyptos" / "crate";
}

Crate::Crate(std::filesystem::path folder, Book book)
    : folder_(std::move(folder))
    , book_(std::make_unique<Book>(std::move(book))) {}

Result<std::unique_ptr<Crate>> Crate::open(const std::filesystem::path& folder) {
    std::error_code code;
    std::filesystem::create_directories(folder, code); // when that fails, opening the book says why
    auto book = Book::open(folder / "crate.book");
    if (!book) return tl::unexpected(book.error());
    std::unique_ptr<Crate> crate(new Crate(folder, std::move(*book)));
    const std::scoped_lock guard(crate->mutex_);
    const auto turn = crate->book_->lock();
    if (auto read = crate->catchUp(); !read) return tl::unexpected(read.error());
    std::string note;
    auto index = WordIndex::open(crate->indexFile(), crate->isReadOnly(), note);
    if (!index) return tl::unexpected(index.error());
    if (!note.empty()) crate->notes_.push_back(note);
    crate->index_ = std::move(*index);
    if (crate->isReadOnly() && crate->index_->bookBytes() != crate->bookBytes_) {
        auto fresh = WordIndex::inMemory();
        if (!fresh) return tl::unexpected(fresh.error());
        crate->index_ = std::move(*fresh);
    }
    if (crate->index_->bookBytes() != crate->bookBytes_) crate->bringIndexUp({}, SIZE_MAX);
    if (crate->unreadable_ > 0)
        crate->notes_.push_back(
            std::to_string(crate->unreadable_) +
            " lines of the crate's book could not be read and were left as they are; the sources in "
            "them can be added again.");
    crate->shorten();
    return crate;
}

std::vector<std::string> Crate::notes() const {
    const std::scoped_lock guard(mutex_);
    return notes_;
}

ShelfPtr Crate::shelf() const {
    return shelf_;
}

std::set<std::string> Crate::watched() const {
    return *watchedNow_.load();
}

void Crate::takeLine(std::string_view line, Shelf& shelf, Changes& changes) {
    ++lines_;
    if (line.starts_with(kPut) && line.ends_with('}')) {
        auto entry = entryFromJson(line.substr(kPut.size(), line.size() - kPut.size() - 1));
        if (!entry) return void(++unreadable_);
        const std::string id = entry->id;
        shelf.put(std::move(*entry));
        changes.push_back({shelf.entry(id), {}});
        return;
    }
    const Json json = parseJson(line).value_or(Json());
    const auto text = [&](const char* key) {
        const Json* member = json.find(key);
        const auto* words = member ? member->as<std::string>() : nullptr;
        return words ? *words : std::string();
    };
    if (const std::string id = text("drop"); !id.empty()) {
        shelf.drop(id);
        changes.push_back({nullptr, id});
    } else if (const std::string folder = text("watch"); !folder.empty()) {
        watched_.insert(pathFromText(folder));
    } else if (const std::string left = text("unwatch"); !left.empty()) {
        watched_.erase(pathFromText(left));
    } else if (!json.find("glyptos-crate")) {
        ++unreadable_;
    }
}

Result<Crate::Changes> Crate::catchUp() {
    Changes changes;
    if (book_->size() == bookBytes_) return changes;
    auto next = std::make_shared<Shelf>(*shelf());
    auto read = book_->read(bookBytes_, [&](std::string_view line) { takeLine(line, *next, changes); });
    if (!read) return tl::unexpected(read.error());
    bookBytes_ = *read;
    shelf_ = ShelfPtr(std::move(next));
    watchedNow_ = std::make_shared<const std::set<std::string>>(watched_);
    return changes;
}

Result<void> Crate::reopenIfReplaced() {
    if (!book_->isReplaced()) return {};
    auto book = Book::open(bookFile());
    if (!book) return tl::unexpected(book.error());
    book_ = std::make_unique<Book>(std::move(*book));
    shelf_ = std::make_shared<const Shelf>();
    watched_.clear();
    bookBytes_ = lines_ = unreadable_ = 0;
    return {};
}

/// Brings the index from byte `before` of the book to where the shelf is; all of it when it is not at
/// `before`.
void Crate::bringIndexUp(const Changes& changes, size_t before) {
    index_->refresh();
    if (index_->bookBytes() == bookBytes_) return; // another process was quicker
    if (index_->bookBytes() == before && index_->apply(changes, bookBytes_, false)) return;
    Changes all;
    for (const ShelfPtr now = shelf(); const EntryPtr& entry : now->entries()) all.push_back({entry, {}});
    if (index_->apply(all, bookBytes_, true)) return;
    auto memory = WordIndex::inMemory();
    if (!memory || !memory->apply(all, bookBytes_, true)) return;
    notes_.push_back(
        "The index of the crate cannot be written; one in memory is used until Glyptos is started again.");
    index_ = std::move(*memory);
}

bool Crate::refresh() {
    const std::scoped_lock guard(mutex_);
    if (book_->size() == bookBytes_ && !book_->isReplaced()) return false;
    auto turn = book_->lock();
    const bool replaced = book_->isReplaced();
    if (replaced) {
        if (!reopenIfReplaced()) return false;
        turn = book_->lock();
    }
    const size_t before = replaced ? SIZE_MAX : bookBytes_;
    const auto changes = catchUp();
    if (changes) bringIndexUp(*changes, before);
    return changes && (replaced || !changes->empty());
}

Result<void> Crate::write(const std::vector<std::string>& lines) {
    if (lines.empty()) return {};
    auto turn = book_->lock();
    if (book_->isReplaced()) {
        if (auto again = reopenIfReplaced(); !again) return again;
        turn = book_->lock();
    }
    const size_t before = bookBytes_;
    if (auto written = book_->append(lines); !written) return written;
    const auto changes = catchUp();
    if (!changes) return tl::unexpected(changes.error());
    bringIndexUp(*changes, before);
    return {};
}

void Crate::shorten() {
    if (isReadOnly() || unreadable_ > 0 || lines_ < 2 * shelf()->entries().size() + kSlackLines) return;
    std::string all = "{\"glyptos-crate\":1}\n";
    for (const ShelfPtr now = shelf(); const EntryPtr& entry : now->entries()) all += putLine(*entry) + '\n';
    for (const std::string& folder : watched_) all += lineOf("watch", pathText(folder)) + '\n';
    const auto* bytes = reinterpret_cast<const uint8_t*>(all.data());
    if (!writeFile(bookFile(), {bytes, all.size()})) return; // the long one does as well
    if (reopenIfReplaced())
        if (const auto changes = catchUp()) bringIndexUp(*changes, SIZE_MAX);
}

std::optional<std::vector<std::string>> Crate::matching(const std::string& words) {
    if (trimmed(words).empty()) return std::nullopt;
    const std::scoped_lock guard(mutex_);
    return index_->matching(words);
}

Result<void> Crate::put(const std::vector<CrateEntry>& entries) {
    std::vector<std::string> lines;
    lines.reserve(entries.size());
    for (const CrateEntry& entry : entries) lines.push_back(putLine(entry));
    const std::scoped_lock guard(mutex_);
    return write(lines);
}

Result<void> Crate::change(const std::string& id, const SourceFacts& facts) {
    const std::scoped_lock guard(mutex_);
    const EntryPtr old = shelf()->entry(id);
    if (!old) return fail(Fault::Usage, "The source is not in the crate any more; nothing has changed.");
    if (old->facts == facts) return {};
    CrateEntry next = *old;
    next.facts = facts;
    return write({putLine(next)});
}

Result<void> Crate::remove(const std::vector<std::string>& ids) {
    const std::scoped_lock guard(mutex_);
    std::vector<std::string> lines;
    std::vector<std::string> kept;
    for (const std::string& id : ids) {
        const EntryPtr entry = shelf()->entry(id);
        if (!entry) continue;
        lines.push_back(lineOf("drop", id));
        if (!std::filesystem::path(entry->path).is_absolute()) kept.push_back(entry->path);
    }
    if (auto written = write(lines); !written) return written;
    for (const std::string& path : kept) removeInside(folder_, path);
    return {};
}

Result<void> Crate::setWatched(const std::filesystem::path& folder, bool watched) {
    const std::scoped_lock guard(mutex_);
    if (watched_.contains(folder.string()) == watched) return {};
    return write({lineOf(watched ? "watch" : "unwatch", pathText(folder.string()))});
}

Result<std::string> Crate::keep(const std::vector<uint8_t>& bytes, const std::string& id,
                                const std::string& format) const {
    const std::string path = "pictures/" + id + "." + format;
    std::error_code code;
    std::filesystem::create_directories(folder_ / "pictures", code);
    if (!std::filesystem::exists(folder_ / path, code))
        if (auto written = writeFile(folder_ / path, bytes); !written) return tl::unexpected(written.error());
    return path;
}

std::filesystem::path Crate::fileOf(const CrateEntry& entry) const {
    if (std::filesystem::path(entry.path).is_absolute()) return entry.path;
    return inside(folder_, entry.path).value_or(std::filesystem::path());
}

} // namespace glyptos
