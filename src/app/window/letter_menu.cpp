#include "app/window/letter_menu.h"

#include "app/session/settled_pictures.h"
#include "release/edits/cutout_edits.h"
#include "release/walks.h"

namespace glyptos {
namespace {

QString nameOf(const Layer& layer) {
    return QString::fromStdString(layer.name);
}

} // namespace

LetterMenu::LetterMenu(Engine& engine, ComposeView& view, QWidget* parent)
    : QMenu(tr("Words"), parent)
    , engine_(engine)
    , view_(view) {
    addAction(tr("Behind the figure"), this, &LetterMenu::putBehind)
        ->setToolTip(
            tr("Between the figure of a picture and its ground; the figure is cut out if it is not"));
    pictures_ = addMenu(tr("Filled with a picture"));
    pictures_->setToolTipsVisible(true);
    connect(pictures_, &QMenu::aboutToShow, this, &LetterMenu::fillPictures);
    addAction(tr("As shapes"), this, &LetterMenu::makeShapes)
        ->setToolTip(tr("Outlines whose nodes can be moved"));
    addAction(tr("As a mask of the layer below"), this, &LetterMenu::makeMask)
        ->setToolTip(tr("What is directly behind shows only inside the letters, which are gone then"));
    addAction(tr("Each word a layer"), this, [this] { takeApart(Apart::Words); });
    addAction(tr("Each letter a layer"), this, [this] { takeApart(Apart::Letters); });
    setToolTipsVisible(true);
}

void LetterMenu::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &LetterMenu::refresh);
    connect(document_, &Document::selectionChanged, this, &LetterMenu::refresh);
    refresh();
}

LayerPtr LetterMenu::words() const {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    return layer && layer->as<TextContent>() && !layer->locked && document_->layers().size() == 1 ? layer
                                                                                                  : nullptr;
}

void LetterMenu::refresh() {
    setEnabled(words() != nullptr);
    menuAction()->setEnabled(words() != nullptr);
}

void LetterMenu::makeShapes() {
    const LayerPtr layer = words();
    if (!layer) return;
    document_->editMaking(tr("%1 as shapes").arg(nameOf(*layer)),
                          withLettersAsShapes(document_->release(), document_->panel(), layer->id,
                                              engine_.renderer.paragraphs()));
}

void LetterMenu::makeMask() {
    const LayerPtr layer = words();
    if (!layer) return;
    document_->editMaking(
        tr("%1 as a mask").arg(nameOf(*layer)),
        withWordsAsMask(document_->release(), document_->panel(), layer->id, engine_.renderer.paragraphs()));
}

/// The pictures of the release as they are now.
void LetterMenu::fillPictures() {
    pictures_->clear();
    for (const SourcePtr& source : document_->release()->sources)
        pictures_->addAction(QString::fromStdString(source->name), this, [this, source] { fillWith(source); })
            ->setToolTip(tr("It is in hand then: drag it, and it slides under the letters"));
    if (pictures_->isEmpty())
        pictures_->addAction(tr("Bring a picture into the release first"))->setEnabled(false);
}

void LetterMenu::fillWith(const SourcePtr& picture) {
    const LayerPtr layer = words();
    if (!layer) return;
    document_->editMaking(tr("%1 filled with %2").arg(nameOf(*layer), QString::fromStdString(picture->name)),
                          withPictureInWords(document_->release(), document_->panel(), layer->id, picture,
                                             engine_.renderer.paragraphs()));
}

void LetterMenu::takeApart(Apart how) {
    const LayerPtr layer = words();
    if (!layer) return;
    const QString name = how == Apart::Words ? tr("Words of %1") : tr("Letters of %1");
    document_->editMaking(name.arg(nameOf(*layer)),
                          withWordsApart(document_->release(), document_->panel(), layer->id, how,
                                         engine_.renderer.paragraphs()));
}

/// The front-most figure that is cut out where the words are, or the first picture behind them.
LayerPtr LetterMenu::figureFor(const Layer& words) const {
    const Panel* panel = view_.bench()->panel();
    if (!panel) return nullptr;
    const ReleasePtr release = document_->release();
    const auto boundsOf = [&](const Layer& l) {
        return frameOf(l, *release, panel->withBleed(), engine_.renderer.paragraphs()).bounds();
    };
    const Rect here = boundsOf(words);
    const auto meets = [&](const Layer& l) {
        return l.on && l.as<PictureContent>() && !l.warp && !boundsOf(l).intersected(here).empty();
    };
    const Stack& stack = stackOf(*release, document_->panel());
    if (LayerPtr cut = firstLayer(stack, [&](const Layer& l) { return meets(l) && isCutOut(l, *release); }))
        return cut;
    bool isBehind = false;
    return firstLayer(stack, [&](const Layer& l) {
        isBehind = isBehind || l.id == words.id;
        return isBehind && meets(l);
    });
}

void LetterMenu::putBehind() {
    const LayerPtr layer = words();
    if (!layer) return;
    const LayerPtr figure = figureFor(*layer);
    if (!figure)
        return void(Q_EMIT document_->refused(
            tr("There is no picture behind “%1” with a figure to stand before it.").arg(nameOf(*layer))));
    const QString name = tr("%1 behind %2").arg(nameOf(*layer), nameOf(*figure));
    if (isCutOut(*figure, *document_->release()))
        return document_->edit(
            name, withWordsBehind(document_->release(), document_->panel(), layer->id, figure->id));
    cutOutBefore(layer, figure);
}

void LetterMenu::cutOutBefore(const LayerPtr& words, const LayerPtr& picture) {
    const SourcePtr source = document_->release()->source(picture->as<PictureContent>()->source);
    if (!source) return;
    view_.bench()->work().start(
        tr("Cutting out %1").arg(nameOf(*picture)),
        [source, &engine = engine_](WorkControl& control) {
            return settledCutOut(engine, *source, {}, control);
        },
        [this, panel = document_->panel(), words = words->id, picture = picture->id,
         name = tr("%1 behind %2").arg(nameOf(*words), nameOf(*picture))](const CutFigure& figure) {
            const Made made =
                withWordsInside(document_->release(), panel, words, picture, figure.alpha, figure.edges);
            document_->edit(name, made.release);
        });
}

} // namespace glyptos
