#include "app/letter/specimen_list.h"

#include "app/letter/words_picture.h"
#include "app/session/background.h"
#include "app/widgets/theme.h"

#include <QKeyEvent>
#include <QPainter>
#include <QScrollBar>

namespace glyptos {
namespace {

constexpr int kRow = 74, kSide = 12, kPicture = 46, kStarWidth = 52;
constexpr double kCapitals = 21; // px
constexpr int kRestMs = 70;      // a pointer that goes over rows tries none of them
constexpr int kMostPictures = 400;

} // namespace

SpecimenList::SpecimenList(const FontLibrary& fonts, QWidget* parent)
    : QAbstractScrollArea(parent)
    , fonts_(fonts)
    , pictures_(kMostPictures) {
    setAccessibleName(tr("Typefaces"));
    setFocusPolicy(Qt::StrongFocus);
    viewport()->setMouseTracking(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    verticalScrollBar()->setSingleStep(kRow / 2);
    workers_.setMaxThreadCount(2);
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, [this] { Q_EMIT tried(hovered_); });
}

SpecimenList::~SpecimenList() {
    workers_.clear();
    workers_.waitForDone();
}

void SpecimenList::setWords(const TextSpec& words) {
    TextSpec bare = words;
    bare.letters.family.clear(), bare.letters.style.clear(), bare.letters.axes.clear();
    if (bare == words_) return;
    words_ = std::move(bare);
    forgetPictures();
}

void SpecimenList::setRows(std::vector<Specimen> rows) {
    rows_ = std::move(rows);
    current_ = std::min(current_, int(rows_.size()) - 1);
    hovered_ = -1;
    updateBar();
    viewport()->update();
}

void SpecimenList::forgetPictures() {
    ++round_;
    workers_.clear();
    asked_.clear();
    pictures_.clear();
    viewport()->update();
}

void SpecimenList::setCurrent(int row) {
    current_ = rows_.empty() ? -1 : std::clamp(row, 0, int(rows_.size()) - 1);
    if (current_ >= 0) {
        const int top = current_ * kRow, shown = verticalScrollBar()->value();
        if (top < shown) verticalScrollBar()->setValue(top);
        if (top + kRow > shown + viewport()->height())
            verticalScrollBar()->setValue(top + kRow - viewport()->height());
    }
    viewport()->update();
}

QRect SpecimenList::rowRect(int row) const {
    return {0, row * kRow - verticalScrollBar()->value(), viewport()->width(), kRow};
}

QRect SpecimenList::starRect(int row) const {
    const QRect all = rowRect(row);
    return {all.right() - kSide - kStarWidth, all.top() + kPicture + 6, kStarWidth, kRow - kPicture - 8};
}

int SpecimenList::rowAt(const QPoint& place) const {
    const int row = (place.y() + verticalScrollBar()->value()) / kRow;
    return place.y() >= 0 && row < int(rows_.size()) ? row : -1;
}

QSize SpecimenList::pictureSize() const {
    return QSize(std::max(viewport()->width() - 2 * kSide, 1), kPicture) * devicePixelRatioF();
}

QString SpecimenList::nameOf(const Specimen& row) const {
    return QString::fromStdString(row.family + '\n' + row.style);
}

const QImage* SpecimenList::picture(int row) {
    if (const QImage* known = pictures_.object(nameOf(rows_[size_t(row)]))) return known;
    ask(row);
    return nullptr;
}

void SpecimenList::ask(int row) {
    const Specimen& one = rows_[size_t(row)];
    const QString name = nameOf(one);
    if (asked_.contains(name)) return;
    asked_.insert(name);
    TextSpec words = words_;
    words.letters.family = one.family, words.letters.style = one.style;
    const QColor ink = palette().color(QPalette::WindowText);
    const double capitals = kCapitals * devicePixelRatioF();
    QtConcurrent::run(&workers_, [this, words, size = pictureSize(), capitals, ink] {
        return wordsPicture(words, fonts_, size, capitals, ink);
    }).then(this, [this, name, round = round_](const QImage& image) { arrived(name, round, image); });
}

void SpecimenList::arrived(const QString& name, quint64 round, const QImage& image) {
    if (round != round_) return;
    asked_.remove(name);
    auto made = std::make_unique<QImage>(image);
    made->setDevicePixelRatio(devicePixelRatioF());
    pictures_.insert(name, made.release());
    viewport()->update();
    if (asked_.isEmpty()) Q_EMIT settled();
}

bool SpecimenList::isSettled() const {
    for (int row = 0; row < int(rows_.size()); ++row)
        if (rowRect(row).intersects(viewport()->rect()) && !pictures_.contains(nameOf(rows_[size_t(row)])))
            return false;
    return true;
}

void SpecimenList::paintEvent(QPaintEvent*) {
    QPainter painter(viewport());
    const int first = verticalScrollBar()->value() / kRow;
    for (int row = first; row < int(rows_.size()) && rowRect(row).top() < viewport()->height(); ++row)
        paintRow(painter, row);
    if (rows_.empty())
        painter.drawText(viewport()->rect().adjusted(kSide, 0, -kSide, 0), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("No face is like that."));
}

void SpecimenList::paintRow(QPainter& painter, int row) {
    const Specimen& one = rows_[size_t(row)];
    const Theme& look = theme();
    const QRect all = rowRect(row);
    if (row == current_ || row == hovered_)
        painter.fillRect(all, row == current_ ? look.accentWash : look.sheet);
    if (row == current_ && hasFocus()) {
        painter.setPen(look.accent);
        painter.drawRect(all.adjusted(0, 0, -1, -1));
    }
    if (const QImage* image = picture(row)) painter.drawImage(QPoint(kSide, all.top() + 4), *image);
    painter.setFont(uiFont(11, 600));
    painter.setPen(look.ink);
    const QRect line(kSide, all.top() + kPicture + 6, all.width() - 3 * kSide - kStarWidth,
                     kRow - kPicture - 8);
    const QString family = QString::fromStdString(one.family);
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(family, Qt::ElideRight, line.width()));
    const int used = painter.fontMetrics().horizontalAdvance(family) + 8;
    painter.setFont(uiFont(11));
    painter.setPen(look.softInk);
    const QRect rest = line.adjusted(used, 0, 0, 0);
    if (rest.width() > 20)
        painter.drawText(rest, Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(one.caption, Qt::ElideRight, rest.width()));
    if (one.starred || row == hovered_ || row == current_) {
        painter.setPen(one.starred ? look.accent : look.softInk);
        painter.drawText(starRect(row), Qt::AlignRight | Qt::AlignVCenter,
                         one.starred ? tr("starred") : tr("star"));
    }
    painter.setPen(look.hairline);
    painter.drawLine(kSide, all.bottom(), all.right() - kSide, all.bottom());
}

void SpecimenList::updateBar() {
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setRange(0, std::max(0, int(rows_.size()) * kRow - viewport()->height()));
}

void SpecimenList::resizeEvent(QResizeEvent* event) {
    if (event->oldSize().width() != event->size().width()) forgetPictures();
    updateBar();
}

void SpecimenList::mouseMoveEvent(QMouseEvent* event) {
    const int row = rowAt(event->position().toPoint());
    if (row == hovered_) return;
    hovered_ = row;
    rest_.start();
    viewport()->update();
}

void SpecimenList::mousePressEvent(QMouseEvent* event) {
    const int row = rowAt(event->position().toPoint());
    if (row < 0 || event->button() != Qt::LeftButton) return;
    if (starRect(row).contains(event->position().toPoint())) {
        Q_EMIT starToggled(row);
        return;
    }
    setCurrent(row);
    Q_EMIT taken(row);
}

void SpecimenList::keyPressEvent(QKeyEvent* event) {
    const int page = std::max(1, viewport()->height() / kRow);
    const auto go = [this](int row) {
        setCurrent(row);
        if (current_ >= 0) Q_EMIT tried(current_);
    };
    switch (event->key()) {
    case Qt::Key_Down:
        return go(current_ + 1);
    case Qt::Key_Up:
        return go(current_ - 1);
    case Qt::Key_PageDown:
        return go(current_ + page);
    case Qt::Key_PageUp:
        return go(current_ - page);
    case Qt::Key_Home:
        return go(0);
    case Qt::Key_End:
        return go(int(rows_.size()) - 1);
    case Qt::Key_Space:
        if (current_ >= 0) Q_EMIT starToggled(current_);
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (current_ >= 0) Q_EMIT taken(current_);
        return;
    default:
        QAbstractScrollArea::keyPressEvent(event);
    }
}

void SpecimenList::leaveEvent(QEvent*) {
    rest_.stop();
    hovered_ = -1;
    Q_EMIT tried(-1);
    viewport()->update();
}

void SpecimenList::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) forgetPictures();
    QAbstractScrollArea::changeEvent(event);
}

} // namespace glyptos
