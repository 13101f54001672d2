// The key to the lines: what each means, in words, with a switch.
#pragma once

#include "app/bench_view.h"

#include <QCheckBox>
#include <QStringList>
#include <QWidget>

namespace glyptos {

/// One line beside another, as switches: "bleed", "trim", "safety", "fold".
class LineKeySwitches : public QWidget {
    Q_OBJECT
  public:
    LineKeySwitches(const QStringList& kinds, BenchView* bench, QWidget* parent = nullptr);
};

/// The same with a sentence each, one below the other.
class LineKeyList : public QWidget {
    Q_OBJECT
  public:
    LineKeyList(BenchView* bench, QWidget* parent = nullptr);
    /// Names the amounts of the piece at hand.
    void setFlat(const Flat& flat);

  private:
    std::vector<QCheckBox*> boxes_;
};

} // namespace glyptos
