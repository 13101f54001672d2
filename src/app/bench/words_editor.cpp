#include "app/bench/words_editor.h"

#include "release/edits/edits.h"

#include <QKeyEvent>

namespace glyptos {

WordsEditor::WordsEditor(Document* document, const PanelRef& panel, const LayerPtr& layer, QWidget* parent)
    : WordsBox(parent)
    , document_(document)
    , panel_(panel)
    , layer_(layer->id)
    , name_(layer->name)
    , before_(QString::fromStdString(std::get<TextContent>(layer->content).spec.text)) {
    setPlainText(before_);
    setAccessibleName(tr("Words of %1").arg(QString::fromStdString(name_)));
    setToolTip(
        tr("Fields such as {title} take their words from the brief. Ctrl+Enter keeps, Esc goes back."));
    connect(this, &QPlainTextEdit::textChanged, this, [this] {
        if (document_ && !done_) document_->preview(written());
    });
    connect(this, &WordsBox::refused, document, &Document::refused);
    connect(document, &QObject::destroyed, this, [this] { finish(false); });
}

ReleasePtr WordsEditor::written() const {
    const std::string words = toPlainText().toStdString();
    return withChangedLayer(document_->release(), panel_, layer_, [&](Layer& l) {
        if (auto* text = std::get_if<TextContent>(&l.content)) text->spec.text = words;
    });
}

void WordsEditor::finish(bool keep) {
    if (std::exchange(done_, true)) return;
    if (document_ && keep && toPlainText() != before_)
        document_->edit(tr("Write %1").arg(QString::fromStdString(name_)), written());
    else if (document_)
        document_->preview(nullptr);
    Q_EMIT finished();
    deleteLater();
}

void WordsEditor::keyPressEvent(QKeyEvent* event) {
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (event->key() == Qt::Key_Escape) return finish(false);
    if (enter && event->modifiers() & Qt::ControlModifier) return finish(true);
    WordsBox::keyPressEvent(event);
}

void WordsEditor::focusOutEvent(QFocusEvent* event) {
    WordsBox::focusOutEvent(event);
    // Its own context menu takes the focus only for a while.
    if (event->reason() != Qt::PopupFocusReason) finish(true);
}

} // namespace glyptos
