// Lists of treatments, and the fonts that they are drawn with.
#pragma once

#include "release/release.h"
#include "type/font_library.h"

namespace glyptos::test {

inline Treatments
listOf(std::initializer_list<std::pair<const char*, std::vector<std::pair<const char*, FigureValue>>>> all) {
    Treatments out;
    for (const auto& [id, figures] : all) {
        Treatment t = newTreatment(*treatmentKind(id), unitsPerMm(true));
        for (const auto& [figure, value] : figures) t.figures.set(t.kind->find(figure), value);
        out.push_back(std::move(t));
    }
    return out;
}

inline const FontLibrary& fonts() {
    static const FontLibrary all(std::filesystem::path(SOURCE_FOLDER) / "data" / "fonts", true);
    return all;
}

} // namespace glyptos::test
