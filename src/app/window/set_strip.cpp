#include "app/window/set_strip.h"

#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/theme.h"
#include "release/credits.h"
#include "release/fields.h"

#include <QDragEnterEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kStrip = 92, kFoot = 22, kLeft = 16, kGap = 16;
constexpr int kLine = 28, kLineMiniature = 22; // folded
constexpr int kFoldButton = 26, kAddWidth = 66;
/// A screen piece has no size of its own; it stands as large as a 12-inch front when it is 3000 px wide.
constexpr double kMmPerScreenPx = 315.0 / 3000;

} // namespace

SetStrip::SetStrip(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service) {
    setFixedHeight(kStrip);
    setFocusPolicy(Qt::TabFocus);
    setAcceptDrops(true);
    setAccessibleName(tr("The set: all pieces of the release"));
    connect(&engine_, &Engine::pictureReady, this, [this] {
        for (auto& [id, mini] : miniatures_) mini.piece = nullptr;
        askMiniatures();
    });
}

void SetStrip::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    miniatures_.clear();
    connect(document_, &Document::changed, this, &SetStrip::askMiniatures);
    connect(document_, &Document::selectionChanged, this, &SetStrip::showPieceInHand);
    offset_ = 0;
    askMiniatures();
}

void SetStrip::setFolded(bool folded) {
    if (folded == folded_) return;
    folded_ = folded;
    setFixedHeight(folded ? kLine : kStrip);
    for (auto& [id, mini] : miniatures_) mini.piece = nullptr; // of another size now
    if (document_) {
        showPieceInHand();
        askMiniatures();
    }
}

/// Pixels a unit of the piece, so that the tallest piece fills the strip.
double SetStrip::unitScale(const Piece& piece) const {
    double tallest = 1;
    for (const PiecePtr& p : document_->shown()->pieces)
        tallest = std::max(tallest, p->flat->trim().h * (p->flat->unit == Unit::Px ? kMmPerScreenPx : 1));
    const double pxPerMm = (folded_ ? kLineMiniature : kStrip - kFoot - 16) / tallest;
    return pxPerMm * (piece.flat->unit == Unit::Px ? kMmPerScreenPx : 1);
}

QSizeF SetStrip::sizeOf(const Piece& piece) const {
    const double k = unitScale(piece);
    return {piece.flat->trim().w * k, piece.flat->trim().h * k};
}

std::vector<SetStrip::Cell> SetStrip::cells() const {
    std::vector<Cell> out;
    double x = kLeft - offset_;
    const QFontMetricsF metrics(uiFont(11, 600));
    for (const PiecePtr& piece : document_->shown()->pieces) {
        const QSizeF size = sizeOf(*piece);
        const double words = metrics.horizontalAdvance(QString::fromStdString(piece->name)) + 14;
        const int w = std::max(1, int(std::lround(size.width()))),
                  h = std::max(1, int(std::lround(size.height())));
        Cell cell{piece, {}, {}, {}};
        if (folded_) {
            cell.miniature = {int(x), (kLine - h) / 2, w, h};
            cell.words = {int(x) + w + 6, 0, int(words), kLine - 1};
            cell.all = {int(x), 0, w + 6 + int(words), kLine};
        } else {
            const double width = std::max(size.width(), words);
            cell.miniature = {int(x + (width - size.width()) / 2), 8 + kStrip - kFoot - 16 - h, w, h};
            cell.words = {int(x), height() - kFoot - 3, int(width), kFoot};
            cell.all = {int(x), 0, int(width), kStrip};
        }
        x = cell.all.right() + 1 + (folded_ ? kGap / 2 : kGap);
        out.push_back(std::move(cell));
    }
    return out;
}

QRect SetStrip::miniatureOf(const std::string& id) const {
    for (const Cell& cell : cells())
        if (cell.piece->id == id) return cell.miniature;
    return {};
}

/// Behind the last piece, or at the end of what can be seen.
QRect SetStrip::addButton() const {
    const auto all = cells();
    const int behind = all.empty() ? kLeft : all.back().all.right() + kGap;
    const int x = std::min(behind, foldButton().left() - kAddWidth - 8);
    return folded_ ? QRect(x, 3, kAddWidth, kLine - 7) : QRect(x, 34, kAddWidth, 26);
}

QRect SetStrip::foldButton() const {
    return {width() - kFoldButton - 6, folded_ ? 3 : 6, kFoldButton, kLine - 7};
}

int SetStrip::lengthOfAll() const {
    const auto all = cells();
    return all.empty() ? 0 : all.back().all.right() + offset_ + kGap;
}

void SetStrip::scrollTo(int offset) {
    const int room = foldButton().left() - kAddWidth - 16;
    offset_ = std::clamp(offset, 0, std::max(0, lengthOfAll() - room));
    update();
}

void SetStrip::showPieceInHand() {
    const int room = foldButton().left() - kAddWidth - 16;
    for (const Cell& cell : cells()) {
        if (cell.piece->id != document_->piecePanel().piece) continue;
        if (cell.all.left() < kLeft) return scrollTo(offset_ + cell.all.left() - kLeft);
        if (cell.all.right() > room) return scrollTo(offset_ + cell.all.right() + kGap - room);
    }
    scrollTo(offset_);
}

void SetStrip::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (document_) showPieceInHand();
}

void SetStrip::wheelEvent(QWheelEvent* event) {
    const QPoint turned = event->angleDelta();
    scrollTo(offset_ - (turned.x() != 0 ? turned.x() : turned.y()) / 2);
    event->accept();
}

void SetStrip::askMiniatures() {
    const ReleasePtr release = document_->shown();
    std::erase_if(miniatures_, [&](const auto& entry) { return !release->piece(entry.first); });
    const double ratio = devicePixelRatioF();
    const bool told = std::any_of(release->pieces.begin(), release->pieces.end(),
                                  [](const PiecePtr& p) { return tellsCredits(*p); });
    const std::string credits = told ? creditText(*release) : std::string();
    for (const PiecePtr& piece : release->pieces) {
        Shown& mini = miniatures_[piece->id];
        const std::string says = tellsCredits(*piece) ? credits : std::string();
        if (mini.piece == piece && mini.brief == release->brief && mini.credits == says) continue;
        mini.piece = piece;
        mini.brief = release->brief;
        mini.credits = says;
        if (!mini.miniature) {
            mini.miniature = std::make_unique<Miniature>(service_);
            connect(mini.miniature.get(), &Miniature::arrived, this, qOverload<>(&QWidget::update));
        }
        const double k = unitScale(*piece) * ratio;
        const Rect trim = piece->flat->trim();
        const IntRect region{0, 0, std::max(1, snapEdge(trim.w * k)), std::max(1, snapEdge(trim.h * k))};
        mini.miniature->ask(1, flatScene(release, piece->id, {k, false, {-trim.x * k, -trim.y * k}}), region);
    }
    update();
}

void SetStrip::paintCell(QPainter& painter, const Cell& cell) const {
    const Theme& t = theme();
    const bool here = cell.piece->id == document_->piecePanel().piece;
    painter.fillRect(cell.miniature, Qt::white);
    if (const auto found = miniatures_.find(cell.piece->id);
        found != miniatures_.end() && found->second.miniature)
        painter.drawImage(cell.miniature, found->second.miniature->image());
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.hairline, 1));
    painter.drawRect(cell.miniature.adjusted(0, 0, -1, -1));
    painter.setFont(uiFont(11, here ? 600 : 400));
    painter.setPen(here ? t.ink : t.softInk);
    painter.drawText(cell.words, folded_ ? Qt::AlignLeft | Qt::AlignVCenter : Qt::AlignCenter,
                     QString::fromStdString(cell.piece->name));
    if (cell.piece->id == target_) {
        painter.setPen(QPen(t.accent, 2, Qt::DashLine));
        painter.drawRect(cell.miniature.adjusted(-6, -6, 5, 5));
    }
    if (!here) return;
    if (folded_) return painter.fillRect(cell.all.left(), kLine - 3, cell.all.width(), 2, t.accent);
    painter.setPen(QPen(t.accent, 2));
    painter.drawRect(cell.miniature.adjusted(-4, -4, 3, 3));
}

void SetStrip::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), t.sheet);
    for (const Cell& cell : cells()) paintCell(painter, cell);
    // What is scrolled under the buttons ends before them.
    painter.fillRect(QRect(addButton().left() - 8, 0, width(), height()), t.sheet);
    painter.fillRect(0, height() - 1, width(), 1, t.hairline);
    const QRectF add = QRectF(addButton()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(t.hairline, 1));
    painter.setBrush(t.paper);
    painter.drawRoundedRect(add, 6, 6);
    painter.setFont(uiFont(11));
    painter.setPen(t.softInk);
    painter.drawText(add, Qt::AlignCenter, tr("+ Piece"));
    const QPointF middle = QRectF(foldButton()).center();
    const double up = folded_ ? -3 : 3;
    painter.setPen(QPen(t.softInk, 1.5));
    painter.drawPolyline(
        QPolygonF{middle + QPointF(-5, up), middle + QPointF(0, -up), middle + QPointF(5, up)});
}

void SetStrip::select(const PiecePtr& piece) {
    // The last panel of a form is its front.
    if (piece->id != document_->panel().piece)
        document_->selectPanel({piece->id, piece->flat->frontPanel().id});
}

PiecePtr SetStrip::pieceAt(QPoint at) const {
    for (const Cell& cell : cells())
        if (cell.miniature.adjusted(-8, -8, 8, folded_ ? 8 : kFoot).united(cell.words).contains(at))
            return cell.piece;
    return nullptr;
}

void SetStrip::setTarget(const PiecePtr& piece) {
    const std::string id = piece ? piece->id : std::string();
    if (id == target_) return;
    target_ = id;
    update();
}

void SetStrip::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void SetStrip::dragMoveEvent(QDragMoveEvent* event) {
    const PiecePtr piece = pieceAt(event->position().toPoint());
    setTarget(piece);
    event->setAccepted(piece != nullptr);
}

void SetStrip::dragLeaveEvent(QDragLeaveEvent*) {
    setTarget(nullptr);
}

void SetStrip::dropEvent(QDropEvent* event) {
    setTarget(nullptr);
    const PiecePtr piece = pieceAt(event->position().toPoint());
    const QStringList files = localFiles(*event->mimeData());
    if (!piece || files.isEmpty()) return event->ignore();
    event->acceptProposedAction();
    Q_EMIT picturesArrived(files, {piece->id, piece->flat->frontPanel().id});
}

void SetStrip::mousePressEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    if (foldButton().contains(at)) return setFolded(!folded_);
    if (addButton().contains(at)) return Q_EMIT addPieceAsked(mapToGlobal(addButton().bottomLeft()));
    if (const PiecePtr piece = pieceAt(at)) select(piece);
}

void SetStrip::keyPressEvent(QKeyEvent* event) {
    const auto& pieces = document_->shown()->pieces;
    for (size_t i = 0; i < pieces.size(); ++i) {
        if (pieces[i]->id != document_->piecePanel().piece) continue;
        if (event->key() == Qt::Key_Right && i + 1 < pieces.size()) return select(pieces[i + 1]);
        if (event->key() == Qt::Key_Left && i > 0) return select(pieces[i - 1]);
    }
    QWidget::keyPressEvent(event);
}

bool SetStrip::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (foldButton().contains(help->pos()))
            QToolTip::showText(help->globalPos(),
                               folded_ ? tr("Show the set large (F6)") : tr("Fold the set to a line (F6)"),
                               this);
        else if (const PiecePtr piece = pieceAt(help->pos()))
            QToolTip::showText(help->globalPos(), QString::fromStdString(piece->form->note), this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace glyptos
