#include "file/cut/svg_shapes.h"
#include "file/dieline/sheet_reading.h"

#include <QRegularExpression>

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr int kDeepest = 64; // groups in groups

/// One step of a transform attribute (SVG 1.1, 7.6).
Affine stepOf(const QString& kind, const std::vector<double>& v) {
    const auto at = [&](size_t i, double otherwise) { return i < v.size() ? v[i] : otherwise; };
    if (kind == QLatin1String("matrix") && v.size() == 6) return {v[0], v[1], v[2], v[3], v[4], v[5]};
    if (kind == QLatin1String("translate")) return Affine::translation(at(0, 0), at(1, 0));
    if (kind == QLatin1String("scale")) return Affine::scaling(at(0, 1), at(1, at(0, 1)));
    if (kind == QLatin1String("rotate"))
        return Affine::translation(at(1, 0), at(2, 0)) * Affine::rotation(at(0, 0)) *
               Affine::translation(-at(1, 0), -at(2, 0));
    constexpr double kDegree = std::numbers::pi / 180;
    if (kind == QLatin1String("skewX")) return {1, 0, std::tan(at(0, 0) * kDegree), 1, 0, 0};
    if (kind == QLatin1String("skewY")) return {1, std::tan(at(0, 0) * kDegree), 0, 1, 0, 0};
    throw NoSheet("it has a transform that is not read");
}

Affine transformOf(QStringView text) {
    static const QRegularExpression step(QStringLiteral("([a-zA-Z]+)\\s*\\(([^)]*)\\)"));
    Affine out;
    for (auto it = step.globalMatch(text.toString()); it.hasNext();) {
        const auto match = it.next();
        std::vector<double> values;
        for (const QString& number : match.captured(2).replace(u',', u' ').split(u' ', Qt::SkipEmptyParts))
            values.push_back(svgNumber(number, "a transform"));
        out = out * stepOf(match.captured(1), values);
    }
    return out;
}

class Reader {
  public:
    explicit Reader(std::span<const uint8_t> bytes)
        : xml_(QByteArray(reinterpret_cast<const char*>(bytes.data()), qsizetype(bytes.size()))) {
        sheet_.format = "svg";
        sheet_.bytes.assign(bytes.begin(), bytes.end());
    }

    PrintersSheet run() {
        while (!xml_.atEnd()) {
            const auto token = xml_.readNext();
            if (token == QXmlStreamReader::StartElement) begin();
            if (token == QXmlStreamReader::EndElement) groups_.pop_back();
        }
        if (xml_.hasError())
            throw NoSheet("it is no PDF, and as an SVG not well formed at line " +
                          std::to_string(xml_.lineNumber()));
        if (!sized_) throw NoSheet("it is neither PDF nor SVG");
        return std::move(sheet_);
    }

  private:
    struct Group {
        Affine toMm;
        std::string name;
        bool shown = true;
    };

    void begin() {
        if (groups_.size() > kDeepest) throw NoSheet("its groups are nested too deeply");
        const auto attributes = xml_.attributes();
        Group here = groups_.empty() ? Group{} : groups_.back();
        if (xml_.name() == u"svg" && !sized_) {
            const SvgSize size = svgSize(attributes);
            sheet_.width = size.width, sheet_.height = size.height;
            here.toMm = size.toMm;
            sized_ = true;
        }
        here.toMm = here.toMm * transformOf(svgAttribute(attributes, "transform"));
        takeName(here, attributes);
        // What is kept to be used elsewhere is not drawn where it stands.
        for (const QStringView unseen : {u"defs", u"clipPath", u"mask", u"symbol", u"pattern", u"marker"})
            if (xml_.name() == unseen) here.shown = false;
        if (here.shown && sized_)
            if (const auto shape = svgShape(xml_.name(), attributes)) {
                Path mm;
                mm.append(*shape, here.toMm);
                addLines(sheet_, mm, here.name, points_);
            }
        groups_.push_back(std::move(here));
    }

    /// Whichever of its names says what the lines are for.
    static void takeName(Group& group, const QXmlStreamAttributes& attributes) {
        for (const char* key : {"label", "id", "class"}) {
            const std::string name = svgAttribute(attributes, key).toString().toStdString();
            if (dielineRole(name) == DielineRole::Other) continue;
            group.name = name;
            return;
        }
    }

    QXmlStreamReader xml_;
    PrintersSheet sheet_;
    std::vector<Group> groups_;
    size_t points_ = 0;
    bool sized_ = false;
};

} // namespace

PrintersSheet readSvgSheet(std::span<const uint8_t> bytes) {
    try {
        return Reader(bytes).run();
    } catch (const BadSvg& why) {
        throw NoSheet(why.what());
    }
}

} // namespace glyptos
