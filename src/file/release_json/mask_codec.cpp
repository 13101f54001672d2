#include "file/release_json/mask_codec.h"

#include "file/release_json/paint_codec.h"
#include "file/release_json/painted_codec.h"
#include "file/release_json/placing_codec.h"
#include "file/release_json/shape_codec.h"
#include "release/limits.h"

namespace glyptos {
namespace {

/// The member that holds each form, and how it is read.
template <class T>
struct Codec;
template <>
struct Codec<PictureContent> {
    static constexpr const char* kMember = "picture";
    static PictureContent read(const Entry& e, const TileSource&) { return readPicture(e.at(kMember)); }
};
template <>
struct Codec<Gradient> {
    static constexpr const char* kMember = "gradient";
    static Gradient read(const Entry& e, const TileSource&) { return readGradient(e.at(kMember)); }
};
template <>
struct Codec<ShapeContent> {
    static constexpr const char* kMember = "shape";
    static ShapeContent read(const Entry& e, const TileSource&) { return readShape(e.at(kMember)); }
};

template <>
struct Codec<PaintedMask> {
    static constexpr const char* kMember = "painted";
    static PaintedMask read(const Entry& e, const TileSource& tiles) {
        const Entry painted = e.at(kMember);
        PaintedMask out{readTiles(painted.at("tiles"), kMaskPixels, tiles), painted.flag("shows")};
        if (painted.has("figure"))
            out.hints = std::make_shared<const CutoutHints>(readHints(painted.at("figure")));
        return out;
    }
};

Json toJson(const PaintedMask& m) {
    Json out{{"shows", m.shows}, {"tiles", toJson(*m.tiles)}};
    if (m.hints) out["figure"] = toJson(*m.hints);
    return out;
}

template <class... Form>
std::variant<Form...> readForm(const Entry& e, const TileSource& tiles, const std::variant<Form...>&) {
    std::optional<std::variant<Form...>> out;
    const auto attempt = [&]<class T>(std::in_place_type_t<T>) {
        if (!out && e.has(Codec<T>::kMember)) out.emplace(Codec<T>::read(e, tiles));
    };
    (attempt(std::in_place_type<Form>), ...);
    if (!out) e.wrong("is a mask of no known form", Fault::Unsupported);
    return *out;
}

} // namespace

Json toJson(const Mask& m) {
    Json out{{"on", m.on},           {"inverted", m.inverted},
             {"linked", m.linked},   {"strength", m.strength},
             {"feather", m.feather}, {"placement", toJson(m.placement)}};
    std::visit([&]<class T>(const T& form) { out[Codec<T>::kMember] = toJson(form); }, m.form);
    return out;
}

Mask readMask(const Entry& e, const TileSource& tiles) {
    Mask m;
    m.on = e.flag("on");
    m.inverted = e.flag("inverted");
    m.linked = e.flag("linked");
    m.strength = e.between("strength", 0, 1);
    m.feather = e.between("feather", 0, kLargestSide);
    m.placement = readPlacement(e.at("placement"));
    m.form = readForm(e, tiles, m.form);
    return m;
}

} // namespace glyptos
