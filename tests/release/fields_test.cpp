#include "release/fields.h"

#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;

class FieldsTest : public QObject {
    Q_OBJECT
    static Release release() {
        Release out;
        Brief& b = out.brief;
        b.artist = "Máni & Þórdís", b.title = "Sjávarföll", b.label = "Gannet Street Recordings";
        b.catalogue = "GSR 031", b.year = "2026";
        b.tracks = {{"A", "Brim", 222}, {"B", "Öldurót", 0}, {"B", "Fjara", 3661}};
        return out;
    }

    std::string set(const std::string& text) const {
        TextContent content;
        content.spec.text = text;
        return resolvedText(content, release()).text;
    }

  private Q_SLOTS:
    void fieldsFollowTheBrief() {
        QCOMPARE(set("{artist} – {title} ({year}) {catalogue} {label}"),
                 "Máni & Þórdís – Sjávarföll (2026) GSR 031 Gannet Street Recordings");
        QCOMPARE(set("{nothing} {"), "{nothing} {");
        for (const FieldInfo& field : textFields()) QVERIFY(set(std::string(field.token)) != field.token);
    }

    void tracksInColumns() {
        QCOMPARE(set("{tracks}"), "A1\tBrim\t3:42\nB1\tÖldurót\nB2\tFjara\t1:01:01");
        QCOMPARE(set("{tracks A}"), "A1\tBrim\t3:42");
    }

    void whatAFieldBringsLooksAsTheField() {
        TextContent content;
        content.spec.text = "af {title}, {year}";
        content.spec.runs = {{3, 10, {.family = "Bebas Neue"}}, {12, 18, {.style = "Bold"}}};
        const TextSpec set = resolvedText(content, release());
        QCOMPARE(set.text, "af Sjávarföll, 2026");
        QCOMPARE(set.runs.size(), size_t(2));
        QCOMPARE(set.text.substr(set.runs[0].from, set.runs[0].to - set.runs[0].from), "Sjávarföll");
        QCOMPARE(set.text.substr(set.runs[1].from, set.runs[1].to - set.runs[1].from), "2026");
    }

    void durations() {
        QCOMPARE(durationFromText("4:08"), std::optional(248));
        QCOMPARE(durationFromText("1:02:07"), std::optional(3727));
        QCOMPARE(durationFromText("248"), std::optional(248));
        for (const char* bad : {"", "4:60", "a", "-3", "1:2:3:4", "99999999", "4:"})
            QVERIFY2(!durationFromText(bad), bad);
        for (const int s : {1, 59, 60, 3599, 3600, 86400})
            QCOMPARE(durationFromText(durationText(s)), std::optional(s));
    }
};

GLYPTOS_TEST(FieldsTest)
#include "fields_test.moc"
