#include "keeping.h"

#include "file/disk/atomic_file.h"
#include "file/journal/journal_reader.h"
#include "file/pictures/picture_reader.h"
#include "file/project.h"
#include "layers.h"
#include "painting.h"

#include <QTemporaryDir>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <random>
#include <unistd.h>

namespace glyptos::bench {
namespace {

constexpr int kPictures = 100;
constexpr size_t kPictureBytes = 20'000'000;

std::filesystem::path largeFile() {
    return std::filesystem::temp_directory_path() / "glyptos-bench-large.glyptos";
}

/// Bytes that no codec reads: what is measured is what happens before any picture is shown.
ReleasePtr releaseOfPictures() {
    ReleasePtr release = *withPiece(std::make_shared<const Release>(), shippedForms().value().front());
    const PanelRef panel{release->pieces[0]->id, release->pieces[0]->flat->panels[0].id};
    std::mt19937_64 chance(1);
    for (int i = 0; i < kPictures; ++i) {
        std::vector<uint8_t> bytes(kPictureBytes);
        for (size_t k = 0; k + 8 <= bytes.size(); k += 8) {
            const uint64_t some = chance();
            std::memcpy(bytes.data() + k, &some, 8);
        }
        auto source = std::make_shared<Source>();
        source->id = contentId(bytes);
        source->name = "photo " + std::to_string(i) + ".jpg", source->format = "jpeg";
        source->width = 8256, source->height = 5504;
        source->bytes = pictureBytes(std::move(bytes));
        release = withSource(release, source);
        Layer layer;
        layer.name = source->name;
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        release = withLayer(release, panel, layer).release;
    }
    return release;
}

void sync(const std::filesystem::path& file) {
    const int open = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    ::fsync(open);
    ::close(open);
}

[[noreturn]] void give(const std::string& what) {
    std::fprintf(stderr, "glyptos-bench: %s\n", what.c_str());
    std::exit(2);
}

/// The core's time for a step of a release of 30 layers, one of which was changed.
Row stepRow() {
    Layers layers(3000, 3000, 30);
    ReleasePtr release = layers.release;
    NodeWriter nodes;
    RecordSink out([](std::span<const uint8_t>) { return Result<void>(); });
    nodes.write(*release, {}, out);
    nodes.commit();
    std::vector<double> times;
    for (int i = 0; i < 200; ++i) {
        const std::string id = stackOf(*release, layers.panel)[size_t(i % 30)]->id;
        release =
            withChangedLayer(release, layers.panel, id, [&](Layer& l) { l.opacity = (i % 99) / 100.0; });
        times.push_back(milliseconds([&] {
            nodes.write(*release, {}, out);
            nodes.commit();
        }));
    }
    return {"a step of a release of 30 layers written down, p95", percentile95(times), 0, 5, "ms"};
}

} // namespace

std::vector<Row> writingDown() {
    const QTemporaryDir folder;
    const std::filesystem::path journals = folder.path().toStdString() + "/journals";
    std::unique_ptr<JournalWriter> writer;
    size_t most = 0, step = 0;
    const auto look = [&] {
        std::error_code code;
        const auto size = std::filesystem::file_size(writer->path(), code);
        if (!code) most = std::max(most, size_t(size));
    };
    size_t saved = 0;
    ReleasePtr last;
    paintAllNight([&](const History& history) {
        if (!writer) {
            const ReleasePtr start = history.steps().front().release;
            writer = std::make_unique<JournalWriter>(journals, JournalState{History(start), start},
                                                     [](const std::string& why) {
                                                         if (!why.empty()) give(why);
                                                     });
        }
        writer->step("Paint", history.current(), false);
        last = history.current();
        if (++step % 4 == 0) {
            last = withLinearLight(last, step % 8 == 0);
            writer->step("Light", last, false);
        }
        if (step % 20 == 0 && !writer->flush()) give("the journal could not be written");
        look();
    });
    const auto file = std::filesystem::path(folder.path().toStdString()) / "night.glyptos";
    if (!writer->flush() || !writeFile(file, {})) give("the night could not be written down");
    writer->saved(last, {file, stampOf(file)});
    if (!writer->flush()) give("the journal could not be written");
    saved = size_t(std::filesystem::file_size(writer->path()));
    constexpr double kMB = 1e6;
    return {
        stepRow(),
        {"the journal of 2000 strokes on 3750² and 500 edits, at most", double(most) / kMB, 0, 1000, "MB"},
        {"the same once it was saved", double(saved) / kMB, 0, 0, "MB"}};
}

std::vector<Row> largeRelease() {
    if (!saveProject(*releaseOfPictures(), largeFile())) give("there is no room for the large release");
    const auto forms = shippedForms().value();
    ReleasePtr release;
    const double opened = least(3, [&] {
        const auto back = openProject(largeFile(), forms);
        if (!back) give(back.error().message);
        release = *back;
    });
    const auto copy = largeFile().string() + ".copy";
    const double copied = least(2, [&] {
        std::filesystem::copy_file(largeFile(), copy, std::filesystem::copy_options::overwrite_existing);
        sync(copy);
    });
    const double saved = least(2, [&] {
        if (const auto done = saveProject(*release, copy); !done) give(done.error().message);
    });
    std::filesystem::remove(copy);
    return {{"a release with 2 GB of pictures opened", opened, 0, 1000, "ms"},
            {"the same saved, against a copy of its file", saved, copied, 1.5, "ms"}};
}

void openTwoGigabytes() {
    const auto back = openProject(largeFile(), shippedForms().value());
    if (!back) give(back.error().message);
}

void forgetLargeRelease() {
    std::error_code code;
    std::filesystem::remove(largeFile(), code);
}

} // namespace glyptos::bench
