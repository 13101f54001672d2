#include "app/compose/scopes.h"

#include "app/session/background.h"
#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "render/layer_geometry.h"
#include "render/painting.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kWidth = 268, kHeight = 214, kHead = 40, kSmall = 252, kPad = 8;

} // namespace

Scopes::Scopes(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , small_(service) {
    setAccessibleName(tr("Scopes"));
    resize(kWidth, kHeight);
    setCursor(Qt::SizeAllCursor);
    auto* row = new QWidget(this);
    row->setGeometry(0, 4, kWidth, kHead - 6);
    row->setCursor(Qt::ArrowCursor);
    auto* head = new QHBoxLayout(row);
    head->setContentsMargins(kPad, 0, kPad, 0);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Scope"));
    kind_->addItems({tr("Histogram"), tr("Waveform"), tr("Hue and chroma")});
    of_ = new QComboBox;
    of_->setAccessibleName(tr("Of"));
    of_->addItems({tr("the whole"), tr("the selection"), tr("the layer")});
    head->addWidget(kind_, 1);
    head->addWidget(of_, 1);
    connect(kind_, &QComboBox::currentIndexChanged, this, &Scopes::draw);
    connect(of_, &QComboBox::currentIndexChanged, this, &Scopes::ask);
    connect(&small_, &Miniature::arrived, this, &Scopes::draw);
    connect(&engine, &Engine::pictureReady, this, &Scopes::ask);
    hide();
}

void Scopes::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &Scopes::ask);
    connect(document_, &Document::selectionChanged, this, &Scopes::ask);
    ask();
}

void Scopes::setKind(Kind kind) {
    kind_->setCurrentIndex(int(kind));
}

void Scopes::setOf(Of of) {
    of_->setCurrentIndex(int(of));
}

QRect Scopes::field() const {
    return rect().adjusted(kPad, kHead, -kPad, -kPad);
}

/// A small rendering of what is looked at; the rest is counting.
void Scopes::ask() {
    const Panel* panel = document_ ? document_->shownPanel() : nullptr;
    if (!panel || !isVisible()) return;
    const Rect area = panel->trim();
    const LayerPtr layer = document_->selectedLayer();
    if (of_->currentIndex() == int(Of::Layer) && layer && !isFrameless(*layer)) {
        const double k = kSmall / std::max(area.w, area.h);
        Scene scene = aloneScene(document_->shown(), *layer, true, Affine::scaling(k, k), area);
        const IntRect region = scene.bounds();
        return small_.ask(1, std::move(scene), region);
    }
    auto [scene, region] = fittedScene(document_->shown(), document_->panel(), area, QSizeF(kSmall, kSmall));
    small_.ask(1, std::move(scene), region);
}

/// What of a panel's small picture is selected, as its greys.
static QImage selectedMask(const Selection& selection, const Rect& area, const QSize& size) {
    const double k = double(size.width()) / area.w;
    const Buffer<float> shares =
        selectedShares(selection, Affine::scaling(k, k) * Affine::translation(-area.x, -area.y),
                       {0, 0, size.width(), size.height()});
    QImage out(size, QImage::Format_RGB32);
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x) {
            const int v = int(std::lround(255 * shares[size_t(y) * size_t(out.width()) + size_t(x)]));
            out.setPixel(x, y, qRgb(v, v, v));
        }
    return out;
}

/// Counted and drawn off the window's thread; only the newest is shown.
void Scopes::draw() {
    const QImage& image = small_.image();
    const Panel* panel = document_ ? document_->shownPanel() : nullptr;
    if (image.isNull() || !panel) return;
    const auto selection = of_->currentIndex() == int(Of::Selection)
                               ? selectionOf(*document_->shown(), document_->panel())
                               : std::nullopt;
    const int height = image.width() * field().height() / field().width();
    const uint64_t ticket = ++drawn_;
    inBackground([=, kind = ScopeKind(kind_->currentIndex()), area = panel->trim()]() -> Result<QImage> {
        return scopeOf(kind, image, selection ? selectedMask(*selection, area, image.size()) : QImage(),
                       height);
    }).then(this, [this, ticket](const Result<QImage>& picture) {
        if (!picture || ticket != drawn_) return;
        picture_ = *picture;
        update();
    });
}

void Scopes::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(theme().paper);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    if (!picture_.isNull()) painter.drawImage(field(), picture_);
}

void Scopes::showEvent(QShowEvent*) {
    // At the foot of the bench, out of the way of the art's middle, until it is dragged.
    if (pos().isNull()) move(kPad, parentWidget()->height() - height() - kPad);
    ask();
    Q_EMIT opened(true);
}

void Scopes::hideEvent(QHideEvent*) {
    Q_EMIT opened(false);
}

void Scopes::mousePressEvent(QMouseEvent* event) {
    grabbed_ = event->position().toPoint();
}

void Scopes::mouseMoveEvent(QMouseEvent* event) {
    const QPoint to = mapToParent(event->position().toPoint() - grabbed_);
    move(std::clamp(to.x(), 0, parentWidget()->width() - width()),
         std::clamp(to.y(), 0, parentWidget()->height() - height()));
}

} // namespace glyptos
