#include "cli/commands.h"
#include "cli/form_saying.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/expression.h"
#include "base/text.h"
#include "file/dieline/own_forms.h"

#include <iostream>

namespace glyptos::cli {

Result<std::shared_ptr<const Form>> formNamed(const FormList& forms, const std::string& name) {
    for (const auto& form : forms)
        if (form->id == name || form->name == name) return form;
    std::string known;
    for (const auto& form : forms) known += (known.empty() ? "" : ", ") + form->id;
    return fail(Fault::Usage, "There is no form “" + name + "”; there are " + known + ".");
}

Result<ParameterValues> parseSet(const std::vector<std::string>& set, Unit unit) {
    ParameterValues values;
    const NameValue inMm = lengthUnitsInMm(pxPerMm({300}));
    const NameValue inPx = [](std::string_view name) {
        return name == "px" ? std::optional(1.0) : std::nullopt;
    };
    for (const std::string& item : set) {
        const size_t equals = item.find('=');
        if (equals == item.npos) return fail(Fault::Usage, "“" + item + "” is not of the form name=value.");
        auto value = evaluate(item.substr(equals + 1), unit == Unit::Mm ? inMm : inPx);
        if (!value) return tl::unexpected(value.error());
        values[item.substr(0, equals)] = *value;
    }
    return values;
}

namespace {

Json rectJson(const Rect& r) {
    return {{"x", r.x}, {"y", r.y}, {"width", r.w}, {"height", r.h}};
}

Json outlineJson(const Outline& outline) {
    Json out = rectJson(outline.box);
    out["shape"] = kOutlineKindIds[size_t(outline.kind)];
    if (outline.corners > 0) out["corners"] = outline.corners;
    if (outline.inner > 0) out["inner"] = outline.inner;
    return out;
}

const std::string& sheetName(const Flat& flat, size_t sheet) {
    return flat.sheets[sheet].id;
}

Json panelJson(const Flat& flat, const Panel& p) {
    Json zones = Json::list(), out = rectJson(p.onFlat);
    for (const Zone& zone : p.zones) {
        Json one = outlineJson(zone.outline);
        one["name"] = zone.name, one["kind"] = kZoneKindIds[size_t(zone.kind)];
        zones.push_back(std::move(one));
    }
    out.update({{"id", p.id},
                {"name", p.name},
                {"sheet", sheetName(flat, p.sheet)},
                {"turn", p.turn},
                {"shape", kOutlineKindIds[size_t(p.outline.kind)]},
                {"zones", std::move(zones)}});
    return out;
}

Json foldJson(const Flat& flat, const Fold& fold) {
    Json joins = Json::list();
    const auto part = [&](BoardPart at) {
        return at < flat.panels.size() ? flat.panels[at].id : flat.flaps[at - flat.panels.size()].name;
    };
    for (const auto& [a, b] : fold.joins) {
        Json pair = Json::list();
        pair.push_back(part(a)), pair.push_back(part(b));
        joins.push_back(std::move(pair));
    }
    return {{"id", fold.id},       {"sheet", sheetName(flat, fold.sheet)},
            {"x1", fold.from.x},   {"y1", fold.from.y},
            {"x2", fold.to.x},     {"y2", fold.to.y},
            {"angle", fold.angle}, {"kind", kFoldKindIds[size_t(fold.kind)]},
            {"order", fold.order}, {"joins", std::move(joins)}};
}

Json sheetJson(const Flat& flat, const Sheet& sheet) {
    Json out = rectJson(sheet.trim);
    out["id"] = sheet.id, out["name"] = sheet.name;
    if (sheet.behind) out["behind"] = sheetName(flat, *sheet.behind);
    return out;
}

template <class Items, class Tell>
Json listOf(const Items& items, Tell tell) {
    Json out = Json::list();
    for (const auto& item : items) out.push_back(tell(item));
    return out;
}

} // namespace

Json flatJson(const Form& form, const Flat& flat, const Take* take) {
    Json values = Json::object(), sums = Json::object();
    for (const auto& [id, value] : flat.values) values[id] = value;
    for (const auto& [id, sum] : flat.working) sums[id] = sum;
    const auto board = [&](const Flap& part) {
        Json out = outlineJson(part.outline);
        out["name"] = part.name, out["sheet"] = sheetName(flat, part.sheet);
        return out;
    };
    return {{"id", form.id},
            {"name", form.name},
            {"unit", flat.unit == Unit::Mm ? "mm" : "px"},
            {"bleed", flat.bleed},
            {"safety", flat.safety},
            {"parameters", std::move(values)},
            {"sums", std::move(sums)},
            {"front", flat.frontPanel().id},
            {"sheets", listOf(flat.sheets, [&](const Sheet& s) { return sheetJson(flat, s); })},
            {"panels", listOf(flat.panels,
                              [&](const Panel& p) {
                                  Json panel = panelJson(flat, p);
                                  if (take) panel["layers"] = take->stack(p.id).size();
                                  return panel;
                              })},
            {"folds", listOf(flat.folds, [&](const Fold& f) { return foldJson(flat, f); })},
            {"holes", listOf(flat.cutouts, board)},
            {"flaps", listOf(flat.flaps, board)}};
}

namespace {

void printFlat(const Form& form, const Flat& flat) {
    std::cout << form.name << " (" << form.id << ")\n";
    for (const Parameter& p : form.parameters) {
        std::cout << "  " << p.id << " = " << shortNumber(flat.values.at(p.id))
                  << (p.unit.empty() ? "" : " " + p.unit);
        if (const auto working = flat.working.find(p.id); working != flat.working.end())
            std::cout << "   (" << working->second << ")";
        std::cout << '\n';
    }
    for (size_t i = 0; i < flat.sheets.size(); ++i) {
        const Sheet& sheet = flat.sheets[i];
        if (flat.sheets.size() > 1)
            std::cout << "  sheet " << i + 1 << ", " << sheet.name << ": "
                      << sized(sheet.trim.w, sheet.trim.h, flat.unit) << '\n';
        for (const Panel& p : flat.panels)
            if (p.sheet == i)
                std::cout << "  panel " << p.id << ": " << sized(p.onFlat.w, p.onFlat.h, flat.unit)
                          << (p.outline.kind == Outline::Kind::Disc ? ", round" : "") << '\n';
    }
    for (const Flap& hole : flat.cutouts)
        std::cout << "  hole “" << hole.name
                  << "”: " << sized(hole.outline.box.w, hole.outline.box.h, flat.unit) << '\n';
    for (const Panel& p : flat.panels)
        for (const Zone& zone : p.zones)
            std::cout << "  zone “" << zone.name << "” (" << kZoneKindIds[size_t(zone.kind)] << ") of "
                      << p.id << ": " << sized(zone.outline.box.w, zone.outline.box.h, flat.unit) << '\n';
    if (flat.sheets.size() > 1)
        std::cout << "  " << flat.sheets.size() << " pages, bleed " << shortNumber(flat.bleed) << ", safety "
                  << shortNumber(flat.safety) << '\n';
    else
        std::cout << "  flat: " << sized(flat.trim().w, flat.trim().h, flat.unit) << ", bleed "
                  << shortNumber(flat.bleed) << ", safety " << shortNumber(flat.safety) << '\n';
}

} // namespace

Result<Outcome> listForms(const FormsOptions& options) {
    std::vector<std::string> notes;
    auto forms = allForms(notes);
    if (!forms) return tl::unexpected(forms.error());
    FormList shown = *forms;
    if (!options.name.empty()) {
        auto form = formNamed(*forms, options.name);
        if (!form) return tl::unexpected(form.error());
        shown = {*form};
    } else if (!options.set.empty()) {
        return fail(Fault::Usage, "--set needs the name of one form.");
    }
    Json all = Json::list();
    for (const auto& form : shown) {
        if (form->retired && options.name.empty()) continue;
        auto values = parseSet(options.set, form->unit);
        if (!values) return tl::unexpected(values.error());
        auto flat = workOut(*form, *values);
        if (!flat) return tl::unexpected(flat.error());
        if (options.json)
            all.push_back(flatJson(*form, *flat));
        else
            printFlat(*form, *flat);
    }
    if (options.json) print(options.name.empty() ? all : all.as<Json::List>()->front());
    return ended({}, notes);
}

} // namespace glyptos::cli
