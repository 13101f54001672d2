// What can be made of the words in hand: filled with a picture, shapes, a mask, letters of their own, words
// behind a figure.
#pragma once

#include "app/compose/compose_view.h"
#include "render/lettering/words_apart.h"

#include <QMenu>

namespace glyptos {

class LetterMenu : public QMenu {
    Q_OBJECT
  public:
    LetterMenu(Engine& engine, ComposeView& view, QWidget* parent = nullptr);
    void setDocument(Document* document);

  private:
    LayerPtr words() const;
    void fillPictures();
    void fillWith(const SourcePtr& picture);
    void makeShapes();
    void makeMask();
    void takeApart(Apart how);
    /// Between a figure and its ground.
    void putBehind();
    LayerPtr figureFor(const Layer& words) const;
    void cutOutBefore(const LayerPtr& words, const LayerPtr& picture);
    void refresh();

    Engine& engine_;
    ComposeView& view_;
    Document* document_ = nullptr;
    QMenu* pictures_;
};

} // namespace glyptos
