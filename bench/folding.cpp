#include "folding.h"

#include "file/pictures/picture_store.h"
#include "file/project.h"
#include "release/edits/edits.h"
#include "release/edits/refit.h"
#include "scene/draw/rasterize.h"
#include "scene/fold/folded_facets.h"
#include "scene/pack/assembled.h"

#include <cstdio>
#include <cstdlib>

namespace glyptos::bench {
namespace {

constexpr int kWidth = 800, kHeight = 600, kPictures = 120;

/// Pictures of a piece that is folded and turned at once, each anew: the 95th percentile.
double seen(Renderer& renderer, const ReleasePtr& release, const Piece& piece) {
    const Folding folding(*piece.flat);
    const Rect flat = piece.flat->trim();
    const BoardPictures pictures =
        boardPictures(renderer, release, piece.id, folding, 1.5 * kWidth / std::max(flat.w, flat.h));
    std::vector<double> times;
    for (int i = 0; i < kPictures; ++i)
        times.push_back(milliseconds([&] {
            const double at = double(i) / kPictures;
            const FoldShares shares = folding.sharesAt(at);
            const auto facets = foldedFacets(*piece.flat, folding, shares, pictures);
            const Pose turn = turnedAbout({}, {1, 0, 0}, -25) * turnedAbout({}, {0, 1, 0}, 20 + 3.0 * i);
            drawFacets(facets, eyeFor(folding, shares, turn, 1, kWidth, kHeight), Lamp{},
                       {kWidth, kHeight, 1});
        }));
    return percentile95(std::move(times));
}

/// A case taken apart and turned, each picture anew: the 95th percentile.
double takenApart(Renderer& renderer, const ReleasePtr& release, const std::string& piece) {
    const Package package = packageOf(*release, piece).value();
    const Assembly assembly = assembled(renderer, release, package, 1.5 * kWidth / reachOf(package));
    std::vector<double> times;
    for (int i = 0; i < kPictures; ++i)
        times.push_back(milliseconds([&] {
            const PackShares shares = assembly.sharesAt(1 - double(i) / kPictures);
            const Pose turn = turnedAbout({}, {1, 0, 0}, -25) * turnedAbout({}, {0, 1, 0}, 20 + 3.0 * i);
            const auto facets = assembly.facets(shares);
            drawFacets(facets, eyeOn(facets, turn, 1, kWidth, kHeight), Lamp{}, {kWidth, kHeight, 1});
        }));
    return percentile95(std::move(times));
}

} // namespace

std::vector<Row> folding(const FontLibrary& fonts, const std::string& demo) {
    std::vector<Row> rows;
    const FormList forms = shippedForms().value();
    const auto opened = openProject(demo, forms);
    if (!opened) std::fprintf(stderr, "glyptos-bench: %s\n", opened.error().message.c_str()), std::exit(2);
    PictureStore pictures;
    Renderer renderer(pictures, fonts);
    const auto add = [&](const char* id, const ParameterValues& set, const char* name) {
        for (const auto& form : forms) {
            if (form->id != id) continue;
            ReleasePtr release = withPieceLike(*opened, form, (*opened)->pieces[0]->id).value();
            const std::string piece = release->pieces.back()->id;
            for (const auto& [parameter, value] : set)
                release = withParameter(release, piece, parameter, value).value();
            rows.push_back({name, seen(renderer, release, *release->piece(piece)), 0, 16.7, "ms"});
        }
    };
    add("gatefold-12", {}, "a gatefold folded and turned, 800 × 600, p95");
    add("disc-booklet", {{"pages", 32}}, "a booklet of 32 pages leafed through, 800 × 600, p95");
    for (const auto& [form, name] : {std::pair{"tray-card", "a jewel case taken apart, 800 × 600, p95"},
                                     {"sleeve-12", "a record out of its sleeve, 800 × 600, p95"}})
        for (const PiecePtr& piece : (*opened)->pieces)
            if (piece->form->id == form)
                rows.push_back({name, takenApart(renderer, *opened, piece->id), 0, 16.7, "ms"});
    return rows;
}

} // namespace glyptos::bench
