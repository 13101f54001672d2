// What faces look like: strokes against outlines whose measures are known, proportions against what the font
// files say of themselves, and the sorts of all shipped families.
#include "type/faces/face_facts.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"
#include "type/outline_scan.h"

#include <hb-ot.h>
#include <numbers>

using namespace glyptos;

class FaceFactsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    FaceFacts facts(const std::string& family) const {
        const auto out = factsOf(fonts.face(family, "Regular"));
        if (!out) qFatal("%s cannot be measured", family.c_str());
        return *out;
    }
    /// An ellipse, of four cubics; the other way round where it is a counter.
    static void addEllipse(Path& path, double rx, double ry, bool counter) {
        constexpr double k = 0.5522847498; // of a quarter of a circle
        const double s = counter ? -1 : 1;
        path.moveTo({rx, 0});
        path.cubicTo({rx, s * ry * k}, {rx * k, s * ry}, {0, s * ry});
        path.cubicTo({-rx * k, s * ry}, {-rx, s * ry * k}, {-rx, 0});
        path.cubicTo({-rx, -s * ry * k}, {-rx * k, -s * ry}, {0, -s * ry});
        path.cubicTo({rx * k, -s * ry}, {rx, -s * ry * k}, {rx, 0});
    }

  private Q_SLOTS:
    void linesThroughARing() {
        Path ring;
        addEllipse(ring, 0.5, 0.5, false);
        addEllipse(ring, 0.3, 0.4, true);
        const OutlineScan scan(ring);
        QVERIFY(std::abs(scan.bounds().w - 1) < 1e-9 && std::abs(scan.bounds().h - 1) < 1e-9);
        const auto level = scan.across(0.0001);
        QCOMPARE(level.size(), size_t(2));
        QVERIFY(std::abs(level[0].from + 0.5) < 1e-3 && std::abs(level[0].length() - 0.2) < 1e-3);
        const auto upright = scan.along({0.0001, 0}, {0, 1});
        QCOMPARE(upright.size(), size_t(2));
        QVERIFY(std::abs(upright[1].from - 0.4) < 1e-3 && std::abs(upright[1].length() - 0.1) < 1e-3);
        // In lengths of a way that is not 1, from somewhere on it.
        const auto slanting = scan.along({-1, -1.0001}, {2, 2});
        QCOMPARE(slanting.size(), size_t(2));
        const double r = 0.5 / std::numbers::sqrt2;
        QVERIFY(std::abs(slanting[0].from - (1 - r) / 2) < 2e-3 &&
                std::abs(slanting[1].to - (1 + r) / 2) < 2e-3);
        QVERIFY(scan.across(2).empty());
        QVERIFY(scan.cornerShare() < 0.01);
    }
    void overlapsCountOnceAndCornersAreFound() {
        Path cross;
        cross.addRect({-1, -0.1, 2, 0.2});
        cross.addRect({-0.1, -1, 0.2, 2});
        const OutlineScan scan(cross);
        const auto runs = scan.across(0.05);
        QCOMPARE(runs.size(), size_t(1));
        QVERIFY(std::abs(runs[0].length() - 2) < 1e-9);
        QVERIFY(scan.cornerShare() > 0.99);
        QVERIFY(OutlineScan(Path()).empty());
        QVERIFY(OutlineScan(Path()).across(0).empty());
    }

    /// As the makers of the fonts noted it in the table OS/2.
    void heightsAreThoseThatTheFilesTell() {
        int compared = 0;
        for (const FamilyInfo& family : fonts.families()) {
            const FacePtr face = fonts.face(family.name, "Regular");
            const FaceFacts f = facts(family.name);
            hb_position_t x = 0, capitals = 0;
            if (!hb_ot_metrics_get_position(face->font(), HB_OT_METRICS_TAG_X_HEIGHT, &x) ||
                !hb_ot_metrics_get_position(face->font(), HB_OT_METRICS_TAG_CAP_HEIGHT, &capitals) ||
                !f.hasSmallLetters || f.is(FaceSort::Script) || f.is(FaceSort::Blackletter))
                continue;
            ++compared;
            QVERIFY2(std::abs(f.xHeight - x / face->unitsPerEm()) < 0.015 &&
                         std::abs(f.capHeight - capitals / face->unitsPerEm()) < 0.015,
                     qPrintable(QString("%1: %2 and %3 em, not %4 and %5")
                                    .arg(family.name.c_str())
                                    .arg(f.xHeight)
                                    .arg(f.capHeight)
                                    .arg(x / face->unitsPerEm())
                                    .arg(capitals / face->unitsPerEm())));
        }
        QVERIFY(compared >= 4);
    }

    void sortsOfTheShippedFamilies_data() {
        QTest::addColumn<QStringList>("sorts");
        const auto row = [](const char* family, const char* sorts) {
            QTest::newRow(family) << QString(sorts).split(' ');
        };
        row("Averia Serif GWF", "serif");
        row("Bebas Neue", "grotesque condensed display");
        row("Blankenburg_UNZ1A", "blackletter");
        row("CMU Concrete", "slab serif");
        row("Dancing Script", "script hand");
        row("EB Garamond", "serif");
        row("GFS Didot", "serif high-contrast");
        row("Inter", "grotesque");
        row("Kaushan Script", "script");
        row("Kristi", "script hand");
        row("League Mono", "mono grotesque");
        row("League Spartan", "grotesque");
        row("Leckerli One", "script");
    }
    void sortsOfTheShippedFamilies() {
        QFETCH(QStringList, sorts);
        const FaceFacts f = facts(QTest::currentDataTag());
        QStringList got;
        for (const FaceSort sort : f.sorts) got += QString::fromUtf8(wordFor(sort).data());
        QCOMPARE(got, sorts);
    }
    void everyShippedFamilyIsInTheTable() { QCOMPARE(fonts.families().size(), size_t(13)); }

    /// A heavier style has thicker stems, whatever it is called, and the same letters.
    void weightsAndSlantsOfOneFamily() {
        double stem = 0;
        for (const char* style : {"Light", "Regular", "Bold", "Black"}) {
            const auto f = factsOf(fonts.face("Inter", style));
            QVERIFY2(f && f->stem > stem * 1.1, style);
            QVERIFY(f->is(FaceSort::Grotesque) || f->is(FaceSort::Display));
            stem = f->stem;
        }
        QVERIFY(factsOf(fonts.face("Inter", "Black"))->is(FaceSort::Display));
        const auto italic = factsOf(fonts.face("CMU Concrete", "Italic"));
        QVERIFY(italic && italic->slant > 6 && italic->slant < 20);
        QVERIFY(std::abs(facts("Inter").slant) < 0.1);
    }

    void wordsForSorts() {
        for (const std::string_view word : sortWords()) {
            const auto sort = sortNamed(word);
            QVERIFY(sort && wordFor(*sort) == word);
        }
        QVERIFY(!sortNamed("fancy") && !sortNamed(""));
    }

    void charactersThatWordsNeed() {
        const FacePtr face = fonts.face("Inter", "Regular");
        QVERIFY(hasAll(*face, ""));
        QVERIFY(hasAll(*face, "Þjóðsögur við hafið"));
        QVERIFY(hasAll(*face, "line\nbreak\ttab\xc2\xa0gap\xe2\x80\x8d")); // what shows nothing is not needed
        QVERIFY(!hasAll(*face, "Tide 漢"));
        QVERIFY(!hasAll(*fonts.face("Bebas Neue", "Regular"), "шторм и ⟁"));
        QCOMPARE(hasAll(*face, "broken \xff byte"), face->has(0xfffd)); // which broken bytes become
    }
};

GLYPTOS_TEST(FaceFactsTest)
#include "face_facts_test.moc"
