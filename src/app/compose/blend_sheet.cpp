#include "app/compose/blend_sheet.h"

#include "app/compose/sheet_cells.h"
#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

#include <QApplication>
#include <QKeyEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kHead = 44, kSide = 16, kGap = 8, kCaption = 20;

} // namespace

BlendSheet::BlendSheet(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {
    setAccessibleName(tr("Blend sheet"));
    title_ = heading(QString(), this);
    title_->setWordWrap(false);
    leave_ = new QToolButton(this);
    leave_->setText(tr("Leave it as it is"));
    leave_->setAccessibleName(leave_->text());
    connect(leave_, &QToolButton::clicked, this, &BlendSheet::leave);
    for (size_t i = 0; i < kBlendModeCount; ++i) {
        const auto mode = static_cast<BlendMode>(i);
        auto* button = new QToolButton(this);
        const auto& label = infoOf(mode).label;
        button->setText(QString::fromUtf8(label.data(), qsizetype(label.size())));
        button->setAccessibleName(button->text());
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setCheckable(true);
        button->setCursor(Qt::PointingHandCursor);
        button->installEventFilter(this);
        auto* miniature = new Miniature(service, this);
        connect(button, &QToolButton::clicked, this, [this, mode] { take(mode); });
        connect(miniature, &Miniature::arrived, this, [button, miniature] {
            QPixmap pixmap = QPixmap::fromImage(miniature->image());
            button->setIcon(QIcon(pixmap));
        });
        cells_[i] = {button, miniature};
    }
    parent->installEventFilter(this);
    connect(&engine, &Engine::pictureReady, this, &BlendSheet::ask);
    hide();
}

void BlendSheet::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &BlendSheet::ask);
    connect(document_, &Document::selectionChanged, this, [this] { canOpen() ? ask() : hide(); });
    hide();
}

void BlendSheet::open() {
    if (!canOpen()) return;
    before_ = QApplication::focusWidget();
    show();
    raise();
    arrange();
    ask();
    cell(document_->selectedLayer()->blend)->setFocus();
}

bool BlendSheet::canOpen() const {
    const LayerPtr layer =
        document_ && document_->layers().size() == 1 ? document_->selectedLayer() : nullptr;
    return layer && !layer->locked;
}

void BlendSheet::leave() {
    hide();
    if (before_) before_->setFocus();
}

/// As many columns as make the miniatures largest.
void BlendSheet::arrange() {
    if (!isVisible()) return;
    setGeometry(parentWidget()->rect());
    const Rect shown = area();
    const double wide = shown.empty() ? 1 : shown.w / shown.h;
    const auto sizeFor = [&](int columns) {
        const int rows = (int(kBlendModeCount) + columns - 1) / columns;
        const double w = double(width() - 2 * kSide + kGap) / columns - kGap - 18,
                     h = double(height() - kHead - kSide + kGap) / rows - kGap - kCaption - 14;
        return std::min(w, h * wide);
    };
    for (int columns = 1; columns <= int(kBlendModeCount); ++columns)
        if (sizeFor(columns) > sizeFor(columns_) + 0.5) columns_ = columns;
    const int rows = (int(kBlendModeCount) + columns_ - 1) / columns_;
    const double w = double(width() - 2 * kSide + kGap) / columns_,
                 h = double(height() - kHead - kSide + kGap) / rows;
    const QSize icon(std::max(16, int(sizeFor(columns_))), std::max(16, int(sizeFor(columns_) / wide)));
    for (size_t i = 0; i < kBlendModeCount; ++i) {
        const int column = int(i) % columns_, row = int(i) / columns_;
        cells_[i].button->setIconSize(icon);
        cells_[i].button->setGeometry(kSide + int(column * w), kHead + int(row * h), int(w) - kGap,
                                      int(h) - kGap);
    }
    leave_->adjustSize();
    leave_->move(width() - leave_->width() - kSide, 9);
    title_->setGeometry(kSide, 12, leave_->x() - 2 * kSide, 20);
}

Rect BlendSheet::area() const {
    return document_ ? roundTheLayer(*document_, engine_) : Rect{};
}

void BlendSheet::ask() {
    const LayerPtr layer = document_ && isVisible() ? document_->selectedLayer() : nullptr;
    if (!layer) return;
    const Rect shown = area();
    const double ratio = devicePixelRatioF();
    title_->setText(tr("%1 in every mode").arg(QString::fromStdString(layer->name)).toUpper());
    for (size_t i = 0; i < kBlendModeCount; ++i) {
        const auto mode = static_cast<BlendMode>(i);
        cells_[i].button->setChecked(mode == layer->blend);
        const ReleasePtr tried = withChangedLayer(document_->shown(), document_->panel(), layer->id,
                                                  [=](Layer& l) { l.blend = mode; });
        auto [scene, region] =
            fittedScene(tried, document_->panel(), shown, QSizeF(cells_[i].button->iconSize()) * ratio);
        scene.inHand = layer->id;
        cells_[i].miniature->ask(1, std::move(scene), region);
    }
}

void BlendSheet::take(BlendMode mode) {
    const LayerPtr layer = document_->selectedLayer();
    leave();
    if (!layer) return;
    document_->edit(tr("Blend %1").arg(QString::fromStdString(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id,
                                     [=](Layer& l) { l.blend = mode; }));
}

void BlendSheet::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape || event->key() == Qt::Key_B) return leave();
    QWidget::keyPressEvent(event);
}

void BlendSheet::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), theme().paper);
}

bool BlendSheet::eventFilter(QObject* watched, QEvent* event) {
    if (watched == parentWidget()) {
        if (event->type() == QEvent::Resize && isVisible()) arrange(), ask();
        return false;
    }
    std::vector<QToolButton*> buttons;
    for (const Cell& cell : cells_) buttons.push_back(cell.button);
    return cellByKey(watched, event, buttons, columns_) != nullptr;
}

} // namespace glyptos
