#include "file/cut/cut_paths.h"

#include "base/text.h"
#include "file/disk/xml_text.h"
#include "form/board.h"

#include <array>

namespace glyptos {
namespace {

constexpr double kMargin = 14, kMarkFromBoard = 7, kMarkArm = 4; // mm
constexpr int kDecimals = 3;

std::string number(double v) {
    return shortNumber(v, kDecimals);
}

Polyline lineOf(Vec2 a, Vec2 b) {
    return {{a, b}, false};
}

void addMarks(const Rect& board, CutJob& job) {
    const Rect r = board.grown(kMarkFromBoard);
    for (const Vec2 at : {Vec2{r.x, r.y}, Vec2{r.right(), r.y}, Vec2{r.x, r.bottom()}})
        for (const Vec2 arm : {Vec2{kMarkArm, 0}, Vec2{0, kMarkArm}})
            job.lines.push_back({CutTool::Register, lineOf(at - arm, at + arm)});
}

std::string svgPath(const Polyline& line) {
    std::string out;
    for (size_t i = 0; i < line.points.size(); ++i)
        out += (i == 0   ? "M"
                : i == 1 ? " L"
                         : " ") +
               number(line.points[i].x) + "," + number(line.points[i].y);
    return out + (line.closed ? " Z" : "");
}

/// Pairs of a group code and a value, a line each (DXF, release 12).
class DxfText {
  public:
    DxfText& add(int code, const std::string& value) {
        text_ += std::to_string(code) + '\n' + value + '\n';
        return *this;
    }
    DxfText& point(Vec2 p, double height) { return add(10, number(p.x)).add(20, number(height - p.y)); }
    const std::string& text() const { return text_; }

  private:
    std::string text_;
};

std::string layerName(CutTool tool) {
    std::string out = kCutToolIds[size_t(tool)];
    for (char& c : out) c = char(c - 'a' + 'A');
    return out;
}

void addLayers(DxfText& out) {
    constexpr std::array kColours{7, 5, 8}; // black, blue, grey in the standard's numbers
    out.add(0, "SECTION").add(2, "TABLES").add(0, "TABLE").add(2, "LAYER").add(70, "3");
    for (const CutTool tool : {CutTool::Cut, CutTool::Crease, CutTool::Register})
        out.add(0, "LAYER")
            .add(2, layerName(tool))
            .add(70, "0")
            .add(62, std::to_string(kColours[size_t(tool)]))
            .add(6, "CONTINUOUS");
    out.add(0, "ENDTAB").add(0, "ENDSEC");
}

} // namespace

CutJob cutJobOf(const Flat& flat, const std::vector<size_t>& sheets) {
    CutJob job;
    Rect all;
    for (const size_t sheet : sheets) {
        if (flat.sheets[sheet].behind) continue;
        Rect board;
        for (Polyline& line : cutLines(flat, sheet)) {
            for (const Vec2& p : line.points) board = board.united({p.x, p.y, 1e-9, 1e-9});
            job.lines.push_back({CutTool::Cut, std::move(line)});
        }
        for (const CreaseLine& crease : creaseLines(flat, sheet))
            job.lines.push_back({CutTool::Crease, lineOf(crease.from, crease.to)});
        all = all.united(board);
    }
    addMarks(all, job);
    const Rect whole = all.grown(kMargin);
    for (ToolLine& line : job.lines)
        for (Vec2& p : line.line.points) p = p - Vec2{whole.x, whole.y};
    const auto rounded = [](double v) { return std::round(v * 1e6) / 1e6; };
    job.width = rounded(whole.w), job.height = rounded(whole.h);
    return job;
}

std::string cutSvg(const CutJob& job, const std::string& title) {
    const std::string w = number(job.width), h = number(job.height);
    std::string out = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" "
                      "version=\"1.1\" width=\"" +
                      w + "mm\" height=\"" + h + "mm\" viewBox=\"0 0 " + w + " " + h + "\">\n<title>" +
                      xmlText(visible(title)) + "</title>\n";
    constexpr std::array kLooks{"stroke=\"#000000\"", "stroke=\"#2a4fb0\" stroke-dasharray=\"3 2\"",
                                "stroke=\"#808080\""};
    for (const CutTool tool : {CutTool::Cut, CutTool::Crease, CutTool::Register}) {
        out += std::string("<g id=\"") + kCutToolIds[size_t(tool)] +
               "\" fill=\"none\" stroke-width=\"0.1\" " + kLooks[size_t(tool)] + ">\n";
        for (const ToolLine& line : job.lines)
            if (line.tool == tool) out += "<path d=\"" + svgPath(line.line) + "\"/>\n";
        out += "</g>\n";
    }
    return out + "</svg>\n";
}

std::string cutDxf(const CutJob& job) {
    DxfText out;
    out.add(0, "SECTION")
        .add(2, "HEADER")
        .add(9, "$ACADVER")
        .add(1, "AC1009")
        .add(9, "$EXTMIN")
        .add(10, "0")
        .add(20, "0");
    out.add(9, "$EXTMAX").add(10, number(job.width)).add(20, number(job.height)).add(0, "ENDSEC");
    addLayers(out);
    out.add(0, "SECTION").add(2, "ENTITIES");
    for (const ToolLine& line : job.lines) {
        const std::string layer = layerName(line.tool);
        out.add(0, "POLYLINE")
            .add(8, layer)
            .add(66, "1")
            .add(10, "0")
            .add(20, "0")
            .add(70, line.line.closed ? "1" : "0");
        for (const Vec2& p : line.line.points) out.add(0, "VERTEX").add(8, layer).point(p, job.height);
        out.add(0, "SEQEND").add(8, layer);
    }
    out.add(0, "ENDSEC").add(0, "EOF");
    return out.text();
}

} // namespace glyptos
