#include "file/print/home_plan.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

Rect roundOf(const Sheet& sheet) {
    return sheet.withBleed.grown(kHomeMarks);
}

/// The flat, turned clockwise by a quarter if asked, with the corner of `area` at `at`.
Affine laid(const Rect& area, bool turned, Vec2 at) {
    const Affine turn = turned ? Affine::rotation(90) : Affine{};
    const Rect box = turn.mapBounds(area);
    return Affine::translation(at.x - box.x, at.y - box.y) * turn;
}

bool fits(const Rect& area, const Rect& room, bool turned) {
    const double w = turned ? area.h : area.w, h = turned ? area.w : area.h;
    return w <= room.w && h <= room.h;
}

/// Sheets in rows, from the top of a page to its foot.
class Packer {
  public:
    Packer(const Flat& flat, const HomePaper& paper)
        : flat_(flat)
        , room_(homeArea(paper)) {}

    /// One of many like it.
    void add(size_t sheet, bool many) {
        const Rect area = roundOf(flat_.sheets[sheet]);
        const bool turned = isTurned(area, many);
        const double w = turned ? area.h : area.w, h = turned ? area.w : area.h;
        if (pages_.empty()) begin();
        if (at_.x + w > room_.right() + kSlack) at_ = {room_.x, at_.y + high_}, high_ = 0;
        if (at_.y + h > room_.bottom() + kSlack) begin();
        pages_.back().placed.push_back({sheet, laid(area, turned, at_), {at_.x, at_.y, w, h}});
        at_.x += w;
        high_ = std::max(high_, h);
    }

    std::vector<HomePage> pages() { return std::move(pages_); }

  private:
    static constexpr double kSlack = 1e-6;

    /// As it stands, unless it does not fit so or fewer would.
    bool isTurned(const Rect& area, bool many) const {
        if (!many && fits(area, room_, false)) return false;
        const auto count = [&](double w, double h) {
            return std::floor((room_.w + kSlack) / w) * std::floor((room_.h + kSlack) / h);
        };
        return count(area.h, area.w) > count(area.w, area.h);
    }
    void begin() {
        pages_.emplace_back();
        at_ = {room_.x, room_.y};
        high_ = 0;
    }

    const Flat& flat_;
    const Rect room_;
    std::vector<HomePage> pages_;
    Vec2 at_;
    double high_ = 0; ///< of the row in hand
};

struct Grid {
    int columns = 1, rows = 1;
};

Grid gridFor(const Rect& area, const Rect& room, bool turned, double overlap) {
    const double w = turned ? area.h : area.w, h = turned ? area.w : area.h;
    const auto count = [&](double length, double side) {
        return std::max(1, int(std::ceil((length - overlap) / (side - overlap) - 1e-9)));
    };
    return {count(w, room.w), count(h, room.h)};
}

void addTiles(const Flat& flat, size_t sheet, const HomePaper& paper, std::vector<HomePage>& out) {
    const Rect area = roundOf(flat.sheets[sheet]), room = homeArea(paper);
    const Grid upright = gridFor(area, room, false, paper.overlap),
               across = gridFor(area, room, true, paper.overlap);
    const bool turned = across.columns * across.rows < upright.columns * upright.rows;
    const Grid grid = turned ? across : upright;
    for (int row = 0; row < grid.rows; ++row)
        for (int column = 0; column < grid.columns; ++column) {
            const Vec2 at{room.x - column * (room.w - paper.overlap),
                          room.y - row * (room.h - paper.overlap)};
            HomePage page;
            page.placed.push_back({sheet, laid(area, turned, at), room});
            page.tile = HomePage::Tile{row + 1, column + 1, grid.rows, grid.columns};
            out.push_back(std::move(page));
        }
}

std::optional<size_t> otherSideOf(const Flat& flat, size_t sheet) {
    for (size_t i = 0; i < flat.sheets.size(); ++i)
        if (flat.sheets[i].behind == sheet) return i;
    return std::nullopt;
}

/// What is seen from the back lies mirrored behind what is seen from the front.
Affine behindOf(const Sheet& front, const Sheet& back) {
    return Affine{-1, 0, 0, 1, front.trim.right() + back.trim.x, front.trim.y - back.trim.y};
}

HomePage backOf(const HomePage& front, const Flat& flat, const HomePaper& paper) {
    const Affine over = paper.duplex == Duplex::LongEdge ? Affine{-1, 0, 0, 1, paper.width, 0}
                                                         : Affine{1, 0, 0, -1, 0, paper.height};
    HomePage back;
    back.back = true;
    back.tile = front.tile;
    for (const HomePlaced& placed : front.placed)
        if (const auto other = otherSideOf(flat, placed.sheet))
            back.placed.push_back(
                {*other, over * placed.flatToPaper * behindOf(flat.sheets[placed.sheet], flat.sheets[*other]),
                 over.mapBounds(placed.clip)});
    return back;
}

} // namespace

Rect homeArea(const HomePaper& paper) {
    const double m = paper.margin;
    // Paper that is turned over must have the same room on both sides.
    const double head = paper.duplex == Duplex::ShortEdge ? kRulerBand : 0;
    return {m, m + head, paper.width - 2 * m, paper.height - 2 * m - kRulerBand - head};
}

std::vector<HomePage> planHome(const Flat& flat, const std::vector<size_t>& sheets, const HomePaper& paper) {
    const Rect room = homeArea(paper);
    Packer packer(flat, paper);
    std::vector<HomePage> tiles;
    for (const size_t sheet : sheets) {
        const Sheet& s = flat.sheets[sheet];
        const bool isBack = s.behind && std::find(sheets.begin(), sheets.end(), *s.behind) != sheets.end();
        if (isBack && paper.duplex != Duplex::None) continue; // comes with its front
        const Rect area = roundOf(s);
        for (int copy = 0; copy < paper.copies; ++copy)
            if (fits(area, room, false) || fits(area, room, true))
                packer.add(sheet, paper.copies > 1);
            else
                addTiles(flat, sheet, paper, tiles);
    }
    std::vector<HomePage> fronts = packer.pages();
    fronts.insert(fronts.end(), std::make_move_iterator(tiles.begin()), std::make_move_iterator(tiles.end()));
    if (paper.duplex == Duplex::None) return fronts;
    std::vector<HomePage> out;
    for (HomePage& front : fronts) {
        HomePage back = backOf(front, flat, paper);
        out.push_back(std::move(front));
        out.push_back(std::move(back));
    }
    return out;
}

} // namespace glyptos
