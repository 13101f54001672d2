#include "form/form.h"

#include "base/text.h"

#include <algorithm>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

namespace glyptos {
namespace {

using Json = nlohmann::json;

/// Thrown inside this file only, turned into an Error by parseForm.
struct Wrong {
    std::string what;
};

/// Reads typed entries of one JSON object and knows where it stands.
class Entry {
  public:
    Entry(const Json& json, std::string path, std::initializer_list<const char*> known)
        : json_(json)
        , path_(std::move(path)) {
        if (!json.is_object()) throw Wrong{path_ + " must be an object"};
        for (const auto& [key, value] : json.items())
            if (std::none_of(known.begin(), known.end(), [&k = key](const char* n) { return k == n; }))
                throw Wrong{path_ + " has an unknown entry “" + key + "”"};
    }

    std::string text(const char* key, std::optional<std::string> missing = std::nullopt) const {
        if (!json_.contains(key)) return missing ? *missing : throw Wrong{path_ + "." + key + " is missing"};
        if (!json_[key].is_string()) throw Wrong{path_ + "." + key + " must be text"};
        return json_[key].get<std::string>();
    }

    double number(const char* key, double missing) const {
        if (!json_.contains(key)) return missing;
        if (!json_[key].is_number()) throw Wrong{path_ + "." + key + " must be a number"};
        return json_[key].get<double>();
    }

    /// A formula: text, or a plain number.
    std::string formula(const char* key, std::optional<std::string> missing = std::nullopt) const {
        if (json_.contains(key) && json_[key].is_number()) return json_[key].dump();
        return text(key, std::move(missing));
    }

    bool flag(const char* key, bool missing) const {
        if (!json_.contains(key)) return missing;
        if (!json_[key].is_boolean()) throw Wrong{path_ + "." + key + " must be true or false"};
        return json_[key].get<bool>();
    }

    template <class T, class Read>
    std::vector<T> list(const char* key, Read read) const {
        std::vector<T> out;
        if (!json_.contains(key)) return out;
        if (!json_[key].is_array()) throw Wrong{path_ + "." + key + " must be a list"};
        for (const Json& item : json_[key])
            out.push_back(read(item, path_ + "." + key + "[" + std::to_string(out.size()) + "]"));
        return out;
    }

  private:
    const Json& json_;
    std::string path_;
};

Choice readChoice(const Json& json, const std::string& path) {
    const Entry e(json, path, {"label", "value"});
    return {e.text("label"), e.number("value", 0)};
}

Parameter readParameter(const Json& json, const std::string& path) {
    const Entry e(json, path, {"id", "label", "unit", "standard", "formula", "choices", "least", "most"});
    Parameter p{e.text("id"),
                e.text("label"),
                e.text("unit", ""),
                e.number("standard", 0),
                e.formula("formula", ""),
                {},
                0,
                0};
    p.choices = e.list<Choice>("choices", readChoice);
    p.least = e.number("least", 0);
    p.most = e.number("most", 1e6);
    return p;
}

Edges readEdges(const Json& json, const std::string& path) {
    Edges edges;
    if (!json.is_array()) throw Wrong{path + " must be a list of left, top, right, bottom"};
    for (const Json& item : json) {
        const std::string edge = item.is_string() ? item.get<std::string>() : "";
        if (edge == "left")
            edges.left = true;
        else if (edge == "top")
            edges.top = true;
        else if (edge == "right")
            edges.right = true;
        else if (edge == "bottom")
            edges.bottom = true;
        else
            throw Wrong{path + " must be a list of left, top, right, bottom"};
    }
    return edges;
}

PanelForm readPanel(const Json& json, const std::string& path) {
    const Entry e(json, path, {"id", "name", "x", "y", "w", "h", "turn", "bleeds", "safe"});
    PanelForm p{
        e.text("id"), e.text("name"), e.formula("x"), e.formula("y"), e.formula("w"), e.formula("h"), 0, {},
        true};
    const double turn = e.number("turn", 0);
    if (turn != 0 && turn != 90 && turn != 180 && turn != 270)
        throw Wrong{path + ".turn must be 0, 90, 180 or 270"};
    p.turn = static_cast<int>(turn);
    if (json.contains("bleeds")) p.bleeds = readEdges(json["bleeds"], path + ".bleeds");
    p.safe = e.flag("safe", true);
    return p;
}

FoldForm readFold(const Json& json, const std::string& path) {
    const Entry e(json, path, {"id", "kind", "x1", "y1", "x2", "y2"});
    FoldForm f{e.text("id"),    e.text("kind"),  e.formula("x1"),
               e.formula("y1"), e.formula("x2"), e.formula("y2")};
    if (f.kind != "mountain" && f.kind != "valley") throw Wrong{path + ".kind must be mountain or valley"};
    return f;
}

FlapForm readFlap(const Json& json, const std::string& path) {
    const Entry e(json, path, {"id", "name", "x", "y", "w", "h"});
    return {e.text("id"), e.text("name"), e.formula("x"), e.formula("y"), e.formula("w"), e.formula("h")};
}

Form readForm(const Json& json) {
    const Entry e(json, "form",
                  {"schema", "id", "name", "group", "note", "unit", "ppi", "parameters", "panels", "folds",
                   "flaps", "bleed", "safety"});
    if (e.number("schema", 0) != 1) throw Wrong{"form.schema must be 1"};
    Form form;
    form.id = e.text("id");
    form.name = e.text("name");
    form.note = e.text("note", "");
    const std::string unit = e.text("unit");
    if (unit != "mm" && unit != "px") throw Wrong{"form.unit must be mm or px"};
    form.unit = unit == "mm" ? Unit::Mm : Unit::Px;
    const std::string group = e.text("group", form.unit == Unit::Px ? "screen" : "record");
    const auto known = std::find(kFormGroupIds.begin(), kFormGroupIds.end(), group);
    if (known == kFormGroupIds.end()) throw Wrong{"form.group must be screen, disc, record or cassette"};
    form.group = static_cast<FormGroup>(known - kFormGroupIds.begin());
    form.ppi = e.number("ppi", 300);
    form.parameters = e.list<Parameter>("parameters", readParameter);
    form.panels = e.list<PanelForm>("panels", readPanel);
    form.folds = e.list<FoldForm>("folds", readFold);
    form.flaps = e.list<FlapForm>("flaps", readFlap);
    form.bleed = e.formula("bleed", "0");
    form.safety = e.formula("safety", "0");
    if (form.panels.empty()) throw Wrong{"form.panels needs at least one panel"};
    return form;
}

} // namespace

Result<Form> parseForm(std::string_view json, const std::string& where) {
    const auto wrong = [&](const std::string& what) {
        return fail(Fault::Damaged, "The form " + where + " cannot be used: " + what + ".");
    };
    try {
        return readForm(Json::parse(json));
    } catch (const Json::exception& e) {
        return wrong(std::string("it is not valid JSON (") + e.what() + ")");
    } catch (const Wrong& w) {
        return wrong(w.what);
    }
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
