// Times of work, and rows of the table.
#pragma once

#include <algorithm>
#include <chrono>
#include <functional>
#include <string>
#include <vector>

namespace glyptos::bench {

inline double milliseconds(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

inline double least(int runs, const std::function<void()>& work) {
    double best = 1e300;
    for (int i = 0; i < runs; ++i) best = std::min(best, milliseconds(work));
    return best;
}

inline double percentile95(std::vector<double> times) {
    std::sort(times.begin(), times.end());
    return times[size_t(double(times.size()) * 0.95)];
}

struct Row {
    std::string work;
    double ours = 0, peer = 0; ///< ms
    double budget = 0;         ///< a ratio when there is a peer; 0: none is set
    std::string unit = "ms";
    double figure() const { return peer > 0 ? ours / peer : ours; }
    bool holds() const { return budget <= 0 || figure() <= budget; }
};

} // namespace glyptos::bench
