// The release: an immutable value. Nodes are shared and never changed; an edit (edits.h) makes a new release
// that shares all it did not touch. Two nodes at the same address are the same content.
#pragma once

#include "color/color.h"
#include "form/form.h"
#include "raster/blend_modes.h"
#include "type/paragraph.h"

#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace glyptos {

struct Track {
    std::string side; ///< "A", "B", … or empty
    std::string title;
    int seconds = 0; ///< 0: not known
    bool operator==(const Track&) const = default;
};

/// Facts of the release. Words live here and flow into every piece.
struct Brief {
    std::string artist, title, label, catalogue, year;
    std::vector<Track> tracks;
    bool operator==(const Brief&) const = default;
};

/// One picture brought in. The bytes are those of the file, untouched.
struct Source {
    std::string id;            ///< hash of the bytes, and their name inside the project file
    std::string name;          ///< file name it came with
    std::string format;        ///< "jpeg", "png", "tiff", "webp" or "svg"
    int width = 0, height = 0; ///< pixels, upright
    std::shared_ptr<const std::vector<uint8_t>> bytes;
};
using SourcePtr = std::shared_ptr<const Source>;

/// Where a layer sits on its panel. Lengths in the unit of the form.
struct Placement {
    Vec2 position; ///< of a picture's middle, or of a text's anchor (paragraph.h)
    double scaleX = 1,
           scaleY = 1; ///< of a picture: panel units a pixel, positive. Text is sized by its em instead.
    double turn = 0;   ///< degrees clockwise about the position
    bool flipX = false, flipY = false;
    bool operator==(const Placement&) const = default;
};

struct PictureContent {
    std::string source;
    Rect crop{0, 0, 1, 1}; ///< shown part, in shares of the picture's width and height
    bool operator==(const PictureContent&) const = default;
};

struct TextContent {
    TextSpec spec; ///< `text` may hold fields such as {title}; see fields.h
    Rgba colour{1, 1, 1, 1};
    bool capitals = false;
    bool operator==(const TextContent&) const = default;
};

/// One colour, or an even run from one to another, over the panel and its bleed.
struct FillContent {
    Rgba colour{1, 1, 1, 1};
    std::optional<Rgba> to; ///< at the far end of a linear gradient
    double turn = 0;        ///< degrees clockwise; 0 runs from top to bottom
    bool operator==(const FillContent&) const = default;
};

struct Layer;
using LayerPtr = std::shared_ptr<const Layer>;
using Stack = std::vector<LayerPtr>; ///< front to back

/// Layers composited among themselves before they meet what lies below (an isolated group), or passing
/// through: each meets what lies below by itself, and the group's opacity says how much of the change is
/// kept.
struct GroupContent {
    Stack layers;
    bool passing = false; ///< only with the blend Normal
    bool operator==(const GroupContent&) const = default;
};

using Content = std::variant<PictureContent, TextContent, FillContent, GroupContent>;

struct Layer {
    std::string id; ///< unique in the release
    std::string name;
    bool on = true;
    double opacity = 1; ///< 0…1
    BlendMode blend = BlendMode::Normal;
    Placement placement;
    Content content;

    template <class T>
    const T* as() const {
        return std::get_if<T>(&content);
    }
};

/// One version of a piece's art: a stack for each panel.
struct Take {
    std::string id;                      ///< "A", "B", …
    std::map<std::string, Stack> stacks; ///< by panel id

    const Stack& stack(const std::string& panel) const;
};

struct Piece {
    std::string id, name;
    std::shared_ptr<const Form> form;
    ParameterValues values;                         ///< what the artist set
    std::shared_ptr<const Flat> flat;               ///< the form worked out with them
    std::vector<std::shared_ptr<const Take>> takes; ///< never empty
    size_t current = 0;

    const Take& take() const { return *takes[current]; }
};
using PiecePtr = std::shared_ptr<const Piece>;

struct Release {
    Brief brief;
    std::vector<SourcePtr> sources;
    std::vector<PiecePtr> pieces;
    int nextId = 1; ///< for new pieces and layers

    PiecePtr piece(std::string_view id) const;
    SourcePtr source(std::string_view id) const;
};
using ReleasePtr = std::shared_ptr<const Release>;

/// One panel of one piece, by name.
struct PanelRef {
    std::string piece, panel;
    bool operator==(const PanelRef&) const = default;
};

/// The stack of that panel's current take; empty when there is no such piece.
const Stack& stackOf(const Release& release, const PanelRef& panel);
/// The layer with that id, groups searched too; nothing when it is not there.
LayerPtr findLayer(const Stack& stack, std::string_view id);

} // namespace glyptos
