// The one bar under the bench of Compose: panels, takes and comparing, the key to the lines, the zoom.
#pragma once

#include "app/bench/bench_bar.h"
#include "app/bench/line_key.h"

#include <QLabel>
#include <QToolButton>

class QComboBox;

namespace glyptos {

class ComposeFoot : public QWidget {
    Q_OBJECT
  public:
    ComposeFoot(ComposeBench* bench, BenchBar* bar);
    void setDocument(Document* document);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void refreshPanels();
    /// Many panels are chosen from a list, which leaves room for the rest.
    void refreshList(const Piece* piece);
    void refreshZoom();
    QToolButton* makePanelButton();
    QToolButton* makeAroundButton();
    void refreshAround();
    /// The key as words where there is room for them, else behind a button.
    void fold();

    ComposeBench* bench_;
    QToolButton* around_;
    Document* document_ = nullptr;
    QWidget* panels_;
    QComboBox* list_;
    BenchBar* bar_;
    LineKeySwitches *key_, *foldedKey_;
    QToolButton* lines_;
    QLabel* zoom_;
};

} // namespace glyptos
