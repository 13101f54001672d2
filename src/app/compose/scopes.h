// What the tones and colours of the work are, live: a histogram, a waveform, and the plane of hue and chroma;
// of the whole panel, of the selection, or of the layer in hand.
#pragma once

#include "app/widgets/miniature.h"
#include "app/widgets/scope_drawing.h"

#include <QComboBox>
#include <QWidget>

namespace glyptos {

class Document;
class Engine;

class Scopes : public QWidget {
    Q_OBJECT
  public:
    using Kind = ScopeKind;
    enum class Of { Whole, Selection, Layer };
    Scopes(Engine& engine, RenderService& service, QWidget* parent);
    void setDocument(Document* document);
    void setKind(Kind kind);
    void setOf(Of of);
    /// What is drawn now.
    const QImage& picture() const { return picture_; }

  Q_SIGNALS:
    void opened(bool open); ///< or closed

  protected:
    void paintEvent(QPaintEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    void ask();
    void draw();
    QRect field() const;

    Engine& engine_;
    Document* document_ = nullptr;
    Miniature small_;
    QComboBox *kind_, *of_;
    QImage picture_;
    QPoint grabbed_;
    uint64_t drawn_ = 0; ///< how many have been asked for
};

} // namespace glyptos
