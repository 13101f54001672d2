// JSON in and out, and what is said of a value that is not as it should be.
#include "base/json_entry.h"
#include "support/register.h"

using namespace glyptos;

namespace {

/// What reading a text says of it; nothing when it was read.
template <class Read>
std::string said(std::string_view text, Read read) {
    const auto done = guarded(text, "thing", [&](const Entry& e) { return read(e), true; });
    return done ? std::string() : done.error().message;
}

} // namespace

class JsonTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void whatIsWrittenIsReadBack() {
        Json inner = Json::list({1, 2.5, "three", true, Json()});
        const Json all{
            {"zebra", std::move(inner)}, {"ant", "ø “q” \n\t\\"}, {"far", 1e300},
            {"none", Json::object()},    {"empty", Json::list()}, {"whole", int64_t(-9007199254740993)}};
        const std::string text = all.dump();
        QCOMPARE(
            text,
            std::string(R"({"zebra":[1,2.5,"three",true,null],"ant":"ø “q” \n\t\\","far":1e+300,"none":{},)"
                        R"("empty":[],"whole":-9007199254740993})"));
        QCOMPARE(parseJson(text)->dump(), text); // members keep their order
        QCOMPARE(parseJson(all.dump(2))->dump(), text);
        QCOMPARE(parseJson("0.1")->number(), 0.1);
        QCOMPARE(parseJson("18446744073709551615")->number(), 18446744073709551615.0);
    }

    void textThatIsNotUtf8IsWrittenAllTheSame() {
        const std::string text = Json{{"name", std::string("Et voil\xC3")}}.dump();
        QCOMPARE(text, std::string("{\"name\":\"Et voil\uFFFD\"}"));
    }

    void theLastOfMembersWithOneKeyCounts() {
        QCOMPARE(parseJson(R"({"a":1,"b":2,"a":3})")->dump(), std::string(R"({"a":3,"b":2})"));
    }

    void whatIsNoJson_data() {
        QTest::addColumn<QByteArray>("text");
        for (const char* text : {"", "{", "[1,]", "{\"a\" 1}", "nul", "1e999", "\"\\ud800\"", "[1] 2", "'a'"})
            QTest::newRow(text) << QByteArray(text);
        QTest::newRow("deep list") << QByteArray(100'000, '[');
        QByteArray deep;
        for (int i = 0; i < 100'000; ++i) deep += "{\"a\":";
        QTest::newRow("deep object") << deep;
        QTest::newRow("not UTF-8") << QByteArray("\"\xC3\"");
    }
    void whatIsNoJson() {
        QFETCH(QByteArray, text);
        const auto json = parseJson(text.toStdString());
        QVERIFY(!json);
        QCOMPARE(json.error().message, std::string("its text is not valid JSON"));
    }

    void asDeepAsIsAllowed() {
        const std::string deep = std::string(kDeepestJson, '[') + std::string(kDeepestJson, ']');
        QVERIFY(parseJson(deep));
        QCOMPARE(parseJson(deep)->dump(), deep);
        QVERIFY(!parseJson("[" + deep + "]"));
    }

    void whatIsWrongAndWhere() {
        const char* text =
            R"({"name":7,"list":[{"size":2},{"size":-1}],"pair":[1,2,3],"kind":"round","big":1e9})";
        QCOMPARE(said(text, [](const Entry& e) { e.text("name"); }),
                 std::string("thing.name should be text"));
        QCOMPARE(said(text, [](const Entry& e) { e.text("title"); }), std::string("thing.title is missing"));
        QCOMPARE(said(text, [](const Entry& e) { e.number("kind"); }),
                 std::string("thing.kind should be a number"));
        QCOMPARE(said(text, [](const Entry& e) { e.flag("kind"); }),
                 std::string("thing.kind should be true or false"));
        QCOMPARE(
            said(text, [](const Entry& e) { e.each("list", [](const Entry& i) { i.positive("size"); }); }),
            std::string("thing.list[1].size should be positive"));
        QCOMPARE(said(text, [](const Entry& e) { e.numbers<2>("pair"); }),
                 std::string("thing.pair should be 2 numbers"));
        QCOMPARE(said(text, [](const Entry& e) { e.whole("big", 0, 99); }),
                 std::string("thing.big should be a whole number from 0 to 99"));
        QCOMPARE(said(text, [](const Entry& e) { e.between("big", 0, 1); }),
                 std::string("thing.big should lie between 0 and 1"));
        QCOMPARE(said(text,
                      [](const Entry& e) {
                          static constexpr const char* kKinds[] = {"flat", "square", "sharp"};
                          e.oneOf("kind", kKinds);
                      }),
                 std::string("thing.kind should be flat, square or sharp"));
        QCOMPARE(said(text,
                      [](const Entry& e) {
                          static constexpr const char* kKnown[] = {"name", "list", "pair", "kind"};
                          e.only(kKnown);
                      }),
                 std::string("thing has an unknown entry “big”"));
        QCOMPARE(said("[]", [](const Entry& e) { e.text("name"); }),
                 std::string("thing should be an object"));
        QCOMPARE(said(text, [](const Entry& e) { e.each("kind", [](const Entry&) {}); }),
                 std::string("thing.kind should be a list"));
    }
};

GLYPTOS_TEST(JsonTest)
#include "json_test.moc"
