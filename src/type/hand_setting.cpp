#include "type/hand_setting.h"

#include "type/path_way.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

template <class Mark>
auto placeOf(std::vector<Mark>& marks, size_t byte) {
    return std::lower_bound(marks.begin(), marks.end(), byte,
                            [](const Mark& mark, size_t at) { return mark.at < at; });
}

/// In place of the one at its byte; nothing there when it does nothing.
template <class Mark>
void put(std::vector<Mark>& marks, const Mark& mark, bool doesNothing) {
    auto place = placeOf(marks, mark.at);
    if (place != marks.end() && place->at == mark.at) place = marks.erase(place);
    if (!doesNothing) marks.insert(place, mark);
}

template <class Mark>
const Mark* found(const std::vector<Mark>& marks, size_t byte) {
    const auto at = std::find_if(marks.begin(), marks.end(), [&](const Mark& m) { return m.at == byte; });
    return at == marks.end() ? nullptr : &*at;
}

LetterPose inPlace(size_t byte) {
    LetterPose out;
    out.at = byte;
    return out;
}

constexpr double kDegree = std::numbers::pi / 180;

} // namespace

double kernAt(const TextSpec& spec, size_t byte) {
    const HandKern* kern = found(spec.kerns, byte);
    return kern ? kern->em : 0;
}

TextSpec withKern(TextSpec spec, size_t byte, double em) {
    put(spec.kerns, HandKern{byte, em}, em == 0);
    return spec;
}

double leadingOf(const TextSpec& spec, size_t from, size_t to) {
    for (const OwnLeading& own : spec.leadings)
        if (own.at == from || (own.at > from && own.at < to)) return own.em;
    return spec.leading;
}

TextSpec withLeading(TextSpec spec, size_t from, size_t to, double em) {
    std::erase_if(spec.leadings, [&](const OwnLeading& own) { return own.at > from && own.at < to; });
    put(spec.leadings, OwnLeading{from, em}, em == spec.leading);
    return spec;
}

LetterPose poseAt(const TextSpec& spec, size_t byte) {
    const LetterPose* pose = found(spec.poses, byte);
    return pose ? *pose : inPlace(byte);
}

TextSpec withPose(TextSpec spec, const LetterPose& pose) {
    put(spec.poses, pose, pose == inPlace(pose.at));
    return spec;
}

std::optional<Vec2> startOf(const TextFrame& frame) {
    if (const auto* circle = std::get_if<RoundCircle>(&frame)) {
        const double t = circle->start * kDegree;
        return Vec2{std::sin(t), -std::cos(t)} * circle->radius;
    }
    if (const auto* path = std::get_if<AlongPath>(&frame)) {
        const PathWay way(path->line);
        return way.at(std::clamp(path->start, 0.0, way.length())).point;
    }
    return std::nullopt;
}

TextFrame withStart(TextFrame frame, Vec2 near) {
    if (auto* circle = std::get_if<RoundCircle>(&frame); circle && near.length() > 0)
        circle->start = std::atan2(near.x, -near.y) / kDegree;
    if (auto* path = std::get_if<AlongPath>(&frame)) path->start = PathWay(path->line).nearest(near);
    return frame;
}

} // namespace glyptos
