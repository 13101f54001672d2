#include "render/tiles/named_stack.h"

#include "render/layer_geometry.h"
#include "render/line_boxes.h"
#include "render/tiles/blend_bands.h"
#include "render/tiles/kept_composites.h"
#include "render/tiles/key_hash.h"
#include "render/tiles/layer_recipes.h"
#include "render/tiles/treated_steps.h"
#include "render/tiles/treated_tiles.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// Echoes drawn into one tile. A release that asks for more is meant to harm; the rest is left out.
constexpr int kMostEchoes = 2000;

bool isNothing(const NamedLayer& layer) {
    return std::holds_alternative<Nothing>(layer.rows);
}

class Namer {
  public:
    Namer(const RenderParts& parts, const Scene& scene, const IntRect& region,
          std::vector<PanelPlace> opened = {}, std::vector<std::string> read = {})
        : recipes_(parts, *scene.release, region, scene.moving ? Sampling::Draft : Sampling::Whole)
        , parts_(parts)
        , scene_(scene)
        , release_(*scene.release)
        , region_(region)
        , inHand_(scene.inHand)
        , opened_(std::move(opened))
        , read_(std::move(read)) {}

    std::vector<NamedLayer> name(const PanelView& view) { return name(view, view.toOutput); }

  private:
    /// Layers of a panel, which `toOutput` leads from to output px.
    std::vector<NamedLayer> name(const PanelView& view, const Mapping& toOutput) {
        opened_.push_back(view.place);
        auto out = name(view.stack, toOutput);
        opened_.pop_back();
        return out;
    }

    /// The layers of a list from the one at `first` on.
    std::vector<NamedLayer> name(const Stack& stack, const Mapping& toOutput, size_t first = 0) {
        std::vector<NamedLayer> out;
        for (size_t i = first; i < stack.size(); ++i) {
            const size_t base = clipBase(stack, i);
            if (stack[base]->on) keep(single({stack, i, base}, toOutput), out);
            i = base;
            if (!out.empty() && out.back().opaque) break;
        }
        return out;
    }

    /// What shows nothing and leaves the backdrop as it is can be left out.
    static void keep(NamedLayer layer, std::vector<NamedLayer>& out) {
        if (!isNothing(layer) || !infoOf(layer.blend).keepsBackdrop) out.push_back(std::move(layer));
    }

    /// A layer of a list, with those that are clipped into it: [from, base] of the list.
    struct Run {
        const Stack& stack;
        size_t from, base;
        bool beneath = false; ///< not the layer, a grade, but what lies beneath it
        const Layer& layer() const { return *stack[base]; }
        bool holdsMore() const { return from < base; }
    };

    NamedLayer single(const Run& run, const Mapping& toOutput) {
        const Layer& layer = run.layer();
        NamedLayer out;
        if (layer.opacity > 0) out = layer.as<GradeContent>() ? grade(run, toOutput) : whole(run, toOutput);
        settle(layer, out);
        return out;
    }

    /// What a run shows with its mask and treatments, before it is blended.
    NamedLayer whole(const Run& run, const Mapping& toOutput) {
        const TreatedSteps steps(run.layer());
        if (!steps.any()) return inner(run, shown(run, toOutput), toOutput);
        const auto affine = toOutput.affine();
        if (affine || steps.coloursAlone()) return upTo(run, steps, steps.count(), toOutput);
        return upright(run, steps, toOutput);
    }

    /// What a layer shows by itself. What is recoloured, cut or clipped into meets it alone, so nothing
    /// passes through a group then.
    NamedLayer shown(const Run& run, const Mapping& toOutput) {
        if (run.beneath) return beneath(run, toOutput);
        const Layer& layer = run.layer();
        NamedLayer out =
            std::visit([&](const auto& content) { return rows(layer, content, toOutput); }, layer.content);
        auto* group = std::get_if<NamedGroup>(&out.rows);
        if (group && group->kind == GroupKind::Passing && (run.holdsMore() || TreatedSteps(layer).any())) {
            group->kind = GroupKind::Isolated;
            out.key = KeyHash(kGroup).add(group->kind).add(out.key).key();
        }
        return out;
    }

    /// `out` within the layer's mask, and what is clipped into the layer on it.
    NamedLayer inner(const Run& run, NamedLayer out, const Mapping& toOutput) {
        if (run.beneath) return out;
        const Layer& layer = run.layer();
        if (!isNothing(out) && layer.mask && layer.mask->on)
            addMask(recipes_.mask(*layer.mask, maskMapping(layer, toOutput)), out);
        return run.holdsMore() ? withClipped(run, std::move(out), toOutput) : out;
    }

    /// A run with the first `count` steps of its layer.
    NamedLayer upTo(const Run& run, const TreatedSteps& steps, size_t count, const Mapping& toOutput) {
        size_t first = count;
        while (first > 0 && !steps.looksAround(first - 1)) --first;
        NamedLayer out = first > 0 ? around(run, steps, first - 1, *toOutput.affine()) : shown(run, toOutput);
        GradeRecipe grades = noGrades(toOutput);
        for (size_t i = first; i < count; ++i) {
            if (const Treatment* treatment = steps.step(i)) {
                addGrade(*treatment, toOutput, grades);
                continue;
            }
            out = inner(run, graded(std::move(out), grades), toOutput);
            grades.steps.clear();
        }
        return graded(std::move(out), grades);
    }

    GradeRecipe noGrades(const Mapping& toOutput) const {
        return {{}, placeOf(toOutput.affine().value_or(Affine{})), parts_.grades};
    }

    void addGrade(const Treatment& treatment, const Mapping& toOutput, GradeRecipe& out) const {
        KeyHash hash(kGrade);
        hash.add(treatment);
        if (treatment.kind->placed) hash.add(out.place);
        out.steps.push_back({hash.key(), &treatment, maskOf(treatment, toOutput)});
    }

    std::optional<TileRecipe> maskOf(const Treatment& treatment, const Mapping& toOutput) const {
        if (!treatment.mask || !treatment.mask->on) return std::nullopt;
        return recipes_.mask(*treatment.mask, toOutput);
    }

    static TileKey keyOf(const GradeRecipe& grades) {
        KeyHash hash(kGrade);
        for (const auto& step : grades.steps) {
            hash.add(step.key);
            if (step.mask) hash.add(step.mask->key);
        }
        return hash.key();
    }

    /// A layer recoloured: grades clipped into it.
    static NamedLayer graded(NamedLayer layer, const GradeRecipe& grades) {
        if (isNothing(layer) || grades.steps.empty()) return layer;
        NamedLayer over, out;
        over.key = keyOf(grades);
        over.rows.emplace<GradeRecipe>(grades);
        NamedGroup run{{}, GroupKind::Clip};
        run.layers.push_back(std::move(over));
        run.layers.push_back(std::move(layer));
        setGroup(std::move(run), out);
        return out;
    }

    /// The tile of a treatment that looks around itself, on what the steps before it show.
    NamedLayer around(const Run& run, const TreatedSteps& steps, size_t step, const Affine& toOutput) const {
        const Treatment& treatment = *steps.step(step);
        Place place = placeOf(toOutput);
        if (treatment.kind->readsLines) place.lines = lineBoxesOf(run.layer(), release_, parts_.paragraphs);
        return aroundTile(treatment, place, readBy(treatment, run.layer().id, place),
                          [this_ = *this, run, steps, step](const Affine& map, const IntRect& region) {
                              std::vector<NamedLayer> out;
                              Namer there = this_.elsewhere(region);
                              keep(there.upTo(run, steps, step, map), out);
                              return out;
                          });
    }

    Namer elsewhere(const IntRect& region) const { return {parts_, scene_, region, opened_, read_}; }

    /// What a treatment of a layer reads besides, in the order of its figures.
    std::vector<Naming> readBy(const Treatment& treatment, const std::string& layer,
                               const Place& place) const {
        std::vector<Naming> out;
        for (size_t i = 0; i < treatment.figures.size(); ++i) {
            if (treatment.kind->figures[i].kind != FigureKind::Picture) continue;
            const std::string& id = treatment.figures.picture(i);
            if (id.empty() || id == std::string(kLayerMark) + layer) {
                out.emplace_back();
                continue;
            }
            const Affine placed = treatment.kind->pictureOnPanel
                                      ? treatment.kind->pictureOnPanel(treatment.figures, place)
                                      : Affine{};
            out.emplace_back([this_ = *this, id, placed, layer, panel = place.panel](const Affine& map,
                                                                                     const IntRect& region) {
                Namer there = this_.elsewhere(region);
                there.read_.push_back(layer);
                return there.read(id, map * placed, panel);
            });
        }
        return out;
    }

    /// A source that covers the panel, or another layer of it with its treatments; nothing when it is gone,
    /// or is being read already.
    std::vector<NamedLayer> read(const std::string& id, const Affine& onto, const Rect& panel) {
        std::vector<NamedLayer> out;
        if (!id.starts_with(kLayerMark)) {
            const SourcePtr source = release_.source(id);
            if (!source || source->width <= 0 || source->height <= 0) return out;
            const double k = std::max(panel.w / source->width, panel.h / source->height);
            const Vec2 corner = panel.centre() - Vec2{source->width * k / 2, source->height * k / 2};
            const Affine cover = Affine::translation(corner.x, corner.y) * Affine::scaling(k, k);
            keep(recipes_.picture(PictureContent{id}, onto * cover), out);
            return out;
        }
        const std::string layer = id.substr(kLayerMark.size());
        const PiecePtr piece = opened_.empty() ? nullptr : release_.piece(opened_.back().piece);
        if (!piece || std::find(read_.begin(), read_.end(), layer) != read_.end()) return out;
        const auto& take = piece->take(opened_.back().take);
        if (!take) return out;
        if (const auto run = find(take->stack(opened_.back().panel), layer)) {
            read_.push_back(layer);
            keep(whole(*run, onto), out);
            read_.pop_back();
        }
        return out;
    }

    static std::optional<Run> find(const Stack& stack, const std::string& id) {
        for (size_t i = 0; i < stack.size(); ++i) {
            if (stack[i]->id == id) return Run{stack, i, i};
            if (const auto* group = stack[i]->as<GroupContent>())
                if (auto inside = find(group->layers, id)) return inside;
        }
        return std::nullopt;
    }

    /// Whether what is laid behind lines may be seen there, though nothing of them is.
    static bool behindLines(const Place& place, const IntRect& seen) {
        return !place.lines.boxes.empty() &&
               !pixelsAround(place.toOutput.mapBounds(place.lines.bounds())).intersected(seen).empty();
    }

    NamedLayer aroundTile(const Treatment& treatment, const Place& place, const std::vector<Naming>& pictures,
                          const Naming& naming) const {
        const Affine& toOutput = place.toOutput;
        const int reach = reachOf(*treatment.kind, treatment.figures, place);
        const IntRect seen{region_.x - reach, region_.y - reach, region_.w + 2 * reach,
                           region_.h + 2 * reach};
        const std::vector<NamedLayer> inside = naming(toOutput, seen);
        if (inside.empty() && !behindLines(place, seen)) return {};
        const auto mask = maskOf(treatment, toOutput);
        KeyHash hash(kTreated);
        hash.add(nameOf(inside, seen, release_.linearLight)).add(treatment).add(place).add(region_);
        if (mask) hash.add(mask->key);
        for (const Naming& picture : pictures)
            if (picture) hash.add(nameOf(picture(toOutput, region_), region_, release_.linearLight));
        NamedLayer out;
        out.key = hash.key();
        out.rows = TileRecipe{out.key, [=, &treatment, linear = release_.linearLight, &tiles = parts_.tiles,
                                        region = region_](Scratch& scratch) {
                                  return treatedTile(treatment, {naming, pictures, place, linear, tiles},
                                                     mask, region, scratch);
                              }};
        return out;
    }

    /// Through a mapping that is not affine: treated as it lies upright, and seen from there.
    NamedLayer upright(const Run& run, const TreatedSteps& steps, const Mapping& toOutput) const {
        return drawnUpright(toOutput, [this_ = *this, run, steps](const Affine& map, const IntRect& region) {
            std::vector<NamedLayer> out;
            Namer there = this_.elsewhere(region);
            keep(there.upTo(run, steps, steps.count(), map), out);
            return out;
        });
    }

    NamedLayer drawnUpright(const Mapping& toOutput, const Naming& naming) const {
        const double scale = recipes_.uprightScale(toOutput);
        const Rect seen = reachesOf(toOutput, region_.toRect()).back();
        const IntRect about = pixelsAround(
            Rect{seen.x * scale, seen.y * scale, seen.w * scale, seen.h * scale}.grown(2 * kTileSize));
        const auto names = naming(Affine::scaling(scale, scale), about);
        if (names.empty()) return {};
        KeyHash hash(kTreated);
        hash.add(nameOf(names, about, release_.linearLight));
        return recipes_.drawn(std::move(hash), toOutput,
                              [naming, linear = release_.linearLight,
                               &tiles = parts_.tiles](const Affine& map, const IntRect& region) {
                                  Scratch scratch;
                                  scratch.linear = linear;
                                  return compositeTile(naming(map, region), region, tiles, scratch,
                                                       TileSpace::Encoded);
                              });
    }

    /// What lies beneath a grade: in its list, or of what it is clipped into.
    NamedLayer beneath(const Run& run, const Mapping& toOutput) {
        const size_t base = clipBase(run.stack, run.base);
        if (base > run.base) return whole({run.stack, run.base + 1, base}, toOutput);
        NamedLayer out;
        setGroup({name(run.stack, toOutput, run.base + 1), GroupKind::Isolated}, out);
        return out;
    }

    static NamedLayer eraser() {
        NamedLayer out;
        out.key = KeyHash(kSolid).add(Rgba{}).key();
        out.rows = SolidRows{{0, 0, 0, 1}};
        out.blend = BlendMode::DestinationOut;
        return out;
    }

    /// A grade recolours what lies beneath it; one that looks around itself draws that anew.
    NamedLayer grade(const Run& run, const Mapping& toOutput) {
        const Layer& layer = run.layer();
        const TreatedSteps steps(layer);
        NamedLayer out;
        if (!steps.any() || (!steps.coloursAlone() && !toOutput.affine())) return out;
        if (!changesColoursOnly(*layer.treatments)) {
            Run below = run;
            below.beneath = true;
            NamedLayer drawn = upTo(below, steps, steps.count(), toOutput);
            drawn.blend = layer.blend;
            NamedGroup passing{{}, GroupKind::Passing};
            keep(std::move(drawn), passing.layers);
            // It takes the place of what it was drawn from, where that is all there is.
            const bool isClipped = clipBase(run.stack, run.base) != run.base;
            if (layer.blend == BlendMode::Normal && !isClipped && !passing_)
                passing.layers.push_back(eraser());
            setGroup(std::move(passing), out);
        } else {
            GradeRecipe grades = noGrades(toOutput);
            for (size_t i = 0; i < steps.count(); ++i)
                if (const Treatment* treatment = steps.step(i)) addGrade(*treatment, toOutput, grades);
            out.key = keyOf(grades);
            out.rows.emplace<GradeRecipe>(std::move(grades));
        }
        if (!isNothing(out) && layer.mask && layer.mask->on)
            addMask(recipes_.mask(*layer.mask, toOutput), out);
        return out;
    }

    /// Units of the panel to output pixels, and where that panel is.
    Place placeOf(const Affine& toOutput) const {
        Place out{toOutput, {}, 1};
        const PiecePtr piece = opened_.empty() ? nullptr : release_.piece(opened_.back().piece);
        if (!piece) return out;
        out.unitsPerMm = unitsPerMm(piece->flat->unit == Unit::Px);
        if (const Panel* panel = piece->flat->panel(opened_.back().panel)) out.panel = panel->withBleed();
        return out;
    }

    /// From the layer's own frame.
    Mapping mapping(const Layer& layer, const Mapping& toOutput) const {
        return toOutput * (layer.warp ? seenOnPanel(layer, release_, parts_.paragraphs)
                                      : Mapping(placedOnPanel(layer, release_)));
    }
    /// A linked mask, which lies on the panel, goes through its layer's warp.
    Mapping maskMapping(const Layer& layer, const Mapping& toOutput) const {
        if (!layer.warp || !layer.mask->linked) return toOutput;
        const Frame frame = frameOf(layer, release_, {}, parts_.paragraphs);
        const auto back = frame.toPanel.inverse();
        return back ? toOutput * frame.mapping() * Mapping(*back) : toOutput;
    }

    static void addMask(TileRecipe mask, NamedLayer& out) {
        out.key = KeyHash(kMasked).add(out.key).add(mask.key).key();
        out.mask = std::move(mask);
        out.opaque = false;
    }

    void settle(const Layer& layer, NamedLayer& out) const {
        out.blend = layer.blend;
        out.opacity = float(std::clamp(layer.opacity, 0.0, 1.0));
        out.opaque = out.opaque && layer.blend == BlendMode::Normal && layer.opacity >= 1;
        out.inHand = out.inHand || holds(layer);
    }

    bool holds(const Layer& layer) const {
        if (inHand_.empty()) return false;
        if (layer.id == inHand_) return true;
        const auto* group = layer.as<GroupContent>();
        return group && findLayer(group->layers, inHand_);
    }

    /// Layers [from, base) of the stack inside `first`, which is what the layer `base` shows.
    NamedLayer withClipped(const Run& run, NamedLayer first, const Mapping& toOutput) {
        NamedLayer out;
        if (isNothing(first)) return out;
        NamedGroup group{{}, GroupKind::Clip};
        for (size_t i = run.from; i < run.base; ++i)
            if (run.stack[i]->on) keep(single({run.stack, i, i}, toOutput), group.layers);
        for (const NamedLayer& inside : group.layers) out.inHand = out.inHand || inside.inHand;
        group.layers.push_back(std::move(first));
        setGroup(std::move(group), out);
        return out;
    }

    static void setGroup(NamedGroup group, NamedLayer& out) {
        KeyHash hash(kGroup);
        hash.add(group.kind);
        for (const NamedLayer& layer : group.layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
        out.key = hash.key();
        if (group.layers.empty()) return;
        out.opaque = group.layers.back().opaque &&
                     std::none_of(group.layers.begin(), group.layers.end(),
                                  [](const NamedLayer& l) { return cutsBackdrop(l.blend); });
        out.rows = std::move(group);
    }

    NamedLayer rows(const Layer& layer, const GroupContent& content, const Mapping& toOutput) {
        const bool passing = content.passing && layer.blend == BlendMode::Normal;
        NamedLayer out;
        const bool around = std::exchange(passing_, passing);
        setGroup({name(content.layers, layer.warp ? mapping(layer, toOutput) : toOutput),
                  passing ? GroupKind::Passing : GroupKind::Isolated},
                 out);
        passing_ = around;
        return out;
    }

    /// The other panel's layers, each cut to its own frame. An echo of something that is being drawn already
    /// shows nothing.
    NamedLayer rows(const Layer& layer, const EchoContent& echo, const Mapping& toOutput) {
        NamedLayer out;
        if (!echoFrame(echo, release_) || ++echoes_ > kMostEchoes) return out;
        const Mapping map = mapping(layer, toOutput);
        NamedGroup group;
        for (const PanelView& inner : echoViews(echo, release_, {})) {
            if (std::find(opened_.begin(), opened_.end(), inner.place) != opened_.end()) continue;
            const Mapping there = map * Mapping(inner.toOutput);
            if (pixelsAround(there.mapBounds(inner.area)).intersected(region_).empty()) continue;
            NamedLayer panel;
            setGroup({name(inner, there), GroupKind::Isolated}, panel);
            if (isNothing(panel)) continue;
            if (auto edge = recipes_.edge(inner.area, there)) addMask(std::move(*edge), panel);
            group.layers.push_back(std::move(panel));
        }
        // Panels of a flat do not overlap; the first is drawn first.
        std::reverse(group.layers.begin(), group.layers.end());
        setGroup(std::move(group), out);
        return out;
    }

    NamedLayer rows(const Layer& layer, const PictureContent& content, const Mapping& toOutput) {
        return recipes_.picture(content, mapping(layer, toOutput));
    }
    NamedLayer rows(const Layer& layer, const TextContent& content, const Mapping& toOutput) {
        return recipes_.text(content, mapping(layer, toOutput));
    }
    /// It shows nothing of its own.
    NamedLayer rows(const Layer&, const GradeContent&, const Mapping&) { return {}; }
    NamedLayer rows(const Layer&, const FillContent& fill, const Mapping& toOutput) {
        return recipes_.fill(fill, toOutput);
    }
    NamedLayer rows(const Layer& layer, const PaintedContent& painted, const Mapping& toOutput) {
        return recipes_.painted(painted, mapping(layer, toOutput));
    }
    NamedLayer rows(const Layer& layer, const ShapeContent& shape, const Mapping& toOutput) {
        return recipes_.shape(shape, mapping(layer, toOutput));
    }

    LayerRecipes recipes_;
    RenderParts parts_;
    const Scene& scene_;
    const Release& release_;
    IntRect region_;
    const std::string& inHand_;
    std::vector<PanelPlace> opened_; ///< panels that are being named, outermost first
    std::vector<std::string> read_;  ///< layers that are being treated or read, outermost first
    int echoes_ = 0;
    bool passing_ = false; ///< within a group that layers pass through
};

} // namespace

std::vector<NamedLayer> nameStack(const RenderParts& parts, const Scene& scene, const PanelView& view,
                                  const IntRect& region) {
    return Namer(parts, scene, region).name(view);
}

TileKey nameOf(const std::vector<NamedLayer>& layers, const IntRect& region, bool linear) {
    KeyHash hash(kComposite);
    hash.add(linear).add(region);
    for (const NamedLayer& layer : layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
    return hash.key();
}

} // namespace glyptos
