#include "app/bench/bench_words.h"

#include "app/bench/compose_bench.h"
#include "app/session/engine.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "release/edits/small_print.h"

namespace glyptos {

BenchWords::BenchWords(ComposeBench& bench)
    : bench_(bench) {}

/// Large enough to read on the panel, low enough for a spine, in ink or paper, whichever stands out there.
void BenchWords::add(const QString& name, const QString& words, Vec2 at, double share) {
    if (!bench_.panel()) return;
    TextContent text;
    text.spec.text = words.toStdString();
    add(name, std::move(text), at, share);
}

void BenchWords::add(const QString& name, TextContent text, Vec2 at, double share) {
    const Panel* panel = bench_.panel();
    const Rect area = panel->withBleed();
    Layer layer;
    layer.name = name.toStdString();
    text.spec.letters.size = std::max(area.h * share, std::min(area.h * 0.55, area.w / 60));
    text.spec.letters.style = "SemiBold";
    text.colour = inkAt(at);
    layer.content = text;
    layer.placement.position = at;
    Document& document = *bench_.document();
    document.editMaking(tr("Add %1").arg(name), withLayer(document.release(), document.panel(), layer));
    bench_.setHand(Hand::Move);
}

Ink BenchWords::inkAt(Vec2 at) const {
    const Vec2 where = bench_.toView().map(at);
    const QColor under = bench_.colourAt({where.x, where.y});
    const double ground = under.isValid() ? 1 - under.alphaF() * (1 - under.lightnessF()) : 1;
    return fromQt(ground > 0.5 ? Theme::day().ink : Theme::day().paper);
}

void BenchWords::addSmallPrint() {
    const Panel* panel = bench_.panel();
    if (!panel) return;
    Document& document = *bench_.document();
    const Rect room = panel->safeArea().value_or(panel->trim());
    document.editMaking(tr("Add small print"),
                        withSmallPrint(document.release(), document.panel(), tr("Small print").toStdString(),
                                       inkAt({room.x + room.w * 0.2, room.bottom() - room.h * 0.02})));
    bench_.setHand(Hand::Move);
}

void BenchWords::addField(const FieldInfo& field) {
    const Panel* panel = bench_.panel();
    if (!panel) return;
    const Rect room = panel->safeArea().value_or(panel->trim());
    if (field.token.starts_with("{tracks")) return addTracks(field, room);
    add(QString::fromUtf8(field.label.data(), qsizetype(field.label.size())),
        QString::fromUtf8(field.token.data(), qsizetype(field.token.size())),
        {room.x + room.w * 0.03, room.y + room.h * 0.45}, 0.07);
}

/// As a list of its own, in columns; "{tracks A}" one of that side.
void BenchWords::addTracks(const FieldInfo& field, const Rect& room) {
    constexpr double kShare = 0.03, kGapOfSize = 1.2;
    const QString name = QString::fromUtf8(field.label.data(), qsizetype(field.label.size()));
    TextContent text;
    text.tracks.emplace();
    if (const size_t space = field.token.find(' '); space != field.token.npos)
        text.tracks->sides = {std::string(field.token.substr(space + 1, field.token.size() - space - 2))};
    const double size = room.h * kShare;
    text.spec.leading = 1.4;
    text.spec.frame = InTable{.width = room.w * 0.94, .gap = size * kGapOfSize, .gutter = size * 3};
    add(name, std::move(text), {room.x + room.w * 0.03, room.y + room.h * 0.1}, kShare);
}

void BenchWords::edit(bool selectAll) {
    const LayerPtr layer = bench_.document() ? bench_.document()->selectedLayer() : nullptr;
    if (!layer || !layer->as<TextContent>() || layer->locked || editor_) return;
    if (layer->as<TextContent>()->tracks) {
        Q_EMIT bench_.document()->refused(tr("These words are the tracks of the brief: change them there, or "
                                             "set them free beside the bench."));
        return;
    }
    editor_ = new WordsEditor(bench_.document(), bench_.document()->panel(), layer, bench_.engine().spelling,
                              &bench_);
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
