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
    /// Shows a sheet of that piece; nothing when there is no such piece. A sheet that is not there: the last.
    void setPiece(const ReleasePtr& release, const std::string& piece, size_t sheet = 0);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void ask();
    const Sheet& sheet() const { return piece_->flat->sheets[sheet_]; }
    /// Widget pixels a mm, and where the flat's origin stands.
    Affine mmToView() const;

    RenderService& service_;
    ReleasePtr release_;
    PiecePtr piece_;
    size_t sheet_ = 0;
    QImage art_;
};

} // namespace glyptos
