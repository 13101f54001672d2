// Internal to file: an open file that libzip writes an archive into.
#pragma once

#include <cstdint>
#include <vector>
#include <zip.h>

namespace glyptos {

/// It must be there until the archive is closed.
class ZipSink {
  public:
    /// An empty file, open for reading and writing; it stays open.
    explicit ZipSink(int file);
    ~ZipSink();
    ZipSink(const ZipSink&) = delete;
    ZipSink& operator=(const ZipSink&) = delete;

    /// What zip_open_from_source() is given; nothing without memory. Whoever opens it frees it.
    zip_source_t* source();

  private:
    static zip_int64_t act(void* self, void* data, zip_uint64_t size, zip_source_cmd_t command);
    zip_int64_t write(const void* data, zip_uint64_t size);
    zip_int64_t seek(void* data, zip_uint64_t size);
    zip_int64_t read(void* data, zip_uint64_t size);
    zip_int64_t stat(void* data);
    zip_int64_t failed(int fault);
    bool writeWaiting();

    int file_;
    zip_uint64_t at_ = 0, end_ = 0;
    std::vector<uint8_t> waiting_; ///< to be written at waitingAt_
    zip_uint64_t waitingAt_ = 0;
    zip_error_t error_{};
};

} // namespace glyptos
