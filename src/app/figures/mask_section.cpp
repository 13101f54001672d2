#include "app/figures/mask_section.h"

#include "release/placing.h"
#include "render/layer_geometry.h"

#include <QVBoxLayout>

namespace glyptos {

MaskSection::MaskSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    add_ = new QPushButton(tr("Mask this layer"));
    menu_ = new QMenu(add_);
    add_->setMenu(menu_);
    connect(menu_, &QMenu::aboutToShow, this, &MaskSection::makeMenu);
    form->addRow(add_);
    figures_ = new QWidget;
    makeFigures(figuresForm(figures_));
    form->addRow(figures_);
}

QCheckBox* MaskSection::flag(const QString& text, bool Mask::*which, const QString& name) {
    auto* box = new QCheckBox(text);
    connect(box, &QCheckBox::clicked, this,
            [=, this](bool on) { changeMask(name, [=](Mask& m) { m.*which = on; }); });
    return box;
}

void MaskSection::makeFigures(QFormLayout* form) {
    kind_ = roleLabel(QString(), "soft");
    on_ = flag(tr("On"), &Mask::on, tr("Switch the mask of %1"));
    inverted_ = flag(tr("Inverted"), &Mask::inverted, tr("Invert the mask of %1"));
    linked_ = flag(tr("Moves with the layer"), &Mask::linked, tr("Link the mask of %1"));
    remove_ = new QPushButton(tr("Remove"));
    remove_->setAccessibleName(tr("Remove the mask"));
    connect(remove_, &QPushButton::clicked, this,
            [this] { change(tr("Unmask %1"), [](Layer& l) { l.mask = nullptr; }); });
    inHand_ = new QPushButton(tr("Take in hand"));
    inHand_->setAccessibleName(tr("Take the mask in hand"));
    inHand_->setToolTip(tr("Moving, scaling and turning on the bench then act on the mask alone"));
    inHand_->setCheckable(true);
    connect(inHand_, &QPushButton::clicked, this, [this](bool on) { document_->setMaskInHand(on); });
    strength_ = new NumberField(tr("Strength of the mask"), plainUnit(QStringLiteral("%"), 0, 5, 0, 100));
    feather_ = new NumberField(tr("Feather of the mask"));
    connect(strength_, &NumberField::edited, this, [this](double v, bool settled) {
        changeMask(
            tr("Strength of the mask of %1"), [=](Mask& m) { m.strength = v / 100; }, settled,
            QStringLiteral("strength"));
    });
    connect(feather_, &NumberField::edited, this, [this](double v, bool settled) {
        changeMask(
            tr("Feather the mask of %1"), [=](Mask& m) { m.feather = v; }, settled,
            QStringLiteral("feather"));
    });
    look_ = new QComboBox;
    look_->setAccessibleName(tr("Show the mask"));
    look_->addItems({tr("in the art"), tr("by itself"), tr("as a tint"), tr("layer on black"),
                     tr("layer on white"), tr("layer on a colour"), tr("layer on squares"),
                     tr("layer on what is below")});
    connect(look_, &QComboBox::activated, this,
            [this](int i) { Q_EMIT lookChosen(static_cast<MaskLook>(i)); });
    gradient_ = new PaintEditor(tr("Gradient of the mask"));
    connect(gradient_, &PaintEditor::edited, this, [this](const Paint& paint, bool settled) {
        if (const auto* g = std::get_if<Gradient>(&paint))
            changeMask(
                tr("Gradient of the mask of %1"), [=](Mask& m) { m.form = *g; }, settled,
                QStringLiteral("run"));
    });
    form->addRow(roleLabel(tr("Mask"), "soft"), kind_);
    form->addRow(QString(), inOneRow({on_, inverted_}));
    form->addRow(QString(), linked_);
    form->addRow(new FieldLabel(tr("Strength"), strength_), strength_);
    form->addRow(new FieldLabel(tr("Feather"), feather_), feather_);
    form->addRow(gradient_);
    form->addRow(roleLabel(tr("Show"), "soft"), look_);
    form->addRow(QString(), inOneRow({inHand_, remove_}));
}

/// Masks that can be made, with the pictures of the release as they are now.
void MaskSection::makeMenu() {
    menu_->clear();
    menu_->addAction(tr("A box"), this, [this] { addShape(ShapeKind::Rectangle); });
    menu_->addAction(tr("An ellipse"), this, [this] { addShape(ShapeKind::Ellipse); });
    menu_->addAction(tr("A linear gradient"), this, [this] { addGradient(GradientKind::Linear); });
    menu_->addAction(tr("A radial gradient"), this, [this] { addGradient(GradientKind::Radial); });
    QMenu* pictures = menu_->addMenu(tr("A picture"));
    for (const SourcePtr& source : document_->release()->sources)
        pictures->addAction(QString::fromStdString(source->name), this,
                            [this, source] { addPicture(source); });
    pictures->setEnabled(!document_->release()->sources.empty());
}

void MaskSection::add(const QString& name, Mask mask) {
    change(name, [&](Layer& l) { l.mask = std::make_shared<const Mask>(std::move(mask)); });
}

void MaskSection::addShape(ShapeKind kind) {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer) return;
    const Frame frame = frameOfLayer(*layer);
    ShapeContent shape;
    shape.kind = kind;
    shape.width = frame.bounds().w * 0.8;
    shape.height = frame.bounds().h * 0.8;
    Mask mask;
    mask.form = shape;
    mask.placement.position = frame.bounds().centre();
    add(tr("Mask %1 by a shape"), std::move(mask));
}

void MaskSection::addGradient(GradientKind kind) {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer) return;
    const Rect area = frameOfLayer(*layer).bounds();
    Gradient run = evenRun(area, 0, {1, 1, 1, 1}, {0, 0, 0, 1});
    run.kind = kind;
    if (kind == GradientKind::Radial) {
        run.from = area.centre();
        run.to = area.centre() + Vec2{std::max(area.w, area.h) / 2, 0};
    }
    Mask mask;
    mask.form = run;
    add(tr("Mask %1 by a run"), std::move(mask));
}

void MaskSection::addPicture(const SourcePtr& source) {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer) return;
    Mask mask;
    mask.form = PictureContent{source->id, {0, 0, 1, 1}};
    mask.placement = covering(frameOfLayer(*layer).bounds(), *source);
    add(tr("Mask %1 by a picture"), std::move(mask));
}

void MaskSection::changeMask(const QString& name, const std::function<void(Mask&)>& edit, bool settled,
                             const QString& merge) {
    change(
        name,
        [&](Layer& l) {
            if (!l.mask) return;
            Mask mask = *l.mask;
            edit(mask);
            l.mask = std::make_shared<const Mask>(std::move(mask));
        },
        settled, merge);
}

void MaskSection::refresh(const Layer& layer) {
    add_->setVisible(!layer.mask);
    figures_->setVisible(bool(layer.mask));
    inHand_->setChecked(document_->maskInHand());
    if (!layer.mask) return;
    const Mask& mask = *layer.mask;
    const auto* gradient = std::get_if<Gradient>(&mask.form);
    kind_->setText(gradient                                          ? tr("a run")
                   : std::holds_alternative<PaintedMask>(mask.form)  ? tr("painted")
                   : std::holds_alternative<ShapeContent>(mask.form) ? tr("a shape")
                                                                     : tr("a picture"));
    on_->setChecked(mask.on);
    inverted_->setChecked(mask.inverted);
    linked_->setChecked(mask.linked);
    strength_->setValue(mask.strength * 100);
    FieldUnit length = lengthUnit();
    length.least = 0;
    feather_->setUnit(length);
    feather_->setValue(mask.feather);
    gradient_->setVisible(gradient);
    if (gradient) gradient_->show(*gradient, frameOfLayer(layer).bounds(), lengthUnit(), *document_->shown());
}

} // namespace glyptos
