#include "app/figures/place_section.h"

#include "release/limits.h"
#include "release/placing.h"
#include "render/layer_geometry.h"

namespace glyptos {

PlaceSection::PlaceSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    x_ = new NumberField(tr("Left edge"));
    y_ = new NumberField(tr("Top edge"));
    w_ = new NumberField(tr("Width"));
    h_ = new NumberField(tr("Height"));
    turn_ = new NumberField(tr("Turn"), plainUnit(QStringLiteral("°"), 1, 1, -360, 360));
    skew_ = new NumberField(tr("Skew"), plainUnit(QStringLiteral("°"), 1, 1, -85, 85));
    skew_->setToolTip(tr("How far upright edges lean to the right"));
    proportional_ = new QCheckBox(tr("Keep proportions"));
    proportional_->setChecked(true);
    bind(x_, tr("Place %1"), [this](Layer& l, double v) {
        l = moved(l, {v - frameOfLayer(l).bounds().x, 0});
    });
    bind(y_, tr("Place %1"), [this](Layer& l, double v) {
        l = moved(l, {0, v - frameOfLayer(l).bounds().y});
    });
    bind(w_, tr("Size %1"), [this](Layer& l, double v) { resize(l, v, true); });
    bind(h_, tr("Size %1"), [this](Layer& l, double v) { resize(l, v, false); });
    bind(turn_, tr("Turn %1"), [this](Layer& l, double v) {
        const Frame frame = frameOfLayer(l);
        l = turned(l, frame.toPanel.map(frame.box.centre()), v - l.placement.turn);
    });
    bind(skew_, tr("Skew %1"), [this](Layer& l, double v) {
        const Frame before = frameOfLayer(l);
        l.placement.skew = v;
        const Frame after = frameOfLayer(l);
        l = moved(l, before.toPanel.map(before.box.centre()) - after.toPanel.map(after.box.centre()));
    });
    auto* across = new QPushButton(tr("Flip ↔"));
    auto* down = new QPushButton(tr("Flip ↕"));
    connect(across, &QPushButton::clicked, this, [this] { flip(false); });
    across->setAccessibleName(tr("Flip horizontally"));
    down->setAccessibleName(tr("Flip vertically"));
    for (QPushButton* button : {across, down}) button->setToolTip(button->accessibleName());
    connect(down, &QPushButton::clicked, this, [this] { flip(true); });
    form->addRow(new FieldLabel(tr("Place"), x_), inOneRow({x_, y_}));
    form->addRow(new FieldLabel(tr("Size"), w_), inOneRow({w_, h_}));
    form->addRow(QString(), proportional_);
    form->addRow(new FieldLabel(tr("Turn, skew"), turn_), inOneRow({turn_, skew_}));
    form->addRow(QString(), inOneRow({across, down}));
}

void PlaceSection::resize(Layer& layer, double to, bool wide) const {
    const Frame frame = frameOfLayer(layer);
    const double now = wide ? frame.box.w * frame.toPanel.scaleX() : frame.box.h * frame.toPanel.scaleY();
    if (!(to > 0 && now > 0)) return;
    const Vec2 middle = frame.toPanel.map(frame.box.centre());
    const double k = to / now;
    layer = proportional_->isChecked()
                ? scaled(layer, middle, k)
                : stretchedAlong(layer, middle, layer.placement.turn, wide ? k : 1, wide ? 1 : k);
}

/// A group is mirrored as a whole, about the middle of its bounds.
void PlaceSection::flip(bool upDown) {
    change(upDown ? tr("Flip %1 down") : tr("Flip %1 across"), [&](Layer& l) {
        const Vec2 middle = frameOfLayer(l).bounds().centre();
        const Affine mirror = Affine::translation(middle.x, middle.y) *
                              Affine::scaling(upDown ? 1 : -1, upDown ? -1 : 1) *
                              Affine::translation(-middle.x, -middle.y);
        l = l.as<GroupContent>() ? transformed(l, mirror) : flipped(l, upDown);
    });
}

void PlaceSection::refresh(const Layer& layer) {
    FieldUnit size = lengthUnit();
    size.least = 0.001, size.most = kLargestSide;
    for (NumberField* f : {x_, y_}) f->setUnit(lengthUnit());
    for (NumberField* f : {w_, h_}) f->setUnit(size);
    const Frame frame = frameOfLayer(layer);
    const Rect bounds = frame.bounds();
    x_->setValue(bounds.x);
    y_->setValue(bounds.y);
    w_->setValue(frame.box.w * frame.toPanel.scaleX());
    h_->setValue(frame.box.h * frame.toPanel.scaleY());
    turn_->setValue(layer.placement.turn);
    skew_->setValue(layer.placement.skew);
    for (QWidget* w : {static_cast<QWidget*>(turn_), static_cast<QWidget*>(skew_)})
        w->setEnabled(!layer.as<GroupContent>());
}

} // namespace glyptos
