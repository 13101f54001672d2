#include "form/form_json.h"

#include "form/dieline.h"

namespace glyptos {
namespace {

/// Members that say something.
class Entries {
  public:
    Entries& text(const char* key, const std::string& value) {
        if (!value.empty()) json_[key] = value;
        return *this;
    }
    Json& operator[](const char* key) { return json_[key]; }
    Json take() { return std::move(json_); }

  private:
    Json json_ = Json::object();
};

void put(Entries& to, const Presence& presence) {
    to.text("when", presence.when);
    if (!presence.as.empty()) to["repeat"] = Json{{"as", presence.as}, {"count", presence.count}};
}

void put(Entries& to, const OutlineForm& outline) {
    if (outline.kind != Outline::Kind::Rectangle) to["shape"] = kOutlineKindIds[size_t(outline.kind)];
    to.text("x", outline.x).text("y", outline.y).text("w", outline.w).text("h", outline.h);
    to.text("corners", outline.corners).text("inner", outline.inner);
    if (outline.nodes.empty()) return;
    Json nodes = Json::list();
    for (const auto& node : outline.nodes) {
        Json one = Json::list();
        for (const std::string& figure : node) one.push_back(figure);
        nodes.push_back(std::move(one));
    }
    to["outline"] = std::move(nodes);
}

Json toJson(const Parameter& p) {
    Entries out;
    out.text("id", p.id).text("label", p.label).text("unit", p.unit).text("formula", p.formula);
    if (p.formula.empty()) out["standard"] = p.standard;
    out["least"] = p.least, out["most"] = p.most;
    if (p.onlyChoices) out["onlyChoices"] = true;
    for (const Choice& choice : p.choices)
        out["choices"].push_back(Json{{"label", choice.label}, {"value", choice.value}});
    return out.take();
}

Json toJson(const SheetForm& s) {
    Entries out;
    out.text("id", s.id).text("name", s.name);
    put(out, s.presence);
    return out.take();
}

Json toJson(const PanelForm& p) {
    Entries out;
    out.text("id", p.id).text("name", p.name).text("sheet", p.sheet);
    put(out, p.outline);
    if (p.turn != "0") out.text("turn", p.turn);
    if (p.bleeds) {
        Json edges = Json::list();
        for (const auto& [on, name] : {std::pair(p.bleeds->left, "left"),
                                       {p.bleeds->top, "top"},
                                       {p.bleeds->right, "right"},
                                       {p.bleeds->bottom, "bottom"}})
            if (on) edges.push_back(name);
        out["bleeds"] = std::move(edges);
    }
    if (!p.safe) out["safe"] = false;
    put(out, p.presence);
    return out.take();
}

Json toJson(const FoldForm& f) {
    Entries out;
    out.text("id", f.id).text("sheet", f.sheet);
    out["kind"] = kFoldKindIds[size_t(f.kind)];
    out.text("x1", f.x1).text("y1", f.y1).text("x2", f.x2).text("y2", f.y2);
    out.text("angle", f.angle).text("order", f.order);
    put(out, f.presence);
    return out.take();
}

Json toJson(const BoardForm& b) {
    Entries out;
    out.text("id", b.id).text("name", b.name).text("sheet", b.sheet);
    put(out, b.outline);
    put(out, b.presence);
    return out.take();
}

Json toJson(const ZoneForm& z) {
    Entries out;
    out.text("id", z.id).text("name", z.name).text("sheet", z.sheet);
    out["kind"] = kZoneKindIds[size_t(z.kind)];
    put(out, z.outline);
    put(out, z.presence);
    return out.take();
}

template <class Item>
void put(Entries& to, const char* key, const std::vector<Item>& items) {
    if (items.empty()) return;
    Json list = Json::list();
    for (const Item& item : items) list.push_back(toJson(item));
    to[key] = std::move(list);
}

} // namespace

std::string formToJson(const Form& form) {
    return toJson(form).dump(1) + "\n";
}

Json toJson(const Form& form) {
    Entries out;
    out["schema"] = 1;
    out.text("id", form.id).text("name", form.name);
    out["group"] = kFormGroupIds[size_t(form.group)];
    out.text("note", form.note);
    out["unit"] = form.unit == Unit::Mm ? "mm" : "px";
    out["ppi"] = form.ppi;
    if (form.retired) out["retired"] = true;
    put(out, "parameters", form.parameters);
    out.text("bleed", form.bleed).text("safety", form.safety).text("thickness", form.thickness);
    out.text("mirrored", form.mirrored).text("bothSides", form.bothSides).text("front", form.front);
    if (form.bound) out["bound"] = true;
    put(out, "sheets", form.sheets);
    put(out, "panels", form.panels);
    put(out, "folds", form.folds);
    put(out, "flaps", form.flaps);
    put(out, "cutouts", form.cutouts);
    put(out, "zones", form.zones);
    return out.take();
}

} // namespace glyptos
