#include "release/credits.h"

#include "base/text.h"
#include "release/echo.h"
#include "release/walks.h"

#include <algorithm>
#include <map>
#include <set>

namespace glyptos {
namespace {

/// What panels show, echoes followed; each panel is looked at once.
class Walk {
  public:
    explicit Walk(const Release& release)
        : release_(release) {}

    void panel(const PanelPlace& place) {
        if (!seen_.insert({place.piece, place.take, place.panel}).second) return;
        const PiecePtr piece = release_.piece(place.piece);
        const Take* take = piece ? piece->take(place.take) : nullptr;
        if (take) stack(take->stack(place.panel));
    }
    std::vector<std::string> sources;

  private:
    void stack(const Stack& layers) {
        eachLayer(layers, [this](const LayerPtr& layer) {
            eachSource(*layer, [this](const std::string& id) { addNew(sources, id); });
            if (const auto* echo = layer->as<EchoContent>())
                for (const PanelPlace& place : echoed(*echo, release_)) panel(place);
        });
    }
    const Release& release_;
    std::set<std::tuple<std::string, std::string, std::string>> seen_;
};

std::string cell(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == text.npos) return text;
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? "\"\"" : std::string(1, c);
    return out + "\"";
}

std::string joined(const std::vector<std::string>& parts, const char* between) {
    std::string out;
    for (size_t i = 0; i < parts.size(); ++i) out += (i == 0 ? "" : between) + parts[i];
    return out;
}

} // namespace

std::vector<CreditRow> creditsOf(const Release& release) {
    std::map<std::string, std::vector<std::string>> pieces;
    for (const PiecePtr& piece : release.pieces) {
        Walk walk(release);
        for (const Panel& panel : piece->flat->panels) walk.panel({piece->id, piece->take().id, panel.id});
        for (const std::string& source : walk.sources) pieces[source].push_back(piece->name);
    }
    std::vector<CreditRow> out;
    for (const SourcePtr& source : release.sources) {
        const auto found = pieces.find(source->id);
        if (found == pieces.end()) continue;
        const std::string line = creditLine(source->facts);
        out.push_back(
            {source, found->second, line.empty() ? source->name : line, source->facts.maker.empty()});
    }
    return out;
}

std::string creditText(const Release& release) {
    const std::vector<CreditRow> rows = creditsOf(release);
    std::vector<std::string> makers, lines;
    for (const CreditRow& row : rows) addNew(makers, row.source->facts.maker);
    for (const std::string& maker : makers)
        for (const CreditRow& row : rows)
            if (row.source->facts.maker == maker) addNew(lines, row.line);
    return joined(lines, "\n");
}

std::string creditTable(const Release& release) {
    std::string out = "title,maker,licence,credit,origin,file,pieces\r\n";
    for (const CreditRow& row : creditsOf(release)) {
        const SourceFacts& f = row.source->facts;
        std::vector<std::string> cells;
        for (const std::string& text :
             {f.title, f.maker, f.licence, row.line, f.origin, row.source->name, joined(row.pieces, "; ")})
            cells.push_back(cell(text));
        out += joined(cells, ",") + "\r\n";
    }
    return out;
}

} // namespace glyptos
