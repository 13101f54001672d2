#include "type/lines/table_layout.h"

#include "base/text.h"
#include "type/lines/leader.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// Bytes `from` up to `to` of a text as a text of their own.
struct Part {
    TextSpec spec;
    std::vector<size_t> styles; ///< for each style of it that of the whole
};

Part partOf(const TextSpec& whole, size_t from, size_t to) {
    Part out{{}, {0}};
    TextSpec& spec = out.spec;
    spec.text = whole.text.substr(from, to - from);
    spec.letters = whole.letters, spec.leading = whole.leading, spec.hyphenate = whole.hyphenate;
    spec.breakAtSpaces = whole.breakAtSpaces;
    const auto first = std::lower_bound(whole.runs.begin(), whole.runs.end(), from,
                                        [](const TextRun& run, size_t byte) { return run.to <= byte; });
    for (auto run = first; run != whole.runs.end() && run->from < to; ++run) {
        spec.runs.push_back({std::max(run->from, from) - from, std::min(run->to, to) - from, run->letters});
        out.styles.push_back(size_t(run - whole.runs.begin()) + 1);
    }
    for (auto kern = firstMark(whole.kerns, from); kern != whole.kerns.end() && kern->at < to; ++kern)
        spec.kerns.push_back({kern->at - from, kern->em});
    return out;
}

/// Hard lines, those together that only a line begun in a cell parts.
std::vector<HardLine> rowLines(const std::string& text) {
    std::vector<HardLine> out;
    for (const HardLine& line : hardLines(text)) {
        if (!out.empty() && text[out.back().to] == '\v')
            out.back().to = line.to;
        else
            out.push_back(line);
    }
    return out;
}

double shareOf(Align align) {
    return align == Align::Centre ? 0.5 : align == Align::Right ? 1 : 0;
}

struct Cell {
    size_t from = 0, to = 0;     ///< bytes
    std::vector<LaidLine> lines; ///< to the sides of the place that its column gives it
    double width = 0;
};

struct Row {
    size_t from = 0;
    bool isHeading = false;
    std::vector<Cell> cells;
    int64_t height = 1; ///< steps of the grid
};

class TableMaker {
  public:
    TableMaker(const TextSpec& spec, const InTable& table, const FontLibrary& fonts)
        : spec_(spec)
        , table_(table)
        , fonts_(fonts)
        , grid_(table.grid > 0 ? table.grid : std::max(spec.leading * spec.letters.size, 1e-6))
        , strips_(std::max(table.strips, 1))
        , strip_(std::max((table.width - table.gutter * (strips_ - 1)) / strips_, spec.letters.size)) {}

    Layout lay() {
        readRows();
        layWide();
        layNarrow();
        for (Row& row : rows_) row.height = heightOf(row);
        fillStrips();
        out_.shown = std::min(shown_, spec_.text.size());
        return std::move(out_);
    }

  private:
    bool hasColumns() const { return spec_.align == Align::Left || spec_.align == Align::Justified; }
    TableColumn column(size_t i) const {
        if (!hasColumns()) return {spec_.align, true};
        return i < table_.columns.size() ? table_.columns[i] : TableColumn();
    }

    void readRows() {
        for (const HardLine& hard : rowLines(spec_.text)) {
            const std::string text = spec_.text.substr(hard.from, hard.to - hard.from);
            Row row;
            row.from = hard.from, row.isHeading = text.find('\t') == text.npos;
            size_t at = hard.from;
            if (row.isHeading || !hasColumns())
                row.cells.push_back({hard.from, hard.to, {}, 0});
            else
                for (const std::string& cell : split(text, '\t')) {
                    row.cells.push_back({at, at + cell.size(), {}, 0});
                    at += cell.size() + 1;
                }
            rows_.push_back(std::move(row));
        }
    }

    void layCell(Cell& cell, const TextFrame& frame, Align align) {
        Part part = partOf(spec_, cell.from, cell.to);
        part.spec.frame = frame, part.spec.align = align, part.spec.balance = true;
        takeTabs(part.spec);
        Layout laid = layLines(part.spec, fonts_);
        for (LaidLine& line : laid.lines) {
            line.from += cell.from, line.to += cell.from;
            for (LineGlyph& g : line.glyphs) {
                g.from += cell.from, g.to += cell.from;
                g.glyph.style = part.styles[g.glyph.style];
            }
            cell.width = std::max(cell.width, line.width);
        }
        cell.lines = std::move(laid.lines);
        takeFaces(out_, laid);
    }

    /// Without columns cells follow each other, with some air between them.
    static void takeTabs(TextSpec& spec) {
        constexpr double kAirEm = 0.6;
        std::vector<HandKern> kerns;
        for (size_t i = spec.text.find('\t'); i != spec.text.npos; i = spec.text.find('\t', i)) {
            spec.text[i] = ' ';
            if (i + 1 < spec.text.size()) kerns.push_back({i + 1, kAirEm});
        }
        const auto middle = spec.kerns.insert(spec.kerns.end(), kerns.begin(), kerns.end());
        std::inplace_merge(spec.kerns.begin(), middle, spec.kerns.end(),
                           [](const HandKern& a, const HandKern& b) { return a.at < b.at; });
    }

    /// What takes the width that it needs.
    void layWide() {
        for (Row& row : rows_)
            for (size_t i = 0; i < row.cells.size(); ++i) {
                if (row.isHeading || column(i).breaks) continue;
                layCell(row.cells[i], AtPoint{}, column(i).align);
                widths_.resize(std::max(widths_.size(), i + 1));
                widths_[i] = std::max(widths_[i], row.cells[i].width);
            }
    }

    /// What has to do with the width that is left: columns that break, and headings.
    void layNarrow() {
        size_t columns = hasColumns() ? table_.columns.size() : 1, breaking = 0;
        columns = std::max(columns, widths_.size());
        widths_.resize(columns);
        double left = strip_;
        for (size_t i = 0; i < columns; ++i) {
            if (column(i).breaks) ++breaking;
            if (i == 0 && table_.hangs && hasColumns()) continue;
            left -= widths_[i] + (i + 1 < columns ? table_.gap : 0);
        }
        for (size_t i = 0; i < columns; ++i)
            if (column(i).breaks) widths_[i] = std::max(left / double(breaking), spec_.letters.size);
        for (Row& row : rows_)
            for (size_t i = 0; i < row.cells.size(); ++i) {
                if (row.isHeading)
                    layCell(row.cells[i], InArea{strip_, 0}, hasColumns() ? Align::Left : spec_.align);
                else if (column(i).breaks)
                    layCell(row.cells[i], InArea{widths_[i], 0}, column(i).align);
            }
    }

    /// Steps of the grid that a line takes; a third of one may stick out.
    int64_t stepsOf(const LaidLine& line) const {
        constexpr double kMayStickOut = 1.0 / 3, kMost = 1000;
        return int64_t(std::clamp(std::ceil((line.above + line.below) / grid_ - kMayStickOut), 1.0, kMost));
    }
    int64_t heightOf(const Row& row) const {
        int64_t out = 1;
        for (const Cell& cell : row.cells) {
            int64_t steps = 0;
            for (const LaidLine& line : cell.lines) steps += stepsOf(line);
            out = std::max(out, steps);
        }
        return out;
    }

    /// Rows that stay together: `last` is one behind them.
    struct Block {
        size_t first, last;
        int64_t height, air;
    };
    std::vector<Block> blocks() const {
        std::vector<Block> out;
        for (size_t i = 0; i < rows_.size(); ++i) {
            Block block{i, i, 0, rows_[i].isHeading ? 1 : 0};
            while (block.last < rows_.size()) {
                const Row& row = rows_[block.last++];
                block.height += row.height;
                if (!row.isHeading) break;
            }
            i = block.last - 1;
            out.push_back(block);
        }
        return out;
    }

    /// How many strips of so many steps the blocks take, each of which has room in one.
    static int stripsFor(const std::vector<Block>& blocks, int64_t steps) {
        int strips = 1;
        int64_t at = 0;
        for (const Block& block : blocks) {
            const int64_t air = at > 0 ? block.air : 0;
            if (at > 0 && at + air + block.height > steps)
                ++strips, at = block.height;
            else
                at += air + block.height;
        }
        return strips;
    }

    /// The fewest steps at which all blocks have room.
    int64_t stepsFor(const std::vector<Block>& blocks) const {
        int64_t low = 1, high = 1;
        for (const Block& block : blocks) low = std::max(low, block.height), high += block.height + block.air;
        while (low < high) {
            const int64_t middle = low + (high - low) / 2;
            stripsFor(blocks, middle) <= strips_ ? high = middle : low = middle + 1;
        }
        return low;
    }

    void fillStrips() {
        const std::vector<Block> all = blocks();
        int64_t steps = stepsFor(all);
        if (table_.height > 0 && table_.height / grid_ < double(steps))
            steps = std::max<int64_t>(int64_t(table_.height / grid_ + 1e-9), 1);
        first_ = firstBaseline();
        int64_t at = 0;
        int strip = 0;
        for (const Block& block : all) {
            const auto end = [&] { return at + (at > 0 ? block.air : 0) + block.height; };
            if (end() > steps && at > 0 && strip + 1 < strips_) ++strip, at = 0;
            if (end() > steps) { // higher than the table may be
                shown_ = rows_[block.first].from;
                return;
            }
            at = end() - block.height;
            for (size_t i = block.first; i < block.last; ++i) {
                placeRow(rows_[i], at, strip);
                at += rows_[i].height;
            }
        }
    }

    /// As the letters of the text have it, so that tables side by side share it; larger where they begin with
    /// larger letters.
    double firstBaseline() const {
        const FacePtr face = fonts_.face(spec_.letters.family, spec_.letters.style, spec_.letters.axes);
        double out = (face ? face->ascentEm() : 1) * spec_.letters.size;
        if (rows_.empty()) return out;
        for (const Cell& cell : rows_.front().cells)
            if (!cell.lines.empty()) {
                const LaidLine& line = cell.lines.front();
                out = std::max(out, line.above - double(stepsOf(line) - 1) * grid_);
            }
        return out;
    }

    void placeRow(Row& row, int64_t step, int strip) {
        double left = strip * (strip_ + table_.gutter);
        if (table_.hangs && hasColumns() && !row.isHeading && !widths_.empty())
            left -= widths_[0] + table_.gap;
        for (size_t i = 0; i < row.cells.size(); ++i) {
            const double width = row.isHeading ? strip_ : widths_[i];
            const Align align = row.isHeading && hasColumns() ? Align::Left : column(i).align;
            const bool isLed = !table_.leader.empty() && !column(i).breaks && i > 0 && column(i - 1).breaks;
            placeCell(row.cells[i], left + shareOf(align) * width,
                      isLed ? ledStep(row.cells[i - 1], step) : step);
            if (isLed) lead(row.cells[i - 1], row.cells[i]);
            left += width + table_.gap;
        }
        for (Cell& cell : row.cells)
            std::move(cell.lines.begin(), cell.lines.end(), std::back_inserter(out_.lines));
    }

    /// The line from which leaders go: the last before a line is begun by hand.
    size_t ledLine(const Cell& cell) const {
        const size_t end = std::min(spec_.text.find('\v', cell.from), cell.to);
        size_t out = 0;
        while (out + 1 < cell.lines.size() && cell.lines[out + 1].from <= end) ++out;
        return out;
    }

    int64_t ledStep(const Cell& cell, int64_t step) const {
        for (size_t i = 0; i < ledLine(cell); ++i) step += stepsOf(cell.lines[i]);
        return step;
    }

    void placeCell(Cell& cell, double left, int64_t step) const {
        for (LaidLine& line : cell.lines) {
            step += stepsOf(line);
            line.baseline = first_ + double(step - 1) * grid_;
            line.left += left;
        }
    }

    void lead(Cell& from, const Cell& to) {
        if (from.lines.empty() || to.lines.empty() || to.lines.front().glyphs.empty()) return;
        LaidLine& line = from.lines[ledLine(from)];
        addLeader(line, leaders_.of(table_.leader, out_), line.width, to.lines.front().left - line.left,
                  line.to);
    }

    const TextSpec& spec_;
    const InTable& table_;
    const FontLibrary& fonts_;
    Leaders leaders_{spec_.letters, fonts_};
    double grid_;
    int strips_;
    double strip_; ///< width of one
    double first_ = 0;
    std::vector<Row> rows_;
    std::vector<double> widths_; ///< of columns
    size_t shown_ = std::string::npos;
    Layout out_;
};

} // namespace

Layout layTable(const TextSpec& spec, const InTable& table, const FontLibrary& fonts) {
    return TableMaker(spec, table, fonts).lay();
}

} // namespace glyptos
