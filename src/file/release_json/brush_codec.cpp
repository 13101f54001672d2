#include "file/release_json/brush_codec.h"

#include "file/release_json/shape_codec.h"

namespace glyptos {
namespace {

constexpr size_t kMostStamps = 1000, kMostPressures = 4096;

const char* nameOf(std::string_view id) {
    return id.data(); // of the tables, which end in a zero
}

} // namespace

Json toJson(const Brush& brush) {
    const Brush standard;
    Json out{{"tip", kTipNames[size_t(brush.tip)]}};
    if (brush.blend != standard.blend) out["blend"] = std::string(infoOf(brush.blend).id);
    if (brush.way != standard.way) out["way"] = kPaintWayNames[size_t(brush.way)];
    for (const BrushFigure& figure : kBrushFigures)
        if (brush.*figure.value != standard.*figure.value) out[nameOf(figure.id)] = brush.*figure.value;
    for (const BrushFlag& flag : kBrushFlags)
        if (brush.*flag.value != standard.*flag.value) out[nameOf(flag.id)] = brush.*flag.value;
    return out;
}

Brush readBrush(const Entry& e) {
    Brush out;
    out.tip = e.oneOf<TipKind>("tip", kTipNames);
    if (e.has("blend")) {
        const auto blend = blendModeFromId(e.text("blend"));
        if (!blend) e.wrong("blends in an unknown way", Fault::Unsupported);
        out.blend = *blend;
    }
    if (e.has("way")) out.way = e.oneOf<PaintWay>("way", kPaintWayNames);
    for (const BrushFigure& figure : kBrushFigures)
        if (e.has(nameOf(figure.id)))
            out.*figure.value = e.between(nameOf(figure.id), figure.least, figure.most);
    for (const BrushFlag& flag : kBrushFlags) out.*flag.value = e.flagOr(nameOf(flag.id), out.*flag.value);
    return out;
}

Json toJson(const Stamp& stamp) {
    if (!stamp.source.empty()) return {{"source", stamp.source}};
    return {{"contours", contoursJson(stamp.outline)}};
}

std::vector<Stamp> readStamps(const Entry& list) {
    std::vector<Stamp> out;
    list.each([&](const Entry& one) {
        if (out.size() == kMostStamps) one.wrong("is one stamp too many");
        Stamp stamp;
        if (one.has("source"))
            stamp.source = one.text("source");
        else
            stamp.outline = readContours(one.at("contours"));
        out.push_back(std::move(stamp));
    });
    return out;
}

Json toJson(const BrushedLine& line) {
    Json out = toJson(line.brush);
    Json stamps = Json::list(), pressures = Json::list();
    for (const Stamp& stamp : line.stamps) stamps.push_back(toJson(stamp));
    for (const float p : line.pressures) pressures.push_back(double(p));
    if (!line.stamps.empty()) out["stamps"] = std::move(stamps);
    if (!line.pressures.empty()) out["pressures"] = std::move(pressures);
    return out;
}

BrushedLine readBrushedLine(const Entry& e) {
    BrushedLine out{readBrush(e), {}, {}};
    if (e.has("stamps")) out.stamps = readStamps(e.at("stamps"));
    if (e.has("pressures"))
        e.each("pressures", [&](const Entry& one) {
            if (out.pressures.size() == kMostPressures) one.wrong("is one pressure too many");
            const double v = one.number();
            if (v < 0 || v > 1) one.wrong("is no pressure from 0 to 1");
            out.pressures.push_back(float(v));
        });
    return out;
}

} // namespace glyptos
