#include "app/gather/source_grid.h"

#include "app/session/words.h"
#include "app/widgets/theme.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QDrag>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QUrl>

namespace glyptos {
namespace {

constexpr int kCellWidth = 148, kPicture = 118, kWords = 38, kMargin = 10;
constexpr int kCellHeight = kPicture + kWords + 10;

QString secondLine(const CrateEntry& e, bool used) {
    QString out = SourceGrid::tr(nameOf(e.facts.kind)).toLower();
    if (e.width > 0) out += QStringLiteral(" · %1 × %2").arg(e.width).arg(e.height);
    return used ? SourceGrid::tr("in use") + QStringLiteral(" · ") + out : out;
}

} // namespace

SourceGrid::SourceGrid(CrateService& service, ThumbnailStore& thumbnails, QWidget* parent)
    : QAbstractScrollArea(parent)
    , service_(service)
    , thumbnails_(thumbnails)
    , nameFont_(uiFont(12, 500))
    , secondFont_(uiFont(11)) {
    setFocusPolicy(Qt::StrongFocus);
    setFrameShape(QFrame::NoFrame);
    setAccessibleName(tr("Sources"));
    viewport()->setMouseTracking(true);
    verticalScrollBar()->setSingleStep(kCellHeight / 3);
    connect(&thumbnails_, &ThumbnailStore::arrived, viewport(), qOverload<>(&QWidget::update));
}

void SourceGrid::setEntries(std::vector<EntryPtr> entries) {
    entries_ = std::move(entries);
    std::set<std::string> there;
    for (const EntryPtr& e : entries_)
        if (chosen_.contains(e->id)) there.insert(e->id);
    const bool other = there != chosen_;
    chosen_ = std::move(there);
    if (!chosen_.contains(current_)) current_ = chosen_.empty() ? std::string() : *chosen_.begin();
    words_.clear();
    refreshRange();
    viewport()->update();
    if (other) Q_EMIT chosenChanged();
}

void SourceGrid::setUsed(std::set<std::string> used) {
    used_ = std::move(used);
    viewport()->update();
}

void SourceGrid::setEmptyText(const QString& text) {
    emptyText_ = text;
    viewport()->update();
}

std::vector<EntryPtr> SourceGrid::chosen() const {
    std::vector<EntryPtr> out;
    for (const EntryPtr& e : entries_)
        if (chosen_.contains(e->id)) out.push_back(e);
    return out;
}

EntryPtr SourceGrid::current() const {
    for (const EntryPtr& e : entries_)
        if (e->id == current_) return e;
    return nullptr;
}

void SourceGrid::choose(const std::string& id) {
    for (size_t i = 0; i < entries_.size(); ++i)
        if (entries_[i]->id == id) {
            setCurrent(i, Qt::NoModifier);
            return reveal(i);
        }
}

int SourceGrid::columns() const {
    return std::max(1, (viewport()->width() - kMargin) / kCellWidth);
}

QRect SourceGrid::cell(size_t index) const {
    const int n = columns(), spare = viewport()->width() - n * kCellWidth;
    const int column = int(index) % n, row = int(index) / n;
    return {spare / 2 + column * kCellWidth, kMargin + row * kCellHeight - verticalScrollBar()->value(),
            kCellWidth, kCellHeight};
}

QRect SourceGrid::cellOf(const std::string& id) const {
    for (size_t i = 0; i < entries_.size(); ++i)
        if (entries_[i]->id == id && cell(i).intersects(viewport()->rect())) return cell(i);
    return {};
}

std::optional<size_t> SourceGrid::at(QPoint p) const {
    const int n = columns(), spare = viewport()->width() - n * kCellWidth;
    const int x = p.x() - spare / 2, y = p.y() - kMargin + verticalScrollBar()->value();
    if (x < 0 || y < 0 || x >= n * kCellWidth) return std::nullopt;
    const size_t index = size_t(y / kCellHeight) * size_t(n) + size_t(x / kCellWidth);
    return index < entries_.size() ? std::optional(index) : std::nullopt;
}

void SourceGrid::refreshRange() {
    const int rows = (int(entries_.size()) + columns() - 1) / columns();
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setRange(0, std::max(0, rows * kCellHeight + 2 * kMargin - viewport()->height()));
}

void SourceGrid::reveal(size_t index) {
    const QRect r = cell(index);
    QScrollBar* bar = verticalScrollBar();
    if (r.top() < 0)
        bar->setValue(bar->value() + r.top() - kMargin);
    else if (r.bottom() > viewport()->height())
        bar->setValue(bar->value() + r.bottom() - viewport()->height() + kMargin);
}

void SourceGrid::paintEvent(QPaintEvent*) {
    thumbnails_.setCell((QSizeF(kPicture, kPicture - 6) * devicePixelRatioF()).toSize());
    QPainter painter(viewport());
    painter.fillRect(viewport()->rect(), theme().paper);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setRenderHint(QPainter::Antialiasing);
    if (entries_.empty()) {
        painter.setPen(theme().softInk);
        painter.setFont(uiFont(13));
        painter.drawText(viewport()->rect().adjusted(40, 40, -40, -40), Qt::AlignCenter | Qt::TextWordWrap,
                         emptyText_);
        return;
    }
    const size_t first =
        size_t(std::max(0, verticalScrollBar()->value() - kMargin) / kCellHeight) * size_t(columns());
    for (size_t i = first; i < entries_.size(); ++i) {
        const QRect r = cell(i);
        if (r.top() > viewport()->height()) break;
        paintCell(painter, entries_[i], r);
    }
}

void SourceGrid::paintCell(QPainter& painter, const EntryPtr& entry, const QRect& cell) {
    const Theme& t = theme();
    const bool isChosen = chosen_.contains(entry->id);
    const QRectF card = QRectF(cell).adjusted(4.5, 3.5, -4.5, -3.5);
    if (isChosen) {
        painter.setPen(QPen(t.accent, entry->id == current_ && hasFocus() ? 2 : 1));
        painter.setBrush(t.accentWash);
        painter.drawRoundedRect(card, 7, 7);
    }
    const QRect area(cell.left() + (kCellWidth - kPicture) / 2, cell.top() + 8, kPicture, kPicture - 6);
    QImage image = thumbnails_.fitted(entry, service_.fileOf(*entry));
    if (!image.isNull()) {
        image.setDevicePixelRatio(devicePixelRatioF());
        const QSize size = image.deviceIndependentSize().toSize();
        const QRect place(area.center().x() - size.width() / 2 + 1, area.center().y() - size.height() / 2 + 1,
                          size.width(), size.height());
        if (image.hasAlphaChannel()) { // neutral, so that dark and pale elements are seen by day and by night
            painter.setPen(Qt::NoPen);
            painter.setBrush(t.bench);
            painter.drawRoundedRect(QRectF(place), 6, 6);
        }
        painter.drawImage(place.topLeft(), image);
    } else {
        painter.setPen(QPen(t.hairline, 1, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(area.adjusted(8, 8, -8, -8));
        painter.setPen(t.softInk);
        painter.setFont(uiFont(11));
        if (thumbnails_.isMissing(entry->id))
            painter.drawText(area, Qt::AlignCenter | Qt::TextWordWrap, tr("The file is gone"));
    }
    const QRect words(cell.left() + 10, cell.top() + kPicture + 4, kCellWidth - 20, 17);
    const Words& says = wordsOf(entry, words.width());
    painter.setPen(t.ink);
    painter.setFont(nameFont_);
    painter.drawText(words, Qt::AlignCenter, says.name);
    painter.setPen(t.softInk);
    painter.setFont(secondFont_);
    painter.drawText(words.translated(0, 16), Qt::AlignCenter, says.second);
}

/// Shortened to fit, once.
const SourceGrid::Words& SourceGrid::wordsOf(const EntryPtr& entry, int width) {
    const bool used = used_.contains(entry->id);
    Words& words = words_[entry->id];
    if (words.entry != entry || words.used != used) {
        words = {entry, used, QFontMetrics(nameFont_).elidedText(q(entry->name()), Qt::ElideRight, width),
                 QFontMetrics(secondFont_).elidedText(secondLine(*entry, used), Qt::ElideRight, width)};
    }
    return words;
}

void SourceGrid::resizeEvent(QResizeEvent*) {
    refreshRange();
}

void SourceGrid::setCurrent(size_t index, Qt::KeyboardModifiers keys) {
    const std::string& id = entries_[index]->id;
    if (keys & Qt::ControlModifier) {
        if (!chosen_.insert(id).second) chosen_.erase(id);
    } else if ((keys & Qt::ShiftModifier) && !current_.empty()) {
        size_t from = index;
        for (size_t i = 0; i < entries_.size(); ++i)
            if (entries_[i]->id == current_) from = i;
        for (size_t i = std::min(from, index); i <= std::max(from, index); ++i)
            chosen_.insert(entries_[i]->id);
    } else {
        chosen_ = {id};
    }
    current_ = chosen_.contains(id) ? id : chosen_.empty() ? std::string() : *chosen_.begin();
    viewport()->update();
    Q_EMIT chosenChanged();
}

void SourceGrid::mousePressEvent(QMouseEvent* event) {
    pressed_ = event->position().toPoint();
    const auto hit = at(pressed_);
    mayDrag_ = hit && event->button() == Qt::LeftButton;
    chooseOnRelease_ = false;
    if (!hit) {
        if (!(event->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier)) && !chosen_.empty()) {
            chosen_.clear();
            current_.clear();
            viewport()->update();
            Q_EMIT chosenChanged();
        }
        return;
    }
    // One of several that are chosen may be the beginning of a drag of all of them.
    if (chosen_.contains(entries_[*hit]->id) && event->modifiers() == Qt::NoModifier && chosen_.size() > 1)
        chooseOnRelease_ = true;
    else
        setCurrent(*hit, event->modifiers());
}

void SourceGrid::mouseMoveEvent(QMouseEvent* event) {
    if (!mayDrag_ || !dragging_ || !(event->buttons() & Qt::LeftButton)) return;
    if ((event->position().toPoint() - pressed_).manhattanLength() < QApplication::startDragDistance())
        return;
    mayDrag_ = chooseOnRelease_ = false;
    startDrag();
}

void SourceGrid::mouseReleaseEvent(QMouseEvent* event) {
    mayDrag_ = false;
    const auto hit = at(event->position().toPoint());
    if (std::exchange(chooseOnRelease_, false) && hit) setCurrent(*hit, Qt::NoModifier);
}

void SourceGrid::startDrag() {
    QList<QUrl> files;
    for (const EntryPtr& e : chosen()) files << QUrl::fromLocalFile(q(service_.fileOf(*e).string()));
    if (files.isEmpty()) return;
    auto* drag = new QDrag(this);
    auto* data = new QMimeData;
    data->setUrls(files);
    drag->setMimeData(data);
    if (const EntryPtr e = current()) {
        const QImage image = thumbnails_.get(e, service_.fileOf(*e));
        if (!image.isNull())
            drag->setPixmap(
                QPixmap::fromImage(image.scaled(96, 96, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
    }
    drag->exec(Qt::CopyAction);
}

void SourceGrid::mouseDoubleClickEvent(QMouseEvent* event) {
    if (at(event->position().toPoint()) && current()) Q_EMIT activated();
}

/// Keys that are shortcuts of the window and mean these sources here.
bool SourceGrid::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride &&
        static_cast<QKeyEvent*>(event)->matches(QKeySequence::SelectAll)) {
        event->accept();
        return true;
    }
    return QAbstractScrollArea::event(event);
}

void SourceGrid::keyPressEvent(QKeyEvent* event) {
    if (entries_.empty()) return QAbstractScrollArea::keyPressEvent(event);
    size_t now = 0;
    bool any = false;
    for (size_t i = 0; i < entries_.size(); ++i)
        if (entries_[i]->id == current_) now = i, any = true;
    const int step = event->key() == Qt::Key_Right  ? 1
                     : event->key() == Qt::Key_Left ? -1
                     : event->key() == Qt::Key_Down ? columns()
                     : event->key() == Qt::Key_Up   ? -columns()
                                                    : 0;
    if (event->matches(QKeySequence::SelectAll)) {
        for (const EntryPtr& e : entries_) chosen_.insert(e->id);
        viewport()->update();
        return Q_EMIT chosenChanged();
    }
    if (step != 0) {
        const int next = any ? std::clamp(int(now) + step, 0, int(entries_.size()) - 1) : 0;
        setCurrent(size_t(next), event->modifiers() & Qt::ShiftModifier);
        return reveal(size_t(next));
    }
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && current())
        return Q_EMIT activated();
    QAbstractScrollArea::keyPressEvent(event);
}

void SourceGrid::contextMenuEvent(QContextMenuEvent* event) {
    if (const auto hit = at(event->pos()); hit && !chosen_.contains(entries_[*hit]->id))
        setCurrent(*hit, Qt::NoModifier);
    if (current()) Q_EMIT menuAsked(event->globalPos());
}

void SourceGrid::focusInEvent(QFocusEvent*) {
    viewport()->update();
}
void SourceGrid::focusOutEvent(QFocusEvent*) {
    viewport()->update();
}

} // namespace glyptos
