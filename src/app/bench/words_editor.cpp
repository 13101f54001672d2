#include "app/bench/words_editor.h"

#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "type/hand_setting.h"
#include "type/text_edits.h"

#include <QApplication>
#include <QKeyEvent>
#include <QPainter>

namespace glyptos {
namespace {

constexpr int kRoom = 6; // px round the words

size_t bytesIn(const QString& text, int position) {
    return size_t(QStringView(text).left(position).toUtf8().size());
}

} // namespace

WordsEditor::WordsEditor(Document* document, const PanelRef& panel, const LayerPtr& layer,
                         const Spelling& spelling, QWidget* parent)
    : WordsBox(parent)
    , document_(document)
    , panel_(panel)
    , layer_(layer->id)
    , name_(layer->name)
    , before_(QString::fromStdString(std::get<TextContent>(layer->content).spec.text)) {
    setPlainText(before_);
    spelling_ = new SpellingMarks(*this, spelling, [this]() -> std::optional<TextSpec> {
        if (!document_ || done_) return std::nullopt;
        const LayerPtr now = findLayer(stackOf(*document_->shown(), panel_), layer_);
        const auto* text = now ? now->as<TextContent>() : nullptr;
        return text ? std::optional(text->spec) : std::nullopt;
    });
    setAccessibleName(tr("Words of %1").arg(QString::fromStdString(name_)));
    setToolTip(
        tr("Fields such as {title} take their words from the brief. Ctrl+Enter keeps, Esc goes back."));
    connect(this, &QPlainTextEdit::textChanged, this, [this] {
        if (document_ && !done_) document_->preview(written());
    });
    connect(this, &QPlainTextEdit::cursorPositionChanged, this, &WordsEditor::cursorMoved);
    connect(this, &QPlainTextEdit::selectionChanged, viewport(), qOverload<>(&QWidget::update));
    connect(this, &WordsBox::refused, document, &Document::refused);
    connect(document, &QObject::destroyed, this, [this] { finish(false); });
    if (const int flash = QApplication::cursorFlashTime(); flash > 0) blink_.start(flash / 2);
    connect(&blink_, &QTimer::timeout, this, [this] {
        caretShows_ = !caretShows_;
        if (place_) viewport()->update();
    });
}

ReleasePtr WordsEditor::written() const {
    const std::string words = toPlainText().toStdString();
    return withChangedLayer(document_->release(), panel_, layer_, [&](Layer& l) {
        if (auto* text = std::get_if<TextContent>(&l.content)) text->spec = withText(text->spec, words);
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

void WordsEditor::stand(const WordsPlace& place) {
    if (!place_) {
        setFrameShape(QFrame::NoFrame);
        setLineWrapMode(QPlainTextEdit::NoWrap);
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setStyleSheet(QStringLiteral("background: transparent; border: none"));
        viewport()->setAutoFillBackground(false);
        setToolTip(QString());
    }
    place_ = place;
    findFields();
    const Rect box = place.toParent.mapBounds(place.set->box.united(place.set->ink));
    setGeometry(QRectF(box.x, box.y, box.w, box.h).toAlignedRect().adjusted(-kRoom, -kRoom, kRoom, kRoom));
    viewport()->update();
}

void WordsEditor::findFields() {
    fields_.clear();
    if (document_) fields_ = fieldSpans(toPlainText().toStdString(), *document_->shown());
}

/// Under the letters where they stand, however they lie.
void WordsEditor::paintMisspelt(QPainter& painter) {
    painter.setPen(QPen(theme().fault, 2, Qt::DotLine, Qt::RoundCap));
    for (const Misspelt& word : spelling_->words())
        for (const auto& box :
             boxesBetween(*place_->set, filledByte(fields_, word.from), filledByte(fields_, word.to))) {
            const QPolygonF corners = onEditor(box);
            painter.drawLine(corners[3], corners[2]);
        }
}

void WordsEditor::contextMenuEvent(QContextMenuEvent* event) {
    menu_ = createStandardContextMenu();
    menu_->setAttribute(Qt::WA_DeleteOnClose);
    spelling_->offer(*menu_, place_ ? positionAt(event->pos()) : cursorForPosition(event->pos()).position());
    menu_->popup(event->globalPos());
}

size_t WordsEditor::byteOf(int position) const {
    return filledByte(fields_, bytesIn(toPlainText(), position));
}

int WordsEditor::positionOf(size_t byte) const {
    const QByteArray utf8 = toPlainText().toUtf8();
    return int(QString::fromUtf8(utf8.left(qsizetype(writtenByte(fields_, byte)))).size());
}

int WordsEditor::positionAt(const QPointF& place) const {
    const auto back = place_->toParent.inverse();
    if (!back) return textCursor().position();
    const QPointF onParent = place + origin();
    return positionOf(byteAt(*place_->set, place_->text, back->map({onParent.x(), onParent.y()})));
}

/// Of what is drawn, on the parent: a style may leave room round it.
QPointF WordsEditor::origin() const {
    return viewport()->mapTo(parentWidget(), QPoint());
}

void WordsEditor::goTo(int position, bool select) {
    QTextCursor cursor = textCursor();
    cursor.setPosition(position, select ? QTextCursor::KeepAnchor : QTextCursor::MoveAnchor);
    setTextCursor(cursor);
}

/// A caret does not stand inside a field: it goes on to the end that it was on its way to.
void WordsEditor::cursorMoved() {
    if (!place_ || moving_) return;
    findFields();
    caretShows_ = true;
    const int position = textCursor().position();
    const size_t byte = bytesIn(toPlainText(), position);
    for (const FieldSpan& field : fields_)
        if (byte > field.from && byte < field.to) {
            const QByteArray utf8 = toPlainText().toUtf8();
            const size_t end = position > last_ ? field.to : field.from;
            moving_ = true;
            goTo(int(QString::fromUtf8(utf8.left(qsizetype(end))).size()), textCursor().hasSelection());
            moving_ = false;
        }
    last_ = textCursor().position();
    viewport()->update();
}

/// Deleting at the edge of a field deletes all of it.
void WordsEditor::takeWholeField(int key) {
    if (textCursor().hasSelection()) return;
    const QString text = toPlainText();
    const size_t byte = bytesIn(text, textCursor().position());
    for (const FieldSpan& field : fields_) {
        if (byte != (key == Qt::Key_Backspace ? field.to : field.from)) continue;
        const QByteArray utf8 = text.toUtf8();
        QTextCursor whole = textCursor();
        moving_ = true;
        whole.setPosition(int(QString::fromUtf8(utf8.left(qsizetype(field.from))).size()));
        whole.setPosition(int(QString::fromUtf8(utf8.left(qsizetype(field.to))).size()),
                          QTextCursor::KeepAnchor);
        setTextCursor(whole);
        moving_ = false;
        return;
    }
}

bool WordsEditor::moveByLines(const QKeyEvent& event) {
    if (event.modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return false;
    const bool select = event.modifiers() & Qt::ShiftModifier;
    const size_t byte = byteOf(textCursor().position());
    switch (event.key()) {
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const auto caret = caretAt(*place_->set, place_->text, byte);
        const double x = wantedX_.value_or(caret ? caret->x : 0);
        goTo(positionOf(
                 byteOnNextLine(*place_->set, place_->text, byte, event.key() == Qt::Key_Up ? -1 : 1, x)),
             select);
        wantedX_ = x;
        return true;
    }
    case Qt::Key_Home:
        goTo(positionOf(lineAround(*place_->set, byte).first), select);
        return true;
    case Qt::Key_End:
        goTo(positionOf(lineAround(*place_->set, byte).second), select);
        return true;
    default:
        return false;
    }
}

bool WordsEditor::setByHand(const QKeyEvent& event) {
    constexpr double kKernStep = 0.01, kLeadingStep = 0.05; // em
    const int key = event.key();
    const bool kerns = key == Qt::Key_Left || key == Qt::Key_Right;
    if (!(event.modifiers() & Qt::AltModifier) || !(kerns || key == Qt::Key_Up || key == Qt::Key_Down))
        return false;
    const size_t at = bytesIn(toPlainText(), textCursor().position());
    const auto [from, to] = lineAround(*place_->set, byteOf(textCursor().position()));
    const size_t lineFrom = writtenByte(fields_, from), lineTo = writtenByte(fields_, to);
    const bool more = key == Qt::Key_Right || key == Qt::Key_Down;
    const ReleasePtr next = withChangedLayer(written(), panel_, layer_, [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (!text) return;
        TextSpec& spec = text->spec;
        spec = kerns ? withKern(spec, at, kernAt(spec, at) + (more ? kKernStep : -kKernStep))
                     : withLeading(
                           spec, lineFrom, lineTo,
                           std::max(leadingOf(spec, lineFrom, lineTo) + (more ? kLeadingStep : -kLeadingStep),
                                    0.0));
    });
    const QString name = kerns ? tr("Kern a pair of %1") : tr("Leading of a line of %1");
    before_ = toPlainText(); // kept with it
    document_->edit(name.arg(QString::fromStdString(name_)), next,
                    QStringLiteral("%1 %2").arg(kerns ? "kern" : "leading").arg(at));
    return true;
}

void WordsEditor::keyPressEvent(QKeyEvent* event) {
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (event->key() == Qt::Key_Escape) return finish(false);
    if (enter && event->modifiers() & Qt::ControlModifier) return finish(true);
    if (place_ && document_ && setByHand(*event)) return;
    if (place_ && moveByLines(*event)) return;
    wantedX_.reset();
    if (place_ && (event->key() == Qt::Key_Backspace || event->key() == Qt::Key_Delete))
        takeWholeField(event->key());
    WordsBox::keyPressEvent(event);
}

void WordsEditor::focusOutEvent(QFocusEvent* event) {
    WordsBox::focusOutEvent(event);
    // Its own context menu takes the focus only for a while.
    if (event->reason() == Qt::PopupFocusReason || menu_) return;
    const QTextCursor cursor = textCursor();
    const QString text = toPlainText();
    const Document::Letters marked{bytesIn(text, cursor.selectionStart()),
                                   bytesIn(text, cursor.selectionEnd())};
    const QPointer<Document> document = document_;
    finish(true);
    // What was marked stays in hand for the figures.
    if (document && document->layer() == layer_) document->setLettersInHand(marked);
}

void WordsEditor::mousePressEvent(QMouseEvent* event) {
    if (!place_ || event->button() != Qt::LeftButton) return WordsBox::mousePressEvent(event);
    wantedX_.reset();
    goTo(positionAt(event->position()), event->modifiers() & Qt::ShiftModifier);
}

void WordsEditor::mouseMoveEvent(QMouseEvent* event) {
    if (!place_) return WordsBox::mouseMoveEvent(event);
    if (event->buttons() & Qt::LeftButton) goTo(positionAt(event->position()), true);
}

void WordsEditor::mouseReleaseEvent(QMouseEvent* event) {
    if (!place_) WordsBox::mouseReleaseEvent(event);
}

void WordsEditor::mouseDoubleClickEvent(QMouseEvent* event) {
    if (!place_) return WordsBox::mouseDoubleClickEvent(event);
    goTo(positionAt(event->position()), false);
    QTextCursor word = textCursor();
    word.select(QTextCursor::WordUnderCursor);
    setTextCursor(word);
}

QPolygonF WordsEditor::onEditor(const std::array<Vec2, 4>& box) const {
    QPolygonF out;
    for (const Vec2& corner : box) {
        const Vec2 p = place_->toParent.map(corner);
        out << QPointF(p.x, p.y) - origin();
    }
    return out;
}

std::optional<QLineF> WordsEditor::caretLine() const {
    const auto caret = caretAt(*place_->set, place_->text, byteOf(textCursor().position()));
    if (!caret) return std::nullopt;
    const QPolygonF ends = onEditor({caret->top, caret->bottom, caret->bottom, caret->top});
    return QLineF(ends[0], ends[1]);
}

void WordsEditor::paintEvent(QPaintEvent* event) {
    if (!place_) return WordsBox::paintEvent(event);
    QPainter painter(viewport());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    QColor wash = theme().accent;
    const auto fill = [&](size_t from, size_t to, int alpha) {
        wash.setAlpha(alpha);
        painter.setBrush(wash);
        for (const auto& box : boxesBetween(*place_->set, from, to)) painter.drawPolygon(onEditor(box));
    };
    for (const FieldSpan& field : fields_)
        fill(filledByte(fields_, field.from), filledByte(fields_, field.to), 40);
    paintMisspelt(painter);
    painter.setPen(Qt::NoPen);
    const QTextCursor cursor = textCursor();
    fill(byteOf(cursor.selectionStart()), byteOf(cursor.selectionEnd()), 110);
    const auto caret = caretLine();
    if (!caret || !caretShows_) return;
    // Seen on any ground.
    painter.setPen(QPen(theme().paper, 3.5));
    painter.drawLine(*caret);
    painter.setPen(QPen(theme().accent, 2));
    painter.drawLine(*caret);
}

QVariant WordsEditor::inputMethodQuery(Qt::InputMethodQuery query) const {
    if (place_ && query == Qt::ImCursorRectangle)
        if (const auto caret = caretLine())
            return QRectF(caret->p1(), caret->p2()).normalized().toAlignedRect().adjusted(-1, 0, 1, 0);
    return WordsBox::inputMethodQuery(query);
}

} // namespace glyptos
