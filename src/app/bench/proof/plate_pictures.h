// What is on the bench, ink by ink, where there are inks besides the four of the press.
#pragma once

#include "app/bench/bench_picture.h"

namespace glyptos {

class PlatePictures : public QObject {
    Q_OBJECT
  public:
    explicit PlatePictures(RenderService& service)
        : service_(service) {}

    struct Spot {
        Swatch ink;
        QImage cover; ///< as layInk() takes it
    };
    /// All of one picture's size and place.
    struct Plates {
        QImage press; ///< what prints in the four
        std::vector<Spot> spots;
    };

    /// The inks besides the four that the piece in the picture prints in.
    static std::vector<Swatch> inksIn(const Scene& scene);
    /// Has them rendered, unless they are being rendered already; nothing to do where there are no such inks.
    void ask(const BenchPicture& picture);
    /// Nothing until all are there.
    const Plates* of(const BenchPicture& picture) const;

  Q_SIGNALS:
    void arrived();

  private:
    QImage& place(size_t i) { return i == 0 ? plates_.press : plates_.spots[i - 1].cover; }

    RenderService& service_;
    std::vector<std::unique_ptr<QObject>> askers_; ///< one a plate: each is asked for beside the others
    qint64 of_ = 0;                                ///< the picture that was asked for last
    Plates plates_;
    size_t missing_ = 0;
};

} // namespace glyptos
