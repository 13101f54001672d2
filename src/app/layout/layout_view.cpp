#include "app/layout/layout_view.h"

#include "app/hands/mend_work.h"
#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "base/text.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "render/lettering/spine_words.h"
#include "render/painting.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QScrollArea>
#include <QSignalBlocker>

namespace glyptos {
namespace {

constexpr int kFoldSteps = 1000; // of the slider

/// The picture of a panel that is meant to fill it: the one in hand, else the rearmost.
LayerPtr pictureToFit(const Stack& stack, const std::string& inHand) {
    if (LayerPtr layer = findLayer(stack, inHand); layer && layer->as<PictureContent>()) return layer;
    for (auto it = stack.rbegin(); it != stack.rend(); ++it)
        if ((*it)->as<PictureContent>()) return *it;
    return nullptr;
}

/// Bands of a panel as a mask of pixels.
PixelTiles bandTiles(const std::vector<Rect>& bands, double pixel) {
    Rect all;
    for (const Rect& band : bands) all = all.united(band);
    const IntRect area = pixelsAround(Affine::scaling(1 / pixel, 1 / pixel).mapBounds(all));
    AlphaMap cover(area.w, area.h);
    for (const Rect& band : bands) {
        const IntRect px =
            pixelsAround(Affine::scaling(1 / pixel, 1 / pixel).mapBounds(band)).intersected(area);
        for (int y = px.y; y < px.bottom(); ++y)
            std::fill_n(cover.values.begin() + ptrdiff_t(y - area.y) * area.w + (px.x - area.x), px.w,
                        uint8_t(255));
    }
    return *tilesOf(cover, area.x, area.y);
}

} // namespace

LayoutView::LayoutView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , bench_(new FlatBench(engine, service))
    , fold_(new FoldView(engine))
    , form_(new FormView(engine, service)) {
    form_->setParent(this);
    connect(form_, &FormView::formsChanged, this, &LayoutView::formsChanged);
    connect(form_, &FormView::refused, this, &LayoutView::refused);
    connect(form_, &FormView::done, this, [this](const QString& words) { sentence_->setWords(words); });
    bench_->setAccessibleName(tr("Flat sheet"));
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    all->addWidget(makeBench(), 1);
    sides_ = new QStackedWidget;
    sides_->setFixedWidth(316);
    sides_->addWidget(scrolling(makeForm()));
    sides_->addWidget(scrolling(form_->side()));
    all->addWidget(sides_);
    showFolded(false);
    connect(&watcher_, &QFutureWatcherBase::finished, this, [this] {
        if (auto verdicts = watcher_.future().result()) verdicts_ = std::move(*verdicts);
        if (again_) return judge();
        showVerdicts();
    });
    connect(&engine_, &Engine::pictureReady, this, &LayoutView::judge);
}

LayoutView::~LayoutView() {
    watcher_.waitForFinished();
}

QWidget* LayoutView::makeBench() {
    auto* side = new QWidget;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(14, 6, 14, 6);
    row->setSpacing(8);
    row->addWidget(flatWay_ = wordButton(tr("Flat"), tr("The sheet as it is printed and cut"), true));
    row->addWidget(foldedWay_ = wordButton(tr("Folded"), tr("The piece as it is held in the hand"), true));
    row->addWidget(
        formWay_ = wordButton(tr("Form"), tr("Its measures, panels, folds and holes, to be changed"), true));
    connect(flatWay_, &QToolButton::clicked, this, [this] { showWay(Way::Flat); });
    connect(foldedWay_, &QToolButton::clicked, this, [this] { showWay(Way::Folded); });
    connect(formWay_, &QToolButton::clicked, this, [this] { showWay(Way::Form); });
    row->addSpacing(12);
    row->addWidget(slider_ = new QSlider(Qt::Horizontal));
    slider_->setRange(0, kFoldSteps);
    slider_->setValue(kFoldSteps);
    slider_->setPageStep(kFoldSteps / 10);
    slider_->setFixedWidth(220);
    slider_->setAccessibleName(tr("How far it is folded"));
    connect(slider_, &QSlider::valueChanged, this, [this](int v) { fold_->setAt(double(v) / kFoldSteps); });
    packedWay_ = wordButton(tr("Packed"), tr("In its case or sleeve, with the pieces that go with it"), true);
    row->addWidget(packedWay_);
    connect(packedWay_, &QToolButton::toggled, fold_, &FoldView::setPacked);
    row->addWidget(sentence_ = new ElidedLabel, 1);
    connect(fold_, &FoldView::foldsChanged, this, &LayoutView::refreshFold);
    column->addLayout(row);
    column->addWidget(ways_ = new QStackedWidget, 1);
    ways_->addWidget(bench_);
    ways_->addWidget(fold_);
    ways_->addWidget(form_->bench());
    return side;
}

void LayoutView::showWay(Way way) {
    ways_->setCurrentIndex(int(way));
    sides_->setCurrentIndex(way == Way::Form ? 1 : 0);
    flatWay_->setChecked(way == Way::Flat);
    foldedWay_->setChecked(way == Way::Folded);
    formWay_->setChecked(way == Way::Form);
    refreshFold();
}

void LayoutView::refreshFold() {
    slider_->setVisible(isFolded());
    keyHead_->setVisible(!isFolded());
    key_->setVisible(!isFolded());
    const QSignalBlocker quiet(packedWay_);
    packedWay_->setChecked(fold_->isPacked());
    packedWay_->setVisible(isFolded() && fold_->package());
    slider_->setAccessibleName(fold_->isPacked() ? tr("How far it is packed") : tr("How far it is folded"));
    slider_->setEnabled(fold_->hasSteps());
    sentence_->setWords(
        isFolded() ? fold_->sentence()
        : way() == Way::Form
            ? tr("Drag parts, their edges and corners; they snap to each other and to the "
                 "printer's sheet. Arrow keys move by 0.1 mm, with Shift by 1.")
            : tr("Click a panel to take it in hand; drag with the middle button to move the sheet."));
}

QWidget* LayoutView::makeForm() {
    auto* side = new QWidget;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    column->addWidget(keyHead_ = heading(tr("Key to the lines")));
    column->addWidget(key_ = new LineKeySwitches(bench_, Qt::Vertical));
    column->addSpacing(8);
    column->addWidget(heading(tr("Panels")));
    column->addWidget(panelRows_ = new PanelRows);
    connect(panelRows_, &PanelRows::chosen, this, [this](const std::string& panel) {
        document_->selectPanel({document_->panel().piece, panel});
    });
    column->addSpacing(8);
    column->addWidget(seamHead_ = heading(tr("Seams")));
    column->addWidget(seamRows_ = new SeamRows);
    connect(seamRows_, &SeamRows::alignAsked, this, &LayoutView::align);
    column->addSpacing(8);
    column->addWidget(selected_ = heading(QString()));
    column->addWidget(selectedNote_ = roleLabel(QString(), "soft"));
    fit_ = new QPushButton(tr("Fit art to panel"));
    fit_->setToolTip(tr("Centres the picture in hand, or the rearmost one, and makes it just cover the panel "
                        "with its bleed"));
    auto* compose = new QPushButton(tr("Compose this panel"));
    connect(fit_, &QPushButton::clicked, this, &LayoutView::fitArt);
    connect(compose, &QPushButton::clicked, this, &LayoutView::composeAsked);
    column->addWidget(inOneRow({fit_, compose}));
    makeLengthening();
    column->addWidget(lengthen_);
    spine_ = new QPushButton(tr("Fit words to the spine"));
    spine_->setToolTip(
        tr("The words in hand, or the first ones, in the middle of the spine and as large as it "
           "lets them be; without any the artist and the title"));
    connect(spine_, &QPushButton::clicked, this, &LayoutView::setSpineWords);
    column->addWidget(spine_);
    column->addSpacing(8);
    column->addWidget(heading(tr("Form")));
    formRows_ = new QVBoxLayout;
    formRows_->setSpacing(6);
    column->addLayout(formRows_);
    column->addStretch();
    return side;
}

void LayoutView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    formOf_.clear();
    bench_->setDocument(document);
    fold_->setDocument(document);
    form_->setDocument(document);
    connect(document_, &Document::changed, this, &LayoutView::refresh);
    connect(document_, &Document::selectionChanged, this, &LayoutView::refresh);
    refresh();
}

void LayoutView::showEvent(QShowEvent*) {
    refresh();
}

void LayoutView::refresh() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece || !isVisible()) return;
    if (formOf_ != piece->id) rebuildForm();
    for (const auto& [id, field] : fields_) field->setValue(piece->flat->values.at(id));
    for (const auto& [id, combo] : choices_) {
        const int at = combo->findData(piece->flat->values.at(id));
        combo->setCurrentIndex(at);
        if (at < 0)
            combo->setPlaceholderText(QString::fromStdString(shortNumber(piece->flat->values.at(id))) +
                                      QStringLiteral(" mm"));
    }
    for (const auto& [id, sum] : piece->flat->working) {
        workings_.at(id)->setText(piece->values.contains(id)
                                      ? tr("set by hand; worked out it would be %1").arg(q(sum))
                                      : QStringLiteral("= ") + q(sum));
        QLineEdit& reason = *reasons_.at(id);
        reason.setVisible(piece->values.contains(id));
        const auto said = piece->reasons.find(id);
        if (!reason.hasFocus()) reason.setText(said == piece->reasons.end() ? QString() : q(said->second));
    }
    key_->setFlat(*piece->flat);
    judge();
    showVerdicts();
}

void LayoutView::judge() {
    judged_ = false;
    again_ = watcher_.isRunning();
    if (again_ || !document_ || !isVisible()) return;
    watcher_.setFuture(inBackground(
        [&renderer = engine_.renderer, release = document_->shown(), id = document_->panel().piece] {
            Verdicts out{release, id, {}, seamsOf(renderer, release, id)};
            if (const PiecePtr piece = release->piece(id))
                for (const Panel& panel : piece->flat->panels)
                    out.panels.emplace_back(panel.id, judgeArt(renderer, release, {id, panel.id}));
            return out;
        }));
}

QString LayoutView::verdictOf(const std::string& id) const {
    const PiecePtr piece = document_->piece();
    const Panel* panel = piece ? piece->flat->panel(id) : nullptr;
    if (verdicts_.release == document_->shown() && verdicts_.piece == document_->panel().piece)
        for (const auto& [name, cover] : verdicts_.panels)
            if (panel && name == id) return q(cover.sentence(*panel, piece->flat->unit));
    return {};
}

void LayoutView::showVerdicts() {
    const PiecePtr piece = document_->piece();
    if (!piece) return;
    judged_ =
        verdicts_.release == document_->shown() && verdicts_.piece == piece->id && !engine_.pictures.busy();
    panelRows_->show(*piece->flat, document_->panel().panel, [&](const Panel& panel) {
        bool good = false;
        for (const auto& [name, cover] : verdicts_.panels)
            good = good || (name == panel.id && cover.any && cover.shorts.empty());
        return PanelVerdict{verdictOf(panel.id), good};
    });
    showSeams();
    const Panel* here = document_->shownPanel();
    if (!here) return;
    selected_->setText(tr("In hand: %1").arg(q(here->name)).toUpper());
    const size_t layers = stackOf(*document_->shown(), document_->panel()).size();
    selectedNote_->setText(
        here->turn ? tr("Layers: %1; prints turned by %2° on the flat").arg(layers).arg(here->turn)
                   : tr("Layers: %1").arg(layers));
    const auto cover = coverInHand();
    lengthen_->setVisible(cover && cover->any && !cover->shorts.empty());
    spine_->setVisible(isSpine(*piece->flat, *here));
    fit_->setEnabled(
        bool(pictureToFit(stackOf(*document_->shown(), document_->panel()), document_->layer())));
}

/// Four ways to make art reach the bleed that ends before it.
void LayoutView::makeLengthening() {
    lengthen_ = wordButton(tr("Lengthen short art ▾"),
                           tr("Art that stops short of the bleed goes on beyond its edge"));
    lengthen_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(lengthen_);
    lengthen_->setMenu(menu);
    menu->addAction(tr("Mirrored at its edge"), this, [this] { lengthen(Lengthening::Mirrored); });
    menu->addAction(tr("Its last pixels drawn out"), this, [this] { lengthen(Lengthening::Smeared); });
    menu->addAction(tr("Mended from around"), this, &LayoutView::lengthenMending);
    menu->addAction(tr("In the colour of its edge"), this, &LayoutView::runColourOn);
    connect(&work_, &LongWork::failed, this, &LayoutView::refused);
}

std::optional<ArtCover> LayoutView::coverInHand() const {
    if (verdicts_.release != document_->release() || verdicts_.piece != document_->panel().piece)
        return std::nullopt;
    for (const auto& [name, cover] : verdicts_.panels)
        if (name == document_->panel().panel) return cover;
    return std::nullopt;
}

/// How far beyond its edges a picture must go on, a little more than was measured.
ShortBy LayoutView::shortBy(const ArtCover& cover) {
    constexpr double kMore = 0.2; // mm
    ShortBy by;
    for (const ShortEdge& edge : cover.shorts)
        (edge.edge == "left"    ? by.left
         : edge.edge == "right" ? by.right
         : edge.edge == "top"   ? by.top
                                : by.bottom) = edge.by + kMore;
    return by;
}

ReleasePtr LayoutView::lengthened(const ReleasePtr& release, const PanelRef& panel, const Layer& layer,
                                  const ShortBy& by, Lengthening how) {
    return withLengthened(release, panel, layer.id, by, how,
                          tr("%1, beyond its edge").arg(q(layer.name)).toStdString());
}

void LayoutView::lengthen(Lengthening how) {
    const auto cover = coverInHand();
    const LayerPtr layer =
        pictureToFit(stackOf(*document_->release(), document_->panel()), document_->layer());
    if (!cover || !layer) return;
    document_->edit(tr("Lengthen %1").arg(q(layer->name)),
                    lengthened(document_->release(), document_->panel(), *layer, shortBy(*cover), how));
}

/// Bands along the edges that are short, filled from what is beside them.
void LayoutView::lengthenMending() {
    const auto cover = coverInHand();
    const LayerPtr layer =
        pictureToFit(stackOf(*document_->release(), document_->panel()), document_->layer());
    const Panel* panel = document_->shownPanel();
    if (!cover || !layer || !panel) return;
    const double pixel = glyptos::paintPixel(*document_->piece()->flat);
    const Rect all = panel->withBleed();
    constexpr double kUnder = 0.3; // mm by which a band reaches under the art
    std::vector<Rect> bands;
    for (const ShortEdge& edge : cover->shorts) {
        const double by = edge.by + kUnder;
        bands.push_back(edge.edge == "left"    ? Rect{all.x, all.y, by, all.h}
                        : edge.edge == "right" ? Rect{all.right() - by, all.y, by, all.h}
                        : edge.edge == "top"   ? Rect{all.x, all.y, all.w, by}
                                               : Rect{all.x, all.bottom() - by, all.w, by});
    }
    const MendPlace place = mendPlace(document_->release(), document_->panel(), layer->id, pixel);
    work_.start(
        tr("Mending"),
        [place, bands, pixel, &engine = engine_](const WorkControl& control) {
            return filledFromAround(engine, place, bandTiles(bands, pixel), control);
        },
        [this, place, layer, by = shortBy(*cover)](const Mended& mended) {
            const auto made = withMend(document_->release(), place, mended);
            // Under the last part of a pixel, which a mend cannot fill, lies the mirror image.
            if (made)
                document_->edit(tr("Lengthen %1").arg(q(layer->name)),
                                lengthened(made->release, place.panel, *layer, by, Lengthening::Mirrored));
            else
                Q_EMIT refused(tr("What was to be lengthened was changed meanwhile; do it once more."));
        });
}

void LayoutView::runColourOn() {
    const auto cover = coverInHand();
    if (!cover) return;
    work_.start(
        tr("Looking at the edge"),
        [&engine = engine_, release = document_->release(), panel = document_->panel(),
         edges = cover->shorts](const WorkControl&) -> Result<std::optional<Rgba>> {
            return edgeColour(engine.renderer, release, panel, edges);
        },
        [this, panel = document_->panel()](const std::optional<Rgba>& colour) {
            if (!colour) return;
            Layer ground;
            ground.name = tr("Colour of the edge").toStdString();
            ground.content = FillContent{*colour};
            const Made made = withLayer(document_->release(), panel, std::move(ground));
            document_->edit(tr("Run the colour of the edge on"),
                            withOrder(made, panel, {made.id}, Nearer::Back));
        });
}

void LayoutView::fitArt() {
    const Panel* panel = document_->shownPanel();
    const LayerPtr layer =
        panel ? pictureToFit(stackOf(*document_->release(), document_->panel()), document_->layer())
              : nullptr;
    if (!layer) return;
    const auto* picture = layer->as<PictureContent>();
    const SourcePtr source = document_->release()->source(picture->source);
    if (!source) return;
    document_->edit(tr("Fit %1 to %2").arg(q(layer->name), q(panel->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id, [&](Layer& l) {
                        const Placement fitted = covering(panel->withBleed(), *source, picture->crop);
                        l.placement = {fitted.position,   fitted.scaleX,    fitted.scaleY, 0,
                                       l.placement.flipX, l.placement.flipY};
                    }));
}

void LayoutView::setSpineWords() {
    const Stack& stack = stackOf(*document_->release(), document_->panel());
    const auto areWords = [](const LayerPtr& l) { return l && l->as<TextContent>() && !l->locked; };
    LayerPtr layer = findLayer(stack, document_->layer());
    if (!areWords(layer)) {
        const auto first = std::find_if(stack.begin(), stack.end(), areWords);
        layer = first == stack.end() ? nullptr : *first;
    }
    document_->editMaking(tr("Fit words to the spine"),
                          withSpineWords(document_->release(), document_->panel(),
                                         layer ? layer->id : std::string(), engine_.renderer.paragraphs()));
}

/// Those of the piece as it was judged last; what aligns them waits until that is as it is now.
void LayoutView::showSeams() {
    const PiecePtr piece = document_->piece();
    const PiecePtr judged = verdicts_.release ? verdicts_.release->piece(piece->id) : nullptr;
    std::vector<Seam> seams;
    if (judged && verdicts_.piece == piece->id && judged->flat == piece->flat)
        std::copy_if(verdicts_.seams.begin(), verdicts_.seams.end(), std::back_inserter(seams),
                     [](const Seam& seam) { return seam.hasArt; });
    seamRows_->show(*piece->flat, seams);
    seamRows_->setEnabled(verdicts_.release == document_->release());
    seamHead_->setVisible(!seams.empty());
    seamRows_->setVisible(!seams.empty());
    bench_->setSeams(std::move(seams));
}

void LayoutView::align(const Seam& seam, const std::string& moving) {
    const PiecePtr piece = document_->piece();
    const Panel* panel = piece ? piece->flat->panel(moving) : nullptr;
    if (panel && verdicts_.release == document_->release()) // else it may have been aligned already
        document_->edit(
            tr("Align %1 at the fold").arg(q(panel->name)),
            withSeamAligned(document_->release(), {piece->id, moving}, seam, engine_.renderer.paragraphs()));
}

} // namespace glyptos
