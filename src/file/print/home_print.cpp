#include "file/print/home_print.h"

#include "base/text.h"
#include "file/print/page_content.h"
#include "file/print/pdf_parts.h"
#include "file/print/pdf_x.h"

#include <map>

namespace glyptos {
namespace {

constexpr double kRuler = 100;                  // mm
constexpr double kCropGap = 1, kCropLength = 3; // mm
constexpr double kTextMm = 2.6;                 // em

std::string line(const Affine& map, Vec2 from, Vec2 to) {
    const Vec2 a = map.map(from), b = map.map(to);
    return pdfNumber(a.x) + " " + pdfNumber(a.y) + " m " + pdfNumber(b.x) + " " + pdfNumber(b.y) + " l S\n";
}

/// From mm on the paper, y down, to points, y up.
Affine toPage(const HomePaper& paper) {
    const double k = kPtPerInch / kMmPerInch;
    return {k, 0, 0, -k, 0, paper.height * k};
}

std::string clipTo(const Rect& points) {
    return pdfNumber(points.x) + " " + pdfNumber(points.y) + " " + pdfNumber(points.w) + " " +
           pdfNumber(points.h) + " re W n\n";
}

std::string cropMarks(const Sheet& sheet, const Affine& map) {
    const Rect trim = sheet.trim, bleed = sheet.withBleed;
    std::string out;
    for (const double x : {trim.x, trim.right()}) {
        out += line(map, {x, bleed.y - kCropGap - kCropLength}, {x, bleed.y - kCropGap});
        out += line(map, {x, bleed.bottom() + kCropGap}, {x, bleed.bottom() + kCropGap + kCropLength});
    }
    for (const double y : {trim.y, trim.bottom()}) {
        out += line(map, {bleed.x - kCropGap - kCropLength, y}, {bleed.x - kCropGap, y});
        out += line(map, {bleed.right() + kCropGap, y}, {bleed.right() + kCropGap + kCropLength, y});
    }
    return out;
}

class HomeFile {
  public:
    HomeFile(Renderer& renderer, const PrintOrder& order, const HomeOptions& options)
        : renderer_(renderer)
        , order_(order)
        , options_(options)
        , flat_(*order.piece->flat)
        , resolution_{options.ppi > 0 ? options.ppi : order.piece->flat->ppi} {
        pdf_.emptyPDF();
    }

    void add(const HomePage& page) {
        QPDFObjectHandle pictures = QPDFObjectHandle::newDictionary();
        std::string content;
        for (const HomePlaced& placed : page.placed) {
            const std::string name = "/Sheet" + std::to_string(placed.sheet);
            pictures.replaceKey(name, pictureOf(placed.sheet).object);
            content += drawn(placed, name);
        }
        content += "0.25 w 0 G 0 g\n";
        if (!page.back) content += ruler();
        if (page.tile) content += tileMarks(*page.tile, page.back);
        addPage(pictures, content);
    }

    Result<size_t> write(const std::filesystem::path& file) {
        return writePdf(pdf_, "1.4", file, options_.cancel);
    }

  private:
    struct Picture {
        QPDFObjectHandle object;
        IntRect area;
    };

    /// Each sheet is rendered once, however many pages show it.
    const Picture& pictureOf(size_t sheet) {
        const auto found = pictures_.find(sheet);
        if (found != pictures_.end()) return found->second;
        const Scene scene =
            flatScene(order_.release, order_.piece->id, {pxPerMm(resolution_), true, {}, {}, true, sheet});
        const IntRect area = scene.bounds();
        const Buffer<uint8_t> rgb = renderer_.renderRgb8OnWhite(scene, area, options_.cancel);
        const auto object = pdfPicture(pdf_, {rgb.data(), rgb.size()}, area,
                                       QPDFObjectHandle::newName("/DeviceRGB"), options_.cancel);
        return pictures_.emplace(sheet, Picture{object, area}).first->second;
    }

    std::string drawn(const HomePlaced& placed, const std::string& name) {
        const double mmPerPx = 1 / pxPerMm(resolution_);
        const IntRect& area = pictureOf(placed.sheet).area;
        // A picture fills the unit square upwards.
        const Affine unit{area.w * mmPerPx,           0, 0, -area.h * mmPerPx, area.x * mmPerPx,
                          (area.y + area.h) * mmPerPx};
        const Affine toPaper = toPage(options_.paper) * placed.flatToPaper, m = toPaper * unit;
        std::string out = "q " + clipTo(toPage(options_.paper).mapBounds(placed.clip)) + "q ";
        for (const double v : {m.a, m.b, m.c, m.d, m.e, m.f}) out += pdfNumber(v) + " ";
        out += "cm " + name + " Do Q 0.25 w 0 G\n" + cropMarks(flat_.sheets[placed.sheet], toPaper);
        return out + "Q\n";
    }

    /// A line whose length is known, and what to do when it measures otherwise.
    std::string ruler() {
        const Affine map = toPage(options_.paper);
        const double y = options_.paper.height - options_.paper.margin - kRulerBand + 3,
                     x = options_.paper.margin;
        std::string out = line(map, {x, y}, {x + kRuler, y});
        for (int i = 0; i <= 10; ++i) {
            const double at = x + kRuler * i / 10;
            out += line(map, {at, y - (i % 5 == 0 ? 1.6 : 0.8)}, {at, y});
        }
        return out + words("100 mm. If this line measures otherwise, print again at 100 %, not fitted to the "
                           "page.",
                           {x, y + 1.2});
    }

    std::string tileMarks(const HomePage::Tile& tile, bool back) {
        const Affine map = toPage(options_.paper);
        const Rect room = homeArea(options_.paper);
        const double overlap = options_.paper.overlap;
        std::string out = "q [2 2] 0 d\n";
        if (tile.column < tile.columns) {
            const double x = back ? options_.paper.width - room.right() + overlap : room.right() - overlap;
            out += line(map, {x, room.y}, {x, room.bottom()});
        }
        if (tile.row < tile.rows)
            out += line(map, {room.x, room.bottom() - overlap}, {room.right(), room.bottom() - overlap});
        out += "Q\n";
        const std::string said = "row " + std::to_string(tile.row) + " of " + std::to_string(tile.rows) +
                                 ", column " + std::to_string(tile.column) + " of " +
                                 std::to_string(tile.columns) + (back ? ", back" : "");
        return out + words(said, {room.x + kRuler + 8,
                                  options_.paper.height - options_.paper.margin - kRulerBand + 1});
    }

    std::string words(const std::string& text, Vec2 at) {
        TextSpec spec;
        spec.text = text;
        spec.letters.size = kTextMm;
        const auto set = renderer_.paragraphs().get(spec);
        return pathOperators(set->outline, toPage(options_.paper) * Affine::translation(at.x, at.y)) + "f\n";
    }

    void addPage(const QPDFObjectHandle& pictures, const std::string& content) {
        QPDFObjectHandle page = QPDFObjectHandle::parse("<< /Type /Page /Resources << >> >>");
        page.getKey("/Resources").replaceKey("/XObject", pictures);
        page.replaceKey(
            "/MediaBox",
            pdfBox(toPage(options_.paper).mapBounds({0, 0, options_.paper.width, options_.paper.height})));
        page.replaceKey("/Contents", pdf_.makeIndirectObject(QPDFObjectHandle::newStream(&pdf_, content)));
        pdf_.addPage(pdf_.makeIndirectObject(page), false);
    }

    Renderer& renderer_;
    const PrintOrder& order_;
    const HomeOptions& options_;
    const Flat& flat_;
    Ppi resolution_;
    QPDF pdf_;
    std::map<size_t, Picture> pictures_;
};

} // namespace

Result<HomeReport> writeHomePrint(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                                  const HomeOptions& options, const std::filesystem::path& file) {
    PrintOptions asked;
    asked.sheets = options.sheets;
    const auto order = printOrder(release, piece, asked);
    if (!order) return tl::unexpected(order.error());
    const Rect room = homeArea(options.paper);
    if (!(options.paper.overlap >= 0) || options.paper.overlap * 2 > std::min(room.w, room.h))
        return fail(Fault::Usage, "An overlap of " + shortNumber(options.paper.overlap) +
                                      " mm leaves no room on the paper; nothing was written.");
    HomeReport report;
    try {
        HomeFile made(renderer, *order, options);
        for (const HomePage& page : planHome(*order->piece->flat, order->sheets, options.paper)) {
            made.add(page);
            ++report.pages;
            report.tiles += page.tile.has_value();
            if (isCancelled(options.cancel)) return cancelled();
        }
        const auto bytes = made.write(file);
        if (!bytes) return tl::unexpected(bytes.error());
        report.bytes = *bytes;
    } catch (const std::exception& e) {
        return fail(Fault::Unwritable, "The pages of " + order->piece->name + " could not be made (" +
                                           e.what() + "); nothing was written.");
    }
    return report;
}

} // namespace glyptos
