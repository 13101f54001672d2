#include "file/release_json/piece_codec.h"

#include "file/release_json/painted_codec.h"
#include "file/release_json/placing_codec.h"
#include "form/form_json.h"
#include "release/limits.h"

#include <algorithm>

namespace glyptos {
namespace {

Wrap readWrap(const Entry& e, const Piece& piece) {
    Wrap wrap{e.text("id"), {}};
    if (wrap.id.empty() || piece.wrap(wrap.id) || mayHavePanel(*piece.form, wrap.id))
        throw Wrong{Fault::Damaged, e.path("id") + " is empty or used twice"};
    e.each("panels", [&](const Entry& panel) {
        if (!mayHavePanel(*piece.form, panel.text())) panel.wrong("is no panel that the form has");
        wrap.panels.push_back(panel.text());
    });
    return wrap;
}

void readForm(const Entry& e, const std::vector<std::shared_ptr<const Form>>& forms, Piece& piece) {
    const std::string id = e.text("form");
    const auto found = std::find_if(forms.begin(), forms.end(), [&](const auto& f) { return f->id == id; });
    if (e.has("ownForm")) {
        Form own = readForm(e.at("ownForm"));
        own.own = true;
        piece.form = std::make_shared<const Form>(std::move(own));
    } else if (found == forms.end()) {
        e.wrong("uses the form “" + id + "”, which is not installed", Fault::Unsupported);
    } else {
        piece.form = *found;
    }
    e.members("values",
              [&](const std::string& name, const Entry& value) { piece.values[name] = value.number(); });
    if (e.has("reasons"))
        e.members("reasons", [&](const std::string& name, const Entry& reason) {
            if (!piece.values.contains(name)) reason.wrong("is of no figure that is set");
            piece.reasons[name] = reason.text();
        });
    if (e.has("wraps"))
        e.each("wraps", [&](const Entry& wrap) { piece.wraps.push_back(readWrap(wrap, piece)); });
    auto flat = workOut(*piece.form, piece.values);
    if (!flat) throw Wrong{Fault::Damaged, e.path() + ": " + flat.error().message};
    layWraps(*flat, piece.wraps);
    piece.flat = std::make_shared<const Flat>(std::move(*flat));
}

/// A panel that is not there while the form's figures are what they are keeps what is on it.
void checkPanel(const Piece& piece, const std::string& panel, const Entry& e) {
    const bool whole = panel.empty() && e.has("source"); // what lies under all of the form
    if (!whole && !mayHavePanel(*piece.form, panel) && !piece.wrap(panel))
        e.wrong("is of no panel that the form has");
}

Json toJson(const Wrap& wrap) {
    Json panels = Json::list();
    for (const std::string& panel : wrap.panels) panels.push_back(panel);
    return {{"id", wrap.id}, {"panels", std::move(panels)}};
}

Json toJson(const PanelSelections& selections) {
    const auto one = [](const Selection& s) { return Json{{"pixel", s.pixel}, {"tiles", toJson(*s.tiles)}}; };
    Json out = Json::object();
    if (selections.now) out["now"] = one(*selections.now);
    for (const NamedSelection& kept : selections.kept) {
        Json named = one(kept.selection);
        named["name"] = kept.name;
        out["kept"].push_back(std::move(named));
    }
    return out;
}

Selection readSelection(const Entry& e, const TileSource& tiles) {
    Selection out{readTiles(e.at("tiles"), kMaskPixels, tiles),
                  e.between("pixel", kSmallestScale, kLargestScale)};
    if (out.tiles->empty()) e.wrong("selects nothing");
    return out;
}

PanelSelections readSelections(const Entry& e, const TileSource& tiles) {
    PanelSelections out;
    if (e.has("now")) out.now = readSelection(e.at("now"), tiles);
    if (e.has("kept"))
        e.each("kept", [&](const Entry& kept) {
            out.kept.push_back({kept.text("name"), readSelection(kept, tiles)});
        });
    return out;
}

} // namespace

std::shared_ptr<const Take> readTake(const Entry& e, const Piece& piece, LayerReading& reading) {
    auto take = std::make_shared<Take>();
    take->id = e.text("id");
    if (take->id.empty() || piece.take(take->id) != nullptr)
        throw Wrong{Fault::Damaged, e.path("id") + " is empty or used twice"};
    e.members("panels", [&](const std::string& name, const Entry& layers) {
        checkPanel(piece, name, layers);
        const Panel* panel = piece.flat->panel(name);
        reading.area = panel ? panel->withBleed() : piece.flat->frontPanel().withBleed();
        reading.unit = piece.flat->unit;
        take->stacks[name] = readStack(layers, reading);
    });
    return take;
}

Json toJson(const Take& take, const Piece& piece, const NodeTelling& inside) {
    Json panels = Json::object();
    const auto hasPanel = [&](const std::string& id) {
        const auto& all = piece.flat->panels;
        return std::any_of(all.begin(), all.end(), [&](const Panel& p) { return p.id == id; });
    };
    for (const Panel& panel : piece.flat->panels)
        panels[panel.id] = toJson(take.stack(panel.id), piece.flat->unit, inside);
    for (const auto& [panel, stack] : take.stacks) // of wraps, and of panels that are not there now
        if (!hasPanel(panel) && !stack.empty()) panels[panel] = toJson(stack, piece.flat->unit, inside);
    return {{"id", take.id}, {"panels", std::move(panels)}};
}

Json toJson(const Piece& piece, const NodeTelling& inside) {
    Json values = Json::object(), takes = Json::list();
    for (const auto& [id, value] : piece.values) values[id] = value;
    for (const auto& take : piece.takes)
        takes.push_back(inside.take ? inside.take(take, piece) : toJson(*take, piece, inside));
    Json out{{"id", piece.id},           {"name", piece.name},
             {"form", piece.form->id},   {"values", std::move(values)},
             {"current", piece.current}, {"takes", std::move(takes)}};
    for (const auto& [id, reason] : piece.reasons) out["reasons"][id] = reason;
    if (piece.form->own) out["ownForm"] = toJson(*piece.form);
    for (const Wrap& wrap : piece.wraps) out["wraps"].push_back(toJson(wrap));
    for (const auto& [panel, reference] : piece.references) out["references"][panel] = toJson(reference);
    for (const auto& [panel, selections] : piece.selections) out["selections"][panel] = toJson(selections);
    return out;
}

PiecePtr readPiece(const Entry& e, LayerReading& reading,
                   const std::vector<std::shared_ptr<const Form>>& forms) {
    auto piece = std::make_shared<Piece>();
    piece->id = reading.uniqueId(e);
    piece->name = e.text("name");
    readForm(e, forms, *piece);
    e.each("takes", [&](const Entry& take) {
        piece->takes.push_back(reading.namedTake ? reading.namedTake(take, *piece)
                                                 : readTake(take, *piece, reading));
    });
    if (piece->takes.empty()) e.wrong("has no take");
    piece->current = size_t(e.whole("current", 0, int(piece->takes.size()) - 1));
    if (e.has("references"))
        e.members("references", [&](const std::string& name, const Entry& reference) {
            checkPanel(*piece, name, reference);
            piece->references[name] = readReference(reference);
            reading.known(piece->references[name].source, reference);
        });
    if (e.has("selections"))
        e.members("selections", [&](const std::string& name, const Entry& selections) {
            checkPanel(*piece, name, selections);
            piece->selections[name] = readSelections(selections, reading.tiles);
        });
    return piece;
}

} // namespace glyptos
