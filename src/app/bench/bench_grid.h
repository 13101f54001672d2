// The Compose bench, and beside it what it is compared with: other takes, or the reference. Zoom and place
// are linked.
#pragma once

#include "app/bench/compose_bench.h"
#include "app/bench/side_bench.h"

#include <QGridLayout>

namespace glyptos {

class Engine;

class BenchGrid : public QWidget {
    Q_OBJECT
  public:
    /// Most takes that are shown side by side.
    static constexpr size_t kMost = 4;

    BenchGrid(Engine& engine, RenderService& service, ComposeBench* bench);
    void setDocument(Document* document);
    /// Whether the takes of the piece are shown side by side.
    void setSideBySide(bool on);
    bool isSideBySide() const { return sideBySide_; }
    /// What is shown beside the bench, in order.
    const std::vector<SideBench*>& sides() const { return sides_; }

  Q_SIGNALS:
    void sideBySideChanged();

  private:
    std::vector<std::string> wanted() const;
    void refresh();
    void lay();
    void take(const SideBench* side, QPointF at);
    void follow(const BenchView* leader);

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    ComposeBench* bench_;
    QGridLayout* grid_;
    std::vector<SideBench*> sides_;
    std::vector<std::string> shown_; ///< takes in the order of the grid; an empty one: the reference
    std::string current_;            ///< the take that is worked on
    bool sideBySide_ = false;
};

} // namespace glyptos
