#include "file/data_folder.h"

#include <cstdlib>
#include <fstream>
#include <iterator>

namespace glyptos {

std::filesystem::path dataFolder() {
    if (const char* set = std::getenv("GLYPTOS_DATA"); set && *set) return set;
    std::error_code code;
    const auto program = std::filesystem::read_symlink("/proc/self/exe", code);
    if (!code) {
        auto installed = program.parent_path().parent_path() / "share" / "glyptos";
        if (std::filesystem::is_directory(installed / "forms", code)) return installed;
    }
    return GLYPTOS_SOURCE_DATA;
}

const std::vector<uint8_t>& pressProfileBytes() {
    static const std::vector<uint8_t> bytes = [] {
        std::ifstream in(dataFolder() / "icc" / "FOGRA39L_coated.icc", std::ios::binary);
        return std::vector<uint8_t>(std::istreambuf_iterator<char>(in), {});
    }();
    return bytes;
}

} // namespace glyptos
