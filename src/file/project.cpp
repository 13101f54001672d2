#include "file/project.h"

#include "base/text.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/release_json.h"
#include "file/zip_archive.h"
#include "release/edits/edits.h"

namespace glyptos {
namespace {

constexpr std::string_view kMimeType = "application/x-glyptos-release";
constexpr size_t kMostJsonBytes = size_t(256) << 20;

std::string pictureEntry(const Source& source) {
    return "pictures/" + source.id + "." + source.format;
}

Result<ReleasePtr> readRelease(const ZipReader& zip, const FormList& forms) {
    auto json = zip.readText("release.json", kMostJsonBytes);
    if (!json) return tl::unexpected(json.error());
    auto release = releaseFromJson(*json, forms);
    if (!release) return tl::unexpected(release.error());
    for (SourcePtr& slot : release->sources) {
        auto source = std::make_shared<Source>(*slot);
        auto bytes = zip.read(pictureEntry(*source), kMostFileBytes);
        if (!bytes)
            return fail(bytes.error().fault, "the picture “" + source->name + "”: " + bytes.error().message);
        auto info = inspectPicture(*bytes, source->name);
        if (!info || info->width != source->width || info->height != source->height ||
            info->format != source->format)
            return fail(Fault::Damaged,
                        "the picture “" + source->name + "” inside it is not the one it was saved with");
        source->bytes = std::make_shared<const std::vector<uint8_t>>(std::move(*bytes));
        slot = std::move(source);
    }
    return std::make_shared<const Release>(std::move(*release));
}

} // namespace

Result<FormList> shippedForms() {
    auto forms = loadForms(dataFolder() / "forms");
    if (!forms) return tl::unexpected(forms.error());
    FormList out;
    for (Form& form : *forms) out.push_back(std::make_shared<const Form>(std::move(form)));
    return out;
}

Result<void> saveProject(const Release& whole, const std::filesystem::path& file) {
    const ReleasePtr kept = withoutUnusedSources(std::make_shared<const Release>(whole));
    const Release& release = *kept;
    const std::string json = releaseToJson(release);
    std::vector<ZipEntry> entries{{"mimetype", bytesOf(kMimeType), false},
                                  {"release.json", bytesOf(json), true}};
    for (const SourcePtr& s : release.sources)
        entries.push_back({pictureEntry(*s), *s->bytes, s->format == "svg"});
    return writeZip(file, entries);
}

Result<ReleasePtr> openProject(const std::filesystem::path& file, const FormList& forms) {
    const auto notOpened = [&](const Error& error) {
        return fail(error.fault, "“" + nameOf(file) + "” was not opened: " + error.message +
                                     ". The file was left as it is.");
    };
    const auto zip = ZipReader::open(file, "a Glyptos release");
    if (!zip) return notOpened(zip.error());
    auto release = readRelease(*zip, forms);
    if (!release) return notOpened(release.error());
    return release;
}

} // namespace glyptos
