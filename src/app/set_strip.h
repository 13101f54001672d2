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

  Q_SIGNALS:
    void addPieceAsked(QPoint globalPosition);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

  private:
    struct Shown {
        PiecePtr piece;
        Brief brief;
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
};

} // namespace glyptos
