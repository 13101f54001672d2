// The layers stay apart: no file includes a header of a layer above its own, and the core knows nothing of
// widgets.
#include <QtTest>

class LayersTest : public QObject {
    Q_OBJECT
    const QStringList order{"base",    "raster", "color", "vision", "type", "form",
                            "release", "render", "file",  "crate",  "cli",  "app"};

  private Q_SLOTS:
    void includesPointDownwards() {
        const QRegularExpression include(R"re(#include "([a-z]+)/)re");
        int seen = 0;
        QDirIterator files(QStringLiteral(SOURCE_FOLDER "/src"), {"*.h", "*.cpp"}, QDir::Files,
                           QDirIterator::Subdirectories);
        while (files.hasNext()) {
            QFile file(files.next());
            const QString layer = QFileInfo(file.fileName()).dir().dirName();
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QString text = QString::fromUtf8(file.readAll());
            for (const auto& match : include.globalMatch(text)) {
                const qsizetype below = order.indexOf(match.captured(1));
                QVERIFY2(below >= 0,
                         qPrintable(file.fileName() + " includes unknown layer " + match.captured(1)));
                QVERIFY2(below <= order.indexOf(layer),
                         qPrintable(file.fileName() + " includes " + match.captured(1)));
                QVERIFY2(!(layer == "app" && match.captured(1) == "cli"), qPrintable(file.fileName()));
                ++seen;
            }
        }
        QVERIFY(seen > 100);
    }

    void coreKnowsNoWidgets() {
        QDirIterator files(QStringLiteral(SOURCE_FOLDER "/src"), {"*.h", "*.cpp"}, QDir::Files,
                           QDirIterator::Subdirectories);
        const QStringList withoutQt{"base", "raster", "color", "vision", "type", "form", "render"};
        while (files.hasNext()) {
            QFile file(files.next());
            const QString layer = QFileInfo(file.fileName()).dir().dirName();
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QString text = QString::fromUtf8(file.readAll());
            if (layer != "app")
                QVERIFY2(!text.contains("QWidget") && !text.contains("QApplication"),
                         qPrintable(file.fileName()));
            if (withoutQt.contains(layer))
                QVERIFY2(!text.contains("#include <Q"), qPrintable(file.fileName()));
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
                    "cmake_minimum_required(VERSION 3.25)\nproject(p CXX)\ninclude(" SOURCE_FOLDER
                    "/cmake/Layers.cmake)\nadd_subdirectory(raster)\n"));
        QProcess cmake;
        cmake.start("cmake", {"-S", folder.path(), "-B", folder.filePath("build")});
        QVERIFY(cmake.waitForFinished(60000));
        QVERIFY(cmake.exitCode() != 0);
        QVERIFY(cmake.readAllStandardError().contains("may not link file"));
    }
};

QTEST_GUILESS_MAIN(LayersTest)
#include "layers_test.moc"
