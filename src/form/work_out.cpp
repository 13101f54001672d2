#include "base/text.h"
#include "form/flat_layout.h"
#include "form/formulas.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace glyptos {
namespace {

/// Larger than any sheet that is printed, and than any picture that is shown.
constexpr double kLargestMm = 5000, kLargestPx = 60000;
constexpr double kThickestMm = 10;
constexpr size_t kMostPanels = 400;

/// Resolves the parameters of one form, in the order in which they stand, then its other formulas.
class Resolver {
  public:
    explicit Resolver(const Form& form)
        : form_(form)
        , figures_(form) {}

    Result<Flat> run(const ParameterValues& set) {
        for (const auto& [id, value] : set)
            if (std::none_of(form_.parameters.begin(), form_.parameters.end(),
                             [&k = id](const Parameter& p) { return p.id == k; }))
                return fail(Fault::Usage, form_.name + " has no parameter “" + id + "”.");
        flat_.unit = form_.unit;
        flat_.ppi = form_.ppi;
        for (const Parameter& p : form_.parameters)
            if (!parameter(p, set)) return tl::unexpected(figures_.error());
        flat_.values = figures_.names();
        flat_.bleed = figures_.value(form_.bleed, "bleed");
        flat_.safety = figures_.value(form_.safety, "safety");
        flat_.thickness = figures_.valueOr(form_.thickness, flat_.thickness, "thickness");
        if (!(flat_.thickness > 0 && flat_.thickness <= kThickestMm))
            wrong("the board must be over 0 and at most " + shortNumber(kThickestMm) + " mm thick, not " +
                  shortNumber(flat_.thickness) + ".");
        flat_.bound = form_.bound;
        layOut();
        if (figures_.good()) arrange();
        if (figures_.good()) finish();
        if (!figures_.good()) return tl::unexpected(figures_.error());
        return std::move(flat_);
    }

  private:
    void wrong(const std::string& what) { figures_.wrong(Fault::Usage, form_.name + ": " + what); }

    bool parameter(const Parameter& p, const ParameterValues& set) {
        const auto given = set.find(p.id);
        double v = p.standard;
        if (!p.formula.empty()) {
            v = figures_.value(p.formula, p.id);
            flat_.working[p.id] = figures_.spelledOut(p.formula);
        }
        if (given != set.end()) v = given->second;
        if (!(v >= p.least && v <= p.most))
            wrong(p.label + " must lie between " + shortNumber(p.least) + " and " + shortNumber(p.most) +
                  (p.unit.empty() ? "" : " " + p.unit) + ", not " + shortNumber(v) + ".");
        if (p.onlyChoices &&
            std::none_of(p.choices.begin(), p.choices.end(), [&](const Choice& c) { return c.value == v; }))
            wrong(p.label + " must be one of " + choicesOf(p) + ", not " + shortNumber(v) + ".");
        figures_.set(p.id, v);
        return figures_.good();
    }

    static std::string choicesOf(const Parameter& p) {
        std::string out;
        for (const Choice& c : p.choices) out += (out.empty() ? "" : ", ") + shortNumber(c.value);
        return out;
    }

    size_t sheetNamed(const std::string& written, const std::string& of) {
        const std::string id = figures_.filled(written, of);
        const auto& sheets = layout_.sheets;
        if (id.empty() && !sheets.empty()) return 0;
        const auto found =
            std::find_if(sheets.begin(), sheets.end(), [&](const Sheet& s) { return s.id == id; });
        if (found != sheets.end()) return size_t(found - sheets.begin());
        wrong("“" + of + "” lies on a sheet “" + id + "”, which is not there.");
        return 0;
    }

    /// Every part with its figures, on the plane of its sheet.
    void layOut() {
        for (const SheetForm& s : form_.sheets)
            figures_.each(s.presence, s.id, [&] {
                layout_.sheets.push_back(
                    {figures_.filled(s.id, s.id), figures_.filled(s.name, s.id), std::nullopt, {}, {}});
            });
        if (layout_.sheets.empty()) layout_.sheets.push_back({});
        for (const PanelForm& p : form_.panels) figures_.each(p.presence, p.id, [&] { panel(p); });
        for (const FoldForm& f : form_.folds)
            figures_.each(f.presence, f.id, [&] {
                const auto number = [&](const std::string& formula) { return figures_.value(formula, f.id); };
                layout_.folds.push_back({figures_.filled(f.id, f.id),
                                         f.kind,
                                         {number(f.x1), number(f.y1)},
                                         {number(f.x2), number(f.y2)},
                                         number(f.angle),
                                         figures_.count(f.order, f.id),
                                         sheetNamed(f.sheet, f.id),
                                         {}});
            });
        for (const BoardForm& b : form_.flaps)
            figures_.each(b.presence, b.id, [&] { layout_.flaps.push_back(board(b)); });
        for (const BoardForm& b : form_.cutouts)
            figures_.each(b.presence, b.id, [&] { layout_.cutouts.push_back(board(b)); });
        for (const ZoneForm& z : form_.zones)
            figures_.each(z.presence, z.id, [&] {
                layout_.zones.push_back(
                    {sheetNamed(z.sheet, z.id),
                     {figures_.filled(z.id, z.id), z.name, z.kind, figures_.outline(z.outline, z.id)}});
            });
    }

    LaidBoard board(const BoardForm& b) {
        return {figures_.filled(b.id, b.id), figures_.filled(b.name, b.id), sheetNamed(b.sheet, b.id),
                figures_.outline(b.outline, b.id)};
    }

    void panel(const PanelForm& p) {
        const double turn = figures_.valueOr(p.turn, 0, p.id);
        if (turn < 0 || turn >= 360 || std::fmod(turn, 90) != 0)
            wrong("the turn of “" + p.name + "” should be 0, 90, 180 or 270, not " + shortNumber(turn) + ".");
        LaidPanel out{figures_.filled(p.id, p.id),
                      figures_.filled(p.name, p.id),
                      sheetNamed(p.sheet, p.id),
                      figures_.outline(p.outline, p.id),
                      int(turn),
                      p.bleeds,
                      p.safe};
        const Rect& box = out.outline.box;
        const double most = form_.unit == Unit::Mm ? kLargestMm : kLargestPx;
        if (box.empty()) wrong("the panel “" + out.name + "” has no area.");
        if (std::max({box.w, box.h, std::abs(box.x), std::abs(box.y)}) > most)
            wrong("the panel “" + out.name + "” is larger or farther out than " + shortNumber(most) +
                  (form_.unit == Unit::Mm ? " mm." : " px."));
        if (layout_.panels.size() >= kMostPanels) wrong("there are too many panels.");
        layout_.panels.push_back(std::move(out));
    }

    /// From parts on sheets to parts on one flat.
    void arrange() {
        if (layout_.panels.empty()) return wrong("no panel is left.");
        std::set<std::string> ids;
        for (const LaidPanel& p : layout_.panels)
            if (!ids.insert(p.id).second) wrong("two panels are called “" + p.id + "”.");
        if (const auto pair = layout_.overlap())
            wrong("the panels “" + pair->first->name + "” and “" + pair->second->name +
                  "” lie on each other.");
        flat_.front = layout_.panels.size() - 1;
        for (size_t i = 0; i < layout_.panels.size(); ++i)
            if (layout_.panels[i].id == form_.front) flat_.front = i;
        if (figures_.valueOr(form_.mirrored, 0, "mirrored") > 0) layout_.mirror();
        if (figures_.valueOr(form_.bothSides, 0, "bothSides") > 0) layout_.addOtherSides();
        layout_.findBleeds();
        if (const Fold* fold = layout_.findJoins())
            wrong("the fold “" + fold->id + "” joins nothing: there is no board on both sides of it.");
        layout_.spread(flat_.bleed);
    }

    void finish() {
        flat_.sheets = layout_.sheets;
        for (const LaidPanel& p : layout_.panels) flat_.panels.push_back(finished(p));
        for (size_t i = 0; i < flat_.sheets.size(); ++i) {
            Sheet& sheet = flat_.sheets[i];
            sheet.trim = layout_.trimOf(i);
            for (const Panel& p : flat_.panels)
                if (p.sheet == i)
                    sheet.withBleed = sheet.withBleed.united(p.toFlat().mapBounds(p.withBleed()));
        }
        flat_.folds = std::move(layout_.folds);
        for (LaidBoard& b : layout_.flaps) flat_.flaps.push_back({b.name, std::move(b.outline), b.sheet});
        for (LaidBoard& b : layout_.cutouts) flat_.cutouts.push_back({b.name, std::move(b.outline), b.sheet});
    }

    Panel finished(const LaidPanel& p) const {
        Panel out;
        out.id = p.id, out.name = p.name;
        out.onFlat = p.outline.box;
        out.turn = p.turn, out.sheet = p.sheet;
        const bool sideways = p.turn % 180 != 0;
        out.width = sideways ? out.onFlat.h : out.onFlat.w;
        out.height = sideways ? out.onFlat.w : out.onFlat.h;
        out.bleeds = upright(*p.bleeds, p.turn);
        out.bleed = flat_.bleed;
        if (p.safe) out.safety = flat_.safety;
        if (out.safety * 2 >= std::min(out.width, out.height)) out.safety = 0;
        const Affine toPanel = *out.toFlat().inverse();
        out.outline = p.outline.mapped(toPanel);
        out.outline.box = out.trim(); // to the last digit
        const auto touches = [&](size_t sheet, const Outline& part) {
            return sheet == p.sheet && !part.box.intersected(p.outline.box).empty();
        };
        for (const LaidBoard& hole : layout_.cutouts)
            if (touches(hole.sheet, hole.outline)) out.cutouts.push_back(hole.outline.mapped(toPanel));
        for (const LaidZone& z : layout_.zones)
            if (touches(z.sheet, z.zone.outline)) {
                out.zones.push_back(z.zone);
                out.zones.back().outline = z.zone.outline.mapped(toPanel);
            }
        out.prints = printsOf(out);
        return out;
    }

    static std::shared_ptr<const Path> printsOf(const Panel& panel) {
        std::vector<Outline> holes;
        for (const Zone& z : panel.zones)
            if (z.kind == ZoneKind::Bare) holes.push_back(z.outline);
        for (const Outline& hole : panel.cutouts)
            if (Outline deep = hole.grown(-panel.bleed); !deep.box.empty()) holes.push_back(std::move(deep));
        if (panel.outline.isPlain() && holes.empty()) return nullptr;
        // Where an edge does not bleed, the box with the bleed ends there.
        return std::make_shared<const Path>(without(panel.outline.grown(panel.bleed), holes));
    }

    /// Edges of the flat as the turned panel names them: turning clockwise by 90° brings its left edge to the
    /// top.
    static Edges upright(Edges e, int turn) {
        for (int t = 0; t < turn; t += 90) e = {e.top, e.right, e.bottom, e.left};
        return e;
    }

    const Form& form_;
    Formulas figures_;
    FlatLayout layout_;
    Flat flat_;
};

} // namespace

Result<Flat> workOut(const Form& form, const ParameterValues& set) {
    return Resolver(form).run(set);
}

} // namespace glyptos
