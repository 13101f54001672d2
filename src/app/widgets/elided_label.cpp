#include "app/widgets/elided_label.h"

#include "app/session/words.h"
#include "base/text.h"

namespace glyptos {

ElidedLabel::ElidedLabel(QWidget* parent)
    : QLabel(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    setProperty("role", "soft");
}

void ElidedLabel::setWords(const QString& words) {
    const QString shown = q(visible(words.toStdString()));
    if (shown == words_) return;
    words_ = shown;
    setAccessibleName(shown);
    updateGeometry();
    fit();
}

void ElidedLabel::fit() {
    const QString shown = fontMetrics().elidedText(words_, Qt::ElideRight, width());
    setText(shown);
    setToolTip(shown == words_ ? QString() : words_);
}

QSize ElidedLabel::sizeHint() const {
    return {fontMetrics().horizontalAdvance(words_) + 2, QLabel::sizeHint().height()};
}

QSize ElidedLabel::minimumSizeHint() const {
    return {0, QLabel::minimumSizeHint().height()};
}

void ElidedLabel::resizeEvent(QResizeEvent* event) {
    QLabel::resizeEvent(event);
    fit();
}

} // namespace glyptos
