#include "app/compose/compose_foot.h"

#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "base/units.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QWidgetAction>
#include <cmath>

namespace glyptos {
namespace {

constexpr size_t kMostWords = 5; ///< panels that stand side by side as words

QString wordFor(Around around) {
    switch (around) {
    case Around::Neighbours:
        return ComposeFoot::tr("Among its neighbours");
    case Around::Piece:
        return ComposeFoot::tr("Whole piece");
    default:
        return ComposeFoot::tr("Panel alone");
    }
}

/// Three panels side by side, as that choice shows them.
QIcon iconFor(Around around) {
    constexpr int kWide = 26, kHigh = 14, kSide = 7, kFine = 3; // px; times as many pixels
    QPixmap picture(kWide * kFine, kHigh * kFine);
    picture.setDevicePixelRatio(kFine);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    for (int i = 0; i < 3; ++i) {
        const bool here = i == 1, shown = here || around != Around::Nothing;
        const QRectF box(1 + i * (kSide + 1.5), 2, kSide, kHigh - 4);
        const QColor colour = here || around == Around::Piece ? theme().ink : theme().hairline;
        if (shown)
            painter.fillRect(box, colour);
        else
            painter.fillRect(QRectF(box.x(), box.bottom() - 1, box.width(), 1), theme().hairline);
    }
    return picture;
}

} // namespace

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
    row->addWidget(list_ = new QComboBox);
    list_->setAccessibleName(tr("Panel"));
    list_->setToolTip(tr("Compose this panel"));
    connect(list_, &QComboBox::activated, this, [this](int i) {
        document_->selectPanel({document_->panel().piece, list_->itemData(i).toString().toStdString()});
    });
    row->addWidget(around_ = makeAroundButton());
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

QToolButton* ComposeFoot::makeAroundButton() {
    QToolButton* made = wordButton({}, tr("How much of the piece is seen round the panel in hand (W)"));
    made->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(made);
    made->setMenu(menu);
    made->setIconSize({26, 14});
    for (const Around around : {Around::Nothing, Around::Neighbours, Around::Piece})
        menu->addAction(iconFor(around), wordFor(around), this,
                        [this, around] { bench_->around().setAround(around); });
    connect(&bench_->around(), &PieceAround::changed, this, &ComposeFoot::refreshAround);
    return made;
}

void ComposeFoot::refreshAround() {
    around_->setIcon(iconFor(bench_->around().around()));
    around_->setAccessibleName(tr("Round the panel: %1").arg(wordFor(bench_->around().around())));
    fold();
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
        if (QWidget* w = layout()->itemAt(i)->widget();
            w && w != key_ && w != lines_ && w != around_ && !w->isHidden())
            others += w->sizeHint().width() + layout()->spacing();
    const int word = bar_->word()->isHidden() ? 0 : bar_->word()->sizeHint().width() + 4;
    const int needed = others + key_->sizeHint().width() + layout()->spacing();
    const bool room = needed - word <= width();
    // Before the words of the key go, that button does: what it does is in the View menu too.
    const bool roomForBoth = needed - word + around_->sizeHint().width() + layout()->spacing() <= width();
    around_->setVisible(bench_->around().hasNeighbours() && (!room || roomForBoth));
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
        for (LineKeySwitches* key : {key_, foldedKey_}) key->setFlat(*piece->flat, document_->shownPanel());
    QLayout* row = panels_->layout();
    const size_t all = piece ? piece->flat->places().size() : 0;
    const bool words = all > 1 && all <= kMostWords && piece->wraps.empty();
    const size_t count = words ? all : 0;
    refreshList(all > 1 && !words ? piece.get() : nullptr);
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
    refreshAround();
}

void ComposeFoot::refreshList(const Piece* piece) {
    list_->setVisible(piece != nullptr);
    if (!piece) return list_->clear();
    const std::vector<const Panel*> places = piece->flat->places();
    const auto nameOf = [&](const Panel& place) {
        const QString name = QString::fromStdString(place.name);
        return piece->wrap(place.id) ? tr("Over %1").arg(name) : name;
    };
    bool same = list_->count() == int(places.size());
    for (int i = 0; same && i < list_->count(); ++i)
        same = list_->itemData(i).toString() == QString::fromStdString(places[size_t(i)]->id) &&
               list_->itemText(i) == nameOf(*places[size_t(i)]);
    if (!same) {
        list_->clear();
        for (const Panel* place : places) list_->addItem(nameOf(*place), QString::fromStdString(place->id));
    }
    list_->setCurrentIndex(list_->findData(QString::fromStdString(document_->panel().panel)));
}

void ComposeFoot::refreshZoom() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return;
    const double own = piece->flat->unit == Unit::Px ? 1 : pxPerMm({piece->flat->ppi});
    zoom_->setText(QStringLiteral("%1 %").arg(std::lround(bench_->zoom() * devicePixelRatioF() / own * 100)));
}

} // namespace glyptos
