#include "app/widgets/words_box.h"

#include "release/limits.h"

#include <QKeyEvent>
#include <QLocale>
#include <QMimeData>
#include <QTextDocument>

namespace glyptos {

bool WordsBox::isTooMuch(qsizetype more) {
    const QTextCursor cursor = textCursor();
    const qsizetype replaced = cursor.selectionEnd() - cursor.selectionStart();
    const qsizetype now = document()->characterCount() - 1; // the last one ends the document
    if (more <= replaced || now - replaced + more <= kMostCharacters) return false;
    Q_EMIT refused(
        tr("The words of one layer may have %1 characters, and these would be %2; nothing was added. "
           "Put some of them into another layer.")
            .arg(QLocale().toString(kMostCharacters), QLocale().toString(now - replaced + more)));
    return true;
}

void WordsBox::keyPressEvent(QKeyEvent* event) {
    const bool writes =
        !event->text().isEmpty() && (event->text()[0].isPrint() || event->key() == Qt::Key_Return ||
                                     event->key() == Qt::Key_Enter || event->key() == Qt::Key_Tab);
    const bool isOrder = event->modifiers() & Qt::ControlModifier;
    if (writes && !isOrder && isTooMuch(event->text().size())) return;
    QPlainTextEdit::keyPressEvent(event);
}

void WordsBox::inputMethodEvent(QInputMethodEvent* event) {
    if (isTooMuch(event->commitString().size())) return event->ignore();
    QPlainTextEdit::inputMethodEvent(event);
}

void WordsBox::insertFromMimeData(const QMimeData* source) {
    if (!isTooMuch(source->text().size())) QPlainTextEdit::insertFromMimeData(source);
}

} // namespace glyptos
