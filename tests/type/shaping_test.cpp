#include "file/data_folder.h"
#include "raster/path.h"
#include "support/register.h"
#include "type/glyph_run.h"
#include "type/paragraph.h"

#include <QImage>
#include <QProcess>
#include <QTemporaryDir>

using namespace glyptos;

namespace {

struct Script {
    const char *name, *family, *language;
    QString words; ///< apart by spaces
};

const std::vector<Script>& scripts() {
    static const std::vector<Script> all{
        {"Latin", "Inter", "en",
         QStringLiteral("slack tide AVATAR office waffle To. Yard “quay” 12:08 fjord")},
        {"Icelandic", "EB Garamond", "is",
         QStringLiteral("öldurót Þögn ðýfa Ísafjörður sævar blágrýti Æðey")},
        {"Greek", "Noto Sans", "el", QStringLiteral("θάλασσα νερό Άνεμος ψαράς ήλιος νύχτα φάρος όρμος")},
        {"Cyrillic", "Noto Serif", "ru", QStringLiteral("море прилив Берег щука объём лодка ночь тишина")},
        {"Arabic", "Noto Naskh Arabic", "ar", QStringLiteral("بحر السلام مدّ ميناء لا إله صخور ضوء الليل")},
        {"Hebrew", "Noto Sans Hebrew", "he", QStringLiteral("ים שָׁלוֹם גלים חוף רוח לילה אור מגדל")},
        {"Devanagari", "Noto Sans Devanagari", "hi",
         QStringLiteral("समुद्र लहरें क्षितिज प्रकाश रात्रि श्री किनारा")},
        {"Bengali", "Noto Sans Bengali", "bn", QStringLiteral("সমুদ্র জোয়ার ক্ষণ আলো নৌকা রাত্রি বাতাস")},
        {"Tamil", "Noto Sans Tamil", "ta", QStringLiteral("கடல் அலைகள் ஒளி காற்று இரவு கரை படகு")},
        {"Thai", "Noto Sans Thai", "th", QStringLiteral("ทะเล คลื่น น้ำขึ้น แสง กลางคืน ลม เรือ")},
        {"Georgian", "Noto Sans Georgian", "ka", QStringLiteral("ზღვა ტალღა ნათელი ღამე ქარი ნავი სიჩუმე")},
        {"Khmer", "Noto Sans Khmer", "km", QStringLiteral("សមុទ្រ រលក ពន្លឺ ខ្យល់ ទូក រាត្រី ស្ងាត់")},
    };
    return all;
}

/// Lines of words in ever other orders.
QStringList linesOf(const Script& script) {
    const QStringList words = script.words.split(QLatin1Char(' '));
    QStringList out;
    for (int i = 0; i < 17; ++i) {
        QStringList line;
        for (int k = 0; k <= i % 5 + 1; ++k) line << words[(i * 3 + k * (i % 3 + 1)) % words.size()];
        out << line.join(QLatin1Char(' '));
    }
    return out;
}

/// Of a spec in one line, as hb-shape tells it.
QString told(const TextSpec& spec, const FacePtr& face) {
    const auto faceFor = [&](size_t, char32_t) { return face; };
    const Segment segment = segmentOf(spec, 0, spec.text.size(), faceFor);
    QStringList glyphs;
    Shaper shaper(spec);
    for (const ShapedGlyph& g : shaper.line(segment, 0, segment.units.size())) {
        const double units = face->unitsPerEm() / spec.letters.size;
        QString one = QString::number(g.id);
        const int x = int(std::lround(g.offset.x * units)), y = int(std::lround(g.offset.y * units));
        if (x || y) one += QStringLiteral("@%1,%2").arg(x).arg(y);
        one += QStringLiteral("+%1").arg(int(std::lround(g.advance * units)));
        glyphs << one;
    }
    return QLatin1Char('[') + glyphs.join(QLatin1Char('|')) + QLatin1Char(']');
}

QByteArray ran(const QString& program, const QStringList& arguments, const QByteArray& in = {}) {
    QProcess process;
    process.start(program, arguments);
    process.write(in);
    process.closeWriteChannel();
    return process.waitForFinished() && process.exitCode() == 0 ? process.readAllStandardOutput()
                                                                : QByteArray();
}

} // namespace

class ShapingTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts"};

  private Q_SLOTS:
    void asTheToolShapes_data() {
        QTest::addColumn<int>("script");
        for (size_t i = 0; i < scripts().size(); ++i) QTest::newRow(scripts()[i].name) << int(i);
    }
    void asTheToolShapes() {
        QFETCH(int, script);
        const Script& one = scripts()[size_t(script)];
        const FacePtr face = fonts.face(one.family, "Regular");
        QCOMPARE(QString::fromStdString(face->family()), QLatin1String(one.family));
        const QStringList lines = linesOf(one);
        const QByteArray all = ran(QStringLiteral("hb-shape"),
                                   {QStringLiteral("--no-glyph-names"), QStringLiteral("--no-clusters"),
                                    QStringLiteral("--language=%1").arg(QLatin1String(one.language)),
                                    QStringLiteral("--face-index=%1").arg(face->index() & 0xffff),
                                    QString::fromStdString(face->file())},
                                   (lines.join(QLatin1Char('\n')) + QLatin1Char('\n')).toUtf8());
        const QStringList theirs = QString::fromUtf8(all).split(QLatin1Char('\n'), Qt::SkipEmptyParts);
        QCOMPARE(theirs.size(), lines.size());
        for (int i = 0; i < lines.size(); ++i) {
            TextSpec spec;
            spec.text = lines[i].toStdString();
            spec.letters.language = one.language;
            QCOMPARE(told(spec, face), theirs[i]);
            // Its whole advance, as set.
            spec.letters.family = one.family;
            double advance = 0;
            for (const QString& glyph : theirs[i].mid(1, theirs[i].size() - 2).split(QLatin1Char('|')))
                advance += glyph.section(QLatin1Char('+'), 1).toDouble();
            const double set = setParagraph(spec, fonts).lines.front().width;
            QVERIFY(std::abs(set - advance / face->unitsPerEm() * spec.letters.size) < 1e-6);
        }
    }

    /// Coverage of pixels at 300 ppi, 24 pt: an edge that is 0.35 px off would differ by as much. Letter by
    /// letter, since the tool's painter puts them at whole pixels.
    void edgesAsTheToolDraws_data() {
        QTest::addColumn<QString>("family");
        QTest::addColumn<QString>("letters");
        const QString latin = QStringLiteral("SagR&Mþð8é");
        for (const char* family : {"Inter", "EB Garamond", "CMU Concrete", "Blankenburg_UNZ1A"})
            QTest::newRow(family) << QString::fromLatin1(family) << latin;
        QTest::newRow("Arabic") << QStringLiteral("Noto Naskh Arabic") << QStringLiteral("بسلمهع");
        QTest::newRow("Devanagari") << QStringLiteral("Noto Sans Devanagari") << QStringLiteral("समदरश");
    }
    void edgesAsTheToolDraws() {
        QFETCH(QString, family);
        QFETCH(QString, letters);
        const FacePtr face = fonts.face(family.toStdString(), "Regular");
        QCOMPARE(QString::fromStdString(face->family()), family);
        const QTemporaryDir folder;
        for (const QChar letter : letters) {
            const QString file = folder.filePath(QStringLiteral("letter.png"));
            ran(QStringLiteral("hb-view"),
                {QStringLiteral("--font-size=100"), QStringLiteral("--margin=30"),
                 QStringLiteral("--output-format=png"), QStringLiteral("--output-file=") + file,
                 QStringLiteral("--background=ffffff"), QStringLiteral("--foreground=000000"),
                 QString::fromStdString(face->file()), QString(letter)});
            const QImage theirs = QImage(file).convertToFormat(QImage::Format_Grayscale8);
            QVERIFY2(!theirs.isNull(), "install libharfbuzz-bin");
            TextSpec spec;
            spec.text = QString(letter).toStdString();
            spec.letters.family = family.toStdString(), spec.letters.size = 100;
            const double off = worstDifference(theirs, setParagraph(spec, fonts));
            QVERIFY2(off <= 0.35, qPrintable(QStringLiteral("%1: %2").arg(letter).arg(off)));
        }
    }

  private:
    /// The tool says nothing of where it puts the baseline: near the top of the ink, at some part of a pixel.
    static double worstDifference(const QImage& theirs, const Paragraph& set) {
        const auto hasInk = [&](int y) {
            const uchar* row = theirs.constScanLine(y);
            return std::any_of(row, row + theirs.width(), [](uchar v) { return v < 250; });
        };
        int top = 0;
        while (top < theirs.height() && !hasInk(top)) ++top;
        double least = 1e9;
        for (double dy = top - set.ink.y - 1; dy <= top - set.ink.y + 1; dy += 0.1) {
            const Buffer<float> ours =
                coverage(set.outline, Affine::translation(30, dy), theirs.width(), theirs.height());
            double worst = 0;
            for (int y = 0; y < theirs.height(); ++y)
                for (int x = 0; x < theirs.width(); ++x)
                    worst = std::max(
                        worst, std::abs(1 - theirs.constScanLine(y)[x] / 255.0 -
                                        double(ours.data()[size_t(y) * size_t(theirs.width()) + size_t(x)])));
            least = std::min(least, worst);
        }
        return least;
    }
};

GLYPTOS_TEST(ShapingTest)
#include "shaping_test.moc"
