// What is set by hand at one place of a text, and what the words become by it.
#include "type/hand_setting.h"

#include "file/data_folder.h"
#include "support/register.h"
#include "type/paragraph.h"
#include "type/text_edits.h"

#include <cmath>

using namespace glyptos;

class HandSettingTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    static TextSpec spec() {
        TextSpec out;
        out.text = "Tavern\nof the tide\nlow";
        return out;
    }
    /// Of the third letter.
    static LetterPose inPlace() {
        LetterPose out;
        out.at = 2;
        return out;
    }
    Paragraph set(const TextSpec& s) const { return setParagraph(s, fonts); }

  private Q_SLOTS:
    void aPairIsKernedAndNoOther() {
        const Paragraph before = set(spec());
        const TextSpec kerned = withKern(spec(), 1, -0.1);
        QCOMPARE(kernAt(kerned, 1), -0.1);
        QCOMPARE(kernAt(kerned, 2), 0.0);
        const Paragraph after = set(kerned);
        QVERIFY(std::abs(after.letters[0].map.e - before.letters[0].map.e) < 1e-9);
        for (size_t i = 1; i < 6; ++i)
            QVERIFY(std::abs(after.letters[i].map.e - before.letters[i].map.e + 0.1 * 10) < 1e-9);
        QVERIFY(withKern(kerned, 1, 0) == spec());
        // Marks stay in the order of the text whatever the order they were made in.
        const TextSpec many = withKern(withKern(withKern(spec(), 9, 0.3), 2, 0.1), 4, 0.2);
        for (size_t i = 1; i < many.kerns.size(); ++i) QVERIFY(many.kerns[i - 1].at < many.kerns[i].at);
        QCOMPARE(withKern(many, 4, 0.5).kerns.size(), size_t(3));
    }

    void aLineGetsItsOwnLeading() {
        const Paragraph before = set(spec());
        const SetLine& second = before.lines[1];
        const TextSpec led = withLeading(spec(), second.from, second.to, 2);
        QCOMPARE(leadingOf(led, second.from, second.to), 2.0);
        const Paragraph after = set(led);
        QVERIFY(std::abs(after.lines[0].baseline - before.lines[0].baseline) < 1e-9);
        QVERIFY(std::abs(after.lines[1].baseline - after.lines[0].baseline - 20) < 1e-9);
        QVERIFY(std::abs(after.lines[2].baseline - after.lines[1].baseline - 12) < 1e-9);
        QVERIFY(withLeading(led, second.from, second.to, led.leading) == spec());
        // One that was further along in the line gives way.
        TextSpec old = spec();
        old.leadings = {{second.from + 3, 3}};
        QCOMPARE(leadingOf(old, second.from, second.to), 3.0);
        QCOMPARE(withLeading(old, second.from, second.to, 1.5).leadings,
                 (std::vector<OwnLeading>{{second.from, 1.5}}));
    }

    void aLetterLeavesItsPlace() {
        LetterPose pose = poseAt(spec(), 2);
        QVERIFY(pose == inPlace());
        pose.offEm = {0.5, -1};
        const TextSpec posed = withPose(spec(), pose);
        QVERIFY(poseAt(posed, 2) == pose);
        const Paragraph before = set(spec()), after = set(posed);
        QVERIFY(std::abs(after.letters[2].map.e - before.letters[2].map.e - 5) < 1e-9);
        QVERIFY(std::abs(after.letters[2].map.f - before.letters[2].map.f + 10) < 1e-9);
        QVERIFY(withPose(posed, inPlace()) == spec());
    }

    void startsAreFoundAndSet() {
        QVERIFY(!startOf(AtPoint{}) && !startOf(InArea{}));
        for (const double degrees : {0.0, 37.0, -90.0, 180.0, 271.0}) {
            const TextFrame circle = RoundCircle{50, degrees, false};
            const auto at = startOf(circle);
            QVERIFY(at && std::abs(at->length() - 50) < 1e-9);
            const TextFrame back = withStart(RoundCircle{50, 0, false}, *at * 3);
            QVERIFY(std::abs(std::remainder(std::get<RoundCircle>(back).start - degrees, 360)) < 1e-9);
        }
        const Contour line{{{{0, 0}, {}, {40, -60}}, {{100, 0}, {-40, -60}, {}}}, false};
        for (const double along : {0.0, 20.0, 61.0, 110.0}) {
            const auto at = startOf(AlongPath{line, along, false});
            QVERIFY(at);
            const TextFrame back = withStart(AlongPath{line, 0, true}, *at);
            QVERIFY(std::abs(std::get<AlongPath>(back).start - along) < 0.05);
        }
        // Beyond its ends the nearest end.
        QVERIFY(std::abs(std::get<AlongPath>(withStart(AlongPath{line, 5, false}, {-30, 10})).start) < 1e-9);
        QVERIFY(std::holds_alternative<InArea>(withStart(InArea{}, {3, 3})));
    }

    void lettersSetByHandMoveWithTheirWords() {
        TextSpec s = withPose(withKern(spec(), 8, 0.2), {8, {0.1, 0}, 5, 1, 1});
        s = replaced(std::move(s), 0, 6, "Þórsmörk");
        QCOMPARE(kernAt(s, 8 + std::string("Þórsmörk").size() - 6), 0.2);
        QCOMPARE(poseAt(s, 8 + std::string("Þórsmörk").size() - 6).turn, 5.0);
    }
};

GLYPTOS_TEST(HandSettingTest)
#include "hand_setting_test.moc"
