#include "app/compose/compose_view.h"

#include "app/compose/bend_options.h"
#include "app/compose/knead_options.h"
#include "app/hands/all_hands.h"
#include "app/hands/mask_hand.h"
#include "app/hands/mend_hand.h"
#include "app/hands/select_hand.h"
#include "app/hands/slice_hand.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QVBoxLayout>

namespace glyptos {
namespace {

void addSnapSwitch(QMenu* menu, const QString& text, ComposeBench* bench, bool SnapOptions::*which) {
    QAction* made = menu->addAction(text);
    made->setCheckable(true);
    made->setChecked(true);
    QObject::connect(made, &QAction::toggled, bench, [=](bool on) {
        SnapOptions options = bench->snapOptions();
        options.*which = on;
        bench->setSnap(options);
    });
}

/// Where what is dragged comes to rest.
QToolButton* snapChoice(ComposeBench* bench) {
    QToolButton* button = wordButton(ComposeView::tr("Snaps to ▾"),
                                     ComposeView::tr("Where a layer that is dragged comes to rest"));
    button->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(button);
    addSnapSwitch(menu, ComposeView::tr("Centre, trim and safety"), bench, &SnapOptions::panel);
    addSnapSwitch(menu, ComposeView::tr("Other layers"), bench, &SnapOptions::layers);
    button->setMenu(menu);
    return button;
}

} // namespace

ComposeView::ComposeView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , looks_(engine.fonts)
    , bench_(new ComposeBench(engine, service)) {
    bench_->setHands(allHands(*bench_));
    bench_->setAcceptDrops(true);
    bench_->setAccessibleName(tr("Bench"));
    grid_ = new BenchGrid(engine, service, bench_);
    ladder_ = new SizeLadder(engine, service, grid_);
    ladder_->move(32, 32);
    scopes_ = new Scopes(engine, service, grid_);
    bar_ = new BenchBar(*grid_, *ladder_);
    blendSheet_ = new BlendSheet(engine, service, grid_);
    trying_ = new TrySheet(engine, service, looks_, grid_);
    framing_ = new FramingSheet(engine, *bench_);
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(makeHandBar());
    middle->addWidget(options_ = makeOptionBar());
    auto* work = new QHBoxLayout;
    work->setSpacing(0);
    work->addWidget(specimens_ = new SpecimenSheet(engine));
    work->addWidget(grid_, 1);
    middle->addLayout(work, 1);
    middle->addWidget(foot_ = new ComposeFoot(bench_, bar_));
    all->addLayout(middle, 1);
    all->addWidget(makeSide(engine, service));
    connect(bench_, &ComposeBench::handChanged, this, &ComposeView::refreshHand);
    connect(&painting_->board(), &BrushBoard::brushesRead, properties_, &PropertiesPanel::setBrushes);
    connect(properties_, &PropertiesPanel::maskLookChosen, bench_, &ComposeBench::setMaskLook);
    connect(properties_, &PropertiesPanel::replaceAsked, this, &ComposeView::replaceAsked);
    connect(properties_, &PropertiesPanel::framingAsked, this,
            [this] { framing_->open(framing_->document()->layer()); });
    connect(bench_, &ComposeBench::colourPicked, this, [this](const QColor& colour, bool taken) {
        sentence_->setWords(taken ? tr("%1, given to the layer in hand and copied.").arg(colour.name())
                                  : tr("%1, copied.").arg(colour.name()));
    });
    connect(bar_, &BenchBar::referenceAsked, this, &ComposeView::referenceAsked);
    connect(properties_, &PropertiesPanel::specimensAsked, specimens_, &SpecimenSheet::open);
    connect(properties_, &PropertiesPanel::briefAsked, this, &ComposeView::briefAsked);
    connect(properties_, &PropertiesPanel::blendSheetAsked, blendSheet_, &BlendSheet::open);
    connect(treatments_, &TreatmentsSection::sheetAsked, this,
            [this] { trying_->open(TrySheet::Page::Treatments, treatments_->current()); });
    connect(trying_, &TrySheet::taken, treatments_, &TreatmentsSection::choose);
    connect(treatments_, &TreatmentsSection::curvePointPickAsked, this, [this] {
        bench_->pickFor([this](const QColor& colour, Vec2 at) { treatments_->addCurvePoint(colour, at); });
    });
    connect(treatments_, &TreatmentsSection::colourPickAsked, this, [this](size_t figure) {
        bench_->pickFor(
            [this, figure](const QColor& colour, Vec2 at) { treatments_->setColour(figure, colour, at); });
    });
    connect(bench_, &ComposeBench::lookTablesArrived, treatments_, &TreatmentsSection::addTables);
    connect(treatments_, &TreatmentsSection::currentChanged, this, &ComposeView::refreshTreatments);
    connect(treatments_, &TreatmentsSection::beforeChosen, &bench_->treatments(), &TreatmentLens::setBefore);
    connect(treatments_, &TreatmentsSection::restToggled, bench_, &ComposeBench::setTreatmentsRest);
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
    key(QStringLiteral("W"), [this] {
        PieceAround& around = bench_->around();
        if (around.hasNeighbours())
            around.setAround(static_cast<Around>((int(around.around()) + 1) % (int(Around::Piece) + 1)));
    });
    key(QStringLiteral("Shift+T"), [this] { bar_->stepTake(-1); });
}

QWidget* ComposeView::makeHandBar() {
    auto* bar = new QWidget;
    bar->setFixedHeight(36);
    auto* words = new QHBoxLayout(bar);
    words->setContentsMargins(8, 3, 8, 3);
    words->setSpacing(0);
    bar->setMinimumWidth(240); // as below
    hands_ = new QButtonGroup(this);
    const std::tuple<Hand, QString, QString> hands[] = {
        {Hand::Move, tr("Move"), tr("Move, scale and turn layers (M)")},
        {Hand::Crop, tr("Crop"), tr("Choose which part of a picture shows (C)")},
        {Hand::Select, tr("Select"), tr("Select a part: a figure, a colour, a shape (E)")},
        {Hand::Mask, tr("Mask"), tr("Paint where the layer in hand shows (K)")},
        {Hand::Mend, tr("Mend"), tr("Fill from around, patch or copy along (N)")},
        {Hand::Slice, tr("Slice"), tr("Cut the layer in hand along lines (J)")},
        {Hand::Paint, tr("Paint"), tr("Paint with a brush, or draw lines that are kept (A)")},
        {Hand::Knead, tr("Knead"), tr("Push, spin, gather and spread the layer in hand (D)")},
        {Hand::Bend, tr("Bend"), tr("Bend it by a grid, or lay it down in perspective (G)")},
        {Hand::Letter, tr("Letter"), tr("Click where words should stand (L)")},
        {Hand::Shape, tr("Shape"), tr("Draw shapes, lines, paths and ornaments (S)")},
        {Hand::Fill, tr("Fill"), tr("Lay gradients, or fill areas between lines (F)")},
        {Hand::Pick, tr("Pick"), tr("Take a colour from the art or the reference (P)")}};
    for (const auto& [hand, text, why] : hands) {
        QToolButton* button = wordButton(text, why);
        button->setCheckable(true);
        hands_->addButton(button, int(hand));
        words->addWidget(button);
    }
    hands_->button(int(Hand::Move))->setChecked(true);
    connect(hands_, &QButtonGroup::idClicked, this,
            [this](int id) { bench_->setHand(static_cast<Hand>(id)); });
    words->addSpacing(10);
    words->addWidget(sentence_ = new ElidedLabel, 1);
    words->addWidget(snapping_ = snapChoice(bench_));
    return bar;
}

/// Under the verbs, for those that can be done in many ways, how the one in hand does it.
QWidget* ComposeView::makeOptionBar() {
    auto* bar = new QWidget;
    bar->setFixedHeight(34);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(17, 0, 12, 4);
    row->setSpacing(8);
    bar->setMinimumWidth(240); // what has no room is cut instead of widening the window
    row->addWidget(selecting_ = new SelectOptions(*bench_));
    row->addWidget(brushing_ = new BrushOptions(*bench_));
    row->addWidget(slicing_ = new SliceOptions(*bench_));
    row->addWidget(painting_ = new PaintOptions(*bench_));
    row->addWidget(kneading_ = new KneadOptions(*bench_));
    row->addWidget(bending_ = new BendOptions(*bench_));
    row->addWidget(filling_ = new FillOptions(*bench_));
    row->addWidget(shapes_ = new ShapeChoice(*bench_));
    row->addWidget(picking_ = new PickOptions(*bench_));
    row->addWidget(optionSentence_ = new ElidedLabel, 1);
    const auto mender = [this] { return static_cast<MendHand*>(&bench_->handOf(Hand::Mend)); };
    connect(selecting_, &SelectOptions::cutOutAsked, this,
            [this] { static_cast<SelectHand*>(&bench_->handOf(Hand::Select))->cutOut(); });
    connect(selecting_, &SelectOptions::mendAsked, this, [mender] { mender()->mendSelection(); });
    connect(selecting_, &SelectOptions::partOutAsked, this, [mender] { mender()->takePartOut(); });
    connect(slicing_, &SliceOptions::sliceAsked, this,
            [this] { static_cast<SliceHand*>(&bench_->handOf(Hand::Slice))->slice(); });
    const auto masker = [this] { return static_cast<MaskHand*>(&bench_->handOf(Hand::Mask)); };
    connect(brushing_, &BrushOptions::edgeAsked, this, [masker] { masker()->refineEdge(); });
    connect(brushing_, &BrushOptions::firmAsked, this, [masker] { masker()->firmEdge(); });
    connect(brushing_, &BrushOptions::mendSelectionAsked, this, [mender] { mender()->mendSelection(); });
    connect(brushing_, &BrushOptions::mendAgainAsked, this, [mender] { mender()->mendAgain(); });
    return bar;
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
    column->addWidget(makeFigures(engine, service), 1);
    return side;
}

/// Under the stack, of the layer in hand: its own figures, or what is done to it.
QWidget* ComposeView::makeFigures(Engine& engine, RenderService& service) {
    auto* foot = new QWidget;
    auto* column = new QVBoxLayout(foot);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(2);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(9, 0, 9, 0);
    head->setSpacing(4);
    figuresTab_ = wordButton(tr("Figures"), tr("Place, size, blend and mask of the layer in hand"), true);
    treatmentsTab_ = wordButton(tr("Treatments"), tr("What is done to the layer in hand, in order"), true);
    auto* group = new QButtonGroup(this);
    for (QToolButton* tab : {figuresTab_, treatmentsTab_}) {
        group->addButton(tab);
        head->addWidget(tab);
    }
    figuresTab_->setChecked(true);
    head->addStretch();
    head->addWidget(scopesSwitch_ = wordButton(tr("Scopes"), tr("What tones and colours there are"), true));
    connect(scopesSwitch_, &QToolButton::clicked, scopes_, &QWidget::setVisible);
    connect(scopes_, &Scopes::opened, scopesSwitch_, &QToolButton::setChecked);
    column->addLayout(head);
    sideFoot_ = new QStackedWidget;
    sideFoot_->addWidget(scrolling(properties_ = new PropertiesPanel(engine, service)));
    auto* page = new QWidget;
    auto* inside = new QVBoxLayout(page);
    inside->setContentsMargins(12, 6, 12, 10);
    inside->addWidget(treatments_ = new TreatmentsSection(engine, service, looks_));
    inside->addStretch();
    sideFoot_->addWidget(scrolling(page));
    column->addWidget(sideFoot_, 1);
    connect(treatmentsTab_, &QToolButton::toggled, this, &ComposeView::showTreatments);
    scopesSwitch_->hide();
    return foot;
}

void ComposeView::showTreatments(bool on) {
    (on ? treatmentsTab_ : figuresTab_)->setChecked(true);
    sideFoot_->setCurrentIndex(on ? 1 : 0);
    scopesSwitch_->setVisible(on);
    if (document_) refreshTreatments();
    // Curves need more room than figures do.
    auto* column = static_cast<QVBoxLayout*>(sideFoot_->parentWidget()->parentWidget()->layout());
    column->setStretchFactor(sideTop_, on ? 2 : 1);
    column->setStretchFactor(sideFoot_->parentWidget(), on ? 3 : 1);
    if (on) looks_.read();
}

/// How many there are stands on the tab, so that one sees it while the figures are shown.
void ComposeView::refreshTreatments() {
    const LayerPtr layer = document_->layers().size() == 1 ? document_->selectedLayer() : nullptr;
    const size_t count = layer && layer->treatments ? layer->treatments->size() : 0;
    treatmentsTab_->setText(count > 0 ? tr("Treatments · %1").arg(count) : tr("Treatments"));
    treatments_->showLayer(layer);
    bench_->treatments().setTreatment(sideFoot_->currentIndex() == 1 ? treatments_->current() : -1);
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
    trying_->setDocument(document);
    specimens_->setDocument(document);
    ladder_->setDocument(document);
    scopes_->setDocument(document);
    framing_->setDocument(document);
    bar_->setDocument(document);
    foot_->setDocument(document);
    history_->setDocument(document);
    stack_->setDocument(document);
    properties_->setDocument(document);
    treatments_->setDocument(document);
    connect(document_, &Document::changed, this, &ComposeView::refreshTreatments);
    connect(document_, &Document::selectionChanged, this, &ComposeView::refreshTreatments);
    refreshTreatments();
    connect(document_, &Document::changed, this, &ComposeView::refreshEmpty);
    connect(document_, &Document::selectionChanged, this, &ComposeView::refreshEmpty);
    connect(document_, &Document::selectionChanged, this, &ComposeView::showCardInHand, Qt::QueuedConnection);
    refreshEmpty();
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
    snapping_->setVisible(bench_->hand() == Hand::Move);
    bool hasOptions = false;
    const auto showFor = [&](QWidget* options, std::initializer_list<Hand> hands) {
        const bool isTheirs = std::find(hands.begin(), hands.end(), bench_->hand()) != hands.end();
        options->setVisible(isTheirs);
        hasOptions = hasOptions || isTheirs;
    };
    showFor(selecting_, {Hand::Select});
    showFor(brushing_, {Hand::Mask, Hand::Mend});
    showFor(slicing_, {Hand::Slice});
    showFor(painting_, {Hand::Paint});
    showFor(kneading_, {Hand::Knead});
    showFor(bending_, {Hand::Bend});
    showFor(filling_, {Hand::Fill});
    showFor(shapes_, {Hand::Shape});
    showFor(picking_, {Hand::Pick});
    options_->setVisible(hasOptions);
    // In the row that has more room.
    sentence_->setWords(hasOptions ? QString() : bench_->sentence());
    optionSentence_->setWords(hasOptions ? bench_->sentence() : QString());
    properties_->setFillInHand(bench_->hand() == Hand::Fill);
}

void ComposeView::refreshEmpty() {
    emptyNote_->setText(document_->piece()
                            ? tr("This panel has no art yet. Drop a picture on the bench, or:")
                            : tr("This release has no piece yet. Add one with “+ Piece” above."));
    empty_->setVisible(stackOf(*document_->shown(), document_->panel()).empty());
}

} // namespace glyptos
