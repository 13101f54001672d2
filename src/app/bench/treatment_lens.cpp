#include "app/bench/treatment_lens.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/treatment_edits.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr double kReach = 8; // px round a grip or the line

} // namespace

TreatmentLens::TreatmentLens(ComposeBench& bench, RenderService& service)
    : bench_(bench)
    , picture_(service, nullptr) {
    connect(&picture_, &BenchPicture::arrived, this, [this] { bench_.update(); });
}

void TreatmentLens::setBefore(Before before) {
    before_ = before;
    request();
    bench_.update();
}

void TreatmentLens::setTreatment(int row) {
    row_ = row;
    bench_.update();
}

void TreatmentLens::request() {
    const Document* document = bench_.document();
    if (before_ == Before::Off || !document || !bench_.panel()) return picture_.clear();
    const std::vector<std::string> layers =
        before_ == Before::OfLayer ? document->layers() : std::vector<std::string>();
    if (before_ == Before::OfLayer && layers.empty()) return picture_.clear();
    bench_.requestOf(picture_, [document, layers](double scale) {
        return panelScene(untreated(document->shown(), document->panel(), layers), document->panel(),
                          {scale, true});
    });
}

std::optional<double> TreatmentLens::splitX() const {
    const Panel* panel = bench_.panel();
    if (before_ == Before::Off || !panel) return std::nullopt;
    const Rect area = panel->withBleed();
    return bench_.toView().map({area.x + area.w * split_, 0}).x;
}

const Treatment* TreatmentLens::treatment() const {
    const LayerPtr layer = bench_.document() ? bench_.document()->selectedLayer() : nullptr;
    if (!layer || !layer->treatments || row_ < 0 || row_ >= int(layer->treatments->size())) return nullptr;
    const Treatment& out = (*layer->treatments)[size_t(row_)];
    return out.kind ? &out : nullptr;
}

std::optional<QPointF> TreatmentLens::placeOf(size_t figure) const {
    const Treatment* t = treatment();
    const Panel* panel = bench_.panel();
    if (!t || !panel || t->kind->figures[figure].kind != FigureKind::Point) return std::nullopt;
    const Place place{{}, panel->withBleed(), 1};
    const Vec2 at = bench_.toView().map(place.at(t->kind->figures[figure], t->figures.point(figure)));
    return QPointF(at.x, at.y);
}

void TreatmentLens::paint(QPainter& painter) const {
    const auto split = splitX();
    if (!split || picture_.isEmpty()) return;
    const Affine view = bench_.toView();
    painter.save();
    painter.setClipRect(QRectF(0, 0, *split, bench_.height()));
    picture_.paint(painter, {view.e, view.f}, bench_.zoom());
    painter.restore();
    painter.setPen(QPen(QColor(255, 255, 255, 190), 4));
    painter.drawLine(QPointF(*split, 0), QPointF(*split, bench_.height()));
    painter.setPen(QPen(theme().ink, 1.5, Qt::DashLine));
    painter.drawLine(QPointF(*split, 0), QPointF(*split, bench_.height()));
    paintRoundGrip(painter, {*split, bench_.height() / 2.0});
    painter.setFont(uiFont(11, 600));
    const auto word = [&](const QString& text, const QRectF& area) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme().ink);
        painter.drawRoundedRect(area, 4, 4);
        painter.setPen(theme().sheet);
        painter.drawText(area, Qt::AlignCenter, text);
    };
    word(ComposeBench::tr("before"), {*split - 66, bench_.height() - 34.0, 56, 20});
    word(ComposeBench::tr("after"), {*split + 10, bench_.height() - 34.0, 56, 20});
}

void TreatmentLens::paintGrips(QPainter& painter) const {
    const Treatment* t = treatment();
    if (!t) return;
    for (size_t i = 0; i < t->kind->figures.size(); ++i)
        if (const auto at = placeOf(i)) {
            painter.setPen(QPen(Qt::white, 3));
            painter.setBrush(Qt::NoBrush);
            for (const auto& [colour, width] : {std::pair{QColor(Qt::white), 3.5}, {theme().accent, 1.6}}) {
                painter.setPen(QPen(colour, width));
                painter.drawLine(*at - QPointF(14, 0), *at - QPointF(5, 0));
                painter.drawLine(*at + QPointF(5, 0), *at + QPointF(14, 0));
                painter.drawLine(*at - QPointF(0, 14), *at - QPointF(0, 5));
                painter.drawLine(*at + QPointF(0, 5), *at + QPointF(0, 14));
            }
            paintRoundGrip(painter, {at->x(), at->y()});
        }
}

bool TreatmentLens::press(QPointF p) {
    drag_ = Drag::None;
    if (const Treatment* t = treatment())
        for (size_t i = 0; i < t->kind->figures.size(); ++i)
            if (const auto at = placeOf(i); at && QLineF(*at, p).length() <= kReach)
                drag_ = Drag::Point, figure_ = i;
    if (const auto split = splitX(); drag_ == Drag::None && split && std::abs(p.x() - *split) <= kReach)
        drag_ = Drag::Line;
    return isDragging();
}

void TreatmentLens::drag(QPointF p) {
    const Vec2 at = bench_.fromView({p.x(), p.y()});
    if (drag_ == Drag::Line) {
        const Rect area = bench_.panel()->withBleed();
        split_ = std::clamp((at.x - area.x) / area.w, 0.0, 1.0);
        return bench_.update();
    }
    Document& document = *bench_.document();
    document.preview(withFigure(document.release(), document.panel(), document.layer(), size_t(row_), figure_,
                                std::optional<Vec2>(at)));
}

void TreatmentLens::release() {
    if (std::exchange(drag_, Drag::None) != Drag::Point) return;
    Document& document = *bench_.document();
    document.edit(ComposeBench::tr("Place a treatment"), document.shown());
}

} // namespace glyptos
