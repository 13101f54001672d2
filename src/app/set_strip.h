// The set: every piece as a live miniature at true relative scale.
#pragma once

#include "app/document.h"
#include "app/miniature.h"

#include <QImage>
#include <QWidget>
#include <map>

namespace glyptos {

class SetStrip : public QWidget {
    Q_OBJECT
  public:
    SetStrip(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
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
    double unitScale(const Piece& piece) const;
    QSizeF sizeOf(const Piece& piece) const;
    void askMiniatures();
    void select(const PiecePtr& piece);

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::map<std::string, Shown> miniatures_;
    std::string target_;
};

} // namespace glyptos
