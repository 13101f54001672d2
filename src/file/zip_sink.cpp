#include "file/zip_sink.h"

#include <algorithm>
#include <cerrno>
#include <unistd.h>

namespace glyptos {

ZipSink::ZipSink(int file)
    : file_(file) {
    zip_error_init(&error_);
}

ZipSink::~ZipSink() {
    zip_error_fini(&error_);
}

zip_source_t* ZipSink::source() {
    return zip_source_function_create(act, this, nullptr);
}

zip_int64_t ZipSink::failed(int fault) {
    zip_error_set(&error_, fault, errno);
    return -1;
}

zip_int64_t ZipSink::write(const void* data, zip_uint64_t size) {
    const auto* bytes = static_cast<const char*>(data);
    for (zip_uint64_t done = 0; done < size;) {
        const ssize_t n = ::pwrite(file_, bytes + done, size - done, off_t(at_));
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return failed(ZIP_ER_WRITE);
        done += zip_uint64_t(n), at_ += zip_uint64_t(n);
    }
    end_ = std::max(end_, at_);
    return zip_int64_t(size);
}

zip_int64_t ZipSink::read(void* data, zip_uint64_t size) {
    const ssize_t n = ::pread(file_, data, size, off_t(at_));
    if (n < 0) return failed(ZIP_ER_READ);
    at_ += zip_uint64_t(n);
    return n;
}

zip_int64_t ZipSink::seek(void* data, zip_uint64_t size) {
    const zip_int64_t to = zip_source_seek_compute_offset(at_, end_, data, size, &error_);
    if (to < 0) return -1;
    at_ = zip_uint64_t(to);
    return 0;
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
    case ZIP_SOURCE_STAT:
        return sink.stat(data);
    case ZIP_SOURCE_ERROR:
        return zip_error_to_data(&sink.error_, data, size);
    default: // closed, committed, freed: whoever opened the file does the rest
        return 0;
    }
}

} // namespace glyptos
