// The words of one text layer, typed where they stand.
#pragma once

#include "app/bench/spelling_marks.h"
#include "app/session/document.h"
#include "app/widgets/words_box.h"
#include "release/fields.h"
#include "type/caret.h"

#include <QPointer>
#include <QTimer>

namespace glyptos {

/// Where the words stand: as they are set, and from there to the editor's parent.
struct WordsPlace {
    std::shared_ptr<const Paragraph> set;
    std::string text; ///< that it was set from, fields filled
    Affine toParent;
};

/// Shows what is typed as a preview; keeps it as one step when it loses the focus or on Ctrl+Enter, takes it
/// back on Esc. Knows its own panel and layer, so that it keeps its words also when another panel is taken in
/// hand meanwhile. Deletes itself when it is done, or when its release is closed. With a place it lies over
/// the words, draws nothing but caret, selection and fields, and takes fields as wholes; without one, as for
/// warped words, it is a box to type in.
class WordsEditor : public WordsBox {
    Q_OBJECT
  public:
    const SpellingMarks& spelling() const { return *spelling_; }
    /// `layer` must be a text layer of `panel`.
    WordsEditor(Document* document, const PanelRef& panel, const LayerPtr& layer, const Spelling& spelling,
                QWidget* parent);
    const std::string& layer() const { return layer_; }
    void finish(bool keep);
    /// Over its words, at this place.
    void stand(const WordsPlace& place);

  Q_SIGNALS:
    void finished();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    QVariant inputMethodQuery(Qt::InputMethodQuery query) const override;

  private:
    ReleasePtr written() const;
    void cursorMoved();
    void findFields();
    void paintMisspelt(QPainter& painter);
    /// Up, down and to the ends of lines, as the words are set.
    bool moveByLines(const QKeyEvent& event);
    void takeWholeField(int key);
    /// Alt and the arrows: the pair at the caret closer or wider, its line nearer to the one above or
    /// farther.
    bool setByHand(const QKeyEvent& event);
    // Bytes of the filled text, positions of the editor.
    size_t byteOf(int position) const;
    int positionOf(size_t byte) const;
    int positionAt(const QPointF& place) const;
    QPointF origin() const;
    void goTo(int position, bool select);
    std::optional<QLineF> caretLine() const;
    QPolygonF onEditor(const std::array<Vec2, 4>& box) const;

    QPointer<Document> document_;
    PanelRef panel_;
    std::string layer_, name_;
    QString before_;
    std::optional<WordsPlace> place_;
    SpellingMarks* spelling_; ///< its child
    QPointer<QMenu> menu_;    ///< while it is open
    std::vector<FieldSpan> fields_;
    std::optional<double> wantedX_; ///< while going up and down
    QTimer blink_;
    int last_ = 0; ///< position before the caret moved
    bool caretShows_ = true, moving_ = false, done_ = false;
};

} // namespace glyptos
