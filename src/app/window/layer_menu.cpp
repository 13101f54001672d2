#include "app/window/layer_menu.h"

#include "app/compose/ghosts_sheet.h"
#include "app/figures/treatment_figures.h"
#include "app/letter/which_face_sheet.h"
#include "app/session/engine.h"
#include "app/session/settled_pictures.h"
#include "app/session/words.h"
#include "app/widgets/layer_words.h"
#include "release/code_size.h"
#include "release/edits/edits.h"
#include "release/edits/light_edits.h"
#include "release/placing.h"
#include "render/arrange.h"
#include "render/mending.h"
#include "vision/select/alpha_edges.h"

namespace glyptos {
LayerMenu::LayerMenu(Engine& engine, ComposeView& view, QWidget* parent)
    : QMenu(tr("&Layer"), parent)
    , engine_(engine)
    , view_(view) {
    setObjectName(QStringLiteral("layerMenu"));
    makeAdding();
    makeLight();
    addMenu(letters_ = new LetterMenu(engine, view, this));
    addMenu(panels_ = new PanelMenu(&view));
    entry(this, tr("Which face is this?…"), {}, [this] { askFace(); });
    addSeparator();
    makeCopying();
    addSeparator();
    makeGrouping();
    addSeparator();
    makeArranging();
}

void LayerMenu::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    letters_->setDocument(document);
    panels_->setDocument(document);
    connect(document_, &Document::selectionChanged, this, &LayerMenu::refresh);
    connect(document_, &Document::changed, this, &LayerMenu::refresh);
    refresh();
}

void LayerMenu::setActive(bool active) {
    active_ = active;
    refresh();
}

void LayerMenu::refresh() {
    for (const auto& [action, least] : needing_)
        action->setEnabled(active_ && document_ && int(document_->layers().size()) >= least);
    if (!document_) return;
    const LayerPtr layer = document_->selectedLayer();
    dissolve_->setEnabled(dissolve_->isEnabled() && holdsGroup());
    clip_->setText(layer && layer->clipped ? tr("No longer inside the layer below")
                                           : tr("Only inside the layer below"));
    lock_->setText(layer && layer->locked ? tr("Unlock") : tr("Lock"));
}

bool LayerMenu::holdsGroup() const {
    const Stack& stack = stackOf(*document_->shown(), document_->panel());
    return std::any_of(document_->layers().begin(), document_->layers().end(), [&](const std::string& id) {
        const LayerPtr layer = findLayer(stack, id);
        return layer && layer->as<GroupContent>();
    });
}

QString LayerMenu::what() const {
    const LayerPtr layer = document_->selectedLayer();
    return document_->layers().size() == 1 && layer ? q(layer->name)
                                                    : tr("%1 layers").arg(document_->layers().size());
}

QAction* LayerMenu::entry(QMenu* menu, const QString& text, const QKeySequence& keys,
                          std::function<void()> run) {
    QAction* made = menu->addAction(text);
    if (!keys.isEmpty()) {
        // Letters are keys of the Compose view alone, so that they can be typed elsewhere.
        made->setShortcut(keys);
        made->setShortcutContext(Qt::WidgetWithChildrenShortcut);
        view_.addAction(made);
    }
    connect(made, &QAction::triggered, this, std::move(run));
    return made;
}

QAction* LayerMenu::onLayers(QMenu* menu, const Wording& says, int least, Edit edit) {
    QAction* made = entry(menu, says.text, says.keys, [this, name = says.name, edit = std::move(edit)] {
        std::vector<std::string> inHand;
        const QString step = name.contains(QStringLiteral("%1")) ? name.arg(what()) : name;
        document_->edit(step, edit(document_->release(), inHand));
        const Stack& stack = stackOf(*document_->release(), document_->panel());
        std::erase_if(inHand, [&](const std::string& id) { return !findLayer(stack, id); });
        if (!inHand.empty()) document_->selectLayers(std::move(inHand));
    });
    needing_.emplace_back(made, least);
    return made;
}

QAction* LayerMenu::onSwitch(const QKeySequence& keys, bool Layer::*flag, const QString& on,
                             const QString& off) {
    QAction* made = entry(this, {}, keys, [=, this] {
        const LayerPtr first = document_->selectedLayer();
        if (!first) return;
        const bool to = !(first.get()->*flag);
        ReleasePtr next = document_->release();
        for (const std::string& id : document_->layers())
            next = withChangedLayer(next, document_->panel(), id, [=](Layer& l) { l.*flag = to; });
        document_->edit((to ? on : off).arg(what()), next);
    });
    needing_.emplace_back(made, 1);
    return made;
}

void LayerMenu::add(const QString& name, Layer layer) {
    if (!document_->piece()) return;
    document_->editMaking(
        name, withLayer(document_->release(), document_->panel(), std::move(layer), document_->layer()));
    Q_EMIT composeAsked();
}

void LayerMenu::makeAdding() {
    entry(this, tr("Add words"), {}, [this] {
        Q_EMIT composeAsked();
        view_.bench()->setHand(Hand::Letter);
    });
    QMenu* fields = addMenu(tr("Add from the brief"));
    for (const FieldInfo& field : textFields())
        entry(fields, q(std::string(field.label)), {}, [this, &field] {
            Q_EMIT composeAsked();
            view_.bench()->addField(field);
        });
    entry(this, tr("Add a shape"), {}, [this] {
        Q_EMIT composeAsked();
        view_.bench()->setHand(Hand::Shape);
    });
    entry(this, tr("Add a fill"), {}, [this] {
        Layer layer;
        layer.name = tr("Fill").toStdString();
        layer.content = FillContent{Rgba{0.07f, 0.15f, 0.18f, 1}};
        add(tr("Add a fill"), std::move(layer));
    });
    QMenu* codes = addMenu(tr("Add a code"));
    for (const CodeKind kind : {CodeKind::Ean13, CodeKind::UpcA, CodeKind::Qr})
        entry(codes, codeWord(kind), {}, [this, kind] { addCode(kind); });
    entry(this, tr("Add small print"), {}, [this] {
        Q_EMIT composeAsked();
        view_.bench()->words().addSmallPrint();
    });
    QMenu* grades = addMenu(tr("Add a grade of all below"));
    for (const TreatmentKind* kind : treatmentKinds())
        if (kind->family == TreatmentFamily::Grade)
            entry(grades, treatmentWord(kind->title), {}, [this, kind] { addGrade(*kind); });
    QMenu* echoes = addMenu(tr("Add an echo of"));
    connect(echoes, &QMenu::aboutToShow, this, [this, echoes] { fillEchoes(echoes); });
}

void LayerMenu::addCode(CodeKind kind) {
    const Panel* panel = document_->shownPanel();
    if (!panel) return;
    add(tr("Add a code"),
        codeFor(*panel, kind, document_->piece()->flat->unit, codeWord(kind).toStdString()));
}

void LayerMenu::addGrade(const TreatmentKind& kind) {
    Layer layer;
    layer.name = treatmentWord(kind.title).toStdString();
    layer.content = GradeContent{};
    layer.treatments = std::make_shared<const Treatments>(Treatments{newTreatment(kind, 1)});
    add(tr("Add a grade: %1").arg(q(layer.name)), std::move(layer));
    view_.showTreatments(true);
}

/// In the picture in hand, else in the reference of the panel.
void LayerMenu::askFace() {
    const LayerPtr layer = document_->selectedLayer();
    const auto* picture = layer ? layer->as<PictureContent>() : nullptr;
    std::string source = picture ? picture->source : std::string();
    if (const PiecePtr piece = document_->piece(); piece && source.empty())
        if (const auto reference = piece->references.find(document_->panel().panel);
            reference != piece->references.end())
            source = reference->second.source;
    (new WhichFaceSheet(engine_, *document_, source, &view_))->open();
}

/// Light as layers and masks of their own.
void LayerMenu::makeLight() {
    QMenu* menu = addMenu(tr("Light"));
    needing_.emplace_back(entry(menu, tr("Fade its edges"), {},
                                [this] {
                                    constexpr double kWidth = 0.14; // of the shorter side
                                    const Panel* panel = document_->shownPanel();
                                    if (!panel) return;
                                    const Rect area = panel->withBleed();
                                    document_->editMaking(tr("Fade the edges of %1").arg(what()),
                                                          withFadedEdges(document_->release(),
                                                                         document_->panel(),
                                                                         document_->layer(), area,
                                                                         kWidth * std::min(area.w, area.h)));
                                }),
                          1);
    entry(menu, tr("Darken the corners"), {}, [this] {
        const Panel* panel = document_->shownPanel();
        if (!panel) return;
        add(tr("Darken the corners"), darkCorners(panel->withBleed(), Ink{0.05f, 0.06f, 0.1f, 1}));
    });
    needing_.emplace_back(entry(menu, tr("Glow round it"), {}, [this] { glow(); }), 1);
}

void LayerMenu::glow() {
    constexpr double kWidth = 0.06; // of the longer side
    const LayerPtr one = document_->selectedLayer();
    ComposeBench& bench = *view_.bench();
    if (!one || !bench.panel()) return;
    const double pixel = bench.paintPixel(),
                 width = kWidth * std::max(bench.panel()->width, bench.panel()->height);
    bench.work().start(
        tr("Looking where %1 is").arg(q(one->name)),
        [scene = sceneAlone(document_->release(), document_->panel(), *one, pixel), &engine = engine_, width,
         pixel](WorkControl& control) -> Result<PixelTilesPtr> {
            const IntRect bounds = scene.bounds();
            const auto shown = settledRendering(engine, scene, bounds, control);
            if (!shown) return cancelled();
            AlphaMap cover(shown->width, shown->height);
            for (size_t i = 0; i < cover.values.size(); ++i)
                cover.values[i] = shown->row<uint8_t>(0)[4 * i + 3];
            return tilesOf(grown(cover, width / pixel / 4), bounds.x, bounds.y);
        },
        [this, id = one->id, panel = document_->panel(), name = q(one->name), pixel,
         width](const PixelTilesPtr& cover) {
            document_->editMaking(
                tr("Glow round %1").arg(name),
                withGlow(document_->release(), panel, id, cover, pixel, width, Ink{1, 0.86f, 0.6f, 1}));
        });
}

/// Every panel of the set, and each whole flat that has several.
void LayerMenu::fillEchoes(QMenu* menu) {
    menu->clear();
    const auto echo = [this](const QString& name, EchoContent content) {
        const Panel* here = document_->shownPanel();
        const auto frame = echoFrame(content, *document_->release());
        if (!here || !frame) return;
        const Rect room = here->trim();
        Layer layer;
        layer.name = tr("Echo of %1").arg(name).toStdString();
        layer.placement.position = room.centre();
        layer.placement.scaleX = layer.placement.scaleY =
            0.6 * std::min(room.w / frame->w, room.h / frame->h);
        layer.content = std::move(content);
        const auto made =
            withEcho(document_->release(), document_->panel(), std::move(layer), document_->layer());
        document_->editMaking(tr("Add an echo of %1").arg(name), made);
        if (!made) return;
        Q_EMIT composeAsked();
    };
    for (const PiecePtr& piece : document_->release()->pieces) {
        QMenu* panels = menu->addMenu(q(piece->name));
        for (const Panel& panel : piece->flat->panels)
            for (const auto& take : piece->takes) {
                const bool several = piece->takes.size() > 1;
                const QString name =
                    several ? tr("%1, take %2").arg(q(panel.name), q(take->id)) : q(panel.name);
                panels->addAction(name, this, [=, p = piece->id, id = panel.id, t = several ? take->id : ""] {
                    echo(q(piece->name) + QStringLiteral(", ") + name, {p, id, t, false});
                });
            }
        if (piece->flat->panels.size() > 1)
            panels->addAction(tr("Whole flat"), this, [=, p = piece->id] {
                echo(q(piece->name), {p, {}, {}, false});
            });
    }
}

void LayerMenu::fillTakes(QMenu* menu) {
    menu->clear();
    const PiecePtr piece = document_->piece();
    if (!piece) return;
    for (const auto& take : piece->takes) {
        if (take->id == piece->take().id) continue;
        menu->addAction(tr("Take %1").arg(q(take->id)), this, [this, id = take->id] {
            ReleasePtr next = document_->release();
            for (const std::string& layer : document_->layers())
                next = withLayerInTake(next, document_->panel(), layer, id);
            document_->edit(tr("Copy %1 to take %2").arg(what(), q(id)), next);
        });
    }
    if (menu->isEmpty()) menu->addAction(tr("There is one take only"))->setEnabled(false);
}

void LayerMenu::makeCopying() {
    onLayers(this, {tr("Duplicate"), tr("Duplicate %1"), QKeySequence(tr("Ctrl+D"))}, 1,
             [this](ReleasePtr next, std::vector<std::string>& inHand) -> Result<ReleasePtr> {
                 for (const std::string& id : document_->layers()) {
                     const Made copy = withDuplicate(next, document_->panel(), id);
                     inHand.push_back(copy.id);
                     next = copy;
                 }
                 return next;
             });
    needing_.emplace_back(
        entry(this, tr("Ghosts…"), {},
              [this] { (new GhostsSheet(*document_, view_.bench()->panel(), &view_))->open(); }),
        1);
    QMenu* takes = addMenu(tr("Copy to take"));
    connect(takes, &QMenu::aboutToShow, this, [this, takes] { fillTakes(takes); });
    needing_.emplace_back(takes->menuAction(), 1);
}

void LayerMenu::makeGrouping() {
    onLayers(this, {tr("Group"), tr("Group %1"), QKeySequence(tr("Ctrl+G"))}, 1,
             [this](const ReleasePtr& release, std::vector<std::string>& inHand) -> Result<ReleasePtr> {
                 const auto made = withGrouped(release, document_->panel(), document_->layers());
                 if (made) inHand.push_back(made->id);
                 return made;
             });
    dissolve_ = onLayers(this, {tr("Ungroup"), tr("Ungroup %1"), QKeySequence(tr("Ctrl+Shift+G"))}, 1,
                         [this](ReleasePtr next, std::vector<std::string>& inHand) -> Result<ReleasePtr> {
                             const Stack& stack = stackOf(*next, document_->panel());
                             for (const std::string& id : document_->layers()) {
                                 const LayerPtr layer = findLayer(stack, id);
                                 if (const auto* group = layer ? layer->as<GroupContent>() : nullptr)
                                     for (const LayerPtr& inside : group->layers)
                                         inHand.push_back(inside->id);
                             }
                             for (const std::string& id : document_->layers())
                                 next = withUngrouped(next, document_->panel(), id);
                             return next;
                         });
    clip_ = onSwitch(QKeySequence(tr("I")), &Layer::clipped, tr("Clip %1"), tr("Unclip %1"));
    lock_ = onSwitch(QKeySequence(tr("Ctrl+L")), &Layer::locked, tr("Lock %1"), tr("Unlock %1"));
    needing_.emplace_back(entry(this, tr("Rename"), QKeySequence(tr("F2")),
                                [this] { view_.stack()->rename(document_->layer()); }),
                          1);
    const std::tuple<QString, QString, Nearer> orders[] = {
        {tr("To the front"), tr("Ctrl+Shift+Up"), Nearer::Front},
        {tr("One forward"), tr("Ctrl+Up"), Nearer::OneForward},
        {tr("One back"), tr("Ctrl+Down"), Nearer::OneBack},
        {tr("To the back"), tr("Ctrl+Shift+Down"), Nearer::Back}};
    QMenu* order = addMenu(tr("Order"));
    for (const auto& [text, keys, where] : orders)
        onLayers(order, {text, tr("Order of %1"), QKeySequence(keys)}, 1,
                 [this, where = where](const ReleasePtr& release,
                                       std::vector<std::string>&) -> Result<ReleasePtr> {
                     return withOrder(release, document_->panel(), document_->layers(), where);
                 });
    onLayers(this, {tr("Remove"), tr("Remove %1"), QKeySequence::Delete}, 1,
             [this](ReleasePtr next, std::vector<std::string>&) -> Result<ReleasePtr> {
                 for (const std::string& id : document_->layers())
                     next = withoutLayer(next, document_->panel(), id);
                 return next;
             });
}

PanelLayers LayerMenu::inHand() const {
    return {document_->panel(), document_->layers()};
}

Rect LayerMenu::areaOf(ArrangeTo to) const {
    const Panel* panel = view_.bench()->panel();
    if (!panel) return {};
    if (to == ArrangeTo::Panel) return panel->trim();
    if (to == ArrangeTo::Safety) return panel->safeArea().value_or(panel->trim());
    return boundsOf(*document_->release(), inHand(), engine_.renderer.paragraphs());
}

void LayerMenu::addArranging(QMenu* menu, ArrangeTo to) {
    const bool themselves = to == ArrangeTo::EachOther;
    const std::tuple<QString, AlignEdge, QString> ways[] = {
        {tr("Left edges"), AlignEdge::Left, tr("Align %1 left")},
        {tr("Middles across"), AlignEdge::Middle, tr("Align %1 in the middle")},
        {tr("Right edges"), AlignEdge::Right, tr("Align %1 right")},
        {tr("Top edges"), AlignEdge::Top, tr("Align %1 to the top")},
        {tr("Middles down"), AlignEdge::Centre, tr("Align %1 in the middle")},
        {tr("Bottom edges"), AlignEdge::Bottom, tr("Align %1 to the bottom")}};
    for (const auto& [text, edge, name] : ways)
        onLayers(menu, {text, name}, themselves ? 2 : 1,
                 [=, this, edge = edge](const ReleasePtr& release,
                                        std::vector<std::string>&) -> Result<ReleasePtr> {
                     return withAligned(release, inHand(), edge, areaOf(to), engine_.renderer.paragraphs());
                 });
    menu->addSeparator();
    for (const bool across : {true, false})
        onLayers(menu, {across ? tr("Distribute across") : tr("Distribute down"), tr("Distribute %1")},
                 themselves ? 3 : 2,
                 [=, this](const ReleasePtr& release, std::vector<std::string>&) -> Result<ReleasePtr> {
                     return withSpread(release, inHand(), across, areaOf(to), engine_.renderer.paragraphs());
                 });
}

void LayerMenu::makeArranging() {
    addArranging(addMenu(tr("Align to the panel")), ArrangeTo::Panel);
    addArranging(addMenu(tr("Align to the safety line")), ArrangeTo::Safety);
    addArranging(addMenu(tr("Align to each other")), ArrangeTo::EachOther);
}

} // namespace glyptos
