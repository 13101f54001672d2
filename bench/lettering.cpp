#include "lettering.h"

#include "app/letter/specimen_list.h"
#include "app/letter/words_picture.h"
#include "file/data_folder.h"
#include "render/tiles/layer_tiles.h"
#include "type/faces/face_catalogue.h"
#include "type/paragraph.h"

#include <QApplication>
#include <QFont>
#include <QScrollBar>
#include <QTextLayout>
#include <tbb/parallel_for.h>

namespace glyptos::bench {
namespace {

std::string longWords() {
    const std::string part = "Low water came an hour before the light, and the pilots of Gannet Street "
                             "walked out over the flats. ";
    std::string out;
    while (out.size() < 2000) out += part;
    return out.substr(0, 2000);
}

/// As Qt breaks and shapes them.
double laidByQt(const QString& words) {
    return milliseconds([&] {
        QFont font(QStringLiteral("Inter"));
        font.setPixelSize(16);
        QTextLayout layout(words, font);
        layout.beginLayout();
        for (QTextLine line = layout.createLine(); line.isValid(); line = layout.createLine())
            line.setLineWidth(600);
        layout.endLayout();
    });
}

} // namespace

std::vector<Row> typing(const FontLibrary& fonts) {
    TextSpec spec;
    spec.text = longWords();
    spec.letters.size = 16, spec.letters.language = "en-GB";
    spec.frame = InArea{600, 0}, spec.align = Align::Justified, spec.hyphenate = true;
    std::vector<double> whole, setting, peer;
    for (int i = 0; i < 60; ++i) {
        spec.text[size_t(i) * 31 + 5] = char('a' + i % 26);
        std::shared_ptr<const Paragraph> set;
        setting.push_back(
            milliseconds([&] { set = std::make_shared<const Paragraph>(setParagraph(spec, fonts)); }));
        const InkedOutline ink{std::shared_ptr<const Path>(set, &set->outline), {0, 0, 0, 1}};
        const double drawn = milliseconds([&] {
            constexpr int kTile = 256;
            tbb::parallel_for(0, 12, [&](int tile) {
                textTile({ink}, {}, {tile % 4 * kTile, tile / 4 * kTile, kTile, kTile});
            });
        });
        whole.push_back(setting.back() + drawn);
        peer.push_back(laidByQt(QString::fromStdString(spec.text)));
    }
    return {
        {"a key typed into 2,000 justified characters, set and drawn, p95", percentile95(whole), 0, 16, "ms"},
        {"the same set alone, against QTextLayout, which does not justify", percentile95(setting),
         percentile95(peer), 0, "ms"}};
}

namespace {

/// One frame of the list of specimens while it is scrolled from end to end, p95; rows that come into view are
/// drawn meanwhile.
double scrolledFrame(const FontLibrary& fonts,
                     const std::vector<std::pair<std::string, std::string>>& faces) {
    SpecimenList list(fonts);
    list.resize(396, 560);
    TextSpec words;
    words.text = "Slack Tide Almanac";
    list.setWords(words);
    std::vector<Specimen> rows;
    for (const auto& [family, style] : faces) rows.push_back({family, style, QString::fromStdString(style)});
    list.setRows(std::move(rows));
    list.show();
    std::vector<double> frames;
    for (int at = 0; at < list.verticalScrollBar()->maximum(); at += 40) {
        frames.push_back(milliseconds([&] {
            list.verticalScrollBar()->setValue(at);
            list.viewport()->repaint();
        }));
        QApplication::processEvents(QEventLoop::AllEvents, 2);
    }
    return percentile95(frames);
}

/// As the program does when it starts.
double opened(bool shippedOnly) {
    return milliseconds([&] { const FontLibrary fonts(dataFolder() / "fonts", shippedOnly); });
}

} // namespace

std::vector<Row> specimens() {
    const FontLibrary fonts(dataFolder() / "fonts");
    constexpr size_t kFaces = 300, kScreen = 8;
    std::vector<std::pair<std::string, std::string>> faces;
    const std::vector<FamilyInfo> families = fonts.families();
    for (const FamilyInfo& family : families)
        for (const std::string& style : family.styles)
            if (faces.size() < kFaces) faces.emplace_back(family.name, style);
    const auto draw = [&](size_t count) {
        tbb::parallel_for(size_t(0), std::min(count, faces.size()), [&](size_t i) {
            TextSpec words;
            words.text = "Slack Tide Almanac", words.letters.family = faces[i].first,
            words.letters.style = faces[i].second;
            wordsPicture(words, fonts, {372, 46}, 21, Qt::black);
        });
    };
    const double measured = milliseconds([&] {
        tbb::parallel_for(size_t(0), families.size(), [&](size_t i) { entryOf(families[i], fonts); });
    });
    const double screen = milliseconds([&] { draw(kScreen); }), all = milliseconds([&] { draw(kFaces); });
    const std::string name = std::to_string(faces.size()) + " faces";
    return {{"all families measured (" + std::to_string(families.size()) + ")", measured, 0, 0, "ms"},
            {"the first screen of specimens drawn", screen, 0, 200, "ms"},
            {"specimens of " + name + " drawn", all, 0, 2000, "ms"},
            {"scroll through " + name + ", p95 of a frame", scrolledFrame(fonts, faces), 0, 16.7, "ms"},
            {"all faces found at the start, against the shipped ones alone", opened(false), opened(true), 0,
             "ms"}};
}

} // namespace glyptos::bench
