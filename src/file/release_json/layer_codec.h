// Layers and stacks of them as JSON, both ways (docs/file-format.md): one codec a kind of content.
#pragma once

#include "base/json_entry.h"
#include "file/release_json/release_json.h"

#include <set>

namespace glyptos {

/// What reading layers needs to know of the release that they are for, and keeps of it.
struct LayerReading {
    const Release& release;    ///< with its sources
    Rect area;                 ///< of the panel that is being read, with its bleed
    std::set<std::string> ids; ///< that have been seen
    TileSource tiles = noTiles;
    LookSource looks = noLooks;
    Unit unit = Unit::Mm; ///< of that panel
    /// Layers and takes that are named instead of written out; they throw Wrong. Without them nothing is.
    std::function<LayerPtr(const Entry& name, const LayerReading& reading)> namedLayer{};
    std::function<std::shared_ptr<const Take>(const Entry& name, const Piece& piece)> namedTake{};

    /// The id of something of the release; it must be new.
    std::string uniqueId(const Entry& entry);
    /// The release must list that source; `entry` names it.
    void known(const std::string& source, const Entry& entry) const;
};

/// How layers and takes are told that stand in something else: written out, or by the names under which they
/// are kept elsewhere.
struct NodeTelling {
    std::function<Json(const LayerPtr& layer, Unit unit)> layer{};
    std::function<Json(const std::shared_ptr<const Take>& take, const Piece& piece)> take{};
};

/// Lengths of treatments are told in `unit`.
Json toJson(const Layer& layer, Unit unit, const NodeTelling& inside = {});
Json toJson(const Stack& stack, Unit unit, const NodeTelling& inside = {});
/// `depth`: groups round it.
LayerPtr readLayer(const Entry& entry, LayerReading& reading, int depth = 0);
/// `depth`: groups round the stack.
Stack readStack(const Entry& entry, LayerReading& reading, int depth = 0);

} // namespace glyptos
