// A print page as the printer gets it: art with its bleed, crop and fold marks on a white sheet.
#pragma once

#include "app/session/document.h"
#include "app/session/render_service.h"

#include <QImage>
#include <QWidget>

namespace glyptos {

class PagePreview : public QWidget {
    Q_OBJECT
  public:
    explicit PagePreview(RenderService& service, QWidget* parent = nullptr);
    /// Shows the flat of that piece; nothing when there is no such piece.
    void setPiece(const ReleasePtr& release, const std::string& piece);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void ask();
    /// Widget pixels a mm, and where the flat's origin stands.
    Affine mmToView() const;

    RenderService& service_;
    ReleasePtr release_;
    PiecePtr piece_;
    QImage art_;
};

} // namespace glyptos
