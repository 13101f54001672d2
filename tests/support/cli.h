// glyptos-cli for tests, run in a folder of its own with no display at all.
#pragma once

#include <QDir>
#include <QJsonDocument>
#include <QObject>
#include <QProcess>
#include <QProcessEnvironment>
#include <QTemporaryDir>
#include <QTest>
#include <memory>
#include <sys/resource.h>

namespace glyptos::test {

struct Ran {
    int code = -1;
    QByteArray out, err;
    QJsonDocument json() const { return QJsonDocument::fromJson(out); }
};

class CliFixture : public QObject {
  protected:
    std::unique_ptr<QTemporaryDir> folder;
    QString at(const QString& name) const { return folder->filePath(name); }

    Ran run(const QStringList& arguments, rlim_t mostFileBytes = RLIM_INFINITY) const {
        QProcess process;
        QProcessEnvironment plain = QProcessEnvironment::systemEnvironment();
        for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) plain.remove(name);
        process.setProcessEnvironment(plain);
        process.setWorkingDirectory(folder->path());
        if (mostFileBytes != RLIM_INFINITY)
            process.setChildProcessModifier([=] {
                const rlimit limit{mostFileBytes, mostFileBytes};
                setrlimit(RLIMIT_FSIZE, &limit);
            });
        process.start(QStringLiteral(CLI_PROGRAM), arguments);
        if (!process.waitForFinished(120000)) qFatal("glyptos-cli did not end");
        return {process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -2,
                process.readAllStandardOutput(), process.readAllStandardError()};
    }

    void refused(const Ran& ran, const QString& says) const {
        QCOMPARE(ran.code, 2);
        const QString err = QString::fromUtf8(ran.err);
        QVERIFY2(err.contains(says), qPrintable(err));
        QVERIFY2(err.count('\n') == 1 && err.endsWith('\n') && err.startsWith("glyptos-cli: "),
                 qPrintable(err));
    }

    QStringList files() const { return QDir(folder->path()).entryList(QDir::Files | QDir::Hidden); }
};

} // namespace glyptos::test
