#include "file/zip_archive.h"

#include "file/disk/atomic_file.h"
#include "file/zip_sink.h"

#include <future>
#include <zip.h>

namespace glyptos {
namespace {

constexpr time_t kDate = 946684800; // 2000-01-01, the same for every entry

/// What ends the writing besides libzip's own troubles.
struct WritingFailed {
    std::string why;
};

/// Reads a picture's bytes shortly before libzip comes to it, on another thread, and lets go of them when it
/// has done with it.
class PictureEntry {
  public:
    PictureEntry(PictureBytesPtr picture, WritingFailed& failed)
        : picture_(std::move(picture))
        , failed_(failed) {}

    /// What is read while this one is written.
    void setNext(PictureEntry* next) { next_ = next; }

    static zip_int64_t act(void* self, void* data, zip_uint64_t size, zip_source_cmd_t command) {
        auto* entry = static_cast<PictureEntry*>(self);
        switch (command) {
        case ZIP_SOURCE_OPEN:
            return entry->open();
        case ZIP_SOURCE_READ:
            return entry->read(data, size);
        case ZIP_SOURCE_CLOSE:
            entry->held_.reset();
            return 0;
        case ZIP_SOURCE_STAT:
            return entry->stat(data);
        case ZIP_SOURCE_ERROR:
            return zip_error_to_data(&entry->error_, data, size);
        case ZIP_SOURCE_FREE:
            delete entry;
            return 0;
        case ZIP_SOURCE_SUPPORTS:
            return zip_source_make_command_bitmap(ZIP_SOURCE_OPEN, ZIP_SOURCE_READ, ZIP_SOURCE_CLOSE,
                                                  ZIP_SOURCE_STAT, ZIP_SOURCE_ERROR, ZIP_SOURCE_FREE, -1);
        default:
            zip_error_set(&entry->error_, ZIP_ER_OPNOTSUPP, 0);
            return -1;
        }
    }

  private:
    zip_int64_t open() {
        auto bytes = ahead_.valid() ? ahead_.get() : picture_->read();
        if (next_) next_->readAhead();
        if (!bytes) {
            failed_.why = bytes.error().message;
            zip_error_set(&error_, ZIP_ER_READ, 0);
            return -1;
        }
        held_ = std::move(*bytes), at_ = 0;
        return 0;
    }
    zip_int64_t read(void* data, zip_uint64_t size) {
        const size_t n = std::min(size_t(size), held_->size() - at_);
        std::copy_n(held_->data() + at_, n, static_cast<uint8_t*>(data));
        at_ += n;
        return zip_int64_t(n);
    }
    zip_int64_t stat(void* data) const {
        auto* info = static_cast<zip_stat_t*>(data);
        zip_stat_init(info);
        info->size = picture_->size();
        info->valid = ZIP_STAT_SIZE;
        return sizeof *info;
    }

    void readAhead() {
        constexpr size_t kMostAhead = size_t(64) << 20; // bytes
        if (picture_->size() <= kMostAhead)
            ahead_ = std::async(std::launch::async, [picture = picture_] { return picture->read(); });
    }

    PictureBytesPtr picture_;
    PictureEntry* next_ = nullptr;
    std::future<Result<PictureBytes::Held>> ahead_;
    WritingFailed& failed_;
    PictureBytes::Held held_;
    size_t at_ = 0;
    zip_error_t error_{};
};

/// `last` is the picture before it, and becomes this one.
zip_source_t* sourceOf(zip_t* archive, const ZipEntry& entry, WritingFailed& failed, PictureEntry*& last) {
    if (!entry.picture) return zip_source_buffer(archive, entry.bytes.data(), entry.bytes.size(), 0);
    auto made = std::make_unique<PictureEntry>(entry.picture, failed);
    zip_source_t* source = zip_source_function(archive, PictureEntry::act, made.get());
    if (!source) return nullptr;
    if (last) last->setNext(made.get());
    last = made.release(); // owned by the source, until it is freed
    return source;
}

bool addEntry(zip_t* archive, const ZipEntry& entry, WritingFailed& failed, PictureEntry*& last) {
    zip_source_t* source = sourceOf(archive, entry, failed, last);
    if (!source) return false;
    const zip_int64_t index = zip_file_add(archive, entry.name.c_str(), source, ZIP_FL_ENC_UTF_8);
    if (index < 0) {
        zip_source_free(source);
        return false;
    }
    const auto at = static_cast<zip_uint64_t>(index);
    zip_set_file_compression(archive, at, entry.compress ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0);
    zip_file_set_mtime(archive, at, kDate, 0);
    return true;
}

void listen(zip_t* archive, const ZipWriting& writing) {
    constexpr double kSteps = 0.005;
    auto* state = const_cast<ZipWriting*>(&writing);
    if (writing.progress)
        zip_register_progress_callback_with_state(
            archive, kSteps,
            [](zip_t*, double done, void* told) { static_cast<ZipWriting*>(told)->progress(done); }, nullptr,
            state);
    zip_register_cancel_callback_with_state(
        archive, [](zip_t*, void* told) { return int(isCancelled(static_cast<ZipWriting*>(told)->cancel)); },
        nullptr, state);
}

bool readInto(zip_file_t& file, std::span<uint8_t> bytes) {
    return zip_fread(&file, bytes.data(), bytes.size()) == static_cast<zip_int64_t>(bytes.size());
}

/// The checksum is compared once the entry's end has been read.
bool readAll(zip_file_t& file, std::span<uint8_t> bytes) {
    uint8_t beyond = 0;
    return readInto(file, bytes) && zip_fread(&file, &beyond, 1) == 0;
}

/// What is not packed, without its checksum, which costs more than the reading: libzip goes on with it only
/// from where it has come to, and is made to begin behind that.
bool readUnsummed(zip_file_t& file, std::span<uint8_t> bytes) {
    if (bytes.empty()) return true;
    return zip_fseek(&file, 1, SEEK_SET) == 0 && readInto(file, bytes.subspan(1)) &&
           zip_fseek(&file, 0, SEEK_SET) == 0 && readInto(file, bytes.first(1));
}

} // namespace

void ZipReader::Discard::operator()(zip* archive) const {
    zip_discard(archive);
}

Result<ZipReader> ZipReader::open(const std::filesystem::path& file, const std::string& kind) {
    std::error_code code;
    if (!std::filesystem::exists(file, code)) return fail(Fault::Unreadable, "there is no such file");
    int error = 0;
    ZipReader reader;
    reader.archive_.reset(zip_open(file.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &error));
    if (reader.archive_) {
        const auto size = std::filesystem::file_size(file, code);
        reader.left_ = mostUnpacked(code ? 0 : size_t(size));
        return reader;
    }
    if (error == ZIP_ER_OPEN || error == ZIP_ER_READ) return fail(Fault::Unreadable, "it cannot be read");
    return fail(Fault::Damaged, "it is not " + kind + ", or it is cut short");
}

bool ZipReader::has(const std::string& entry) const {
    return zip_name_locate(archive_.get(), entry.c_str(), 0) >= 0;
}

Result<size_t> ZipReader::claim(const std::string& entry, size_t most) const {
    zip_stat_t stat;
    if (zip_stat(archive_.get(), entry.c_str(), 0, &stat) != 0)
        return fail(Fault::Damaged, "“" + entry + "” is missing inside it");
    if (stat.size > most) return fail(Fault::TooLarge, "“" + entry + "” inside it is too large");
    constexpr zip_uint64_t kDensest = 1032, kSlack = 1024; // deflate packs 258 bytes into two bits
    if (stat.size / kDensest > stat.comp_size + kSlack)
        return fail(Fault::Damaged, "“" + entry + "” inside it is damaged");
    if (stat.size > left_)
        return fail(Fault::TooLarge, "it unpacks to far more than a file of its size should hold");
    left_ -= stat.size;
    return size_t(stat.size);
}

Result<std::vector<uint8_t>> ZipReader::unpack(const std::string& entry, size_t size, bool compare) const {
    zip_stat_t stat;
    const bool isPlain = zip_stat(archive_.get(), entry.c_str(), 0, &stat) == 0 &&
                         (stat.valid & ZIP_STAT_COMP_METHOD) != 0 && stat.comp_method == ZIP_CM_STORE;
    std::vector<uint8_t> bytes(size);
    const std::unique_ptr<zip_file_t, decltype(&zip_fclose)> file(zip_fopen(archive_.get(), entry.c_str(), 0),
                                                                  zip_fclose);
    const bool whole = file && (isPlain && !compare ? readUnsummed(*file, bytes) : readAll(*file, bytes));
    if (!whole) return fail(Fault::Damaged, "“" + entry + "” inside it is damaged");
    return bytes;
}

Result<std::vector<uint8_t>> ZipReader::read(const std::string& entry, size_t most) const {
    const auto size = claim(entry, most);
    if (!size) return tl::unexpected(size.error());
    return unpack(entry, *size);
}

Result<std::string> ZipReader::readText(const std::string& entry, size_t most) const {
    auto bytes = read(entry, most);
    if (!bytes) return tl::unexpected(bytes.error());
    return std::string(bytes->begin(), bytes->end());
}

Result<void> writeZip(const std::filesystem::path& file, const std::vector<ZipEntry>& entries,
                      const ZipWriting& writing) {
    return replaceFile(file, [&](int fresh) -> Result<void> {
        ZipSink sink(fresh);
        zip_source_t* source = sink.source();
        zip_t* archive = source ? zip_open_from_source(source, ZIP_CREATE | ZIP_TRUNCATE, nullptr) : nullptr;
        if (!archive) {
            if (source) zip_source_free(source);
            return fail(Fault::Unwritable, "it cannot be created");
        }
        bool added = true;
        WritingFailed failed;
        PictureEntry* last = nullptr;
        for (const ZipEntry& entry : entries) added = added && addEntry(archive, entry, failed, last);
        listen(archive, writing);
        if (added && zip_close(archive) == 0) {
            if (writing.mayTake && !writing.mayTake())
                return fail(Fault::Unwritable, "it has changed meanwhile");
            return {};
        }
        std::string why = failed.why.empty() ? zip_strerror(archive) : failed.why;
        zip_discard(archive);
        if (isCancelled(writing.cancel)) return cancelled();
        return fail(Fault::Unwritable, std::move(why));
    });
}

} // namespace glyptos
