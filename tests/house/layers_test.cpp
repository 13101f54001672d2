// The layers and rooms stay apart: no file includes a header of what lies above it, the core knows nothing of
// widgets, and no folder grows past what can be looked over.
#include "support/register.h"

#include <QDir>
#include <QDirIterator>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>

namespace {

constexpr int kMostFiles = 40; // in one folder

const QStringList kLayers{"base", "drawing", "raster", "color", "code",  "vision", "treat", "type",
                          "form", "release", "render", "file",  "crate", "scene",  "cli",   "app"};
/// Rooms of app, lowest first; those of one line stand beside each other.
const std::vector<QStringList> kRooms{{"session"}, {"widgets"},
                                      {"bench"},   {"hands", "figures"},
                                      {"letter"},  {"brief", "gather", "compose", "layout", "deliver"},
                                      {"window"}};

qsizetype storeyOf(const QString& room) {
    for (size_t i = 0; i < kRooms.size(); ++i)
        if (kRooms[i].contains(room)) return qsizetype(i);
    return -1;
}

struct Source {
    QString name, layer, room, text;
};

/// Every file of src; `room` is the folder inside of its layer, or empty.
std::vector<Source> sources() {
    std::vector<Source> out;
    const QDir root(QStringLiteral(SOURCE_FOLDER "/src"));
    QDirIterator files(root.path(), {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    while (files.hasNext()) {
        QFile file(files.next());
        const QString name = root.relativeFilePath(file.fileName());
        const QStringList parts = name.split('/');
        if (!file.open(QIODevice::ReadOnly)) qFatal("%s cannot be read", qPrintable(name));
        out.push_back(
            {name, parts[0], parts.size() > 2 ? parts[1] : QString(), QString::fromUtf8(file.readAll())});
    }
    return out;
}

} // namespace

class LayersTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void includesPointDownwards() {
        const QRegularExpression include("#include \"([a-z]+)/");
        int seen = 0;
        for (const Source& source : sources())
            for (const auto& match : include.globalMatch(source.text)) {
                const qsizetype below = kLayers.indexOf(match.captured(1));
                const QString says = source.name + " includes " + match.captured(1);
                QVERIFY2(below >= 0, qPrintable(says));
                QVERIFY2(below <= kLayers.indexOf(source.layer), qPrintable(says));
                QVERIFY2(!(source.layer == "app" && match.captured(1) == "cli"), qPrintable(says));
                ++seen;
            }
        QVERIFY(seen > 100);
    }

    void roomsOfTheWindowToo() {
        const QRegularExpression include("#include \"app/([a-z]+)/");
        int seen = 0;
        for (const Source& source : sources()) {
            if (source.layer != "app" || source.name == "app/precompiled.h") continue;
            const qsizetype own = storeyOf(source.room);
            QVERIFY2(own >= 0, qPrintable(source.name + " is in no room"));
            for (const auto& match : include.globalMatch(source.text)) {
                if (match.captured(1) == source.room) continue;
                const qsizetype other = storeyOf(match.captured(1));
                QVERIFY2(other >= 0 && other < own,
                         qPrintable(source.name + " includes " + match.captured(1)));
                ++seen;
            }
        }
        QVERIFY(seen > 100);
    }

    void foldersCanBeLookedOver() {
        QDirIterator folders(QStringLiteral(SOURCE_FOLDER "/src"), QDir::Dirs | QDir::NoDotAndDotDot,
                             QDirIterator::Subdirectories);
        while (folders.hasNext()) {
            const QDir folder(folders.next());
            QVERIFY2(folder.entryList(QDir::Files).size() <= kMostFiles, qPrintable(folder.path()));
        }
    }

    void coreKnowsNoWidgets() {
        const QStringList withoutQt{"base",  "raster", "color", "code",   "vision",
                                    "treat", "type",   "form",  "render", "scene"};
        for (const Source& source : sources()) {
            if (source.layer != "app")
                QVERIFY2(!source.text.contains("QWidget") && !source.text.contains("QApplication"),
                         qPrintable(source.name));
            if (withoutQt.contains(source.layer))
                QVERIFY2(!source.text.contains("#include <Q"), qPrintable(source.name));
        }
    }

    void configurationRefusesUpwardLinks() {
        QTemporaryDir folder;
        QDir(folder.path()).mkpath("raster");
        const auto put = [&](const QString& name, const QByteArray& text) {
            QFile f(folder.filePath(name));
            return f.open(QIODevice::WriteOnly) && f.write(text) == text.size();
        };
        QVERIFY(put("raster/a.cpp", "int a;"));
        QVERIFY(put("raster/CMakeLists.txt", "glyptos_layer(raster LAYERS file)"));
        QVERIFY(put("CMakeLists.txt",
                    "cmake_minimum_required(VERSION 3.25)\nproject(p CXX)\ninclude(\"" SOURCE_FOLDER
                    "/cmake/Layers.cmake\")\nadd_subdirectory(raster)\n"));
        QProcess cmake;
        cmake.start("cmake", {"-S", folder.path(), "-B", folder.filePath("build")});
        QVERIFY(cmake.waitForFinished(60000));
        QVERIFY(cmake.exitCode() != 0);
        QVERIFY(cmake.readAllStandardError().contains("may not link file"));
    }
};

GLYPTOS_TEST(LayersTest)
#include "layers_test.moc"
