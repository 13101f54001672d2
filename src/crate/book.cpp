#include "crate/book.h"

#include "base/json.h"
#include "file/atomic_file.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <memory>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace glyptos {
namespace {

constexpr int kVersion = 1;
constexpr std::string_view kHead = "{\"glyptos-crate\":1}\n";

Result<void> writeText(int file, std::string_view text) {
    return writeAll(file, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
}

Result<void> checkHead(int file, const std::filesystem::path& path) {
    char head[64] = {};
    const ssize_t n = pread(file, head, sizeof head - 1, 0);
    const std::string_view text(head, n > 0 ? size_t(n) : 0);
    const Json json = parseJson(text.substr(0, text.find('\n'))).value_or(Json());
    const Json* version = json.find("glyptos-crate");
    if (!version || !version->isNumber())
        return fail(Fault::Damaged, "“" + path.string() +
                                        "” is not the book of a crate; it was left as it is. Move it "
                                        "away to begin a new crate.");
    if (version->number() > kVersion)
        return fail(Fault::Unsupported,
                    "The crate in “" + path.parent_path().string() +
                        "” was written by a newer version of Glyptos and was left as it is; update "
                        "Glyptos to open it.");
    return {};
}

} // namespace

Result<Book> Book::open(const std::filesystem::path& path) {
    Book book;
    book.path_ = path;
    book.file_ = ::open(path.c_str(), O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
    if (book.file_ < 0) {
        book.file_ = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
        book.readOnly_ = true;
    }
    if (book.file_ < 0)
        return fail(Fault::Unreadable, "The crate in “" + path.parent_path().string() +
                                           "” cannot be opened (" + std::strerror(errno) +
                                           "); sources can still be brought in one by one.");
    const auto lock = book.lock();
    if (book.size() == 0 && !book.readOnly_ && !writeText(book.file_, kHead)) {
        ftruncate(book.file_, 0);
        return fail(Fault::Unwritable, "The crate in “" + path.parent_path().string() +
                                           "” cannot be begun (" + std::strerror(errno) + ").");
    }
    if (auto head = checkHead(book.file_, path); !head) return tl::unexpected(head.error());
    return book;
}

Book::Book(Book&& other) noexcept
    : path_(std::move(other.path_))
    , file_(std::exchange(other.file_, -1))
    , readOnly_(other.readOnly_) {}

Book::~Book() {
    if (file_ >= 0) ::close(file_);
}

size_t Book::size() const {
    struct stat info {};
    return fstat(file_, &info) == 0 ? size_t(info.st_size) : 0;
}

bool Book::isReplaced() const {
    struct stat mine {
    }, there{};
    return fstat(file_, &mine) == 0 && ::stat(path_.c_str(), &there) == 0 &&
           (mine.st_ino != there.st_ino || mine.st_dev != there.st_dev);
}

Result<size_t> Book::read(size_t from, const std::function<void(std::string_view)>& line) const {
    constexpr size_t kBlock = size_t(1) << 20;
    std::string buffer;
    size_t at = from, read = from;
    for (;;) {
        const size_t had = buffer.size();
        buffer.resize(had + kBlock);
        const ssize_t n = pread(file_, buffer.data() + had, kBlock, off_t(read));
        buffer.resize(had + (n > 0 ? size_t(n) : 0));
        if (n < 0 && errno == EINTR) continue;
        if (n < 0)
            return fail(Fault::Unreadable,
                        "“" + path_.string() + "” cannot be read (" + std::strerror(errno) + ").");
        if (n == 0) return at;
        read += size_t(n);
        size_t start = 0;
        for (size_t end; (end = buffer.find('\n', start)) != buffer.npos; start = end + 1)
            line(std::string_view(buffer).substr(start, end - start));
        buffer.erase(0, start);
        at += start;
    }
}

Book::Lock::Lock(int file)
    : file_(fcntl(file, F_DUPFD_CLOEXEC, 0)) { // of its own, since the book may be closed while it is held
    while (flock(file_, LOCK_EX) != 0 && errno == EINTR) {
    }
}

Book::Lock::~Lock() {
    flock(file_, LOCK_UN);
    ::close(file_);
}

std::unique_ptr<Book::Lock> Book::lock() const {
    return std::make_unique<Lock>(file_);
}

Result<void> Book::append(const std::vector<std::string>& lines) {
    if (readOnly_)
        return fail(Fault::Unwritable, "The crate in “" + path_.parent_path().string() +
                                           "” cannot be written to; nothing in it has changed.");
    const size_t before = size();
    std::string all;
    char last = '\n';
    if (before > 0 && pread(file_, &last, 1, off_t(before) - 1) == 1 && last != '\n')
        all = "\n"; // a line that was cut short by a crash stays behind as a line of its own
    for (const std::string& line : lines) all += line + '\n';
    if (writeText(file_, all) && fdatasync(file_) == 0) return {};
    const std::string why = std::strerror(errno);
    if (ftruncate(file_, off_t(before)) != 0)
        return fail(Fault::Unwritable, "The crate in “" + path_.parent_path().string() +
                                           "” cannot be written to (" + why + ").");
    return fail(Fault::Unwritable, "The crate in “" + path_.parent_path().string() +
                                       "” cannot be written to (" + why + "); it is as it was before.");
}

} // namespace glyptos
