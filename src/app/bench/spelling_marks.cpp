#include "app/bench/spelling_marks.h"

#include "app/session/background.h"
#include "app/widgets/theme.h"
#include "type/text_edits.h"

#include <algorithm>

namespace glyptos {

SpellingMarks::SpellingMarks(QPlainTextEdit& box, const Spelling& spelling,
                             std::function<std::optional<TextSpec>()> spec)
    : QObject(&box)
    , box_(box)
    , spelling_(spelling)
    , spec_(std::move(spec)) {
    constexpr int kPauseMs = 250;
    pause_.setSingleShot(true), pause_.setInterval(kPauseMs);
    connect(&pause_, &QTimer::timeout, this, &SpellingMarks::check);
    connect(&box, &QPlainTextEdit::textChanged, this, [this] {
        show({}); // where they were is not where they are
        pause_.start();
    });
    pause_.start();
}

void SpellingMarks::check() {
    const auto spec = spec_();
    if (!spec) return;
    inBackground([spec = *spec, &spelling = spelling_]() -> Result<std::vector<Misspelt>> {
        return spelling.misspelt(spec);
    }).then(this, [this, round = ++round_](const Result<std::vector<Misspelt>>& words) {
        if (round != round_ || pause_.isActive()) return;
        shown_ = round;
        show(words.value_or(std::vector<Misspelt>()));
    });
}

QTextCursor SpellingMarks::cursorOver(const Misspelt& word) const {
    const QByteArray utf8 = box_.toPlainText().toUtf8();
    const auto position = [&](size_t byte) {
        return int(QString::fromUtf8(utf8.left(qsizetype(byte))).size());
    };
    QTextCursor out = box_.textCursor();
    out.setPosition(position(word.from));
    out.setPosition(position(word.to), QTextCursor::KeepAnchor);
    return out;
}

void SpellingMarks::show(const std::vector<Misspelt>& words) {
    words_ = words;
    QList<QTextEdit::ExtraSelection> marks;
    for (const Misspelt& word : words_) {
        QTextEdit::ExtraSelection mark;
        mark.cursor = cursorOver(word);
        mark.format.setUnderlineStyle(QTextCharFormat::DotLine);
        mark.format.setUnderlineColor(theme().fault);
        marks << mark;
    }
    box_.setExtraSelections(marks);
    box_.viewport()->update();
}

void SpellingMarks::offer(QMenu& menu, int position) {
    constexpr size_t kMost = 6;
    const auto word = std::find_if(words_.begin(), words_.end(), [&](const Misspelt& m) {
        const QTextCursor over = cursorOver(m);
        return position >= over.selectionStart() && position <= over.selectionEnd();
    });
    const auto spec = spec_();
    if (word == words_.end() || !spec) return;
    const QTextCursor over = cursorOver(*word);
    const std::string& language = lettersAt(*spec, word->from).language;
    QAction* const first = menu.actions().value(0);
    QList<QAction*> offers;
    for (const std::string& meant :
         spelling_.suggestions(over.selectedText().toStdString(), language, kMost)) {
        auto* offer = new QAction(QString::fromStdString(meant), &menu);
        connect(offer, &QAction::triggered, this,
                [over, offer] { QTextCursor(over).insertText(offer->text()); });
        offers << offer;
    }
    if (offers.isEmpty()) {
        offers << new QAction(tr("Nothing like “%1” is known").arg(over.selectedText()), &menu);
        offers.back()->setEnabled(false);
    }
    menu.insertActions(first, offers);
    menu.insertSeparator(first);
}

} // namespace glyptos
