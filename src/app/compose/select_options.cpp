#include "app/compose/select_options.h"

#include "app/figures/layer_section.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "base/text.h"
#include "release/edits/selection_edits.h"
#include "render/selected_layers.h"
#include "vision/select/alpha_edges.h"
#include "vision/select/picture_values.h"

#include <QColorDialog>
#include <QHBoxLayout>
#include <QInputDialog>

namespace glyptos {
namespace {

QString lengthWords(double length, const FieldUnit& unit) {
    return QStringLiteral("%1 %2").arg(QString::fromStdString(shortNumber(length)), unit.suffix);
}

QToolButton* menuButton(const QString& text, const QString& why) {
    QToolButton* button = wordButton(text, why);
    button->setPopupMode(QToolButton::InstantPopup);
    button->setMenu(new QMenu(button));
    return button;
}

} // namespace

SelectOptions::SelectOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(by_ = new QComboBox);
    by_->setAccessibleName(tr("Select by"));
    by_->addItems({tr("the figure"), tr("a box"), tr("an ellipse"), tr("freehand"), tr("corners"),
                   tr("along edges"), tr("colour"), tr("brush"), tr("move what is selected")});
    connect(by_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.selectBy = static_cast<SelectBy>(i); }); });
    row->addWidget(combine_ = new QComboBox);
    combine_->setAccessibleName(tr("The new selection"));
    combine_->addItems({tr("anew"), tr("added"), tr("taken away"), tr("in common")});
    connect(combine_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.combine = static_cast<Combine>(i); }); });
    row->addWidget(
        tolerance_ = new NumberField(tr("How far colours may differ"), {QStringLiteral("ΔE"), 1, 1, 0, 100}));
    tolerance_->setFixedWidth(64);
    tolerance_->setToolTip(tr("CIEDE2000: about 1 can just be told apart"));
    connect(tolerance_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.tolerance = v; }); });
    row->addWidget(connected_ = new QCheckBox(tr("one patch")));
    connected_->setToolTip(tr("Only what hangs together with the place that is clicked"));
    connect(connected_, &QCheckBox::clicked, this,
            [this](bool on) { set([=](HandSettings& s) { s.connected = on; }); });
    row->addWidget(where_ = new QComboBox);
    where_->setAccessibleName(tr("Colours of"));
    where_->addItems({tr("of all that shows"), tr("of the layer")});
    connect(where_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.fromLayer = i == 1; }); });
    row->addWidget(size_ = new NumberField(tr("Size of the brush")));
    size_->setFixedWidth(72);
    connect(size_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.brush.diameter = v; }); });
    row->addWidget(
        cut_ = wordButton(tr("Cut it out"),
                          tr("The picture with a mask of its figure, its edge freed of the old ground")));
    connect(cut_, &QToolButton::clicked, this, &SelectOptions::cutOutAsked);
    row->addWidget(look_ = menuButton(tr("Seen as ▾"), tr("How the selection is seen on the bench")));
    row->addWidget(
        change_ = menuButton(tr("Change ▾"), tr("All, nothing, turned over, grown, softened, kept by name")));
    row->addWidget(use_ = menuButton(tr("Make of it ▾"), tr("A mask, a layer of its own, a fill, a mend")));
    connect(change_->menu(), &QMenu::aboutToShow, this, &SelectOptions::makeChangeMenu);
    connect(use_->menu(), &QMenu::aboutToShow, this, &SelectOptions::makeUseMenu);
    connect(look_->menu(), &QMenu::aboutToShow, this, &SelectOptions::makeLookMenu);
    connect(&bench_, &ComposeBench::handChanged, this, &SelectOptions::refresh);
    refresh();
}

void SelectOptions::set(const std::function<void(HandSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next);
    bench_.setSettings(next);
}

void SelectOptions::refresh() {
    const HandSettings& s = bench_.settings();
    by_->setCurrentIndex(int(s.selectBy));
    combine_->setCurrentIndex(int(s.combine));
    const bool colour = s.selectBy == SelectBy::Colour;
    tolerance_->setVisible(colour), connected_->setVisible(colour), where_->setVisible(colour);
    tolerance_->setValue(s.tolerance);
    connected_->setChecked(s.connected);
    where_->setCurrentIndex(s.fromLayer ? 1 : 0);
    combine_->setVisible(s.selectBy != SelectBy::Itself);
    size_->setVisible(s.selectBy == SelectBy::Brush || s.selectBy == SelectBy::Figure);
    cut_->setVisible(s.selectBy == SelectBy::Figure);
    if (bench_.panel()) {
        size_->setUnit(lengthUnitOf(bench_.document()->piece().get()));
        size_->setValue(bench_.tip(1).diameter);
    }
}

void SelectOptions::setSelection(const QString& name, const std::optional<Selection>& next) {
    Document& document = *bench_.document();
    document.edit(name, withSelection(document.release(), document.panel(), next));
}

void SelectOptions::makeChangeMenu() {
    QMenu* menu = change_->menu();
    menu->clear();
    const auto now = bench_.selection().selection();
    const double pixel = bench_.paintPixel();
    const Rect area = bench_.panel() ? bench_.panel()->withBleed() : Rect{};
    const auto add = [&](const QString& text, bool possible, std::function<void()> run) {
        menu->addAction(text, this, std::move(run))->setEnabled(possible && bench_.panel());
    };
    const auto invert = [=, this](const std::optional<Selection>& from, const QString& name) {
        bench_.work().start(
            name, [=](WorkControl&) { return Result<std::optional<Selection>>(inverted(from, pixel, area)); },
            [=, this](const std::optional<Selection>& next) { setSelection(name, next); });
    };
    add(tr("All"), true, [=] { invert(std::nullopt, tr("Select all")); });
    add(tr("Nothing"), now.has_value(), [this] { setSelection(tr("Select nothing"), std::nullopt); });
    add(tr("Turned over"), now.has_value(), [=] { invert(now, tr("Turn the selection over")); });
    const LayerPtr layer = bench_.document()->selectedLayer();
    add(tr("What the layer covers"), bool(layer), [this] { selectLayer(false); });
    add(tr("The light of the layer"), bool(layer), [this] { selectLayer(true); });
    menu->addSeparator();
    addReshapes(menu);
    menu->addSeparator();
    add(tr("Keep it as…"), now.has_value(), [this] { keep(); });
    addKept(menu);
}

/// By lengths that suit the panel: a little, more, much.
void SelectOptions::addReshapes(QMenu* menu) {
    const bool selected = bench_.selection().selection().has_value();
    const double pixel = bench_.paintPixel();
    for (const auto& [text, name, change] :
         {std::tuple{tr("Grow by %1"), tr("Grow the selection"),
                     +[](const AlphaMap&m, double px) { return grown(m, px); }},
          std::tuple{tr("Shrink by %1"), tr("Shrink the selection"),
                     +[](const AlphaMap&m, double px) { return grown(m, -px); }},
          std::tuple{tr("Feather by %1"), tr("Feather the selection"),
                     +[](const AlphaMap&m, double px) { return feathered(m, px); }},
          std::tuple{tr("Smooth by %1"), tr("Smooth the selection"),
                     +[](const AlphaMap&m, double px) { return smoothed(m, px); }}}) {
        QMenu* sizes = menu->addMenu(QString(text).remove(QStringLiteral(" %1")).append(QStringLiteral("…")));
        sizes->setEnabled(selected);
        for (const int px : {1, 2, 5, 10, 25, 60})
            sizes->addAction(
                text.arg(lengthWords(px * pixel, lengthUnitOf(bench_.document()->piece().get()))), this,
                [=, this, how = change, name = name] {
                    reshape(name, 3 * px, [=](const AlphaMap& map) { return how(map, px); });
                });
        sizes->addAction(tr("Another length…"), this, [=, this, how = change, name = name] {
            bool fine = false;
            const double px =
                QInputDialog::getDouble(this, name, tr("Pixels of the panel:"), 8, 0.1, 2000, 1, &fine);
            if (fine) reshape(name, 3 * px, [=](const AlphaMap& map) { return how(map, px); });
        });
    }
}

void SelectOptions::addKept(QMenu* menu) {
    const auto now = bench_.selection().selection();
    const PiecePtr piece = bench_.document()->piece();
    if (!piece) return;
    const auto found = piece->selections.find(bench_.document()->panel().panel);
    if (found == piece->selections.end()) return;
    for (const NamedSelection& kept : found->second.kept) {
        QMenu* one = menu->addMenu(QString::fromStdString(kept.name));
        const auto meet = [=, this](Combine how, const QString& name) {
            bench_.work().start(
                name,
                [=](WorkControl&) {
                    return Result<std::optional<Selection>>(combined(now, kept.selection, how));
                },
                [=, this](const std::optional<Selection>& next) { setSelection(name, next); });
        };
        const QString name = QString::fromStdString(kept.name);
        one->addAction(tr("Select it"), this, [=] { meet(Combine::Replace, tr("Select %1").arg(name)); });
        one->addAction(tr("Add it"), this,
                       [=] { meet(Combine::Add, tr("Add %1 to the selection").arg(name)); });
        one->addAction(tr("Take it away"), this,
                       [=] { meet(Combine::TakeAway, tr("Take %1 from the selection").arg(name)); });
        one->addAction(tr("What both have"), this,
                       [=] { meet(Combine::Intersect, tr("Common with %1").arg(name)); });
        one->addAction(tr("Forget it"), this, [=, this] {
            Document& document = *bench_.document();
            document.edit(tr("Forget the selection %1").arg(name),
                          withoutKeptSelection(document.release(), document.panel(), name.toStdString()));
        });
    }
}

void SelectOptions::reshape(const QString& name, double reach,
                            const std::function<AlphaMap(const AlphaMap&)>& change) {
    const auto now = bench_.selection().selection();
    if (!now) return;
    bench_.work().start(
        name, [=](WorkControl&) { return Result<std::optional<Selection>>(reshaped(*now, reach, change)); },
        [=, this](const std::optional<Selection>& next) { setSelection(name, next); });
}

void SelectOptions::selectLayer(bool light) {
    Document& document = *bench_.document();
    const LayerPtr layer = document.selectedLayer();
    if (!layer) return;
    const double pixel = bench_.paintPixel();
    const Rect area = bench_.panel()->withBleed();
    const QString name = (light ? tr("Select the light of %1") : tr("Select what %1 covers"))
                             .arg(QString::fromStdString(layer->name));
    Engine& engine = bench_.engine();
    const auto before = selectionOf(*document.release(), document.panel());
    bench_.work().start(
        name,
        [=, &engine, how = bench_.settings().combine,
         scene = aloneScene(document.release(), *layer, true, Affine::scaling(1 / pixel, 1 / pixel), area)](
            WorkControl& control) -> Result<std::optional<Selection>> {
            const IntRect all = scene.bounds();
            const auto picture = settledRendering(engine, scene, all, control);
            if (!picture) return cancelled();
            const AlphaMap values = light ? lightOf(*picture) : coverOf(*picture);
            const Affine toPanel = Affine::scaling(pixel, pixel) * Affine::translation(all.x, all.y);
            return combined(before, selectionOf(values, toPanel, pixel, area), how);
        },
        [=, this](const std::optional<Selection>& next) { setSelection(name, next); });
}

void SelectOptions::keep() {
    bool fine = false;
    const QString name =
        QInputDialog::getText(this, tr("Keep the selection"), tr("Its name:"), QLineEdit::Normal, {}, &fine)
            .trimmed();
    if (!fine || name.isEmpty()) return;
    Document& document = *bench_.document();
    document.edit(tr("Keep the selection %1").arg(name),
                  withKeptSelection(document.release(), document.panel(), name.toStdString()));
}

void SelectOptions::use(const QString& name, const std::function<Made(const Selected&)>& make) {
    Document& document = *bench_.document();
    const auto now = bench_.selection().selection();
    if (!now) return;
    Engine& engine = bench_.engine();
    bench_.work().start(
        name,
        [=, &engine, release = document.release(),
         panel = document.panel()](WorkControl& control) -> Result<std::pair<ReleasePtr, Made>> {
            if (!waitForPictures(engine, control)) return cancelled();
            return std::pair{release, make({release, panel, *now, engine.pictures})};
        },
        [=, this](const std::pair<ReleasePtr, Made>& made) {
            Document& open = *bench_.document();
            // Something else was done in the meantime: what was made is of another state.
            if (open.release() != made.first)
                return void(
                    Q_EMIT open.refused(tr("Something else was changed meanwhile; do it once more.")));
            open.edit(name, made.second.release);
            if (!made.second.id.empty()) open.selectLayer(made.second.id);
        });
}

void SelectOptions::makeUseMenu() {
    QMenu* menu = use_->menu();
    menu->clear();
    const bool selected = bench_.selection().selection().has_value();
    const LayerPtr layer = bench_.document()->selectedLayer();
    const std::string id = layer ? layer->id : std::string();
    const bool possible = selected && layer && !layer->locked;
    const QString name = layer ? QString::fromStdString(layer->name) : tr("the layer in hand");
    const auto add = [&](const QString& text, bool enabled, const QString& step,
                         const std::function<Made(const Selected&)>& make) {
        menu->addAction(text, this, [=, this] { use(step, make); })->setEnabled(enabled);
    };
    add(tr("A mask: %1 shows only here").arg(name), possible, tr("Mask %1 by the selection").arg(name),
        [=](const Selected& s) {
            return Made{withMaskOf(s, id, true), {}};
        });
    add(tr("A mask: %1 shows here no more").arg(name), possible, tr("Hide the selection of %1").arg(name),
        [=](const Selected& s) {
            return Made{withMaskOf(s, id, false), {}};
        });
    add(tr("More of %1 shows: here too").arg(name), possible && layer->mask,
        tr("Add the selection to the mask of %1").arg(name), [=](const Selected& s) {
            return Made{withMaskMeeting(s, id, Combine::Add), {}};
        });
    add(tr("A mask with nodes to drag"), possible, tr("Mask %1 by a shape").arg(name),
        [=](const Selected& s) {
            return Made{withShapeMaskOf(s, id), {}};
        });
    menu->addSeparator();
    add(tr("A layer of its own, copied"), possible, tr("Copy a part of %1").arg(name),
        [=](const Selected& s) { return withPart(s, id, false); });
    add(tr("A layer of its own, cut"), possible, tr("Cut a part off %1").arg(name),
        [=](const Selected& s) { return withPart(s, id, true); });
    menu->addAction(tr("A layer of its own, the place behind it mended"), this, &SelectOptions::partOutAsked)
        ->setEnabled(possible);
    const auto& palette = bench_.document()->release()->palette;
    const Ink ink =
        palette.empty() ? Ink{0.13f, 0.13f, 0.12f, 1} : Ink(palette.front().colour, palette.front().id);
    add(tr("A fill"), selected, tr("Fill the selection"),
        [=](const Selected& s) { return withFillOf(s, id, ink); });
    menu->addSeparator();
    menu->addAction(tr("Mend it from around"), this, &SelectOptions::mendAsked)
        ->setEnabled(selected && layer);
}

void SelectOptions::makeLookMenu() {
    QMenu* menu = look_->menu();
    menu->clear();
    SelectionPainter& painter = bench_.selection();
    for (const auto& [look, text] : {std::pair{SelectionLook::Outline, tr("a moving outline")},
                                     {SelectionLook::Tint, tr("a tint over the rest")},
                                     {SelectionLook::BlackAndWhite, tr("black and white")}}) {
        QAction* action =
            menu->addAction(text, this, [&painter, look = look] { painter.setLook(look, painter.tint()); });
        action->setCheckable(true);
        action->setChecked(painter.look() == look);
    }
    menu->addAction(tr("Colour of the tint…"), this, [this, &painter] {
        QColorDialog* dialog = colourChooser(painter.tint(), this);
        dialog->setOption(QColorDialog::ShowAlphaChannel);
        connect(dialog, &QColorDialog::currentColorChanged, this,
                [&painter](const QColor& c) { painter.setLook(SelectionLook::Tint, c); });
        dialog->open();
    });
}

} // namespace glyptos
