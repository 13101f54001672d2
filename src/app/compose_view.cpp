#include "app/compose_view.h"

#include "app/line_key.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

QCheckBox* snapSwitch(const QString& text, ComposeBench* bench, bool SnapOptions::*which) {
    auto* box = new QCheckBox(text);
    box->setChecked(true);
    QObject::connect(box, &QCheckBox::toggled, bench, [=](bool on) {
        SnapOptions options = bench->snapOptions();
        options.*which = on;
        bench->setSnap(options);
    });
    return box;
}

} // namespace

ComposeView::ComposeView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , bench_(new ComposeBench(engine, service)) {
    bench_->setAcceptDrops(true);
    bench_->setAccessibleName(tr("Bench"));
    grid_ = new BenchGrid(engine, service, bench_);
    ladder_ = new SizeLadder(engine, service, grid_);
    ladder_->move(32, 32);
    bar_ = new BenchBar(*grid_, *ladder_);
    blendSheet_ = new BlendSheet(engine, service, grid_);
    framing_ = new FramingSheet(engine, *bench_);
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(makeHandBar());
    middle->addWidget(grid_, 1);
    middle->addWidget(makeFoot());
    all->addLayout(middle, 1);
    all->addWidget(makeSide(engine, service));
    connect(bench_, &ComposeBench::handChanged, this, &ComposeView::refreshHand);
    connect(bench_, &BenchView::zoomChanged, this, &ComposeView::refreshZoom);
    connect(properties_, &PropertiesPanel::maskLookChosen, bench_, &ComposeBench::setMaskLook);
    connect(properties_, &PropertiesPanel::replaceAsked, this, &ComposeView::replaceAsked);
    connect(properties_, &PropertiesPanel::framingAsked, this,
            [this] { framing_->open(framing_->document()->layer()); });
    connect(bench_, &ComposeBench::colourPicked, this, [this](const QColor& colour, bool taken) {
        sentence_->setText(taken ? tr("%1, given to the layer in hand and copied.").arg(colour.name())
                                 : tr("%1, copied.").arg(colour.name()));
    });
    connect(bar_, &BenchBar::referenceAsked, this, &ComposeView::referenceAsked);
    connect(properties_, &PropertiesPanel::blendSheetAsked, blendSheet_, &BlendSheet::open);
    makeKeys();
    refreshHand();
}

/// Letters that act wherever the focus is in this view, unless it is typed in.
void ComposeView::makeKeys() {
    const auto key = [this](const QString& keys, const std::function<void()>& run) {
        auto* made = new QAction(this);
        made->setShortcut(QKeySequence(keys));
        made->setShortcutContext(Qt::WidgetWithChildrenShortcut);
        connect(made, &QAction::triggered, this, run);
        addAction(made);
    };
    key(QStringLiteral("B"),
        [this] { blendSheet_->isVisible() ? blendSheet_->leave() : blendSheet_->open(); });
    key(QStringLiteral("T"), [this] { bar_->stepTake(1); });
    key(QStringLiteral("Shift+T"), [this] { bar_->stepTake(-1); });
}

QWidget* ComposeView::makeHandBar() {
    auto* bar = new QWidget;
    bar->setFixedHeight(66);
    auto* rows = new QVBoxLayout(bar);
    rows->setContentsMargins(12, 6, 12, 6);
    rows->setSpacing(2);
    auto* words = new QHBoxLayout;
    words->setSpacing(4);
    hands_ = new QButtonGroup(this);
    const std::tuple<Hand, QString, QString> hands[] = {
        {Hand::Move, tr("Move"), tr("Move, scale and turn layers (M)")},
        {Hand::Crop, tr("Crop"), tr("Choose which part of a picture shows (C)")},
        {Hand::Letter, tr("Letter"), tr("Click where words should stand (L)")},
        {Hand::Shape, tr("Shape"), tr("Draw shapes, lines, paths and ornaments (S)")},
        {Hand::Fill, tr("Fill"), tr("Lay gradients and move their colours (F)")},
        {Hand::Pick, tr("Pick colour"), tr("Take a colour from the art or the reference (P)")}};
    for (const auto& [hand, text, why] : hands) {
        QToolButton* button = wordButton(text, why);
        button->setCheckable(true);
        hands_->addButton(button, int(hand));
        words->addWidget(button);
    }
    hands_->button(int(Hand::Move))->setChecked(true);
    connect(hands_, &QButtonGroup::idClicked, this,
            [this](int id) { bench_->setHand(static_cast<Hand>(id)); });
    words->addStretch();
    auto* options = new QHBoxLayout;
    options->setSpacing(12);
    options->addWidget(sentence_ = roleLabel(QString(), "soft"));
    sentence_->setWordWrap(false);
    snapping_ = inOneRow({roleLabel(tr("It rests at"), "soft"),
                          snapSwitch(tr("centre, trim, safety"), bench_, &SnapOptions::panel),
                          snapSwitch(tr("other layers"), bench_, &SnapOptions::layers)});
    options->addWidget(snapping_);
    options->addWidget(shapes_ = new ShapeChoice(*bench_));
    options->addWidget(picking_ = new PickOptions(*bench_));
    options->addStretch();
    rows->addLayout(words);
    rows->addLayout(options);
    return bar;
}

QWidget* ComposeView::makeFoot() {
    auto* foot = new QWidget;
    foot->setFixedHeight(36);
    auto* row = new QHBoxLayout(foot);
    row->setContentsMargins(12, 2, 12, 2);
    row->setSpacing(6);
    panels_ = new QWidget;
    new QHBoxLayout(panels_);
    panels_->layout()->setContentsMargins(0, 0, 0, 0);
    row->addWidget(panels_);
    row->addStretch();
    row->addWidget(key_ = new LineKeySwitches(bench_, Qt::Horizontal));
    row->addSpacing(14);
    QToolButton* fit = wordButton(tr("Fit"), tr("Show all of it (Ctrl+0)"));
    QToolButton* actual = wordButton(tr("100 %"), tr("One pixel of the art on one of the screen"));
    connect(fit, &QToolButton::clicked, bench_, &BenchView::zoomToFit);
    connect(actual, &QToolButton::clicked, bench_, &BenchView::zoomToActualPixels);
    row->addWidget(fit);
    row->addWidget(actual);
    row->addWidget(zoom_ = roleLabel(QString(), "soft"));
    zoom_->setMinimumWidth(44);
    return foot;
}

QWidget* ComposeView::makeSide(Engine& engine, RenderService& service) {
    auto* side = new QWidget;
    side->setFixedWidth(300);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 10, 0, 0);
    column->setSpacing(4);
    column->addWidget(makeSideHead());
    empty_ = new QWidget;
    auto* emptyColumn = new QVBoxLayout(empty_);
    emptyColumn->addWidget(emptyNote_ = roleLabel(QString(), "soft"));
    auto* bring = new QPushButton(tr("Bring in a picture…"));
    bring->setProperty("role", "main");
    connect(bring, &QPushButton::clicked, this, &ComposeView::pictureAsked);
    emptyColumn->addWidget(bring);
    column->addWidget(empty_);
    sideTop_ = new QStackedWidget;
    sideTop_->addWidget(stackScroll_ = scrolling(stack_ = new StackView(engine, service)));
    sideTop_->addWidget(history_ = new HistoryView(engine, service));
    column->addWidget(sideTop_, 1);
    column->addWidget(scrolling(properties_ = new PropertiesPanel(engine)), 1);
    return side;
}

QWidget* ComposeView::makeSideHead() {
    auto* head = new QWidget;
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(9, 0, 9, 2);
    row->setSpacing(4);
    stackTab_ = wordButton(tr("Stack"), tr("The layers, front to back"));
    historyTab_ = wordButton(tr("Steps"), tr("All that was done in this session; a click goes there"));
    auto* group = new QButtonGroup(this);
    for (QToolButton* tab : {stackTab_, historyTab_}) {
        tab->setCheckable(true);
        group->addButton(tab);
        row->addWidget(tab);
    }
    stackTab_->setChecked(true);
    row->addStretch();
    auto* order = roleLabel(tr("front to back"), "soft");
    row->addWidget(order);
    connect(historyTab_, &QToolButton::toggled, this, &ComposeView::showHistory);
    connect(historyTab_, &QToolButton::toggled, order,
            [order](bool steps) { order->setText(steps ? tr("oldest first") : tr("front to back")); });
    return head;
}

void ComposeView::showHistory(bool on) {
    (on ? historyTab_ : stackTab_)->setChecked(true);
    sideTop_->setCurrentIndex(on ? 1 : 0);
}

void ComposeView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    bench_->setDocument(document);
    refreshHand();
    grid_->setDocument(document);
    blendSheet_->setDocument(document);
    ladder_->setDocument(document);
    framing_->setDocument(document);
    bar_->setDocument(document);
    history_->setDocument(document);
    stack_->setDocument(document);
    properties_->setDocument(document);
    connect(document_, &Document::changed, this, &ComposeView::refreshPanels);
    connect(document_, &Document::selectionChanged, this, &ComposeView::refreshPanels);
    connect(document_, &Document::selectionChanged, this, &ComposeView::showCardInHand, Qt::QueuedConnection);
    refreshPanels();
}

/// Queued, so that the stack has its new height by then.
void ComposeView::showCardInHand() {
    const QRect card = stack_->cardOf(document_->layer());
    if (!card.isEmpty()) stackScroll_->ensureVisible(card.center().x(), card.center().y(), 0, card.height());
}

void ComposeView::hideEvent(QHideEvent* event) {
    framing_->keep();
    QWidget::hideEvent(event);
}

void ComposeView::refreshHand() {
    hands_->button(int(bench_->hand()))->setChecked(true);
    sentence_->setText(bench_->sentence());
    snapping_->setVisible(bench_->hand() == Hand::Move);
    shapes_->setVisible(bench_->hand() == Hand::Shape);
    picking_->setVisible(bench_->hand() == Hand::Pick);
}

/// The panels of the piece, as words to choose from, when there are several.
void ComposeView::refreshPanels() {
    const PiecePtr piece = document_->piece();
    if (piece) key_->setFlat(*piece->flat, false);
    const bool nothing = stackOf(*document_->shown(), document_->panel()).empty();
    empty_->setVisible(nothing);
    emptyNote_->setText(piece ? tr("This panel has no art yet. Drop a picture on the bench, or:")
                              : tr("This release has no piece yet. Add one with “+ Piece” above."));
    QLayout* row = panels_->layout();
    const size_t count = piece && piece->flat->panels.size() > 1 ? piece->flat->panels.size() : 0;
    while (row->count() > int(count)) {
        QLayoutItem* item = row->takeAt(row->count() - 1);
        item->widget()->deleteLater();
        std::unique_ptr<QLayoutItem> gone(item);
    }
    for (size_t i = 0; i < count; ++i) {
        const Panel& panel = piece->flat->panels[i];
        if (row->count() <= int(i)) {
            QToolButton* made = wordButton({}, tr("Compose this panel"));
            made->setCheckable(true);
            connect(made, &QToolButton::clicked, this, [this, made] {
                document_->selectPanel(
                    {document_->panel().piece, made->property("panel").toString().toStdString()});
                refreshPanels();
            });
            row->addWidget(made);
        }
        auto* button = static_cast<QToolButton*>(row->itemAt(int(i))->widget());
        button->setText(QString::fromStdString(panel.name));
        button->setAccessibleName(tr("Panel %1").arg(button->text()));
        button->setProperty("panel", QString::fromStdString(panel.id));
        button->setChecked(panel.id == document_->panel().panel);
    }
}

void ComposeView::refreshZoom() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return;
    const double own = piece->flat->unit == Unit::Px ? 1 : pxPerMm({piece->flat->ppi});
    zoom_->setText(QStringLiteral("%1 %").arg(std::lround(bench_->zoom() * devicePixelRatioF() / own * 100)));
}

} // namespace glyptos
