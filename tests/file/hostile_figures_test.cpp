// Every figure of a release, set to what no artist would: it is refused with a sentence, or can be drawn.
#include "file/data_folder.h"
#include "file/release_json/release_json.h"
#include "file/release_json/treatment_codec.h"
#include "release/walks.h"
#include "render/renderer.h"
#include "support/every_kind.h"
#include "support/register.h"

#include <QElapsedTimer>
#include <QRegularExpression>

using namespace glyptos;
using namespace glyptos::test;

class HostileFiguresTest : public QObject {
    Q_OBJECT
    FontLibrary fonts_{dataFolder() / "fonts", true};
    std::map<std::string, PixelTilePtr> tiles_;

    std::map<std::string, LookTablePtr> looks_;

    void keepParts(const Release& release) {
        eachTreatment(release, [&](const Treatment& treatment) {
            for (const FigureValue& value : treatment.figures.values())
                if (const auto* table = std::get_if<LookTablePtr>(&value); table && *table)
                    looks_[lookName(**table)] = *table;
        });
        eachPainted(release, [&](const PixelTiles& painted) {
            for (const auto& [place, tile] : painted.tiles()) tiles_[tileName(tile->hash())] = tile;
        });
    }

  private Q_SLOTS:
    void everyFigure_data() {
        QTest::addColumn<QString>("value");
        for (const char* value : {"0", "1e-9", "1e9", "1e15", "-1e300"}) QTest::newRow(value) << value;
    }
    void everyFigure() {
        QFETCH(QString, value);
        HeldPictures pictures;
        const ReleasePtr release = releaseOfEveryKind(pictures);
        keepParts(*release);
        const std::vector<std::shared_ptr<const Form>> forms{release->pieces[0]->form,
                                                             release->pieces[1]->form};
        const TileSource tile = [&](const std::string& name,
                                    const PixelFormat& format) -> Result<PixelTilePtr> {
            const auto found = tiles_.find(name);
            return found == tiles_.end() ? noTiles(name, format) : Result<PixelTilePtr>(found->second);
        };
        const LookSource look = [&](const std::string& name) -> Result<LookTablePtr> {
            return looks_.at(name);
        };
        const QStringList lines = QString::fromStdString(releaseToJson(*release)).split('\n');
        static const QRegularExpression figure("^( *(?:\"[^\"]*\": )?)-?[0-9.eE+-]+(,?)$");
        const auto plain = releaseFromJson(releaseToJson(*release), forms, tile, look);
        QVERIFY2(plain, qPrintable(sentence(plain)));
        Renderer renderer(pictures, fonts_); // what is as before is not drawn again
        int read = 0, refused = 0;
        qint64 slowest = 0;
        QString slowestLine;
        for (qsizetype i = 0; i < lines.size(); ++i) {
            const auto match = figure.match(lines[i]);
            if (!match.hasMatch()) continue;
            QStringList spoilt = lines;
            spoilt[i] = match.captured(1) + value + match.captured(2);
            const auto back = releaseFromJson(spoilt.join('\n').toStdString(), forms, tile, look);
            if (!back) {
                QVERIFY(!back.error().message.empty());
                ++refused;
                continue;
            }
            ++read;
            QElapsedTimer time;
            time.start();
            const ReleasePtr shown = std::make_shared<const Release>(*back);
            const PiecePtr& piece = shown->pieces[0];
            const Scene scene = panelScene(shown, {piece->id, "front"}, {.pxPerUnit = 0.1});
            const Buffer<uint8_t> pixels = renderer.renderBgra8(scene, {0, 0, 70, 52});
            QCOMPARE(pixels.size(), size_t(70) * 52 * 4);
            if (time.elapsed() > slowest) slowest = time.elapsed(), slowestLine = spoilt[i];
        }
        qInfo("%s: %d drawn, %d refused; the slowest took %lld ms: %s", qPrintable(value), read, refused,
              slowest, qPrintable(slowestLine.trimmed()));
        QVERIFY(read > 50 && refused > 50);
    }
};

GLYPTOS_TEST(HostileFiguresTest)
#include "hostile_figures_test.moc"
