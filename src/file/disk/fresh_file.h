// Internal to file: a new file that has no name, or one of a few, until it takes its place.
#pragma once

#include "base/error.h"

#include <filesystem>

namespace glyptos {

/// How a fresh file is kept until it is whole. Without a name it vanishes with the process that writes it.
/// Where a file system has no such files it gets a hidden name, ".glyptos-0.part" or a later one, and is
/// locked: what a killed process left is not locked, and goes when the next file is written there.
enum class FreshFileWay : unsigned char { Nameless, Hidden };

class FreshFile {
  public:
    /// In the folder where it will stay; readable as the process makes files. Fails with the system's reason.
    [[nodiscard]] static Result<FreshFile> open(const std::filesystem::path& folder,
                                                FreshFileWay way = FreshFileWay::Nameless);
    ~FreshFile();
    FreshFile(FreshFile&& other) noexcept;
    FreshFile& operator=(FreshFile&&) = delete;

    int get() const { return file_; }
    /// Flushes it to the disk and gives it the name, in its folder, in place of what has that name.
    Result<void> takePlace(const std::filesystem::path& target);
    // The parts of that, where they must not be done at once.
    Result<void> flush() const;
    Result<void> takeName(const std::filesystem::path& target);

  private:
    FreshFile(std::filesystem::path folder, int file, std::filesystem::path hidden)
        : folder_(std::move(folder))
        , hidden_(std::move(hidden))
        , file_(file) {}
    Result<void> takeHiddenName();

    std::filesystem::path folder_, hidden_; ///< no hidden name: it has none
    int file_;
};

/// Flushes which files are in a folder, where the system can.
void flushFolder(const std::filesystem::path& folder);

} // namespace glyptos
