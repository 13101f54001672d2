// Words that a dictionary does not have: by language and script, in files of two encodings.
#include "type/spelling.h"

#include "support/pictures.h"
#include "support/register.h"

#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class SpellingTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder;

    void put(const char* name, const std::string& text) {
        write(folder.path().toStdString() + "/" + name, {text.begin(), text.end()});
    }
    Spelling spelling() const { return Spelling(folder.path().toStdString()); }
    static TextSpec spec(const std::string& text, const std::string& language) {
        TextSpec out;
        out.text = text, out.letters.language = language;
        return out;
    }
    static QStringList words(const Spelling& spelling, const TextSpec& s) {
        QStringList out;
        for (const Misspelt& m : spelling.misspelt(s))
            out << QString::fromStdString(s.text.substr(m.from, m.to - m.from));
        return out;
    }

  private Q_SLOTS:
    void initTestCase() {
        put("is.aff", "SET UTF-8\nTRY aeinr\n");
        put("is.dic", "4\nöldurót\nfjara\nÞórshöfn\nlágfjara\n");
        // "café" and "naïve" in Latin-1.
        put("en_GB.aff", "SET ISO8859-1\nTRY aeinrt\nWORDCHARS '\n");
        put("en_GB.dic", "6\ncaf\xe9\nna\xefve\ntide\nlow\nisn't\nslack\n");
        put("broken.aff", "\x01\x02 SET nothing such\n");
        put("broken.dic", "no number\n");
        put("alone.aff", "SET UTF-8\n");
    }

    void wordsOfTheirOwnLanguage() {
        const Spelling s = spelling();
        QVERIFY(s.knows("is") && s.knows("en-GB") && s.knows("en-US") && !s.knows("fr") && !s.knows(""));
        QVERIFY(!s.knows("../is") && !s.knows("alone"));
        QCOMPARE(words(s, spec("Öldurót, fjara; oldurot fjra Þórshöfn", "is")),
                 QStringList({"oldurot", "fjra"}));
        QCOMPARE(words(s, spec("café naïve cafe “low” tide", "en-GB")), QStringList({"cafe"}));
        QVERIFY(words(s, spec("fjra oldurot", "")).isEmpty());
        QVERIFY(words(s, spec("fjra oldurot", "fr")).isEmpty());
        // Runs of another language are looked up in that.
        TextSpec two = spec("slack fjara tide öldurót fjra", "en-GB");
        LetterStyle icelandic = two.letters;
        icelandic.language = "is";
        two.runs = {{6, 11, icelandic}, {17, two.text.size(), icelandic}};
        QCOMPARE(words(s, two), QStringList({"fjra"}));
    }

    void whatIsNoWordIsLeftAlone() {
        const Spelling s = spelling();
        QVERIFY(words(s, spec("{titel} A1 3:42 4th — …  \t\n🜚", "en-GB")).isEmpty());
        QCOMPARE(words(s, spec("{tide zzz} low zzz", "en-GB")), QStringList({"zzz"}));
        QVERIFY(words(s, spec("isn’t isn't", "en-GB")).isEmpty());
        QVERIFY(words(s, spec("", "en-GB")).isEmpty());
        QVERIFY(words(s, spec("\xff\xfe zzz", "en-GB")).isEmpty()); // no text at all
        // Letters that the dictionary's encoding lacks are nothing it could say anything of.
        QVERIFY(words(s, spec("Ω שפל", "en-GB")).isEmpty());
    }

    void bytesAreThoseOfTheText() {
        const Spelling s = spelling();
        const TextSpec text = spec("𝄞 Öldurót 🜚 fjra", "is");
        const auto found = s.misspelt(text);
        QCOMPARE(found, (std::vector<Misspelt>{{text.text.find("fjra"), text.text.size()}}));
    }

    void suggestionsComeInUtf8() {
        const Spelling s = spelling();
        const auto meant = s.suggestions("cafe", "en-GB", 3);
        QVERIFY(!meant.empty() && meant.size() <= 3);
        QCOMPARE(meant[0], std::string("café"));
        QCOMPARE(s.suggestions("fjra", "is", 1), (std::vector<std::string>{"fjara"}));
        QVERIFY(s.suggestions("fjra", "fr", 3).empty());
    }

    void brokenDictionariesKnowNothing() {
        const Spelling s = spelling();
        (void)s.knows("broken");
        (void)s.misspelt(spec("some words", "broken"));
        (void)s.suggestions("some", "broken", 3);
        const Spelling nowhere("/nowhere/at/all");
        QVERIFY(!nowhere.knows("is") && nowhere.misspelt(spec("fjra", "is")).empty());
    }
};

GLYPTOS_TEST(SpellingTest)
#include "spelling_test.moc"
