#include "app/session/importer.h"

#include "app/session/engine.h"
#include "app/session/font_shelf.h"
#include "app/session/words.h"
#include "base/text.h"
#include "release/edits/cutout_edits.h"
#include "release/edits/framing.h"
#include "release/placing.h"
#include "release/wall.h"
#include "render/wall_layout.h"
#include "vision/saliency.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kPinned = 420; // px of the longer side of what is pinned

/// Where a layer goes to be in front of the fills at the back of its stack and behind all else.
size_t behindAllButFills(const Stack& stack, const std::string& moving) {
    size_t index = stack.size();
    while (index > 0 && (stack[index - 1]->id == moving ||
                         (stack[index - 1]->as<FillContent>() && !stack[index - 1]->clipped)))
        --index;
    return index;
}

/// Covering the area, with what draws the eye inside as far as there is a look at the picture.
Placement subjectInFrame(const Rect& area, const Source& source, const Pyramid* look) {
    Framing framing;
    if (look)
        framing.middle =
            partInFrame(saliencyOf(*look), double(source.width) / source.height, area.w / area.h).centre();
    return framed(area, source, framing);
}

} // namespace

Importer::Importer(Engine& engine, FontShelf& fonts, QObject* parent)
    : QObject(parent)
    , engine_(engine)
    , fonts_(fonts) {
    connect(&queue_, &ImportQueue::arrived, this, &Importer::take);
}

void Importer::setDocument(Document* document) {
    document_ = document;
}

void Importer::bringIn(const QStringList& files, std::optional<Vec2> at,
                       const std::optional<PanelRef>& panel) {
    ask({files, ImportPurpose::Layers, panel.value_or(document_ ? document_->panel() : PanelRef{}), at});
}

void Importer::replace(const QString& file, const std::string& layer) {
    ask({{file}, ImportPurpose::Replacement, document_->panel(), {}, layer});
}

void Importer::refer(const QString& file) {
    ask({{file}, ImportPurpose::Reference, document_->panel()});
}

void Importer::ask(ImportBatch batch) {
    const PiecePtr piece = document_ ? document_->release()->piece(batch.target.piece) : nullptr;
    if (!piece || !piece->flat->panel(batch.target.panel))
        return Q_EMIT told(tr("This release has no piece yet; add one first, then drop the picture again."));
    batch.document = document_;
    queue_.read(std::move(batch));
    Q_EMIT began();
}

void Importer::take(const ImportAnswer& answer) {
    const auto& [batch, arrivals, cancelled] = answer;
    QStringList troubles;
    target_ = batch.target, at_ = batch.at;
    if (!arrivals) {
        troubles << q(arrivals.error().message);
    } else if (batch.document == document_ && !panel()) {
        troubles << tr(
            "The piece that the files were meant for is gone, so they were left out; drop them on another.");
    } else {
        for (const Arrival& arrival : *arrivals) {
            if (batch.document != document_) break;
            if (arrival.what)
                use(batch, arrival, troubles);
            else if (arrival.what.error().fault != Fault::Cancelled)
                troubles << q(arrival.what.error().message);
        }
        if (cancelled) troubles << tr("Stopped: what had not been read yet was left out.");
    }
    if (!troubles.isEmpty()) Q_EMIT told(troubles.join(QLatin1Char(' ')));
    // Once the queue has gone on, so that whoever hears of it sees whether more is to come.
    QMetaObject::invokeMethod(this, &Importer::finished, Qt::QueuedConnection);
}

void Importer::use(const ImportBatch& batch, const Arrival& arrival, QStringList& troubles) {
    if (const auto* font = std::get_if<ImportedFont>(&*arrival.what)) return takeFont(*font, batch, troubles);
    const auto* raster = std::get_if<OpenRaster>(&*arrival.what);
    if (raster && batch.purpose != ImportPurpose::Layers) {
        troubles
            << tr("%1 has layers of its own and was not used as one picture; bring it in as layers instead. "
                  "Nothing has changed.")
                   .arg(q(arrival.name));
    } else if (raster) {
        for (const std::string& note : raster->notes) troubles << q(note);
        place(*raster, arrival.name);
    } else {
        const Imported picture = known(std::get<Imported>(*arrival.what));
        if (batch.purpose == ImportPurpose::Replacement) replaceBy(picture, batch.replaced);
        if (batch.purpose == ImportPurpose::Reference) referTo(picture);
        if (batch.purpose == ImportPurpose::Layers) place(picture);
    }
    at_.reset();
}

void Importer::takeFont(const ImportedFont& font, const ImportBatch& batch, QStringList& troubles) {
    if (batch.purpose != ImportPurpose::Layers) {
        troubles << tr("%1 is a font, and no picture. Nothing has changed.").arg(q(font.source->name));
        return;
    }
    if (const QString said = fonts_.bringIn(font); !said.isEmpty()) troubles << said;
    Q_EMIT fontArrived(font.font->faces.front().face->family());
}

/// The panel that pictures go to; nothing when it is gone.
const Panel* Importer::panel() const {
    const PiecePtr piece = document_ ? document_->release()->piece(target_.piece) : nullptr;
    return piece ? piece->flat->panel(target_.panel) : nullptr;
}

/// With what is known of it elsewhere.
Imported Importer::known(Imported picture) const {
    const auto facts = factsOf_ ? factsOf_(picture.source->id) : std::nullopt;
    if (!facts) return picture;
    auto source = std::make_shared<Source>(*picture.source);
    source->facts = *facts;
    picture.source = std::move(source);
    return picture;
}

void Importer::place(const Imported& picture) {
    const Panel* here = panel();
    if (!here) return;
    const SourcePtr& source = picture.source;
    if (source->format == "jpeg") engine_.pictures.offer(*source, picture.look, kLookReduction);
    if (isWall(target_)) return pin(source);
    placeSource(source, subjectInFrame(here->withBleed(), *source, picture.look.get()));
}

void Importer::placeAgain(const std::string& id, const PanelRef& panel) {
    const SourcePtr source = document_->release()->source(id);
    target_ = panel;
    at_.reset();
    const Panel* here = this->panel();
    if (!source || !here) return;
    const PyramidPtr look = engine_.pictures.picture(*source, 0.01);
    placeSource(source, subjectInFrame(here->withBleed(), *source, look.get()));
}

void Importer::pin(const SourcePtr& source) {
    const ReleasePtr release = withSource(document_->release(), source);
    const Layer layer = pinnedPicture(*source, kPinned, at_.value_or(Vec2{}));
    const Made made =
        at_ ? withLayer(release, target_, layer) : withPinned(release, layer, engine_.renderer.paragraphs());
    document_->edit(tr("Pin %1").arg(q(layer.name)), made.release);
    if (document_->panel() == target_) document_->selectLayer(made.id);
}

/// The first picture of a panel covers it and goes behind everything but the fills at the very back; later
/// ones come in smaller, where they were dropped, in front of the layer in hand.
void Importer::placeSource(const SourcePtr& source, Placement covering) {
    const Panel* here = panel();
    const Stack& stack = stackOf(*document_->release(), target_);
    const bool first =
        std::none_of(stack.begin(), stack.end(), [](const LayerPtr& l) { return l->as<PictureContent>(); });
    Layer layer;
    layer.name = source->facts.title.empty() ? stemOf(source->name) : source->facts.title;
    layer.content = PictureContent{source->id, {0, 0, 1, 1}};
    layer.placement =
        first ? covering : within(here->trim(), *source, 0.6, at_.value_or(here->trim().centre()));
    const std::string above = document_->panel() == target_ ? document_->layer() : std::string();
    const auto [with, id] =
        withLayer(withSource(document_->release(), source), target_, std::move(layer), above);
    ReleasePtr next = with;
    if (first) next = withMovedLayer(next, target_, id, {}, behindAllButFills(stackOf(*next, target_), id));
    const Rect area = here->withBleed();
    const double proportion = (area.w / area.h) / (double(source->width) / source->height);
    document_->edit(tr("Bring in %1").arg(q(source->name)), next);
    Q_EMIT placed();
    document_->selectPanel(target_);
    document_->selectLayer(id);
    constexpr double kAlike = 1.02;
    if (first && std::max(proportion, 1 / proportion) > kAlike) Q_EMIT covered(id);
}

void Importer::replaceBy(const Imported& picture, const std::string& replaced) {
    const LayerPtr layer = findLayer(stackOf(*document_->release(), target_), replaced);
    const auto* content = layer ? layer->as<PictureContent>() : nullptr;
    const SourcePtr old = content ? document_->release()->source(content->source) : nullptr;
    if (!old) return;
    if (picture.source->format == "jpeg")
        engine_.pictures.offer(*picture.source, picture.look, kLookReduction);
    // Edge colours are those of the old picture; its mask stays.
    const ReleasePtr bare =
        withEdgeColours(withSource(document_->release(), picture.source), target_, replaced, nullptr);
    document_->edit(tr("Replace %1 by %2").arg(q(layer->name), q(picture.source->name)),
                    withChangedLayer(bare, target_, replaced,
                                     [&](Layer& l) { l = withPicture(l, *old, *picture.source); }));
    Q_EMIT placed();
}

void Importer::referTo(const Imported& picture) {
    const Panel* here = panel();
    if (!here) return;
    if (picture.source->format == "jpeg")
        engine_.pictures.offer(*picture.source, picture.look, kLookReduction);
    document_->edit(tr("Reference %1").arg(q(picture.source->name)),
                    withReference(withSource(document_->release(), picture.source), target_,
                                  referenceOver(here->trim(), *picture.source)));
    Q_EMIT placed();
}

/// A group that covers the panel as the file's canvas would.
void Importer::place(const OpenRaster& raster, const std::string& name) {
    const Panel* here = panel();
    if (!here) return;
    ReleasePtr next = document_->release();
    for (const SourcePtr& source : raster.sources) next = withSource(next, source);
    const std::string above = document_->panel() == target_ ? document_->layer() : std::string();
    const Vec2 at = at_.value_or(here->trim().centre());
    const Rect pinned{at.x - kPinned / 2, at.y - kPinned / 2, kPinned, kPinned};
    const Rect area = isWall(target_) ? pinned : here->withBleed();
    const Made made = withLayer(next, target_, asGroup(raster, stemOf(name), area), above);
    document_->edit(tr("Bring in %1").arg(q(name)), made.release);
    if (!isWall(target_)) {
        Q_EMIT placed();
        document_->selectPanel(target_);
    }
    if (document_->panel() == target_) document_->selectLayer(made.id);
}

} // namespace glyptos
