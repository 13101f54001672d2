// The release: an immutable value. Nodes are shared and never changed; an edit (edits.h) makes a new release
// that shares all it did not touch. Two nodes at the same address are the same content.
#pragma once

#include "base/picture_bytes.h"
#include "code/code.h"
#include "color/color.h"
#include "form/wrap.h"
#include "raster/blend_modes.h"
#include "release/selection.h"
#include "release/shape.h"
#include "release/source_facts.h"
#include "release/text_style.h"
#include "release/track_listing.h"
#include "release/treatment.h"
#include "type/text_spec.h"

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace glyptos {

struct KeptWords; // type/kept_words.h

inline constexpr int kLongestTrack = 24 * 60 * 60; ///< seconds

struct Track {
    std::string side; ///< "A", "B", … or empty
    std::string title;
    int seconds = 0;            ///< 0: not known; at most kLongestTrack
    std::string performer = {}; ///< where it is not the artist of the release alone
    bool operator==(const Track&) const = default;
};

/// Facts of the release. Words live here and flow into every piece.
struct Brief {
    std::string artist, title, label, catalogue, year;
    std::string barcode; ///< digits of an EAN-13 or UPC-A
    std::string address; ///< where a code leads
    std::string copyright, phonogram,
        madeIn; ///< lines of the small print: of words and pictures, of the sound, where it is made
    std::vector<Track> tracks;
    std::vector<std::string> mood; ///< words
    std::string genre, audience, notes;
    bool operator==(const Brief&) const = default;
};

/// One file brought in: a picture, or a font.
struct Source {
    std::string id;            ///< hash of the bytes, and their name inside the project file
    std::string name;          ///< file name it came with
    std::string format;        ///< "jpeg", "png", "tiff", "webp" or "svg"; "ttf", "otf" or "ttc"
    int width = 0, height = 0; ///< pixels, upright; of a font 0
    PictureBytesPtr bytes;     ///< nothing while it is being read
    SourceFacts facts;
};
using SourcePtr = std::shared_ptr<const Source>;

inline bool isFont(const Source& source) {
    return source.format == "ttf" || source.format == "otf" || source.format == "ttc";
}

/// Where a layer sits on its panel. Lengths in the unit of the form.
struct Placement {
    Vec2 position; ///< of a picture's middle, or of a text's anchor (paragraph.h)
    double scaleX = 1,
           scaleY =
               1; ///< positive; of a picture: panel units a pixel. Text and shapes have sizes of their own.
    double turn = 0; ///< degrees clockwise about the position
    bool flipX = false, flipY = false;
    double skew = 0; ///< degrees by which upright edges lean to the right of their turned frame, within ±89
    bool operator==(const Placement&) const = default;
};

struct PictureContent {
    std::string source;
    Rect crop{0, 0, 1, 1}; ///< shown part, in shares of the picture's width and height
    bool operator==(const PictureContent&) const = default;
};

struct TextContent {
    TextSpec spec; ///< `text` may hold fields such as {title}; see fields.h
    Ink colour{1, 1, 1, 1};
    std::string style;        ///< the text style it follows; empty: none
    std::vector<Ink> colours; ///< of letters whose paint is 1, 2, …; theirs is `colour` where there is none
    std::optional<TrackListing> tracks; ///< the words are the track list, and not those of the spec
    const Ink& colourOf(int paint) const {
        return paint >= 1 && size_t(paint) <= colours.size() ? colours[size_t(paint) - 1] : colour;
    }
    bool operator==(const TextContent&) const = default;
};

/// Paint over the whole panel and its bleed; its points are in panel units.
struct FillContent {
    Paint paint = Ink{1, 1, 1, 1};
    bool operator==(const FillContent&) const = default;
};

/// Another panel, shown live. It turns and scales like a picture whose pixels are the other panel's units.
struct EchoContent {
    std::string piece, panel; ///< an empty panel: the whole flat
    std::string take;         ///< empty: whichever is the current one
    bool bleed = false;       ///< with the bleed round it
    bool operator==(const EchoContent&) const = default;
};

/// Where a layer shows: 1 all of it, 0 nothing. In its own frame, placed on the panel like a layer.
struct Mask {
    /// A picture's luminance (outside it nothing shows), a gradient's luminance times alpha, a shape's area,
    /// or what is painted.
    using Form = std::variant<PictureContent, Gradient, ShapeContent, PaintedMask>;
    Form form;
    Placement placement; ///< of all but pictures: from their own frame to the panel
    bool on = true;
    bool inverted = false;
    bool linked = true;  ///< moves with its layer
    double strength = 1; ///< 0…1; the mask is 1 - strength where it is 0
    double feather = 0;  ///< panel units: width of the soft edge, two standard deviations of a Gaussian
    bool operator==(const Mask&) const = default;
};

/// A code that scanners read. Its own frame is in modules, (0, 0) in the middle of the symbol with its clear
/// zone; the layer's scale is the width of a module.
struct CodeContent {
    CodeKind kind = CodeKind::Ean13;
    std::string text; ///< may hold fields
    Ink bars{0, 0, 0, 1};
    std::optional<Ink> ground = Ink{1, 1, 1, 1}; ///< of its clear zone; nothing: what lies behind it
    bool operator==(const CodeContent&) const = default;
};

struct Layer;
struct Warp; // warp.h
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

/// A grade: its treatments act on all that lies beneath it in its list, or on what it is clipped into.
struct GradeContent {
    bool operator==(const GradeContent&) const = default;
};

using Content = std::variant<PictureContent, TextContent, FillContent, GroupContent, ShapeContent,
                             EchoContent, PaintedContent, GradeContent, CodeContent>;

struct Layer {
    std::string id; ///< unique in the release
    std::string name;
    bool on = true;
    double opacity = 1; ///< 0…1
    BlendMode blend = BlendMode::Normal;
    Placement placement;
    Content content;
    bool clipped =
        false;           ///< shows only inside the nearest layer below, in the same list, that is not clipped
    bool locked = false; ///< the hand on the bench passes through it
    std::string spot;    ///< the swatch in whose ink all of it prints; empty: as its colours say
    std::shared_ptr<const Mask> mask;
    /// Nothing for most layers, and never of a fill. A linked mask goes through it with the layer. A group
    /// that has one is placed as a whole, by its own placement.
    std::shared_ptr<const Warp> warp;
    /// In the order in which they act; nothing for most layers. The mask comes after those that change what
    /// shows and before the first that follows its outline, so that a shadow is that of what is cut out.
    std::shared_ptr<const Treatments> treatments;

    template <class T>
    const T* as() const {
        return std::get_if<T>(&content);
    }
};

/// Whether it reaches over all of its panel, and has no frame of its own.
inline bool isFrameless(const Layer& layer) {
    return layer.as<FillContent>() || layer.as<GradeContent>();
}

/// One version of a piece's art: a stack for each panel.
struct Take {
    std::string id;                      ///< "A", "B", …
    std::map<std::string, Stack> stacks; ///< by panel id

    const Stack& stack(const std::string& panel) const;
};

/// A picture laid over or beside a panel to compare with. It is never printed.
struct Reference {
    enum class Way : unsigned char { Off, Over, Beside, Split, Difference };
    std::string source;
    Placement placement;
    Way way = Way::Over;
    double opacity = 0.5; ///< 0…1, laid over
    double split = 0.5;   ///< 0…1 across the panel: left of it the work, right of it the reference
    bool operator==(const Reference&) const = default;
};

struct Piece {
    std::string id, name;
    std::shared_ptr<const Form> form;
    ParameterValues values;                         ///< what the artist set
    std::map<std::string, std::string> reasons;     ///< by parameter: why it is not as it is worked out
    std::vector<Wrap> wraps;                        ///< art that runs over several panels
    std::shared_ptr<const Flat> flat;               ///< the form worked out with all that
    std::vector<std::shared_ptr<const Take>> takes; ///< never empty
    size_t current = 0;
    std::map<std::string, Reference> references;       ///< by panel id
    std::map<std::string, PanelSelections> selections; ///< by panel id; none is empty

    const Take& take() const { return *takes[current]; }
    /// The take with that id, or the current one when the id is empty; nothing when there is none.
    const Take* take(std::string_view id) const;
    const Wrap* wrap(std::string_view id) const; ///< nothing when there is none of that id
};
using PiecePtr = std::shared_ptr<const Piece>;

/// The number of the next id. It is no part of what a release shows: it may be raised in one that is shared,
/// when ids have been given on another branch of its history.
class IdCounter {
  public:
    IdCounter(int next = 1)
        : next_(next) {}
    IdCounter(const IdCounter& other)
        : next_(other.next_.load()) {}
    IdCounter& operator=(const IdCounter& other) {
        next_ = other.next_.load();
        return *this;
    }
    operator int() const { return next_; }
    /// Gives it away.
    int take() { return next_++; }
    /// No number below `least` is given from now on. From one thread at a time.
    void raise(int least) const { next_ = std::max(next_.load(), least); }

  private:
    mutable std::atomic<int> next_;
};

struct Release {
    Brief brief;
    std::vector<SourcePtr> sources; ///< pictures
    /// Of faces that may not be where it is opened, as it was saved; or nothing.
    std::shared_ptr<const std::vector<KeptWords>> keptWords;
    std::vector<SourcePtr> fonts; ///< files; of two with one name the later one counts
    std::vector<PiecePtr> pieces;
    IdCounter nextId;         ///< for new pieces and layers
    bool linearLight = false; ///< blend in linear light instead of sRGB encoding
    std::vector<Swatch> palette;
    std::vector<TextStyle> textStyles;
    PiecePtr wall; ///< never missing

    Release();
    /// Also the wall, by its own id.
    PiecePtr piece(std::string_view id) const;
    SourcePtr source(std::string_view id) const; ///< of a picture
    SourcePtr font(std::string_view id) const;
};
using ReleasePtr = std::shared_ptr<const Release>;

/// One panel of one piece, by name.
struct PanelRef {
    std::string piece, panel;
    bool operator==(const PanelRef&) const = default;
};

/// The stack of that panel's current take; empty when there is no such piece.
const Stack& stackOf(const Release& release, const PanelRef& panel);
/// The reference picture of that panel, when it has one.
std::optional<Reference> referenceOf(const Release& release, const PanelRef& panel);
/// What is selected now on that panel.
std::optional<Selection> selectionOf(const Release& release, const PanelRef& panel);
/// The layer with that id, groups searched too; nothing when it is not there.
LayerPtr findLayer(const Stack& stack, std::string_view id);
/// Index of the layer that `stack[index]` shows inside of; `index` itself when it is not clipped, or when
/// nothing below it in the list could hold it.
size_t clipBase(const Stack& stack, size_t index);

} // namespace glyptos
