#include "type/lines/line_breaks.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <unicode/brkiter.h>

namespace glyptos {
namespace {

constexpr double kStretch = 0.5, kShrink = 1.0 / 3;   // of a gap's width
constexpr double kDivided = 50, kDividedTwice = 3000; // penalty; demerits of two in a row
constexpr double kWorst = 10000;

double measureOf(std::span<const double> measures, size_t line) {
    return measures.empty() ? 0 : measures[std::min(line, measures.size() - 1)];
}

/// From one break, or the beginning (-1), to another.
struct Line {
    double width, spaces;
};

Line between(const std::vector<BreakPlace>& places, ptrdiff_t from, size_t to) {
    const BreakPlace& end = places[to];
    if (from < 0) return {end.end, end.spaces};
    const BreakPlace& begin = places[size_t(from)];
    return {end.end - begin.next, std::max(end.spaces - begin.nextSpaces, 0.0)};
}

std::vector<size_t> fullLines(const std::vector<BreakPlace>& places, std::span<const double> measures) {
    std::vector<size_t> out;
    ptrdiff_t from = -1;
    for (size_t i = 0; i < places.size(); ++i) {
        const ptrdiff_t good = ptrdiff_t(i) - 1;
        if (good <= from || between(places, from, i).width <= measureOf(measures, out.size())) continue;
        out.push_back(size_t(good));
        from = good;
    }
    out.push_back(places.size() - 1);
    return out;
}

/// What a line costs; negative when it does not fit at all.
double demerits(const Line& line, double measure, bool isLast, bool divides, Fill fill) {
    const double slack = measure - line.width;
    const double penalty = divides ? kDivided : 0;
    if (fill == Fill::Even) {
        if (slack < 0) return -1;
        const double share = 100 * slack / measure;
        return share * share + penalty * penalty / 10;
    }
    if (slack < -line.spaces * kShrink - 1e-9) return -1;
    double bad = 0;
    if (slack < 0)
        bad = 100 * std::pow(-slack / (line.spaces * kShrink), 3);
    else if (!isLast)
        bad =
            line.spaces > 0 ? std::min(100 * std::pow(slack / (line.spaces * kStretch), 3), kWorst) : kWorst;
    return (1 + bad) * (1 + bad) + penalty * penalty;
}

std::vector<size_t> totalFit(const std::vector<BreakPlace>& places, double measure, Fill fill) {
    struct Best {
        double demerits = std::numeric_limits<double>::infinity();
        ptrdiff_t from = -1;
    };
    std::vector<Best> best(places.size());
    for (size_t i = 0; i < places.size(); ++i)
        for (ptrdiff_t from = ptrdiff_t(i) - 1; from >= -1; --from) {
            const bool isWhole = from == ptrdiff_t(i) - 1; // there is no place to break it
            double cost =
                demerits(between(places, from, i), measure, i + 1 == places.size(), places[i].divides, fill);
            if (cost < 0 && !isWhole) break; // what begins earlier is longer still
            if (cost < 0) cost = kWorst * kWorst;
            if (from >= 0) {
                if (places[size_t(from)].divides && places[i].divides) cost += kDividedTwice;
                cost += best[size_t(from)].demerits;
            }
            if (cost < best[i].demerits) best[i] = {cost, from};
        }
    std::vector<size_t> out;
    for (ptrdiff_t at = ptrdiff_t(places.size()) - 1; at >= 0; at = best[size_t(at)].from)
        out.push_back(size_t(at));
    std::reverse(out.begin(), out.end());
    return out;
}

} // namespace

struct LineBreaker::Rules {
    std::unique_ptr<icu::BreakIterator> lines;
};

LineBreaker::LineBreaker() = default;
LineBreaker::~LineBreaker() = default;

std::vector<size_t> LineBreaker::opportunities(const std::u16string& text, const std::string& language) {
    std::vector<size_t> out;
    if (text.empty()) return out;
    auto& rules = rules_[language];
    if (!rules) {
        UErrorCode code = U_ZERO_ERROR;
        rules = std::make_unique<Rules>();
        rules->lines.reset(icu::BreakIterator::createLineInstance(icu::Locale(language.c_str()), code));
        if (U_FAILURE(code)) rules->lines.reset();
    }
    if (!rules->lines) return {text.size()};
    icu::BreakIterator& lines = *rules->lines;
    const icu::UnicodeString seen(false, text.data(), int32_t(text.size()));
    lines.setText(seen);
    lines.first();
    for (int32_t at = lines.next(); at != icu::BreakIterator::DONE; at = lines.next())
        out.push_back(size_t(at));
    return out;
}

std::vector<size_t> chosenBreaks(const std::vector<BreakPlace>& places, std::span<const double> measures,
                                 Fill fill) {
    if (places.empty()) return {};
    const bool isOneMeasure =
        std::all_of(measures.begin(), measures.end(), [&](double m) { return m == measures.front(); });
    constexpr size_t kMostPlaces = 8000; // beyond which a total fit takes too long to wait for
    if (fill == Fill::Full || places.size() > kMostPlaces || measures.empty() || !isOneMeasure ||
        measures.front() <= 0)
        return fullLines(places, measures);
    return totalFit(places, measures.front(), fill);
}

} // namespace glyptos
