#include "support/random_edits.h"

#include "file/release_json/release_json.h"
#include "release/edits/treatment_edits.h"
#include "release/walks.h"
#include "support/slow_disk.h"
#include "support/window.h"

#include <QDateTime>
#include <QFile>
#include <random>
#include <xxhash.h>

namespace glyptos::test {
namespace {

class RandomEdits {
  public:
    RandomEdits(TestWindow& window, unsigned seed, QString folder)
        : t_(window)
        , chance_(seed)
        , folder_(std::move(folder)) {}

    /// One edit, of whatever sort.
    void act() {
        Document& d = t_.document();
        const ReleasePtr& now = d.release();
        switch (upTo(11)) {
        case 0:
            return title(now->brief.title + char('a' + upTo(26)));
        case 1:
            return upTo(2) ? d.undo() : d.redo();
        case 2:
            return d.go(size_t(upTo(int(d.history().steps().size()))));
        case 3:
        case 4:
            return box();
        case 5:
            return paint();
        case 6:
            return opacity();
        case 7:
            return photo();
        case 8:
            return d.edit("Light", withLinearLight(now, !now->linearLight));
        case 9:
            if (upTo(4) == 0) return t_.window->saveTo(folder_ + "/saved.glyptos");
            return d.selectPanel({t_.piece(upTo(2) ? "digital-cover" : "sleeve-12"), "front"});
        default:
            return remove();
        }
    }

  private:
    int upTo(int n) { return int(chance_() % unsigned(n)); }

    void title(const std::string& words) {
        Brief brief = t_.document().release()->brief;
        brief.title = words.substr(0, 20);
        t_.document().edit("Title", withBrief(t_.document().release(), brief), "title");
    }
    void box() {
        ShapeContent shape;
        shape.width = 20 + upTo(200), shape.height = 10 + upTo(100);
        shape.fill = Rgba{float(upTo(256)) / 255, 0.5F, 0.25F, 1};
        Layer layer;
        layer.name = "Bryggja " + std::to_string(upTo(1000));
        layer.content = shape;
        t_.document().editMaking("Box", withLayer(t_.document().release(), t_.document().panel(), layer));
    }
    void paint() {
        auto tiles = std::make_shared<PixelTiles>(kPaintPixels);
        const uint8_t shade = uint8_t(1 + upTo(255));
        tiles->change({upTo(500), upTo(500), 1 + upTo(600), 1 + upTo(300)}, [&](const PixelPart& part) {
            for (int y = part.area.y; y < part.area.bottom(); ++y)
                for (int x = 0; x < 4 * part.area.w; ++x) part.row(y)[x] = uint8_t(shade + x * y);
        });
        Layer layer;
        layer.name = "Stroke";
        layer.content = PaintedContent{tiles, nullptr};
        t_.document().editMaking("Stroke", withLayer(t_.document().release(), t_.document().panel(), layer));
    }
    LayerPtr any() {
        const Stack& layers = t_.layers();
        return layers.empty() ? nullptr : layers[size_t(upTo(int(layers.size())))];
    }
    void opacity() {
        if (const LayerPtr layer = any())
            t_.document().edit("Opacity",
                               withChangedLayer(t_.document().release(), t_.document().panel(), layer->id,
                                                [&](Layer& l) { l.opacity = upTo(101) / 100.0; }),
                               "opacity");
    }
    void photo() {
        const int shade = upTo(6); // some come again
        const auto made = importBytes(jpegOf(90, 60,
                                             [&](int x, int y) -> std::array<uint8_t, 4> {
                                                 return {uint8_t(40 * shade), uint8_t(x), uint8_t(y), 255};
                                             }),
                                      "Mynd " + std::to_string(shade) + ".jpg");
        Layer layer;
        layer.name = "Photo";
        layer.content = PictureContent{made->source->id, {0, 0, 1, 1}};
        const ReleasePtr with = withSource(t_.document().release(), made->source);
        t_.document().editMaking("Photo", withLayer(with, t_.document().panel(), layer));
    }
    void remove() {
        if (const LayerPtr layer = any())
            t_.document().edit("Remove",
                               withoutLayer(t_.document().release(), t_.document().panel(), layer->id));
    }

    TestWindow& t_;
    std::mt19937 chance_;
    QString folder_;
};

} // namespace

uint64_t stateHash(const Release& release) {
    Release copy = release;
    copy.nextId = 1;
    const std::string text = releaseToJson(copy);
    return XXH3_64bits(text.data(), text.size());
}

int editAtRandom(unsigned seed, const QString& folder, const QString& log) {
    QFile file(log);
    if (!file.open(QIODevice::WriteOnly | QIODevice::Append | QIODevice::Unbuffered)) return 2;
    TestWindow window;
    Document& document = window.document();
    const auto note = [&] {
        NotedState state;
        state.hash = stateHash(*document.release());
        state.atMs = QDateTime::currentMSecsSinceEpoch();
        file.write(reinterpret_cast<const char*>(&state), sizeof state);
    };
    QObject::connect(&document, &Document::stepped, note);
    QObject::connect(&document, &Document::went, note);
    window.window->journal().follow(document, {}); // anew: it hears of a state after that has been noted
    setFlushMs(qEnvironmentVariableIntValue("GLYPTOS_TEST_FLUSH_MS"));
    RandomEdits edits(window, seed, folder);
    std::mt19937 pause(seed + 1);
    note();
    for (;;) {
        edits.act();
        QTest::qWait(int(pause() % 30));
    }
}

std::vector<NotedState> notedStates(const QString& log) {
    QFile file(log);
    if (!file.open(QIODevice::ReadOnly)) return {};
    const QByteArray bytes = file.readAll();
    std::vector<NotedState> out(size_t(bytes.size()) / sizeof(NotedState));
    std::memcpy(out.data(), bytes.constData(), out.size() * sizeof(NotedState));
    return out;
}

} // namespace glyptos::test
