#include "app/compose/compose_foot.h"

#include "app/widgets/form_rows.h"
#include "base/units.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QWidgetAction>
#include <cmath>

namespace glyptos {

ComposeFoot::ComposeFoot(ComposeBench* bench, BenchBar* bar)
    : bench_(bench)
    , bar_(bar) {
    setFixedHeight(30);
    setMinimumWidth(240); // what has no room folds instead of widening the window
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 1, 10, 1);
    row->setSpacing(6);
    panels_ = new QWidget;
    auto* panels = new QHBoxLayout(panels_);
    panels->setContentsMargins(0, 0, 0, 0);
    panels->setSpacing(1);
    row->addWidget(panels_);
    row->addWidget(bar_);
    row->addStretch();
    row->addWidget(key_ = new LineKeySwitches(bench, Qt::Horizontal));
    row->addWidget(lines_ = wordButton(tr("Lines ▾"), tr("What the lines mean, and which of them show")));
    lines_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(lines_);
    auto* inMenu = new QWidgetAction(menu);
    foldedKey_ = new LineKeySwitches(bench, Qt::Vertical);
    foldedKey_->setContentsMargins(12, 8, 12, 8);
    inMenu->setDefaultWidget(foldedKey_);
    menu->addAction(inMenu);
    lines_->setMenu(menu);
    QToolButton* fit = wordButton(tr("Fit"), tr("Show all of it (Ctrl+0)"));
    QToolButton* actual = wordButton(tr("100 %"), tr("One pixel of the art on one of the screen"));
    connect(fit, &QToolButton::clicked, bench, &BenchView::zoomToFit);
    connect(actual, &QToolButton::clicked, bench, &BenchView::zoomToActualPixels);
    row->addWidget(fit);
    row->addWidget(actual);
    row->addWidget(zoom_ = roleLabel(QString(), "soft"));
    zoom_->setWordWrap(false);
    zoom_->setMinimumWidth(40);
    connect(bench, &BenchView::zoomChanged, this, &ComposeFoot::refreshZoom);
}

void ComposeFoot::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &ComposeFoot::refreshPanels);
    connect(document_, &Document::selectionChanged, this, &ComposeFoot::refreshPanels);
    refreshPanels();
    refreshZoom();
}

void ComposeFoot::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fold();
}

void ComposeFoot::fold() {
    int others = 2 * 10;
    for (int i = 0; i < layout()->count(); ++i)
        if (QWidget* w = layout()->itemAt(i)->widget(); w && w != key_ && w != lines_ && !w->isHidden())
            others += w->sizeHint().width() + layout()->spacing();
    const int word = bar_->word()->isHidden() ? 0 : bar_->word()->sizeHint().width() + 4;
    const int needed = others + key_->sizeHint().width() + layout()->spacing();
    const bool room = needed - word <= width();
    key_->setVisible(room);
    lines_->setVisible(!room);
    bar_->word()->setVisible(!room || needed + (word ? 0 : bar_->word()->sizeHint().width() + 4) <= width());
}

QToolButton* ComposeFoot::makePanelButton() {
    QToolButton* made = wordButton({}, tr("Compose this panel"));
    made->setCheckable(true);
    connect(made, &QToolButton::clicked, this, [this, made] {
        document_->selectPanel({document_->panel().piece, made->property("panel").toString().toStdString()});
        refreshPanels();
    });
    return made;
}

/// The panels of the piece, as words to choose from, when there are several.
void ComposeFoot::refreshPanels() {
    const PiecePtr piece = document_->piece();
    if (piece)
        for (LineKeySwitches* key : {key_, foldedKey_}) key->setFlat(*piece->flat, false);
    QLayout* row = panels_->layout();
    const size_t count = piece && piece->flat->panels.size() > 1 ? piece->flat->panels.size() : 0;
    while (row->count() > int(count)) {
        const std::unique_ptr<QLayoutItem> gone(row->takeAt(row->count() - 1));
        gone->widget()->hide();
        gone->widget()->deleteLater();
    }
    for (size_t i = 0; i < count; ++i) {
        const Panel& panel = piece->flat->panels[i];
        if (row->count() <= int(i)) row->addWidget(makePanelButton());
        auto* button = static_cast<QToolButton*>(row->itemAt(int(i))->widget());
        button->setText(QString::fromStdString(panel.name));
        button->setAccessibleName(tr("Panel %1").arg(button->text()));
        button->setProperty("panel", QString::fromStdString(panel.id));
        button->setChecked(panel.id == document_->panel().panel);
    }
    panels_->setVisible(count > 0);
    layout()->activate();
    fold();
}

void ComposeFoot::refreshZoom() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return;
    const double own = piece->flat->unit == Unit::Px ? 1 : pxPerMm({piece->flat->ppi});
    zoom_->setText(QStringLiteral("%1 %").arg(std::lround(bench_->zoom() * devicePixelRatioF() / own * 100)));
}

} // namespace glyptos
