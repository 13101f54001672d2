#include "file/own_files.h"

#include "base/text.h"
#include "file/disk/atomic_file.h"

#include <QString>
#include <algorithm>

namespace glyptos {
namespace {

std::string fileNameFor(const std::string& name) {
    QString out;
    for (const QChar c : QString::fromStdString(name).toCaseFolded())
        out += c.isLetterOrNumber() || c.isHighSurrogate() || c.isLowSurrogate() ? c : QChar('-');
    constexpr qsizetype kLongest = 60; // of up to four bytes each
    return out.left(kLongest).toStdString();
}

} // namespace

std::vector<std::filesystem::path> jsonFilesIn(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> out;
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (entry.path().extension() == ".json") out.push_back(entry.path());
    std::sort(out.begin(), out.end());
    return out;
}

std::filesystem::path freeFileFor(const std::filesystem::path& folder, const std::string& name) {
    const std::string stem = fileNameFor(name);
    std::filesystem::path out = folder / (stem + ".json");
    std::error_code none;
    // Two names may fold to one file name.
    for (int n = 2; std::filesystem::exists(out, none); ++n)
        out = folder / (stem + "-" + std::to_string(n) + ".json");
    return out;
}

Result<void> writeOwnFile(const std::filesystem::path& file, const Json& json, const std::string& otherwise) {
    std::error_code code;
    std::filesystem::create_directories(file.parent_path(), code);
    if (code)
        return fail(Fault::Unwritable,
                    otherwise + ": the folder " + file.parent_path().string() + " cannot be made.");
    const std::string text = json.dump(2) + "\n";
    return writeFile(file, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
}

} // namespace glyptos
