#include "file/print/print_order.h"

#include "form/imposition.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>
#include <numeric>

namespace glyptos {

double PrintReport::mostInk() const {
    double most = 0;
    for (const PrintedPage& page : pages) most = std::max(most, page.mostInk);
    return most;
}

int PrintReport::outlinedTexts() const {
    return std::accumulate(pages.begin(), pages.end(), 0,
                           [](int sum, const PrintedPage& page) { return sum + page.outlinedTexts; });
}

namespace {

/// The release with the piece's pages as the printer folds them.
Result<PrintOrder> inPairs(PrintOrder order) {
    auto flat = inPrintersPairs(*order.piece->flat);
    if (!flat) return tl::unexpected(flat.error());
    auto piece = std::make_shared<Piece>(*order.piece);
    piece->flat = std::make_shared<const Flat>(std::move(*flat));
    auto release = std::make_shared<Release>(*order.release);
    std::replace(release->pieces.begin(), release->pieces.end(), order.piece, PiecePtr(piece));
    order.piece = std::move(piece);
    order.release = std::move(release);
    return order;
}

} // namespace

Result<PrintOrder> printOrder(const ReleasePtr& release, const std::string& id, const PrintOptions& options) {
    PrintOrder out{release, release->piece(id), options.sheets};
    if (!out.piece)
        return fail(Fault::Usage, "There is no piece “" + id + "” in this release; nothing was written.");
    const Flat& flat = *out.piece->flat;
    if (flat.unit != Unit::Mm)
        return fail(Fault::Usage,
                    out.piece->name +
                        " is made for screens and has no size in mm; send it as JPEG or PNG instead.");
    if (out.sheets.empty()) {
        out.sheets.resize(flat.sheets.size());
        std::iota(out.sheets.begin(), out.sheets.end(), size_t(0));
    }
    for (const size_t sheet : out.sheets)
        if (sheet >= flat.sheets.size())
            return fail(Fault::Usage, out.piece->name + " has no page " + std::to_string(sheet + 1) +
                                          " but " + std::to_string(flat.sheets.size()) +
                                          "; nothing was written.");
    return options.inPairs ? inPairs(std::move(out)) : Result<PrintOrder>(std::move(out));
}

std::optional<std::pair<std::string, double>> coarsestOn(const PrintOrder& order, size_t sheet) {
    std::optional<std::pair<std::string, double>> least;
    for (const Panel* place : order.piece->flat->places()) {
        if (place->sheet != sheet) continue;
        eachLayer(order.piece->take().stack(place->id), [&](const LayerPtr& layer) {
            const auto* picture = layer->on ? layer->as<PictureContent>() : nullptr;
            const SourcePtr source = picture ? order.release->source(picture->source) : nullptr;
            if (!source) return;
            const double ppi = effectivePpi(layer->placement);
            if (!least || ppi < least->second) least = {source->name, ppi};
        });
    }
    return least;
}

Result<std::vector<std::string>> readBackCodes(Renderer& renderer, const PrintOrder& order,
                                               const std::atomic<bool>* cancel) {
    std::vector<std::string> notes;
    for (const CodeVerdict& verdict : judgeCodes(renderer, order.release, order.piece->id, cancel)) {
        const Panel& panel = *order.piece->flat->panel(verdict.panel.panel);
        if (std::find(order.sheets.begin(), order.sheets.end(), panel.sheet) == order.sheets.end()) continue;
        const std::string said = verdict.name + ", " + panel.name + ": " + verdict.sentence;
        if (verdict.grade == CodeGrade::Wrong) return fail(Fault::Usage, said + " Nothing was written.");
        if (verdict.grade == CodeGrade::Doubtful) notes.push_back(said);
    }
    return notes;
}

} // namespace glyptos
