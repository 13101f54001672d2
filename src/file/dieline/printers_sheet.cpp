#include "file/dieline/printers_sheet.h"

#include "base/text.h"
#include "file/dieline/sheet_reading.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr size_t kMostBytes = size_t(64) << 20;

bool isPdf(std::span<const uint8_t> bytes) {
    constexpr std::string_view kMark = "%PDF-";
    const std::string_view head(reinterpret_cast<const char*>(bytes.data()),
                                std::min<size_t>(bytes.size(), 1024)); // where it may stand
    return head.find(kMark) != head.npos;
}

PrintersSheet read(std::span<const uint8_t> bytes, size_t page) {
    if (bytes.size() > kMostBytes) throw NoSheet("it is larger than 64 MB");
    if (isPdf(bytes)) return readPdfSheet(bytes, page);
    if (page > 0) throw NoSheet("it has one page");
    return readSvgSheet(bytes);
}

} // namespace

void addLines(PrintersSheet& sheet, const Path& mm, const std::string& name, size_t& points) {
    for (Polyline& line : flattened(mm, kDielineTolerance)) {
        points += line.points.size();
        if (points > kMostDielinePoints) throw NoSheet("it has over half a million points");
        if (line.points.size() > 1) sheet.lines.push_back({dielineRole(name), std::move(line), name});
    }
}

Result<PrintersSheet> readPrintersSheet(std::span<const uint8_t> bytes, const std::string& name,
                                        size_t page) {
    try {
        PrintersSheet sheet = read(bytes, page);
        if (sheet.lines.empty()) throw NoSheet("no line is drawn on it");
        sheet.name = name;
        return sheet;
    } catch (const std::exception& why) {
        return fail(Fault::Damaged, visible(name) + " cannot be used as a printer's sheet: " + why.what() +
                                        ". Nothing was changed; ask the plant for it as a plain PDF.");
    }
}

} // namespace glyptos
