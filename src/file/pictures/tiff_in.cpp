#include "file/pictures/codecs.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <memory>
#include <tiffio.h>
#include <vector>

namespace glyptos::codecs {
namespace {

constexpr size_t kMostTileBytes = size_t(256) << 20;

/// Bytes in memory as libtiff wants to read them.
struct Memory {
    Data bytes;
    toff_t at = 0;
};

tmsize_t readMemory(thandle_t handle, void* out, tmsize_t count) {
    auto& m = *static_cast<Memory*>(handle);
    const toff_t left = m.at < m.bytes.size() ? m.bytes.size() - m.at : 0;
    const toff_t n = std::min<toff_t>(left, static_cast<toff_t>(count));
    std::memcpy(out, m.bytes.data() + m.at, n);
    m.at += n;
    return static_cast<tmsize_t>(n);
}
tmsize_t refuseWrite(thandle_t, void*, tmsize_t) {
    return 0;
}
toff_t seekMemory(thandle_t handle, toff_t to, int from) {
    auto& m = *static_cast<Memory*>(handle);
    return m.at = from == SEEK_SET ? to : from == SEEK_CUR ? m.at + to : m.bytes.size() + to;
}
int closeMemory(thandle_t) {
    return 0;
}
toff_t sizeMemory(thandle_t handle) {
    return static_cast<Memory*>(handle)->bytes.size();
}

struct CloseTiff {
    void operator()(TIFF* t) const { TIFFClose(t); }
};
using TiffPtr = std::unique_ptr<TIFF, CloseTiff>;

TiffPtr open(Memory& memory) {
    TIFFSetErrorHandler(nullptr);
    TIFFSetWarningHandler(nullptr);
    return TiffPtr(TIFFClientOpen("memory", "rm", &memory, readMemory, refuseWrite, seekMemory, closeMemory,
                                  sizeMemory, nullptr, nullptr));
}

template <class T>
T tag(TIFF* tiff, uint32_t name, T missing) {
    T value = missing;
    return TIFFGetFieldDefaulted(tiff, name, &value) ? value : missing;
}

bool isFloat(TIFF* tiff) {
    return tag<uint16_t>(tiff, TIFFTAG_SAMPLEFORMAT, 1) == SAMPLEFORMAT_IEEEFP;
}

/// Samples that can be taken as they stand: chunky rows or tiles of 8 or 16 bits, or of 32-bit floats, which
/// become 16 bits; grey, RGB or CMYK, with or without alpha.
bool describe(TIFF* tiff, RawPicture& out) {
    const uint16_t bits = tag<uint16_t>(tiff, TIFFTAG_BITSPERSAMPLE, 1),
                   samples = tag<uint16_t>(tiff, TIFFTAG_SAMPLESPERPIXEL, 1);
    const uint16_t photometric = tag<uint16_t>(tiff, TIFFTAG_PHOTOMETRIC, 0);
    const bool whole =
        tag<uint16_t>(tiff, TIFFTAG_SAMPLEFORMAT, 1) == SAMPLEFORMAT_UINT && (bits == 8 || bits == 16);
    if (!whole && !(isFloat(tiff) && bits == 32)) return false;
    if (tag<uint16_t>(tiff, TIFFTAG_PLANARCONFIG, 1) != PLANARCONFIG_CONTIG) return false;
    if (photometric == PHOTOMETRIC_MINISBLACK)
        out.space = SampleSpace::Gray;
    else if (photometric == PHOTOMETRIC_RGB)
        out.space = SampleSpace::Rgb;
    else if (photometric == PHOTOMETRIC_SEPARATED && tag<uint16_t>(tiff, TIFFTAG_INKSET, 1) == INKSET_CMYK)
        out.space = SampleSpace::Cmyk;
    else
        return false;
    const int extra = samples - channelsOf(out.space);
    if (extra < 0 || extra > 1) return false;
    if (extra == 1) {
        uint16_t count = 0;
        uint16_t* kinds = nullptr;
        TIFFGetFieldDefaulted(tiff, TIFFTAG_EXTRASAMPLES, &count, &kinds);
        out.premultiplied = count == 1 && kinds[0] == EXTRASAMPLE_ASSOCALPHA;
    }
    out.alpha = extra == 1;
    out.sixteen = bits != 8;
    const size_t stored = out.rowBytes() / (out.sixteen ? 2 : 1) * (bits / 8);
    return TIFFIsTiled(tiff) || TIFFScanlineSize64(tiff) == stored;
}

/// Floats of 0…1 as 16 bits; what is brighter than white is white.
void toSixteen(const float* in, size_t n, uint8_t* out) {
    for (size_t i = 0; i < n; ++i) {
        const auto v = static_cast<uint16_t>(std::lround(std::clamp(in[i], 0.0f, 1.0f) * 65535));
        std::memcpy(out + 2 * i, &v, 2);
    }
}

/// `n` samples of row y, from its sample `first` on.
struct RowPart {
    int y;
    size_t first, n;
};

/// Stored samples to where they go.
void putRow(bool floats, const uint8_t* stored, const RowPart& part, RawPicture& out) {
    const size_t bytes = out.sixteen ? 2 : 1, n = part.n;
    uint8_t* to = out.row(part.y) + part.first * bytes;
    if (!floats) return void(std::memcpy(to, stored, n * bytes));
    std::vector<float> row(n);
    std::memcpy(row.data(), stored, n * sizeof(float));
    for (float& v : row)
        if (!(v == v)) v = 0;
    toSixteen(row.data(), n, to);
}

bool readRows(TIFF* tiff, RawPicture& out) {
    const bool floats = isFloat(tiff);
    const size_t samples = size_t(out.width) * size_t(out.channels());
    std::vector<uint8_t> row(samples * 4);
    for (int y = 0; y < out.height; ++y) {
        if (TIFFReadScanline(tiff, row.data(), static_cast<uint32_t>(y)) != 1) return false;
        putRow(floats, row.data(), {y, 0, samples}, out);
    }
    return true;
}

bool readTiles(TIFF* tiff, RawPicture& out) {
    const int w = int(tag<uint32_t>(tiff, TIFFTAG_TILEWIDTH, 0)),
              h = int(tag<uint32_t>(tiff, TIFFTAG_TILELENGTH, 0));
    const bool floats = isFloat(tiff);
    const size_t channels = size_t(out.channels()), sample = floats ? 4 : out.sixteen ? 2 : 1;
    if (w < 1 || h < 1 || w > kMostPixelsASide || h > kMostPixelsASide) return false;
    const size_t row = size_t(w) * channels * sample;
    if (TIFFTileSize64(tiff) != row * size_t(h) || row * size_t(h) > kMostTileBytes) return false;
    std::vector<uint8_t> tile(row * size_t(h));
    for (int y = 0; y < out.height; y += h)
        for (int x = 0; x < out.width; x += w) {
            if (TIFFReadTile(tiff, tile.data(), uint32_t(x), uint32_t(y), 0, 0) < 0) return false;
            const size_t n = size_t(std::min(w, out.width - x)) * channels;
            for (int i = 0; i < std::min(h, out.height - y); ++i)
                putRow(floats, tile.data() + size_t(i) * row, {y + i, size_t(x) * channels, n}, out);
        }
    return true;
}

/// Everything else that libtiff knows how to show: palettes, bilevel, separate planes.
bool readAsShown(TIFF* tiff, RawPicture& out) {
    out.space = SampleSpace::Rgb;
    out.alpha = out.premultiplied = true;
    out.sixteen = false;
    out.allocate();
    auto* raster = reinterpret_cast<uint32_t*>(out.samples.data());
    if (!TIFFReadRGBAImageOriented(tiff, static_cast<uint32_t>(out.width), static_cast<uint32_t>(out.height),
                                   raster, ORIENTATION_TOPLEFT, 1))
        return false;
    out.orientation = 1;
    return true;
}

} // namespace

Result<PictureInfo> inspectTiff(Data bytes) {
    Memory memory{bytes};
    const TiffPtr tiff = open(memory);
    if (!tiff) return cutShort();
    const auto width = tag<uint32_t>(tiff.get(), TIFFTAG_IMAGEWIDTH, 0),
               height = tag<uint32_t>(tiff.get(), TIFFTAG_IMAGELENGTH, 0);
    if (auto size = checkSize(width, height); !size) return tl::unexpected(size.error());
    PictureInfo info{"tiff", static_cast<int>(width), static_cast<int>(height), 1};
    if (tag<uint16_t>(tiff.get(), TIFFTAG_ORIENTATION, 1) >= 5) std::swap(info.width, info.height);
    info.pages = std::max(1, static_cast<int>(TIFFNumberOfDirectories(tiff.get())));
    return info;
}

Result<RawPicture> decodeTiff(Data bytes) {
    Memory memory{bytes};
    const TiffPtr tiff = open(memory);
    if (!tiff) return cutShort();
    RawPicture out;
    const auto width = tag<uint32_t>(tiff.get(), TIFFTAG_IMAGEWIDTH, 0),
               height = tag<uint32_t>(tiff.get(), TIFFTAG_IMAGELENGTH, 0);
    if (auto size = checkSize(width, height); !size) return tl::unexpected(size.error());
    out.width = static_cast<int>(width);
    out.height = static_cast<int>(height);
    out.orientation = tag<uint16_t>(tiff.get(), TIFFTAG_ORIENTATION, 1);
    if (describe(tiff.get(), out)) {
        out.allocate();
        if (!(TIFFIsTiled(tiff.get()) ? readTiles : readRows)(tiff.get(), out)) return cutShort();
    } else {
        char why[1024] = "";
        if (!TIFFRGBAImageOK(tiff.get(), why))
            return fail(Fault::Unsupported, "is a TIFF of a kind that cannot be read");
        if (!readAsShown(tiff.get(), out)) return cutShort();
    }
    uint32_t size = 0;
    void* profile = nullptr;
    if (TIFFGetField(tiff.get(), TIFFTAG_ICCPROFILE, &size, &profile) && size > 0)
        out.profile.assign(static_cast<uint8_t*>(profile), static_cast<uint8_t*>(profile) + size);
    return out;
}

} // namespace glyptos::codecs
