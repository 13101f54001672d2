#include "file/print/print_tiff.h"

#include "file/disk/atomic_file.h"
#include "file/disk/deflate.h"
#include "file/print/inked_art.h"
#include "release/press/spot_inks.h"
#include "render/press/plates.h"

#include <cstring>
#include <memory>
#include <tbb/parallel_for.h>
#include <tiffio.h>

namespace glyptos {
namespace {

/// A file in memory, as libtiff writes one.
class TiffMemory {
  public:
    TiffMemory()
        : tiff_(TIFFClientOpen("print", "w", this, read, write, seek, close, size, nullptr, nullptr),
                TIFFClose) {
        if (!tiff_) throw std::runtime_error("no TIFF can be begun");
    }
    TIFF* tiff() { return tiff_.get(); }
    /// All of it; it takes nothing more.
    std::vector<uint8_t> finished() {
        tiff_.reset();
        return std::move(bytes_);
    }

  private:
    static TiffMemory& self(thandle_t handle) { return *static_cast<TiffMemory*>(handle); }
    static tmsize_t read(thandle_t handle, void* to, tmsize_t count) {
        TiffMemory& me = self(handle);
        const size_t there = me.at_ < me.bytes_.size() ? me.bytes_.size() - me.at_ : 0;
        const size_t n = std::min(size_t(count), there);
        if (n > 0) std::memcpy(to, me.bytes_.data() + me.at_, n);
        me.at_ += n;
        return tmsize_t(n);
    }
    static tmsize_t write(thandle_t handle, void* from, tmsize_t count) {
        TiffMemory& me = self(handle);
        if (me.at_ + size_t(count) > me.bytes_.size()) me.bytes_.resize(me.at_ + size_t(count));
        std::memcpy(me.bytes_.data() + me.at_, from, size_t(count));
        me.at_ += size_t(count);
        return count;
    }
    static toff_t seek(thandle_t handle, toff_t to, int whence) {
        TiffMemory& me = self(handle);
        me.at_ = size_t(to) + (whence == SEEK_CUR ? me.at_ : whence == SEEK_END ? me.bytes_.size() : 0);
        return me.at_;
    }
    static int close(thandle_t) { return 0; }
    static toff_t size(thandle_t handle) { return self(handle).bytes_.size(); }

    std::vector<uint8_t> bytes_;
    size_t at_ = 0;
    std::unique_ptr<TIFF, void (*)(TIFF*)> tiff_;
};

void check(bool good) {
    if (!good) throw std::runtime_error("a part of it was refused");
}

void describe(TIFF* tiff, const InkedArt& art, double ppi, std::span<const uint8_t> profile, uint32_t rows) {
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, uint32_t(art.area.w));
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, uint32_t(art.area.h));
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 8);
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 4);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_SEPARATED);
    TIFFSetField(tiff, TIFFTAG_INKSET, INKSET_CMYK);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
    TIFFSetField(tiff, TIFFTAG_COMPRESSION, COMPRESSION_ADOBE_DEFLATE);
    TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, rows);
    TIFFSetField(tiff, TIFFTAG_XRESOLUTION, ppi);
    TIFFSetField(tiff, TIFFTAG_YRESOLUTION, ppi);
    TIFFSetField(tiff, TIFFTAG_RESOLUTIONUNIT, RESUNIT_INCH);
    TIFFSetField(tiff, TIFFTAG_SOFTWARE, "Glyptos");
    TIFFSetField(tiff, TIFFTAG_ICCPROFILE, uint32_t(profile.size()), profile.data());
}

/// Strips are packed apart, on all cores.
void addPicture(TIFF* tiff, const InkedArt& art, double ppi, const PrintOptions& options) {
    constexpr size_t kStrip = size_t(1) << 20;
    const size_t row = size_t(art.area.w) * 4, height = size_t(art.area.h);
    const size_t rows = std::max<size_t>(1, kStrip / row), strips = (height + rows - 1) / rows;
    describe(tiff, art, ppi, options.pressProfile, uint32_t(rows));
    std::vector<Buffer<uint8_t>> packed(strips);
    tbb::parallel_for(size_t(0), strips, [&](size_t i) {
        const size_t from = i * rows;
        packed[i] =
            deflated({art.cmyk.data() + from * row, std::min(rows, height - from) * row}, options.cancel);
    });
    for (size_t i = 0; i < strips; ++i)
        check(TIFFWriteRawStrip(tiff, uint32_t(i), packed[i].data(), tmsize_t(packed[i].size())) >= 0);
    check(TIFFWriteDirectory(tiff) == 1);
}

} // namespace

Result<PrintReport> writePrintTiff(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                   const PrintOptions& options, const std::filesystem::path& file) {
    const auto order = printOrder(release, id, options);
    if (!order) return tl::unexpected(order.error());
    const auto press = ToPress::create(options.pressProfile, options.inkLimit, options.look);
    if (!press) return tl::unexpected(press.error());
    const Flat& flat = *order->piece->flat;
    const double ppi = options.ppi > 0 ? options.ppi : flat.ppi;
    PrintReport report{flat.bleed, ppi, {}, 0};
    try {
        auto notes = readBackCodes(renderer, *order, options.cancel);
        if (!notes) return tl::unexpected(notes.error());
        report.notes = std::move(*notes);
        for (const Swatch& spot : spotInksOf(*order->release, *order->piece))
            report.notes.push_back("“" + spot.name +
                                   "” has no plate in a TIFF and is printed in the four inks; a PDF has it.");
        TiffMemory out;
        for (const size_t sheet : order->sheets) {
            Scene scene = flatScene(order->release, id, {pxPerMm(Ppi{ppi}), true, {}, {}, true, sheet});
            if (options.sharpen > 0) scene = sharpened(std::move(scene), options.sharpen, 1);
            const InkedArt art = inkedArt(renderer, scene, **press, options.cancel);
            if (isCancelled(options.cancel)) return cancelled();
            addPicture(out.tiff(), art, ppi, options);
            const Sheet& s = flat.sheets[sheet];
            report.pages.push_back({s.name, s.trim.w, s.trim.h, art.mostInk, 0, processInks(art.used),
                                    coarsestOn(*order, sheet)});
        }
        const std::vector<uint8_t> bytes = out.finished();
        if (isCancelled(options.cancel)) return cancelled();
        if (auto written = writeFile(file, bytes); !written) return tl::unexpected(written.error());
        report.bytes = bytes.size();
    } catch (const std::exception& e) {
        return fail(Fault::Unwritable, "The picture of " + order->piece->name + " could not be made (" +
                                           e.what() + "); nothing was written.");
    }
    return report;
}

} // namespace glyptos
