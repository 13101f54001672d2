// The set: every piece as a live miniature at true relative scale.
#pragma once

#include "app/session/document.h"
#include "app/widgets/miniature.h"

#include <QImage>
#include <QWidget>
#include <map>

namespace glyptos {

class Engine;

class SetStrip : public QWidget {
    Q_OBJECT
  public:
    SetStrip(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    /// Folded to a line: small miniatures beside their names. Remembered by the window.
    bool isFolded() const { return folded_; }
    void setFolded(bool folded);
    /// Where a piece's miniature is; empty when there is no such piece.
    QRect miniatureOf(const std::string& piece) const;
    QRect addButton() const;
    /// The piece whose miniature or name is there; nothing when there is none.
    PiecePtr pieceAt(QPoint at) const;
    /// Marks the piece that something dragged would go to.
    void setTarget(const PiecePtr& piece);

  Q_SIGNALS:
    void addPieceAsked(QPoint globalPosition);
    /// Pictures were dropped on a piece; they go to its front.
    void picturesArrived(const QStringList& files, const glyptos::PanelRef& panel);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool event(QEvent* event) override;

  private:
    struct Shown {
        PiecePtr piece;
        Brief brief;
        std::string credits; ///< as the piece shows them
        std::unique_ptr<Miniature> miniature;
    };
    /// Where a piece stands in the strip.
    struct Cell {
        PiecePtr piece;
        QRect all, miniature, words;
    };
    std::vector<Cell> cells() const;
    int lengthOfAll() const;
    QRect foldButton() const;
    void scrollTo(int offset);
    void showPieceInHand();
    void paintCell(QPainter& painter, const Cell& cell) const;
    double unitScale(const Piece& piece) const;
    QSizeF sizeOf(const Piece& piece) const;
    void askMiniatures();
    void select(const PiecePtr& piece);

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::map<std::string, Shown> miniatures_;
    std::string target_;
    bool folded_ = false;
    int offset_ = 0; ///< px that are scrolled past
};

} // namespace glyptos
