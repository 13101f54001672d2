// Words of a box that the dictionary of their language does not have: looked up beside the typing,
// underlined, with what may have been meant.
#pragma once

#include "type/spelling.h"

#include <QMenu>
#include <QPlainTextEdit>
#include <QTimer>
#include <functional>
#include <optional>

namespace glyptos {

class SpellingMarks : public QObject {
    Q_OBJECT
  public:
    /// `spec` gives what is written there now, with its letters.
    SpellingMarks(QPlainTextEdit& box, const Spelling& spelling,
                  std::function<std::optional<TextSpec>()> spec);
    /// Bytes of what is written.
    const std::vector<Misspelt>& words() const { return words_; }
    /// Whether what is written has been looked up.
    bool isKnown() const { return !pause_.isActive() && round_ == shown_; }
    /// Puts what may have been meant by the word at a position before all else in a menu.
    void offer(QMenu& menu, int position);

  private:
    void check();
    void show(const std::vector<Misspelt>& words);
    QTextCursor cursorOver(const Misspelt& word) const;

    QPlainTextEdit& box_;
    const Spelling& spelling_;
    std::function<std::optional<TextSpec>()> spec_;
    std::vector<Misspelt> words_;
    QTimer pause_; ///< in the typing
    int round_ = 0, shown_ = 0;
};

} // namespace glyptos
