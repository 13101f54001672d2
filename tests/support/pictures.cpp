#include "support/pictures.h"

#include "file/pictures/picture_writer.h"

#include <QTemporaryDir>
#include <cstdio>
#include <cstdlib>
#include <exiv2/exiv2.hpp>
#include <fstream>
#include <jpeglib.h>
#include <png.h>
#include <tiffio.h>
#include <webp/encode.h>

namespace glyptos::test {

std::array<uint8_t, 4> quarters(int x, int y, int width, int height) {
    if (y < height / 2)
        return x < width / 2 ? std::array<uint8_t, 4>{255, 0, 0, 255}
                             : std::array<uint8_t, 4>{0, 255, 0, 255};
    return x < width / 2 ? std::array<uint8_t, 4>{0, 0, 255, 255}
                         : std::array<uint8_t, 4>{255, 255, 255, 255};
}

std::vector<uint8_t> jpegOf(int width, int height, const Shade& shade, int quality) {
    std::vector<uint8_t> rgb;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const auto p = shade(x, y);
            rgb.insert(rgb.end(), p.begin(), p.begin() + 3);
        }
    return encodeJpeg(rgb, width, height, quality, {72}).value();
}

std::vector<uint8_t> pngOf(int width, int height, const Shade& shade) {
    std::vector<uint8_t> rgba;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const auto p = shade(x, y);
            rgba.insert(rgba.end(), p.begin(), p.end());
        }
    return encodePng(rgba, width, height, {72}).value();
}

std::vector<uint8_t> png16Of(int width, int height,
                             const std::function<std::array<uint16_t, 4>(int, int)>& shade) {
    std::vector<uint8_t> out;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(
        png, &out,
        [](png_structp p, png_bytep data, size_t n) {
            auto& bytes = *static_cast<std::vector<uint8_t>*>(png_get_io_ptr(p));
            bytes.insert(bytes.end(), data, data + n);
        },
        nullptr);
    png_set_IHDR(png, info, png_uint_32(width), png_uint_32(height), 16, PNG_COLOR_TYPE_RGB_ALPHA,
                 PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    png_write_info(png, info);
    for (int y = 0; y < height; ++y) {
        std::vector<uint8_t> row;
        for (int x = 0; x < width; ++x)
            for (const uint16_t v : shade(x, y))
                row.push_back(uint8_t(v >> 8)), row.push_back(uint8_t(v & 255));
        png_write_row(png, row.data());
    }
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

std::vector<uint8_t> webpOf(int width, int height, const Shade& shade) {
    std::vector<uint8_t> rgba;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (const uint8_t v : shade(x, y)) rgba.push_back(v);
    uint8_t* data = nullptr;
    const size_t size = WebPEncodeLosslessRGBA(rgba.data(), width, height, width * 4, &data);
    std::vector<uint8_t> out(data, data + size);
    WebPFree(data);
    return out;
}

std::vector<uint8_t> tiffOf(int width, int height, int channels,
                            const std::function<uint8_t(int, int, int)>& sample,
                            const std::vector<uint8_t>& profile, int orientation) {
    QTemporaryDir folder;
    const std::string file = (folder.path() + "/made.tif").toStdString();
    TIFF* tiff = TIFFOpen(file.c_str(), "w");
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, width);
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, height);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 8);
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, channels);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, channels == 4 ? PHOTOMETRIC_SEPARATED : PHOTOMETRIC_RGB);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_COMPRESSION, COMPRESSION_LZW);
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, orientation);
    if (!profile.empty()) TIFFSetField(tiff, TIFFTAG_ICCPROFILE, uint32_t(profile.size()), profile.data());
    for (int y = 0; y < height; ++y) {
        std::vector<uint8_t> row;
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < channels; ++c) row.push_back(sample(x, y, c));
        TIFFWriteScanline(tiff, row.data(), uint32_t(y));
    }
    TIFFClose(tiff);
    return readFile(file).value();
}

std::vector<uint8_t> tiledTiffOf(int width, int height, int tile, int bits,
                                 const std::function<float(int, int, int)>& sample) {
    QTemporaryDir folder;
    const std::string file = (folder.path() + "/made.tif").toStdString();
    TIFF* tiff = TIFFOpen(file.c_str(), "w");
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, width);
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, height);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, bits);
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 4);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_SAMPLEFORMAT, bits == 32 ? SAMPLEFORMAT_IEEEFP : SAMPLEFORMAT_UINT);
    const uint16_t straight = EXTRASAMPLE_UNASSALPHA;
    TIFFSetField(tiff, TIFFTAG_EXTRASAMPLES, 1, &straight);
    if (tile > 0) {
        TIFFSetField(tiff, TIFFTAG_TILEWIDTH, tile);
        TIFFSetField(tiff, TIFFTAG_TILELENGTH, tile);
    }
    const auto put = [&](std::vector<uint8_t>& out, float v) {
        const uint16_t whole = uint16_t(std::lround(v * (bits == 8 ? 255 : 65535)));
        const auto* bytes =
            bits == 32 ? reinterpret_cast<const uint8_t*>(&v) : reinterpret_cast<const uint8_t*>(&whole);
        out.insert(out.end(), bytes, bytes + bits / 8);
    };
    const auto block = [&](int x0, int y0, int w, int h) {
        std::vector<uint8_t> out;
        for (int y = y0; y < y0 + h; ++y)
            for (int x = x0; x < x0 + w; ++x)
                for (int c = 0; c < 4; ++c) put(out, x < width && y < height ? sample(x, y, c) : 0);
        return out;
    };
    if (tile == 0)
        for (int y = 0; y < height; ++y) TIFFWriteScanline(tiff, block(0, y, width, 1).data(), uint32_t(y));
    else
        for (int y = 0; y < height; y += tile)
            for (int x = 0; x < width; x += tile)
                TIFFWriteTile(tiff, block(x, y, tile, tile).data(), uint32_t(x), uint32_t(y), 0, 0);
    TIFFClose(tiff);
    return readFile(file).value();
}

std::vector<uint8_t> cmykJpegOf(int width, int height, std::array<uint8_t, 4> inks) {
    jpeg_compress_struct info{};
    jpeg_error_mgr errors{};
    info.err = jpeg_std_error(&errors);
    jpeg_create_compress(&info);
    unsigned char* data = nullptr;
    unsigned long size = 0;
    jpeg_mem_dest(&info, &data, &size);
    info.image_width = JDIMENSION(width);
    info.image_height = JDIMENSION(height);
    info.input_components = 4;
    info.in_color_space = JCS_CMYK;
    jpeg_set_defaults(&info);
    jpeg_set_colorspace(&info, JCS_CMYK);
    info.write_Adobe_marker = TRUE;
    jpeg_set_quality(&info, 100, TRUE);
    jpeg_start_compress(&info, TRUE);
    std::vector<uint8_t> row;
    for (int x = 0; x < width; ++x)
        for (const uint8_t v : inks) row.push_back(uint8_t(255 - v));
    for (int y = 0; y < height; ++y) {
        JSAMPROW p = row.data();
        jpeg_write_scanlines(&info, &p, 1);
    }
    jpeg_finish_compress(&info);
    std::vector<uint8_t> out(data, data + size);
    jpeg_destroy_compress(&info);
    std::free(data);
    return out;
}

std::vector<uint8_t> withOrientation(const std::vector<uint8_t>& jpeg, int orientation) {
    QTemporaryDir folder;
    const std::string file = (folder.path() + "/turned.jpg").toStdString();
    write(file, jpeg);
    auto image = Exiv2::ImageFactory::open(file);
    image->readMetadata();
    image->exifData()["Exif.Image.Orientation"] = uint16_t(orientation);
    image->writeMetadata();
    return readFile(file).value();
}

void write(const std::filesystem::path& file, const std::vector<uint8_t>& bytes) {
    std::ofstream out(file, std::ios::binary);
    out.write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(bytes.size()));
}

std::array<int, 4> pixel(const Picture& picture, int x, int y) {
    const uint8_t* p = picture.row<uint8_t>(y) + 4 * x;
    return {p[0], p[1], p[2], p[3]};
}

Picture pictureOf(int width, int height, const Shade& straight) {
    Picture p = Picture::create<uint8_t>(width, height);
    p.opaque = true;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const auto v = straight(x, y);
            std::copy(v.begin(), v.end(), p.row<uint8_t>(y) + 4 * x);
            p.opaque = p.opaque && v[3] == 255;
        }
    return p;
}

ReleasePtr HeldPictures::add(const ReleasePtr& release, const std::string& id, Picture picture) {
    auto source = std::make_shared<Source>();
    source->id = source->name = id;
    source->format = "png";
    source->width = picture.width;
    source->height = picture.height;
    held[id] = std::make_shared<const Pyramid>(std::move(picture));
    return withSource(release, source);
}

ReleasePtr screenRelease(int width, int height) {
    auto form = std::make_shared<Form>();
    form->id = form->name = "test";
    form->unit = Unit::Px;
    form->panels.push_back(wholePanel("front", "Front", width, height));
    form->panels.back().safe = true;
    return withPiece(std::make_shared<const Release>(), form).value();
}

PanelRef frontOf(const ReleasePtr& release) {
    return {release->pieces.at(0)->id, "front"};
}

} // namespace glyptos::test
