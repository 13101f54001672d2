#include "type/faces/face_catalogue.h"

#include "file/data_folder.h"
#include "support/register.h"
#include "type/faces/face_features.h"
#include "type/text_fit.h"

using namespace glyptos;

class FaceCatalogueTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};
    std::vector<FaceEntry> all;

    QStringList passing(const FaceFilter& filter) const {
        QStringList out;
        for (const FaceEntry& entry : all)
            if (passes(entry, filter, fonts)) out << QString::fromStdString(entry.family);
        return out;
    }
    const FaceEntry& entry(const std::string& family) const {
        return *std::find_if(all.begin(), all.end(), [&](const FaceEntry& e) { return e.family == family; });
    }

  private Q_SLOTS:
    void initTestCase() {
        for (const FamilyInfo& family : fonts.families()) all.push_back(entryOf(family, fonts));
        QVERIFY(all.size() >= 10);
    }

    void filtersSayWhatTheyMean() {
        QCOMPARE(passing({}).size(), qsizetype(all.size()));
        QCOMPARE(passing({.name = "bEBas"}), QStringList{QStringLiteral("Bebas Neue")});
        QVERIFY(passing({.sorts = {FaceSort::Blackletter}}) ==
                QStringList{QStringLiteral("Blankenburg_UNZ1A")});
        QVERIFY(passing({.sorts = {FaceSort::Grotesque, FaceSort::Serif}}).isEmpty()); // both at once
        QVERIFY(passing({.letters = "Þögn"}).contains(QStringLiteral("Inter")));
        const QStringList cyrillic = passing({.letters = "море"});
        QVERIFY(!cyrillic.isEmpty() && cyrillic.size() < qsizetype(all.size()));
        for (const QString& family : passing({.italic = true}))
            QVERIFY(entry(family.toStdString()).hasItalic);
        QVERIFY(passing({.weight = FaceFilter::Weight::Black}).contains(QStringLiteral("Inter")));
        const QStringList large = passing({.xHeight = FaceFilter::XHeight::Large}),
                          small = passing({.xHeight = FaceFilter::XHeight::Small});
        QVERIFY(large.contains(QStringLiteral("Inter")) && small.contains(QStringLiteral("EB Garamond")));
    }

    void pairsContrastAndSayWhy() {
        const FaceEntry& inter = entry("Inter");
        const auto pairs = pairsFor(inter, all);
        QVERIFY(!pairs.empty());
        for (size_t i = 0; i < pairs.size(); ++i) {
            QVERIFY(!pairs[i].reason.empty() && all[pairs[i].entry].family != "Inter");
            QVERIFY(i == 0 || pairs[i].score <= pairs[i - 1].score);
        }
        QVERIFY(!all[pairs[0].entry].facts->is(FaceSort::Grotesque)); // not another of its kind
        const auto partner = shippedPartner("Inter", fonts);
        QVERIFY(partner && !entry(partner->first).facts->is(FaceSort::Grotesque));
        QVERIFY(!shippedPartner("No Such Family", fonts));
        FaceEntry unknown = inter;
        unknown.facts.reset();
        QVERIFY(pairsFor(unknown, all).empty());
    }

    void featuresAreNamedAndSwitched() {
        const FacePtr garamond = fonts.face("EB Garamond", "Regular");
        const auto features = featuresOf(*garamond);
        const auto named = [&](const char* label) {
            return std::find_if(features.begin(), features.end(),
                                [&](const FaceFeature& f) { return f.label == label; });
        };
        QVERIFY(named("Old-style figures") != features.end() || named("Lining figures") != features.end());
        QVERIFY(named("Ligatures") != features.end() && named("Ligatures")->onByItself);
        LetterStyle letters;
        QVERIFY(hasFeature(letters, *named("Ligatures")));
        letters = withFeature(letters, *named("Ligatures"), false);
        QVERIFY(!hasFeature(letters, *named("Ligatures")) && letters.features.size() == 1);
        letters = withFeature(letters, *named("Ligatures"), true);
        QVERIFY(letters.features.empty()); // as it is by itself
    }

    void heightsAreThoseOfTheLetters() {
        TextSpec spec;
        spec.text = "H", spec.letters.size = 100;
        const FacePtr inter = fonts.face("Inter", "Regular");
        const Paragraph H = setParagraph(spec, fonts);
        QVERIFY(std::abs(capHeightEm(*inter) * 100 - (H.baselines[0] - H.ink.y)) < 1e-6);
        spec.text = "x";
        const Paragraph x = setParagraph(spec, fonts);
        QVERIFY(std::abs(xHeightEm(*inter) * 100 - (x.baselines[0] - x.ink.y)) < 1e-6);
    }

    void sizesAreFitted() {
        TextSpec spec;
        spec.text = "the lamp that the night had left behind on the flats";
        spec.frame = InArea{80, 30};
        QVERIFY(setParagraph(spec, fonts).shown < spec.text.size());
        const auto fitted = fittedToFrame(spec, fonts);
        QVERIFY(fitted && setParagraph(*fitted, fonts).shown == spec.text.size());
        TextSpec larger = *fitted;
        larger.letters.size *= 1.05;
        QVERIFY(setParagraph(larger, fonts).shown < spec.text.size()); // as large as can be
        TextSpec line;
        line.text = "Slack\nTide Almanac";
        const auto wide = fittedToWidth(line, 300, fonts);
        QVERIFY(wide && std::abs(setParagraph(*wide, fonts).box.w - 300) < 1e-6);
        line.text = "";
        QVERIFY(!fittedToWidth(line, 300, fonts));
    }

    void axesMoveVariableFaces() {
        // Those shipped are not variable; one that is installed shows it.
        const FontLibrary installed{dataFolder() / "fonts"};
        const FacePtr inter = fonts.face("Inter", "Regular");
        QVERIFY(inter->at({{"wght", 700}})->axes().empty());
        for (const FamilyInfo& family : installed.families()) {
            const FacePtr face = installed.face(family.name, "Regular");
            if (!face || face->axes().empty()) continue;
            const FaceAxis& axis = face->axes().front();
            QVERIFY(axis.least <= axis.usual && axis.usual <= axis.most);
            const FacePtr far = installed.face(family.name, "Regular", {{axis.tag, 1e9}});
            QVERIFY(std::abs(far->axes().front().at - axis.most) < 1e-3);
            return;
        }
    }
};

GLYPTOS_TEST(FaceCatalogueTest)
#include "face_catalogue_test.moc"
