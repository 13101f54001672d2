// Files in the place of others: rights, links, names, what is refused, and what a kill leaves behind.
#include "file/disk/atomic_file.h"
#include "file/disk/fresh_file.h"

#include "support/register.h"

#include <QTemporaryDir>
#include <csignal>
#include <fstream>
#include <random>
#include <sys/stat.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

std::string textOf(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

mode_t rightsOf(const std::filesystem::path& file) {
    struct stat info {};
    return ::stat(file.c_str(), &info) == 0 ? info.st_mode & 07777 : 0;
}

/// The process's mask for new files, until the end of a test.
class Mask {
  public:
    explicit Mask(mode_t mask)
        : before_(::umask(mask)) {}
    ~Mask() { ::umask(before_); }
    Mask(const Mask&) = delete;
    Mask& operator=(const Mask&) = delete;

  private:
    mode_t before_;
};

/// Runs `work` in another process; it has no end of its own.
template <class Work>
pid_t begun(Work work) {
    const pid_t child = ::fork();
    if (child == 0) {
        work();
        ::_exit(0);
    }
    return child;
}

void killed(pid_t child) {
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
}

} // namespace

class AtomicFileTest : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;

    std::filesystem::path at(const std::string& name) const {
        return std::filesystem::path(folder_->path().toStdString()) / name;
    }
    QStringList names() const {
        QStringList out;
        for (const auto& entry : std::filesystem::directory_iterator(folder_->path().toStdString()))
            out << QString::fromStdString(entry.path().filename().string());
        out.sort();
        return out;
    }

  private Q_SLOTS:
    void init() { folder_ = std::make_unique<QTemporaryDir>(); }

    void newFilesGetWhatTheProcessGives() {
        const Mask mask(027);
        QVERIFY(writeFile(at("new"), bytesOf("a")));
        QCOMPARE(rightsOf(at("new")), mode_t(0640));
        auto hidden = FreshFile::open(at("."), FreshFileWay::Hidden);
        QVERIFY(hidden && hidden->takePlace(at("hidden")));
        QCOMPARE(rightsOf(at("hidden")), mode_t(0640));
    }

    void rightsAreKept_data() {
        QTest::addColumn<uint>("rights");
        for (const uint rights : {0600u, 0640u, 0664u, 0444u, 0755u, 0777u})
            QTest::newRow(QByteArray::number(rights, 8).constData()) << rights;
    }
    void rightsAreKept() {
        QFETCH(uint, rights);
        QVERIFY(writeFile(at("a"), bytesOf("old")));
        QCOMPARE(::chmod(at("a").c_str(), rights), 0);
        QVERIFY(writeFile(at("a"), bytesOf("new")));
        QCOMPARE(textOf(at("a")), std::string("new"));
        QCOMPARE(rightsOf(at("a")), mode_t(rights));
    }

    void ownersAreKeptWhereThatIsAllowed() {
        const bool mayGive = ::geteuid() == 0; // files away
        const uid_t owner = mayGive ? 1234 : ::geteuid();
        const gid_t group = mayGive ? 5678 : ::getegid();
        QVERIFY(writeFile(at("a"), bytesOf("old")));
        QCOMPARE(::chown(at("a").c_str(), owner, group), 0);
        QVERIFY(writeFile(at("a"), bytesOf("new")));
        struct stat info {};
        QCOMPARE(::stat(at("a").c_str(), &info), 0);
        QVERIFY(info.st_uid == owner && info.st_gid == group);
    }

    void theMaskOfTheProcessIsLeftAlone() {
        const Mask mask(027);
        std::vector<std::thread> writers;
        std::atomic<int> failed = 0;
        for (int w = 0; w < 4; ++w)
            writers.emplace_back([&, w] {
                for (int i = 0; i < 100; ++i)
                    if (!writeFile(at("file" + std::to_string(w)), bytesOf("x"))) ++failed;
            });
        for (std::thread& writer : writers) writer.join();
        QCOMPARE(failed.load(), 0);
        const mode_t now = ::umask(027);
        QCOMPARE(now, mode_t(027));
        for (int w = 0; w < 4; ++w) QCOMPARE(rightsOf(at("file" + std::to_string(w))), mode_t(0640));
        QCOMPARE(names().size(), 4);
    }

    void linksAreFollowed() {
        std::filesystem::create_directory(at("far"));
        QVERIFY(writeFile(at("far/there"), bytesOf("old")));
        std::filesystem::create_symlink("far/there", at("first"));
        std::filesystem::create_symlink("first", at("second"));
        QVERIFY(writeFile(at("second"), bytesOf("new")));
        QCOMPARE(textOf(at("far/there")), std::string("new"));
        QVERIFY(std::filesystem::is_symlink(at("second")) && std::filesystem::is_symlink(at("first")));
        // One that leads to nothing yet.
        std::filesystem::create_symlink("far/fresh", at("hopeful"));
        QVERIFY(writeFile(at("hopeful"), bytesOf("made")));
        QCOMPARE(textOf(at("far/fresh")), std::string("made"));
        QVERIFY(std::filesystem::is_symlink(at("hopeful")));
        // An absolute one.
        std::filesystem::create_symlink(at("far/there"), at("absolute"));
        QVERIFY(writeFile(at("absolute"), bytesOf("newer")));
        QCOMPARE(textOf(at("far/there")), std::string("newer"));
    }

    void whatIsNoFileIsRefused_data() {
        QTest::addColumn<QString>("what");
        QTest::addColumn<QString>("says");
        QTest::newRow("folder") << "folder"
                                << "it is a folder";
        QTest::newRow("pipe") << "pipe"
                              << "it is a pipe";
        QTest::newRow("device") << "device"
                                << "it is a device";
        QTest::newRow("circle") << "circle"
                                << "its links lead in a circle";
        QTest::newRow("below a file") << "file/below"
                                      << "Not a directory";
        QTest::newRow("no folder") << "gone/below"
                                   << "No such file or directory";
    }
    void whatIsNoFileIsRefused() {
        QFETCH(QString, what);
        QFETCH(QString, says);
        std::filesystem::create_directory(at("folder"));
        QCOMPARE(::mkfifo(at("pipe").c_str(), 0600), 0);
        std::filesystem::create_symlink("/dev/null", at("device"));
        std::filesystem::create_symlink("circle", at("circle"));
        QVERIFY(writeFile(at("file"), bytesOf("kept")));
        const QStringList before = names();
        const auto done = writeFile(at(what.toStdString()), bytesOf("x"));
        QVERIFY(!done);
        const QString sentence = QString::fromStdString(done.error().message);
        QVERIFY2(sentence.contains("was not written (" + says + ")"), qPrintable(sentence));
        QCOMPARE(names(), before);
        QCOMPARE(textOf(at("file")), std::string("kept"));
        QVERIFY(std::filesystem::is_fifo(at("pipe")));
    }

    void theLongestNameIsWritten() {
        std::string name; // 255 bytes of two each, and one
        for (int i = 0; i < 127; ++i) name += "ð";
        name += "x";
        QVERIFY(writeFile(at(name), bytesOf("old")));
        QVERIFY(writeFile(at(name), bytesOf("new")));
        QCOMPARE(textOf(at(name)), std::string("new"));
        QVERIFY(!writeFile(at(name + "y"), bytesOf("x")));
        QCOMPARE(names().size(), 1);
    }

    void aWriterThatFailsLeavesNothing() {
        QVERIFY(writeFile(at("kept"), bytesOf("old")));
        const auto done = replaceFile(at("kept"), [](int file) -> Result<void> {
            if (auto half = writeAll(file, bytesOf("half")); !half) return half;
            return fail(Fault::Unwritable, "no more room");
        });
        QVERIFY(!done && done.error().message.find("no more room") != std::string::npos);
        QCOMPARE(textOf(at("kept")), std::string("old"));
        QCOMPARE(names(), QStringList{"kept"});
    }

    void aKillLeavesTheOldOrTheNewAndNothingElse() {
        const std::vector<uint8_t> old(3 << 20, 'o'), fresh(4 << 20, 'n');
        std::mt19937 chance(7);
        QVERIFY(writeFile(at("a"), old));
        for (int i = 0; i < 60; ++i) {
            const pid_t child = begun([&] {
                for (;;)
                    if (!writeFile(at("a"), old) || !writeFile(at("a"), fresh)) ::_exit(1);
            });
            std::this_thread::sleep_for(std::chrono::microseconds(500 + chance() % 12000));
            killed(child);
            const std::string now = textOf(at("a"));
            QVERIFY(now == std::string(old.begin(), old.end()) ||
                    now == std::string(fresh.begin(), fresh.end()));
        }
        QVERIFY(writeFile(at("a"), bytesOf("end")));
        QCOMPARE(names(), QStringList{"a"});
    }

    void aHiddenFileLeftByAKillGoesWithTheNext() {
        int pipe[2];
        QCOMPARE(::pipe(pipe), 0);
        const pid_t child = begun([&] {
            auto one = FreshFile::open(at("."), FreshFileWay::Hidden);
            const bool written = one && writeAll(one->get(), bytesOf("half of it"));
            ::write(pipe[1], written ? "y" : "n", 1);
            for (;;) ::pause();
        });
        char answer = 0;
        QCOMPARE(::read(pipe[0], &answer, 1), ssize_t(1));
        QCOMPARE(answer, 'y');
        QCOMPARE(names(), QStringList{".glyptos-0.part"});
        {
            // As long as its writer lives it is left alone.
            auto other = FreshFile::open(at("."), FreshFileWay::Hidden);
            QVERIFY(other && writeAll(other->get(), bytesOf("b")) && other->takePlace(at("b")));
        }
        QCOMPARE(names(), (QStringList{".glyptos-0.part", "b"}));
        killed(child);
        ::close(pipe[0]), ::close(pipe[1]);
        QVERIFY(writeFile(at("c"), bytesOf("c")));
        QCOMPARE(names(), (QStringList{"b", "c"}));
    }

    void whatOnlyLooksLikeALeftFileStays() {
        QVERIFY(writeFile(at("precious"), bytesOf("kept")));
        std::filesystem::create_symlink("precious", at(".glyptos-0.part"));
        std::filesystem::create_hard_link(at("precious"), at(".glyptos-1.part"));
        std::filesystem::create_directory(at(".glyptos-2.part"));
        for (const FreshFileWay way : {FreshFileWay::Nameless, FreshFileWay::Hidden}) {
            auto one = FreshFile::open(at("."), way);
            QVERIFY(one && writeAll(one->get(), bytesOf("b")) && one->takePlace(at("b")));
        }
        QCOMPARE(textOf(at("precious")), std::string("kept"));
        QCOMPARE(names(),
                 (QStringList{".glyptos-0.part", ".glyptos-1.part", ".glyptos-2.part", "b", "precious"}));
    }
};

GLYPTOS_TEST(AtomicFileTest)
#include "atomic_file_test.moc"
