// On the bench of one panel: the other panels of its sheet round it, where they will be when it is printed.
#pragma once

#include "app/bench/bench_picture.h"
#include "form/flat.h"

namespace glyptos {

class ComposeBench;

/// How much of the piece is shown round the panel in hand.
enum class Around : unsigned char {
    Nothing,
    Neighbours, ///< dimmed
    Piece       ///< all of the sheet, as it is
};

class PieceAround : public QObject {
    Q_OBJECT
  public:
    PieceAround(ComposeBench& bench, RenderService& service);
    void setAround(Around around);
    Around around() const { return around_; }
    /// Whether the sheet of the panel in hand has other panels.
    bool hasNeighbours() const;
    void request();
    void paintUnder(QPainter& painter) const;
    void paintLines(QPainter& painter) const;
    /// What is to be seen when all of it is, in the frame of the panel in hand.
    Rect extent() const;
    /// The panel there that is not the one in hand nor under it.
    const Panel* neighbourAt(Vec2 at) const;

  Q_SIGNALS:
    void changed();

  private:
    /// Those of its sheet that are not the panel in hand nor lie under it, by their places in the flat.
    std::vector<size_t> neighbours() const;
    Affine flatToPanel() const;

    ComposeBench& bench_;
    BenchPicture picture_;
    Around around_ = Around::Nothing;
};

} // namespace glyptos
