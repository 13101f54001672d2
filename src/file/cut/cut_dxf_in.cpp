#include "base/text.h"
#include "file/cut/cut_reading.h"

#include <charconv>
#include <map>

namespace glyptos {
namespace {

struct DxfPair {
    int code = 0;
    std::string value;
};

std::vector<DxfPair> pairsOf(std::span<const uint8_t> bytes) {
    const auto lines = split({reinterpret_cast<const char*>(bytes.data()), bytes.size()}, '\n');
    std::vector<DxfPair> out;
    for (size_t i = 0; i + 1 < lines.size(); i += 2) {
        const std::string code = trimmed(lines[i]);
        DxfPair pair{0, trimmed(lines[i + 1])};
        const auto [end, error] = std::from_chars(code.data(), code.data() + code.size(), pair.code);
        if (error != std::errc() || end != code.data() + code.size())
            throw NotCut("line " + std::to_string(i + 1) + " should be a group code");
        out.push_back(std::move(pair));
    }
    return out;
}

double asDxfNumber(const DxfPair& pair) {
    double v = 0;
    const auto [end, error] = std::from_chars(pair.value.data(), pair.value.data() + pair.value.size(), v);
    if (error != std::errc() || end != pair.value.data() + pair.value.size() || !std::isfinite(v))
        throw NotCut("“" + visible(pair.value) + "” should be a number");
    return v;
}
/// The pairs of one entity.
class Entity {
  public:
    Entity(const std::vector<DxfPair>& all, size_t& at)
        : kind(all[at].value) {
        for (++at; at < all.size() && all[at].code != 0; ++at) pairs_.push_back(&all[at]);
    }
    std::string kind;

    double number(int code, std::optional<double> otherwise = std::nullopt) const {
        for (const DxfPair* pair : pairs_)
            if (pair->code == code) return asDxfNumber(*pair);
        if (!otherwise) throw NotCut("a " + kind + " lacks its group " + std::to_string(code));
        return *otherwise;
    }
    std::string text(int code) const {
        for (const DxfPair* pair : pairs_)
            if (pair->code == code) return pair->value;
        return {};
    }
    bool has(int code) const {
        for (const DxfPair* pair : pairs_)
            if (pair->code == code) return true;
        return false;
    }
    Vec2 point(int code = 10) const { return {number(code), number(code + 10)}; }
    /// Every pair of 10 and 20.
    std::vector<Vec2> points() const {
        std::vector<Vec2> out;
        for (const DxfPair* pair : pairs_) {
            if (pair->code == 10) out.push_back({asDxfNumber(*pair), 0});
            if (pair->code == 20 && !out.empty()) out.back().y = asDxfNumber(*pair);
        }
        return out;
    }

  private:
    std::vector<const DxfPair*> pairs_;
};

/// Degrees against the clock; y is up.
Polyline arcLine(Vec2 centre, double radius, double from, double to, bool closed) {
    if (!(radius > 0 && radius < kLargestCutMm)) throw NotCut("a circle has no radius");
    if (to <= from) to += 360;
    const double step = 2 * std::acos(1 - std::min(1.0, kCutTolerance / radius)) * 180 / std::numbers::pi;
    const int n = std::max(8, int(std::ceil((to - from) / step)));
    Polyline out;
    out.closed = closed;
    for (int i = 0; i < n + (closed ? 0 : 1); ++i) {
        const double a = (from + (to - from) * i / n) * std::numbers::pi / 180;
        out.points.push_back(centre + Vec2{std::cos(a), std::sin(a)} * radius);
    }
    return out;
}

class DxfReader {
  public:
    explicit DxfReader(std::span<const uint8_t> bytes)
        : pairs_(pairsOf(bytes)) {}

    CutJob run() {
        for (size_t i = 0; i < pairs_.size(); ++i)
            if (pairs_[i].code == 9 && pairs_[i].value == "$EXTMAX") readExtent(i + 1);
        bool inEntities = false;
        for (size_t at = 0; at < pairs_.size();) {
            if (pairs_[at].code != 0) {
                ++at;
                continue;
            }
            const Entity entity(pairs_, at);
            if (entity.kind == "SECTION") inEntities = entity.text(2) == "ENTITIES";
            if (entity.kind == "ENDSEC") inEntities = false;
            if (inEntities && entity.kind != "SECTION") read(entity, at);
        }
        if (job_.lines.empty()) throw NotCut("nothing is drawn in it");
        return turned();
    }

  private:
    void read(const Entity& e, size_t& at) {
        const CutTool tool = toolNamed(e.text(8)).value_or(CutTool::Cut);
        if (e.kind == "LINE") return add(tool, {{e.point(10), e.point(11)}, false});
        if (e.kind == "CIRCLE") return add(tool, arcLine(e.point(), e.number(40), 0, 360, true));
        if (e.kind == "ARC")
            return add(tool, arcLine(e.point(), e.number(40), e.number(50), e.number(51), false));
        const bool closed = (int(e.number(70, 0)) & 1) != 0;
        if (e.kind == "LWPOLYLINE") {
            if (e.has(42)) throw NotCut("a polyline has bulges, which are not read");
            return add(tool, {e.points(), closed});
        }
        if (e.kind != "POLYLINE") throw NotCut("it has a " + visible(e.kind) + ", which is not read");
        Polyline line{{}, closed};
        while (at < pairs_.size() && pairs_[at].value == "VERTEX") {
            const Entity vertex(pairs_, at);
            if (vertex.number(42, 0) != 0) throw NotCut("a polyline has bulges, which are not read");
            line.points.push_back(vertex.point());
        }
        if (at < pairs_.size() && pairs_[at].value == "SEQEND") Entity(pairs_, at);
        add(tool, std::move(line));
    }

    /// How far the sheet goes, where the file says so.
    void readExtent(size_t at) {
        if (at + 1 >= pairs_.size() || pairs_[at].code != 10 || pairs_[at + 1].code != 20) return;
        extent_ = {asDxfNumber(pairs_[at]), asDxfNumber(pairs_[at + 1])};
    }

    void add(CutTool tool, Polyline line) {
        points_ += line.points.size();
        if (points_ > kMostCutPoints) throw NotCut("it has over a million points");
        for (const Vec2& p : line.points) bounds_ = bounds_.united({p.x, p.y, 1e-9, 1e-9});
        job_.lines.push_back({tool, std::move(line)});
    }

    /// With y down, from the corner of what is drawn or of zero.
    CutJob turned() {
        const double left = std::min(0.0, bounds_.x), bottom = std::min(0.0, bounds_.y);
        job_.width = std::max(bounds_.right(), extent_.x) - left;
        job_.height = std::max(bounds_.bottom(), extent_.y) - bottom;
        for (ToolLine& line : job_.lines)
            for (Vec2& p : line.line.points) p = {p.x - left, job_.height - (p.y - bottom)};
        return std::move(job_);
    }

    std::vector<DxfPair> pairs_;
    CutJob job_;
    Rect bounds_;
    Vec2 extent_;
    size_t points_ = 0;
};

} // namespace

CutJob readCutDxf(std::span<const uint8_t> bytes) {
    return DxfReader(bytes).run();
}

} // namespace glyptos
