#include "file/brushes.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/ornaments.h"
#include "file/own_files.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/brush_codec.h"
#include "file/xdg_folders.h"

#include <QStringList>
#include <algorithm>

namespace glyptos {
namespace {

constexpr size_t kLargestFile = size_t(4) << 20;

Stamp ornamentStamp(const Entry& entry) {
    const std::string id = entry.text();
    for (const Ornament& ornament : shippedOrnaments())
        if (ornament.id == id) return {{}, ornament.shape.contours};
    entry.wrong("names an ornament that is not there", Fault::NotFound);
}

NamedBrush read(const Entry& e) {
    NamedBrush out;
    out.name = e.text("name");
    if (trimmed(out.name).empty()) e.wrong("has no name");
    if (e.has("words")) out.words = e.texts("words");
    out.brush = readBrush(e);
    if (e.has("stamps")) out.stamps = readStamps(e.at("stamps"));
    if (e.has("ornaments"))
        e.each("ornaments", [&](const Entry& one) { out.stamps.push_back(ornamentStamp(one)); });
    if (out.brush.tip == TipKind::Stamp && out.stamps.empty()) e.wrong("has no stamp");
    return out;
}

std::vector<NamedBrush> brushesIn(const std::filesystem::path& folder, bool own,
                                  std::vector<std::string>& troubles) {
    std::vector<NamedBrush> out;
    for (const auto& file : jsonFilesIn(folder)) {
        auto brush = readBrushFile(file);
        if (!brush) {
            troubles.push_back(brush.error().message);
            continue;
        }
        brush->own = own;
        out.push_back(std::move(*brush));
    }
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
    return out;
}

QString folded(std::string_view text) {
    return QString::fromUtf8(text.data(), qsizetype(text.size())).toCaseFolded();
}

} // namespace

Result<NamedBrush> readBrushFile(const std::filesystem::path& file) {
    std::error_code none;
    if (std::filesystem::file_size(file, none) > kLargestFile)
        return fail(Fault::Damaged, nameOf(file) + " is too large to be a brush.");
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto brush = guarded({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, "brush", read);
    if (!brush)
        return fail(brush.error().fault,
                    nameOf(file) + " is not a brush that can be used: " + brush.error().message + ".");
    brush->file = file;
    return std::move(*brush);
}

const std::vector<NamedBrush>& shippedBrushes() {
    static const std::vector<NamedBrush> all = [] {
        std::vector<std::string> troubles;
        return brushesIn(dataFolder() / "brushes", false, troubles);
    }();
    return all;
}

std::filesystem::path ownBrushFolder() {
    return dataHome() / "glyptos" / "brushes";
}

std::vector<NamedBrush> ownBrushes(std::vector<std::string>& troubles) {
    return brushesIn(ownBrushFolder(), true, troubles);
}

Result<NamedBrush> saveBrush(NamedBrush brush) {
    brush.own = true;
    std::vector<std::string> troubles;
    const auto there = ownBrushes(troubles);
    const auto same =
        std::find_if(there.begin(), there.end(), [&](const auto& b) { return b.name == brush.name; });
    brush.file = same != there.end() ? same->file : freeFileFor(ownBrushFolder(), brush.name);
    Json json = toJson(brush.brush);
    json["name"] = brush.name;
    Json words = Json::list(), stamps = Json::list();
    for (const std::string& word : brush.words) words.push_back(word);
    for (const Stamp& stamp : brush.stamps) stamps.push_back(toJson(stamp));
    json["words"] = std::move(words);
    if (!brush.stamps.empty()) json["stamps"] = std::move(stamps);
    if (auto done = writeOwnFile(brush.file, json, "The brush " + brush.name + " was not saved"); !done)
        return tl::unexpected(done.error());
    return brush;
}

Result<void> removeBrush(const NamedBrush& brush) {
    std::error_code code;
    if (!brush.own || !std::filesystem::remove(brush.file, code) || code)
        return fail(Fault::Unwritable, "The brush " + brush.name + " could not be removed.");
    return {};
}

bool matches(const NamedBrush& brush, std::string_view words) {
    QString all = " " + folded(brush.name);
    for (const std::string& word : brush.words) all += " " + folded(word);
    for (const QString& word : folded(words).split(' ', Qt::SkipEmptyParts))
        if (!all.contains(" " + word)) return false;
    return true;
}

} // namespace glyptos
