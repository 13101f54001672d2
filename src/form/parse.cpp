#include "form/form.h"

#include "base/text.h"
#include "form/form_json.h"

#include <algorithm>
#include <cmath>
#include <fstream>
#include <sstream>

namespace glyptos {
namespace {

constexpr int kDecimals = 9; // of a figure that stands for a formula

/// A formula: text, or a plain number.
std::string formula(const Entry& e, const char* key) {
    const Entry member = e.at(key);
    return member.isNumber() ? shortNumber(member.number(), kDecimals) : member.text();
}

std::string formulaOr(const Entry& e, const char* key, const char* otherwise) {
    return e.has(key) ? formula(e, key) : otherwise;
}

/// What read(entry) gives for each item of a list, which may be missing.
template <class Read>
auto listOf(const Entry& e, const char* key, Read read) {
    std::vector<decltype(read(e))> out;
    if (e.has(key)) e.each(key, [&](const Entry& item) { out.push_back(read(item)); });
    return out;
}

Choice readChoice(const Entry& e) {
    static constexpr const char* kKnown[] = {"label", "value"};
    e.only(kKnown);
    return {e.text("label"), e.numberOr("value", 0)};
}

Parameter readParameter(const Entry& e) {
    static constexpr const char* kKnown[] = {"id",      "label", "unit", "standard",   "formula",
                                             "choices", "least", "most", "onlyChoices"};
    e.only(kKnown);
    return {e.text("id"),
            e.text("label"),
            e.textOr("unit", {}),
            e.numberOr("standard", 0),
            formulaOr(e, "formula", ""),
            listOf(e, "choices", readChoice),
            e.numberOr("least", 0),
            e.numberOr("most", 1e6),
            e.flagOr("onlyChoices", false)};
}

Edges readEdges(const Entry& e, const char* key) {
    static constexpr std::pair<const char*, bool Edges::*> kEdges[] = {
        {"left", &Edges::left}, {"top", &Edges::top}, {"right", &Edges::right}, {"bottom", &Edges::bottom}};
    Edges edges;
    for (const std::string& name : e.texts(key)) {
        const auto found = std::find_if(std::begin(kEdges), std::end(kEdges),
                                        [&](const auto& edge) { return edge.first == name; });
        if (found == std::end(kEdges))
            throw Wrong{Fault::Damaged, e.path(key) + " should be a list of left, top, right, bottom"};
        edges.*found->second = true;
    }
    return edges;
}

/// Members that any part of a form may have.
constexpr std::array kPresenceKeys{"when", "repeat"};
constexpr std::array kOutlineKeys{"shape", "x", "y",     "w",       "h",      "cx",
                                  "cy",    "d", "inner", "corners", "outline"};

/// No members but `own`, those of every part, and those of outlines if it has one.
void onlyKnown(const Entry& e, std::initializer_list<const char*> own, bool hasOutline) {
    std::vector<const char*> known(own);
    known.insert(known.end(), kPresenceKeys.begin(), kPresenceKeys.end());
    if (hasOutline) known.insert(known.end(), kOutlineKeys.begin(), kOutlineKeys.end());
    e.only(known);
}

Presence readPresence(const Entry& e) {
    Presence out{formulaOr(e, "when", ""), {}, {}};
    if (!e.has("repeat")) return out;
    static constexpr const char* kKnown[] = {"as", "count"};
    const Entry repeat = e.at("repeat");
    repeat.only(kKnown);
    out.as = repeat.text("as"), out.count = formula(repeat, "count");
    return out;
}

std::vector<std::string> readNode(const Entry& e) {
    std::vector<std::string> out;
    e.each([&](const Entry& one) {
        out.push_back(one.isNumber() ? shortNumber(one.number(), kDecimals) : one.text());
    });
    if (out.size() != 2 && out.size() != 4 && out.size() != 6)
        e.wrong("should be a point, or one with one or two control points before it");
    return out;
}

/// A box by its corner and size, or round a middle.
OutlineForm readOutline(const Entry& e) {
    OutlineForm out;
    if (e.has("shape")) out.kind = e.oneOf<Outline::Kind>("shape", kOutlineKindIds);
    if (e.has("d")) {
        out.w = out.h = formula(e, "d");
        out.x = "(" + formula(e, "cx") + ") - (" + out.w + ")/2";
        out.y = "(" + formula(e, "cy") + ") - (" + out.w + ")/2";
    } else {
        out.x = formula(e, "x"), out.y = formula(e, "y"), out.w = formula(e, "w"), out.h = formula(e, "h");
    }
    out.corners = formulaOr(e, "corners", ""), out.inner = formulaOr(e, "inner", "");
    if (!out.corners.empty() && out.kind != Outline::Kind::Rectangle)
        e.at("corners").wrong("is of rectangles alone");
    if (!out.inner.empty() && out.kind != Outline::Kind::Disc) e.at("inner").wrong("is of discs alone");
    const bool isFree = out.kind == Outline::Kind::Free;
    if (isFree) e.each("outline", [&](const Entry& node) { out.nodes.push_back(readNode(node)); });
    if (!isFree && e.has("outline")) e.at("outline").wrong("is of the shape “outline” alone");
    if (isFree && (out.nodes.size() < 3 || out.nodes[0].size() != 2))
        e.at("outline").wrong("needs a point to begin with and two more");
    return out;
}

SheetForm readSheet(const Entry& e) {
    onlyKnown(e, {"id", "name"}, false);
    return {e.text("id"), e.text("name"), readPresence(e)};
}

PanelForm readPanel(const Entry& e) {
    onlyKnown(e, {"id", "name", "sheet", "turn", "bleeds", "safe"}, true);
    PanelForm p{e.text("id"),
                e.text("name"),
                e.textOr("sheet", {}),
                readOutline(e),
                formulaOr(e, "turn", "0"),
                {},
                e.flagOr("safe", true),
                readPresence(e)};
    if (e.has("turn") && e.at("turn").isNumber() && std::fmod(e.number("turn"), 90) != 0)
        throw Wrong{Fault::Damaged, e.path("turn") + " should be 0, 90, 180 or 270"};
    if (e.has("bleeds")) p.bleeds = readEdges(e, "bleeds");
    return p;
}

FoldForm readFold(const Entry& e) {
    onlyKnown(e, {"id", "sheet", "kind", "x1", "y1", "x2", "y2", "angle", "order"}, false);
    return {e.text("id"),
            e.textOr("sheet", {}),
            e.oneOf<FoldKind>("kind", kFoldKindIds),
            formula(e, "x1"),
            formula(e, "y1"),
            formula(e, "x2"),
            formula(e, "y2"),
            formulaOr(e, "angle", "90"),
            formulaOr(e, "order", "1"),
            readPresence(e)};
}

BoardForm readBoard(const Entry& e) {
    onlyKnown(e, {"id", "name", "sheet"}, true);
    return {e.text("id"), e.text("name"), e.textOr("sheet", {}), readOutline(e), readPresence(e)};
}

ZoneForm readZone(const Entry& e) {
    onlyKnown(e, {"id", "name", "sheet", "kind"}, true);
    return {e.text("id"),   e.text("name"), e.textOr("sheet", {}), e.oneOf<ZoneKind>("kind", kZoneKindIds),
            readOutline(e), readPresence(e)};
}

Form formFrom(const Entry& e) {
    static constexpr const char* kKnown[] = {
        "schema",     "id",     "name",     "group",     "note",      "unit",  "ppi",   "retired",
        "parameters", "sheets", "panels",   "folds",     "cutouts",   "zones", "flaps", "front",
        "bleed",      "safety", "mirrored", "bothSides", "thickness", "bound"};
    static constexpr const char* kUnits[] = {"mm", "px"};
    e.only(kKnown);
    if (e.number("schema") != 1) throw Wrong{Fault::Unsupported, e.path("schema") + " should be 1"};
    Form form;
    form.id = e.text("id");
    form.name = e.text("name");
    form.note = e.textOr("note", {});
    form.unit = e.oneOf("unit", kUnits) == 0 ? Unit::Mm : Unit::Px;
    form.group = e.has("group")          ? e.oneOf<FormGroup>("group", kFormGroupIds)
                 : form.unit == Unit::Px ? FormGroup::Screen
                                         : FormGroup::Record;
    form.ppi = e.numberOr("ppi", form.ppi);
    form.retired = e.flagOr("retired", false);
    form.parameters = listOf(e, "parameters", readParameter);
    form.sheets = listOf(e, "sheets", readSheet);
    form.panels = listOf(e, "panels", readPanel);
    form.folds = listOf(e, "folds", readFold);
    form.flaps = listOf(e, "flaps", readBoard);
    form.cutouts = listOf(e, "cutouts", readBoard);
    form.zones = listOf(e, "zones", readZone);
    form.front = e.textOr("front", {});
    form.bleed = formulaOr(e, "bleed", "0");
    form.safety = formulaOr(e, "safety", "0");
    form.mirrored = formulaOr(e, "mirrored", "");
    form.bothSides = formulaOr(e, "bothSides", "");
    form.thickness = formulaOr(e, "thickness", "");
    form.bound = e.flagOr("bound", false);
    if (form.panels.empty()) throw Wrong{Fault::Damaged, e.path("panels") + " needs at least one panel"};
    return form;
}

} // namespace

bool mayHavePanel(const Form& form, std::string_view id) {
    const auto fits = [](std::string_view written, std::string_view id) {
        const size_t open = written.find('{'), close = written.rfind('}');
        if (open == written.npos || close == written.npos || close < open) return written == id;
        const std::string_view after = written.substr(close + 1);
        return id.size() > open + after.size() && id.starts_with(written.substr(0, open)) &&
               id.ends_with(after);
    };
    constexpr std::string_view kInside = kInsidePrefix;
    const std::string_view outside =
        !form.bothSides.empty() && id.starts_with(kInside) ? id.substr(kInside.size()) : id;
    return std::any_of(form.panels.begin(), form.panels.end(),
                       [&](const PanelForm& p) { return fits(p.id, id) || fits(p.id, outside); });
}

PanelForm wholePanel(const std::string& id, const std::string& name, int width, int height) {
    PanelForm out;
    out.id = id, out.name = name;
    out.outline.x = out.outline.y = "0";
    out.outline.w = std::to_string(width), out.outline.h = std::to_string(height);
    out.safe = false;
    return out;
}

Form readForm(const Entry& entry) {
    return formFrom(entry);
}

Result<Form> parseForm(std::string_view json, const std::string& where) {
    auto form = guarded(json, "form", formFrom);
    if (!form)
        return fail(form.error().fault,
                    "The form " + where + " cannot be used: " + form.error().message + ".");
    return form;
}

Result<Form> loadForm(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    if (!in) return fail(Fault::Unreadable, "The form " + file.string() + " cannot be opened.");
    std::ostringstream text;
    text << in.rdbuf();
    return parseForm(text.str(), nameOf(file));
}

Result<std::vector<Form>> loadForms(const std::filesystem::path& folder) {
    std::error_code code;
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(folder, code))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    if (code) return fail(Fault::Unreadable, "The folder of forms " + folder.string() + " cannot be read.");
    std::sort(files.begin(), files.end());
    std::vector<Form> forms;
    for (const auto& file : files) {
        auto form = loadForm(file);
        if (!form) return tl::unexpected(form.error());
        forms.push_back(std::move(*form));
    }
    std::stable_sort(forms.begin(), forms.end(),
                     [](const Form& a, const Form& b) { return a.group < b.group; });
    return forms;
}

} // namespace glyptos
