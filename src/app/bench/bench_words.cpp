#include "app/bench/bench_words.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

namespace glyptos {

BenchWords::BenchWords(ComposeBench& bench)
    : bench_(bench) {}

/// Large enough to read on the panel, low enough for a spine, in ink or paper, whichever stands out there.
void BenchWords::add(const QString& name, const QString& words, Vec2 at, double share) {
    const Panel* panel = bench_.panel();
    if (!panel) return;
    const Rect area = panel->withBleed();
    const Vec2 where = bench_.toView().map(at);
    const QColor under = bench_.colourAt({where.x, where.y});
    const double ground = under.isValid() ? 1 - under.alphaF() * (1 - under.lightnessF()) : 1;
    Layer layer;
    layer.name = name.toStdString();
    TextContent text;
    text.spec.text = words.toStdString();
    text.spec.letters.size = std::max(area.h * share, std::min(area.h * 0.55, area.w / 60));
    text.spec.letters.style = "SemiBold";
    text.colour = fromQt(ground > 0.5 ? Theme::day().ink : Theme::day().paper);
    layer.content = text;
    layer.placement.position = at;
    Document& document = *bench_.document();
    document.editMaking(tr("Add %1").arg(name), withLayer(document.release(), document.panel(), layer));
    bench_.setHand(Hand::Move);
}

void BenchWords::addField(const FieldInfo& field) {
    const Panel* panel = bench_.panel();
    if (!panel) return;
    const Rect room = panel->safeArea().value_or(panel->trim());
    const bool list = field.token.starts_with("{tracks");
    add(QString::fromUtf8(field.label.data(), qsizetype(field.label.size())),
        QString::fromUtf8(field.token.data(), qsizetype(field.token.size())),
        {room.x + room.w * 0.03, list ? room.y + room.h * 0.1 : room.y + room.h * 0.45}, list ? 0.03 : 0.07);
}

void BenchWords::edit(bool selectAll) {
    const LayerPtr layer = bench_.document() ? bench_.document()->selectedLayer() : nullptr;
    if (!layer || !layer->as<TextContent>() || layer->locked || editor_) return;
    editor_ = new WordsEditor(bench_.document(), bench_.document()->panel(), layer, &bench_);
    connect(editor_, &WordsEditor::finished, this, [this] {
        editor_ = nullptr;
        bench_.setFocus();
        bench_.update();
    });
    follow();
    editor_->show();
    editor_->setFocus();
    if (selectAll) editor_->selectAll();
    bench_.update();
}

void BenchWords::follow() {
    if (editor_ && bench_.document()->layer() != editor_->layer()) editor_->finish(true);
    const LayerPtr layer = editor_ ? bench_.document()->selectedLayer() : nullptr;
    const Panel* panel = bench_.panel();
    if (!layer || !panel) return;
    const auto* text = layer->as<TextContent>();
    if (text && !layer->warp) {
        const TextSpec filled = resolvedText(*text, *bench_.document()->shown());
        return editor_->stand({bench_.paragraphs().get(filled), filled.text,
                               bench_.toView() * placedOnPanel(*layer, *bench_.document()->shown())});
    }
    const Frame frame = frameOf(*layer, *bench_.document()->shown(), panel->withBleed(), bench_.paragraphs());
    const Rect box = bench_.toView().mapBounds(frame.bounds());
    const int w = std::clamp(int(box.w), 240, 520), h = 66;
    editor_->setGeometry(std::clamp(int(box.x), 24, std::max(24, bench_.width() - w - 8)),
                         std::clamp(int(box.bottom()) + 8, 24, std::max(24, bench_.height() - h - 8)), w, h);
}

} // namespace glyptos
