#include "file/pictures/codecs.h"

#include <csetjmp>
#include <cstdio>
#include <jpeglib.h>

namespace glyptos::codecs {
namespace {

/// libjpeg reports through these; both jump out of the decoder, since a warning means damaged data.
struct Failing {
    jpeg_error_mgr base;
    std::jmp_buf out;
};

[[noreturn]] void giveUp(j_common_ptr info) {
    std::longjmp(reinterpret_cast<Failing*>(info->err)->out, 1);
}
void onMessage(j_common_ptr info, int level) {
    if (level < 0) giveUp(info);
}

/// One decoder over bytes in memory. Functions that call into it set the jump first.
class Decoder {
  public:
    explicit Decoder(Data bytes) {
        info_.err = jpeg_std_error(&failing_.base);
        failing_.base.error_exit = giveUp;
        failing_.base.emit_message = onMessage;
        jpeg_create_decompress(&info_);
        jpeg_mem_src(&info_, bytes.data(), bytes.size());
        jpeg_save_markers(&info_, JPEG_APP0 + 2, 0xffff);
    }
    ~Decoder() { jpeg_destroy_decompress(&info_); }
    Decoder(const Decoder&) = delete;
    Decoder& operator=(const Decoder&) = delete;

    bool header() {
        if (setjmp(failing_.out)) return false;
        return jpeg_read_header(&info_, TRUE) == JPEG_HEADER_OK;
    }

    bool start(RawPicture& out, int reduce) {
        if (setjmp(failing_.out)) return false;
        info_.scale_num = 1;
        info_.scale_denom = static_cast<unsigned>(reduce);
        const bool inks = info_.jpeg_color_space == JCS_CMYK || info_.jpeg_color_space == JCS_YCCK;
        const bool gray = info_.jpeg_color_space == JCS_GRAYSCALE;
        info_.out_color_space = inks ? JCS_CMYK : gray ? JCS_GRAYSCALE : JCS_RGB;
        out.space = inks ? SampleSpace::Cmyk : gray ? SampleSpace::Gray : SampleSpace::Rgb;
        jpeg_start_decompress(&info_);
        out.width = static_cast<int>(info_.output_width);
        out.height = static_cast<int>(info_.output_height);
        return true;
    }

    bool rows(RawPicture& out) {
        if (setjmp(failing_.out)) return false;
        while (info_.output_scanline < info_.output_height) {
            JSAMPROW row = out.row(static_cast<int>(info_.output_scanline));
            jpeg_read_scanlines(&info_, &row, 1);
        }
        jpeg_finish_decompress(&info_);
        return true;
    }

    void profile(RawPicture& out) {
        if (setjmp(failing_.out)) return;
        JOCTET* data = nullptr;
        unsigned size = 0;
        if (!jpeg_read_icc_profile(&info_, &data, &size)) return;
        out.profile.assign(data, data + size);
        std::free(data); // NOLINT(cppcoreguidelines-no-malloc): libjpeg took it from malloc
    }

    const jpeg_decompress_struct& info() const { return info_; }

  private:
    Failing failing_{};
    jpeg_decompress_struct info_{};
};

} // namespace

Result<PictureInfo> inspectJpeg(Data bytes) {
    Decoder decoder(bytes);
    if (!decoder.header()) return cutShort();
    PictureInfo info{"jpeg", static_cast<int>(decoder.info().image_width),
                     static_cast<int>(decoder.info().image_height)};
    if (exifOrientation(bytes) >= 5) std::swap(info.width, info.height);
    return info;
}

Result<RawPicture> decodeJpeg(Data bytes, int reduce) {
    Decoder decoder(bytes);
    RawPicture out;
    if (!decoder.header()) return cutShort();
    if (auto size = checkSize(decoder.info().image_width, decoder.info().image_height); !size)
        return tl::unexpected(size.error());
    if (!decoder.start(out, reduce)) return cutShort();
    out.allocate();
    if (!decoder.rows(out)) return cutShort();
    decoder.profile(out);
    out.orientation = exifOrientation(bytes);
    // Files with Adobe's marker store 255 for no ink (Adobe Technical Note 5116).
    if (out.space == SampleSpace::Cmyk && decoder.info().saw_Adobe_marker)
        for (uint8_t& v : out.samples) v = static_cast<uint8_t>(255 - v);
    return out;
}

} // namespace glyptos::codecs
