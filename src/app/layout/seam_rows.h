// Where panels meet, in a list: whether their art goes on, and how it is made to.
#pragma once

#include "form/flat.h"
#include "render/fit/seams.h"

#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

class SeamRows : public QWidget {
    Q_OBJECT
  public:
    explicit SeamRows(QWidget* parent = nullptr);
    /// Makes rows anew where the seams are others; then only what they say changes.
    void show(const Flat& flat, const std::vector<Seam>& seams);

  Q_SIGNALS:
    /// The art of that panel is to be moved along the seam until it meets the other's.
    void alignAsked(const glyptos::Seam& seam, const std::string& moving);

  private:
    struct Row {
        Seam seam;
        QWidget* whole;
        QLabel* said;
        QWidget* align; ///< shown while it is off
    };
    void make(const Flat& flat, const std::vector<Seam>& seams);
    QVBoxLayout* column_;
    std::vector<Row> rows_;
};

} // namespace glyptos
