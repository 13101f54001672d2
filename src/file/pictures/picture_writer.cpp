#include "file/pictures/picture_writer.h"

#include "color/profile.h"

#include <algorithm>
#include <cmath>
#include <csetjmp>
#include <cstdio>
#include <cstdlib>
#include <jpeglib.h>
#include <limits>
#include <memory>
#include <optional>
#include <png.h>

namespace glyptos {
namespace {

struct JpegFailing {
    jpeg_error_mgr base;
    std::jmp_buf out;
};
[[noreturn]] void jpegGiveUp(j_common_ptr info) {
    std::longjmp(reinterpret_cast<JpegFailing*>(info->err)->out, 1);
}

/// One libjpeg compressor writing to memory.
class JpegEncoder {
  public:
    JpegEncoder() {
        info_.err = jpeg_std_error(&failing_.base);
        failing_.base.error_exit = jpegGiveUp;
        jpeg_create_compress(&info_);
        jpeg_mem_dest(&info_, &data_, &size_);
    }
    ~JpegEncoder() {
        jpeg_destroy_compress(&info_);
        std::free(data_); // NOLINT(cppcoreguidelines-no-malloc): libjpeg took it from malloc
    }
    JpegEncoder(const JpegEncoder&) = delete;
    JpegEncoder& operator=(const JpegEncoder&) = delete;

    bool encode(const uint8_t* rgb, int width, int height, int quality, Ppi resolution) {
        if (setjmp(failing_.out)) return false;
        info_.image_width = static_cast<JDIMENSION>(width);
        info_.image_height = static_cast<JDIMENSION>(height);
        info_.input_components = 3;
        info_.in_color_space = JCS_RGB;
        jpeg_set_defaults(&info_);
        jpeg_set_quality(&info_, quality, TRUE);
        info_.optimize_coding = TRUE;
        info_.density_unit = 1;
        info_.X_density = info_.Y_density = static_cast<UINT16>(std::lround(resolution.value));
        if (quality >= 90) info_.comp_info[0].h_samp_factor = info_.comp_info[0].v_samp_factor = 1;
        jpeg_start_compress(&info_, TRUE);
        const Bytes& profile = srgbProfileBytes();
        jpeg_write_icc_profile(&info_, profile.data(), static_cast<unsigned>(profile.size()));
        while (info_.next_scanline < info_.image_height) {
            JSAMPROW row = const_cast<JSAMPROW>(rgb + size_t(info_.next_scanline) * size_t(width) * 3);
            jpeg_write_scanlines(&info_, &row, 1);
        }
        jpeg_finish_compress(&info_);
        return true;
    }

    std::vector<uint8_t> bytes() const { return {data_, data_ + size_}; }

  private:
    JpegFailing failing_{};
    jpeg_compress_struct info_{};
    unsigned char* data_ = nullptr;
    unsigned long size_ = 0;
};

/// What a PNG is made of, as it lies in memory.
struct PngPixels {
    const uint8_t* first;
    size_t rowBytes;
    int bits, colours; ///< a sample; PNG_COLOR_TYPE_…
};

/// One libpng writer into memory.
class PngEncoder {
  public:
    PngEncoder() {
        png_ = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
        info_ = png_create_info_struct(png_);
        png_set_write_fn(
            png_, &bytes_,
            [](png_structp png, png_bytep data, size_t n) {
                auto& out = *static_cast<std::vector<uint8_t>*>(png_get_io_ptr(png));
                out.insert(out.end(), data, data + n);
            },
            nullptr);
    }
    ~PngEncoder() { png_destroy_write_struct(&png_, &info_); }
    PngEncoder(const PngEncoder&) = delete;
    PngEncoder& operator=(const PngEncoder&) = delete;

    bool encode(const PngPixels& pixels, int width, int height, std::optional<Ppi> resolution) {
        if (setjmp(png_jmpbuf(png_))) return false;
        png_set_IHDR(png_, info_, png_uint_32(width), png_uint_32(height), pixels.bits, pixels.colours,
                     PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
        if (pixels.colours != PNG_COLOR_TYPE_GRAY) {
            const Bytes& profile = srgbProfileBytes();
            png_set_iCCP(png_, info_, "sRGB", PNG_COMPRESSION_TYPE_BASE, profile.data(),
                         static_cast<png_uint_32>(profile.size()));
        }
        if (resolution) {
            const auto perMetre = static_cast<png_uint_32>(std::lround(resolution->value / 0.0254));
            png_set_pHYs(png_, info_, perMetre, perMetre, PNG_RESOLUTION_METER);
        }
        png_set_compression_level(png_, 6);
        png_write_info(png_, info_);
        if (pixels.bits == 16) png_set_swap(png_); // PNG is big-endian
        if (pixels.colours == PNG_COLOR_TYPE_RGB)
            png_set_filler(png_, 0, PNG_FILLER_AFTER); // alpha is left out
        for (int y = 0; y < height; ++y) png_write_row(png_, pixels.first + size_t(y) * pixels.rowBytes);
        png_write_end(png_, nullptr);
        return true;
    }

    std::vector<uint8_t> take() { return std::move(bytes_); }

  private:
    png_structp png_ = nullptr;
    png_infop info_ = nullptr;
    std::vector<uint8_t> bytes_;
};

} // namespace

Result<std::vector<uint8_t>> encodeJpeg(std::span<const uint8_t> rgb, int width, int height, int quality,
                                        Ppi resolution) {
    if (quality < 1 || quality > 100)
        return fail(Fault::Usage,
                    "JPEG quality must lie between 1 and 100, not " + std::to_string(quality) + ".");
    if (width > 65500 || height > 65500)
        return fail(Fault::TooLarge, "A JPEG can be at most 65500 pixels a side.");
    JpegEncoder encoder;
    if (!encoder.encode(rgb.data(), width, height, quality, resolution))
        return fail(Fault::Unwritable, "The JPEG could not be made.");
    return encoder.bytes();
}

namespace {

Result<std::vector<uint8_t>> encodedPng(const PngPixels& pixels, int width, int height,
                                        std::optional<Ppi> resolution) {
    PngEncoder encoder;
    if (!encoder.encode(pixels, width, height, resolution))
        return fail(Fault::Unwritable, "The PNG could not be made.");
    return encoder.take();
}

template <class T>
int coloursOf(std::span<const T> straight) {
    constexpr T kFull = std::numeric_limits<T>::max();
    for (size_t i = 3; i < straight.size(); i += 4)
        if (straight[i] != kFull) return PNG_COLOR_TYPE_RGB_ALPHA;
    return PNG_COLOR_TYPE_RGB;
}

} // namespace

Result<std::vector<uint8_t>> encodePng(std::span<const uint8_t> straight, int width, int height,
                                       Ppi resolution) {
    return encodedPng({straight.data(), size_t(width) * 4, 8, coloursOf(straight)}, width, height,
                      resolution);
}

Result<std::vector<uint8_t>> encodePng(const Picture& picture, Ppi resolution) {
    const size_t samples = size_t(picture.width) * size_t(picture.height) * 4;
    if (!picture.is16())
        return encodePng({picture.row<uint8_t>(0), samples}, picture.width, picture.height, resolution);
    const std::span<const uint16_t> straight{picture.row<uint16_t>(0), samples};
    return encodedPng({reinterpret_cast<const uint8_t*>(straight.data()), size_t(picture.width) * 8, 16,
                       coloursOf(straight)},
                      picture.width, picture.height, resolution);
}

Result<std::vector<uint8_t>> encodeGreyPng(std::span<const uint8_t> values, int width, int height) {
    return encodedPng({values.data(), size_t(width), 8, PNG_COLOR_TYPE_GRAY}, width, height, std::nullopt);
}

} // namespace glyptos
