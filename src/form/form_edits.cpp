#include "form/form_edits.h"

#include "base/text.h"
#include "form/formulas.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr const char* kIds[] = {"panel", "fold", "flap", "hole", "zone"};
constexpr const char* kNames[] = {"Panel", "Fold", "Flap", "Hole", "Zone"};

std::string figure(double v) {
    constexpr int kDecimals = 2;
    return shortNumber(v, kDecimals);
}

OutlineForm* outlineOf(Form& form, const PartRef& part) {
    switch (part.kind) {
    case PartKind::Panel:
        return part.index < form.panels.size() ? &form.panels[part.index].outline : nullptr;
    case PartKind::Flap:
        return part.index < form.flaps.size() ? &form.flaps[part.index].outline : nullptr;
    case PartKind::Cutout:
        return part.index < form.cutouts.size() ? &form.cutouts[part.index].outline : nullptr;
    case PartKind::Zone:
        return part.index < form.zones.size() ? &form.zones[part.index].outline : nullptr;
    default:
        return nullptr;
    }
}

/// Calls act(part of the form) with whichever list the part is in.
template <class FormLike, class Act>
void at(FormLike& form, const PartRef& part, const Act& act) {
    const auto in = [&](auto& list) {
        if (part.index < list.size()) act(list[part.index]);
    };
    switch (part.kind) {
    case PartKind::Panel:
        return in(form.panels);
    case PartKind::Fold:
        return in(form.folds);
    case PartKind::Flap:
        return in(form.flaps);
    case PartKind::Cutout:
        return in(form.cutouts);
    case PartKind::Zone:
        return in(form.zones);
    }
}

bool hasId(const Form& form, const std::string& id) {
    const auto is = [&](const auto& part) { return part.id == id; };
    return std::any_of(form.panels.begin(), form.panels.end(), is) ||
           std::any_of(form.folds.begin(), form.folds.end(), is) ||
           std::any_of(form.flaps.begin(), form.flaps.end(), is) ||
           std::any_of(form.cutouts.begin(), form.cutouts.end(), is) ||
           std::any_of(form.zones.begin(), form.zones.end(), is);
}

class Collector {
  public:
    Collector(const Form& form, std::string sheet)
        : form_(form)
        , figures_(form)
        , sheet_(std::move(sheet)) {}

    Result<std::vector<FormPart>> run(const ParameterValues& values) {
        for (const auto& [name, value] : values) figures_.set(name, value);
        each(PartKind::Panel, form_.panels, [&](const PanelForm& p) { return outlined(p); });
        each(PartKind::Fold, form_.folds, [&](const FoldForm& f) {
            FormPart out;
            out.name = f.id;
            out.from = {figures_.value(f.x1, f.id), figures_.value(f.y1, f.id)};
            out.to = {figures_.value(f.x2, f.id), figures_.value(f.y2, f.id)};
            return out;
        });
        each(PartKind::Flap, form_.flaps, [&](const BoardForm& b) { return outlined(b); });
        each(PartKind::Cutout, form_.cutouts, [&](const BoardForm& b) { return outlined(b); });
        each(PartKind::Zone, form_.zones, [&](const ZoneForm& z) { return outlined(z); });
        if (!figures_.good()) return tl::unexpected(figures_.error());
        return std::move(parts_);
    }

  private:
    template <class Item>
    FormPart outlined(const Item& item) {
        FormPart out;
        out.name = figures_.filled(item.name, item.id);
        out.outline = figures_.outline(item.outline, item.id);
        return out;
    }
    template <class Item, class Make>
    void each(PartKind kind, const std::vector<Item>& items, const Make& make) {
        for (size_t i = 0; i < items.size(); ++i)
            figures_.each(items[i].presence, items[i].id, [&] {
                const std::string on = figures_.filled(items[i].sheet, items[i].id);
                const std::string first = form_.sheets.empty() ? std::string() : form_.sheets.front().id;
                if ((on.empty() ? first : on) != (sheet_.empty() ? first : sheet_)) return;
                FormPart part = make(items[i]);
                part.ref = {kind, i};
                part.repeats = !items[i].presence.as.empty();
                parts_.push_back(std::move(part));
            });
    }

    const Form& form_;
    Formulas figures_;
    std::string sheet_;
    std::vector<FormPart> parts_;
};

} // namespace

Result<std::vector<FormPart>> partsOf(const Form& form, const ParameterValues& values,
                                      const std::string& sheet) {
    return Collector(form, sheet).run(values);
}

Form withBox(Form form, const PartRef& part, const Rect& from, const Rect& to) {
    OutlineForm* outline = outlineOf(form, part);
    if (!outline) return form;
    constexpr double kSame = 1e-6;
    const auto set = [&](std::string& formula, double before, double after) {
        if (std::abs(before - after) > kSame) formula = figure(after);
    };
    set(outline->x, from.x, to.x), set(outline->y, from.y, to.y);
    set(outline->w, from.w, to.w), set(outline->h, from.h, to.h);
    return form;
}

Form withLine(Form form, size_t fold, Vec2 from, Vec2 to) {
    if (fold >= form.folds.size()) return form;
    FoldForm& f = form.folds[fold];
    f.x1 = figure(from.x), f.y1 = figure(from.y), f.x2 = figure(to.x), f.y2 = figure(to.y);
    return form;
}

Form withPart(Form form, PartKind kind, const Rect& box, const std::string& sheet, PartRef& made) {
    std::string id;
    int number = 1;
    for (id = kIds[size_t(kind)] + std::string("-1"); hasId(form, id);)
        id = kIds[size_t(kind)] + std::string("-") + std::to_string(++number);
    const std::string name = kNames[size_t(kind)] + std::string(" ") + std::to_string(number);
    OutlineForm outline;
    outline.x = figure(box.x), outline.y = figure(box.y), outline.w = figure(box.w),
    outline.h = figure(box.h);
    made.kind = kind;
    switch (kind) {
    case PartKind::Panel:
        made.index = form.panels.size();
        form.panels.push_back({id, name, sheet, outline, "0", {}, true, {}});
        break;
    case PartKind::Fold: {
        FoldForm fold;
        fold.id = id, fold.sheet = sheet;
        fold.x1 = figure(box.x), fold.y1 = figure(box.y);
        fold.x2 = figure(box.right()), fold.y2 = figure(box.bottom());
        fold.angle = "90", fold.order = "1";
        made.index = form.folds.size();
        form.folds.push_back(std::move(fold));
        break;
    }
    case PartKind::Flap:
        made.index = form.flaps.size();
        form.flaps.push_back({id, name, sheet, outline, {}});
        break;
    case PartKind::Cutout:
        outline.kind = Outline::Kind::Disc;
        made.index = form.cutouts.size();
        form.cutouts.push_back({id, name, sheet, outline, {}});
        break;
    case PartKind::Zone:
        made.index = form.zones.size();
        form.zones.push_back({id, name, sheet, ZoneKind::Clear, outline, {}});
        break;
    }
    return form;
}

Form withoutPart(Form form, const PartRef& part) {
    const auto erase = [&](auto& list) {
        if (part.index < list.size()) list.erase(list.begin() + ptrdiff_t(part.index));
    };
    switch (part.kind) {
    case PartKind::Panel:
        erase(form.panels);
        break;
    case PartKind::Fold:
        erase(form.folds);
        break;
    case PartKind::Flap:
        erase(form.flaps);
        break;
    case PartKind::Cutout:
        erase(form.cutouts);
        break;
    case PartKind::Zone:
        erase(form.zones);
        break;
    }
    return form;
}

std::array<std::string, 4> figuresOf(const Form& form, const PartRef& part) {
    if (part.kind == PartKind::Fold && part.index < form.folds.size()) {
        const FoldForm& f = form.folds[part.index];
        return {f.x1, f.y1, f.x2, f.y2};
    }
    Form copy = form;
    const OutlineForm* o = outlineOf(copy, part);
    return o ? std::array{o->x, o->y, o->w, o->h} : std::array<std::string, 4>{};
}

Form withFigures(Form form, const PartRef& part, const std::array<std::string, 4>& figures) {
    if (part.kind == PartKind::Fold && part.index < form.folds.size()) {
        FoldForm& f = form.folds[part.index];
        f.x1 = figures[0], f.y1 = figures[1], f.x2 = figures[2], f.y2 = figures[3];
    } else if (OutlineForm* o = outlineOf(form, part)) {
        o->x = figures[0], o->y = figures[1], o->w = figures[2], o->h = figures[3];
    }
    return form;
}

std::string nameOf(const Form& form, const PartRef& part) {
    std::string out;
    at(form, part, [&](const auto& item) {
        if constexpr (requires { item.name; })
            out = item.name;
        else
            out = item.id;
    });
    return out;
}

Form withName(Form form, const PartRef& part, const std::string& name) {
    at(form, part, [&](auto& item) {
        if constexpr (requires { item.name; })
            item.name = name;
        else
            item.id = name;
    });
    return form;
}

Form asOwn(Form form, const std::string& name) {
    std::string id;
    for (const char c : name) {
        const auto u = static_cast<unsigned char>(c);
        if (std::isalnum(u))
            id += char(std::tolower(u));
        else if (!id.empty() && id.back() != '-')
            id += '-';
    }
    while (!id.empty() && id.back() == '-') id.pop_back();
    form.id = "own-" + (id.empty() ? std::string("form") : id);
    form.name = name;
    form.own = true;
    form.retired = false;
    return form;
}

} // namespace glyptos
