#include "file/pictures/codecs.h"

#include <bit>
#include <csetjmp>
#include <cstring>
#include <png.h>

namespace glyptos::codecs {
namespace {

struct Reader {
    Data bytes;
    size_t at = 0;
};

void readBytes(png_structp png, png_bytep out, size_t count) {
    auto& reader = *static_cast<Reader*>(png_get_io_ptr(png));
    if (count > reader.bytes.size() - reader.at) png_error(png, "cut short");
    std::memcpy(out, reader.bytes.data() + reader.at, count);
    reader.at += count;
}

void ignoreWarning(png_structp, png_const_charp) {}

/// One libpng decoder; functions that call into it set the jump first.
class Decoder {
  public:
    explicit Decoder(Data bytes)
        : reader_{bytes} {
        png_ = png_create_read_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, ignoreWarning);
        info_ = png_create_info_struct(png_);
        png_set_read_fn(png_, &reader_, readBytes);
        png_set_user_limits(png_, 0x7fffffff, 0x7fffffff);
        png_set_chunk_malloc_max(png_, 64u << 20);
    }
    ~Decoder() { png_destroy_read_struct(&png_, &info_, nullptr); }
    Decoder(const Decoder&) = delete;
    Decoder& operator=(const Decoder&) = delete;

    bool header() {
        if (promisesMoreThanItHolds(reader_.bytes, true)) return false;
        if (setjmp(png_jmpbuf(png_))) return false;
        png_read_info(png_, info_);
        return true;
    }

    double width() const { return png_get_image_width(png_, info_); }
    double height() const { return png_get_image_height(png_, info_); }

    bool start(RawPicture& out) {
        if (setjmp(png_jmpbuf(png_))) return false;
        png_set_expand(png_);
        swapIfLittleEndian();
        passes_ = png_set_interlace_handling(png_);
        png_read_update_info(png_, info_);
        const int type = png_get_color_type(png_, info_);
        out.width = static_cast<int>(width());
        out.height = static_cast<int>(height());
        out.space = type & PNG_COLOR_MASK_COLOR ? SampleSpace::Rgb : SampleSpace::Gray;
        out.alpha = type & PNG_COLOR_MASK_ALPHA;
        out.sixteen = png_get_bit_depth(png_, info_) == 16;
        png_charp name = nullptr;
        png_bytep data = nullptr;
        png_uint_32 size = 0;
        int compression = 0;
        if (png_get_iCCP(png_, info_, &name, &compression, &data, &size))
            out.profile.assign(data, data + size);
        return true;
    }

    bool rows(RawPicture& out) {
        if (setjmp(png_jmpbuf(png_))) return false;
        for (int pass = 0; pass < passes_; ++pass)
            for (int y = 0; y < out.height; ++y) png_read_row(png_, out.row(y), nullptr);
        png_read_end(png_, nullptr);
        return true;
    }

  private:
    /// PNG stores 16-bit samples high byte first.
    void swapIfLittleEndian() {
        if constexpr (std::endian::native == std::endian::little)
            if (png_get_bit_depth(png_, info_) == 16) png_set_swap(png_);
    }

    Reader reader_;
    png_structp png_ = nullptr;
    png_infop info_ = nullptr;
    int passes_ = 1;
};

} // namespace

Result<PictureInfo> inspectPng(Data bytes) {
    Decoder decoder(bytes);
    if (!decoder.header()) return cutShort();
    if (auto size = checkSize(decoder.width(), decoder.height()); !size) return tl::unexpected(size.error());
    PictureInfo info{"png", static_cast<int>(decoder.width()), static_cast<int>(decoder.height())};
    if (exifOrientation(bytes) >= 5) std::swap(info.width, info.height);
    return info;
}

Result<RawPicture> decodePng(Data bytes) {
    Decoder decoder(bytes);
    if (!decoder.header()) return cutShort();
    if (auto size = checkSize(decoder.width(), decoder.height()); !size) return tl::unexpected(size.error());
    RawPicture out;
    if (!decoder.start(out)) return cutShort();
    out.allocate();
    if (!decoder.rows(out)) return cutShort();
    out.orientation = exifOrientation(bytes);
    return out;
}

} // namespace glyptos::codecs
