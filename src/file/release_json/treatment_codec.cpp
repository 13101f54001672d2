#include "file/release_json/treatment_codec.h"

#include "base/text.h"
#include "file/release_json/mask_codec.h"
#include "file/release_json/paint_codec.h"
#include "file/release_json/shape_codec.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr size_t kMostTreatments = 200;
constexpr double kFarthest = 1e7; ///< units: of a point on a piece

bool isLength(const Figure& figure) {
    return figure.unit == FigureUnit::Length;
}

/// The member of a figure: of a length with its unit.
std::string memberOf(const Figure& figure, Unit unit) {
    const std::string id(figure.id);
    return isLength(figure) ? id + (unit == Unit::Px ? "_px" : "_mm") : id;
}

/// The member that tells a figure, and what its lengths are to be multiplied by; none when it is not told.
struct Told {
    std::string member;
    double factor = 1;
};
std::optional<Told> toldIn(const Entry& e, const Figure& figure, Unit unit) {
    for (const Unit in : {unit, unit == Unit::Px ? Unit::Mm : Unit::Px}) {
        const std::string member = memberOf(figure, in);
        const double pxInMm = unitsPerMm(true);
        if (e.has(member.c_str()))
            return Told{member, in == unit ? 1 : unit == Unit::Px ? pxInMm : 1 / pxInMm};
        if (!isLength(figure)) break;
    }
    return std::nullopt;
}

Json pairsJson(const ToneCurve& curve) {
    Json out = Json::list();
    for (const Vec2& p : curve) out.push_back(pairJson(p));
    return out;
}

Json valueJson(const Figure& figure, const FigureValue& value) {
    if (const auto* number = std::get_if<double>(&value)) {
        if (figure.kind == FigureKind::Flag) return *number != 0;
        if (figure.kind == FigureKind::Choice) return figure.choices[size_t(*number)];
        return *number;
    }
    if (const auto* point = std::get_if<std::optional<Vec2>>(&value)) return pairJson(**point);
    if (const auto* curve = std::get_if<ToneCurve>(&value)) return pairsJson(*curve);
    if (const auto* run = std::get_if<ColourRun>(&value)) return stopsJson(*run);
    if (const auto* path = std::get_if<std::vector<Contour>>(&value)) return contoursJson(*path);
    if (const auto* table = std::get_if<LookTablePtr>(&value)) return lookName(**table);
    return std::get<std::string>(value);
}

Json toJson(const Treatment& t, Unit unit) {
    Json out{{"kind", ""}};
    if (!t.kind) {
        if (auto kept = parseJson(t.unknown)) out = std::move(*kept);
    } else {
        out["kind"] = t.kind->id;
        for (size_t i = 0; i < t.figures.size(); ++i) {
            const Figure& figure = t.kind->figures[i];
            const FigureValue& value = t.figures[i];
            if (!figure.lasting || sameValue(value, standardOf(figure, unitsPerMm(unit == Unit::Px))))
                continue;
            const std::string member = memberOf(figure, unit);
            if (const auto* ink = std::get_if<Ink>(&value))
                out = withInk(std::move(out), member.c_str(), *ink);
            else
                out[member] = valueJson(figure, value);
        }
        if (!t.on) out["on"] = false;
        if (t.opacity != 1) out["opacity"] = t.opacity;
        if (t.blend != BlendMode::Normal) out["blend"] = infoOf(t.blend).id;
    }
    if (t.mask) out["mask"] = toJson(*t.mask);
    return out;
}

double readNumber(const Entry& e, const Told& told, const Figure& figure) {
    const double value = e.number(told.member.c_str()) * told.factor;
    if (value < figure.least || value > figure.most)
        e.at(told.member.c_str())
            .wrong("should be from " + shortNumber(figure.least) + " to " + shortNumber(figure.most));
    const bool whole = figure.unit == FigureUnit::Whole || figure.unit == FigureUnit::Chance;
    if (whole && value != std::floor(value)) e.at(told.member.c_str()).wrong("should be a whole number");
    return value;
}

ToneCurve readCurve(const Entry& list) {
    ToneCurve out;
    list.each([&](const Entry& point) {
        if (out.size() == kMostCurvePoints) point.wrong("is one point too many");
        std::array<double, 2> at{};
        point.numbers(at);
        out.push_back({at[0], at[1]});
    });
    if (!isCurve(out))
        list.wrong("is no curve: its points must lie within 0 and 1, each right of the one before");
    return out;
}

std::vector<Contour> readPath(const Entry& list, double factor) {
    std::vector<Contour> out = readContours(list);
    for (Contour& contour : out)
        for (PathNode& node : contour.nodes)
            node = {node.at * factor, node.before * factor, node.after * factor};
    return out;
}

FigureValue readValue(const Entry& e, const Told& told, const Figure& figure,
                      const TreatmentReading& reading) {
    const char* member = told.member.c_str();
    switch (figure.kind) {
    case FigureKind::Number:
        break;
    case FigureKind::Flag:
        return e.flag(member) ? 1.0 : 0.0;
    case FigureKind::Choice:
        return double(e.oneOf(member, figure.choices));
    case FigureKind::Colour:
        return readInk(e, member);
    case FigureKind::Point: {
        const Vec2 at = readPair(e, member) * told.factor;
        if (std::abs(at.x) > kFarthest || std::abs(at.y) > kFarthest) e.at(member).wrong("lies too far away");
        return std::optional<Vec2>(at);
    }
    case FigureKind::Curve:
        return readCurve(e.at(member));
    case FigureKind::Run:
        return readStops(e.at(member));
    case FigureKind::Path:
        return readPath(e.at(member), told.factor);
    case FigureKind::Picture:
        return e.text(member);
    case FigureKind::Table: {
        const auto table = reading.looks(e.text(member));
        if (!table) e.at(member).wrong("cannot be read: " + table.error().message, table.error().fault);
        return *table;
    }
    }
    return readNumber(e, told, figure);
}

BlendMode readBlend(const Entry& e) {
    const auto blend = blendModeFromId(e.text("blend"));
    if (!blend) e.wrong("blends in an unknown way", Fault::Unsupported);
    return *blend;
}

Treatment readTreatment(const Entry& e, const TreatmentReading& reading) {
    Treatment out;
    const std::string id = e.text("kind");
    out.kind = treatmentKind(id);
    if (e.has("mask")) out.mask = std::make_shared<const Mask>(readMask(e.at("mask"), reading.tiles));
    if (!out.kind) {
        out.unknown = e.json();
        return out;
    }
    out.on = e.flagOr("on", true);
    if (e.has("opacity")) out.opacity = e.between("opacity", 0, 1);
    if (e.has("blend")) out.blend = readBlend(e);
    out.figures = Figures(out.kind->figures, unitsPerMm(reading.unit == Unit::Px));
    for (size_t i = 0; i < out.figures.size(); ++i) {
        const Figure& figure = out.kind->figures[i];
        if (const auto told = figure.lasting ? toldIn(e, figure, reading.unit) : std::nullopt)
            out.figures.set(i, readValue(e, *told, figure, reading));
    }
    return out;
}

} // namespace

std::string lookName(const LookTable& table) {
    return "looks/" + tileName({table.hash[0], table.hash[1]}) + ".cube";
}

Json toJson(const Treatments& treatments, Unit unit) {
    Json out = Json::list();
    for (const Treatment& t : treatments) out.push_back(toJson(t, unit));
    return out;
}

Treatments readTreatments(const Entry& list, const TreatmentReading& reading) {
    Treatments out;
    list.each([&](const Entry& one) {
        if (out.size() == kMostTreatments) one.wrong("is one treatment too many");
        out.push_back(readTreatment(one, reading));
    });
    return out;
}

} // namespace glyptos
