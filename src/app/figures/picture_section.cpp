#include "app/figures/picture_section.h"

#include "release/edits/edits.h"
#include "release/placing.h"
#include "render/layer_geometry.h"

#include <cmath>

namespace glyptos {

PictureSection::PictureSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    sharpness_ = roleLabel(QString(), "good");
    const QString names[] = {tr("Crop left"), tr("Crop top"), tr("Crop right"), tr("Crop bottom")};
    for (size_t i = 0; i < 4; ++i) {
        crop_[i] = new NumberField(names[i], plainUnit(QStringLiteral("%"), 1, 1, 0, 99));
        bind(crop_[i], tr("Crop %1"), [i](Layer& l, double v) {
            const auto* picture = l.as<PictureContent>();
            if (!picture) return;
            const Rect c = picture->crop;
            double edges[4] = {c.x, c.y, 1 - c.right(), 1 - c.bottom()};
            edges[i] = v / 100;
            const Rect next{edges[0], edges[1], 1 - edges[0] - edges[2], 1 - edges[1] - edges[3]};
            if (next.w >= 0.01 && next.h >= 0.01) l = cropped(l, next);
        });
    }
    auto* ground = new QPushButton(tr("Lay as ground"));
    ground->setToolTip(tr("Covers the panel with its bleed, behind everything; slide it with Crop in hand"));
    connect(ground, &QPushButton::clicked, this, [this] {
        const LayerPtr layer = document_->selectedLayer();
        const auto* picture = layer ? layer->as<PictureContent>() : nullptr;
        const SourcePtr source = picture ? document_->release()->source(picture->source) : nullptr;
        if (!source || layer->locked) return;
        ReleasePtr next = withChangedLayer(document_->release(), document_->panel(), layer->id,
                                           [&](Layer& l) { l = laidOver(l, panel()->withBleed(), *source); });
        next = withMovedLayer(next, document_->panel(), layer->id, {},
                              stackOf(*next, document_->panel()).size() + 1);
        document_->edit(tr("Lay %1 as ground").arg(QString::fromStdString(layer->name)), next);
    });
    auto* replace = new QPushButton(tr("Replace…"));
    replace->setToolTip(tr("Another picture in the same frame; everything else stays"));
    connect(replace, &QPushButton::clicked, this, &PictureSection::replaceAsked);
    form->addRow(roleLabel(tr("Sharpness"), "soft"), sharpness_);
    form->addRow(new FieldLabel(tr("Crop ← →"), crop_[0]), inOneRow({crop_[0], crop_[2]}));
    form->addRow(new FieldLabel(tr("Crop ↑ ↓"), crop_[1]), inOneRow({crop_[1], crop_[3]}));
    auto* frame = new QPushButton(tr("Frame…"));
    frame->setToolTip(
        tr("Chooses how the picture covers the panel: slid, straightened, turned over, with guides"));
    connect(frame, &QPushButton::clicked, this, &PictureSection::framingAsked);
    form->addRow(inOneRow({frame, ground, replace}));
}

void PictureSection::refresh(const Layer& layer) {
    const auto* picture = layer.as<PictureContent>();
    const Rect& c = picture->crop;
    const double edges[] = {c.x, c.y, 1 - c.right(), 1 - c.bottom()};
    for (size_t i = 0; i < 4; ++i) crop_[i]->setValue(edges[i] * 100);
    if (const SourcePtr source = document_->shown()->source(picture->source)) showSharpness(layer, *source);
}

void PictureSection::showSharpness(const Layer& layer, const Source& source) {
    if (source.format == "svg") {
        sharpness_->setText(tr("drawing, sharp at any size"));
        return setRole(sharpness_, "good");
    }
    if (document_->piece()->flat->unit == Unit::Px) {
        const double times = std::max(layer.placement.scaleX, layer.placement.scaleY);
        const bool whole = times <= 1.005, little = times <= 1.5;
        sharpness_->setText(whole    ? tr("sharp on screens")
                            : little ? tr("enlarged %1 times: a little soft").arg(times, 0, 'f', 1)
                                     : tr("enlarged %1 times: soft").arg(times, 0, 'f', 1));
        return setRole(sharpness_, whole ? "good" : little ? "caution" : "fault");
    }
    const double ppi = effectivePpi(layer.placement);
    const double wanted = document_->piece()->flat->ppi;
    const QString figure = ppi >= wanted ? QString() : tr("enlarged %1 times").arg(wanted / ppi, 0, 'f', 1);
    const bool sharp = ppi >= wanted * 0.998, little = ppi >= wanted / 2;
    sharpness_->setText(sharp    ? tr("sharp: %1 ppi").arg(std::lround(ppi))
                        : little ? tr("%1: %2 ppi, a little soft in print").arg(figure).arg(std::lround(ppi))
                                 : tr("%1: soft in print").arg(figure));
    setRole(sharpness_, sharp ? "good" : little ? "caution" : "fault");
}

} // namespace glyptos
