#include "render/fit/code_verdicts.h"

#include "base/srgb_curve.h"
#include "base/text.h"
#include "code/reader.h"
#include "color/colour_words.h"
#include "release/code_size.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>
#include <array>

namespace glyptos {
namespace {

constexpr double kPxAModule = 6;
constexpr double kLeastScreenPx = 3;     // a module on a screen
constexpr double kSameProportion = 0.01; // of the width
constexpr double kLeastContrast = 0.4;   // reflectance of light less that of dark: grade C of ISO/IEC 15416
constexpr double kClear = 0.7;           // from dark to light, of the clear zone
constexpr double kStray = 0.004;         // of the clear zone may be darker: noise

/// Reflectance of each sRGB byte.
std::array<float, 256> reflectances() {
    std::array<float, 256> out{};
    for (size_t i = 0; i < out.size(); ++i) out[i] = float(decodedSrgb(double(i) / 255));
    return out;
}

/// A code as a scanner sees it.
struct ScannedCode {
    int width = 0, height = 0;
    Affine toModules;           ///< from px to the code's own frame
    std::vector<uint8_t> grey;  ///< sRGB-encoded
    std::vector<float> reflect; ///< 0…1
};

struct Extremes {
    double dark = 0, light = 0;
};

class CodeJudge {
  public:
    CodeJudge(Renderer& renderer, const ReleasePtr& release, const PanelRef& ref, const Layer& layer)
        : renderer_(renderer)
        , release_(release)
        , ref_(ref)
        , layer_(layer)
        , code_(*layer.as<CodeContent>())
        , piece_(release->piece(ref.piece))
        , panel_(piece_ ? piece_->flat->panel(ref.panel) : nullptr)
        , drawn_(renderer.paragraphs().code(code_, *release)) {}

    CodeVerdict run() {
        out_ = {ref_, layer_.id, layer_.name, CodeGrade::Good, {}};
        if (!panel_) return out_;
        if (!drawn_->symbol) return said(CodeGrade::Wrong, drawn_->symbol.error().message);
        if (code_.ground && isLightOnDark(code_.bars, *code_.ground))
            return said(CodeGrade::Wrong,
                        "Its bars are lighter than its ground: scanners read dark on light.");
        if (layer_.warp) return said(CodeGrade::Wrong, "It is kneaded or bent, and a code must be straight.");
        const Placement& p = layer_.placement;
        if (std::abs(p.scaleX - p.scaleY) > kSameProportion * p.scaleX || p.skew != 0)
            return said(CodeGrade::Wrong, "It is stretched or leans; put its proportions right.");
        if (p.flipX != p.flipY) return said(CodeGrade::Wrong, "It is mirrored.");
        const ScannedCode seen = scan();
        if (!isWhole())
            return said(CodeGrade::Wrong, isWrap() ? "It lies over a fold or an edge; a code is on one panel."
                                                   : "It reaches over the edge of its panel.");
        const Extremes e = extremes(seen);
        if (e.light - e.dark < kLeastContrast) return said(CodeGrade::Wrong, tooPale());
        if (!reads(seen))
            return said(CodeGrade::Wrong,
                        "No reader reads it: something lies over it, or its ground is too busy.");
        if (const std::string size = wrongSize(); !size.empty()) return said(CodeGrade::Doubtful, size);
        if (!isClear(seen, e))
            return said(CodeGrade::Doubtful,
                        "Something stands in its clear zone, or its ground is too busy there.");
        return said(CodeGrade::Good,
                    "Read back as " + visible(drawn_->symbol->text) + ", at " + percent() + ".");
    }

  private:
    const CodeVerdict& said(CodeGrade grade, std::string sentence) {
        out_.grade = grade, out_.sentence = std::move(sentence);
        return out_;
    }
    bool isMm() const { return piece_->flat->unit == Unit::Mm; }
    double scale() const { return layer_.placement.scaleX / codeModule(code_.kind, piece_->flat->unit); }
    std::string percent() const { return shortNumber(scale() * 100, 0) + " %"; }

    static bool isLightOnDark(const Ink& bars, const Ink& ground) {
        constexpr Rgba kBlack{0, 0, 0, 1};
        return contrastRatio(Rgba(bars), kBlack) >= contrastRatio(Rgba(ground), kBlack);
    }

    bool isWrap() const { return piece_->wrap(ref_.panel) != nullptr; }
    /// From the code's own frame to what is seen of it with what else prints there: the panel, or of a wrap
    /// the flat.
    Affine toSeen() const {
        const Affine toPlace = placementMap(layer_.placement);
        return isWrap() ? panel_->toFlat() * toPlace : toPlace;
    }

    bool isOn(const Outline& outline, const Affine& toOutline) const {
        const Rect& b = drawn_->box;
        const auto inside = [&](Vec2 p) { return outline.contains(toOutline.map(p)); };
        constexpr double kIn = 1e-6;
        return inside({b.x + kIn, b.y + kIn}) && inside({b.right() - kIn, b.y + kIn}) &&
               inside({b.x + kIn, b.bottom() - kIn}) && inside({b.right() - kIn, b.bottom() - kIn});
    }
    /// On its panel; of a wrap on any one of the flat's.
    bool isWhole() const {
        if (!isWrap()) return isOn(panel_->outline, toSeen());
        const auto& panels = piece_->flat->panels;
        return std::any_of(panels.begin(), panels.end(), [&](const Panel& panel) {
            const auto fromFlat = panel.toFlat().inverse();
            return fromFlat && isOn(panel.outline, *fromFlat * toSeen());
        });
    }

    ScannedCode scan() const {
        constexpr double kAround = 2; // modules
        const Affine seen = toSeen();
        const double px = kPxAModule / layer_.placement.scaleX;
        const Rect area = seen.mapBounds(drawn_->box.grown(kAround));
        ScannedCode out;
        out.width = int(std::ceil(area.w * px)), out.height = int(std::ceil(area.h * px));
        const OnOutput how{px, true, {-area.x * px, -area.y * px}, {}, false};
        const Scene scene = isWrap() ? flatScene(release_, ref_.piece, how) : panelScene(release_, ref_, how);
        const Buffer<uint8_t> rgb = renderer_.renderRgb8OnWhite(scene, {0, 0, out.width, out.height});
        const Affine toPx = Affine::translation(-area.x * px, -area.y * px) * Affine::scaling(px, px) * seen;
        out.toModules = toPx.inverse().value_or(Affine{});
        static const std::array<float, 256> kReflect = reflectances();
        for (size_t i = 0; i + 2 < rgb.size(); i += 3) {
            const auto byte = isBarcode(code_.kind)
                                  ? rgb[i]
                                  : uint8_t((54 * rgb[i] + 183 * rgb[i + 1] + 19 * rgb[i + 2] + 128) / 256);
            out.grey.push_back(byte), out.reflect.push_back(kReflect[byte]);
        }
        return out;
    }

    bool reads(const ScannedCode& seen) const {
        const auto read = readCode(seen.grey.data(), seen.width, seen.height);
        return read && read->kind == code_.kind && read->text == drawn_->symbol->text;
    }

    /// Act on each pixel of the symbol's bars, or of its clear zone.
    template <class Act>
    void each(const ScannedCode& seen, bool inside, const Act& act) const {
        constexpr double kEdge = 0.7; // modules that blur over it
        const CodeSymbol& symbol = *drawn_->symbol;
        const double bars = isBarcode(code_.kind) ? symbol.digits.front().box.y : symbol.height;
        const Vec2 corner{symbol.width / 2, symbol.height / 2};
        const Rect& r = symbol.symbol;
        for (int y = 0; y < seen.height; ++y)
            for (int x = 0; x < seen.width; ++x) {
                const Vec2 m = seen.toModules.map({x + 0.5, y + 0.5}) + corner;
                if (m.x < 0 || m.y < 0 || m.x > symbol.width || m.y > bars) continue;
                const bool in = m.x > r.x && m.x < r.right() && m.y > r.y && m.y < r.bottom();
                const bool clear = m.x < r.x - kEdge || m.x > r.right() + kEdge || m.y < r.y - kEdge ||
                                   m.y > r.bottom() + kEdge;
                if (inside ? in : clear)
                    act(double(seen.reflect[size_t(y) * size_t(seen.width) + size_t(x)]));
            }
    }

    Extremes extremes(const ScannedCode& seen) const {
        std::vector<double> all;
        each(seen, true, [&](double v) { all.push_back(v); });
        if (all.empty()) return {};
        std::sort(all.begin(), all.end());
        return {all[all.size() / 20], all[all.size() - 1 - all.size() / 20]};
    }

    std::string tooPale() const {
        return isBarcode(code_.kind)
                   ? "By the red light of scanners its bars stand out too little from what is behind them."
                   : "Its dark and light are too near each other for a reader.";
    }

    std::string wrongSize() const {
        const double module = layer_.placement.scaleX;
        if (!isMm())
            return module < kLeastScreenPx ? "Its squares are under 3 px, so that few cameras read it." : "";
        if (code_.kind == CodeKind::Qr)
            return module < kQrModuleMm - 1e-6 ? "It is too small: its squares are " + shortNumber(module) +
                                                     " mm, and 0.4 mm is the least."
                                               : "";
        if (scale() < kLeastBarcodeScale - 1e-6 || scale() > kMostBarcodeScale + 1e-6)
            return "It is at " + percent() + ", and 80 to 200 % are allowed.";
        return {};
    }

    bool isClear(const ScannedCode& seen, const Extremes& e) const {
        size_t all = 0, dark = 0;
        each(seen, false, [&](double v) { ++all, dark += v < e.dark + kClear * (e.light - e.dark); });
        return double(dark) <= kStray * double(all);
    }

    Renderer& renderer_;
    const ReleasePtr& release_;
    PanelRef ref_;
    const Layer& layer_;
    const CodeContent& code_;
    PiecePtr piece_;
    const Panel* panel_;
    std::shared_ptr<const DrawnCode> drawn_;
    CodeVerdict out_;
};

/// Layers that show, groups that are off left out.
void eachOn(const Stack& stack, const std::function<void(const Layer&)>& act) {
    for (const LayerPtr& layer : stack) {
        if (!layer->on) continue;
        act(*layer);
        if (const auto* group = layer->as<GroupContent>()) eachOn(group->layers, act);
    }
}

void addWordsInPlace(const ReleasePtr& release, const PanelRef& ref, const Panel& panel,
                     ParagraphCache& paragraphs, std::vector<CodeVerdict>& out) {
    for (const Zone& zone : panel.zones) {
        if (zone.kind != ZoneKind::Code) continue;
        eachOn(stackOf(*release, ref), [&](const Layer& layer) {
            if (!layer.as<TextContent>()) return;
            const Rect both = frameOf(layer, *release, {}, paragraphs).bounds().intersected(zone.outline.box);
            if (!both.empty())
                out.push_back({ref, layer.id, layer.name, CodeGrade::Doubtful,
                               "It stands in the place of the barcode on " + panel.name + "."});
        });
    }
}

} // namespace

CodeVerdict judgeCode(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                      const Layer& code) {
    return CodeJudge(renderer, release, panel, code).run();
}

std::vector<CodeVerdict> judgeCodes(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                    const std::atomic<bool>* cancel) {
    std::vector<CodeVerdict> out;
    const PiecePtr piece = release->piece(id);
    if (!piece) return out;
    for (const Panel* panel : piece->flat->places()) {
        const PanelRef ref{id, panel->id};
        eachOn(stackOf(*release, ref), [&](const Layer& layer) {
            if (layer.as<CodeContent>() && !(cancel && *cancel))
                out.push_back(judgeCode(renderer, release, ref, layer));
        });
        addWordsInPlace(release, ref, *panel, renderer.paragraphs(), out);
    }
    return out;
}

} // namespace glyptos
