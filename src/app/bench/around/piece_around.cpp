#include "app/bench/around/piece_around.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kPeep = 0.12; // of the panel's longer side, that is seen of its neighbours
constexpr int kDim = 165;      // alpha of the veil of the bench's grey over them

} // namespace

PieceAround::PieceAround(ComposeBench& bench, RenderService& service)
    : bench_(bench)
    , picture_(service, nullptr) {
    connect(&picture_, &BenchPicture::arrived, this, [this] { bench_.update(); });
}

void PieceAround::setAround(Around around) {
    if (around == around_) return;
    around_ = around;
    if (around == Around::Nothing) picture_.clear();
    Q_EMIT changed();
}

std::vector<size_t> PieceAround::neighbours() const {
    std::vector<size_t> out;
    const PiecePtr piece = bench_.document() ? bench_.document()->piece() : nullptr;
    const Panel* here = bench_.panel();
    if (!piece || !here) return out;
    const Wrap* wrap = piece->wrap(here->id);
    for (size_t i = 0; i < piece->flat->panels.size(); ++i) {
        const Panel& panel = piece->flat->panels[i];
        const bool under =
            wrap && std::find(wrap->panels.begin(), wrap->panels.end(), panel.id) != wrap->panels.end();
        if (panel.sheet == here->sheet && panel.id != here->id && !under) out.push_back(i);
    }
    return out;
}

bool PieceAround::hasNeighbours() const {
    return !neighbours().empty();
}

Affine PieceAround::flatToPanel() const {
    return bench_.panel()->toFlat().inverse().value_or(Affine{});
}

void PieceAround::request() {
    const std::vector<size_t> others = around_ == Around::Nothing ? std::vector<size_t>{} : neighbours();
    if (others.empty()) return picture_.clear();
    bench_.requestOf(picture_, [&](double pxPerUnit) {
        return mappedScene(bench_.document()->shown(), bench_.document()->panel().piece, others,
                           Affine::scaling(pxPerUnit, pxPerUnit) * flatToPanel());
    });
}

void PieceAround::paintUnder(QPainter& painter) const {
    if (around_ == Around::Nothing || !bench_.panel()) return;
    const Affine view = bench_.toView(), map = view * flatToPanel();
    const Flat& flat = *bench_.document()->piece()->flat;
    QPainterPath papers;
    for (const size_t i : neighbours()) {
        const Panel& panel = flat.panels[i];
        papers.addPath(toQt(map * panel.toFlat()).map(toQt(panel.outline.path())));
    }
    painter.fillPath(papers, Qt::white);
    painter.save();
    painter.setClipPath(papers);
    picture_.paint(painter, {view.e, view.f}, bench_.zoom());
    if (around_ == Around::Neighbours) {
        QColor veil = theme().bench;
        veil.setAlpha(kDim);
        painter.fillPath(papers, veil);
    }
    painter.restore();
}

void PieceAround::paintLines(QPainter& painter) const {
    const Panel* here = bench_.panel();
    const PiecePtr piece = bench_.document()->piece();
    if (!here || !piece || (around_ == Around::Nothing && !piece->wrap(here->id))) return;
    const Affine map = bench_.toView() * flatToPanel();
    if (around_ != Around::Nothing) {
        LineKey key = bench_.key();
        key[LineKind::Zone] = key[LineKind::Safety] = around_ == Around::Piece;
        for (const size_t i : neighbours())
            paintPanelLines(painter, piece->flat->panels[i], map * piece->flat->panels[i].toFlat(), key);
    }
    if (bench_.key()[LineKind::Fold]) paintFolds(painter, *piece->flat, here->sheet, map);
}

Rect PieceAround::extent() const {
    const Panel* here = bench_.panel();
    if (!here) return {};
    if (around_ == Around::Nothing || !hasNeighbours()) return here->withBleed();
    if (around_ == Around::Neighbours)
        return here->withBleed().grown(kPeep * std::max(here->width, here->height));
    return flatToPanel().mapBounds(bench_.document()->piece()->flat->sheets[here->sheet].withBleed);
}

const Panel* PieceAround::neighbourAt(Vec2 at) const {
    const Panel* here = bench_.panel();
    if (around_ == Around::Nothing || !here || here->trim().contains(at)) return nullptr;
    const Vec2 onFlat = here->toFlat().map(at);
    const Flat& flat = *bench_.document()->piece()->flat;
    for (const size_t i : neighbours())
        if (flat.panels[i].onFlat.contains(onFlat)) return &flat.panels[i];
    return nullptr;
}

} // namespace glyptos
