#include "type/paragraph.h"

#include "base/text.h"
#include "type/line_shaper.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kColumnGapEm = 1.0;

struct Cell {
    ShapedLine shaped;
    bool figures = false;
};
using Row = std::vector<Cell>;

bool isFigures(std::string_view text) {
    return text.find_first_not_of("0123456789:.,") == text.npos;
}

/// `line` broken between words so that no part is wider than `measureEm`, unless a single word is. It is
/// shaped once, however long it is.
std::vector<std::string> broken(const std::string& line, double measureEm, LineShaper& shaper) {
    if (measureEm <= 0 || line.find('\t') != line.npos) return {line};
    const std::u32string points = decodeUtf8(line);
    const std::vector<double> before = shaper.advancesOf(points);
    std::vector<std::string> lines;
    const auto keep = [&](size_t from, size_t to) {
        lines.push_back(encodeUtf8(std::u32string_view(points).substr(from, to - from)));
    };
    size_t start = 0; // of the line that is begun, which has no spaces in front,
    const auto skipSpaces = [&] {
        while (start < points.size() && points[start] == U' ') ++start;
    };
    skipSpaces();
    size_t good = start; // and the end of the words that it has
    for (size_t at = start; at <= points.size(); ++at) {
        if (at < points.size() && points[at] != U' ') continue;
        // The tracking behind its last letter does not count.
        if (good > start && before[at] - before[start] - shaper.tracking() > measureEm) {
            keep(start, good);
            start = good;
            skipSpaces();
        }
        good = std::max(at, start);
    }
    keep(start, points.size());
    return lines;
}

/// Widths of the columns that the rows with more than one cell share.
std::vector<double> columnWidths(const std::vector<Row>& rows) {
    std::vector<double> widths;
    for (const Row& row : rows) {
        if (row.size() < 2) continue;
        widths.resize(std::max(widths.size(), row.size()));
        for (size_t i = 0; i < row.size(); ++i) widths[i] = std::max(widths[i], row[i].shaped.advance);
    }
    return widths;
}

std::vector<bool> figureColumns(const std::vector<Row>& rows, size_t columns) {
    std::vector<bool> figures(columns, true);
    for (const Row& row : rows)
        for (size_t i = 0; row.size() > 1 && i < row.size(); ++i) figures[i] = figures[i] && row[i].figures;
    return figures;
}

} // namespace

Paragraph setParagraph(const TextSpec& spec, const FontLibrary& fonts) {
    Paragraph out;
    const FacePtr face = fonts.face(spec.family, spec.style);
    if (!face) {
        out.box = {0, 0, spec.size, spec.size};
        return out;
    }
    out.usedFamily = face->family();
    out.usedStyle = face->style();
    LineShaper shaper(face, fonts, spec.tracking / 1000);

    std::vector<Row> rows;
    for (const std::string& line : split(spec.text, '\n'))
        for (const std::string& part : broken(line, spec.measure / spec.size, shaper)) {
            Row row;
            for (const std::string& cell : split(part, '\t'))
                row.push_back({shaper.shape(cell), isFigures(cell)});
            rows.push_back(std::move(row));
        }

    const std::vector<double> widths = columnWidths(rows);
    const std::vector<bool> figures = figureColumns(rows, widths.size());
    double tableWidth = -kColumnGapEm;
    for (const double w : widths) tableWidth += w + kColumnGapEm;

    const double share = spec.align == Align::Left ? 0 : spec.align == Align::Centre ? 0.5 : 1;
    double left = 0, right = 0;
    for (size_t r = 0; r < rows.size(); ++r) {
        const Row& row = rows[r];
        const bool table = row.size() > 1;
        const double width = table ? tableWidth : row[0].shaped.advance;
        const double baseline = face->ascentEm() + double(r) * spec.leading;
        double x = -share * width;
        left = std::min(left, x), right = std::max(right, x + width);
        for (size_t i = 0; i < row.size(); ++i) {
            const double inset = table && figures[i] ? widths[i] - row[i].shaped.advance : 0;
            out.outline.append(row[i].shaped.outline, Affine::scaling(spec.size, spec.size) *
                                                          Affine::translation(x + inset, baseline));
            if (table) x += widths[i] + kColumnGapEm;
        }
        out.baselines.push_back(baseline * spec.size);
    }
    const double height = face->ascentEm() + double(rows.size() - 1) * spec.leading + face->descentEm();
    out.ascent = face->ascentEm() * spec.size;
    out.box = {left * spec.size, 0, std::max(right - left, 0.1) * spec.size, height * spec.size};
    out.ink = out.outline.bounds();
    out.stoodIn.assign(shaper.stoodIn().begin(), shaper.stoodIn().end());
    out.unprintable.assign(shaper.unprintable().begin(), shaper.unprintable().end());
    return out;
}

} // namespace glyptos
