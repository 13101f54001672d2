#include "app/figures/layer_section.h"

#include "app/session/engine.h"
#include "release/edits/edits.h"

namespace glyptos {

FieldUnit plainUnit(const QString& suffix, int decimals, double step, double least, double most) {
    FieldUnit unit;
    unit.suffix = suffix, unit.decimals = decimals, unit.step = step, unit.least = least, unit.most = most;
    return unit;
}

LayerSection::LayerSection(Engine& engine, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {}

void LayerSection::showLayer(const LayerPtr& layer) {
    showing_ = true;
    setVisible(layer && fits(*layer));
    if (layer && fits(*layer)) {
        setEnabled(!layer->locked);
        refresh(*layer);
    }
    showing_ = false;
}

Frame LayerSection::frameOfLayer(const Layer& layer) const {
    return frameOf(layer, *document_->shown(), panel()->withBleed(), engine_.renderer.paragraphs());
}

FieldUnit lengthUnitOf(const Piece* piece) {
    FieldUnit unit;
    unit.length = true;
    if (piece && piece->flat->unit == Unit::Px) {
        unit.suffix = QStringLiteral("px"), unit.decimals = 0, unit.step = 5;
        unit.perMm = unit.pxPerMm = pxPerMm({300});
    } else {
        unit.suffix = QStringLiteral("mm"), unit.decimals = 2, unit.step = 0.5;
        unit.pxPerMm = piece ? pxPerMm({piece->flat->ppi}) : pxPerMm({300});
    }
    return unit;
}

void LayerSection::change(const QString& name, const LayerChange& change, const QString& merge) {
    if (showing_ || !document_) return;
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || layer->locked) return;
    document_->edit(name.arg(QString::fromStdString(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id, change),
                    merge.isEmpty() ? merge : merge + QString::fromStdString(layer->id));
}

void LayerSection::change(const QString& name, const LayerChange& edit, bool settled, const QString& merge) {
    change(name, edit, merge);
    if (settled) document_->settle();
}

void LayerSection::bind(NumberField* field, const QString& name, std::function<void(Layer&, double)> set) {
    connect(field, &NumberField::turning, this, [this] { document_->settle(); });
    connect(field, &NumberField::edited, this,
            [this, name, set = std::move(set), field](double value, bool settled) {
                change(
                    name, [&](Layer& layer) { set(layer, value); },
                    settled ? QString() : field->accessibleName());
            });
}

} // namespace glyptos
