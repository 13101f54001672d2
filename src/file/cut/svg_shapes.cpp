#include "file/cut/svg_shapes.h"

#include "form/outline.h"

#include <cmath>

namespace glyptos {

double svgNumber(QStringView text, const char* what) {
    bool good = false;
    const double v = text.trimmed().toDouble(&good);
    if (!good || !std::isfinite(v)) throw BadSvg(std::string(what) + " should be a number");
    return v;
}

double svgLengthMm(QStringView text, const char* what) {
    const QStringView t = text.trimmed();
    constexpr double kInch = 25.4;
    const std::pair<QStringView, double> units[] = {
        {u"mm", 1}, {u"cm", 10}, {u"in", kInch}, {u"pt", kInch / 72}, {u"px", kInch / 96}};
    for (const auto& [unit, mm] : units)
        if (t.endsWith(unit)) return svgNumber(t.chopped(unit.size()), what) * mm;
    return svgNumber(t, what) * kInch / 96;
}

QStringView svgAttribute(const QXmlStreamAttributes& attributes, const char* name) {
    for (const QXmlStreamAttribute& a : attributes)
        if (a.name() == QLatin1String(name)) return a.value();
    return {};
}

namespace {

/// Letters and numbers of a path's data (SVG 1.1, 8.3.9).
class PathData {
  public:
    explicit PathData(QStringView text)
        : text_(text) {}

    Path read() {
        for (skip(); at_ < text_.size(); skip()) {
            if (text_[at_].isLetter()) command_ = text_[at_++].toLatin1();
            step();
        }
        return std::move(path_);
    }

  private:
    void skip() {
        while (at_ < text_.size() && (text_[at_].isSpace() || text_[at_] == u',')) ++at_;
    }
    double number() {
        skip();
        const qsizetype from = at_;
        if (at_ < text_.size() && (text_[at_] == u'-' || text_[at_] == u'+')) ++at_;
        bool dot = false, power = false;
        for (; at_ < text_.size(); ++at_) {
            const QChar c = text_[at_];
            if (c.isDigit()) continue;
            if (c == u'.' && !dot && !power) {
                dot = true;
            } else if ((c == u'e' || c == u'E') && !power) {
                power = true;
                if (at_ + 1 < text_.size() && (text_[at_ + 1] == u'-' || text_[at_ + 1] == u'+')) ++at_;
            } else {
                break;
            }
        }
        return svgNumber(text_.mid(from, at_ - from), "a path's data");
    }
    Vec2 point() {
        const double x = number(), y = number();
        return relative_ ? here_ + Vec2{x, y} : Vec2{x, y};
    }
    void step() {
        const char kind = char(command_ >= 'a' ? command_ - 'a' + 'A' : command_);
        relative_ = command_ >= 'a';
        if (kind != 'M' && kind != 0 && !begun_) throw BadSvg("a path does not begin with a move");
        switch (kind) {
        case 'M':
            start_ = point();
            path_.moveTo(start_);
            begun_ = true, here_ = start_;
            command_ = relative_ ? 'l' : 'L'; // what follows a move without a letter
            return;
        case 'L':
            return lineTo(point());
        case 'H': {
            const double x = number();
            return lineTo({relative_ ? here_.x + x : x, here_.y});
        }
        case 'V': {
            const double y = number();
            return lineTo({here_.x, relative_ ? here_.y + y : y});
        }
        case 'Q': {
            const Vec2 control = point(), to = point();
            path_.quadTo(control, to);
            here_ = to;
            return;
        }
        case 'C': {
            const Vec2 a = point(), b = point(), to = point();
            path_.cubicTo(a, b, to);
            here_ = to;
            return;
        }
        case 'Z':
            lineTo(start_);
            command_ = 0;
            return;
        default:
            throw BadSvg("a path has a command that is not read");
        }
    }
    void lineTo(Vec2 p) {
        path_.lineTo(p);
        here_ = p;
    }

    QStringView text_;
    qsizetype at_ = 0;
    char command_ = 0;
    bool relative_ = false, begun_ = false;
    Vec2 here_, start_;
    Path path_;
};

Path ellipse(Vec2 c, double rx, double ry) {
    Outline out;
    out.kind = Outline::Kind::Disc;
    out.box = {c.x - rx, c.y - ry, 2 * rx, 2 * ry};
    return out.path();
}

} // namespace

std::optional<Path> svgShape(QStringView kind, const QXmlStreamAttributes& attributes) {
    const auto number = [&](const char* name) {
        const QStringView text = svgAttribute(attributes, name);
        return text.isEmpty() ? 0 : svgNumber(text, name);
    };
    if (kind == u"path") return PathData(svgAttribute(attributes, "d")).read();
    if (kind == u"line") {
        Path line;
        line.moveTo({number("x1"), number("y1")}), line.lineTo({number("x2"), number("y2")});
        return line;
    }
    if (kind == u"rect") {
        if (number("rx") != 0 || number("ry") != 0)
            throw BadSvg("it has a rectangle with round corners, which is not read");
        Path box;
        const Vec2 at{number("x"), number("y")}, far{at.x + number("width"), at.y + number("height")};
        box.moveTo(at), box.lineTo({far.x, at.y}), box.lineTo(far), box.lineTo({at.x, far.y}), box.lineTo(at);
        return box;
    }
    if (kind == u"circle") return ellipse({number("cx"), number("cy")}, number("r"), number("r"));
    if (kind == u"ellipse") return ellipse({number("cx"), number("cy")}, number("rx"), number("ry"));
    if (kind != u"polyline" && kind != u"polygon") return std::nullopt;
    const QString data = QStringLiteral("M") + svgAttribute(attributes, "points").toString() +
                         (kind == u"polygon" ? QStringLiteral("Z") : QString());
    return PathData(data).read();
}

SvgSize svgSize(const QXmlStreamAttributes& attributes) {
    SvgSize out;
    out.width = svgLengthMm(svgAttribute(attributes, "width"), "its width"),
    out.height = svgLengthMm(svgAttribute(attributes, "height"), "its height");
    const auto box = svgAttribute(attributes, "viewBox")
                         .toString()
                         .simplified()
                         .replace(u',', u' ')
                         .split(u' ', Qt::SkipEmptyParts);
    if (box.size() != 4) throw BadSvg("it has no viewBox, so that its scale is not known");
    const double w = svgNumber(box[2], "its viewBox"), h = svgNumber(box[3], "its viewBox");
    if (!(w > 0 && h > 0)) throw BadSvg("its viewBox is empty");
    out.toMm = Affine::scaling(out.width / w, out.height / h) *
               Affine::translation(-svgNumber(box[0], "its viewBox"), -svgNumber(box[1], "its viewBox"));
    return out;
}

} // namespace glyptos
