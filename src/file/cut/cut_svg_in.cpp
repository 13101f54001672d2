#include "base/text.h"
#include "file/cut/cut_reading.h"
#include "file/cut/svg_shapes.h"

namespace glyptos {
namespace {

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
                tools.push_back(toolNamed(svgAttribute(attributes_, "id").toString().toStdString())
                                    .value_or(tools.back()));
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
    void read(CutTool tool) {
        const QStringView kind = xml_.name();
        if (!svgAttribute(attributes_, "transform").isEmpty())
            throw NotCut("it has a transform, which is not read");
        if (kind == u"svg") return size();
        if (const auto shape = svgShape(kind, attributes_)) return add(tool, *shape);
        for (const QStringView plain : {u"g", u"title", u"desc", u"metadata", u"defs", u"style"})
            if (kind == plain) return;
        throw NotCut("it has a “" + visible(kind.toString().toStdString()) + "”, which is not read");
    }

    void size() {
        sized_ = true;
        const SvgSize size = svgSize(attributes_);
        job_.width = size.width, job_.height = size.height;
        toMm_ = size.toMm;
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
    try {
        return SvgReader(bytes).run();
    } catch (const BadSvg& why) {
        throw NotCut(why.what());
    }
}

} // namespace glyptos
