#include "render/drawn_code.h"

#include "code/plain_size.h"

namespace glyptos {
namespace {

/// Spread over their box, each in the middle of its share.
void addDigits(const CodeDigits& digits, Vec2 middle, const FontLibrary& fonts, Path& out) {
    const double share = digits.box.w / double(digits.text.size());
    for (size_t i = 0; i < digits.text.size(); ++i) {
        TextSpec spec;
        spec.text = digits.text.substr(i, 1);
        spec.letters.family = "Inter";
        constexpr double kUnit = 100;
        spec.letters.size = kUnit;
        const Paragraph set = setParagraph(spec, fonts);
        if (set.ink.empty()) continue;
        // Figures of one face are as high as each other but for the round ones' overshoot.
        const double scale = digits.box.h / set.ink.h;
        const Vec2 at{digits.box.x + share * (double(i) + 0.5) - middle.x, digits.box.y - middle.y};
        out.append(set.outline, Affine::translation(at.x, at.y) * Affine::scaling(scale, scale) *
                                    Affine::translation(-set.ink.centre().x, -set.ink.y));
    }
}

Rect plainBox(CodeKind kind) {
    const auto [w, h] = plainSize(kind);
    return {-w / 2, -h / 2, w, h};
}

} // namespace

DrawnCode drawCode(CodeKind kind, const std::string& text, const FontLibrary& fonts) {
    DrawnCode out{kind, text, codeSymbol(kind, text), plainBox(kind), {}, {}};
    if (out.symbol) {
        const CodeSymbol& symbol = *out.symbol;
        const Vec2 middle{symbol.width / 2, symbol.height / 2};
        out.box = {-middle.x, -middle.y, symbol.width, symbol.height};
        out.bars.append(symbol.bars, Affine::translation(-middle.x, -middle.y));
        for (const CodeDigits& digits : symbol.digits) addDigits(digits, middle, fonts, out.bars);
    }
    out.ground.addRect(out.box);
    return out;
}

std::vector<InkedOutline> inkedCode(const CodeContent& code, const std::shared_ptr<const DrawnCode>& drawn) {
    std::vector<InkedOutline> out;
    if (code.ground) out.push_back({std::shared_ptr<const Path>(drawn, &drawn->ground), Rgba(*code.ground)});
    if (!drawn->bars.empty())
        out.push_back({std::shared_ptr<const Path>(drawn, &drawn->bars), Rgba(code.bars)});
    return out;
}

} // namespace glyptos
