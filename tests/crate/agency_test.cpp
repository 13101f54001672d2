// The stock drawer: what is in it, what its licences ask, and what a bad line does.
#include "crate/agency.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRegularExpression>
#include <QTemporaryDir>
#include <thread>

using namespace glyptos;
using namespace glyptos::test;

class AgencyTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder;
    std::unique_ptr<Agency> agency;
    std::unique_ptr<Crate> crate;

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        qputenv("XDG_CACHE_HOME", (folder->path() + "/cache").toUtf8());
        agency = std::move(*Agency::open(drawerFolder()));
        crate = std::move(*Crate::open(folder->path().toStdString() + "/crate"));
    }

    void itIsFull() {
        const Found all = agency->find("", {}).value();
        QVERIFY(all.entries.size() >= 80);
        QVERIFY(all.counts.kinds[size_t(SourceKind::Photo)] >= 20 &&
                all.counts.kinds[size_t(SourceKind::Texture)] >= 20 &&
                all.counts.kinds[size_t(SourceKind::Element)] >= 20);
        QVERIFY(all.counts.largeEnough > 0 && all.counts.shapes[size_t(ShapeFacet::Tall)] > 0);
        std::set<std::string> titles;
        for (const EntryPtr& e : all.entries) {
            QVERIFY(titles.insert(e->facts.title).second);
            QVERIFY(!e->facts.maker.empty() && !e->facts.tags.empty() && agency->licence(e->facts.licence));
            QVERIFY(std::filesystem::exists(agency->fileOf(*e)));
        }
        QVERIFY(agency->licences().size() >= 2);
    }

    void wordsFindWhatIsMeant() {
        const auto found = agency->find("rope", {}).value().entries;
        QVERIFY(found.size() >= 2);
        const auto told = [](const CrateEntry& e) {
            QString words = QString::fromStdString(e.facts.title + ' ' + e.facts.maker + ' ' + e.facts.notes);
            for (const std::string& tag : e.facts.tags) words += ' ' + QString::fromStdString(tag);
            return words.contains(QRegularExpression("\\brope", QRegularExpression::CaseInsensitiveOption));
        };
        size_t meant = 0;
        const auto all = agency->find("", {}).value().entries;
        for (const EntryPtr& e : all) meant += told(*e);
        QCOMPARE(found.size(), meant); // all of them and no others
        for (const EntryPtr& e : found) QVERIFY2(told(*e), e->facts.title.c_str());
    }

    void relativesOfALighthouseAreLighthouses() {
        CrateQuery query;
        const auto named = agency->find("Lighthouse in fog", {}).value().entries;
        for (const EntryPtr& e : named) query.like = e->id;
        const auto like = agency->find("", query).value().entries;
        QCOMPARE(like[0]->facts.title, std::string("Lighthouse in fog"));
        bool fog = false;
        for (size_t i = 1; i < 6; ++i) fog |= like[i]->facts.title == "Fog on the sound";
        QVERIFY(fog); // the same greys
    }

    void whatIsTakenBringsItsCredit() {
        for (const AgencyLicence& licence : agency->licences()) {
            CrateQuery query;
            query.licence = licence.name;
            const EntryPtr entry = agency->find("", query).value().entries.front();
            const auto id = agency->take(entry->id, *crate);
            QVERIFY2(bool(id), qPrintable(sentence(id)));
            QCOMPARE(*id, entry->id);
            const SourceFacts facts = crate->shelf()->entry(*id)->facts;
            QCOMPARE(facts.maker, entry->facts.maker);
            QCOMPARE(facts.origin, agency->name());
            QCOMPARE(facts.credit.empty(), !licence.creditNeeded);
            QVERIFY(!licence.creditNeeded || facts.credit.find(facts.maker) != facts.credit.npos);
        }
    }

    void aBadLineFailsWithASentenceAndTakesNothing() {
        const std::string id = agency->find("", {}).value().entries.front()->id;
        agency->setLine(AgencyLine::Offline);
        QVERIFY(sentence(agency->find("", {})).contains("cannot be reached"));
        QVERIFY(!agency->take(id, *crate));
        QVERIFY(crate->shelf()->entries().empty());
        agency->setLine(AgencyLine::Failing);
        int failed = 0, fine = 0;
        for (int i = 0; i < 6; ++i) (agency->find("", {}) ? fine : failed)++;
        QVERIFY(failed == 3 && fine == 3);
    }

    void aSlowLineCanBeGivenUp() {
        agency->setLine(AgencyLine::Slow);
        std::atomic<bool> cancel = false;
        std::thread later([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(100));
            cancel = true;
        });
        const auto found = agency->find("", {}, &cancel);
        later.join();
        QVERIFY(!found && found.error().fault == Fault::Cancelled);
    }

    void withoutADrawerItSaysSo() {
        const auto none = Agency::open(folder->path().toStdString() + "/nothing");
        QVERIFY(!none && sentence(none).contains("not installed"));
    }
};

GLYPTOS_TEST(AgencyTest)
#include "agency_test.moc"
