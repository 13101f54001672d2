#include "type/faces/find_face.h"

#include "file/data_folder.h"
#include "support/register.h"
#include "type/paragraph.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>
#include <random>

using namespace glyptos;

namespace {

/// Words as a camera sees them: in perspective, soft, noisy, grey on grey.
FaceSample photographed(const FontLibrary& fonts, const std::string& family, const std::string& words,
                        unsigned seed) {
    std::mt19937 chance(seed);
    const auto share = [&] { return double(chance()) / 4294967296.0; };
    TextSpec spec;
    spec.text = words, spec.letters.family = family, spec.letters.size = 60;
    const Paragraph set = setParagraph(spec, fonts);
    const Rect ink = set.ink;
    constexpr int kMargin = 24;
    FaceSample out;
    out.width = int(ink.w) + 2 * kMargin, out.height = int(ink.h) + 2 * kMargin;
    // Points of the outline themselves are moved: the right edge is nearer, all leans a little.
    const double near = 1 + 0.25 * (share() - 0.5), lean = 0.1 * (share() - 0.5),
                 tilt = 0.06 * (share() - 0.5);
    Path seen;
    const auto moved = [&](Vec2 p) {
        const double u = (p.x - ink.x) / ink.w, v = (p.y - ink.y) / ink.h - 0.5;
        const double w = 1 + (near - 1) * u;
        return Vec2{kMargin + ink.w * u / w + lean * ink.h * v,
                    kMargin + ink.h * (0.5 + v / w) + tilt * ink.w * (u - 0.5)};
    };
    const Vec2* p = set.outline.points().data();
    for (const Path::Verb verb : set.outline.verbs()) switch (verb) {
        case Path::Verb::Move:
            seen.moveTo(moved(p[0]));
            p += 1;
            break;
        case Path::Verb::Line:
            seen.lineTo(moved(p[0]));
            p += 1;
            break;
        case Path::Verb::Quad:
            seen.quadTo(moved(p[0]), moved(p[1]));
            p += 2;
            break;
        case Path::Verb::Cubic:
            seen.cubicTo(moved(p[0]), moved(p[1]), moved(p[2]));
            p += 3;
            break;
        }
    const Buffer<float> cover = coverage(seen, {}, out.width, out.height);
    const bool isLight = chance() % 2;
    std::normal_distribution<double> noise(0, 0.03);
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            double soft = 0;
            int n = 0;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int u = std::clamp(x + dx, 0, out.width - 1),
                              v = std::clamp(y + dy, 0, out.height - 1);
                    soft += double(cover.data()[size_t(v) * size_t(out.width) + size_t(u)]), ++n;
                }
            const double contrast = 0.3 * soft / n * (isLight ? 1 : -1);
            out.lightness.push_back(float(std::clamp(0.5 + contrast + noise(chance), 0.0, 1.0)));
        }
    return out;
}

} // namespace

class FindFaceTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;
    std::unique_ptr<FontLibrary> library;

  private Q_SLOTS:
    /// Among the faces that the tests' own packages bring, and not whichever else a machine has: near copies
    /// of a face push it off its place.
    void initTestCase() {
        const QString config = folder.filePath("fonts.conf");
        std::ofstream(config.toStdString()) << "<fontconfig><dir>/usr/share/fonts/truetype/noto</dir>"
                                               "<dir>/usr/share/fonts/opentype/inter</dir></fontconfig>";
        qputenv("FONTCONFIG_FILE", config.toUtf8());
        library = std::make_unique<FontLibrary>(dataFolder() / "fonts");
        QVERIFY(library->has("Noto Sans") && !library->has("Nimbus Sans"));
    }

    void ofTwentyNineteenAreAmongTheFirstThree() {
        const std::pair<const char*, const char*> samples[]{{"Inter", "Slack Tide"},
                                                            {"Bebas Neue", "ALMANAC"},
                                                            {"EB Garamond", "Low Water"},
                                                            {"Kaushan Script", "Gannet"},
                                                            {"Dancing Script", "Harbour"},
                                                            {"League Spartan", "Pilot Boat"},
                                                            {"CMU Concrete", "Northern Light"},
                                                            {"GFS Didot", "Salt Road"},
                                                            {"Blankenburg_UNZ1A", "Seventh Wave"},
                                                            {"League Mono", "Keeper 12"},
                                                            {"Averia Serif GWF", "Ebb and Flow"},
                                                            {"Kristi", "Foghorn"},
                                                            {"Leckerli One", "Morning"},
                                                            {"Bebas Neue", "THE GANNET HOURS"},
                                                            {"EB Garamond", "Þögn og ljós"},
                                                            {"Inter", "Quay & Rope"},
                                                            {"GFS Didot", "Almanac"},
                                                            {"Dancing Script", "Slack Tide"},
                                                            {"League Spartan", "Harbour Wall"},
                                                            {"CMU Concrete", "Ferry"}};
        int found = 0;
        unsigned seed = 1;
        QStringList missed;
        for (const auto& [family, words] : samples) {
            const auto matches = findFaces(photographed(*library, family, words, seed++), words, *library);
            const auto end = matches.begin() + ptrdiff_t(std::min<size_t>(3, matches.size()));
            const std::string wanted = family;
            if (std::any_of(matches.begin(), end, [&](const FaceMatch& m) { return m.family == wanted; }))
                ++found;
            else
                missed << QString::fromStdString(wanted + " (" +
                                                 (matches.empty() ? "nothing" : matches[0].family) + ")");
        }
        qInfo("%d of 20, missed: %s", found, qPrintable(missed.join(QLatin1String(", "))));
        QVERIFY(found >= 19);
    }

    void badSamplesFindNothing() {
        QVERIFY(findFaces({}, "x", *library).empty());
        QVERIFY(findFaces({8, 8, std::vector<float>(64, 0.5F)}, "x", *library).empty()); // no ink
        QVERIFY(findFaces({8, 8, std::vector<float>(3, 0.5F)}, "x", *library).empty());  // not its size
        FaceSample sample = photographed(*library, "Inter", "Tide", 5);
        QVERIFY(findFaces(sample, "\U0010fffd", *library).empty()); // no face has it
        QVERIFY(findFaces(sample, "", *library).empty());
    }
};

GLYPTOS_TEST(FindFaceTest)
#include "find_face_test.moc"
