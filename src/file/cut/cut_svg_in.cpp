#include "base/text.h"
#include "file/cut/cut_reading.h"
#include "form/outline.h"

#include <QXmlStreamReader>
#include <optional>

namespace glyptos {
namespace {

double asNumber(QStringView text, const char* what) {
    bool good = false;
    const double v = text.trimmed().toDouble(&good);
    if (!good || !std::isfinite(v)) throw NotCut(std::string(what) + " should be a number");
    return v;
}

/// A length in mm, or in units of 1/96 inch where it says none (SVG 1.1, 7.10).
double asMm(QStringView text, const char* what) {
    const QStringView t = text.trimmed();
    constexpr double kInch = 25.4;
    const std::pair<QStringView, double> units[] = {
        {u"mm", 1}, {u"cm", 10}, {u"in", kInch}, {u"pt", kInch / 72}, {u"px", kInch / 96}};
    for (const auto& [unit, mm] : units)
        if (t.endsWith(unit)) return asNumber(t.chopped(unit.size()), what) * mm;
    return asNumber(t, what) * kInch / 96;
}

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
        return asNumber(text_.mid(from, at_ - from), "a path's data");
    }
    Vec2 point() {
        const double x = number(), y = number();
        return relative_ ? here_ + Vec2{x, y} : Vec2{x, y};
    }
    void step() {
        const char kind = char(command_ >= 'a' ? command_ - 'a' + 'A' : command_);
        relative_ = command_ >= 'a';
        if (kind != 'M' && kind != 0 && !begun_) throw NotCut("a path does not begin with a move");
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
            throw NotCut("a path has a command that is not read");
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

class SvgReader {
  public:
    explicit SvgReader(std::span<const uint8_t> bytes)
        : xml_(QByteArray(reinterpret_cast<const char*>(bytes.data()), qsizetype(bytes.size()))) {}

    CutJob run() {
        std::vector<CutTool> tools{CutTool::Cut};
        while (!xml_.atEnd()) {
            switch (xml_.readNext()) {
            case QXmlStreamReader::StartElement:
                attributes_ = xml_.attributes();
                tools.push_back(toolNamed(attribute("id").toString().toStdString()).value_or(tools.back()));
                read(tools.back());
                break;
            case QXmlStreamReader::EndElement:
                tools.pop_back();
                break;
            case QXmlStreamReader::DTD:
                throw NotCut("it has a document type, which is not read");
            default:
                break;
            }
        }
        if (xml_.hasError())
            throw NotCut("it is not well formed at line " + std::to_string(xml_.lineNumber()));
        if (!sized_) throw NotCut("it is no SVG");
        if (job_.lines.empty()) throw NotCut("nothing is drawn in it");
        return std::move(job_);
    }

  private:
    QStringView attribute(const char* name) const {
        for (const QXmlStreamAttribute& a : attributes_)
            if (a.name() == QLatin1String(name)) return a.value();
        return {};
    }
    double number(const char* name) const {
        const QStringView text = attribute(name);
        return text.isEmpty() ? 0 : asNumber(text, name);
    }

    void read(CutTool tool) {
        const QStringView kind = xml_.name();
        if (!attribute("transform").isEmpty()) throw NotCut("it has a transform, which is not read");
        if (kind == u"svg") return size();
        if (kind == u"path") return add(tool, PathData(attribute("d")).read());
        if (kind == u"line") {
            Path line;
            line.moveTo({number("x1"), number("y1")}), line.lineTo({number("x2"), number("y2")});
            return add(tool, line);
        }
        if (kind == u"rect") {
            if (number("rx") != 0 || number("ry") != 0)
                throw NotCut("it has a rectangle with round corners, which is not read");
            Path box;
            const Vec2 at{number("x"), number("y")}, far{at.x + number("width"), at.y + number("height")};
            box.moveTo(at), box.lineTo({far.x, at.y}), box.lineTo(far), box.lineTo({at.x, far.y}),
                box.lineTo(at);
            return add(tool, box);
        }
        if (kind == u"circle")
            return add(tool, ellipse({number("cx"), number("cy")}, number("r"), number("r")));
        if (kind == u"ellipse")
            return add(tool, ellipse({number("cx"), number("cy")}, number("rx"), number("ry")));
        if (kind == u"polyline" || kind == u"polygon") {
            const QString data = QStringLiteral("M") + attribute("points").toString() +
                                 (kind == u"polygon" ? QStringLiteral("Z") : QString());
            return add(tool, PathData(data).read());
        }
        for (const QStringView plain : {u"g", u"title", u"desc", u"metadata", u"defs", u"style"})
            if (kind == plain) return;
        throw NotCut("it has a “" + visible(kind.toString().toStdString()) + "”, which is not read");
    }

    void size() {
        sized_ = true;
        job_.width = asMm(attribute("width"), "its width"),
        job_.height = asMm(attribute("height"), "its height");
        const auto box =
            attribute("viewBox").toString().simplified().replace(u',', u' ').split(u' ', Qt::SkipEmptyParts);
        if (box.size() != 4) throw NotCut("it has no viewBox, so that its scale is not known");
        const double w = asNumber(box[2], "its viewBox"), h = asNumber(box[3], "its viewBox");
        if (!(w > 0 && h > 0)) throw NotCut("its viewBox is empty");
        toMm_ = Affine::scaling(job_.width / w, job_.height / h) *
                Affine::translation(-asNumber(box[0], "its viewBox"), -asNumber(box[1], "its viewBox"));
    }

    void add(CutTool tool, const Path& path) {
        Path mm;
        mm.append(path, toMm_);
        for (Polyline& line : flattened(mm, kCutTolerance)) {
            points_ += line.points.size();
            if (points_ > kMostCutPoints) throw NotCut("it has over a million points");
            job_.lines.push_back({tool, std::move(line)});
        }
    }

    QXmlStreamReader xml_;
    QXmlStreamAttributes attributes_;
    CutJob job_;
    Affine toMm_;
    bool sized_ = false;
    size_t points_ = 0;
};

} // namespace

CutJob readCutSvg(std::span<const uint8_t> bytes) {
    return SvgReader(bytes).run();
}

} // namespace glyptos
