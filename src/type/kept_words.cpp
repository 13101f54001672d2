#include "type/kept_words.h"

#include <algorithm>

namespace glyptos {

std::vector<FaceName> facesAskedFor(const TextSpec& spec) {
    std::vector<FaceName> out{{spec.letters.family, spec.letters.style}};
    for (const TextRun& run : spec.runs) {
        FaceName face(run.letters.family, run.letters.style);
        if (std::find(out.begin(), out.end(), face) == out.end()) out.push_back(std::move(face));
    }
    return out;
}

std::vector<FaceName> facesFor(const TextSpec& spec, const FontLibrary& fonts) {
    std::vector<FaceName> out = facesAskedFor(spec);
    for (FaceName& name : out) {
        const FacePtr face = fonts.face(name.first, name.second);
        name = face ? FaceName(face->family(), face->style()) : FaceName();
    }
    return out;
}

const KeptWords* findKept(const KeptWordsList& list, const TextSpec& spec) {
    if (!list) return nullptr;
    const auto found =
        std::find_if(list->begin(), list->end(), [&](const KeptWords& words) { return words.spec == spec; });
    return found == list->end() ? nullptr : &*found;
}

} // namespace glyptos
