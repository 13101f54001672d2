#include "picture_io.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "file/pictures/picture_writer.h"

namespace glyptos::cli {

Result<Picture> readPicture(const std::string& file) {
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    return decodePicture(*bytes, nameOf(file), pressProfileBytes());
}

Result<void> writePng(const std::string& file, const Picture& picture) {
    const auto png = encodePng(picture, {72});
    if (!png) return tl::unexpected(png.error());
    return writeFile(file, *png);
}

std::vector<Vec2> readPoints(const Entry& list) {
    std::vector<Vec2> out;
    list.each([&](const Entry& point) {
        std::array<double, 2> at{};
        point.numbers(at);
        out.push_back({at[0], at[1]});
    });
    return out;
}

tl::unexpected<Error> unusable(const std::string& what, const std::string& file, const Error& error) {
    return fail(error.fault, "The " + what + " “" + file + "” cannot be used: " + error.message +
                                 "; nothing was written.");
}

} // namespace glyptos::cli
