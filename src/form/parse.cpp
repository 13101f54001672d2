#include "form/form.h"

#include "base/json_entry.h"
#include "base/text.h"

#include <algorithm>
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
    static constexpr const char* kKnown[] = {"id",      "label",   "unit",  "standard",
                                             "formula", "choices", "least", "most"};
    e.only(kKnown);
    return {e.text("id"),
            e.text("label"),
            e.textOr("unit", {}),
            e.numberOr("standard", 0),
            formulaOr(e, "formula", ""),
            listOf(e, "choices", readChoice),
            e.numberOr("least", 0),
            e.numberOr("most", 1e6)};
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

PanelForm readPanel(const Entry& e) {
    static constexpr const char* kKnown[] = {"id", "name", "x", "y", "w", "h", "turn", "bleeds", "safe"};
    e.only(kKnown);
    PanelForm p{e.text("id"),
                e.text("name"),
                formula(e, "x"),
                formula(e, "y"),
                formula(e, "w"),
                formula(e, "h"),
                0,
                {},
                true};
    const double turn = e.numberOr("turn", 0);
    if (turn != 0 && turn != 90 && turn != 180 && turn != 270)
        throw Wrong{Fault::Damaged, e.path("turn") + " should be 0, 90, 180 or 270"};
    p.turn = static_cast<int>(turn);
    if (e.has("bleeds")) p.bleeds = readEdges(e, "bleeds");
    p.safe = e.flagOr("safe", true);
    return p;
}

FoldForm readFold(const Entry& e) {
    static constexpr const char* kKnown[] = {"id", "kind", "x1", "y1", "x2", "y2"};
    e.only(kKnown);
    return {e.text("id"),     e.oneOf<FoldKind>("kind", kFoldKindIds),
            formula(e, "x1"), formula(e, "y1"),
            formula(e, "x2"), formula(e, "y2")};
}

FlapForm readFlap(const Entry& e) {
    static constexpr const char* kKnown[] = {"id", "name", "x", "y", "w", "h"};
    e.only(kKnown);
    return {e.text("id"), e.text("name"), formula(e, "x"), formula(e, "y"), formula(e, "w"), formula(e, "h")};
}

Form readForm(const Entry& e) {
    static constexpr const char* kKnown[] = {"schema", "id",    "name",       "group",  "note",
                                             "unit",   "ppi",   "parameters", "panels", "folds",
                                             "flaps",  "bleed", "safety"};
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
    form.parameters = listOf(e, "parameters", readParameter);
    form.panels = listOf(e, "panels", readPanel);
    form.folds = listOf(e, "folds", readFold);
    form.flaps = listOf(e, "flaps", readFlap);
    form.bleed = formulaOr(e, "bleed", "0");
    form.safety = formulaOr(e, "safety", "0");
    if (form.panels.empty()) throw Wrong{Fault::Damaged, e.path("panels") + " needs at least one panel"};
    return form;
}

} // namespace

Result<Form> parseForm(std::string_view json, const std::string& where) {
    auto form = guarded(json, "form", readForm);
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
