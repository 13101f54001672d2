#include "file/project.h"

#include "base/text.h"
#include "file/archived_pictures.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/disk/freed_aside.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/release_json.h"
#include "file/release_json/treatment_codec.h"
#include "file/zip_archive.h"
#include "release/edits/edits.h"
#include "release/walks.h"

#include <map>

namespace glyptos {
namespace {

constexpr std::string_view kMimeType = "application/x-glyptos-release";
constexpr size_t kMostJsonBytes = size_t(256) << 20, kMostLookBytes = kMostFileBytes;

std::string tileEntry(const std::string& name) {
    return "tiles/" + name;
}

/// Tiles of an archive; those of one name are one.
class ArchivedTiles {
  public:
    explicit ArchivedTiles(const ZipReader& zip)
        : zip_(zip) {}

    Result<PixelTilePtr> tile(const std::string& name, const PixelFormat& format) {
        PixelTilePtr& kept = kept_[name];
        const size_t size = size_t(kPixelTileSide) * kPixelTileSide * format.pixelBytes();
        if (!kept) {
            const auto bytes = zip_.read(tileEntry(name), size);
            if (!bytes) return tl::unexpected(bytes.error());
            if (bytes->size() != size)
                return fail(Fault::Damaged, "the tile “" + name + "” has another size");
            Buffer<uint8_t> pixels(size);
            std::copy(bytes->begin(), bytes->end(), pixels.data());
            PixelTilePtr made = pixelTile(format, std::move(pixels));
            if (tileName(made->hash()) != name)
                return fail(Fault::Damaged, "the tile “" + name + "” is not the one it was saved with");
            kept = std::move(made);
        } else if ((*kept->pixels())[0].size() != size)
            return fail(Fault::Damaged, "the tile “" + name + "” has another size");
        return kept;
    }

  private:
    const ZipReader& zip_;
    std::map<std::string, PixelTilePtr> kept_;
};

/// Every tile that is painted, each once.
std::map<std::string, PixelTilePtr> tilesOf(const Release& release) {
    std::map<std::string, PixelTilePtr> out;
    eachPainted(release, [&](const PixelTiles& painted) {
        for (const auto& [place, tile] : painted.tiles()) out.emplace(tileName(tile->hash()), tile);
    });
    return out;
}

/// Tables of an archive; those of one name are one.
class ArchivedLooks {
  public:
    explicit ArchivedLooks(const ZipReader& zip)
        : zip_(zip) {}

    Result<LookTablePtr> table(const std::string& name) {
        LookTablePtr& one = tables_[name];
        if (one) return one;
        const auto text = zip_.readText(name, kMostLookBytes);
        if (!text) return tl::unexpected(text.error());
        auto table = lookTableFromCube(*text);
        if (!table) return tl::unexpected(table.error());
        one = kept(std::move(*table));
        return one;
    }

  private:
    const ZipReader& zip_;
    std::map<std::string, LookTablePtr> tables_;
};

/// Every look table as the text it is kept as, by its name.
std::map<std::string, std::string> looksOf(const Release& release) {
    std::map<std::string, std::string> out;
    eachTreatment(release, [&](const Treatment& treatment) {
        for (const FigureValue& value : treatment.figures.values())
            if (const auto* table = std::get_if<LookTablePtr>(&value); table && *table)
                out.try_emplace(lookName(**table), cubeText(**table));
    });
    return out;
}

/// Reads a picture at once, and checks it.
Result<PictureBytesPtr> heldPicture(const PictureBytes& archived, const Source& source) {
    const auto bytes = archived.read();
    if (!bytes) return tl::unexpected(bytes.error());
    if (isFont(source)) return pictureBytes(std::vector(**bytes)); // it was told by its id
    auto info = inspectPicture(**bytes, source.name);
    if (!info || info->width != source.width || info->height != source.height ||
        info->format != source.format)
        return fail(Fault::Damaged, "it is damaged: it is not the one it was saved with");
    return pictureBytes(std::vector(**bytes));
}

/// Gives each source its bytes: all of them in memory, or none.
Result<void> takePictures(Release& release, const std::shared_ptr<const ArchivedPictures>& archive,
                          size_t mostHeld) {
    const auto wrong = [](const Source& source, const Error& error) {
        return fail(error.fault,
                    (isFont(source) ? "the font “" : "the picture “") + source.name + "”: " + error.message);
    };
    size_t all = 0;
    for (auto* files : {&release.sources, &release.fonts})
        for (SourcePtr& slot : *files) {
            auto source = std::make_shared<Source>(*slot);
            auto bytes = ArchivedPictures::bytesOf(archive, *source);
            if (!bytes) return wrong(*source, bytes.error());
            source->bytes = std::move(*bytes);
            all += source->bytes->size();
            slot = std::move(source);
        }
    if (all > mostHeld) return {};
    for (auto* files : {&release.sources, &release.fonts})
        for (SourcePtr& slot : *files) {
            auto source = std::make_shared<Source>(*slot);
            auto held = heldPicture(*slot->bytes, *slot);
            if (!held) return wrong(*slot, held.error());
            source->bytes = std::move(*held);
            slot = std::move(source);
        }
    return {};
}

Result<ReleasePtr> readRelease(const std::shared_ptr<const ArchivedPictures>& archive, const FormList& forms,
                               size_t mostHeld) {
    const ZipReader& zip = archive->zip();
    auto json = zip.readText("release.json", kMostJsonBytes);
    if (!json) return tl::unexpected(json.error());
    ArchivedTiles tiles(zip);
    ArchivedLooks looks(zip);
    auto release = releaseFromJson(
        *json, forms,
        [&](const std::string& name, const PixelFormat& format) { return tiles.tile(name, format); },
        [&](const std::string& name) { return looks.table(name); });
    if (!release) return tl::unexpected(release.error());
    if (auto taken = takePictures(*release, archive, mostHeld); !taken) return tl::unexpected(taken.error());
    return std::make_shared<const Release>(std::move(*release));
}

/// Memory need not hold what is in a file now, when it is much.
void restPictures(const Release& release, const std::filesystem::path& file) {
    size_t held = 0;
    bool elsewhere = false;
    for (const SourcePtr& source : filesOf(release))
        source->bytes->areHeld() ? void(held += source->bytes->size()) : void(elsewhere = true);
    if (!elsewhere && held <= kMostHeldPictures) return;
    auto zip = ZipReader::open(file, "a Glyptos release");
    if (!zip) return;
    const auto archive = std::make_shared<const ArchivedPictures>(std::move(*zip));
    for (const SourcePtr& source : filesOf(release))
        if (auto place = ArchivedPictures::placeOf(archive, *source)) source->bytes->keepIn(std::move(place));
}

} // namespace

Result<FormList> shippedForms() {
    auto forms = loadForms(dataFolder() / "forms");
    if (!forms) return tl::unexpected(forms.error());
    FormList out;
    for (Form& form : *forms) out.push_back(std::make_shared<const Form>(std::move(form)));
    return out;
}

Result<void> saveProject(const Release& whole, const std::filesystem::path& file, const ZipWriting& writing) {
    const ReleasePtr kept = withoutUnusedSources(std::make_shared<const Release>(whole));
    const Release& release = *kept;
    const std::string json = releaseToJson(release);
    std::vector<ZipEntry> entries{{"mimetype", bytesOf(kMimeType), false},
                                  {"release.json", bytesOf(json), true}};
    const std::vector<SourcePtr> files = filesOf(release);
    for (const SourcePtr& s : files)
        if (!s->bytes) return fail(Fault::Internal, "The picture “" + s->name + "” has not been read yet.");
    for (const SourcePtr& s : files)
        entries.push_back({fileEntry(*s), {}, s->format == "svg" || isFont(*s), s->bytes});
    const auto looks = looksOf(release);
    for (const auto& [name, text] : looks) entries.push_back({name, bytesOf(text), true});
    const auto tiles = tilesOf(release);
    std::vector<std::shared_ptr<const TileLevels>> held; // until all is written
    for (const auto& [name, tile] : tiles) {
        held.push_back(tile->pixels());
        const Buffer<uint8_t>& pixels = held.back()->front();
        entries.push_back({tileEntry(name), {pixels.data(), pixels.size()}, true});
    }
    const FreedAside replaced(file);
    if (auto written = writeZip(file, entries, writing); !written) return written;
    restPictures(release, file);
    return {};
}

Result<Saved> saveApart(const Release& release, const std::filesystem::path& file,
                        const std::optional<FileStamp>& known, const ZipWriting& writing) {
    constexpr int kTries = 5; // somebody may write it again and again
    Result<void> done;
    for (int i = 0; i < kTries; ++i) {
        Saved out{file, {}, {}};
        const auto before = stampOf(file);
        const bool isOthers = known && before && *before != *known;
        if (isOthers) {
            out.file = freeBeside(file);
            out.note = "“" + nameOf(file) +
                       "” was changed by somebody else after it was opened here, and was left as it is; your "
                       "work is in “" +
                       nameOf(out.file) + "” beside it.";
        } else if (known && !before)
            out.note = "“" + nameOf(file) +
                       "” had been moved or removed by somebody else; your work was written there again.";
        const auto asBefore = [&] {
            return !known || stampOf(out.file) == (isOthers ? std::nullopt : before);
        };
        bool changed = false;
        ZipWriting careful = writing;
        careful.mayTake = [&] { return !(changed = !asBefore()) && (!writing.mayTake || writing.mayTake()); };
        done = saveProject(release, out.file, careful);
        if (done) {
            out.stamp = stampOf(out.file);
            return out;
        }
        if (!changed) break;
    }
    return tl::unexpected(done.error());
}

Result<ReleasePtr> openProject(const std::filesystem::path& file, const FormList& forms, size_t mostHeld) {
    const auto notOpened = [&](const Error& error) {
        return fail(error.fault, "“" + nameOf(file) + "” was not opened: " + error.message +
                                     ". The file was left as it is.");
    };
    auto zip = ZipReader::open(file, "a Glyptos release");
    if (!zip) return notOpened(zip.error());
    auto release = readRelease(std::make_shared<const ArchivedPictures>(std::move(*zip)), forms, mostHeld);
    if (!release) return notOpened(release.error());
    return release;
}

} // namespace glyptos
