#include "form/form.h"

#include "base/expression.h"
#include "base/text.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Resolves the parameters of one form, in the order in which they stand, then its other formulas.
class Resolver {
  public:
    explicit Resolver(const Form& form)
        : form_(form) {}

    Result<Flat> run(const ParameterValues& set) {
        for (const auto& [id, value] : set)
            if (std::none_of(form_.parameters.begin(), form_.parameters.end(),
                             [&k = id](const Parameter& p) { return p.id == k; }))
                return fail(Fault::Usage, form_.name + " has no parameter “" + id + "”.");
        flat_.unit = form_.unit;
        flat_.ppi = form_.ppi;
        for (const Parameter& p : form_.parameters)
            if (!parameter(p, set)) return tl::unexpected(error_);
        flat_.bleed = value(form_.bleed, "bleed");
        flat_.safety = value(form_.safety, "safety");
        for (const PanelForm& p : form_.panels) panel(p);
        for (const FoldForm& f : form_.folds)
            flat_.folds.push_back(
                {f.kind, {value(f.x1, f.id), value(f.y1, f.id)}, {value(f.x2, f.id), value(f.y2, f.id)}});
        for (const FlapForm& f : form_.flaps)
            flat_.flaps.push_back(
                {f.name, {value(f.x, f.id), value(f.y, f.id), value(f.w, f.id), value(f.h, f.id)}});
        if (!error_.message.empty()) return tl::unexpected(error_);
        return std::move(flat_);
    }

  private:
    NameValue names() const {
        return [this](std::string_view name) -> std::optional<double> {
            const auto found = flat_.values.find(std::string(name));
            return found == flat_.values.end() ? std::nullopt : std::optional(found->second);
        };
    }

    void wrong(Fault fault, const std::string& message) {
        if (error_.message.empty()) error_ = {fault, message};
    }

    double value(const std::string& formula, const std::string& what) {
        const auto result = evaluate(formula, names());
        if (!result) wrong(Fault::Damaged, form_.name + ", " + what + ": " + result.error().message);
        return result.value_or(0);
    }

    bool parameter(const Parameter& p, const ParameterValues& set) {
        const auto given = set.find(p.id);
        double v = p.standard;
        if (!p.formula.empty()) {
            v = value(p.formula, p.id);
            flat_.working[p.id] = spelledOut(p.formula);
        }
        if (given != set.end()) v = given->second;
        if (!(v >= p.least && v <= p.most))
            wrong(Fault::Usage, form_.name + ": " + p.label + " must lie between " + shortNumber(p.least) +
                                    " and " + shortNumber(p.most) + (p.unit.empty() ? "" : " " + p.unit) +
                                    ", not " + shortNumber(v) + ".");
        flat_.values[p.id] = v;
        return error_.message.empty();
    }

    /// The formula with figures in place of names: "2 × 0.45 + 1 × (2.3 + 0.3) + 0.3".
    std::string spelledOut(const std::string& formula) const {
        std::string out;
        for (size_t i = 0; i < formula.size();) {
            size_t end = i;
            while (end < formula.size() &&
                   (std::isalnum(static_cast<unsigned char>(formula[end])) || formula[end] == '_'))
                ++end;
            const auto found = flat_.values.find(formula.substr(i, end - i));
            if (end > i)
                out += found == flat_.values.end() ? formula.substr(i, end - i) : shortNumber(found->second);
            else
                out += formula[i] == '*' ? " × " : std::string(1, formula[end++]);
            i = std::max(end, i + 1);
        }
        return out;
    }

    void panel(const PanelForm& p) {
        Panel out{
            p.id,   p.name,      {value(p.x, p.id), value(p.y, p.id), value(p.w, p.id), value(p.h, p.id)},
            p.turn, 0,           0,
            {},     flat_.bleed, 0};
        if (out.onFlat.empty()) wrong(Fault::Usage, form_.name + ": the panel “" + p.name + "” has no area.");
        const bool sideways = p.turn % 180 != 0;
        out.width = sideways ? out.onFlat.h : out.onFlat.w;
        out.height = sideways ? out.onFlat.w : out.onFlat.h;
        out.bleeds = upright(p.bleeds, p.turn);
        if (p.safe) out.safety = flat_.safety;
        if (out.safety * 2 >= std::min(out.width, out.height)) out.safety = 0;
        flat_.panels.push_back(std::move(out));
    }

    /// Edges of the flat as the turned panel names them: turning clockwise by 90° brings its left edge to the
    /// top.
    static Edges upright(Edges e, int turn) {
        for (int t = 0; t < turn; t += 90) e = {e.top, e.right, e.bottom, e.left};
        return e;
    }

    const Form& form_;
    Flat flat_;
    Error error_;
};

} // namespace

std::optional<Rect> Panel::safeArea() const {
    if (safety <= 0) return std::nullopt;
    return trim().grown(-safety);
}

Affine Panel::toFlat() const {
    const Affine turned = Affine::rotation(turn);
    const Rect box = turned.mapBounds(trim());
    return Affine::translation(onFlat.x - box.x, onFlat.y - box.y) * turned;
}

const Panel* Flat::panel(std::string_view id) const {
    const auto found = std::find_if(panels.begin(), panels.end(), [&](const Panel& p) { return p.id == id; });
    return found == panels.end() ? nullptr : &*found;
}

Rect Flat::trim() const {
    Rect all;
    for (const Panel& p : panels) all = all.united(p.onFlat);
    return all;
}

Rect Flat::withBleed() const {
    Rect all;
    for (const Panel& p : panels) all = all.united(p.toFlat().mapBounds(p.withBleed()));
    return all;
}

Result<Flat> workOut(const Form& form, const ParameterValues& set) {
    return Resolver(form).run(set);
}

} // namespace glyptos
