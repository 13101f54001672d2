#include "cli/saying.h"

#include "base/text.h"
#include "file/disk/atomic_file.h"

#include <fcntl.h>
#include <iostream>
#include <unistd.h>

namespace glyptos::cli {

/// Text on its way to a file, a line at a time.
class PlainSpeech::Lines : public std::streambuf {
  public:
    explicit Lines(int file)
        : file_(file) {}
    ~Lines() override {
        pass();
        write();
    }
    Lines(const Lines&) = delete;
    Lines& operator=(const Lines&) = delete;

  protected:
    int overflow(int c) override {
        if (c == traits_type::eof()) return 0;
        if (c != '\n' && c != '\t') {
            line_ += char(c);
            return c;
        }
        const bool returns = c == '\n' && line_.ends_with('\r'); // as lines of CSV end
        if (returns) line_.pop_back();
        pass();
        if (returns) shown_ += '\r';
        shown_ += char(c);
        if (shown_.size() > kMostHeld) write();
        return c;
    }
    int sync() override { return write() ? 0 : -1; }

  private:
    static constexpr size_t kMostHeld = size_t(1) << 16;
    void pass() {
        shown_ += visible(line_);
        line_.clear();
    }
    bool write() {
        const bool written =
            writeAll(file_, {reinterpret_cast<const uint8_t*>(shown_.data()), shown_.size()}).has_value();
        shown_.clear();
        return written;
    }

    int file_;
    std::string line_, shown_;
};

PlainSpeech::PlainSpeech()
    : errors_(::dup(STDERR_FILENO))
    , outLines_(std::make_unique<Lines>(STDOUT_FILENO))
    , errorLines_(std::make_unique<Lines>(errors_))
    , out_(std::cout.rdbuf(outLines_.get()))
    , error_(std::cerr.rdbuf(errorLines_.get())) {
#ifndef __SANITIZE_ADDRESS__ // which has more to say
    if (const int nowhere = ::open("/dev/null", O_WRONLY | O_CLOEXEC); nowhere >= 0) {
        ::dup2(nowhere, STDERR_FILENO);
        ::close(nowhere);
    }
#endif
}

PlainSpeech::~PlainSpeech() {
    std::cout.rdbuf(out_);
    std::cerr.rdbuf(error_);
    outLines_.reset();
    errorLines_.reset();
    ::dup2(errors_, STDERR_FILENO);
    ::close(errors_);
}

void warn(const std::string& sentence) {
    std::cerr << "glyptos-cli: " << visible(sentence) << '\n' << std::flush;
}

void warn(const std::vector<std::string>& sentences) {
    constexpr size_t kMost = 20;
    for (size_t i = 0; i < std::min(sentences.size(), kMost); ++i) warn(sentences[i]);
    if (sentences.size() > kMost) warn("There are " + std::to_string(sentences.size() - kMost) + " more.");
}

void print(const Json& json, int indent) {
    std::cout << jsonWithoutControls(json.dump(indent)) << '\n';
}

} // namespace glyptos::cli
