#include "file/journal/picture_spot.h"

#include "base/text.h"
#include "file/archived_pictures.h"
#include "file/pictures/picture_reader.h"

namespace glyptos {
bool isAsSeen(const PictureSpot& spot) {
    return stampOf(spot.file) == spot.stamp;
}

Result<PictureBytes::Held> readSpot(const PictureSpot& spot, const Source& source) {
    if (spot.inRelease) {
        auto zip = ZipReader::open(spot.file, "a Glyptos release");
        if (!zip) return fail(zip.error().fault, "in “" + nameOf(spot.file) + "”: " + zip.error().message);
        const auto bytes =
            ArchivedPictures::bytesOf(std::make_shared<const ArchivedPictures>(std::move(*zip)), source);
        if (!bytes) return tl::unexpected(bytes.error());
        return (*bytes)->read();
    }
    auto bytes = readFile(spot.file);
    if (!bytes) return tl::unexpected(bytes.error());
    if (contentId(*bytes) != source.id)
        return fail(Fault::Damaged, "“" + nameOf(spot.file) + "” has been changed");
    return std::make_shared<const std::vector<uint8_t>>(std::move(*bytes));
}

Json toJson(const FileStamp& s) {
    // As text: JSON's numbers need not keep 64 bits.
    return Json::list({std::to_string(s.device), std::to_string(s.inode), std::to_string(s.size),
                       std::to_string(s.modifiedNs)});
}

FileStamp readStamp(const Entry& entry) {
    const auto number = [&](size_t i) { return std::strtoull(entry.item(i, 4).text().c_str(), nullptr, 10); };
    return {number(0), number(1), number(2),
            int64_t(std::strtoll(entry.item(3, 4).text().c_str(), nullptr, 10))};
}

} // namespace glyptos
