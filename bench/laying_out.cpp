#include "laying_out.h"

#include "flatten.h"

#include "file/pictures/picture_store.h"
#include "file/project.h"
#include "release/edits/edits.h"
#include "render/renderer.h"

#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <cstdlib>

namespace glyptos::bench {
namespace {

constexpr int kWidth = 900, kHeight = 600, kMiniature = 96; // px

[[noreturn]] void stop(const Error& error) {
    std::fprintf(stderr, "glyptos-bench: %s\n", error.message.c_str());
    std::exit(2);
}

ReleasePtr openedFile(const std::string& file, const FormList& forms) {
    auto release = openProject(file, forms);
    if (!release) stop(release.error());
    return *release;
}

PiecePtr pieceOf(const Release& release, const std::string& form) {
    for (const PiecePtr& piece : release.pieces)
        if (piece->form->id == form) return piece;
    stop({Fault::Usage, "the demo has no " + form});
}

/// As the bench of the flat shows it: all of its panels in one picture.
std::vector<Row> flatOfGatefold(const FontLibrary& fonts, const ReleasePtr& release) {
    PictureStore pictures;
    Renderer renderer(pictures, fonts);
    const PiecePtr piece = pieceOf(*release, "gatefold-12");
    const Rect all = piece->flat->withBleed();
    const double scale = std::min(kWidth / all.w, kHeight / all.h);
    // Both the whole flat, and as near as one looks at a seam.
    const auto show = [&](const ReleasePtr& shown, double zoom, int x, int y) {
        const Scene scene = flatScene(shown, piece->id, {scale * zoom, true});
        const IntRect bounds = scene.bounds();
        renderer.renderBgra8(scene, {bounds.x + x, bounds.y + y, kWidth, kHeight});
    };
    std::vector<double> pans, near, changes;
    show(release, 4, 0, 0);
    for (int i = 1; i <= 25; ++i) near.push_back(milliseconds([&] { show(release, 4, 100 * i, 40 * i); }));
    for (int i = 0; i <= 25; ++i) {
        const double ms = milliseconds([&] { show(release, 1, 100 * (i % 5), 60 * (i % 7)); });
        if (i > 0) pans.push_back(ms); // the first makes it all
    }
    show(release, 1, 0, 0);
    const PanelRef front{piece->id, "front"};
    const Stack& stack = stackOf(*release, front);
    for (int i = 0; i < 60; ++i) {
        const ReleasePtr next = withChangedLayer(release, front, stack[size_t(i) % stack.size()]->id,
                                                 [&](Layer& l) { l.opacity = 0.3 + 0.01 * i; });
        changes.push_back(milliseconds([&] { show(next, 1, 0, 0); }));
    }
    return {{"the gatefold's flat panned by 100 px, 900×600, p95", percentile95(pans), 0, 16, "ms"},
            {"the same at four times its size", percentile95(near), 0, 0, "ms"},
            {"one change on that flat, p95", percentile95(changes), 0, 16, "ms"}};
}

/// A page with a photo of its own and words, all different.
ReleasePtr bookletOf(const FormList& forms) {
    const auto form =
        std::find_if(forms.begin(), forms.end(), [](const auto& f) { return f->id == "disc-booklet"; });
    ReleasePtr release = withPiece(std::make_shared<const Release>(), *form, {{"pages", 32}}).value();
    const PiecePtr piece = release->pieces[0];
    uint32_t seed = 0;
    for (const Panel& panel : piece->flat->panels) {
        const SourcePtr source = photo(1500, 1500, ++seed);
        release = withSource(release, source);
        Layer picture, words;
        picture.name = "Photo";
        picture.content = PictureContent{source->id, {0, 0, 1, 1}};
        picture.placement = {{panel.width / 2, panel.height / 2}, 0.085, 0.085, 0, false, false};
        TextContent text;
        text.spec.text = "Page " + std::to_string(seed) + "\nSlack water, and the lamp turns.";
        text.spec.letters.size = 5;
        words.content = text;
        words.placement.position = {10, 20};
        release = withLayer(release, {piece->id, panel.id}, picture).release;
        release = withLayer(release, {piece->id, panel.id}, words).release;
    }
    return release;
}

std::vector<Row> bookletOpened(const FontLibrary& fonts, const FormList& forms) {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("booklet.glyptos").toStdString();
    if (const auto saved = saveProject(*bookletOf(forms), file); !saved) stop(saved.error());
    double first = 0, all = 0;
    first = milliseconds([&] {
        const ReleasePtr release = openedFile(file, forms);
        PictureStore pictures;
        Renderer renderer(pictures, fonts);
        const PiecePtr piece = release->pieces[0];
        const Panel& front = piece->flat->frontPanel();
        const double scale = kHeight / front.height;
        renderer.renderBgra8(panelScene(release, {piece->id, front.id}, {scale, true}),
                             {0, 0, kHeight, kHeight});
        // Then miniature after miniature.
        all = milliseconds([&] {
            for (const Panel& panel : piece->flat->panels)
                renderer.renderBgra8(
                    panelScene(release, {piece->id, panel.id}, {kMiniature / panel.height, true}),
                    {0, 0, kMiniature, kMiniature});
        });
    });
    return {{"a booklet of 32 pages opened, its front seen", first - all, 0, 1000, "ms"},
            {"each of its miniatures as it comes", all / 32, 0, 100, "ms"}};
}

} // namespace

std::vector<Row> layingOut(const FontLibrary& fonts, const std::string& demo) {
    const FormList forms = shippedForms().value();
    std::vector<Row> rows = flatOfGatefold(fonts, openedFile(demo, forms));
    for (Row& row : bookletOpened(fonts, forms)) rows.push_back(std::move(row));
    return rows;
}

} // namespace glyptos::bench
