// The selection on the bench: a moving outline, a tint, or black and white.
#pragma once

#include "app/bench/hand_settings.h"

#include <QBasicTimer>
#include <QColor>
#include <QImage>
#include <QObject>
#include <QPainter>
#include <QPainterPath>
#include <QTimerEvent>

namespace glyptos {

class ComposeBench;

class SelectionPainter : public QObject {
    Q_OBJECT
  public:
    explicit SelectionPainter(ComposeBench& bench);
    void setLook(SelectionLook look, const QColor& tint);
    SelectionLook look() const { return look_; }
    const QColor& tint() const { return tint_; }
    void paint(QPainter& painter);
    /// Shown mapped on the panel, as while it is dragged; the identity: where it is.
    void showMapped(const Affine& onPanel);
    /// The selection of the panel in hand as it is shown; nothing while there is none.
    std::optional<Selection> selection() const;

  protected:
    void timerEvent(QTimerEvent* event) override;

  private:
    void follow();
    ComposeBench& bench_;
    SelectionLook look_ = SelectionLook::Outline;
    QColor tint_{30, 122, 108, 130};
    std::optional<Selection> shown_; ///< that picture and outline are of
    Affine view_, mapped_;
    QSize size_;
    QImage values_; ///< of what can be seen, a byte a pixel
    QPainterPath outline_;
    QBasicTimer timer_;
    int step_ = 0;
};

} // namespace glyptos
