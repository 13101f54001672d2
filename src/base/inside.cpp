#include "base/inside.h"

#include "base/text.h"

#include <algorithm>

namespace glyptos {

Result<std::filesystem::path> inside(const std::filesystem::path& folder, const std::string& name) {
    const std::filesystem::path path(name);
    const bool leadsOut = name.empty() || path.is_absolute() || name.find('\0') != name.npos ||
                          std::find(path.begin(), path.end(), "..") != path.end();
    if (leadsOut)
        return fail(Fault::Unsafe, "it names “" + validUtf8(name) + "”, which is not in its folder");
    return folder / path;
}

bool removeInside(const std::filesystem::path& folder, const std::string& name) {
    const auto file = inside(folder, name);
    if (!file) return false;
    std::error_code code;
    const auto home = std::filesystem::canonical(folder, code);
    if (code) return false;
    const auto there = std::filesystem::canonical(file->parent_path(), code);
    if (code) return false;
    const bool isInside =
        std::mismatch(home.begin(), home.end(), there.begin(), there.end()).first == home.end();
    const auto kind = std::filesystem::symlink_status(*file, code).type();
    const bool isFile =
        kind == std::filesystem::file_type::regular || kind == std::filesystem::file_type::symlink;
    return isInside && isFile && std::filesystem::remove(*file, code) && !code;
}

} // namespace glyptos
