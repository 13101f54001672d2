// Cut elements as drawings: marks, borders, birds and instruments.
#include "stock.h"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace glyptos::demo {
namespace {

std::string number(double v) {
    char text[32];
    std::snprintf(text, sizeof text, "%.2f", v);
    return text;
}

std::string at(double radius, double degrees) {
    const double a = degrees * std::numbers::pi / 180;
    return number(256 + radius * std::sin(a)) + " " + number(256 - radius * std::cos(a));
}

std::string filled(const std::string& d, const char* colour) {
    return "<path d=\"" + d + "\" fill=\"" + colour + "\"/>";
}
std::string lined(const std::string& d, const char* colour, double width) {
    return "<path d=\"" + d + "\" fill=\"none\" stroke=\"" + colour + "\" stroke-width=\"" + number(width) +
           "\" stroke-linecap=\"round\" stroke-linejoin=\"round\"/>";
}
std::string ring(double radius, const char* colour, double width) {
    return "<circle cx=\"256\" cy=\"256\" r=\"" + number(radius) + "\" fill=\"none\" stroke=\"" + colour +
           "\" stroke-width=\"" + number(width) + "\"/>";
}
std::string disc(double x, double y, double radius, const char* colour) {
    return "<circle cx=\"" + number(x) + "\" cy=\"" + number(y) + "\" r=\"" + number(radius) + "\" fill=\"" +
           colour + "\"/>";
}

/// Points in turn on two circles.
std::string star(int points, double outer, double inner) {
    std::string d;
    for (int i = 0; i < 2 * points; ++i)
        d += (i == 0 ? "M" : "L") + at(i % 2 == 0 ? outer : inner, 180.0 * i / points);
    return d + "Z";
}

std::string rays(int count, double from, double to, double spread) {
    std::string d;
    for (int i = 0; i < count; ++i) {
        const double a = 360.0 * i / count;
        d += "M" + at(from, a) + "L" + at(to, a - spread) + "L" + at(to, a + spread) + "Z";
    }
    return d;
}

std::string waves(double y, double height, int count) {
    std::string d = "M0 " + number(y);
    const double step = 512.0 / count;
    for (int i = 0; i < count; ++i)
        d += "Q" + number(step * (i + 0.25)) + " " + number(y - height) + " " + number(step * (i + 0.5)) +
             " " + number(y) + "T" + number(step * (i + 1)) + " " + number(y);
    return d;
}

struct Row {
    const char* title;
    std::vector<std::string> tags;
    std::string body;
};

std::vector<Row> rows() {
    const std::string gull = "M40 260C110 180 190 190 250 262C310 180 400 170 476 236C400 214 330 240 258 "
                             "318C190 246 120 232 40 260Z";
    return {
        {"Harbour star", {"star", "mark"}, filled(star(8, 236, 96), "#1e7a6c")},
        {"Salt star", {"star", "mark"}, filled(star(16, 240, 170), "#d9d3c6")},
        {"Lamp rays",
         {"rays", "light", "lamp"},
         filled(rays(24, 60, 250, 3.2), "#b9821b") + disc(256, 256, 48, "#b9821b")},
        {"Half beam",
         {"beam", "light"},
         filled("M60 256L500 96V416Z", "#f3d48a") + disc(70, 256, 40, "#f3d48a")},
        {"One gull", {"gull", "bird"}, filled(gull, "#22211f")},
        {"Gull in a ring",
         {"gull", "bird", "badge"},
         ring(240, "#22211f", 10) + "<g transform=\"translate(64 70) scale(.75)\">" +
             filled(gull, "#22211f") + "</g>"},
        {"Three waves",
         {"wave", "border"},
         lined(waves(180, 70, 4), "#1d3a4a", 16) + lined(waves(260, 70, 4), "#1d3a4a", 16) +
             lined(waves(340, 70, 4), "#1d3a4a", 16)},
        {"Wave rule", {"wave", "rule"}, lined(waves(256, 40, 12), "#c8452b", 8)},
        {"Compass card",
         {"compass", "chart"},
         ring(236, "#2b3f45", 6) + ring(206, "#2b3f45", 2) + filled(rays(4, 200, 60, 22), "#2b3f45") +
             filled(star(4, 190, 40), "#8f2f20")},
        {"Tide clock",
         {"tide", "clock"},
         ring(230, "#22211f", 12) + lined("M256 256L" + at(160, 40), "#c8452b", 12) +
             lined("M256 256L" + at(120, 270), "#22211f", 12) + disc(256, 256, 16, "#22211f")},
        {"Tower mark",
         {"lighthouse", "mark"},
         filled("M216 470L232 170H280L296 470ZM222 150H290V170H222ZM236 110H276V150H236ZM228 110L256 70L284 "
                "110Z",
                "#9c3325")},
        {"Tower, striped",
         {"lighthouse", "mark", "stripes"},
         filled("M216 470L232 170H280L296 470Z", "#f4f1ea") +
             filled("M230 210H282L285 260H227ZM224 320H288L291 370H221ZM219 420H293L296 470H216Z",
                    "#c8452b") +
             filled("M222 150H290V170H222ZM236 110H276V150H236ZM228 110L256 70L284 110Z", "#22211f")},
        {"Rope ring",
         {"rope", "frame"},
         [] {
             std::string out;
             for (int i = 0; i < 48; ++i)
                 out += lined("M" + at(204, 7.5 * i) + "L" + at(240, 7.5 * i + 9),
                              i % 2 == 0 ? "#b89a68" : "#8a7048", 18);
             return out;
         }()},
        {"Plain frame",
         {"frame", "border"},
         "<rect x=\"24\" y=\"24\" width=\"464\" height=\"464\" fill=\"none\" stroke=\"#22211f\" "
         "stroke-width=\"8\"/><rect x=\"42\" y=\"42\" width=\"428\" height=\"428\" fill=\"none\" "
         "stroke=\"#22211f\" stroke-width=\"2\"/>"},
        {"Ticket",
         {"label", "ticket"},
         filled("M40 140H472V220A36 36 0 0 0 472 292V372H40V292A36 36 0 0 0 40 220Z", "#e8d9b0")},
        {"Price burst", {"burst", "sticker"}, filled(star(24, 240, 205), "#c8452b")},
        {"Round sticker", {"sticker", "badge"}, disc(256, 256, 236, "#1e7a6c") + ring(206, "#f4f1ea", 6)},
        {"Waxing moon",
         {"moon", "night"},
         filled("M300 40A220 220 0 1 0 300 472A260 260 0 0 1 300 40Z", "#f3e4bd")},
        {"Full moon",
         {"moon", "night"},
         disc(256, 256, 220, "#f3e4bd") + disc(190, 200, 40, "#dccb9a") + disc(310, 300, 56, "#dccb9a") +
             disc(300, 170, 22, "#dccb9a")},
        {"Record",
         {"record", "music"},
         disc(256, 256, 240, "#1a1a1a") + ring(210, "#333333", 3) + ring(180, "#333333", 3) +
             ring(150, "#333333", 3) + disc(256, 256, 84, "#c8452b") + disc(256, 256, 9, "#f4f1ea")},
        {"Groove rings",
         {"record", "rings", "music"},
         [] {
             std::string out;
             for (int r = 60; r <= 240; r += 12) out += ring(r, "#22211f", 2.5);
             return out;
         }()},
        {"Signal flags",
         {"flag", "signal"},
         filled("M40 120H240V240H40Z", "#1d4a8a") + filled("M110 120H170V240H110Z", "#f4f1ea") +
             filled("M272 120H472V240H272Z", "#c8452b") + filled("M322 150H422V210H322Z", "#f4f1ea") +
             filled("M40 280H240V400H40Z", "#f0c838") +
             filled("M272 280H472L372 340L472 400H272Z", "#22211f")},
        {"Depth marks",
         {"scale", "ruler"},
         [] {
             std::string d;
             for (int i = 0; i <= 20; ++i)
                 d += "M" + std::string(i % 5 == 0 ? "140" : "200") + " " + number(56 + 20 * i) + "H300";
             return lined(d, "#22211f", 5);
         }()},
        {"Pointing hand rule",
         {"arrow", "rule"},
         filled("M30 236H380V180L482 256L380 332V276H30Z", "#22211f")},
    };
}

} // namespace

std::vector<StockPicture> stockElements() {
    std::vector<StockPicture> out;
    for (const Row& row : rows())
        out.push_back(stockPicture(
            {SourceKind::Element, row.title, row.tags}, 80 + int(out.size()), ".svg", [body = row.body] {
                const std::string svg = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"512\" "
                                        "height=\"512\" viewBox=\"0 0 512 512\">\n" +
                                        body + "\n</svg>\n";
                return std::vector<uint8_t>(svg.begin(), svg.end());
            }));
    return out;
}

} // namespace glyptos::demo
