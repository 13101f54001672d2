// How a picture comes onto an area of other proportions: slid, straightened and turned over under the panel,
// with its guides, before anything else is done to it.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/widgets/number_field.h"
#include "release/edits/framing.h"

#include <QCheckBox>
#include <QPushButton>
#include <QSlider>

namespace glyptos {

class Engine;

/// Lies over the bench while it is open. What it does is one step, taken back with Esc.
class FramingSheet : public QWidget {
    Q_OBJECT
  public:
    FramingSheet(Engine& engine, ComposeBench& bench);
    void setDocument(Document* document);
    Document* document() const { return document_; }
    /// Opens for a picture layer of the panel in hand; nothing happens when it is none.
    void open(const std::string& layer);
    bool isOpen() const { return isVisible(); }
    /// Keeps what is shown.
    void keep();
    /// Back to how it was.
    void leave();
    const Framing& framing() const { return framing_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    QWidget* makeBar();
    void place();
    void change(const std::function<void(Framing&)>& change);
    void showSubject();
    void readLook();
    void refresh();
    Rect area() const;
    SourcePtr source() const;
    void paintGhost(QPainter& painter, const QRectF& frame);

    Engine& engine_;
    ComposeBench& bench_;
    Document* document_ = nullptr;
    std::string layer_;
    PanelRef panel_;
    Framing framing_;
    Vec2 subject_{0.5, 0.5}; ///< of the picture, in shares
    QImage look_;
    QPointF last_;
    bool own_ = false; ///< the document is being changed from here
    QWidget* bar_;
    QPushButton *covers_, *whole_, *flip_, *keep_;
    QCheckBox *subjectIn_, *guides_;
    NumberField* turn_;
    QSlider* zoom_;
};

} // namespace glyptos
