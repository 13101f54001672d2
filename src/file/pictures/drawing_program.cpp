#include "file/pictures/drawing_program.h"

#include "file/disk/atomic_file.h"

#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <filesystem>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

namespace glyptos::codecs {
namespace {

using namespace drawing;

/// A file in memory, or none.
class MemoryFile {
  public:
    explicit MemoryFile(const char* name)
        : file_(::memfd_create(name, MFD_CLOEXEC)) {}
    ~MemoryFile() {
        if (file_ >= 0) ::close(file_);
    }
    MemoryFile(const MemoryFile&) = delete;
    MemoryFile& operator=(const MemoryFile&) = delete;
    int get() const { return file_; }
    explicit operator bool() const { return file_ >= 0; }

  private:
    int file_;
};

/// Beside the running program, or where it is installed.
std::filesystem::path programFile() {
    std::error_code code;
    const auto folder = std::filesystem::read_symlink("/proc/self/exe", code).parent_path();
    const auto beside = folder / kProgram;
    if (std::filesystem::exists(beside, code)) return beside;
    return folder.parent_path() / "libexec" / "glyptos" / kProgram;
}

class FileActions {
  public:
    FileActions() { posix_spawn_file_actions_init(&actions_); }
    ~FileActions() { posix_spawn_file_actions_destroy(&actions_); }
    FileActions(const FileActions&) = delete;
    FileActions& operator=(const FileActions&) = delete;
    void give(const MemoryFile& file, int as) { posix_spawn_file_actions_adddup2(&actions_, file.get(), as); }
    const posix_spawn_file_actions_t* get() const { return &actions_; }

  private:
    posix_spawn_file_actions_t actions_{};
};

/// How it ended, by wait(); it is killed when it takes too long by the clock.
struct End {
    int status = 0;
    bool tooLong = false;
};
End waitFor(pid_t child) {
    End out;
    const int handle = int(::syscall(SYS_pidfd_open, child, 0));
    if (handle >= 0) {
        pollfd ended{handle, POLLIN, 0};
        int seen = 0;
        while ((seen = ::poll(&ended, 1, kMostWait * 1000)) < 0 && errno == EINTR) {
        }
        out.tooLong = seen == 0;
        if (out.tooLong) ::kill(child, SIGKILL);
        ::close(handle);
    }
    while (::waitpid(child, &out.status, 0) < 0 && errno == EINTR) {
    }
    return out;
}

tl::unexpected<Error> tookTooLong() {
    return fail(Fault::TooLarge, "takes longer than " + std::to_string(kMostSeconds) +
                                     " seconds to draw; make its filters simpler, or save it as a picture");
}

tl::unexpected<Error> tookTooMuch() {
    return fail(Fault::TooLarge, "needs more than " + std::to_string(kMostMemory >> 30) +
                                     " GB of memory to draw; make it simpler, or save it as a picture");
}

/// What a program that has died of a drawing said last.
bool saysNoMemory(const MemoryFile& said) {
    std::string text(size_t(1) << 16, '\0');
    const ssize_t n = ::pread(said.get(), text.data(), text.size(), 0);
    text.resize(n > 0 ? size_t(n) : 0);
    for (const char* words : {"memory allocation of", "failed to allocate", "out of memory", "Out of memory"})
        if (text.find(words) != text.npos) return true;
    return false;
}

tl::unexpected<Error> diedOf(const End& end, const MemoryFile& said) {
    const int signal = WIFSIGNALED(end.status) ? WTERMSIG(end.status) : 0;
    if (end.tooLong || signal == SIGXCPU) return tookTooLong();
    // The system itself ends what takes the last of its memory.
    if (signal == SIGKILL || saysNoMemory(said)) return tookTooMuch();
    return fail(Fault::Damaged, "cannot be drawn: it asks for something that no drawing should");
}

Result<Drawn> readReply(const MemoryFile& file) {
    Drawn out;
    if (::pread(file.get(), &out.reply, sizeof out.reply, 0) != ssize_t(sizeof out.reply)) return cutShort();
    const Reply& reply = out.reply;
    switch (reply.answer) {
    case Answer::Drawn:
        break;
    case Answer::TooLarge:
        if (auto size = checkSize(reply.drawingWidth, reply.drawingHeight); !size)
            return tl::unexpected(size.error());
        return fail(Fault::TooLarge, "is too large to be drawn at that size");
    case Answer::NoMemory:
    case Answer::Unwritable:
        return tookTooMuch();
    default:
        return cutShort();
    }
    if (reply.width <= 0) return out;
    const size_t bytes = size_t(reply.width) * 4 * size_t(reply.height), all = kPixelsAt + bytes + kBehind;
    struct stat info {};
    if (reply.height <= 0 || ::fstat(file.get(), &info) != 0 || size_t(info.st_size) < all) return cutShort();
    void* at = ::mmap(nullptr, all, PROT_READ | PROT_WRITE, MAP_PRIVATE, file.get(), 0);
    if (at == MAP_FAILED) return tookTooMuch();
    const std::shared_ptr<uint8_t> mapped(static_cast<uint8_t*>(at), [all](uint8_t* p) { ::munmap(p, all); });
    out.pixels = Buffer<uint8_t>(std::shared_ptr<uint8_t>(mapped, mapped.get() + kPixelsAt), bytes);
    return out;
}

} // namespace

Result<Drawn> askDrawingProgram(Data svg, const std::string& wish) {
    const MemoryFile in("drawing"), out("drawn"), said("said");
    if (!in || !out || !said || !writeAll(in.get(), svg)) return tookTooMuch();
    FileActions actions;
    actions.give(in, STDIN_FILENO), actions.give(out, STDOUT_FILENO), actions.give(said, STDERR_FILENO);
    const std::string program = programFile().string();
    std::string name = kProgram, argument = wish;
    char* arguments[]{name.data(), argument.data(), nullptr};
    pid_t child = 0;
    if (::posix_spawn(&child, program.c_str(), actions.get(), nullptr, arguments, environ) != 0)
        return fail(Fault::Unsupported,
                    "cannot be drawn, since “" + program + "” is missing; install Glyptos again");
    const End end = waitFor(child);
    if (!WIFEXITED(end.status) || WEXITSTATUS(end.status) != 0) return diedOf(end, said);
    return readReply(out);
}

} // namespace glyptos::codecs
