#include "app/compose/stack_view.h"

#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/layer_words.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

#include <QContextMenuEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kCard = 44, kGap = 5, kIndent = 16, kThumb = 32, kSide = 9;

} // namespace

StackView::StackView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Stack, front to back"));
    setToolTip(
        tr("Drag a card to change the order; the bar along its foot is its opacity. Ctrl or Shift takes "
           "several in hand"));
    connect(&engine_, &Engine::pictureReady, this, [this] {
        for (auto& [id, thumb] : thumbnails_) thumb.layer = nullptr;
        askThumbnails();
    });
}

void StackView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    thumbnails_.clear();
    connect(document_, &Document::changed, this, &StackView::rebuild);
    connect(document_, &Document::selectionChanged, this, &StackView::rebuild);
    rebuild();
}

void StackView::collect(const Stack& stack, const std::string& group, int depth) {
    for (size_t i = 0; i < stack.size(); ++i) {
        rows_.push_back({stack[i], group, i, depth, clipBase(stack, i) != i});
        if (const auto* inside = stack[i]->as<GroupContent>())
            collect(inside->layers, stack[i]->id, depth + 1);
    }
}

void StackView::rebuild() {
    rows_.clear();
    collect(stackOf(*document_->shown(), document_->panel()), {}, 0);
    std::erase_if(thumbnails_, [&](const auto& entry) {
        return std::none_of(rows_.begin(), rows_.end(),
                            [&](const Row& r) { return r.layer->id == entry.first; });
    });
    setMinimumHeight(sizeHint().height());
    updateGeometry();
    askThumbnails();
    update();
}

QSize StackView::sizeHint() const {
    return {272, int(rows_.size()) * (kCard + kGap) + kGap};
}

/// Each layer by itself, as large as it is on the panel.
void StackView::askThumbnails() {
    if (!document_) return;
    const Panel* panel = document_->shownPanel();
    if (!panel) return;
    const double ratio = devicePixelRatioF(), side = kThumb * ratio;
    for (const Row& row : rows_) {
        Thumbnail& thumb = thumbnails_[row.layer->id];
        if (thumb.layer == row.layer) continue;
        thumb.layer = row.layer;
        if (!thumb.miniature) {
            thumb.miniature = std::make_unique<Miniature>(service_);
            connect(thumb.miniature.get(), &Miniature::arrived, this, qOverload<>(&QWidget::update));
        }
        auto alone = std::make_shared<Layer>(*row.layer);
        alone->on = true;
        alone->opacity = 1;
        alone->blend = BlendMode::Normal;
        alone->clipped = false;
        Rect area = frameOf(*alone, *document_->shown(), panel->withBleed(), engine_.renderer.paragraphs())
                        .bounds()
                        .intersected(panel->withBleed());
        if (area.empty()) area = panel->withBleed();
        const double k = side / std::max(area.w, area.h);
        const Vec2 offset{(side - area.w * k) / 2 - area.x * k, (side - area.h * k) / 2 - area.y * k};
        const IntRect square{0, 0, int(std::lround(side)), int(std::lround(side))};
        Scene scene{document_->shown(),
                    {{{alone},
                      Affine::translation(offset.x, offset.y) * Affine::scaling(k, k),
                      square,
                      panel->withBleed(),
                      {}}},
                    {}};
        thumb.miniature->ask(2, std::move(scene), square);
    }
}

QRect StackView::cardRect(size_t row) const {
    const int indent = (rows_[row].depth + rows_[row].clipped) * kIndent;
    return {kSide + indent, kGap + int(row) * (kCard + kGap), width() - 2 * kSide - indent, kCard};
}

QRect StackView::lampRect(const QRect& card) const {
    return {card.right() - 24, card.top() + 10, 16, 16};
}

QRect StackView::cardOf(const std::string& layer) const {
    for (size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].layer->id == layer) return cardRect(i);
    return {};
}

QRect StackView::lampOf(const std::string& layer) const {
    return lampRect(cardOf(layer));
}

QRect StackView::barOf(const std::string& layer) const {
    const QRect card = cardOf(layer);
    return {card.left(), card.bottom() - 4, card.width(), 5};
}

void StackView::paintCard(QPainter& painter, const Row& row, const QRect& card) {
    const Theme& t = theme();
    const Layer& layer = *row.layer;
    const bool selected = document_->isInHand(layer.id);
    if (row.clipped) {
        // An elbow down to what it shows inside of.
        painter.setPen(QPen(t.softInk, 1.6));
        painter.drawPolyline(QPolygon({{card.left() - 3, card.center().y()},
                                       {card.left() - 9, card.center().y()},
                                       {card.left() - 9, card.bottom() + kGap}}));
    }
    QPainterPath shape;
    shape.addRoundedRect(QRectF(card).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    painter.fillPath(shape, selected ? t.accentWash : t.sheet);
    painter.setPen(QPen(selected ? t.accent : t.hairline, 1));
    painter.drawPath(shape);
    painter.save();
    painter.setClipPath(shape);
    painter.fillRect(QRectF(card.left(), card.bottom() - 2, card.width() * layer.opacity, 3),
                     layer.on ? t.accent : t.hairline);
    painter.restore();

    const QRect thumb(card.left() + 6, card.top() + 6, kThumb - 2, kThumb - 2);
    painter.fillRect(thumb, QColor(0x8b, 0x8b, 0x89));
    const auto image = thumbnails_.find(layer.id);
    if (image != thumbnails_.end() && image->second.miniature)
        painter.drawImage(thumb, image->second.miniature->image());

    painter.setOpacity(layer.on ? 1 : 0.45);
    const QRect words(thumb.right() + 9, card.top() + 5, card.width() - kThumb - 46, 17);
    painter.setFont(uiFont(12, 500));
    painter.setPen(t.ink);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(q(layer.name), Qt::ElideRight, words.width()));
    painter.setFont(uiFont(11));
    painter.setPen(t.softInk);
    painter.drawText(words.translated(0, 16), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(layerSummary(layer), Qt::ElideRight, words.width()));
    painter.setOpacity(1);

    const QRectF lamp = QRectF(lampRect(card)).adjusted(3, 3, -3, -3);
    painter.setPen(QPen(layer.on ? t.caution : t.softInk, 1.4));
    painter.setBrush(layer.on ? QColor(0xe6, 0xb8, 0x4a) : QColor(Qt::transparent));
    painter.drawEllipse(lamp);
    painter.setBrush(Qt::NoBrush);
}

void StackView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    for (size_t i = 0; i < rows_.size(); ++i) paintCard(painter, rows_[i], cardRect(i));
    if (grab_ == Grab::Card && target_.y >= 0)
        painter.fillRect(kSide, target_.y - 1, width() - 2 * kSide, 3, theme().accent);
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
        painter.drawRect(rect().adjusted(2, 1, -3, -2));
    }
}

const StackView::Row* StackView::rowAt(int y) const {
    for (size_t i = 0; i < rows_.size(); ++i) {
        const QRect card = cardRect(i);
        if (y >= card.top() - kGap / 2 && y <= card.bottom() + kGap / 2) return &rows_[i];
    }
    return nullptr;
}

/// Between two cards: in front of the lower one; on the middle of a group's card: into it.
StackView::Target StackView::targetAt(int y) const {
    for (size_t i = 0; i < rows_.size(); ++i) {
        const QRect card = cardRect(i);
        if (y < card.center().y()) return {rows_[i].group, rows_[i].index, card.top() - kGap / 2};
        if (rows_[i].layer->as<GroupContent>() && y < card.bottom() - 6)
            return {rows_[i].layer->id, 0, card.bottom()};
    }
    return {{},
            stackOf(*document_->shown(), document_->panel()).size(),
            rows_.empty() ? 0 : cardRect(rows_.size() - 1).bottom() + kGap / 2};
}

void StackView::mousePressEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    const Row* row = rowAt(at.y());
    if (!row) return document_->selectLayer({});
    const LayerPtr layer = row->layer;
    if (lampOf(layer->id).adjusted(-3, -3, 3, 3).contains(at)) return toggle(layer);
    if (event->button() == Qt::RightButton && document_->isInHand(layer->id)) return;
    if (event->modifiers() & Qt::ControlModifier) return document_->toggleLayer(layer->id);
    if (event->modifiers() & Qt::ShiftModifier) return selectThrough(layer->id);
    document_->selectLayer(layer->id);
    if (event->button() != Qt::LeftButton) return;
    grabbed_ = layer->id;
    pressY_ = at.y();
    grab_ = barOf(layer->id).adjusted(0, -3, 0, 2).contains(at) ? Grab::Bar : Grab::Card;
    target_ = {};
    if (grab_ == Grab::Bar) setOpacityFrom(at.x(), false);
}

/// From the layer in hand to that one, both included.
void StackView::selectThrough(const std::string& layer) {
    const auto at = [this](const std::string& id) {
        return std::find_if(rows_.begin(), rows_.end(), [&](const Row& r) { return r.layer->id == id; });
    };
    auto from = at(document_->layer()), to = at(layer);
    if (from == rows_.end()) return document_->selectLayer(layer);
    std::vector<std::string> ids;
    for (auto row = std::min(from, to); row <= std::max(from, to); ++row) ids.push_back(row->layer->id);
    document_->selectLayers(std::move(ids));
}

void StackView::mouseMoveEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    if (grab_ == Grab::Bar) setOpacityFrom(at.x(), false);
    if (grab_ == Grab::Card && std::abs(at.y() - pressY_) > 5) {
        target_ = targetAt(at.y());
        update();
    }
}

void StackView::mouseReleaseEvent(QMouseEvent* event) {
    const Grab grab = grab_;
    const Target target = target_;
    grab_ = Grab::None;
    target_ = {};
    update();
    if (grab == Grab::Bar) return setOpacityFrom(event->position().toPoint().x(), true);
    const LayerPtr layer = findLayer(stackOf(*document_->release(), document_->panel()), grabbed_);
    if (grab == Grab::Card && target.y >= 0 && layer)
        document_->edit(
            tr("Move %1 in the stack").arg(q(layer->name)),
            withMovedLayer(document_->release(), document_->panel(), grabbed_, target.group, target.index));
}

void StackView::setOpacityFrom(int x, bool settled) {
    const QRect bar = barOf(grabbed_);
    const LayerPtr layer = findLayer(stackOf(*document_->release(), document_->panel()), grabbed_);
    if (bar.isEmpty() || !layer) return;
    const double opacity =
        std::round(std::clamp(double(x - bar.left()) / std::max(1, bar.width() - 1), 0.0, 1.0) * 100) / 100;
    const ReleasePtr next = withChangedLayer(document_->release(), document_->panel(), grabbed_,
                                             [&](Layer& l) { l.opacity = opacity; });
    if (settled)
        document_->edit(tr("Opacity of %1 to %2 %").arg(q(layer->name)).arg(std::lround(opacity * 100)),
                        next);
    else
        document_->preview(next);
}

void StackView::toggle(const LayerPtr& layer) {
    document_->edit((layer->on ? tr("Hide %1") : tr("Show %1")).arg(q(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id,
                                     [](Layer& l) { l.on = !l.on; }));
}

void StackView::mouseDoubleClickEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    if (const Row* row = rowAt(at.y()); row && !lampOf(row->layer->id).contains(at)) rename(row->layer->id);
}

void StackView::rename(const std::string& id) {
    const LayerPtr layer = findLayer(stackOf(*document_->release(), document_->panel()), id);
    const QRect card = cardOf(id);
    if (!layer || nameEditor_) return;
    nameEditor_ = new QLineEdit(q(layer->name), this);
    nameEditor_->setAccessibleName(tr("Name of the layer"));
    nameEditor_->setGeometry(card.left() + kThumb + 8, card.top() + 4, card.width() - kThumb - 40, 24);
    nameEditor_->selectAll();
    nameEditor_->show();
    nameEditor_->setFocus();
    connect(nameEditor_, &QLineEdit::editingFinished, this, [this, id, editor = nameEditor_] {
        if (!nameEditor_) return;
        nameEditor_ = nullptr;
        const std::string name = editor->text().trimmed().toStdString();
        editor->deleteLater();
        const LayerPtr now = findLayer(stackOf(*document_->release(), document_->panel()), id);
        if (!name.empty() && now && now->name != name)
            document_->edit(tr("Rename %1").arg(q(now->name)),
                            withChangedLayer(document_->release(), document_->panel(), id,
                                             [&](Layer& l) { l.name = name; }));
    });
}

void StackView::keyPressEvent(QKeyEvent* event) {
    size_t at = rows_.size();
    for (size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].layer->id == document_->layer()) at = i;
    const bool has = at < rows_.size();
    if (event->modifiers() & Qt::ShiftModifier && has) {
        const size_t next = event->key() == Qt::Key_Down           ? std::min(at + 1, rows_.size() - 1)
                            : event->key() == Qt::Key_Up && at > 0 ? at - 1
                                                                   : at;
        if (next != at && !document_->isInHand(rows_[next].layer->id))
            return document_->toggleLayer(rows_[next].layer->id);
    }
    if (event->key() == Qt::Key_Down && !rows_.empty())
        return document_->selectLayer(rows_[has ? std::min(at + 1, rows_.size() - 1) : 0].layer->id);
    if (event->key() == Qt::Key_Up && !rows_.empty())
        return document_->selectLayer(rows_[has && at > 0 ? at - 1 : 0].layer->id);
    if (event->key() == Qt::Key_Space && has) return toggle(rows_[at].layer);
    if (event->key() == Qt::Key_F2 && has) return rename(rows_[at].layer->id);
    QWidget::keyPressEvent(event);
}

void StackView::contextMenuEvent(QContextMenuEvent* event) {
    // The window's Layer menu holds everything that can be done to a layer.
    if (auto* menu = window()->findChild<QMenu*>(QStringLiteral("layerMenu")))
        menu->popup(event->globalPos());
}

} // namespace glyptos
