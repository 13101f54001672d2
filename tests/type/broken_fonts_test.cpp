// Fonts that are damaged, lie, or are no outlines: words are set all the same, or nothing is.
#include "support/fonts.h"
#include "support/pictures.h"
#include "support/register.h"
#include "type/faces/face_facts.h"
#include "type/paragraph.h"

#include <QTemporaryDir>
#include <cmath>

using namespace glyptos;
using namespace glyptos::test;

namespace {

using Bytes = std::vector<uint8_t>;

uint32_t read32(const Bytes& b, size_t at) {
    return uint32_t(b[at]) << 24 | uint32_t(b[at + 1]) << 16 | uint32_t(b[at + 2]) << 8 | b[at + 3];
}
void put16(Bytes& out, uint32_t v) {
    out.push_back(uint8_t(v >> 8)), out.push_back(uint8_t(v));
}
void put32(Bytes& out, uint32_t v) {
    put16(out, v >> 16), put16(out, v & 0xffff);
}

/// A font with one table more: the directory of an OpenType file is 16 bytes a table, in the order of tags.
Bytes withTable(const Bytes& font, const std::string& tag, const Bytes& table) {
    const size_t count = size_t(font[4]) << 8 | font[5], head = 12, entry = 16;
    Bytes out(font.begin(), font.begin() + 4);
    put16(out, uint32_t(count + 1));
    out.insert(out.end(), font.begin() + 6, font.begin() + long(head));
    const auto end = uint32_t(font.size() + entry);
    bool isIn = false;
    const auto putOwn = [&] {
        out.insert(out.end(), tag.begin(), tag.end());
        put32(out, 0), put32(out, end), put32(out, uint32_t(table.size()));
        isIn = true;
    };
    for (size_t i = 0; i < count; ++i) {
        const size_t at = head + i * entry;
        if (!isIn && std::string(font.begin() + long(at), font.begin() + long(at) + 4) > tag) putOwn();
        out.insert(out.end(), font.begin() + long(at), font.begin() + long(at) + 8);
        put32(out, read32(font, at + 8) + uint32_t(entry)), put32(out, read32(font, at + 12));
    }
    if (!isIn) putOwn();
    out.insert(out.end(), font.begin() + long(head + count * entry), font.end());
    out.insert(out.end(), table.begin(), table.end());
    return out;
}

/// One axis of weight, in 16.16.
Bytes axis(uint32_t least, uint32_t usual, uint32_t most, uint32_t axes = 1) {
    Bytes out;
    put32(out, 0x00010000), put16(out, 16), put16(out, 2), put16(out, axes), put16(out, 20);
    put16(out, 0), put16(out, 8);
    for (const char c : {'w', 'g', 'h', 't'}) out.push_back(uint8_t(c));
    put32(out, least), put32(out, usual), put32(out, most), put16(out, 0), put16(out, 256);
    return out;
}

} // namespace

class BrokenFontsTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder;

    std::filesystem::path at(const char* name) const { return folder->path().toStdString() + "/" + name; }
    FontLibrary library() const { return FontLibrary(folder->path().toStdString(), true); }

    /// Everything that is asked of a face, of all there are.
    static void use(const FontLibrary& fonts) {
        TextSpec spec;
        spec.text = "Þokan fjord, 3:42 AV\tÖldu\nfi ffl";
        spec.letters.kerning = Kerning::Optical;
        spec.letters.features = {{"smcp", 1}, {"tnum", 1}};
        spec.frame = InArea{60, 0}, spec.align = Align::Justified;
        for (const FamilyInfo& family : fonts.families())
            for (const std::string& style : family.styles) {
                spec.letters.family = family.name, spec.letters.style = style;
                const Paragraph set = setParagraph(spec, fonts);
                for (const SetLetter& letter : set.letters)
                    QVERIFY(std::isfinite(letter.map.e) && std::isfinite(letter.advance));
                QVERIFY(!set.box.empty());
                if (const FacePtr face = fonts.face(family.name, style)) (void)factsOf(face);
            }
        spec.letters.family = "No such family";
        QVERIFY(!setParagraph(spec, fonts).box.empty());
    }

  private Q_SLOTS:
    void init() { folder = std::make_unique<QTemporaryDir>(); }

    void damagedFiles_data() {
        QTest::addColumn<QByteArray>("file");
        QTest::newRow("quadratic outlines") << QByteArray("kristi/Kristi.ttf");
        QTest::newRow("cubic outlines") << QByteArray("league-mono/LeagueMono-Bold.otf");
    }
    /// Damaged at one byte after the other: in the directory and the tables' heads each, then further apart.
    void damagedFiles() {
        QFETCH(QByteArray, file);
        const Bytes good = shippedFont(file.constData());
        for (size_t i = 0; i < good.size(); i += i < 400 ? 7 : 293) {
            Bytes bad = good;
            bad[i] ^= uint8_t(0x40 | (i % 64));
            write(at("a.otf"), bad);
            use(library());
        }
    }

    void cutAndEmptyFiles() {
        const Bytes good = shippedFont("kristi/Kristi.ttf");
        for (const size_t size :
             {size_t(0), size_t(3), size_t(12), size_t(200), good.size() / 3, good.size() - 1}) {
            write(at("a.ttf"), Bytes(good.begin(), good.begin() + long(size)));
            use(library());
        }
        write(at("a.ttf"), Bytes(5000, 0x5a));
        use(library());
        std::filesystem::remove(at("a.ttf"));
        QVERIFY(library().families().empty());
        use(library());
    }

    void brokenAxes_data() {
        QTest::addColumn<unsigned>("least");
        QTest::addColumn<unsigned>("usual");
        QTest::addColumn<unsigned>("most");
        QTest::addColumn<unsigned>("axes");
        QTest::newRow("right") << 0x640000U << 0x1900000U << 0x3840000U << 1U;
        QTest::newRow("turned round") << 0x3840000U << 0x1900000U << 0x640000U << 1U;
        QTest::newRow("its usual place outside") << 0x640000U << 0x7fff0000U << 0x3840000U << 1U;
        QTest::newRow("the farthest there are") << 0x80000000U << 0U << 0x7fffffffU << 1U;
        QTest::newRow("more axes than there are") << 0x640000U << 0x1900000U << 0x3840000U << 900U;
    }
    void brokenAxes() {
        QFETCH(unsigned, least);
        QFETCH(unsigned, usual);
        QFETCH(unsigned, most);
        QFETCH(unsigned, axes);
        write(at("a.ttf"),
              withTable(shippedFont("kristi/Kristi.ttf"), "fvar", axis(least, usual, most, axes)));
        const FontLibrary fonts = library();
        use(fonts);
        // And as what it is: opened by itself, wherever one asks it to stand.
        const FacePtr face = Face::open(at("a.ttf"), 0, "Kristi", "Regular");
        QVERIFY(face);
        if (QByteArray(QTest::currentDataTag()) == "right") QCOMPARE(face->axes().size(), size_t(1));
        for (const double place : {-1e9, 400.0, 1e9, double(NAN), double(INFINITY)}) {
            const FacePtr there = face->at({{"wght", place}, {"none", 3}});
            QVERIFY(there && there->has('A') && std::isfinite(there->ascentEm()));
            for (const FaceAxis& one : there->axes())
                QVERIFY(std::isfinite(one.at) && std::isfinite(one.least) && std::isfinite(one.most));
        }
    }

    void picturesOfLettersAreNoFaces() {
        const std::string bdf =
            "STARTFONT 2.1\nFONT -m-Dots-Medium-R-Normal--8-80-75-75-C-80-ISO10646-1\n"
            "SIZE 8 75 75\nFONTBOUNDINGBOX 8 8 0 0\nSTARTPROPERTIES 3\n"
            "FAMILY_NAME \"Dots\"\nFONT_ASCENT 8\nFONT_DESCENT 0\nENDPROPERTIES\nCHARS 1\n"
            "STARTCHAR A\nENCODING 65\nSWIDTH 1000 0\nDWIDTH 8 0\nBBX 8 8 0 0\nBITMAP\n"
            "18\n24\n42\n42\n7E\n42\n42\n00\nENDCHAR\nENDFONT\n";
        write(at("dots.bdf"), Bytes(bdf.begin(), bdf.end()));
        QVERIFY(library().families().empty());
        write(at("a.ttf"), shippedFont("kristi/Kristi.ttf"));
        const FontLibrary fonts = library();
        QCOMPARE(fonts.families().size(), size_t(1));
        QCOMPARE(fonts.face("Dots", "Medium")->family(), fonts.families()[0].name); // and that is told
    }

    void twoFontsOfOneNameAreOneFace() {
        for (const char* name : {"b.ttf", "a.ttf", "c.ttf"})
            write(at(name), shippedFont("kristi/Kristi.ttf"));
        const FontLibrary fonts = library();
        QCOMPARE(fonts.families().size(), size_t(1));
        QCOMPARE(fonts.families()[0].styles.size(), size_t(1));
        const std::string first = fonts.face(fonts.families()[0].name, "Regular")->file();
        for (int i = 0; i < 5; ++i)
            QCOMPARE(library().face(fonts.families()[0].name, "Regular")->file(), first);
    }

    void wordsThatAreNoWords_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("nothing") << QByteArray();
        QTest::newRow("zero-width") << QByteArray("a\u200bb\u200d\ufeff\u2060c");
        QTest::newRow("controls") << QByteArray("a\x01\x02\x1b[31mb\x7f", 11);
        QTest::newRow("a zero") << QByteArray("a\0b", 3);
        QTest::newRow("half a surrogate") << QByteArray("a\xed\xa0\x80z");
        QTest::newRow("cut character") << QByteArray("a\xc3");
        QTest::newRow("never UTF-8") << QByteArray("\xff\xfe\xf8\x88");
        QTest::newRow("marks without letters") << QByteArray("\u0301\u0301\u0301");
        QTest::newRow("only breaks") << QByteArray("\n\n\t\n\u2028");
        QTest::newRow("directions left open") << QByteArray("\u202e\u2067\u202a\u05d0 a");
    }
    void wordsThatAreNoWords() {
        QFETCH(QByteArray, text);
        const FontLibrary fonts(dataFolder() / "fonts", true);
        const Contour brief{{{{0, 0}, {}, {}}, {{1, 0}, {}, {}}}, false}, none{{}, false};
        for (const TextFrame& frame :
             {TextFrame(AtPoint{}), TextFrame(InArea{30, 0}), TextFrame(InShape{{brief}}),
              TextFrame(AlongPath{brief, 0, false}), TextFrame(AlongPath{none, 3, true}),
              TextFrame(RoundCircle{0, 10, false}), TextFrame(RoundCircle{20, 10, true}),
              TextFrame(InTable{})}) {
            TextSpec spec;
            spec.text = text.toStdString(), spec.frame = frame, spec.hyphenate = true;
            spec.letters.language = "is";
            const Paragraph set = setParagraph(spec, fonts);
            QVERIFY(set.shown <= spec.text.size() && !set.box.empty());
            for (const SetLetter& letter : set.letters)
                QVERIFY(letter.from <= letter.to && letter.to <= spec.text.size());
        }
    }
};

GLYPTOS_TEST(BrokenFontsTest)
#include "broken_fonts_test.moc"
