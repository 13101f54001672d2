#include "app/widgets/page_preview.h"

#include "app/widgets/theme.h"
#include "file/print/print_marks.h"

#include <QPainter>

namespace glyptos {

PagePreview::PagePreview(RenderService& service, QWidget* parent)
    : QWidget(parent)
    , service_(service) {
    setAccessibleName(tr("The print page with its marks"));
}

void PagePreview::setPiece(const ReleasePtr& release, const std::string& piece, size_t sheet) {
    const PiecePtr shown = release->piece(piece);
    const size_t there = shown ? std::min(sheet, shown->flat->sheets.size() - 1) : 0;
    if (release == release_ && piece_ && piece_->id == piece && sheet_ == there) return;
    release_ = release;
    piece_ = shown;
    sheet_ = there;
    ask();
}

Affine PagePreview::mmToView() const {
    const Rect page = pageArea(sheet());
    const double k = std::min((width() - 2) / page.w, (height() - 2) / page.h);
    return Affine::translation(width() / 2.0 - page.centre().x * k, height() / 2.0 - page.centre().y * k) *
           Affine::scaling(k, k);
}

void PagePreview::ask() {
    if (!piece_ || width() < 20 || height() < 20) return update();
    const double ratio = devicePixelRatioF();
    const Affine view = mmToView();
    const Rect bleed = sheet().withBleed;
    const double k = view.a * ratio;
    const IntRect region{0, 0, snapEdge(bleed.w * k), snapEdge(bleed.h * k)};
    service_.request(
        this, 1, flatScene(release_, piece_->id, {k, true, {-bleed.x * k, -bleed.y * k}, {}, true, sheet_}),
        region, [this](QImage image) {
            art_ = std::move(image);
            update();
        });
}

void PagePreview::resizeEvent(QResizeEvent*) {
    ask();
}

void PagePreview::paintEvent(QPaintEvent*) {
    if (!piece_) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const Affine view = mmToView();
    const auto onView = [&](const Rect& mm) {
        const Rect r = view.mapBounds(mm);
        return QRectF(r.x, r.y, r.w, r.h);
    };
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(Qt::white);
    painter.drawRect(onView(pageArea(sheet())));
    if (!art_.isNull()) painter.drawImage(onView(sheet().withBleed), art_);
    for (const PageMark& mark : pageMarks(*piece_->flat, sheet_)) {
        const Vec2 from = view.map(mark.from), to = view.map(mark.to);
        painter.setPen(QPen(Theme::day().ink, 0.8, mark.fold ? Qt::DotLine : Qt::SolidLine));
        painter.drawLine(QPointF(from.x, from.y), QPointF(to.x, to.y));
    }
}

} // namespace glyptos
