// The journal: what is written comes back, whatever cuts it short; and it costs what it changes.
#include "file/journal/journals.h"

#include "file/disk/atomic_file.h"
#include "file/release_json/release_json.h"
#include "release/edits/selection_edits.h"
#include "release/walks.h"
#include "render/layer_geometry.h"
#include "support/every_kind.h"
#include "support/fonts.h"
#include "support/register.h"
#include "support/slow_disk.h"

#include <QDateTime>
#include <QScopeGuard>
#include <csignal>
#include <random>
#include <set>
#include <sys/resource.h>

using namespace glyptos;
using namespace glyptos::test;

class JournalTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    std::filesystem::path folder() const { return folder_.path().toStdString(); }
    FormList forms_;
    std::string told_;
    std::mutex toldMutex_;
    JournalWriter::Told told_to() {
        return [this](const std::string& sentence) {
            const std::lock_guard lock(toldMutex_);
            told_ = sentence;
        };
    }

    ReleasePtr start() {
        const ReleasePtr release = screenRelease(600, 600);
        forms_ = {release->pieces[0]->form};
        return release;
    }
    static std::string text(const ReleasePtr& release) { return releaseToJson(*release); }
    static ReleasePtr withFill(const ReleasePtr& release, float red) {
        Layer layer;
        layer.name = "fill " + std::to_string(red);
        layer.content = FillContent{Ink(red, 0, 0, 1)};
        return withLayer(release, frontOf(release), layer).release;
    }
    static ReleasePtr withTitle(const ReleasePtr& release, const std::string& title,
                                const std::string& artist = {}) {
        Brief brief;
        brief.title = title, brief.artist = artist;
        return withBrief(release, brief);
    }
    static PixelTilesPtr noise(unsigned seed) {
        auto out = std::make_shared<PixelTiles>(kPaintPixels);
        out->change({0, 0, 300, 200}, [&](const PixelPart& part) {
            std::mt19937 chance(seed + unsigned(part.area.x)); // each part has its own thread
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = 0; x < 4 * part.area.w; ++x) part.row(y)[x] = uint8_t(chance());
        });
        return out;
    }
    static ReleasePtr withPaint(const ReleasePtr& release, unsigned seed) {
        Layer layer;
        layer.name = "paint";
        layer.content = PaintedContent{noise(seed), nullptr};
        return withLayer(release, frontOf(release), layer).release;
    }
    static ReleasePtr withPhoto(const ReleasePtr& release, int shade) {
        auto made = importBytes(pngOf(40, 30,
                                      [&](int x, int y) -> std::array<uint8_t, 4> {
                                          return {uint8_t(shade), uint8_t(x), uint8_t(y), 255};
                                      }),
                                "Möwe " + std::to_string(shade) + ".png");
        ReleasePtr next = withSource(release, made->source);
        Layer layer;
        layer.name = "photo";
        layer.content = PictureContent{made->source->id, {0, 0, 1, 1}};
        return withLayer(next, frontOf(next), layer).release;
    }
    static SourcePtr font() {
        auto out = std::make_shared<Source>();
        const FontData bytes = shippedFont("kristi/Kristi.ttf");
        out->id = contentId(bytes), out->name = "Sjór.ttf", out->format = "ttf";
        out->bytes = pictureBytes(bytes);
        return out;
    }
    static KeptWordsList keptWords() {
        const FontLibrary fonts(dataFolder() / "fonts", true);
        TextSpec spec;
        spec.text = "Sjór";
        return std::make_shared<const std::vector<KeptWords>>(
            1, KeptWords{spec, facesFor(spec, fonts), ParagraphCache(fonts).get(spec)});
    }
    std::filesystem::path only() {
        std::vector<std::filesystem::path> all;
        for (const auto& one : std::filesystem::directory_iterator(folder())) all.push_back(one.path());
        return all.size() == 1 ? all[0] : std::filesystem::path();
    }
    /// A history of many sorts of steps, written down.
    History written(const std::function<void(JournalWriter&, History&)>& more = {}) {
        History history(start());
        JournalWriter writer(folder(), {history, history.current()}, told_to());
        const auto step = [&](const char* name, const ReleasePtr& next, const char* merge = "") {
            const Pushed pushed = history.push(name, next, merge);
            writer.step(name, history.current(), pushed == Pushed::Merged);
        };
        const auto go = [&](size_t to) {
            history.go(to);
            writer.go(history.position());
        };
        step("A fill", withFill(history.current(), 0.25F));
        step("Paint", withPaint(history.current(), 7));
        step("A photo", withPhoto(history.current(), 9));
        for (int i = 0; i < 5; ++i)
            step("Title", withTitle(history.current(), std::string(size_t(i + 1), 'o')), "title");
        history.settle();
        go(1);
        step("Another way", withFont(withFill(history.current(), 0.5F), font()));
        step("Select", withSelection(history.current(), frontOf(history.current()), Selection{mask(), 1}));
        go(2);
        if (more) more(writer, history);
        return history;
    }
    static PixelTilesPtr mask() {
        auto out = std::make_shared<PixelTiles>(kMaskPixels);
        out->change({10, 10, 90, 90}, [](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y) std::fill_n(part.row(y), part.area.w, 200);
        });
        return out;
    }
    static void compare(const History& got, const History& wanted) {
        QCOMPARE(got.steps().size(), wanted.steps().size());
        QCOMPARE(got.position(), wanted.position());
        QCOMPARE(got.left().size(), wanted.left().size());
        const auto same = [](const std::vector<HistoryStep>& a, const std::vector<HistoryStep>& b) {
            QCOMPARE(a.size(), b.size());
            for (size_t i = 0; i < a.size(); ++i) {
                QCOMPARE(a[i].name, b[i].name);
                QVERIFY(textWithoutNext(a[i].release) == textWithoutNext(b[i].release));
            }
        };
        same(got.steps(), wanted.steps());
        for (size_t i = 0; i < got.left().size(); ++i) {
            QCOMPARE(got.left()[i].from, wanted.left()[i].from);
            same(got.left()[i].steps, wanted.left()[i].steps);
        }
    }
    /// The number of the next id may have been raised since.
    static std::string textWithoutNext(const ReleasePtr& release) {
        auto copy = std::make_shared<Release>(*release);
        copy->nextId = 1;
        return releaseToJson(*copy);
    }

    /// What another process would read of a journal that is being written to.
    Result<JournalContents> asItIs(const std::filesystem::path& journal) {
        const auto copy = folder() / "copy";
        std::filesystem::copy_file(journal, copy, std::filesystem::copy_options::overwrite_existing);
        return readJournal(copy, forms_);
    }

  private Q_SLOTS:
    void init() {
        std::filesystem::remove_all(folder());
        std::filesystem::create_directories(folder());
        told_.clear();
    }

    void thereAndBack() {
        const History history = written();
        const auto back = readJournal(only(), forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        compare(back->start.history, history);
        QVERIFY(!back->start.as);
        const Release& now = *back->start.history.steps()[2].release;
        QVERIFY(int(now.nextId) >= int(history.current()->nextId));
        // What two steps share they share again.
        const auto& steps = back->start.history.steps();
        QCOMPARE(stackOf(*steps[1].release, frontOf(steps[1].release)).back(),
                 stackOf(*steps[2].release, frontOf(steps[2].release)).back());
        QVERIFY(told_.empty());
    }

    /// Pixels and pictures, not only what is said of them.
    void paintAndPicturesComeBack() {
        const History history = written();
        const auto back = readJournal(only(), forms_);
        QVERIFY(back);
        const auto& left = back->start.history.left().at(0).steps;
        const ReleasePtr release = left.back().release;
        QCOMPARE(release->sources.size(), size_t(1));
        const auto bytes = release->sources[0]->bytes->read();
        QVERIFY2(bytes, qPrintable(sentence(bytes)));
        QVERIFY(**bytes == **history.left()[0].steps.back().release->sources[0]->bytes->read());
        const auto& fonts = back->start.history.steps().back().release->fonts;
        QCOMPARE(fonts.size(), size_t(1));
        const auto font = fonts[0]->bytes->read();
        QVERIFY(font && **font == shippedFont("kristi/Kristi.ttf"));
        const auto painted = [](const ReleasePtr& r) {
            PixelTilesPtr out;
            eachLayer(stackOf(*r, frontOf(r)), [&](const LayerPtr& layer) {
                if (const auto* paint = layer->as<PaintedContent>()) out = paint->tiles;
            });
            return out;
        };
        const PixelTilesPtr a = painted(release), b = painted(history.left()[0].steps.back().release);
        QVERIFY(a && b && *a == *b && a->bounds() == b->bounds());
        for (int level = 0; level < kPixelTileLevels; ++level) {
            std::vector<uint8_t> rowA(1200), rowB(1200);
            a->readRow(0, 0, size_t(300 >> level), rowA.data(), level);
            b->readRow(0, 0, size_t(300 >> level), rowB.data(), level);
            QVERIFY(rowA == rowB);
        }
    }

    /// Every kind of content, mask and paint, in both units; words as they were set.
    void everyKind() {
        HeldPictures pictures;
        auto made = std::make_shared<Release>(*releaseOfEveryKind(pictures));
        made->keptWords = keptWords();
        const ReleasePtr every = made;
        for (const PiecePtr& piece : every->pieces) forms_.push_back(piece->form);
        History history(std::make_shared<const Release>());
        {
            JournalWriter writer(folder(), {history, history.current()}, told_to());
            history.push("All", every);
            writer.step("All", every, false);
        }
        const auto back = readJournal(only(), {every->pieces[0]->form, every->pieces[1]->form});
        QVERIFY2(back, qPrintable(sentence(back)));
        QVERIFY(text(back->start.history.current()) == text(every));
        QVERIFY(text(every).find("Sjór") != std::string::npos);
    }

    void keptWordsAreThereOnceForAllSteps() {
        auto opened = std::make_shared<Release>(*start());
        opened->keptWords = keptWords();
        History history(opened);
        {
            JournalWriter writer(folder(), {history, history.current()}, told_to());
            history.push("A fill", withFill(history.current(), 0.25F));
            writer.step("A fill", history.current(), false);
        }
        const auto back = readJournal(only(), forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        const auto& steps = back->start.history.steps();
        QCOMPARE(steps.size(), size_t(2));
        QVERIFY(steps[0].release->keptWords);
        QVERIFY(steps[0].release->keptWords == steps[1].release->keptWords);
        QVERIFY(steps[0].release->keptWords->front().set->isKept);
    }

    void eachNodeIsThereOnce() {
        size_t sizes[2];
        for (const bool twice : {false, true}) {
            init();
            History history(withPaint(withPhoto(start(), 3), 4));
            JournalWriter writer(folder(), {history, history.current()}, told_to());
            for (int i = 0; i < (twice ? 40 : 20); ++i) {
                history.push("On and off", withLinearLight(history.current(), i % 2 == 0));
                writer.step("On and off", history.current(), false);
            }
            QVERIFY(writer.flush());
            sizes[twice] = std::filesystem::file_size(only());
        }
        // Twenty more steps are twenty acts: no tile, no picture, no layer again.
        QVERIFY2(sizes[1] - sizes[0] < 20 * 400, qPrintable(QString::number(sizes[1] - sizes[0])));
    }

    /// Whatever the byte where it is cut, or damaged, all before that comes back.
    void damage() {
        History history = written();
        const auto bytes = readFile(only()).value();
        std::set<std::string> states;
        for (const HistoryStep& step : history.steps()) states.insert(textWithoutNext(step.release));
        for (const LeftBranch& branch : history.left())
            for (const HistoryStep& step : branch.steps) states.insert(textWithoutNext(step.release));
        for (int i = 0; i < 4; ++i) { // merged away since
            const ReleasePtr last = history.left()[0].steps.back().release;
            states.insert(textWithoutNext(withTitle(last, std::string(size_t(i + 1), 'o'))));
        }
        const auto file = folder() / "damaged.journal";
        size_t most = 0, none = 0, all = 0;
        for (const bool cut : {true, false})
            for (size_t at = 0; at < bytes.size(); at += 97) {
                auto spoilt = bytes;
                cut ? spoilt.resize(at) : void(spoilt[at] ^= 0x41);
                write(file, spoilt);
                const auto back = readJournal(file, forms_);
                ++all;
                if (!back) {
                    QVERIFY(sentence(back).contains("damaged.journal"));
                    ++none;
                    continue;
                }
                const History& got = back->start.history;
                most = std::max(most, got.steps().size());
                for (const HistoryStep& step : got.steps())
                    QVERIFY2(states.contains(textWithoutNext(step.release)), qPrintable(QString::number(at)));
                // It can be gone on with.
                if (at % (97 * 50) != 0) continue;
                {
                    JournalWriter more(std::move(*const_cast<OpenJournal*>(&back->journal)), {got, nullptr},
                                       false, told_to());
                    more.step("More", withFill(got.current(), 0.75F), false);
                }
                const auto again = readJournal(file, forms_);
                QVERIFY2(again, qPrintable(sentence(again)));
                QCOMPARE(again->start.history.undoName(), std::string("More"));
            }
        QVERIFY(most >= 4 && none > 0 && none < all / 2);
    }

    void diskFull() {
        History history(start());
        JournalWriter writer(folder(), {history, history.current()}, told_to());
        const auto step = [&](const ReleasePtr& next) {
            history.push("Step", next);
            writer.step("Step", next, false);
        };
        step(withFill(history.current(), 0.1F));
        QVERIFY(writer.flush());
        rlimit old{};
        getrlimit(RLIMIT_FSIZE, &old);
        const rlimit tight{std::filesystem::file_size(only()) + 5000, old.rlim_max};
        setrlimit(RLIMIT_FSIZE, &tight);
        const auto before = std::signal(SIGXFSZ, SIG_IGN);
        step(withPaint(history.current(), 1));
        QVERIFY(!writer.flush());
        step(withPaint(history.current(), 2));
        QVERIFY(!writer.flush());
        setrlimit(RLIMIT_FSIZE, &old);
        std::signal(SIGXFSZ, before);
        {
            const std::lock_guard lock(toldMutex_);
            QVERIFY2(told_.find("not being written down") != std::string::npos, told_.c_str());
        }
        QVERIFY(writer.flush());
        {
            const std::lock_guard lock(toldMutex_);
            QVERIFY(told_.empty()); // it is written down again
        }
        const auto copy = folder() / "copy.journal"; // the writer still has the other one
        std::filesystem::copy_file(only(), copy);
        const auto back = readJournal(copy, forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        compare(back->start.history, history);
    }

    /// Pixels that were put away cannot be read, or there is no memory for them: said once, tried again.
    void partsThatCannotBeHad() {
        struct Broken : TileStore {
            std::atomic<bool> isBroken = true;
            void get(size_t, TileLevels& levels) const override {
                if (isBroken) throw std::bad_alloc();
                Buffer<uint8_t> pixels(levels[0].size());
                std::fill(pixels.begin(), pixels.end(), uint8_t(7));
                levels = tileLevels(kPaintPixels, std::move(pixels));
            }
            void forget(size_t, size_t) override {}
        };
        const auto store = std::make_shared<Broken>();
        Buffer<uint8_t> pixels(size_t(kPixelTileSide) * kPixelTileSide * 4);
        std::fill(pixels.begin(), pixels.end(), uint8_t(7));
        const PixelTilePtr whole = pixelTile(kPaintPixels, std::move(pixels));
        auto tiles = std::make_shared<PixelTiles>(kPaintPixels);
        tiles->put({0, 0}, std::make_shared<const PixelTile>(
                               TileFacts{kPaintPixels, whole->hash(), whole->used(), 0}, store, 0));
        Layer layer;
        layer.content = PaintedContent{tiles, nullptr};
        History history(start());
        JournalWriter writer(folder(), {history, history.current()}, told_to());
        const auto step = [&](const ReleasePtr& next) {
            history.push("Step", next);
            writer.step("Step", next, false);
        };
        step(withFill(history.current(), 0.5F));
        QVERIFY(writer.flush());
        step(withLayer(history.current(), frontOf(history.current()), layer).release);
        QVERIFY(!writer.flush());
        step(withFill(history.current(), 0.75F));
        QVERIFY(!writer.flush());
        store->isBroken = false;
        QVERIFY(writer.flush());
        const auto copy = folder() / "copy.journal";
        std::filesystem::copy_file(writer.path(), copy);
        const auto back = readJournal(copy, forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        compare(back->start.history, history);
    }

    /// Half of it is of no use when it is saved, and the disk takes its time: what is done meanwhile is in
    /// the old one until it is in the new one.
    void writtenAnewOnASlowDisk() {
        History history(start());
        JournalWriter writer(folder(), {history, history.current()}, told_to());
        const auto step = [&](const std::string& name, const ReleasePtr& next) {
            history.push(name, next);
            writer.step(name, next, false);
        };
        const ReleasePtr plain = history.current();
        for (unsigned i = 0; i < 100; ++i) step("Paint", withPaint(plain, i));
        for (int i = 0; i < 120; ++i) step("Fill", withFill(plain, float(i) / 120));
        QVERIFY(writer.flush());
        const AppendFile old = AppendFile::openToRead(writer.path()).value();
        QVERIFY(old.size() > JournalWriter::kWorthWhile);
        setFlushMs(600'000);
        const auto fast = qScopeGuard([] { setFlushMs(0); });
        writer.saved(history.current(), {folder() / "away.glyptos", {}});
        const auto tells = [&](const std::string& name) {
            const auto now = asItIs(writer.path());
            return now && now->start.history.undoName() == name;
        };
        const auto tellsOfTheSave = [&] {
            const auto now = asItIs(writer.path());
            return now && now->start.saved;
        };
        QTRY_VERIFY(tellsOfTheSave()); // then it is written anew
        for (const char* name : {"Meanwhile", "And then"}) {
            step(name, withTitle(history.current(), name));
            QTRY_VERIFY(tells(name));
            QVERIFY(!old.isReplaced());
        }
        history.go(history.position() - 1);
        writer.go(history.position());
        QTRY_VERIFY(tells("Meanwhile"));
        QVERIFY(!old.isReplaced());
        setFlushMs(0);
        QTRY_VERIFY(old.isReplaced());
        QVERIFY(writer.flush());
        QVERIFY(std::filesystem::file_size(writer.path()) < old.size() / 4);
        const auto back = asItIs(writer.path());
        QVERIFY2(back, qPrintable(sentence(back)));
        const History& got = back->start.history;
        QCOMPARE(got.undoName(), std::string("Meanwhile"));
        QCOMPARE(got.redoName(), std::string("And then"));
        QVERIFY(textWithoutNext(got.current()) == textWithoutNext(history.current()));
        QVERIFY(back->start.saved);
    }

    /// What could not be flushed may not be there: it is written once more, into another file.
    void flushesThatFail() {
        History history(start());
        JournalWriter writer(folder(), {history, history.current()}, told_to());
        const auto step = [&](const ReleasePtr& next) {
            history.push("Step", next);
            writer.step("Step", next, false);
        };
        step(withPaint(history.current(), 1));
        QVERIFY(writer.flush());
        const AppendFile old = AppendFile::openToRead(writer.path()).value();
        setFailingFlushes(1);
        const auto whole = qScopeGuard([] { setFailingFlushes(0); });
        step(withPaint(history.current(), 2));
        QVERIFY(writer.flush());
        QVERIFY(told_.empty());
        QVERIFY(old.isReplaced());
        {
            const auto back = asItIs(writer.path());
            QVERIFY2(back, qPrintable(sentence(back)));
            compare(back->start.history, history);
        }
        setFailingFlushes(1000);
        step(withPaint(history.current(), 3));
        QVERIFY(!writer.flush());
        {
            const std::lock_guard lock(toldMutex_);
            QVERIFY2(told_.find("not being written down") != std::string::npos, told_.c_str());
        }
        step(withFill(history.current(), 0.5F));
        setFailingFlushes(0);
        QVERIFY(writer.flush());
        const auto back = asItIs(writer.path());
        QVERIFY2(back, qPrintable(sentence(back)));
        compare(back->start.history, history);
    }

    /// Of a long one the last steps come back; it can be gone on with, back and forth.
    void manySteps() {
        History history(start());
        {
            JournalWriter writer(folder(), {history, history.current()}, told_to());
            for (int i = 0; i < 260; ++i) {
                history.push("Step " + std::to_string(i), withFill(history.current(), float(i) / 260));
                writer.step("Step " + std::to_string(i), history.current(), false);
            }
            QVERIFY(writer.flush());
            history.go(10);
            writer.go(10);
            QVERIFY(writer.flush());
        }
        const auto back = readJournal(only(), forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        const History& got = back->start.history;
        QCOMPARE(got.steps().size(), JournalWriter::kKeptSteps);
        QVERIFY(textWithoutNext(got.current()) == textWithoutNext(history.current()));
        QCOMPARE(got.undoName(), std::string("Step 9"));
    }

    void summaries() {
        const auto saved = folder() / "elsewhere.glyptos";
        History history = written([&](JournalWriter& writer, History& now) {
            QVERIFY(saveProject(*now.current(), saved));
            writer.saved(now.current(), {saved, stampOf(saved)});
            now.push("After", withTitle(now.current(), "Tide", "The Gannet Hours"));
            writer.step("After", now.current(), false);
            writer.miniature({1, 2, 3});
            QVERIFY(writer.flush());
            const auto all = journalsIn(folder());
            QCOMPARE(all.size(), size_t(1));
            QVERIFY(all[0].isInUse);
            QVERIFY(!readJournal(all[0].journal, forms_)); // somebody writes to it
        });
        std::filesystem::rename(saved, folder() / "away");
        std::filesystem::rename(folder() / "away", saved);
        const auto all = journalsIn(folder());
        QCOMPARE(all.size(), size_t(1));
        const JournalSummary& one = all[0];
        QCOMPARE(one.title, std::string("Tide · The Gannet Hours"));
        QCOMPARE(one.steps, size_t(1));
        QVERIFY(one.isModified && !one.isLeft && !one.isInUse);
        QVERIFY(one.as && one.as->file == saved && one.as->stamp == stampOf(saved));
        QVERIFY(one.miniature == (std::vector<uint8_t>{1, 2, 3}));
        QVERIFY(journalOf(folder(), saved));
        QVERIFY(!journalOf(folder(), folder() / "other.glyptos"));
        QVERIFY(!journalOf(folder(), saved, one.journal));
        const auto back = readJournal(one.journal, forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        QVERIFY(back->start.saved && text(back->start.saved) == text(history.steps()[2].release));
        const auto opened = openProject(saved, forms_);
        QVERIFY2(opened, qPrintable(sentence(opened)));
        QCOMPARE(rootName(**opened), back->inFile);
    }

    void leftBeforeAnythingWasWritten() {
        History history(start());
        {
            JournalWriter writer(folder(), {history, history.current()}, told_to());
            writer.step("One", withFill(history.current(), 0.5F), false);
            writer.leave();
        }
        QCOMPARE(journalsIn(folder()).size(), size_t(1));
        QVERIFY(journalsIn(folder())[0].isLeft && journalsIn(folder())[0].isModified);
    }

    void leftOnesStayForDays() {
        written();
        const auto journal = only();
        const int64_t now = journalsIn(folder())[0].changedMs, day = int64_t(24) * 3600 * 1000;
        tidyJournals(folder(), now + 400 * day);
        QCOMPARE(only(), journal); // nobody has looked at it
        QVERIFY(leaveJournal(journal));
        QVERIFY(journalsIn(folder())[0].isLeft && journalsIn(folder())[0].isModified);
        tidyJournals(folder(), now + kLeftDays * day);
        QCOMPARE(only(), journal);
        tidyJournals(folder(), now + (kLeftDays + 1) * day);
        QVERIFY(only().empty());
    }

    /// Killed before the first step was told: nothing to find, and not for ever.
    void nothingWholeInIt() {
        const auto file = folder() / "0.journal";
        QVERIFY(writeFile(file, bytesOf("GL")));
        const int64_t now = QDateTime::currentMSecsSinceEpoch();
        tidyJournals(folder(), now);
        QVERIFY(journalsIn(folder()).empty());
        QCOMPARE(only(), file);
        std::filesystem::last_write_time(file, std::filesystem::file_time_type::clock::now() -
                                                   std::chrono::days(kLeftDays + 1));
        tidyJournals(folder(), now);
        QVERIFY(only().empty());
    }

    /// Pictures that lie in a file are not copied; before the file goes, those it will not hold are.
    void picturesElsewhere() {
        const auto crate = folder() / "shell.png";
        ReleasePtr release = withPhoto(start(), 1);
        write(crate, **release->sources[0]->bytes->read());
        release = withPhoto(release, 2);
        const auto file = folder() / "tide.glyptos";
        QVERIFY(saveProject(*release, file));
        History history(release);
        JournalWriter writer(folder() / "j", {history, release, SavedAs{file, stampOf(file)}}, told_to());
        writer.mayBeIn(release->sources[0]->id, crate);
        history.push("Step", withFill(release, 0.5F));
        writer.step("Step", history.current(), false);
        QVERIFY(writer.flush());
        const auto journal = writer.path();
        const auto has = [&](size_t i) {
            const auto bytes = readFile(journal).value();
            const auto picture = release->sources[i]->bytes->read().value();
            return std::search(bytes.begin(), bytes.end(), picture->begin(), picture->end()) != bytes.end();
        };
        QVERIFY(!has(0) && !has(1));
        // The photo of the file is about to go from it.
        const ReleasePtr without = screenRelease(600, 600);
        writer.secureBefore(file, without);
        QVERIFY(!has(0) && has(1));
        // The one of the crate is changed under our hands.
        write(crate, {1, 2, 3});
        writer.step("Step", withFill(history.current(), 0.25F), false);
        QVERIFY(writer.flush());
        QVERIFY(has(0) && has(1));
    }
};

GLYPTOS_TEST(JournalTest)
#include "journal_test.moc"
