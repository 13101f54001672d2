#include "render/legible/lost_words.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class LostWordsTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    ReleasePtr with(const ReleasePtr& release, const char* name, double size, bool capitals, bool on = true) {
        Layer layer;
        layer.name = name;
        layer.on = on;
        TextContent text;
        text.spec.text = "Slack tide";
        text.spec.letters.size = size;
        if (capitals) text.spec.letters.letterCase = LetterCase::Capitals;
        layer.content = text;
        return withLayer(release, frontOf(release), layer);
    }

  private Q_SLOTS:
    void namesWordsByTheirInk() {
        ParagraphCache paragraphs(fonts);
        ReleasePtr r = screenRelease(1000, 500);
        r = with(r, "small", 40, false);
        r = with(r, "capitals", 40, true);
        r = with(r, "large", 400, false);
        r = with(r, "off", 10, false, false);
        const auto lost = lostWords(*r, frontOf(r), 40, paragraphs);
        QCOMPARE(lost.size(), size_t(2));
        QCOMPARE(lost[0].layer, std::string("capitals"));
        QCOMPARE(lost[1].layer, std::string("small"));
        QVERIFY(lost[0].below < lost[1].below); // capitals are higher than small letters
        // At exactly that size the ink is as high as it must be, one px less and it is not.
        TextSpec x;
        x.text = "x";
        x.letters.size = 40;
        const double ink = paragraphs.get(x)->ink.h;
        QVERIFY(ink * lost[1].below / 1000 >= kLeastInk && ink * (lost[1].below - 1) / 1000 < kLeastInk);
        QVERIFY(lostWords(*r, frontOf(r), 300, paragraphs).empty());
        QVERIFY(lostWords(*r, {"gone", "front"}, 24, paragraphs).empty());
    }

    void groupsAreLookedInto() {
        ParagraphCache paragraphs(fonts);
        ReleasePtr r = with(screenRelease(1000, 500), "small", 40, false);
        r = *withGrouped(r, frontOf(r), {stackOf(*r, frontOf(r))[0]->id});
        QCOMPARE(lostWords(*r, frontOf(r), 24, paragraphs).size(), size_t(1));
    }
};

GLYPTOS_TEST(LostWordsTest)
#include "lost_words_test.moc"
