// The panels of a piece in a list: their sizes, and whether their art reaches.
#pragma once

#include "form/flat.h"

#include <QLabel>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

/// What is said of a panel's art.
struct PanelVerdict {
    QString sentence; ///< empty: not known yet
    bool good = false;
};

class PanelRows : public QWidget {
    Q_OBJECT
  public:
    explicit PanelRows(QWidget* parent = nullptr);
    /// Makes rows anew where the panels are others; then only what they say changes.
    void show(const Flat& flat, const std::string& inHand,
              const std::function<PanelVerdict(const Panel&)>& verdictOf);

  Q_SIGNALS:
    void chosen(const std::string& panel);

  protected:
    void mousePressEvent(QMouseEvent* event) override;

  private:
    struct Row {
        std::string panel;
        QWidget* whole;
        QLabel *name, *said;
    };
    void make(const Flat& flat);
    QVBoxLayout* column_;
    std::vector<Row> rows_;
    std::vector<QWidget*> heads_; ///< names of sheets
};

} // namespace glyptos
