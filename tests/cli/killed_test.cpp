// A kill in the middle of writing leaves the old file or the new one, whole, and nothing beside it: every
// kind of file that is written, print files included.
#include "support/cli.h"
#include "support/register.h"

#include <QElapsedTimer>
#include <QFile>

using namespace glyptos;
using namespace glyptos::test;

class KilledTest : public CliFixture {
    Q_OBJECT

    QByteArray bytesOf(const QString& name) const {
        QFile file(at(name));
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }
    void put(const QString& name, const QByteArray& bytes) const {
        QFile file(at(name));
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size());
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        QCOMPARE(run({"new", "r.glyptos", "--form", "digital-cover", "--form", "sleeve-7"}).code, 0);
    }

    void everyKind_data() {
        QTest::addColumn<QStringList>("arguments");
        const QStringList cover{"export", "r.glyptos", "--piece", "digital-cover", "--width", "2400"};
        QTest::newRow("release") << QStringList{"new",           "out",    "--form",
                                                "digital-cover", "--form", "sleeve-12"};
        QTest::newRow("jpeg") << cover + QStringList{"--as", "jpeg", "--out", "out"};
        QTest::newRow("png") << cover + QStringList{"--as", "png", "--out", "out"};
        QTest::newRow("openraster") << QStringList{"export", "r.glyptos", "--piece", "digital-cover",
                                                   "--as",   "ora",       "--out",   "out"};
        QTest::newRow("print") << QStringList{"export", "r.glyptos", "--piece", "sleeve-7",
                                              "--as",   "pdf",       "--out",   "out"};
    }
    void everyKind() {
        QFETCH(QStringList, arguments);
        constexpr int kKills = 8;
        qputenv("SOURCE_DATE_EPOCH", "1790000000"); // print files say when they were made
        const QByteArray old("what was there before");
        // A release is only ever made where there is none; saving it again is in atomic_file_test.
        const bool replaces = arguments[0] == "export";
        run(arguments);
        QFile::remove(at("out"));
        QElapsedTimer time;
        time.start();
        const Ran whole = run(arguments);
        const qint64 takes = time.elapsed();
        QVERIFY2(whole.code != 2, whole.err.constData());
        const QByteArray fresh = bytesOf("out");
        QVERIFY(fresh.size() > 100);
        int killed = 0;
        for (int i = 0; i < kKills; ++i) {
            QFile::remove(at("out"));
            if (replaces) put("out", old);
            QProcess process;
            process.setWorkingDirectory(folder->path());
            process.start(QStringLiteral(CLI_PROGRAM), arguments);
            QVERIFY(process.waitForStarted());
            const qint64 after = takes * (i + 1) / (kKills + 1);
            if (!process.waitForFinished(int(after))) process.kill(), ++killed;
            QVERIFY(process.state() == QProcess::NotRunning || process.waitForFinished());
            const QByteArray now = bytesOf("out");
            QVERIFY2(now == (replaces ? old : QByteArray()) || now == fresh,
                     qPrintable(QString("%1 bytes").arg(now.size())));
            QVERIFY(files().size() <= 2); // nothing beside it and its release
        }
        QVERIFY(killed > 0);
    }
};

GLYPTOS_TEST(KilledTest)
#include "killed_test.moc"
