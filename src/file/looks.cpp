#include "file/looks.h"

#include "base/inside.h"
#include "base/text.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/own_files.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/treatment_codec.h"
#include "file/xdg_folders.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr size_t kLargestFile = size_t(4) << 20, kLargestCubeFile = size_t(1) << 30;

LookSource besides(const std::filesystem::path& folder) {
    return [folder](const std::string& name) -> Result<LookTablePtr> {
        const auto file = inside(folder, std::filesystem::path(name).filename());
        if (!file) return tl::unexpected(file.error());
        return readCubeFile(*file);
    };
}

NamedLook read(const Entry& e, const std::filesystem::path& folder) {
    constexpr std::array<const char*, 2> kUnits{"mm", "px"};
    NamedLook out;
    out.name = e.text("name");
    if (trimmed(out.name).empty()) e.wrong("has no name");
    out.unit = e.oneOf("unit", kUnits) == 0 ? Unit::Mm : Unit::Px;
    out.side = e.positive("side");
    out.treatments = readTreatments(e.at("treatments"), {out.unit, noTiles, besides(folder)});
    return out;
}

std::vector<NamedLook> looksIn(const std::filesystem::path& folder, bool own,
                               std::vector<std::string>& troubles) {
    std::vector<NamedLook> out;
    for (const auto& file : jsonFilesIn(folder)) {
        auto look = readLookFile(file);
        if (!look) {
            troubles.push_back(look.error().message);
            continue;
        }
        look->own = own;
        out.push_back(std::move(*look));
    }
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
    return out;
}

/// Writes the tables of a look beside it; the list as JSON names them.
Result<Json> withTablesBeside(const NamedLook& look) {
    for (const Treatment& treatment : look.treatments)
        for (const FigureValue& value : treatment.figures.values()) {
            const auto* table = std::get_if<LookTablePtr>(&value);
            if (!table || !*table) continue;
            const auto file = look.file.parent_path() / std::filesystem::path(lookName(**table)).filename();
            if (auto written = writeCubeFile(file, **table); !written) return tl::unexpected(written.error());
        }
    return Json(toJson(look.treatments, look.unit));
}

} // namespace

Treatments fitted(const NamedLook& look, double shorterSide) {
    return scaled(look.treatments, shorterSide / look.side);
}

NamedLook lookOf(std::string name, Treatments treatments, double shorterSide, Unit unit) {
    // What is painted or placed belongs to one panel.
    for (Treatment& t : treatments) {
        t.mask = nullptr;
        for (FigureValue& value : t.figures.values())
            if (std::holds_alternative<std::optional<Vec2>>(value)) value = std::optional<Vec2>();
    }
    return {std::move(name), std::move(treatments), shorterSide, unit, {}, true};
}

Result<NamedLook> readLookFile(const std::filesystem::path& file) {
    std::error_code none;
    if (std::filesystem::file_size(file, none) > kLargestFile)
        return fail(Fault::Damaged, nameOf(file) + " is too large to be a look.");
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto look = guarded({reinterpret_cast<const char*>(bytes->data()), bytes->size()}, "look",
                        [&](const Entry& e) { return read(e, file.parent_path()); });
    if (!look)
        return fail(look.error().fault,
                    nameOf(file) + " is not a look that can be used: " + look.error().message + ".");
    look->file = file;
    return std::move(*look);
}

const std::vector<NamedLook>& shippedLooks() {
    static const std::vector<NamedLook> all = [] {
        std::vector<std::string> troubles;
        return looksIn(dataFolder() / "looks", false, troubles);
    }();
    return all;
}

std::filesystem::path ownLookFolder() {
    return dataHome() / "glyptos" / "looks";
}

std::vector<NamedLook> ownLooks(std::vector<std::string>& troubles) {
    return looksIn(ownLookFolder(), true, troubles);
}

Result<NamedLook> saveLook(NamedLook look) {
    std::vector<std::string> troubles;
    const auto there = ownLooks(troubles);
    const auto same =
        std::find_if(there.begin(), there.end(), [&](const auto& l) { return l.name == look.name; });
    look.own = true;
    look.file = same != there.end() ? same->file : freeFileFor(ownLookFolder(), look.name);
    const std::string otherwise = "The look " + look.name + " was not kept";
    std::error_code code;
    std::filesystem::create_directories(ownLookFolder(), code);
    auto list = withTablesBeside(look);
    if (!list) return tl::unexpected(list.error());
    const Json json{{"name", look.name},
                    {"unit", look.unit == Unit::Px ? "px" : "mm"},
                    {"side", look.side},
                    {"treatments", std::move(*list)}};
    if (auto done = writeOwnFile(look.file, json, otherwise); !done) return tl::unexpected(done.error());
    return look;
}

Result<void> removeLook(const NamedLook& look) {
    std::error_code code;
    if (!look.own || !std::filesystem::remove(look.file, code) || code)
        return fail(Fault::Unwritable, "The look " + look.name + " could not be removed.");
    return {};
}

Result<LookTablePtr> readCubeFile(const std::filesystem::path& file) {
    std::error_code none;
    if (std::filesystem::file_size(file, none) > kLargestCubeFile)
        return fail(Fault::TooLarge, nameOf(file) + " is too large to be a table of colours.");
    const auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    auto table = lookTableFromCube({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
    if (!table)
        return fail(table.error().fault, nameOf(file) + " is not a table of colours that can be used: " +
                                             table.error().message + ". Nothing was changed.");
    if (table->title.empty()) table->title = file.stem().string();
    return kept(std::move(*table));
}

Result<void> writeCubeFile(const std::filesystem::path& file, const LookTable& table) {
    const std::string text = cubeText(table);
    return writeFile(file, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
}

} // namespace glyptos
