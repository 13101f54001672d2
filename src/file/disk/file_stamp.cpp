#include "file/disk/file_stamp.h"

#include <sys/stat.h>

namespace glyptos {

std::optional<FileStamp> stampOf(const std::filesystem::path& file) {
    struct stat info {};
    if (::stat(file.c_str(), &info) != 0) return std::nullopt;
    constexpr int64_t kNs = 1'000'000'000;
    return FileStamp{info.st_dev, info.st_ino, uint64_t(info.st_size),
                     info.st_mtim.tv_sec * kNs + info.st_mtim.tv_nsec};
}

std::filesystem::path freeBeside(const std::filesystem::path& file) {
    std::error_code code;
    for (int n = 2;; ++n) {
        auto name = file.stem();
        name += " " + std::to_string(n);
        name += file.extension();
        auto out = file.parent_path() / name;
        if (!std::filesystem::exists(std::filesystem::symlink_status(out, code))) return out;
    }
}

} // namespace glyptos
