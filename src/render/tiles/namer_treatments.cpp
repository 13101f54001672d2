#include "render/line_boxes.h"
#include "render/tiles/blend_bands.h"
#include "render/tiles/kept_composites.h"
#include "render/tiles/key_hash.h"
#include "render/tiles/namer.h"

#include <algorithm>

namespace glyptos {

NamedLayer Namer::upTo(const Run& run, const TreatedSteps& steps, size_t count, const Mapping& toOutput) {
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

GradeRecipe Namer::noGrades(const Mapping& toOutput) const {
    return {{}, placeOf(toOutput.affine().value_or(Affine{})), parts_.grades};
}

void Namer::addGrade(const Treatment& treatment, const Mapping& toOutput, GradeRecipe& out) const {
    KeyHash hash(kGrade);
    hash.add(treatment);
    if (treatment.kind->placed) hash.add(out.place);
    out.steps.push_back({hash.key(), &treatment, maskOf(treatment, toOutput)});
}

std::optional<TileRecipe> Namer::maskOf(const Treatment& treatment, const Mapping& toOutput) const {
    if (!treatment.mask || !treatment.mask->on) return std::nullopt;
    return recipes_.mask(*treatment.mask, toOutput);
}

TileKey Namer::keyOf(const GradeRecipe& grades) {
    KeyHash hash(kGrade);
    for (const auto& step : grades.steps) {
        hash.add(step.key);
        if (step.mask) hash.add(step.mask->key);
    }
    return hash.key();
}

NamedLayer Namer::graded(NamedLayer layer, const GradeRecipe& grades) {
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

NamedLayer Namer::around(const Run& run, const TreatedSteps& steps, size_t step,
                         const Affine& toOutput) const {
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

std::vector<Naming> Namer::readBy(const Treatment& treatment, const std::string& layer,
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

std::vector<NamedLayer> Namer::read(const std::string& id, const Affine& onto, const Rect& panel) {
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

std::optional<Namer::Run> Namer::find(const Stack& stack, const std::string& id) {
    for (size_t i = 0; i < stack.size(); ++i) {
        if (stack[i]->id == id) return Run{stack, i, i};
        if (const auto* group = stack[i]->as<GroupContent>())
            if (auto inside = find(group->layers, id)) return inside;
    }
    return std::nullopt;
}

bool Namer::behindLines(const Place& place, const IntRect& seen) {
    return !place.lines.boxes.empty() &&
           !pixelsAround(place.toOutput.mapBounds(place.lines.bounds())).intersected(seen).empty();
}

NamedLayer Namer::aroundTile(const Treatment& treatment, const Place& place,
                             const std::vector<Naming>& pictures, const Naming& naming) const {
    const Affine& toOutput = place.toOutput;
    const int reach = reachOf(*treatment.kind, treatment.figures, place);
    const IntRect seen{region_.x - reach, region_.y - reach, region_.w + 2 * reach, region_.h + 2 * reach};
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
    out.rows = TileRecipe{
        out.key, [=, &treatment, linear = release_.linearLight, &tiles = parts_.tiles,
                  region = region_](Scratch& scratch) {
            return treatedTile(treatment, {naming, pictures, place, linear, tiles}, mask, region, scratch);
        }};
    return out;
}

NamedLayer Namer::upright(const Run& run, const TreatedSteps& steps, const Mapping& toOutput) const {
    return drawnUpright(toOutput, [this_ = *this, run, steps](const Affine& map, const IntRect& region) {
        std::vector<NamedLayer> out;
        Namer there = this_.elsewhere(region);
        keep(there.upTo(run, steps, steps.count(), map), out);
        return out;
    });
}

NamedLayer Namer::drawnUpright(const Mapping& toOutput, const Naming& naming) const {
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

NamedLayer Namer::beneath(const Run& run, const Mapping& toOutput) {
    const size_t base = clipBase(run.stack, run.base);
    if (base > run.base) return whole({run.stack, run.base + 1, base}, toOutput);
    NamedLayer out;
    setGroup({name(run.stack, toOutput, run.base + 1), GroupKind::Isolated}, out);
    return out;
}

NamedLayer Namer::eraser() {
    NamedLayer out;
    out.key = KeyHash(kSolid).add(Rgba{}).key();
    out.rows = SolidRows{{0, 0, 0, 1}};
    out.blend = BlendMode::DestinationOut;
    return out;
}

NamedLayer Namer::grade(const Run& run, const Mapping& toOutput) {
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
        if (layer.blend == BlendMode::Normal && !isClipped && !passing_) passing.layers.push_back(eraser());
        setGroup(std::move(passing), out);
    } else {
        GradeRecipe grades = noGrades(toOutput);
        for (size_t i = 0; i < steps.count(); ++i)
            if (const Treatment* treatment = steps.step(i)) addGrade(*treatment, toOutput, grades);
        out.key = keyOf(grades);
        out.rows.emplace<GradeRecipe>(std::move(grades));
    }
    if (!isNothing(out) && layer.mask && layer.mask->on) addMask(recipes_.mask(*layer.mask, toOutput), out);
    return out;
}

Place Namer::placeOf(const Affine& toOutput) const {
    Place out{toOutput, {}, 1};
    const PiecePtr piece = opened_.empty() ? nullptr : release_.piece(opened_.back().piece);
    if (!piece) return out;
    out.unitsPerMm = unitsPerMm(piece->flat->unit == Unit::Px);
    if (const Panel* panel = piece->flat->panel(opened_.back().panel)) out.panel = panel->withBleed();
    return out;
}

} // namespace glyptos
