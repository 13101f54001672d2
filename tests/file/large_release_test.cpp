// Releases with more pictures than memory should hold: they stay in the file until they are needed, also when
// the file is written anew, moved, replaced, or written over.
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_store.h"
#include "file/project.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class LargeReleaseTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    FormList forms_;
    std::filesystem::path at(const char* name) const {
        return std::filesystem::path(folder_.path().toStdString()) / name;
    }
    ReleasePtr photos(int count, int side = 40) {
        ReleasePtr release = screenRelease(300, 300);
        forms_ = {release->pieces[0]->form};
        for (int i = 0; i < count; ++i) {
            auto made =
                importBytes(pngOf(side, side,
                                  [&](int x, int y) -> std::array<uint8_t, 4> {
                                      return {uint8_t(i * 20), uint8_t(x * y), uint8_t(x * 3 + y), 255};
                                  }),
                            "mynd " + std::to_string(i) + ".png");
            release = withSource(release, made->source);
            Layer layer;
            layer.content = PictureContent{made->source->id, {0, 0, 1, 1}};
            release = withLayer(release, frontOf(release), layer).release;
        }
        return release;
    }
    /// As if there were too many of them to be held.
    ReleasePtr opened(const char* name) {
        const auto release = openProject(at(name), forms_, 0);
        return release ? *release : nullptr;
    }
    static bool same(const Release& a, const Release& b) {
        for (const SourcePtr& source : a.sources) {
            const auto one = source->bytes->read(), other = b.source(source->id)->bytes->read();
            if (!one || !other || **one != **other) return false;
        }
        return !a.sources.empty();
    }

  private Q_SLOTS:
    void staysInItsFile() {
        const ReleasePtr before = photos(5);
        QVERIFY(saveProject(*before, at("a.glyptos")));
        const ReleasePtr release = opened("a.glyptos");
        QVERIFY(release);
        for (const SourcePtr& source : release->sources) QVERIFY(!source->bytes->areHeld());
        QVERIFY(same(*release, *before));
        PictureStore store;
        const PyramidPtr shown = store.picture(*release->sources[2], 1);
        QVERIFY(shown && shown->width() == 40);
        // The same file again, from itself.
        QVERIFY(saveProject(*release, at("a.glyptos")));
        QVERIFY(same(*release, *before));
        std::filesystem::rename(at("a.glyptos"), at("moved.glyptos"));
        QVERIFY(same(*release, *before));
        QVERIFY(saveProject(*screenRelease(9, 9), at("moved.glyptos"))); // another takes its place
        QVERIFY(same(*release, *before));
        QVERIFY(saveProject(*release, at("b.glyptos")));
        QVERIFY(same(*opened("b.glyptos"), *before));
        const auto few = openProject(at("b.glyptos"), forms_);
        QVERIFY(few && (*few)->sources[0]->bytes->areHeld());
    }

    /// A file of the same pictures gives the same bytes, wherever they were.
    void filesAreTheSame() {
        const ReleasePtr before = photos(3);
        QVERIFY(saveProject(*before, at("held.glyptos")));
        QVERIFY(saveProject(*opened("held.glyptos"), at("archived.glyptos")));
        QVERIFY(readFile(at("held.glyptos")).value() == readFile(at("archived.glyptos")).value());
    }

    /// What another program writes over that very file cannot be had again; it is said, and no file is
    /// spoilt.
    void writtenOverInPlace() {
        QVERIFY(saveProject(*photos(3, 200), at("over.glyptos")));
        const ReleasePtr release = opened("over.glyptos");
        const auto whole = readFile(at("over.glyptos")).value();
        QFile file(QString::fromStdString(at("over.glyptos").string()));
        QVERIFY(file.open(QIODevice::ReadWrite));
        file.write(QByteArray(qsizetype(whole.size()), 'x'));
        file.close();
        int lost = 0;
        for (const SourcePtr& source : release->sources) {
            const auto bytes = source->bytes->read();
            if (!bytes) {
                QVERIFY(!bytes.error().message.empty());
                ++lost;
            }
        }
        QCOMPARE(lost, 3);
        PictureStore store;
        QVERIFY(!store.picture(*release->sources[0], 1));
        QCOMPARE(store.missing().size(), size_t(1));
        QVERIFY(store.missing()[0].sentence.find("mynd 0.png") != std::string::npos);
        const auto saved = saveProject(*release, at("new.glyptos"));
        QVERIFY(!saved && sentence(saved).contains("was not written"));
        QVERIFY(!std::filesystem::exists(at("new.glyptos")));
    }

    /// A release that says other sizes than its pictures have.
    void falseSizesAreNotShown() {
        const ReleasePtr before = photos(1);
        auto lying = std::make_shared<Release>(*before);
        auto source = std::make_shared<Source>(*before->sources[0]);
        source->width = 4000;
        lying->sources = {source};
        QVERIFY(saveProject(*lying, at("lie.glyptos")));
        const ReleasePtr release = opened("lie.glyptos");
        QVERIFY(release);
        PictureStore store;
        QVERIFY(!store.picture(*release->sources[0], 1));
        QVERIFY(store.missing()[0].sentence.find("not the one that it was saved with") != std::string::npos);
        QVERIFY(!openProject(at("lie.glyptos"), forms_)); // small enough to be looked at at once
    }

    void progressAndCancelling() {
        const ReleasePtr release = photos(40, 120);
        std::vector<double> told;
        ZipWriting writing;
        writing.progress = [&](double share) { told.push_back(share); };
        QVERIFY(saveProject(*release, at("p.glyptos"), writing));
        QVERIFY(told.size() > 10 && told.back() == 1 && std::is_sorted(told.begin(), told.end()));
        const auto before = readFile(at("p.glyptos")).value();
        std::atomic<bool> cancel = false;
        writing.cancel = &cancel;
        writing.progress = [&](double share) { cancel = share > 0.3; };
        const auto stopped = saveProject(*photos(41, 120), at("p.glyptos"), writing);
        QVERIFY(!stopped);
        QCOMPARE(stopped.error().fault, Fault::Cancelled);
        QVERIFY(readFile(at("p.glyptos")).value() == before);
        for (const auto& one : std::filesystem::directory_iterator(folder_.path().toStdString()))
            QVERIFY(!one.path().filename().string().starts_with('.')); // nothing half-written stays
    }
};

GLYPTOS_TEST(LargeReleaseTest)
#include "large_release_test.moc"
