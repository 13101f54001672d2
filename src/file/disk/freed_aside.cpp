#include "file/disk/freed_aside.h"

#include <fcntl.h>
#include <system_error>
#include <thread>
#include <unistd.h>

namespace glyptos {

FreedAside::FreedAside(const std::filesystem::path& file)
    : file_(::open(file.c_str(), O_PATH | O_CLOEXEC)) {}

FreedAside::~FreedAside() {
    if (file_ < 0) return;
    try {
        std::thread([file = file_] { ::close(file); }).detach(); // the system closes it if the program ends
    } catch (const std::system_error&) {
        ::close(file_);
    }
}

} // namespace glyptos
