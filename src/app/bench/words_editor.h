// The field in which the words of one text layer are typed, right below where they stand.
#pragma once

#include "app/session/document.h"
#include "app/widgets/words_box.h"

#include <QPointer>

namespace glyptos {

/// Shows what is typed as a preview; keeps it as one step when it loses the focus or on Ctrl+Enter, takes it
/// back on Esc. Knows its own panel and layer, so that it keeps its words also when another panel is taken in
/// hand meanwhile. Deletes itself when it is done, or when its release is closed.
class WordsEditor : public WordsBox {
    Q_OBJECT
  public:
    /// `layer` must be a text layer of `panel`.
    WordsEditor(Document* document, const PanelRef& panel, const LayerPtr& layer, QWidget* parent);
    const std::string& layer() const { return layer_; }
    void finish(bool keep);

  Q_SIGNALS:
    void finished();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    ReleasePtr written() const;

    QPointer<Document> document_;
    PanelRef panel_;
    std::string layer_, name_;
    QString before_;
    bool done_ = false;
};

} // namespace glyptos
