// All pieces at true relative scale on one sheet.
#pragma once

#include "app/widgets/miniature.h"

#include <QWidget>

namespace glyptos {

class Document;

class Engine;

class PieceSheet : public QWidget {
    Q_OBJECT
  public:
    PieceSheet(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);

  Q_SIGNALS:
    void pieceChosen(const std::string& piece);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

  private:
    struct Place {
        PiecePtr piece;
        QRect area;
        double pxPerUnit = 1;
        std::unique_ptr<Miniature> miniature;
    };
    void arrange();
    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::vector<Place> places_;
};

} // namespace glyptos
