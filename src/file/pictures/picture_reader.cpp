#include "file/pictures/picture_reader.h"

#include "base/text.h"
#include "drawing/wire.h"
#include "file/data_folder.h"
#include "file/pictures/codecs.h"
#include "file/pictures/picture_words.h"

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <sys/mman.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <xxhash.h>

namespace glyptos {
namespace codecs {

Result<void> checkSize(double width, double height) {
    if (width < 1 || height < 1) return fail(Fault::Damaged, "has no pixels");
    if (width > kMostPixelsASide || height > kMostPixelsASide || width * height > double(kMostPixels))
        return fail(Fault::TooLarge, "claims to be " + shortNumber(width, 0) + " × " +
                                         shortNumber(height, 0) + " pixels, which is over the limit of " +
                                         std::to_string(kMostPixels / 1'000'000) + " megapixels");
    return {};
}

bool promisesMoreThanItHolds(Data bytes, bool beforePixels) {
    constexpr size_t kSignature = 8, kAround = 12; // length, name and checksum of a chunk
    constexpr uint8_t kPng[] = {0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'};
    if (bytes.size() < kSignature || !std::equal(std::begin(kPng), std::end(kPng), bytes.begin()))
        return false;
    for (size_t at = kSignature; at + kAround <= bytes.size();) {
        const size_t length = size_t(bytes[at]) << 24U | size_t(bytes[at + 1]) << 16U |
                              size_t(bytes[at + 2]) << 8U | bytes[at + 3];
        if (beforePixels && bytes[at + 4] == 'I' && bytes[at + 5] == 'D') return false; // IDAT
        if (length > bytes.size() - at - kAround) return true;
        at += kAround + length;
    }
    return false;
}

int exifOrientation(Data bytes) {
    if (promisesMoreThanItHolds(bytes, false)) return 1;
    try {
        Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
        const auto image = Exiv2::ImageFactory::open(bytes.data(), static_cast<long>(bytes.size()));
        image->readMetadata();
        const auto found = image->exifData().findKey(Exiv2::ExifKey("Exif.Image.Orientation"));
        const long value = found == image->exifData().end() ? 1 : found->toLong();
        return value >= 1 && value <= 8 ? static_cast<int>(value) : 1;
    } catch (const std::exception&) {
        return 1; // no readable metadata is no reason not to show the picture
    }
}

void RawPicture::letGo(int from, int to) {
    constexpr uintptr_t kPage = 4096;
    const auto begin = (reinterpret_cast<uintptr_t>(row(from)) + kPage - 1) & ~(kPage - 1),
               end = reinterpret_cast<uintptr_t>(row(to)) & ~(kPage - 1);
    if (begin < end) ::madvise(reinterpret_cast<void*>(begin), end - begin, MADV_DONTNEED);
}

} // namespace codecs

namespace {

using codecs::Data;
using codecs::RawPicture;

bool startsWith(Data bytes, std::string_view magic, size_t at = 0) {
    return bytes.size() >= at + magic.size() &&
           std::memcmp(bytes.data() + at, magic.data(), magic.size()) == 0;
}

bool isTiff(Data bytes) {
    for (const char* magic : {"II*\0", "MM\0*", "II+\0", "MM\0+"}) // both byte orders, classic and large
        if (startsWith(bytes, std::string_view(magic, 4))) return true;
    return false;
}

bool isSvg(Data bytes) {
    const std::string_view head(reinterpret_cast<const char*>(bytes.data()),
                                std::min<size_t>(bytes.size(), 4096));
    return head.find("<svg") != head.npos || head.find("<!DOCTYPE svg") != head.npos;
}

/// One format: how its files begin, and who reads them.
struct Codec {
    bool (*recognises)(Data);
    Result<PictureInfo> (*inspect)(Data);
    Result<RawPicture> (*decode)(Data, int reduce, double drawingScale);
};

constexpr Codec kCodecs[] = {
    {[](Data b) { return startsWith(b, "\xff\xd8\xff"); }, codecs::inspectJpeg,
     [](Data b, int reduce, double) { return codecs::decodeJpeg(b, reduce); }},
    {[](Data b) { return startsWith(b, "\x89PNG\r\n\x1a\n"); }, codecs::inspectPng,
     [](Data b, int, double) { return codecs::decodePng(b); }},
    {isTiff, codecs::inspectTiff, [](Data b, int, double) { return codecs::decodeTiff(b); }},
    {[](Data b) { return startsWith(b, "RIFF") && startsWith(b, "WEBP", 8); }, codecs::inspectWebp,
     [](Data b, int, double) { return codecs::decodeWebp(b); }},
    {[](Data b) { return startsWith(b, drawing::kPdfMark); }, codecs::inspectPdf,
     [](Data b, int, double scale) { return codecs::decodePdf(b, scale); }},
    {isSvg, codecs::inspectSvg, [](Data b, int, double scale) { return codecs::decodeSvg(b, scale); }},
};

const Codec* codecFor(Data bytes) {
    const auto found = std::find_if(std::begin(kCodecs), std::end(kCodecs),
                                    [&](const Codec& codec) { return codec.recognises(bytes); });
    return found == std::end(kCodecs) ? nullptr : found;
}

tl::unexpected<Error> named(const Error& trouble, const std::string& name) {
    return fail(trouble.fault, "The picture “" + name + "” " + trouble.message + "; it was not brought in.");
}

Error notAPicture(Data bytes) {
    if (bytes.empty()) return {Fault::Damaged, "is empty"};
    return {Fault::Unsupported, "is not a JPEG, PNG, TIFF, WebP, SVG or PDF file"};
}

/// Where stored pixel (x, y) goes once the picture is turned upright (Exif 2.32, tag 0x0112).
struct Turn {
    int width, height, orientation; ///< stored size
    std::pair<int, int> place(int x, int y) const {
        switch (orientation) {
        case 2:
            return {width - 1 - x, y};
        case 3:
            return {width - 1 - x, height - 1 - y};
        case 4:
            return {x, height - 1 - y};
        case 5:
            return {y, x};
        case 6:
            return {height - 1 - y, x};
        case 7:
            return {height - 1 - y, width - 1 - x};
        case 8:
            return {y, width - 1 - x};
        default:
            return {x, y};
        }
    }
};

/// One row of straight samples and of working colours.
template <class T>
struct RowScratch {
    std::vector<T> straight, working;
};

/// A row of colours without alpha that lies as it is to be seen.
template <class T>
void spreadRow(const T* rgb, size_t n, T* rgba) {
    constexpr T full = T(~T(0));
    for (size_t i = 0; i < n; ++i, rgb += 3, rgba += 4)
        rgba[0] = rgb[0], rgba[1] = rgb[1], rgba[2] = rgb[2], rgba[3] = full;
}

template <class T>
void finishRow(const RawPicture& raw, const ToWorkingSpace& convert, int y, RowScratch<T>& scratch,
               Picture& out) {
    const Turn turn{raw.width, raw.height, raw.orientation};
    constexpr uint32_t full = T(~T(0));
    const size_t n = size_t(raw.width), colours = size_t(channelsOf(raw.space)), all = size_t(raw.channels());
    const T* in = reinterpret_cast<const T*>(raw.row(y));
    const T* straight = in;
    if (raw.alpha) {
        for (size_t i = 0; i < n; ++i)
            for (size_t c = 0; c < colours; ++c) {
                const uint32_t v = in[i * all + c], a = in[i * all + colours];
                scratch.straight[i * colours + c] =
                    raw.premultiplied && a ? static_cast<T>(std::min(full, (v * full + a / 2) / a))
                                           : static_cast<T>(v);
            }
        straight = scratch.straight.data();
    }
    const T* working = straight;
    if (!convert.isIdentity()) {
        convert.convert(straight, scratch.working.data(), n);
        working = scratch.working.data();
    }
    if (!raw.alpha && raw.orientation <= 1) return spreadRow(working, n, out.row<T>(y));
    for (size_t i = 0; i < n; ++i) {
        const uint32_t a = raw.alpha ? in[i * all + colours] : full;
        const auto [px, py] = turn.place(static_cast<int>(i), y);
        T* p = out.row<T>(py) + 4 * size_t(px);
        std::copy_n(working + 3 * i, 3, p);
        p[3] = static_cast<T>(a);
    }
}

template <class T>
Picture finished(RawPicture raw, std::span<const uint8_t> pressProfile) {
    const ToWorkingSpace convert(raw.space, raw.sixteen, raw.profile, pressProfile);
    const bool turned = raw.orientation >= 5; // onto its side
    Picture out =
        turned ? Picture::create<T>(raw.height, raw.width) : Picture::create<T>(raw.width, raw.height);
    tbb::parallel_for(tbb::blocked_range<int>(0, raw.height, 64), [&](const tbb::blocked_range<int>& rows) {
        RowScratch<T> scratch{std::vector<T>(size_t(raw.width) * 4), std::vector<T>(size_t(raw.width) * 3)};
        for (int y = rows.begin(); y < rows.end(); ++y) finishRow<T>(raw, convert, y, scratch, out);
        raw.letGo(rows.begin(), rows.end()); // so that there are never two of a large picture
    });
    out.opaque = !raw.alpha;
    if (raw.alpha) {
        out.opaque = true;
        for (int y = 0; y < out.height && out.opaque; ++y)
            for (int x = 0; x < out.width && out.opaque; ++x)
                out.opaque = out.row<T>(y)[4 * x + 3] == T(~T(0));
    }
    return out;
}

/// Complaints without the file's name.
Result<Picture> decoded(Data bytes, std::span<const uint8_t> pressProfile, int reduce, double drawingScale) {
    const Codec* codec = codecFor(bytes);
    if (!codec) return tl::unexpected(notAPicture(bytes));
    auto raw = codec->decode(bytes, reduce, drawingScale);
    if (!raw) return tl::unexpected(raw.error());
    return raw->sixteen ? finished<uint16_t>(std::move(*raw), pressProfile)
                        : finished<uint8_t>(std::move(*raw), pressProfile);
}

} // namespace

Result<PictureInfo> inspectPicture(std::span<const uint8_t> bytes, const std::string& name) {
    const Codec* codec = codecFor(bytes);
    if (!codec) return named(notAPicture(bytes), name);
    auto info = codec->inspect(bytes);
    if (!info) return named(info.error(), name);
    if (auto size = codecs::checkSize(info->width, info->height); !size) return named(size.error(), name);
    return info;
}

Result<PictureInfo> inspectNewPicture(std::span<const uint8_t> bytes, const std::string& name) {
    const Codec* codec = codecFor(bytes);
    if (const std::string raw = rawFileKind(bytes, name);
        !raw.empty() && (!codec || codec->recognises == isTiff))
        return named({Fault::Unsupported,
                      "is " + raw + ", which is not developed here; save it as TIFF or JPEG first"},
                     name);
    return inspectPicture(bytes, name);
}

Result<Picture> decodePicture(std::span<const uint8_t> bytes, const std::string& name,
                              std::span<const uint8_t> pressProfile, int reduce, double drawingScale) {
    auto picture = decoded(bytes, pressProfile, reduce, drawingScale);
    if (!picture)
        return fail(picture.error().fault,
                    "The picture “" + name + "” " + picture.error().message + "; it was left out.");
    return picture;
}

Result<std::vector<uint8_t>> readFile(const std::filesystem::path& file) {
    const auto trouble = [&](Fault fault, const std::string& why) {
        return fail(fault, "“" + nameOf(file) + "” cannot be read: " + why + ".");
    };
    std::error_code code;
    if (std::filesystem::is_directory(file, code)) return trouble(Fault::Unreadable, "it is a folder");
    const auto size = std::filesystem::file_size(file, code);
    if (code) return trouble(Fault::Unreadable, code.message());
    if (size > kMostFileBytes) return trouble(Fault::TooLarge, "it is over 2 GiB");
    std::ifstream in(file, std::ios::binary);
    if (!in) return trouble(Fault::Unreadable, std::strerror(errno));
    std::vector<uint8_t> bytes(size);
    in.read(reinterpret_cast<char*>(bytes.data()), static_cast<std::streamsize>(size));
    if (static_cast<size_t>(in.gcount()) != size) return trouble(Fault::Unreadable, "it ended early");
    return bytes;
}

std::string contentId(std::span<const uint8_t> bytes) {
    const XXH128_hash_t hash = XXH3_128bits(bytes.data(), bytes.size());
    char id[33];
    std::snprintf(id, sizeof id, "%016llx%016llx", static_cast<unsigned long long>(hash.high64),
                  static_cast<unsigned long long>(hash.low64));
    return id;
}

Result<Imported> importBytes(std::vector<uint8_t> bytes, const std::string& name) {
    auto info = inspectNewPicture(bytes, name);
    if (!info) return tl::unexpected(info.error());
    // JPEG at 1/8 still reads every coded byte, so it finds all damage at a fraction of the cost.
    auto look = decoded(bytes, pressProfileBytes(), kLookReduction, 1);
    if (!look) return named(look.error(), name);
    auto source = std::make_shared<Source>();
    source->id = contentId(bytes);
    source->name = name;
    source->format = info->format;
    source->width = info->width;
    source->height = info->height;
    source->facts = readPictureWords(bytes);
    source->bytes = pictureBytes(std::move(bytes));
    return Imported{source, std::make_shared<const Pyramid>(std::move(*look))};
}

Result<Imported> importPicture(const std::filesystem::path& file) {
    auto bytes = readFile(file);
    if (!bytes) return tl::unexpected(bytes.error());
    return importBytes(std::move(*bytes), nameOf(file));
}

bool isDrawing(std::string_view format) {
    return format == "svg" || format == "pdf";
}

} // namespace glyptos
