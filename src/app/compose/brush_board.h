// All brushes with a stroke of each: searched, chosen, saved, removed.
#pragma once

#include "app/bench/compose_bench.h"

#include <QLineEdit>
#include <QListWidget>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class BrushBoard : public QWidget {
    Q_OBJECT
  public:
    explicit BrushBoard(ComposeBench& bench, QWidget* parent = nullptr);
    /// Takes a brush in hand by its name; false when there is none.
    bool choose(const QString& name);
    /// Saves the brush in hand under a name of the artist's.
    void save(const QString& name);
    bool isRead() const { return !brushes_.empty(); }

  Q_SIGNALS:
    void left(); ///< there is something else to look at now
    void told(const QString& sentence);
    /// All that there are now, own ones first.
    void brushesRead(const std::vector<glyptos::NamedBrush>& brushes);
    /// The pictures of a brush's stamps are wanted, which this release may not have.
    void picturesAsked(const QStringList& sources);
    void stampsInHandAsked();
    void stampsFromCrateAsked();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void read();
    void fill();
    void takeUp(const NamedBrush& brush);
    void askName();
    void removeCurrent();
    void refreshButtons();

    ComposeBench& bench_;
    QLineEdit* search_;
    QListWidget* list_;
    QToolButton *save_, *remove_, *inHand_, *crate_;
    std::vector<NamedBrush> brushes_;
    std::map<std::string, QImage> miniatures_; ///< by name
};

} // namespace glyptos
