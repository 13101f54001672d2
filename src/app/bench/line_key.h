// The key to the lines: what each means, in words, with a switch.
#pragma once

#include "app/bench/bench_view.h"

#include <QCheckBox>
#include <QWidget>

namespace glyptos {

/// A sample and a switch for each kind of line of a bench. Kinds that the piece at hand does not have are
/// left out. In a row the switches are single words; in a column each is a sentence with its amount.
class LineKeySwitches : public QWidget {
    Q_OBJECT
  public:
    LineKeySwitches(BenchView* bench, Qt::Orientation orientation, QWidget* parent = nullptr);
    /// Fits the key to a piece, or to one of its panels where that alone is shown.
    void setFlat(const Flat& flat, const Panel* alone = nullptr);

  private:
    struct Row {
        QWidget* whole;
        QCheckBox* box;
    };
    Qt::Orientation orientation_;
    std::array<Row, kLineKinds.size()> rows_{};
};

} // namespace glyptos
