#include "cli/commands.h"
#include "cli/saying.h"

#include "file/data_folder.h"
#include "type/face_facts.h"

#include <iomanip>
#include <iostream>

namespace glyptos::cli {
namespace {

struct Listed {
    const FamilyInfo* family;
    std::optional<FaceFacts> facts; ///< of its regular style; nothing without Latin capitals
};

Json toJson(const Listed& one) {
    Json out{{"family", one.family->name}, {"shipped", one.family->shipped}, {"styles", one.family->styles}};
    if (!one.facts) return out;
    const FaceFacts& f = *one.facts;
    Json sorts = Json::list();
    for (const FaceSort sort : f.sorts) sorts.push_back(std::string(wordFor(sort)));
    out["looks"] = std::move(sorts);
    out.update({{"capHeight", f.capHeight},
                {"xHeight", f.xHeight},
                {"stem", f.stem},
                {"contrast", f.contrast},
                {"width", f.width},
                {"slant", f.slant},
                {"bar", f.bar},
                {"feet", f.feet},
                {"feetHeight", f.feetHeight},
                {"joins", f.joins},
                {"unevenness", f.unevenness},
                {"corners", f.corners},
                {"smallLetters", f.hasSmallLetters}});
    return out;
}

void say(const Listed& one) {
    const FamilyInfo& family = *one.family;
    std::cout << family.name << (family.shipped ? " (shipped)" : "") << ": " << family.styles.size()
              << (family.styles.size() == 1 ? " style" : " styles");
    if (one.facts) {
        const FaceFacts& f = *one.facts;
        for (const FaceSort sort : f.sorts) std::cout << ", " << wordFor(sort);
        std::cout << std::fixed << std::setprecision(2) << "; capitals " << f.capHeight << " em, x "
                  << f.xHeight << " em, stems " << f.stem << ", contrast " << f.contrast << ", width "
                  << f.width;
    }
    std::cout << '\n';
}

tl::unexpected<Error> notASort(const std::string& word) {
    std::string known;
    for (const std::string_view one : sortWords()) known.append(known.empty() ? "" : ", ").append(one);
    return fail(Fault::Usage, "Faces are not told apart by “" + word + "”, but by " + known + ".");
}

Result<std::vector<FaceSort>> sortsOf(const std::vector<std::string>& words) {
    std::vector<FaceSort> out;
    for (const std::string& word : words) {
        const auto sort = sortNamed(word);
        if (!sort) return notASort(word);
        out.push_back(*sort);
    }
    return out;
}

} // namespace

Result<Outcome> listFaces(const FacesOptions& options) {
    const auto sorts = sortsOf(options.sorts);
    if (!sorts) return tl::unexpected(sorts.error());
    const FontLibrary fonts(dataFolder() / "fonts");
    std::vector<Listed> found;
    for (const FamilyInfo& family : fonts.families()) {
        const FacePtr face = fonts.face(family.name, "Regular");
        if (!face || !hasAll(*face, options.has)) continue;
        Listed one{&family, factsOf(face, fonts)};
        if (std::all_of(sorts->begin(), sorts->end(),
                        [&](FaceSort sort) { return one.facts && one.facts->is(sort); }))
            found.push_back(std::move(one));
    }
    if (options.json) {
        Json list = Json::list();
        for (const Listed& one : found) list.push_back(toJson(one));
        print(list);
    } else
        for (const Listed& one : found) say(one);
    if (!found.empty()) return Outcome::Fine;
    warn("There is no such face among those shipped and installed.");
    return Outcome::Findings;
}

} // namespace glyptos::cli
