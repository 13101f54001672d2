// A field for words of any number of lines.
#pragma once

#include <QPlainTextEdit>

namespace glyptos {

/// Holds at most kMostCharacters (release/limits.h), unless it is given more by setPlainText(): what would
/// make them more when it is typed, pasted or dropped is refused as a whole, with a sentence.
class WordsBox : public QPlainTextEdit {
    Q_OBJECT
  public:
    using QPlainTextEdit::QPlainTextEdit;

  Q_SIGNALS:
    void refused(const QString& sentence);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void inputMethodEvent(QInputMethodEvent* event) override;
    void insertFromMimeData(const QMimeData* source) override;

  private:
    /// Whether so many more would be too many; it says so then.
    bool isTooMuch(qsizetype more);
};

} // namespace glyptos
