#include "support/readers.h"

#include "color/palette_text.h"
#include "crate/agency.h"
#include "crate/book.h"
#include "crate/entry.h"
#include "file/brushes.h"
#include "file/cut/cut_job.h"
#include "file/disk/atomic_file.h"
#include "file/journal/journal_reader.h"
#include "file/looks.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_words.h"
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "file/release_json/treatment_codec.h"
#include "file/song_feed.h"
#include "file/starts.h"
#include "file/track_lists.h"
#include "form/flat.h"

#include <algorithm>
#include <cstring>
#include <stdexcept>
#include <sys/mman.h>
#include <unistd.h>
#include <xxhash.h>

namespace glyptos::test {
namespace {

using Bytes = std::span<const uint8_t>;

std::string_view textOf(Bytes bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

/// The bytes as a file, for as long as that is there.
class AsFile {
  public:
    explicit AsFile(Bytes bytes)
        : file_(::memfd_create("input", MFD_CLOEXEC)) {
        if (file_ < 0 || !writeAll(file_, bytes)) throw std::runtime_error("no memory for a file");
    }
    ~AsFile() { ::close(file_); }
    AsFile(const AsFile&) = delete;
    AsFile& operator=(const AsFile&) = delete;
    std::filesystem::path path() const { return "/proc/self/fd/" + std::to_string(file_); }

  private:
    int file_;
};

const FormList& forms() {
    static const FormList all = shippedForms().value_or(FormList());
    return all;
}

Result<PixelTilePtr> anyTile(const std::string& name, const PixelFormat& format) {
    if (name.size() != 32) return noTiles(name, format);
    Buffer<uint8_t> pixels(size_t(kPixelTileSide) * kPixelTileSide * format.pixelBytes());
    std::fill_n(pixels.data(), pixels.size(), uint8_t(1));
    return pixelTile(format, std::move(pixels));
}

/// What is read is written again as it is read again.
bool readRelease(Bytes bytes) {
    const auto once = releaseFromJson(textOf(bytes), forms(), anyTile);
    if (!once) return false;
    const std::string text = releaseToJson(*once);
    const auto again = releaseFromJson(text, forms(), anyTile);
    if (!again || releaseToJson(*again) != text) throw std::logic_error("a release does not come back");
    return true;
}

bool readProject(Bytes bytes) {
    return openProject(AsFile(bytes).path(), forms()).has_value();
}

bool readPicture(Bytes bytes) {
    const auto info = inspectPicture(bytes, "input");
    // Large ones are bounded by their pixels, and would only be slow here.
    constexpr int64_t kMost = 4'000'000;
    if (!info || int64_t(info->width) * info->height > kMost) return false;
    [[maybe_unused]] const SourceFacts words = readPictureWords(bytes);
    const auto reduced = decodePicture(bytes, "input", {}, 8);
    return decodePicture(bytes, "input", {}).has_value() && reduced.has_value();
}

template <bool (*Starts)(Bytes)>
bool readOnly(Bytes bytes) {
    return Starts(bytes) && readPicture(bytes);
}
bool isJpeg(Bytes b) {
    return b.size() > 3 && b[0] == 0xff && b[1] == 0xd8;
}
bool isPng(Bytes b) {
    return b.size() > 8 && b[0] == 0x89 && b[1] == 'P';
}
bool isTiff(Bytes b) {
    return b.size() > 8 && (b[0] == 'I' || b[0] == 'M') && b[0] == b[1];
}
bool isWebp(Bytes b) {
    return b.size() > 12 && textOf(b).starts_with("RIFF");
}
bool isDrawing(Bytes b) {
    return textOf(b).find("<svg") != std::string_view::npos;
}

bool readRaster(Bytes bytes) {
    return readOpenRaster(AsFile(bytes).path()).has_value();
}

bool readCuts(Bytes bytes) {
    const auto job = readCutJob(bytes, "input");
    if (job) drawCutJob(*job, faultsOf(*job), 64);
    return job.has_value();
}

bool readForm(Bytes bytes) {
    const auto form = parseForm(textOf(bytes), "input");
    return form && workOut(*form).has_value();
}

bool readBook(Bytes bytes) {
    const AsFile file(bytes);
    const auto book = Book::open(file.path());
    if (!book) return false;
    size_t good = 0;
    const auto read = book->read(0, [&](std::string_view line) {
        const Json json = parseJson(line).value_or(Json());
        if (const Json* put = json.find("put")) good += entryFromJson(put->dump()).has_value();
    });
    return read && good > 0;
}

/// The records of a journal with lengths and checksums that are right, so that what is in them is read, too.
std::vector<uint8_t> sealed(Bytes bytes) {
    constexpr size_t kHeader = 24, kKindAt = 4, kSizeAt = 8, kChecksumAt = 16; // docs/journal.md
    std::vector<uint8_t> out(bytes.begin(), bytes.end());
    for (size_t at = 0; at + kHeader <= out.size();) {
        uint32_t kind = 0;
        uint64_t size = 0;
        std::memcpy(&kind, out.data() + at + kKindAt, sizeof kind);
        std::memcpy(&size, out.data() + at + kSizeAt, sizeof size);
        size = std::min<uint64_t>(size, out.size() - at - kHeader);
        const uint64_t checksum = XXH3_64bits_withSeed(out.data() + at + kHeader, size, size << 8U | kind);
        std::memcpy(out.data() + at + kSizeAt, &size, sizeof size);
        std::memcpy(out.data() + at + kChecksumAt, &checksum, sizeof checksum);
        at += kHeader + size;
    }
    return out;
}

bool readFound(Bytes bytes) {
    const AsFile file(sealed(bytes));
    const auto back = readJournal(file.path(), forms());
    if (!back) return false;
    for (const HistoryStep& step : back->start.history.steps())
        for (const SourcePtr& source : step.release->sources)
            [[maybe_unused]] const auto picture = source->bytes->read();
    return true;
}

bool readTable(Bytes bytes) {
    const auto table = lookTableFromCube(textOf(bytes));
    if (!table) return false;
    return lookTableFromCube(cubeText(*table)).has_value();
}

template <auto Read>
bool readText(Bytes bytes) {
    return Read(textOf(bytes)).has_value();
}
template <auto Read>
bool readNamedText(Bytes bytes) {
    return Read(textOf(bytes), "input").has_value();
}
template <auto Read>
bool readFileOf(Bytes bytes) {
    return Read(AsFile(bytes).path()).has_value();
}

} // namespace

const std::vector<Reader>& readers() {
    static const std::vector<Reader> all{
        {"release", readRelease},
        {"archive", readProject},
        {"journal", readFound},
        {"jpeg", readOnly<isJpeg>},
        {"png", readOnly<isPng>},
        {"tiff", readOnly<isTiff>},
        {"webp", readOnly<isWebp>},
        {"drawing", readOnly<isDrawing>},
        {"open-raster", readRaster},
        {"form", readForm},
        {"brief", readText<briefFromJson>},
        {"tracks-text", readText<tracksFromText>},
        {"tracks-csv", readNamedText<tracksFromCsv>},
        {"cue", readNamedText<tracksFromCue>},
        {"song-feed", readText<songFeedFromJson>},
        {"start", readNamedText<startFromJson>},
        {"look-table", readTable},
        {"look", readFileOf<readLookFile>},
        {"brush", readFileOf<readBrushFile>},
        {"crate-book", readBook},
        {"agency", readText<agencyTermsFromJson>},
        {"palette", readNamedText<paletteFromText>},
        {"cut-paths", readCuts},
    };
    return all;
}

const Reader& reader(const std::string& name) {
    const auto found =
        std::find_if(readers().begin(), readers().end(), [&](const Reader& r) { return r.name == name; });
    if (found == readers().end()) throw std::invalid_argument("no reader is called " + name);
    return *found;
}

} // namespace glyptos::test
