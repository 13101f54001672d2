// The art with the layer in hand in every blend mode at once, live; a click takes one.
#pragma once

#include "app/widgets/miniature.h"

#include <QLabel>
#include <QPointer>
#include <QToolButton>

namespace glyptos {

class Document;

class Engine;

/// Lies over its parent while it is open.
class BlendSheet : public QWidget {
    Q_OBJECT
  public:
    BlendSheet(Engine& engine, RenderService& service, QWidget* parent);
    void setDocument(Document* document);
    /// Opens when exactly one layer is in hand, and not locked.
    void open();
    bool canOpen() const;
    void leave();
    QToolButton* cell(BlendMode mode) const { return cells_[size_t(mode)].button; }

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    struct Cell {
        QToolButton* button = nullptr;
        Miniature* miniature = nullptr;
    };
    void arrange();
    void ask();
    void take(BlendMode mode);
    Rect area() const;

    Engine& engine_;
    Document* document_ = nullptr;
    QLabel* title_;
    QToolButton* leave_;
    std::array<Cell, kBlendModeCount> cells_;
    QPointer<QWidget> before_; ///< had the focus
    int columns_ = 5;
};

} // namespace glyptos
