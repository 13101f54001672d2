#include "cli/commands.h"
#include "cli/saying.h"

#include "cli/picture_io.h"
#include "file/data_folder.h"
#include "type/faces/face_facts.h"
#include "type/faces/find_face.h"

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

/// Lightness of a box of a picture as it lies on white paper.
FaceSample sampleOf(const Picture& picture, const Rect& box) {
    const IntRect px = pixelsAround(box);
    FaceSample out;
    if (px.empty()) return out;
    out.width = px.w, out.height = px.h;
    const auto read = [&](const auto& pixels, float full) {
        for (int y = px.y; y < px.y + px.h; ++y)
            for (int x = px.x; x < px.x + px.w; ++x) {
                const auto* p = pixels.data() + (size_t(y) * size_t(picture.width) + size_t(x)) * 4;
                const float light =
                    0.2126F * float(p[0]) + 0.7152F * float(p[1]) + 0.0722F * float(p[2]); // Rec. 709
                const float alpha = float(p[3]) / full;
                out.lightness.push_back(light / full * alpha + 1 - alpha);
            }
    };
    picture.is16() ? read(std::get<1>(picture.pixels), 65535.0F) : read(std::get<0>(picture.pixels), 255.0F);
    return out;
}

} // namespace

Result<Outcome> listFaces(const FacesOptions& options) {
    const auto sorts = sortsOf(options.sorts);
    if (!sorts) return tl::unexpected(sorts.error());
    const FontLibrary fonts(dataFolder() / "fonts");
    std::vector<Listed> found;
    const std::vector<FamilyInfo> families = fonts.families();
    for (const FamilyInfo& family : families) {
        const FacePtr face = fonts.face(family.name, "Regular");
        if (!face || !hasAll(*face, options.has)) continue;
        Listed one{&family, factsOf(face)};
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

Result<Outcome> findFace(const FindFaceOptions& options) {
    const auto picture = readPicture(options.picture);
    if (!picture) return tl::unexpected(picture.error());
    const auto& [x, y, width, height] = options.box;
    const Rect all{0, 0, double(picture->width), double(picture->height)};
    const Rect box = width > 0 && height > 0 ? Rect{x, y, width, height}.intersected(all) : all;
    const FaceSample sample = sampleOf(*picture, box);
    if (sample.lightness.empty())
        return fail(Fault::Usage, "The box lies outside of “" + options.picture + "”.");
    const FontLibrary fonts(dataFolder() / "fonts");
    const std::vector<FaceMatch> matches = findFaces(sample, options.words, fonts);
    if (options.json) {
        Json list = Json::list();
        for (const FaceMatch& m : matches)
            list.push_back({{"family", m.family}, {"style", m.style}, {"score", m.score}});
        print(list);
    } else
        for (const FaceMatch& m : matches)
            std::cout << m.family << " " << m.style << ": " << std::fixed << std::setprecision(3) << m.score
                      << '\n';
    if (!matches.empty()) return Outcome::Fine;
    warn("There are no such words in the picture, or no face has all their letters.");
    return Outcome::Findings;
}

} // namespace glyptos::cli
