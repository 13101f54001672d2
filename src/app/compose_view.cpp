#include "app/compose_view.h"

#include "app/line_key.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

QToolButton* word(const QString& text, const QString& why) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setToolTip(why);
    button->setAccessibleName(text);
    button->setCursor(Qt::PointingHandCursor);
    return button;
}

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
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(makeHandBar());
    middle->addWidget(bench_, 1);
    middle->addWidget(makeFoot());
    all->addLayout(middle, 1);
    all->addWidget(makeSide(engine, service));
    connect(bench_, &ComposeBench::handChanged, this, &ComposeView::refreshHand);
    connect(bench_, &BenchView::zoomChanged, this, &ComposeView::refreshZoom);
    connect(properties_, &PropertiesPanel::maskLookChosen, bench_, &ComposeBench::setMaskLook);
    connect(properties_, &PropertiesPanel::replaceAsked, this, &ComposeView::replaceAsked);
    connect(bench_, &ComposeBench::colourPicked, this, [this](const QColor& colour, bool taken) {
        sentence_->setText(taken ? tr("%1, given to the layer in hand and copied.").arg(colour.name())
                                 : tr("%1, copied.").arg(colour.name()));
    });
    refreshHand();
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
        QToolButton* button = word(text, why);
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
    QToolButton* fit = word(tr("Fit"), tr("Show all of it (Ctrl+0)"));
    QToolButton* actual = word(tr("100 %"), tr("One pixel of the art on one of the screen"));
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
    auto* top = heading(tr("Stack · front to back"));
    top->setContentsMargins(12, 0, 0, 0);
    column->addWidget(top);
    empty_ = new QWidget;
    auto* emptyColumn = new QVBoxLayout(empty_);
    emptyColumn->addWidget(emptyNote_ = roleLabel(QString(), "soft"));
    auto* bring = new QPushButton(tr("Bring in a picture…"));
    bring->setProperty("role", "main");
    connect(bring, &QPushButton::clicked, this, &ComposeView::pictureAsked);
    emptyColumn->addWidget(bring);
    column->addWidget(empty_);
    column->addWidget(stackScroll_ = scrolling(stack_ = new StackView(engine, service)), 1);
    column->addWidget(scrolling(properties_ = new PropertiesPanel(engine)), 1);
    return side;
}

void ComposeView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    bench_->setDocument(document);
    refreshHand();
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

void ComposeView::refreshHand() {
    hands_->button(int(bench_->hand()))->setChecked(true);
    sentence_->setText(bench_->sentence());
    snapping_->setVisible(bench_->hand() == Hand::Move);
    shapes_->setVisible(bench_->hand() == Hand::Shape);
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
            QToolButton* made = word({}, tr("Compose this panel"));
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
