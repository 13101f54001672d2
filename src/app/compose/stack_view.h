// The stack: a card for each layer, front to back. Drag to reorder, lamp to show or hide, bar along the foot
// for the opacity, double-click to rename.
#pragma once

#include "app/session/document.h"
#include "app/widgets/miniature.h"

#include <QImage>
#include <QLineEdit>
#include <QPointer>
#include <QWidget>
#include <map>

namespace glyptos {

class Engine;

class StackView : public QWidget {
    Q_OBJECT
  public:
    StackView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    QSize sizeHint() const override;
    /// Where the card of a layer, its lamp and its opacity bar are; empty when it is not shown.
    QRect cardOf(const std::string& layer) const;
    QRect lampOf(const std::string& layer) const;
    QRect barOf(const std::string& layer) const;
    void rename(const std::string& layer);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    struct Row {
        LayerPtr layer;
        std::string group; ///< id of the group that holds it, or empty
        size_t index = 0;  ///< in that group
        int depth = 0;
        bool clipped = false; ///< shows inside a layer further down
    };
    struct Thumbnail {
        LayerPtr layer;
        std::unique_ptr<Miniature> miniature;
    };
    struct Target {
        std::string group;
        size_t index = 0;
        int y = -1; ///< of the line that shows it
    };
    enum class Grab { None, Card, Bar };

    void rebuild();
    void collect(const Stack& stack, const std::string& group, int depth);
    void askThumbnails();
    const Row* rowAt(int y) const;
    QRect cardRect(size_t row) const;
    QRect lampRect(const QRect& card) const;
    Target targetAt(int y) const;
    void selectThrough(const std::string& layer);
    void setOpacityFrom(int x, bool settled);
    void toggle(const LayerPtr& layer);
    void paintCard(QPainter& painter, const Row& row, const QRect& card);

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::vector<Row> rows_;
    std::map<std::string, Thumbnail> thumbnails_;
    Grab grab_ = Grab::None;
    std::string grabbed_;
    int pressY_ = 0;
    Target target_;
    QPointer<QLineEdit> nameEditor_;
};

} // namespace glyptos
