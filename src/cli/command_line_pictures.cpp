#include "cli/command_line.h"

#include <cstdio>

namespace glyptos::cli {
namespace {

void addFindFace(CLI::App& typefaces, Run& run) {
    const auto finding = std::make_shared<FindFaceOptions>();
    auto* which = typefaces.add_subcommand("find", "Say which typeface words in a picture are set in");
    which->add_option("PICTURE", finding->picture, "The picture")->required();
    which->add_option("--words", finding->words, "What the words say")->required();
    which
        ->add_option("--box", finding->box,
                     "x,y,width,height in pixels: holds the words; all of it when left out")
        ->delimiter(',');
    which->add_flag("--json", finding->json, "As JSON");
    carriesOut(*which, run, finding, findFace);
}

void addFaces(CLI::App& app, Run& run) {
    const auto faces = std::make_shared<FacesOptions>();
    auto* typefaces = app.add_subcommand("faces", "List typefaces, with what they look like");
    typefaces
        ->add_option("--style", faces->sorts,
                     "script, hand, blackletter, mono, slab, serif, grotesque, high-contrast, condensed, "
                     "wide or display; several: all of them")
        ->type_size(1)
        ->allow_extra_args(false);
    typefaces->add_option("--has", faces->has, "Words whose characters are needed");
    typefaces->add_flag("--json", faces->json, "As JSON");
    typefaces->callback([=, &run] {
        if (typefaces->get_subcommands().empty()) run = [=] { return listFaces(*faces); };
    });
    addFindFace(*typefaces, run);
}

void addCutOut(CLI::App& app, Run& run) {
    const auto cutting = std::make_shared<CutOutOptions>();
    auto* cut = app.add_subcommand("cutout", "Cut a figure off its ground");
    cut->add_option("PICTURE", cutting->picture, "The picture")->required();
    cut->add_option("--box", cutting->box,
                    "x,y,width,height in pixels: holds all of the figure; without it\n"
                    "the figure is what the strokes lie on, or what stands out most")
        ->delimiter(',');
    cut->add_option("--hint", cutting->hints,
                    "JSON file with strokes over the figure and the ground:\n"
                    "[{\"kind\": \"figure\", \"radius\": 12, \"points\": [[x, y], …]}, …]");
    cut->add_option("--out", cutting->out, "PNG of its alpha")->required();
    cut->add_option("--figure", cutting->figure, "PNG of the figure with its own colours");
    carriesOut(*cut, run, cutting, cutOut);
}

void addMend(CLI::App& app, Run& run) {
    const auto mending = std::make_shared<MendCommand>();
    auto* mend = app.add_subcommand("mend", "Fill a part of a picture from around it");
    mend->add_option("PICTURE", mending->picture, "The picture")->required();
    mend->add_option("--mask", mending->mask, "Picture of the same size: what is white in it is filled")
        ->required();
    mend->add_option("--out", mending->out, "PNG to write, of the picture's depth")->required();
    carriesOut(*mend, run, mending, cli::mend);
}

void addWarp(CLI::App& app, Run& run) {
    const auto warping = std::make_shared<WarpOptions>();
    const auto size = std::make_shared<std::string>();
    auto* warp = app.add_subcommand("warp", "Tilt, bend or knead a picture");
    warp->add_option("PICTURE", warping->picture, "The picture")->required();
    auto* ways = warp->add_option_group("way", "How: one of");
    ways->add_option("--tilt", warping->tilt,
                     "x0,y0,…,x3,y3: where its corners go, clockwise from left top, in\n"
                     "pixels of what is written")
        ->delimiter(',')
        ->expected(8);
    ways->add_option("--grid", warping->grid,
                     "JSON file with a grid of points for a smooth surface, row by row:\n"
                     "{\"columns\": C, \"rows\": R, \"points\": [[x, y], …]}");
    ways->add_option("--knead", warping->knead,
                     "JSON file with strokes: {\"strokes\": [{\"way\": \"push\", \"radius\": px,\n"
                     "\"strength\": 0…1, \"points\": [[x, y], …]}]}; ways are push, spin, gather,\n"
                     "spread, smooth, restore");
    ways->require_option(1);
    warp->add_option("--size", *size, "WIDTHxHEIGHT of what is written; that of the picture when left out")
        ->check([warping](const std::string& text) {
            char end = 0;
            const int read = std::sscanf(text.c_str(), "%dx%d%c", &warping->width, &warping->height, &end);
            return read == 2 && warping->width > 0 && warping->height > 0
                       ? std::string()
                       : "“" + text + "” is no size such as 1200x800";
        });
    warp->add_option("--out", warping->out, "PNG to write, of the picture's depth")->required();
    warp->callback([warping, size, &run] { run = [warping] { return cli::warp(*warping); }; });
}

void addTreat(CLI::App& app, Run& run) {
    const auto treating = std::make_shared<TreatOptions>();
    auto* treat = app.add_subcommand("treat", "Grade and treat a picture by a list of treatments");
    auto* listed = treat->add_flag("--list", treating->list, "Print all kinds with their figures");
    treat->add_flag("--json", treating->json, "The list as JSON")->needs(listed);
    treat->add_option("PICTURE", treating->picture, "The picture");
    treat->add_option("--chain", treating->chain,
                      "JSON file with the list, as a release holds it:\n"
                      "[{\"kind\": \"look-table\", \"file\": \"dusk.cube\", \"opacity\": 0.5},\n"
                      " {\"kind\": \"soft-blur\", \"sigma_px\": 25}]");
    treat->add_option("--out", treating->out, "PNG to write, of the picture's depth");
    treat->callback([treating, &run] {
        const TreatOptions& o = *treating;
        if (!o.list && (o.picture.empty() || o.chain.empty() || o.out.empty()))
            throw CLI::RequiredError("treat needs PICTURE, --chain and --out, or --list");
        run = [treating] { return treating->list ? listTreatments(treating->json) : cli::treat(*treating); };
    });
}

} // namespace

void addPictureCommands(CLI::App& app, Run& run) {
    addFaces(app, run);
    addCutOut(app, run), addMend(app, run), addWarp(app, run), addTreat(app, run);
}

} // namespace glyptos::cli
