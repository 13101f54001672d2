// Every reader of what comes from outside, as one function of bytes: for the fuzz targets, for their first
// inputs, and for inputs that once went wrong.
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace glyptos::test {

struct Reader {
    std::string name;
    /// True when the bytes were read; false when they were refused with a sentence.
    bool (*read)(std::span<const uint8_t> bytes);
};

const std::vector<Reader>& readers();
const Reader& reader(const std::string& name);

} // namespace glyptos::test
