#include "gather.h"

#include "app/gather/source_grid.h"
#include "crate/indexing.h"
#include "file/pictures/picture_writer.h"
#include "raster/noise.h"

#include <QApplication>
#include <QEventLoop>
#include <QScrollBar>
#include <QTemporaryDir>
#include <fstream>

namespace glyptos::bench {
namespace {

constexpr int kSources = 10'000;

/// A small picture of its own noise and colours.
std::vector<uint8_t> smallPicture(int number) {
    constexpr int w = 320, h = 240;
    std::vector<uint8_t> rgb(size_t(w) * h * 3);
    const auto seed = uint32_t(number);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
            for (uint32_t c = 0; c < 3; ++c)
                rgb[(size_t(y) * w + size_t(x)) * 3 + c] =
                    uint8_t(255 * (0.3f * hashNoise(int(seed), int(c), 1) +
                                   0.7f * valueNoise(float(x) / 40, float(y) / 40, seed * 3 + c)));
    return *encodeJpeg(rgb, w, h, 85, {72});
}

/// Pictures whose names are two of these words and a number.
void makePictures(const std::filesystem::path& folder) {
    const char* const words[] = {"rope", "tar",  "gull", "lamp",  "rust",
                                 "fog",  "quay", "salt", "chart", "moon"};
    for (int i = 0; i < kSources; ++i) {
        const auto bytes = smallPicture(i);
        const std::string name =
            std::string(words[i % 10]) + " " + words[i / 10 % 10] + " " + std::to_string(i) + ".jpg";
        std::ofstream(folder / name, std::ios::binary)
            .write(reinterpret_cast<const char*>(bytes.data()), std::streamsize(bytes.size()));
    }
}

Picture largePicture() {
    constexpr int w = 6000, h = 4000;
    Picture out = Picture::create<uint8_t>(w, h);
    out.opaque = true;
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            uint8_t* p = out.row<uint8_t>(y) + 4 * x;
            for (uint32_t c = 0; c < 3; ++c)
                p[c] = uint8_t(
                    255 * (0.8f * valueNoise(float(x) / 300, float(y) / 300, c) + 0.2f * hashNoise(x, y, 9)));
            p[3] = 255;
        }
    return out;
}

/// The longest that painting one screenful took while scrolling through all of them, with the small pictures
/// on disk.
double worstFrame(const std::filesystem::path& crate) {
    CrateService service(crate, {});
    ThumbnailStore thumbnails;
    SourceGrid grid(service, thumbnails);
    grid.resize(760, 600);
    grid.show();
    while (service.busy()) QApplication::processEvents(QEventLoop::AllEvents, 5);
    grid.setEntries(service.shelf()->entries());
    std::vector<double> frames;
    for (int at = 0; at < grid.verticalScrollBar()->maximum() && frames.size() < 600; at += 300) {
        frames.push_back(milliseconds([&] {
            grid.verticalScrollBar()->setValue(at);
            grid.viewport()->repaint();
        }));
        QApplication::processEvents(QEventLoop::AllEvents, 2);
    }
    std::sort(frames.begin(), frames.end());
    return frames[frames.size() * 95 / 100];
}

} // namespace

std::vector<Row> gathering() {
    const QTemporaryDir home;
    const std::filesystem::path pictures = home.path().toStdString() + "/pictures",
                                folder = home.path().toStdString() + "/crate";
    std::filesystem::create_directories(pictures);
    makePictures(pictures);
    auto crate = std::move(*Crate::open(folder));
    const double indexing = milliseconds([&] { (void)*addFiles(*crate, {pictures}); });
    const ShelfPtr shelf = crate->shelf();
    std::vector<double> searches, likes;
    for (const char* words : {"r", "ro", "rop", "rope", "rope t", "rope ta", "rope tar", "g", "gu",
                              "gull fog", "7", "77", "salt 99"})
        searches.push_back(milliseconds([&] { (void)findIn(*shelf, {}, crate->matching(words)); }));
    for (size_t i = 0; i < 20; ++i) {
        CrateQuery query;
        query.like = shelf->entries()[i * 400]->id;
        query.weights = {double(i) / 20, 1};
        likes.push_back(milliseconds([&] { (void)findIn(*shelf, query, std::nullopt); }));
    }
    const Picture large = largePicture();
    const double palette = least(3, [&] {
        ColourCount count;
        count.add(large);
        (void)paletteOf(count);
    });
    crate.reset();
    std::vector<Row> out{
        {"index 10,000 small pictures, each", indexing / kSources, 0, 10},
        {"search as you type in 10,000, slowest", *std::max_element(searches.begin(), searches.end()), 0, 30},
        {"like this one among 10,000, slowest", *std::max_element(likes.begin(), likes.end()), 0, 50},
        {"palette of a 24-megapixel picture", palette, 0, 150}};
    double open = 0;
    open = milliseconds([&] { (void)*Crate::open(folder); });
    out.push_back({"open a crate of 10,000", open, 0, 1500});
    out.push_back({"scroll through 10,000, p95 of a frame", worstFrame(folder), 0, 16.7});
    return out;
}

} // namespace glyptos::bench
