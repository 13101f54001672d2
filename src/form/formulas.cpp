#include "form/formulas.h"

#include "base/expression.h"
#include "base/text.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kMostParts = 400;

} // namespace

double Formulas::value(const std::string& formula, const std::string& of) {
    const auto result = evaluate(formula, [this](std::string_view name) -> std::optional<double> {
        const auto found = names_.find(std::string(name));
        return found == names_.end() ? std::nullopt : std::optional(found->second);
    });
    if (!result) wrong(Fault::Damaged, form_.name + ", " + of + ": " + result.error().message);
    return result.value_or(0);
}

int Formulas::count(const std::string& formula, const std::string& of) {
    const double out = value(formula, of);
    if (out < 0 || out > kMostParts || out != std::floor(out))
        wrong(Fault::Usage, form_.name + ", " + of + ": “" + formula + "” should be a whole number up to " +
                                std::to_string(kMostParts) + ", not " + shortNumber(out) + ".");
    return good() ? int(out) : 0;
}

std::string Formulas::filled(const std::string& text, const std::string& of) {
    std::string out;
    for (size_t i = 0; i < text.size();) {
        const size_t open = text.find('{', i), close = text.find('}', open);
        out += text.substr(i, open - i);
        if (close == text.npos) {
            if (open != text.npos) wrong(Fault::Damaged, form_.name + ", " + of + ": a “{” is not closed.");
            break;
        }
        out += shortNumber(value(text.substr(open + 1, close - open - 1), of));
        i = close + 1;
    }
    return out;
}

std::string Formulas::spelledOut(const std::string& formula) const {
    std::string out;
    for (size_t i = 0; i < formula.size();) {
        size_t end = i;
        while (end < formula.size() &&
               (std::isalnum(static_cast<unsigned char>(formula[end])) || formula[end] == '_'))
            ++end;
        const auto found = names_.find(formula.substr(i, end - i));
        if (end > i)
            out += found == names_.end() ? formula.substr(i, end - i) : shortNumber(found->second);
        else
            out += formula[i] == '*' ? " × " : std::string(1, formula[end++]);
        i = std::max(end, i + 1);
    }
    return out;
}

Outline Formulas::outline(const OutlineForm& form, const std::string& of) {
    Outline out;
    out.kind = form.kind;
    out.box = {value(form.x, of), value(form.y, of), value(form.w, of), value(form.h, of)};
    out.corners = valueOr(form.corners, 0, of), out.inner = valueOr(form.inner, 0, of);
    if (out.corners < 0 || out.inner < 0)
        wrong(Fault::Usage, form_.name + ", " + of + ": a size is negative.");
    for (size_t i = 0; i < form.nodes.size(); ++i) {
        std::vector<Vec2> points;
        for (size_t k = 0; k + 1 < form.nodes[i].size(); k += 2)
            points.push_back(
                {out.box.x + value(form.nodes[i][k], of), out.box.y + value(form.nodes[i][k + 1], of)});
        if (i == 0)
            out.free.moveTo(points[0]);
        else if (points.size() == 1)
            out.free.lineTo(points[0]);
        else if (points.size() == 2)
            out.free.quadTo(points[0], points[1]);
        else
            out.free.cubicTo(points[0], points[1], points[2]);
    }
    return out;
}

} // namespace glyptos
