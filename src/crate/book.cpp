#include "crate/book.h"

#include "base/json.h"
#include "file/disk/atomic_file.h"

namespace glyptos {
namespace {

constexpr int kVersion = 1;
constexpr std::string_view kHead = "{\"glyptos-crate\":1}\n";

Result<void> checkHead(const AppendFile& file) {
    char head[64] = {};
    const auto n = file.read(0, {reinterpret_cast<uint8_t*>(head), sizeof head - 1});
    const std::string_view text(head, n.value_or(0));
    const Json json = parseJson(text.substr(0, text.find('\n'))).value_or(Json());
    const Json* version = json.find("glyptos-crate");
    if (!version || !version->isNumber())
        return fail(Fault::Damaged, "“" + file.path().string() +
                                        "” is not the book of a crate; it was left as it is. Move it "
                                        "away to begin a new crate.");
    if (version->number() > kVersion)
        return fail(Fault::Unsupported,
                    "The crate in “" + file.path().parent_path().string() +
                        "” was written by a newer version of Glyptos and was left as it is; update "
                        "Glyptos to open it.");
    return {};
}

} // namespace

Result<Book> Book::open(const std::filesystem::path& path) {
    auto file = AppendFile::open(path);
    if (!file)
        return fail(Fault::Unreadable, "The crate in “" + path.parent_path().string() +
                                           "” cannot be opened (" + file.error().message +
                                           "); sources can still be brought in one by one.");
    Book book(std::move(*file));
    const auto lock = book.lock();
    if (book.size() == 0 && !book.isReadOnly())
        if (auto begun = book.file_.append(bytesOf(kHead)); !begun)
            return fail(Fault::Unwritable, "The crate in “" + path.parent_path().string() +
                                               "” cannot be begun (" + begun.error().message + ").");
    if (auto head = checkHead(book.file_); !head) return tl::unexpected(head.error());
    return book;
}

Result<size_t> Book::read(size_t from, const std::function<void(std::string_view)>& line) const {
    constexpr size_t kBlock = size_t(1) << 20;
    std::string buffer;
    size_t at = from, read = from;
    for (;;) {
        const size_t had = buffer.size();
        buffer.resize(had + kBlock);
        const auto n = file_.read(read, {reinterpret_cast<uint8_t*>(buffer.data()) + had, kBlock});
        if (!n)
            return fail(Fault::Unreadable,
                        "“" + file_.path().string() + "” cannot be read (" + n.error().message + ").");
        buffer.resize(had + *n);
        if (*n == 0) return at;
        read += *n;
        size_t start = 0;
        for (size_t end; (end = buffer.find('\n', start)) != buffer.npos; start = end + 1)
            line(std::string_view(buffer).substr(start, end - start));
        buffer.erase(0, start);
        at += start;
    }
}

Result<void> Book::append(const std::vector<std::string>& lines) {
    if (isReadOnly())
        return fail(Fault::Unwritable,
                    "The crate in “" + folder() + "” cannot be written to; nothing in it has changed.");
    const size_t before = size();
    std::string all;
    uint8_t last = '\n';
    if (before > 0 && file_.read(before - 1, {&last, 1}).value_or(0) == 1 && last != '\n')
        all = "\n"; // a line that was cut short by a crash stays behind as a line of its own
    for (const std::string& line : lines) all += line + '\n';
    const auto written = file_.append(bytesOf(all));
    if (written) return {};
    const std::string what =
        "The crate in “" + folder() + "” cannot be written to (" + written.error().message;
    return fail(Fault::Unwritable,
                what + (written.error().fault == Fault::Damaged ? ")." : "); it is as it was before."));
}

} // namespace glyptos
