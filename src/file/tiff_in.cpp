#include "file/codecs.h"

#include <cstring>
#include <memory>
#include <tiffio.h>

namespace glyptos::codecs {
namespace {

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

/// Samples that can be taken as they stand: chunky rows of 8 or 16 bits, grey, RGB or CMYK, with or without
/// alpha.
bool describe(TIFF* tiff, RawPicture& out) {
    const uint16_t bits = tag<uint16_t>(tiff, TIFFTAG_BITSPERSAMPLE, 1),
                   samples = tag<uint16_t>(tiff, TIFFTAG_SAMPLESPERPIXEL, 1);
    const uint16_t photometric = tag<uint16_t>(tiff, TIFFTAG_PHOTOMETRIC, 0);
    if ((bits != 8 && bits != 16) || tag<uint16_t>(tiff, TIFFTAG_PLANARCONFIG, 1) != PLANARCONFIG_CONTIG ||
        TIFFIsTiled(tiff) || tag<uint16_t>(tiff, TIFFTAG_SAMPLEFORMAT, 1) != SAMPLEFORMAT_UINT)
        return false;
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
    out.sixteen = bits == 16;
    return TIFFScanlineSize64(tiff) == out.rowBytes();
}

bool readRows(TIFF* tiff, RawPicture& out) {
    for (int y = 0; y < out.height; ++y)
        if (TIFFReadScanline(tiff, out.row(y), static_cast<uint32_t>(y)) != 1) return false;
    return true;
}

/// Everything else that libtiff knows how to show: palettes, bilevel, tiles, separate planes.
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
        if (!readRows(tiff.get(), out)) return cutShort();
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
