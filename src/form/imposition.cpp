#include "form/imposition.h"

#include <algorithm>

namespace glyptos {
namespace {

bool isOfSpreads(const Flat& flat) {
    const auto& pages = flat.panels;
    return flat.bound && pages.size() >= 4 && pages.size() % 4 == 0 &&
           pages.size() == 2 * flat.sheets.size() &&
           std::all_of(pages.begin(), pages.end(), [&](const Panel& p) {
               return p.width == pages[0].width && p.height == pages[0].height && p.turn == 0;
           });
}

/// The page takes the place that another has.
void put(Panel& page, const Panel& place) {
    page.onFlat = place.onFlat;
    page.sheet = place.sheet;
    page.bleeds = place.bleeds;
}

} // namespace

std::vector<size_t> readingOrder(const Flat& flat) {
    std::vector<size_t> pages;
    for (size_t sheet = 0; sheet < flat.sheets.size(); ++sheet) {
        std::vector<size_t> spread;
        for (size_t i = 0; i < flat.panels.size(); ++i)
            if (flat.panels[i].sheet == sheet) spread.push_back(i);
        std::sort(spread.begin(), spread.end(),
                  [&](size_t a, size_t b) { return flat.panels[a].onFlat.x < flat.panels[b].onFlat.x; });
        pages.insert(pages.end(), spread.begin(), spread.end());
    }
    // The cover's spread has the back on its left.
    const bool backFirst = pages.size() > 1 && pages.front() != flat.front;
    if (backFirst) std::rotate(pages.begin(), pages.begin() + 1, pages.end());
    return pages;
}

Result<Flat> inPrintersPairs(const Flat& flat) {
    if (!isOfSpreads(flat))
        return fail(Fault::Usage, "Printer's pairs are for booklets of four pages and more; nothing was "
                                  "written.");
    const std::vector<size_t> pages = readingOrder(flat); // page n at n - 1
    const size_t count = pages.size();
    Flat out = flat;
    for (size_t sheet = 0; sheet < count / 2; ++sheet) {
        // Outsides hold the later page on the left, insides the earlier one.
        const size_t early = sheet, late = count - 1 - sheet;
        const size_t left = sheet % 2 == 0 ? late : early, right = sheet % 2 == 0 ? early : late;
        // The places are those of the spread that stood on that sheet.
        const Panel& leftPlace = flat.panels[pages[(2 * sheet + count - 1) % count]];
        const Panel& rightPlace = flat.panels[pages[2 * sheet]];
        put(out.panels[pages[left]], leftPlace);
        put(out.panels[pages[right]], rightPlace);
        out.sheets[leftPlace.sheet].name =
            "Pages " + std::to_string(left + 1) + " and " + std::to_string(right + 1);
    }
    return out;
}

} // namespace glyptos
