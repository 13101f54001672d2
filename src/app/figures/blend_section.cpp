#include "app/figures/blend_section.h"

#include "app/session/words.h"
#include "release/edits/style_edits.h"
#include "release/press/spot_inks.h"

#include <cmath>

namespace glyptos {

BlendSection::BlendSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    mode_ = new QComboBox;
    mode_->setAccessibleName(tr("Blend mode"));
    for (size_t i = 0; i < kBlendModeCount; ++i) {
        // The standard's modes, our own, and the operators that cut instead of blending.
        const auto mode = static_cast<BlendMode>(i);
        if (mode == BlendMode::Etch || mode == BlendMode::DestinationIn)
            mode_->insertSeparator(mode_->count());
        const auto& label = infoOf(mode).label;
        mode_->addItem(QString::fromUtf8(label.data(), qsizetype(label.size())), int(i));
    }
    mode_->setMaxVisibleItems(mode_->count());
    mode_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(mode_, &QComboBox::activated, this, [this](int i) {
        const auto mode = static_cast<BlendMode>(mode_->itemData(i).toInt());
        change(tr("Blend %1"), [=](Layer& l) { l.blend = mode; });
    });
    auto* sheet = new QPushButton(tr("See all"));
    sheet->setAccessibleName(tr("See all blend modes"));
    sheet->setToolTip(tr("The art with this layer in every mode, side by side (B)"));
    connect(sheet, &QPushButton::clicked, this, &BlendSection::sheetAsked);
    opacity_ = new QSlider(Qt::Horizontal);
    opacity_->setAccessibleName(tr("Opacity slider"));
    opacity_->setRange(0, 100);
    opacityField_ = new NumberField(tr("Opacity"), plainUnit(QStringLiteral("%"), 0, 1, 0, 100));
    opacityField_->setMaximumWidth(64);
    connect(opacity_, &QSlider::valueChanged, this, [this](int v) {
        change(
            tr("Opacity of %1"), [=](Layer& l) { l.opacity = v / 100.0; }, QStringLiteral("opacity"));
    });
    bind(opacityField_, tr("Opacity of %1"), [](Layer& l, double v) { l.opacity = v / 100; });
    passing_ = new QCheckBox(tr("Layers pass through"));
    passing_->setToolTip(tr("Each layer of the group meets what lies below by itself; only with Normal"));
    connect(passing_, &QCheckBox::clicked, this, [this](bool on) {
        change(tr("Pass through %1"), [=](Layer& l) {
            if (auto* group = std::get_if<GroupContent>(&l.content)) group->passing = on;
        });
    });
    clipped_ = new QCheckBox(tr("Only inside the layer below"));
    clipped_->setToolTip(
        tr("Shows this layer inside the shape of the layer below it, as a picture inside letters (I)"));
    connect(clipped_, &QCheckBox::clicked, this, [this](bool on) {
        change(on ? tr("Clip %1") : tr("Unclip %1"), [=](Layer& l) { l.clipped = on; });
    });
    spot_ = new QComboBox;
    spot_->setAccessibleName(tr("Prints in"));
    spot_->setToolTip(tr("An ink of its own, which a colour of the palette is (Gather, Colours)"));
    connect(spot_, &QComboBox::activated, this, [this](int i) {
        change(tr("Ink of %1"),
               [id = spot_->itemData(i).toString().toStdString()](Layer& l) { l.spot = id; });
    });
    form_ = form;
    form->addRow(roleLabel(tr("Blend"), "soft"), inOneRow({mode_, sheet}));
    form->addRow(new FieldLabel(tr("Opacity"), opacityField_), inOneRow({opacity_, opacityField_}));
    form->addRow(roleLabel(tr("Prints in"), "soft"), spot_);
    form->addRow(passing_);
    form->addRow(clipped_);
}

/// The inks of the release besides the four; the row is there when there are any.
void BlendSection::refreshSpot(const Layer& layer) {
    spot_->clear();
    const Swatch* own = spotOf(layer, *document_->shown());
    const auto* text = layer.as<TextContent>();
    const TextStyle* style = text ? textStyle(*document_->shown(), text->style) : nullptr;
    const QString as = style && !style->spot.empty() ? tr("%1, as its style") : tr("%1, as its colours");
    spot_->addItem(as.arg(own && layer.spot.empty() ? q(own->name) : tr("press inks")), QString());
    for (const Swatch& swatch : document_->shown()->palette)
        if (swatch.plate != Plate::Process) spot_->addItem(q(swatch.name), q(swatch.id));
    spot_->setCurrentIndex(std::max(0, spot_->findData(q(layer.spot))));
    const PiecePtr piece = document_->piece();
    form_->setRowVisible(spot_, spot_->count() > 1 && piece && piece->flat->unit == Unit::Mm);
}

void BlendSection::refresh(const Layer& layer) {
    refreshSpot(layer);
    mode_->setCurrentIndex(mode_->findData(int(layer.blend)));
    opacity_->setValue(int(std::lround(layer.opacity * 100)));
    opacityField_->setValue(layer.opacity * 100);
    const auto* group = layer.as<GroupContent>();
    passing_->setVisible(group);
    passing_->setChecked(group && group->passing);
    passing_->setEnabled(layer.blend == BlendMode::Normal);
    clipped_->setChecked(layer.clipped);
}

} // namespace glyptos
