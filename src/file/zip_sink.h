// Internal to file: where libzip writes an archive to: an open file, in large parts.
#pragma once

#include "file/block_writer.h"

#include <zip.h>

namespace glyptos {

/// The sink must outlive the archive. The file is not closed.
class ZipSink {
  public:
    explicit ZipSink(int file);
    ~ZipSink();
    ZipSink(const ZipSink&) = delete;
    ZipSink& operator=(const ZipSink&) = delete;

    /// A new source, which libzip takes over.
    zip_source_t* source();

  private:
    static zip_int64_t act(void* self, void* data, zip_uint64_t size, zip_source_cmd_t command);
    zip_int64_t failed(int fault, int system);
    zip_int64_t write(const void* data, zip_uint64_t size);
    zip_int64_t read(void* data, zip_uint64_t size);
    zip_int64_t seek(void* data, zip_uint64_t size);
    zip_int64_t stat(void* data);
    zip_int64_t commit();
    /// 0, or the system's error.
    int passOn();
    int finish();

    int file_;
    BlockWriter writer_;
    zip_uint64_t at_ = 0, end_ = 0;
    zip_error_t error_{};
    BlockWriter::Block waiting_; ///< not yet passed on
};

} // namespace glyptos
