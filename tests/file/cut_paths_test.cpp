// Cut paths written and read back, and a cutter that finds what is wrong with them.
#include "file/cut/cut_paths.h"

#include "support/forms.h"
#include "support/register.h"

#include <QXmlStreamReader>
#include <set>

using namespace glyptos;
using test::flatOf;

namespace {

CutJob jobOf(const Flat& flat) {
    std::vector<size_t> all(flat.sheets.size());
    for (size_t i = 0; i < all.size(); ++i) all[i] = i;
    return cutJobOf(flat, all);
}

std::span<const uint8_t> bytesOf(const std::string& text) {
    return {reinterpret_cast<const uint8_t*>(text.data()), text.size()};
}

/// Area inside closed cuts, holes less (the shoelace formula).
double areaOf(const CutJob& job) {
    double sum = 0;
    for (const ToolLine& line : job.lines) {
        if (line.tool != CutTool::Cut) continue;
        const auto& p = line.line.points;
        for (size_t i = 0; i < p.size(); ++i) {
            const Vec2 q = p[(i + 1) % p.size()];
            sum += (p[i].x * q.y - p[i].y * q.x) / 2;
        }
    }
    return std::abs(sum);
}

size_t countOf(const CutJob& job, CutTool tool) {
    return size_t(
        std::count_if(job.lines.begin(), job.lines.end(), [&](const ToolLine& l) { return l.tool == tool; }));
}

CutJob svg(const std::string& inside) {
    const std::string text =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='80mm' viewBox='0 0 100 80'>" + inside +
        "</svg>";
    const auto job = readCutJob(bytesOf(text), "test.svg");
    if (!job) qFatal("%s", job.error().message.c_str());
    return *job;
}

std::string refusal(const std::string& text) {
    const auto job = readCutJob(bytesOf(text), "test");
    return job ? std::string("was read") : job.error().message;
}

} // namespace

class CutPathsTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Panels, flaps and holes of some forms by hand: mm² of board.
    void theBoardIsCutInOnePiece() {
        const CutJob sleeve = jobOf(flatOf("sleeve-12", {{"spine", 4}}));
        QCOMPARE(countOf(sleeve, CutTool::Cut), size_t(1));
        const double board = 315.0 * (315 + 4 + 315) + 2 * 15 * 315;
        QVERIFY2(std::abs(areaOf(sleeve) - board) < 1, qPrintable(QString::number(areaOf(sleeve) - board)));
        QCOMPARE(countOf(sleeve, CutTool::Crease), size_t(4));
        QVERIFY(std::abs(sleeve.length(CutTool::Crease) - 4 * 315) < 0.01);
        // Two labels with a hole each.
        const CutJob labels = jobOf(flatOf("label-12"));
        QCOMPARE(countOf(labels, CutTool::Cut), size_t(4));
        const double ring = std::numbers::pi * (50 * 50 - 3.65 * 3.65);
        QVERIFY2(std::abs(areaOf(labels) - 2 * ring) < 0.5,
                 qPrintable(QString::number(areaOf(labels) - 2 * ring)));
        QCOMPARE(countOf(labels, CutTool::Crease), size_t(0));
        // A thumb cut that lies on the edge takes a half disc off the board.
        const CutJob wallet = jobOf(flatOf("card-wallet"));
        QCOMPARE(countOf(wallet, CutTool::Cut), size_t(1));
        const double left = 125.0 * 253 - std::numbers::pi * 100 / 2;
        QVERIFY2(std::abs(areaOf(wallet) - left) < 0.5, qPrintable(QString::number(areaOf(wallet) - left)));
    }

    void everyFormComesBackFromBothFiles() {
        const auto forms = shippedForms().value();
        int cut = 0;
        for (const auto& form : forms) {
            const Flat flat = workOut(*form).value();
            if (flat.unit != Unit::Mm || form->retired) continue;
            ++cut;
            const CutJob job = jobOf(flat);
            QVERIFY2(faultsOf(job).empty(), form->id.c_str());
            for (const std::string& text : {cutSvg(job, "Síðasta <háflæði> & fleira"), cutDxf(job)}) {
                const auto again = readCutJob(bytesOf(text), "again");
                QVERIFY2(again.has_value(), again ? "" : again.error().message.c_str());
                QCOMPARE(again->lines.size(), job.lines.size());
                QVERIFY2(faultsOf(*again).empty(), form->id.c_str());
                QVERIFY(std::abs(areaOf(*again) - areaOf(job)) < 1e-4 * areaOf(job));
                for (const CutTool tool : {CutTool::Cut, CutTool::Crease, CutTool::Register}) {
                    QCOMPARE(countOf(*again, tool), countOf(job, tool));
                    QVERIFY(std::abs(again->length(tool) - job.length(tool)) < 0.1);
                }
            }
        }
        QVERIFY(cut >= 18);
    }

    /// As another reader of XML sees it.
    void theSvgIsInMillimetres() {
        const CutJob job = jobOf(flatOf("tray-card"));
        QXmlStreamReader xml(QByteArray::fromStdString(cutSvg(job, "Tray card")));
        std::set<QString> groups;
        QString width, box;
        while (!xml.atEnd())
            if (xml.readNext() == QXmlStreamReader::StartElement) {
                if (xml.name() == u"svg")
                    width = xml.attributes().value("width").toString(),
                    box = xml.attributes().value("viewBox").toString();
                if (xml.name() == u"g") groups.insert(xml.attributes().value("id").toString());
            }
        QVERIFY2(!xml.hasError(), qPrintable(xml.errorString()));
        QCOMPARE(width, QStringLiteral("179mm")); // 151 and 14 on either side
        QCOMPARE(box, QStringLiteral("0 0 179 146"));
        QCOMPARE(groups, (std::set<QString>{"cut", "crease", "register"}));
    }

    void theDxfIsUpright() {
        const std::string text = cutDxf(jobOf(flatOf("tray-card")));
        QVERIFY(text.find("AC1009") != text.npos && text.ends_with("0\nEOF\n"));
        // The foot of the board is 14 mm over the foot of the sheet.
        QVERIFY(text.find("20\n14\n") != text.npos && text.find("20\n132\n") != text.npos);
    }

    void marksTellHowTheSheetLies() {
        const CutJob job = jobOf(flatOf("tray-card"));
        std::vector<Vec2> middles;
        for (const ToolLine& line : job.lines)
            if (line.tool == CutTool::Register) {
                const Vec2 m = (line.line.points[0] + line.line.points[1]) * 0.5;
                if (std::none_of(middles.begin(), middles.end(),
                                 [&](Vec2 p) { return (p - m).length() < 0.01; }))
                    middles.push_back(m);
            }
        QCOMPARE(middles.size(), size_t(3));
        // Turned round, the corner without one shows.
        const Vec2 middle{job.width / 2, job.height / 2};
        QVERIFY(std::none_of(middles.begin(), middles.end(),
                             [&](Vec2 p) { return p.x > middle.x && p.y > middle.y; }));
    }

    void faultsAreFound() {
        const auto kinds = [](const CutJob& job) {
            std::vector<std::string> out;
            for (const CutFault& f : faultsOf(job)) out.push_back(kCutFaultIds[size_t(f.kind)]);
            return out;
        };
        using Kinds = std::vector<std::string>;
        QCOMPARE(kinds(svg("<path d='M10,10 H60 V50 H10 Z'/>")), Kinds{});
        // Open at both ends; an open path closed by two others is none.
        QCOMPARE(kinds(svg("<path d='M10,10 H60 V50'/>")), (Kinds{"open", "open"}));
        QCOMPARE(kinds(svg("<path d='M10,10 H60 V50'/><line x1='60' y1='50' x2='10' y2='50'/><line x1='10' "
                           "y1='50' x2='10' y2='10'/>")),
                 Kinds{});
        // A figure of eight, and two boxes that cross twice.
        QCOMPARE(kinds(svg("<path d='M10,10 L60,50 H10 L60,10 Z'/>")), Kinds{"crossing"});
        QCOMPARE(
            kinds(svg(
                "<rect x='10' y='10' width='40' height='40'/><rect x='30' y='30' width='40' height='40'/>")),
            (Kinds{"crossing", "crossing"}));
        const auto at = faultsOf(svg("<path d='M10,10 L60,50 H10 L60,10 Z'/>")).at(0).at;
        QVERIFY((at - Vec2{35, 30}).length() < 0.01);
        // Two boxes that share an edge cut it twice.
        const auto twice = kinds(
            svg("<rect x='10' y='10' width='30' height='30'/><rect x='40' y='10' width='30' height='30'/>"));
        QCOMPARE(twice, Kinds{"twice"});
        // Creases may cross cuts' ends and each other, and be open.
        QCOMPARE(kinds(svg("<g id='crease'><path d='M0,20 H90'/><path d='M20,0 V70'/></g>")), Kinds{});
        QCOMPARE(kinds(svg("<path d='M10,10 L10,10'/>")), Kinds{"short"});
        QCOMPARE(kinds(svg("<circle cx='40' cy='40' r='20'/><circle cx='40' cy='40' r='3'/>")), Kinds{});
    }

    void shapesAreReadAsTheyAre() {
        const CutJob round = svg("<circle cx='40' cy='40' r='20'/>");
        QVERIFY(std::abs(areaOf(round) - std::numbers::pi * 400) < 1);
        const CutJob path = svg("<path d='m10 10h20v10h-20z'/><path d='M40,10 c0,5 10,5 10,0 L40-5e-1Z'/>");
        QCOMPARE(path.lines.size(), size_t(2));
        QVERIFY(std::abs(path.lines[0].line.points[1].x - 30) < 1e-9);
        QVERIFY(std::any_of(path.lines[1].line.points.begin(), path.lines[1].line.points.end(),
                            [](Vec2 p) { return std::abs(p.y + 0.5) < 1e-9; }));
        const auto arc =
            readCutJob(bytesOf("0\nSECTION\n2\nENTITIES\n0\nARC\n8\nFold\n10\n50\n20\n50\n40\n10\n50\n0\n51\n"
                               "90\n0\nLINE\n8\nx\n10\n0\n20\n0\n11\n5\n21\n0\n0\nENDSEC\n0\nEOF\n"),
                       "a.dxf");
        QVERIFY(arc.has_value());
        QVERIFY(arc->lines[0].tool == CutTool::Crease && arc->lines[1].tool == CutTool::Cut);
        QVERIFY(std::abs(arc->length(CutTool::Crease) - 5 * std::numbers::pi) < 0.02);
    }

    void badFilesAreRefused() {
        const std::string head = "<svg width='10mm' height='10mm' viewBox='0 0 10 10'>";
        const auto in = [&](const std::string& inside) { return refusal(head + inside + "</svg>"); };
        QVERIFY(in("").find("nothing is drawn") != std::string::npos);
        QVERIFY(in("<path d='L1,1'/>").find("does not begin with a move") != std::string::npos);
        QVERIFY(in("<path d='M1,1 A1'/>").find("not read") != std::string::npos);
        QVERIFY(in("<path d='M1,1 Lx'/>").find("should be a number") != std::string::npos);
        QVERIFY(in("<path d='M1,1'").find("cannot be cut") != std::string::npos);
        QVERIFY(in("<g transform='scale(2)'><path d='M0,0L1,1'/></g>").find("transform") !=
                std::string::npos);
        QVERIFY(in("<text>x</text>").find("“text”") != std::string::npos);
        QVERIFY(in("<path d='M1,1 L1e300,1'/>").find("10 m") != std::string::npos);
        QVERIFY(refusal("<!DOCTYPE svg [<!ENTITY a 'b'>]>" + head + "</svg>").find("document type") !=
                std::string::npos);
        QVERIFY(refusal("<svg><path d='M0,0L1,1'/></svg>").find("cannot be cut") != std::string::npos);
        QVERIFY(refusal("").find("cannot be cut") != std::string::npos);
        QVERIFY(refusal("0\nSECTION\nx\nENTITIES\n").find("group code") != std::string::npos);
        QVERIFY(refusal("0\nSECTION\n2\nENTITIES\n0\nSPLINE\n8\na\n0\nEOF\n").find("SPLINE") !=
                std::string::npos);
        QVERIFY(refusal("0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\na\n10\n1\n20\n1\n0\nEOF\n")
                    .find("lacks its group 40") != std::string::npos);
        for (size_t cut = 0; cut < 400; cut += 7) // torn anywhere: a sentence, never more
            refusal(cutDxf(jobOf(flatOf("tray-liner"))).substr(0, cut)),
                refusal(cutSvg(jobOf(flatOf("tray-liner")), "x").substr(0, cut));
    }

    void thePictureShowsWhatIsCut() {
        CutJob job = svg("<rect x='20' y='20' width='60' height='40'/><g id='crease'><line x1='50' y1='20' "
                         "x2='50' y2='60'/></g>");
        const CutPicture plain = drawCutJob(job, {}, 500);
        QCOMPARE(plain.width, 500);
        QCOMPARE(plain.height, 400);
        const auto at = [](const CutPicture& p, double x, double y) {
            return p.rgb.data() + (size_t(y * 5) * size_t(p.width) + size_t(x * 5)) * 3;
        };
        QVERIFY(at(plain, 20, 40)[0] < 120 && at(plain, 10, 10)[0] > 240);
        bool blue = false;
        for (double y = 22; y < 58; y += 0.2) blue = blue || (at(plain, 50, y)[2] > at(plain, 50, y)[0] + 60);
        QVERIFY(blue);
        const CutPicture faulty = drawCutJob(job, {{CutFault::Kind::Open, {60, 10}}}, 500);
        QVERIFY(at(faulty, 61.8, 10)[0] > at(faulty, 61.8, 10)[1] + 80);
    }
};

GLYPTOS_TEST(CutPathsTest)
#include "cut_paths_test.moc"
