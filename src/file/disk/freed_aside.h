// What a replaced file held is freed while work goes on.
#pragma once

#include <filesystem>

namespace glyptos {

/// Keeps the file that is at a path now. When this ends and the file has lost its name meanwhile, its room is
/// freed on a thread of its own: with gigabytes that takes the system seconds, which no save should wait for.
class FreedAside {
  public:
    explicit FreedAside(const std::filesystem::path& file);
    ~FreedAside();
    FreedAside(const FreedAside&) = delete;
    FreedAside& operator=(const FreedAside&) = delete;

  private:
    int file_; ///< below 0: there was none
};

} // namespace glyptos
