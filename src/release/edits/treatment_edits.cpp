#include "release/edits/treatment_edits.h"

#include "release/edits/edits.h"
#include "release/walks.h"

#include <algorithm>

namespace glyptos {

bool isTreated(const Layer& layer) {
    return layer.treatments && std::any_of(layer.treatments->begin(), layer.treatments->end(),
                                           [](const Treatment& t) { return t.acts(); });
}

ReleasePtr untreated(const ReleasePtr& release, const PanelRef& panel,
                     const std::vector<std::string>& layers) {
    ReleasePtr out = release;
    eachLayer(stackOf(*release, panel), [&](const LayerPtr& layer) {
        const bool meant =
            layers.empty() || std::find(layers.begin(), layers.end(), layer->id) != layers.end();
        if (meant && layer->treatments)
            out = withChangedLayer(out, panel, layer->id, [](Layer& l) { l.treatments = nullptr; });
    });
    return out;
}

ReleasePtr withFigure(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                      size_t treatment, size_t figure, const FigureValue& value) {
    return withChangedLayer(release, panel, layer, [&](Layer& l) {
        if (!l.treatments || treatment >= l.treatments->size()) return;
        Treatments all = *l.treatments;
        if (figure >= all[treatment].figures.size()) return;
        all[treatment].figures.set(figure, value);
        l.treatments = std::make_shared<const Treatments>(std::move(all));
    });
}

} // namespace glyptos
