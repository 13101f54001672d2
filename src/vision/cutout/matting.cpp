#include "vision/cutout/matting.h"

#include <Eigen/Dense>
#include <Eigen/IterativeLinearSolvers>
#include <Eigen/Sparse>
#include <algorithm>
#include <array>

namespace glyptos {
namespace {

constexpr int kWindow = 3, kReach = 2 * kWindow - 1, kNeighbours = kReach * kReach;
constexpr double kRegular = 1e-5; ///< keeps windows of one colour from fitting anything
constexpr int kMostSteps = 300;
constexpr double kExact = 1e-4;

/// Entries of the matting Laplacian: for each uncertain pixel its 5 × 5 surroundings.
class Laplacian {
  public:
    Laplacian(const Reduced& picture, const AlphaMap& trimap)
        : picture_(picture)
        , trimap_(trimap)
        , index_(trimap.values.size(), -1) {
        for (size_t i = 0; i < trimap.values.size(); ++i)
            if (isUncertain(trimap.values[i])) {
                index_[i] = int(places_.size());
                places_.push_back(int(i));
            }
        rows_.assign(places_.size(), {});
        for (int y = 0; y + kWindow <= picture.height; ++y)
            for (int x = 0; x + kWindow <= picture.width; ++x) addWindow(x, y);
    }

    const std::vector<int>& places() const { return places_; }
    int index(size_t place) const { return index_[place]; }
    /// Of unknown i and the pixel at (dx, dy) from it, both within ±2.
    double entry(size_t i, int dx, int dy) const {
        return rows_[i][size_t(dy + 2) * kReach + size_t(dx + 2)];
    }

  private:
    void addWindow(int x, int y) {
        bool any = false;
        std::array<Eigen::Vector3d, 9> colour;
        std::array<int, 9> unknown{};
        Eigen::Vector3d mean = Eigen::Vector3d::Zero();
        for (int k = 0; k < 9; ++k) {
            const int px = x + k % 3, py = y + k / 3;
            const Rgba& c = picture_.at(px, py);
            colour[size_t(k)] = {double(c.r), double(c.g), double(c.b)};
            mean += colour[size_t(k)];
            unknown[size_t(k)] = index_[size_t(py) * size_t(picture_.width) + size_t(px)];
            any = any || unknown[size_t(k)] >= 0;
        }
        if (!any) return;
        mean /= 9;
        Eigen::Matrix3d spread = Eigen::Matrix3d::Identity() * (kRegular / 9);
        for (auto& c : colour) c -= mean, spread += c * c.transpose() / 9;
        const Eigen::Matrix3d inverse = spread.inverse();
        for (int i = 0; i < 9; ++i) {
            if (unknown[size_t(i)] < 0) continue;
            auto& row = rows_[size_t(unknown[size_t(i)])];
            const Eigen::Vector3d turned = inverse * colour[size_t(i)];
            for (int j = 0; j < 9; ++j) {
                const double v = (i == j ? 1.0 : 0.0) - (1 + turned.dot(colour[size_t(j)])) / 9;
                row[size_t(j / 3 - i / 3 + 2) * kReach + size_t(j % 3 - i % 3 + 2)] += v;
            }
        }
    }

    const Reduced& picture_;
    const AlphaMap& trimap_;
    std::vector<int> index_, places_;
    std::vector<std::array<double, kNeighbours>> rows_;
};

} // namespace

std::vector<float> solvedAlpha(const Reduced& picture, const AlphaMap& trimap,
                               const std::vector<AlphaGuess>& guesses, const std::atomic<bool>* cancel) {
    std::vector<float> out(trimap.values.size());
    for (size_t i = 0; i < out.size(); ++i)
        out[i] = isUncertain(trimap.values[i]) ? guesses[i].alpha : float(trimap.values[i]) / 255;
    const Laplacian laplacian(picture, trimap);
    const auto& places = laplacian.places();
    const auto n = Eigen::Index(places.size());
    if (n == 0 || (cancel && *cancel)) return out;
    Eigen::SparseMatrix<double, Eigen::RowMajor> matrix(n, n);
    matrix.reserve(n * kNeighbours);
    Eigen::VectorXd right = Eigen::VectorXd::Zero(n), guess(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const int place = places[size_t(i)], x = place % picture.width, y = place / picture.width;
        const AlphaGuess& known = guesses[size_t(place)];
        guess[i] = double(known.alpha);
        right[i] = double(known.alpha * known.weight);
        matrix.startVec(i);
        for (int dy = -2; dy <= 2; ++dy)
            for (int dx = -2; dx <= 2; ++dx) {
                double v = laplacian.entry(size_t(i), dx, dy);
                const int px = x + dx, py = y + dy;
                if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) continue;
                const size_t other = size_t(py) * size_t(picture.width) + size_t(px);
                const int j = laplacian.index(other);
                if (dx == 0 && dy == 0) v += double(known.weight) + 1e-6;
                if (j >= 0)
                    matrix.insertBack(i, j) = v;
                else
                    right[i] -= v * double(out[other]);
            }
    }
    matrix.finalize();
    Eigen::ConjugateGradient<Eigen::SparseMatrix<double, Eigen::RowMajor>, Eigen::Lower | Eigen::Upper>
        solver;
    solver.setMaxIterations(kMostSteps);
    solver.setTolerance(kExact);
    solver.compute(matrix);
    const Eigen::VectorXd solved = solver.solveWithGuess(right, guess);
    for (Eigen::Index i = 0; i < n; ++i)
        out[size_t(places[size_t(i)])] = float(std::clamp(solved[i], 0.0, 1.0));
    return out;
}

} // namespace glyptos
