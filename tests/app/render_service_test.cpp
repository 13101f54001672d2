// Renderings for widgets: the newest wins, a run of requests always shows something, and what is late comes
// coarse first.
#include "app/bench/bench_picture.h"
#include "app/window/preferences_sheet.h"
#include "support/register.h"
#include "support/window.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QImage>
#include <QSettings>
#include <QStandardPaths>
#include <QStringLiteral>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class RenderServiceTest : public QObject {
    Q_OBJECT
    std::unique_ptr<Engine> engine;
    std::unique_ptr<RenderService> service;

    /// Many clouds over each other, which take their time; `seed` keeps them out of the cache.
    static Scene slow(uint32_t seed, double pxPerUnit) {
        constexpr uint32_t kLayers = 3;
        ReleasePtr r = screenRelease(1600, 1600);
        for (uint32_t i = 0; i < kLayers; ++i) {
            Clouds clouds;
            clouds.octaves = 12;
            clouds.seed = seed * kLayers + i;
            clouds.low.a = 0.5f;
            Layer layer;
            layer.content = FillContent{clouds};
            r = withLayer(r, frontOf(r), layer);
        }
        return panelScene(r, frontOf(r), {pxPerUnit, true});
    }
    static void ask(BenchPicture& picture, uint32_t seed) {
        picture.request([=](double k) { return slow(seed, k); }, 1, {0, 0, 1600, 1600});
    }

  private Q_SLOTS:
    void init() {
        engine = std::make_unique<Engine>();
        service = std::make_unique<RenderService>(*engine);
    }
    void cleanup() {
        service.reset();
        engine.reset();
    }

    void whatIsLateComesCoarseFirst() {
        BenchPicture picture(*service, nullptr);
        std::vector<bool> whole;
        QObject::connect(&picture, &BenchPicture::arrived, [&] { whole.push_back(picture.isWhole()); });
        ask(picture, 1);
        QVERIFY(QTest::qWaitFor([&] { return picture.isWhole(); }, 30000));
        QCOMPARE(whole, std::vector{true}); // nobody could know that it would be late
        ask(picture, 2);
        QVERIFY(!picture.isWhole());
        QVERIFY(QTest::qWaitFor([&] { return picture.isWhole(); }, 30000));
        QCOMPARE(whole, (std::vector{true, false, true}));
        // Shown at the same place, coarse or not.
        QCOMPARE(picture.placeAt({0, 0}, 1), QRectF(0, 0, 1600, 1600));
    }

    /// What was asked for before another release was opened does not come into view after it.
    void whatIsClearedStaysClear() {
        BenchPicture picture(*service, nullptr);
        ask(picture, 3);
        picture.clear();
        QVERIFY(QTest::qWaitFor([&] { return !service->busy(); }, 30000));
        QTest::qWait(20);
        QVERIFY(picture.isEmpty());
        QVERIFY(picture.isWhole());
    }

    void aRunOfRequestsAlwaysShowsSomething() {
        QObject requester;
        int shown = 0;
        uint32_t last = 0;
        uint32_t seed = 100;
        // Requests come faster than any can be rendered, for as long as it takes to see three of them.
        QElapsedTimer clock;
        for (clock.start(); shown < 3 && clock.elapsed() < 60000;) {
            const uint32_t number = ++seed;
            service->request(&requester, 0, slow(number, 1), {0, 0, 1600, 1600}, [&, number](QImage) {
                QVERIFY(number > last);
                last = number;
                ++shown;
            });
            QTest::qWait(10);
        }
        QVERIFY(shown >= 3);
        QVERIFY(QTest::qWaitFor([&] { return last == seed; }, 30000)); // and the newest comes in the end
    }

    /// While one picture is being rendered, others are asked for: the urgent ones come first, those of one
    /// urgency in their order.
    void theUrgentComeFirst() {
        QObject first, mini, side, other, bench;
        std::string order;
        const auto ask = [&](QObject* requester, int urgency, char name) {
            service->request(requester, urgency, slow(uint32_t(500 + name), 0.05), {0, 0, 80, 80},
                             [&order, name](QImage) { order += name; });
        };
        service->request(&first, 0, slow(499, 1), {0, 0, 1600, 1600}, [&](QImage) { order += '1'; });
        ask(&mini, 2, 'm');
        ask(&side, 1, 's');
        ask(&other, 1, 'o');
        ask(&bench, 0, 'b');
        QVERIFY(QTest::qWaitFor([&] { return order.size() == 5; }, 30000));
        QCOMPARE(order, std::string("1bsom"));
    }

    void nothingReachesARequesterThatIsGone() {
        auto requester = std::make_unique<QObject>();
        bool reached = false;
        service->request(requester.get(), 0, slow(7, 1), {0, 0, 400, 400}, [&](QImage) { reached = true; });
        requester.reset();
        QVERIFY(QTest::qWaitFor([&] { return !service->busy(); }, 30000));
        QTest::qWait(20);
        QVERIFY(!reached);
    }

    /// A new requester where an old one lived is another one: nothing that the old one asked for reaches it.
    void anAddressIsNoName() {
        alignas(QObject) unsigned char place[sizeof(QObject)];
        auto* first = new (place) QObject;
        std::vector<int> reached;
        for (int i = 0; i < 3; ++i) { // waiting, being rendered and delivered, as it comes
            service->request(first, 0, slow(uint32_t(300 + i), 1), {0, 0, 900, 900},
                             [&](QImage) { reached.push_back(1); });
            QTest::qWait(i * 40);
            reached.clear();
            first->~QObject();
            first = new (place) QObject;
            bool own = false;
            service->request(first, 0, slow(uint32_t(400 + i), 1), {0, 0, 300, 300}, [&](QImage image) {
                own = image.width() == 300;
                reached.push_back(2);
            });
            QVERIFY(QTest::qWaitFor([&] { return own && !service->busy(); }, 30000));
            QCOMPARE(reached, std::vector<int>{2});
        }
        first->~QObject();
    }

    void theShareOfMemoryIsSetAndRemembered() {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName(QStringLiteral("glyptos-tests"));
        QSettings().clear();
        QCOMPARE(memoryShare(), 25);
        const QTemporaryDir home;
        CrateService crate(home.path().toStdString(), drawerFolder());
        auto* sheet = new PreferencesSheet(*engine, crate, nullptr);
        sheet->show();
        auto* field = sheet->findChild<NumberField*>();
        enter(field, "40");
        QCOMPARE(memoryShare(), 40);
        enter(field, "99"); // more than may be chosen
        QCOMPARE(memoryShare(), 40);
        QVERIFY(field->property("wrong").toBool());
        QCOMPARE(keptLine(), AgencyLine::Good);
        for (QComboBox* box : sheet->findChildren<QComboBox*>())
            if (box->accessibleName() == "Line to the agency") {
                box->setCurrentIndex(2);
                Q_EMIT box->activated(2);
            }
        QCOMPARE(keptLine(), AgencyLine::Offline);
        sheet->close();
    }
};

GLYPTOS_TEST(RenderServiceTest)
#include "render_service_test.moc"
