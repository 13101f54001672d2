#include "file/project.h"

#include "file/atomic_file.h"
#include "file/data_folder.h"
#include "file/picture_reader.h"
#include "file/release_json.h"

#include <memory>
#include <zip.h>

namespace glyptos {
namespace {

constexpr const char* kMimeType = "application/x-glyptos-release";
constexpr size_t kMostJsonBytes = size_t(256) << 20;

std::string pictureEntry(const Source& source) {
    return "pictures/" + source.id + "." + source.format;
}

struct DiscardZip {
    void operator()(zip_t* z) const { zip_discard(z); }
};
using ZipPtr = std::unique_ptr<zip_t, DiscardZip>;

/// Adds an entry that refers to bytes which outlive the archive. Dates are fixed so that the same release
/// gives the same file.
bool addEntry(zip_t* zip, const std::string& name, const void* data, size_t size, bool compress) {
    zip_source_t* source = zip_source_buffer(zip, data, size, 0);
    if (!source) return false;
    const zip_int64_t index = zip_file_add(zip, name.c_str(), source, ZIP_FL_ENC_UTF_8);
    if (index < 0) {
        zip_source_free(source);
        return false;
    }
    const auto at = static_cast<zip_uint64_t>(index);
    zip_set_file_compression(zip, at, compress ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0);
    zip_file_set_mtime(zip, at, 946684800, 0);
    return true;
}

Result<std::vector<uint8_t>> readEntry(zip_t* zip, const std::string& name, size_t most) {
    zip_stat_t stat;
    if (zip_stat(zip, name.c_str(), 0, &stat) != 0)
        return fail(Fault::Damaged, "“" + name + "” is missing inside it");
    if (stat.size > most) return fail(Fault::TooLarge, "“" + name + "” inside it is too large");
    std::vector<uint8_t> bytes(stat.size);
    zip_file_t* file = zip_fopen(zip, name.c_str(), 0);
    const zip_int64_t n = file ? zip_fread(file, bytes.data(), bytes.size()) : -1;
    // The checksum is compared once the entry's end has been read.
    uint8_t beyond = 0;
    const bool ended = file && zip_fread(file, &beyond, 1) == 0;
    const bool whole = n == static_cast<zip_int64_t>(bytes.size()) && ended;
    if (file) zip_fclose(file);
    if (!whole) return fail(Fault::Damaged, "“" + name + "” inside it is damaged");
    return bytes;
}

Result<ReleasePtr> readRelease(zip_t* zip, const FormList& forms) {
    auto json = readEntry(zip, "release.json", kMostJsonBytes);
    if (!json) return tl::unexpected(json.error());
    auto release = releaseFromJson({reinterpret_cast<const char*>(json->data()), json->size()}, forms);
    if (!release) return tl::unexpected(release.error());
    for (SourcePtr& slot : release->sources) {
        auto source = std::make_shared<Source>(*slot);
        auto bytes = readEntry(zip, pictureEntry(*source), kMostFileBytes);
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

Result<void> saveProject(const Release& release, const std::filesystem::path& file) {
    const std::string json = releaseToJson(release);
    return replaceFile(file, [&](const std::filesystem::path& fresh) -> Result<void> {
        int code = 0;
        ZipPtr zip(zip_open(fresh.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code));
        if (!zip) return fail(Fault::Unwritable, "it cannot be created");
        bool added =
            addEntry(zip.get(), "mimetype", kMimeType, std::char_traits<char>::length(kMimeType), false) &&
            addEntry(zip.get(), "release.json", json.data(), json.size(), true);
        for (const SourcePtr& s : release.sources)
            added = added && addEntry(zip.get(), pictureEntry(*s), s->bytes->data(), s->bytes->size(),
                                      s->format == "svg");
        if (!added || zip_close(zip.get()) != 0) return fail(Fault::Unwritable, zip_strerror(zip.get()));
        (void)zip.release(); // closed, and freed with it
        return {};
    });
}

Result<ReleasePtr> openProject(const std::filesystem::path& file, const FormList& forms) {
    const std::string name = file.filename().string();
    const auto notOpened = [&](Fault fault, const std::string& why) {
        return fail(fault, "“" + name + "” was not opened: " + why + ". The file was left as it is.");
    };
    std::error_code code;
    if (!std::filesystem::exists(file, code)) return notOpened(Fault::Unreadable, "there is no such file");
    int error = 0;
    const ZipPtr zip(zip_open(file.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &error));
    if (!zip)
        return error == ZIP_ER_OPEN || error == ZIP_ER_READ
                   ? notOpened(Fault::Unreadable, "it cannot be read")
                   : notOpened(Fault::Damaged, "it is not a Glyptos release, or it is cut short");
    auto release = readRelease(zip.get(), forms);
    if (!release) return notOpened(release.error().fault, release.error().message);
    return release;
}

} // namespace glyptos
