// In the corner of the bench: the takes of the piece, the reference, and the size ladder.
#pragma once

#include "app/bench/bench_grid.h"
#include "app/bench/size_ladder.h"

#include <QMenu>
#include <QSlider>
#include <QToolButton>

namespace glyptos {

class BenchBar : public QWidget {
    Q_OBJECT
  public:
    BenchBar(BenchGrid& grid, SizeLadder& ladder);
    void setDocument(Document* document);
    /// The next take of the piece, or the one before, round and round.
    void stepTake(int by);
    void setWay(Reference::Way way);
    /// The word before the takes, which gives way first when there is little room.
    QLabel* word() const { return word_; }

  Q_SIGNALS:
    /// A file with a reference picture is wanted.
    void referenceAsked();

  private:
    void refresh();
    void refreshTakes();
    void fillTakes(QMenu* menu);
    void takeMenu(const std::string& take, QPoint at);
    void fillReferences();
    void changeReference(const QString& name, const std::function<void(Reference&)>& edit);
    void addReference(const SourcePtr& source);

    BenchGrid& grid_;
    SizeLadder& ladder_;
    Document* document_ = nullptr;
    QLabel* word_;
    QWidget* takes_;
    QToolButton *allTakes_, *beside_, *reference_, *sizes_;
    QMenu* references_;
    QSlider* strength_;
};

} // namespace glyptos
