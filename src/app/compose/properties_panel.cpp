#include "app/compose/properties_panel.h"

#include "app/figures/blend_section.h"
#include "app/figures/code_section.h"
#include "app/figures/paint_editor.h"
#include "app/figures/picture_section.h"
#include "app/figures/place_section.h"
#include "app/figures/shape_section.h"
#include "app/letter/legibility_section.h"
#include "app/letter/rule_section.h"
#include "app/letter/setting_section.h"
#include "app/letter/style_section.h"
#include "app/letter/table_section.h"
#include "app/letter/text_section.h"
#include "app/letter/tracks_section.h"

#include <QVBoxLayout>

namespace glyptos {

PropertiesPanel::PropertiesPanel(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(12, 8, 12, 10);
    all->setSpacing(9);
    all->addWidget(title_ = heading(QString()));
    all->addWidget(empty_ = roleLabel(
                       tr("Click a layer on the bench or in the stack to set its figures here."), "soft"));
    all->addWidget(locked_ = roleLabel(tr("This layer is locked; unlock it in the Layer menu."), "caution"));
    auto* blend = new BlendSection(engine);
    auto* picture = new PictureSection(engine);
    auto* mask = new MaskSection(engine);
    auto* text = new TextSection(engine);
    auto* tracks = new TracksSection(engine);
    sections_ = {text,
                 tracks,
                 new TableSection(engine),
                 new StyleSection(engine),
                 new LegibilitySection(engine, service),
                 new SettingSection(engine),
                 new RuleSection(engine),
                 new FillSection(engine),
                 new CodeSection(engine),
                 new PlaceSection(engine),
                 blend,
                 picture,
                 shape_ = new ShapeSection(engine),
                 mask};
    for (LayerSection* section : sections_) all->addWidget(section);
    all->addStretch();
    alignLabels();
    connect(tracks, &TracksSection::briefAsked, this, &PropertiesPanel::briefAsked);
    connect(text, &TextSection::specimensAsked, this, &PropertiesPanel::specimensAsked);
    connect(blend, &BlendSection::sheetAsked, this, &PropertiesPanel::blendSheetAsked);
    connect(picture, &PictureSection::replaceAsked, this, &PropertiesPanel::replaceAsked);
    connect(picture, &PictureSection::framingAsked, this, &PropertiesPanel::framingAsked);
    connect(mask, &MaskSection::lookChosen, this, &PropertiesPanel::maskLookChosen);
}

/// One column of labels through all parts.
void PropertiesPanel::alignLabels() {
    constexpr int kColumn = 66;
    for (const QFormLayout* form : findChildren<QFormLayout*>())
        for (int i = 0; i < form->rowCount(); ++i)
            if (const QLayoutItem* item = form->itemAt(i, QFormLayout::LabelRole); item && item->widget())
                item->widget()->setMinimumWidth(kColumn);
}

void PropertiesPanel::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    for (LayerSection* section : sections_) section->setDocument(document);
    connect(document_, &Document::changed, this, &PropertiesPanel::refresh);
    connect(document_, &Document::selectionChanged, this, &PropertiesPanel::refresh);
    refresh();
}

void PropertiesPanel::setBrushes(const std::vector<NamedBrush>& brushes) {
    shape_->setBrushes(brushes);
}

void PropertiesPanel::setFillInHand(bool inHand) {
    for (PaintEditor* editor : findChildren<PaintEditor*>()) editor->setFillInHand(inHand);
}

void PropertiesPanel::refresh() {
    const bool one = document_->layers().size() < 2;
    const LayerPtr layer = one ? document_->selectedLayer() : nullptr;
    title_->setText(layer  ? QString::fromStdString(layer->name).toUpper()
                    : !one ? tr("%1 LAYERS IN HAND").arg(document_->layers().size())
                           : tr("NO LAYER IN HAND"));
    empty_->setVisible(!layer);
    empty_->setText(one ? tr("Click a layer on the bench or in the stack to set its figures here.")
                        : tr("Move, scale and turn them on the bench; align, distribute and group them by "
                             "the Layer menu."));
    locked_->setVisible(layer && layer->locked);
    for (LayerSection* section : sections_) section->showLayer(layer);
}

} // namespace glyptos
