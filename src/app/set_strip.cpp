#include "app/set_strip.h"

#include "app/theme.h"
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
    connect(document_, &Document::selectionChanged, this, [this] { update(); });
    askMiniatures();
}

/// Pixels a unit of the piece, so that the tallest piece fills the strip.
double SetStrip::unitScale(const Piece& piece) const {
    double tallest = 1;
    for (const PiecePtr& p : document_->shown()->pieces)
        tallest = std::max(tallest, p->flat->trim().h * (p->flat->unit == Unit::Px ? kMmPerScreenPx : 1));
    const double pxPerMm = (kStrip - kFoot - 16) / tallest;
    return pxPerMm * (piece.flat->unit == Unit::Px ? kMmPerScreenPx : 1);
}

QSizeF SetStrip::sizeOf(const Piece& piece) const {
    const double k = unitScale(piece);
    return {piece.flat->trim().w * k, piece.flat->trim().h * k};
}

QRect SetStrip::miniatureOf(const std::string& id) const {
    double x = kLeft;
    for (const PiecePtr& piece : document_->shown()->pieces) {
        const QSizeF size = sizeOf(*piece);
        const double cell = std::max(
            size.width(),
            QFontMetricsF(uiFont(11, 600)).horizontalAdvance(QString::fromStdString(piece->name)) + 14);
        if (piece->id == id)
            return {int(x + (cell - size.width()) / 2), int(8 + (kStrip - kFoot - 16 - size.height())),
                    int(std::lround(size.width())), int(std::lround(size.height()))};
        x += cell + kGap;
    }
    return {};
}

QRect SetStrip::addButton() const {
    double x = kLeft;
    for (const PiecePtr& piece : document_->shown()->pieces)
        x += std::max(sizeOf(*piece).width(),
                      QFontMetricsF(uiFont(11, 600)).horizontalAdvance(QString::fromStdString(piece->name)) +
                          14) +
             kGap;
    return {int(x) + 4, 34, 66, 26};
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
        mini.miniature->ask(1, flatScene(release, piece->id, k, false, {-trim.x * k, -trim.y * k}), region);
    }
    update();
}

void SetStrip::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), t.sheet);
    painter.fillRect(0, height() - 1, width(), 1, t.hairline);
    for (const PiecePtr& piece : document_->shown()->pieces) {
        const QRect mini = miniatureOf(piece->id);
        const bool here = piece->id == document_->piecePanel().piece;
        painter.fillRect(mini, Qt::white);
        if (const auto found = miniatures_.find(piece->id);
            found != miniatures_.end() && found->second.miniature)
            painter.drawImage(mini, found->second.miniature->image());
        painter.setPen(QPen(t.hairline, 1));
        painter.drawRect(mini.adjusted(0, 0, -1, -1));
        painter.setFont(uiFont(11, here ? 600 : 400));
        painter.setPen(here ? t.ink : t.softInk);
        painter.drawText(QRect(mini.center().x() - 100, height() - kFoot - 3, 200, kFoot), Qt::AlignCenter,
                         QString::fromStdString(piece->name));
        if (piece->id == target_) {
            painter.setPen(QPen(t.accent, 2, Qt::DashLine));
            painter.drawRect(mini.adjusted(-6, -6, 5, 5));
        }
        if (!here) continue;
        painter.setPen(QPen(t.accent, 2));
        painter.drawRect(mini.adjusted(-4, -4, 3, 3));
    }
    const QRectF add = QRectF(addButton()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(t.hairline, 1));
    painter.setBrush(t.paper);
    painter.drawRoundedRect(add, 6, 6);
    painter.setFont(uiFont(11));
    painter.setPen(t.softInk);
    painter.drawText(add, Qt::AlignCenter, tr("+ Piece"));
}

void SetStrip::select(const PiecePtr& piece) {
    // The last panel of a form is its front.
    if (piece->id != document_->panel().piece)
        document_->selectPanel({piece->id, piece->flat->panels.back().id});
}

PiecePtr SetStrip::pieceAt(QPoint at) const {
    for (const PiecePtr& piece : document_->shown()->pieces)
        if (miniatureOf(piece->id).adjusted(-8, -8, 8, kFoot).contains(at)) return piece;
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
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) files << url.toLocalFile();
    if (!piece || files.isEmpty()) return event->ignore();
    event->acceptProposedAction();
    Q_EMIT picturesArrived(files, {piece->id, piece->flat->panels.back().id});
}

void SetStrip::mousePressEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    if (const PiecePtr piece = pieceAt(at)) return select(piece);
    if (addButton().contains(at)) Q_EMIT addPieceAsked(mapToGlobal(addButton().bottomLeft()));
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
        for (const PiecePtr& piece : document_->shown()->pieces)
            if (miniatureOf(piece->id).contains(help->pos()))
                QToolTip::showText(help->globalPos(), QString::fromStdString(piece->form->note), this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace glyptos
