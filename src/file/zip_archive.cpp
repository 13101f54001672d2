#include "file/zip_archive.h"

#include "file/atomic_file.h"
#include "file/zip_sink.h"

#include <zip.h>

namespace glyptos {
namespace {

constexpr time_t kDate = 946684800; // 2000-01-01, the same for every entry

bool addEntry(zip_t* archive, const ZipEntry& entry) {
    zip_source_t* source = zip_source_buffer(archive, entry.bytes.data(), entry.bytes.size(), 0);
    if (!source) return false;
    const zip_int64_t index = zip_file_add(archive, entry.name.c_str(), source, ZIP_FL_ENC_UTF_8);
    if (index < 0) {
        zip_source_free(source);
        return false;
    }
    const auto at = static_cast<zip_uint64_t>(index);
    zip_set_file_compression(archive, at, entry.compress ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0);
    zip_file_set_mtime(archive, at, kDate, 0);
    return true;
}

} // namespace

void ZipReader::Discard::operator()(zip* archive) const {
    zip_discard(archive);
}

Result<ZipReader> ZipReader::open(const std::filesystem::path& file, const std::string& kind) {
    std::error_code code;
    if (!std::filesystem::exists(file, code)) return fail(Fault::Unreadable, "there is no such file");
    int error = 0;
    ZipReader reader;
    reader.archive_.reset(zip_open(file.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &error));
    if (reader.archive_) {
        const auto size = std::filesystem::file_size(file, code);
        reader.left_ = mostUnpacked(code ? 0 : size_t(size));
        return reader;
    }
    if (error == ZIP_ER_OPEN || error == ZIP_ER_READ) return fail(Fault::Unreadable, "it cannot be read");
    return fail(Fault::Damaged, "it is not " + kind + ", or it is cut short");
}

bool ZipReader::has(const std::string& entry) const {
    return zip_name_locate(archive_.get(), entry.c_str(), 0) >= 0;
}

Result<std::vector<uint8_t>> ZipReader::read(const std::string& entry, size_t most) const {
    zip_stat_t stat;
    if (zip_stat(archive_.get(), entry.c_str(), 0, &stat) != 0)
        return fail(Fault::Damaged, "“" + entry + "” is missing inside it");
    if (stat.size > most) return fail(Fault::TooLarge, "“" + entry + "” inside it is too large");
    constexpr zip_uint64_t kDensest = 1032, kSlack = 1024; // deflate packs 258 bytes into two bits
    if (stat.size / kDensest > stat.comp_size + kSlack)
        return fail(Fault::Damaged, "“" + entry + "” inside it is damaged");
    if (stat.size > left_)
        return fail(Fault::TooLarge, "it unpacks to far more than a file of its size should hold");
    left_ -= stat.size;
    std::vector<uint8_t> bytes(stat.size);
    zip_file_t* file = zip_fopen(archive_.get(), entry.c_str(), 0);
    const zip_int64_t n = file ? zip_fread(file, bytes.data(), bytes.size()) : -1;
    // The checksum is compared once the entry's end has been read.
    uint8_t beyond = 0;
    const bool ended = file && zip_fread(file, &beyond, 1) == 0;
    if (file) zip_fclose(file);
    if (n != static_cast<zip_int64_t>(bytes.size()) || !ended)
        return fail(Fault::Damaged, "“" + entry + "” inside it is damaged");
    return bytes;
}

Result<std::string> ZipReader::readText(const std::string& entry, size_t most) const {
    auto bytes = read(entry, most);
    if (!bytes) return tl::unexpected(bytes.error());
    return std::string(bytes->begin(), bytes->end());
}

Result<void> writeZip(const std::filesystem::path& file, const std::vector<ZipEntry>& entries,
                      const std::function<bool()>& mayTake) {
    return replaceFile(file, [&](int fresh) -> Result<void> {
        ZipSink sink(fresh);
        zip_source_t* source = sink.source();
        zip_t* archive = source ? zip_open_from_source(source, ZIP_CREATE | ZIP_TRUNCATE, nullptr) : nullptr;
        if (!archive) {
            if (source) zip_source_free(source);
            return fail(Fault::Unwritable, "it cannot be created");
        }
        bool added = true;
        for (const ZipEntry& entry : entries) added = added && addEntry(archive, entry);
        if (added && zip_close(archive) == 0) {
            if (mayTake && !mayTake()) return fail(Fault::Unwritable, "it has changed meanwhile");
            return {};
        }
        std::string why = zip_strerror(archive);
        zip_discard(archive);
        return fail(Fault::Unwritable, std::move(why));
    });
}

} // namespace glyptos
