#include "printing.h"

#include "color/profile.h"
#include "file/disk/atomic_file.h"
#include "file/disk/deflate.h"
#include "file/pictures/picture_store.h"
#include "file/print/print_pdf.h"
#include "file/project.h"
#include "flatten.h"
#include "raster/noise.h"
#include "release/edits/edits.h"

#include <QTemporaryDir>
#include <cstdio>
#include <cstdlib>
#include <tbb/parallel_for.h>

#ifdef WITH_VIPS
#include <vips/vips.h>
#endif

namespace glyptos::bench {
namespace {

/// As an export does it: pictures are read and decoded on the way.
double printed(const FontLibrary& fonts, const ReleasePtr& release, const std::string& piece,
               const std::string& file) {
    PictureStore pictures;
    Renderer renderer(pictures, fonts);
    return milliseconds([&] {
        const auto report = writePrintPdf(renderer, release, piece, {}, file);
        if (report) return;
        std::fprintf(stderr, "glyptos-bench: %s\n", report.error().message.c_str());
        std::exit(2);
    });
}

/// One panel as large as that at 300 ppi.
std::shared_ptr<const Form> printForm(const PictureLoad& load) {
    Form form;
    form.id = form.name = "bench";
    form.panels.push_back(wholePanel("front", "Front", 0, 0));
    constexpr double kMmPerPx = kMmPerInch / 300;
    form.panels[0].outline.w = std::to_string(load.width * kMmPerPx);
    form.panels[0].outline.h = std::to_string(load.height * kMmPerPx);
    return std::make_shared<const Form>(form);
}

#ifdef WITH_VIPS
/// sRGB bytes of soft noise, as a photo has them.
std::vector<uint8_t> photoBytes(int width, int height) {
    std::vector<uint8_t> rgb(size_t(width) * size_t(height) * 3);
    tbb::parallel_for(0, height, [&](int y) {
        for (int x = 0; x < width; ++x)
            for (uint32_t c = 0; c < 3; ++c)
                rgb[(size_t(y) * size_t(width) + size_t(x)) * 3 + c] =
                    uint8_t(200 * valueNoise(float(x) / 90, float(y) / 90, c) +
                            55 * valueNoise(float(x) / 2, float(y) / 2, 9 + c));
    });
    return rgb;
}

void packByVips(const std::vector<uint8_t>& rgb, int width, int height, const std::string& profile) {
    VipsImage* raw = vips_image_new_from_memory(rgb.data(), rgb.size(), width, height, 3, VIPS_FORMAT_UCHAR);
    VipsImage *typed = nullptr, *inks = nullptr;
    void* out = nullptr;
    size_t size = 0;
    const bool good =
        vips_copy(raw, &typed, "interpretation", VIPS_INTERPRETATION_sRGB, nullptr) == 0 &&
        vips_icc_transform(typed, &inks, profile.c_str(), "input_profile", "srgb", "intent",
                           VIPS_INTENT_RELATIVE, "black_point_compensation", TRUE, nullptr) == 0 &&
        vips_tiffsave_buffer(inks, &out, &size, "compression", VIPS_FOREIGN_TIFF_COMPRESSION_DEFLATE,
                             nullptr) == 0;
    if (!good) std::fprintf(stderr, "glyptos-bench: libvips: %s\n", vips_error_buffer()), std::exit(2);
    for (VipsImage* image : {raw, typed, inks}) g_object_unref(image);
    g_free(out);
}

Row againstVips() {
    if (VIPS_INIT("glyptos-bench") != 0) std::exit(2);
    constexpr int kWidth = 7617, kHeight = 3756;
    const std::vector<uint8_t> rgb = photoBytes(kWidth, kHeight);
    const QTemporaryDir folder;
    const std::string profile = folder.filePath("press.icc").toStdString();
    (void)writeFile(profile, pressProfileBytes());
    const auto press = ToPress::create(pressProfileBytes(), 3.3).value();
    double ours = 1e300, theirs = 1e300;
    for (int i = 0; i < 3; ++i) {
        ours = std::min(ours, milliseconds([&] {
                            Buffer<uint8_t> cmyk(size_t(kWidth) * kHeight * 4);
                            tbb::parallel_for(0, kHeight, [&](int y) {
                                press->convert(rgb.data() + size_t(y) * kWidth * 3,
                                               cmyk.data() + size_t(y) * kWidth * 4, kWidth);
                            });
                            (void)deflated({cmyk.data(), cmyk.size()});
                        }));
        theirs = std::min(theirs, milliseconds([&] { packByVips(rgb, kWidth, kHeight, profile); }));
    }
    return {"28 megapixels to inks and packed, libvips", ours, theirs, 0.3, "ms"};
}
#endif

} // namespace

std::vector<Row> printing(const FontLibrary& fonts, const std::string& demo) {
    std::vector<Row> rows;
    const QTemporaryDir folder;
    const std::string file = folder.filePath("print.pdf").toStdString();
    const auto release = openProject(demo, shippedForms().value());
    if (!release) std::fprintf(stderr, "glyptos-bench: %s\n", release.error().message.c_str()), std::exit(2);
    for (const PiecePtr& piece : (*release)->pieces)
        if (piece->form->id == "sleeve-12")
            rows.push_back({"print file of the demo's sleeve",
                            std::min(printed(fonts, *release, piece->id, file),
                                     printed(fonts, *release, piece->id, file)),
                            0, 3000, "ms"});
    const auto [row, panel] = releaseOfPictures(kGatefold, printForm(kGatefold));
    rows.push_back({"print file of a gatefold's row of 20 layers", printed(fonts, row, panel.piece, file), 0,
                    6000, "ms"});
#ifdef WITH_VIPS
    rows.push_back(againstVips());
#endif
    return rows;
}

} // namespace glyptos::bench
