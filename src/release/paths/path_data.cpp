#include "release/paths/path_data.h"

#include <cctype>
#include <charconv>

namespace glyptos {
namespace {

class PathReader {
  public:
    explicit PathReader(std::string_view data)
        : data_(data) {}

    Result<std::vector<Contour>> read() {
        while (skipSpace(), at_ < data_.size()) {
            const char c = data_[at_];
            if (std::isalpha(static_cast<unsigned char>(c)))
                command_ = c, ++at_;
            else if (command_ == 0 || command_ == 'Z' || command_ == 'z')
                return wrong();
            if (!act()) return wrong();
        }
        return std::move(contours_);
    }

  private:
    Result<std::vector<Contour>> wrong() const {
        return fail(Fault::Damaged,
                    "The path data cannot be read from character " + std::to_string(at_ + 1) + " on.");
    }

    void skipSpace() {
        while (at_ < data_.size() &&
               (std::isspace(static_cast<unsigned char>(data_[at_])) || data_[at_] == ','))
            ++at_;
    }

    bool number(double& out) {
        skipSpace();
        const size_t from = at_ + (at_ < data_.size() && data_[at_] == '+');
        const auto [end, error] = std::from_chars(data_.data() + from, data_.data() + data_.size(), out);
        if (error != std::errc{}) return false;
        at_ = size_t(end - data_.data());
        return true;
    }

    bool relative() const { return std::islower(static_cast<unsigned char>(command_)); }

    bool point(Vec2& out) {
        if (!number(out.x) || !number(out.y)) return false;
        if (relative()) out = out + here_;
        return true;
    }

    void curveTo(Vec2 c1, Vec2 c2, Vec2 to) {
        auto& nodes = contours_.back().nodes;
        nodes.back().after = c1 - nodes.back().at;
        nodes.push_back({to, c2 - to, {}});
        here_ = to;
    }

    /// The last node of a closed contour is often its first again.
    void close() {
        auto& nodes = contours_.back().nodes;
        contours_.back().closed = true;
        if (nodes.size() > 1 && (nodes.back().at - nodes.front().at).length() < 1e-9) {
            nodes.front().before = nodes.back().before;
            nodes.pop_back();
        }
        here_ = nodes.front().at;
    }

    bool move() {
        Vec2 to;
        if (!point(to)) return false;
        contours_.push_back({{{to, {}, {}}}, false});
        here_ = to;
        // Further points of a move are lines.
        command_ = relative() ? 'l' : 'L';
        return true;
    }

    bool line() {
        Vec2 to = here_;
        const char kind = char(std::toupper(static_cast<unsigned char>(command_)));
        double v = 0;
        if (kind == 'L' ? !point(to) : !number(v)) return false;
        if (kind == 'H') to.x = relative() ? here_.x + v : v;
        if (kind == 'V') to.y = relative() ? here_.y + v : v;
        curveTo(here_, to, to);
        return true;
    }

    bool curve(char kind) {
        const bool smooth = kind == 'S' || kind == 'T', quadratic = kind == 'Q' || kind == 'T';
        const bool goesOn = quadratic == lastQuadratic_ && lastCurve_;
        Vec2 first = goesOn ? here_ * 2 - control_ : here_, second, to;
        if (!smooth && !point(first)) return false;
        if (!quadratic && !point(second)) return false;
        if (!point(to)) return false;
        control_ = quadratic ? first : second;
        if (quadratic) {
            second = to + (first - to) * (2.0 / 3);
            first = here_ + (first - here_) * (2.0 / 3);
        }
        curveTo(first, second, to);
        lastQuadratic_ = quadratic;
        return true;
    }

    bool act() {
        const char kind = char(std::toupper(static_cast<unsigned char>(command_)));
        if (kind == 'M') return lastCurve_ = false, move();
        if (contours_.empty()) return false;
        // After a closed contour drawing goes on from its start, as a contour of its own.
        if (contours_.back().closed) contours_.push_back({{{here_, {}, {}}}, false});
        if (kind == 'Z') {
            if (contours_.back().nodes.size() < 2) return false;
            return lastCurve_ = false, close(), true;
        }
        if (kind == 'L' || kind == 'H' || kind == 'V') return lastCurve_ = false, line();
        if (std::string_view("CSQT").find(kind) == std::string_view::npos) return false;
        const bool done = curve(kind);
        lastCurve_ = true;
        return done;
    }

    std::string_view data_;
    size_t at_ = 0;
    char command_ = 0;
    Vec2 here_, control_;
    bool lastCurve_ = false, lastQuadratic_ = false;
    std::vector<Contour> contours_;
};

} // namespace

Result<std::vector<Contour>> contoursFromPathData(std::string_view data) {
    return PathReader(data).read();
}

} // namespace glyptos
