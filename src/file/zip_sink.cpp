#include "file/zip_sink.h"

#include <algorithm>
#include <cerrno>
#include <unistd.h>
#include <utility>

namespace glyptos {
namespace {

constexpr size_t kTogether = size_t(1) << 20; // bytes

} // namespace

ZipSink::ZipSink(int file)
    : file_(file)
    , writer_(file) {
    zip_error_init(&error_);
}

ZipSink::~ZipSink() {
    zip_error_fini(&error_);
}

zip_source_t* ZipSink::source() {
    return zip_source_function_create(act, this, nullptr);
}

zip_int64_t ZipSink::failed(int fault, int system) {
    zip_error_set(&error_, fault, system);
    return -1;
}

/// libzip writes in small parts that mostly follow each other: they go to the file together.
zip_int64_t ZipSink::write(const void* data, zip_uint64_t size) {
    const auto waitingEnd = zip_uint64_t(waiting_.at) + waiting_.bytes.size();
    if (waiting_.bytes.size() >= kTogether || at_ != waitingEnd)
        if (const int error = passOn()) return failed(ZIP_ER_WRITE, error);
    if (waiting_.bytes.empty()) {
        waiting_.at = off_t(at_);
        waiting_.bytes.reserve(kTogether + size);
    }
    const auto* bytes = static_cast<const uint8_t*>(data);
    waiting_.bytes.insert(waiting_.bytes.end(), bytes, bytes + size);
    at_ += size, end_ = std::max(end_, at_);
    return zip_int64_t(size);
}

int ZipSink::passOn() {
    if (waiting_.bytes.empty()) return 0;
    return writer_.add(std::exchange(waiting_, {}));
}

int ZipSink::finish() {
    const int error = passOn();
    return error ? error : writer_.finish();
}

zip_int64_t ZipSink::read(void* data, zip_uint64_t size) {
    if (const int error = finish()) return failed(ZIP_ER_WRITE, error);
    const ssize_t n = ::pread(file_, data, size, off_t(at_));
    if (n < 0) return failed(ZIP_ER_READ, errno);
    at_ += zip_uint64_t(n);
    return n;
}

zip_int64_t ZipSink::seek(void* data, zip_uint64_t size) {
    const zip_int64_t to = zip_source_seek_compute_offset(at_, end_, data, size, &error_);
    if (to < 0) return -1;
    at_ = zip_uint64_t(to);
    return 0;
}

zip_int64_t ZipSink::commit() {
    const int error = finish();
    return error ? failed(ZIP_ER_WRITE, error) : 0;
}

/// As libzip sees it before it begins: an archive that is empty.
zip_int64_t ZipSink::stat(void* data) {
    auto* info = static_cast<zip_stat_t*>(data);
    zip_stat_init(info);
    info->size = end_;
    info->valid = ZIP_STAT_SIZE;
    return sizeof(*info);
}

zip_int64_t ZipSink::act(void* self, void* data, zip_uint64_t size, zip_source_cmd_t command) {
    auto& sink = *static_cast<ZipSink*>(self);
    switch (command) {
    case ZIP_SOURCE_SUPPORTS:
        return zip_source_make_command_bitmap(
            ZIP_SOURCE_OPEN, ZIP_SOURCE_READ, ZIP_SOURCE_CLOSE, ZIP_SOURCE_STAT, ZIP_SOURCE_ERROR,
            ZIP_SOURCE_FREE, ZIP_SOURCE_SEEK, ZIP_SOURCE_TELL, ZIP_SOURCE_BEGIN_WRITE,
            ZIP_SOURCE_COMMIT_WRITE, ZIP_SOURCE_ROLLBACK_WRITE, ZIP_SOURCE_WRITE, ZIP_SOURCE_SEEK_WRITE,
            ZIP_SOURCE_TELL_WRITE, ZIP_SOURCE_REMOVE, -1);
    case ZIP_SOURCE_OPEN:
    case ZIP_SOURCE_BEGIN_WRITE:
        sink.at_ = 0;
        return 0;
    case ZIP_SOURCE_READ:
        return sink.read(data, size);
    case ZIP_SOURCE_WRITE:
        return sink.write(data, size);
    case ZIP_SOURCE_SEEK:
    case ZIP_SOURCE_SEEK_WRITE:
        return sink.seek(data, size);
    case ZIP_SOURCE_TELL:
    case ZIP_SOURCE_TELL_WRITE:
        return zip_int64_t(sink.at_);
    case ZIP_SOURCE_COMMIT_WRITE:
        return sink.commit();
    case ZIP_SOURCE_STAT:
        return sink.stat(data);
    case ZIP_SOURCE_ERROR:
        return zip_error_to_data(&sink.error_, data, size);
    default: // closed, freed: whoever opened the file does the rest
        return 0;
    }
}

} // namespace glyptos
