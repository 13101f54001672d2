// glyptos-cli: everything the window can do with a release, without a display.
// Exit codes: 0 fine, 1 findings, 2 bad input or usage with one line on stderr.

#include "base/text.h"
#include "cli/commands.h"
#include "cli/saying.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <cstdio>
#include <iostream>

namespace {

/// Splits "spine=4mm" arguments of --set.
void addSetOption(CLI::App* command, std::vector<std::string>& set) {
    command->add_option("--set", set, "A figure of the form, as in spine=4mm")
        ->type_size(1)
        ->allow_extra_args(false);
}

int report(const glyptos::Result<glyptos::cli::Outcome>& result) {
    if (result) return *result == glyptos::cli::Outcome::Fine ? 0 : 1;
    glyptos::cli::warn(result.error().message);
    return 2;
}

using Run = std::function<glyptos::Result<glyptos::cli::Outcome>()>;

/// What crate and its commands are told.
struct CrateCommands {
    glyptos::cli::CrateAddOptions add;
    glyptos::cli::CrateFindOptions find;
    glyptos::cli::CrateSimilarOptions similar;
    glyptos::cli::CreditsOptions credits;
};

void addCrateCommands(CLI::App& app, CrateCommands& o, Run& run) {
    using namespace glyptos;
    auto* crate = app.add_subcommand("crate", "The library of sources: add, find, similar, credits");
    crate->require_subcommand(1);
    const auto common = [](CLI::App* command, std::string& folder, bool& json) {
        command->add_option("--crate", folder, "Folder of the crate; your own when left out");
        command->add_flag("--json", json, "As JSON");
    };
    auto* add = crate->add_subcommand("add", "Add pictures, and all that is in folders");
    add->add_option("PATH", o.add.paths, "Files and folders")->required();
    common(add, o.add.crate, o.add.json);
    add->callback([&] { run = [&] { return cli::addToCrate(o.add); }; });

    auto* find = crate->add_subcommand("find", "Sources by words; all when there are none");
    find->add_option("WORDS", o.find.words, "Words, or how they begin; all of them have to be there");
    find->add_option("--kind", o.find.kind, "photo, texture, illustration, element, scan or look-table");
    find->add_option("--shape", o.find.shape, "square, tall or wide");
    find->add_option("--colour", o.find.colour, "Main colour: red, orange, yellow, …");
    find->add_option("--licence", o.find.licence, "Licence, as it is written");
    find->add_flag("--large-enough", o.find.largeEnough,
                   "Only what is enough for a 12-inch front at 300 ppi");
    find->add_option("--most", o.find.most, "How many to show")->check(CLI::PositiveNumber);
    common(find, o.find.crate, o.find.json);
    find->callback([&] { run = [&] { return cli::findInCrate(o.find); }; });

    auto* similar = crate->add_subcommand("similar", "Sources like one, the most alike first");
    similar->add_option("SOURCE", o.similar.source, "Id or file of a source, or any picture")->required();
    similar->add_option("--colour", o.similar.colour, "Weight of the colours");
    similar->add_option("--structure", o.similar.structure, "Weight of what runs where");
    similar->add_option("--most", o.similar.most, "How many to show")->check(CLI::PositiveNumber);
    common(similar, o.similar.crate, o.similar.json);
    similar->callback([&] { run = [&] { return cli::findSimilar(o.similar); }; });

    auto* credits = crate->add_subcommand("credits", "Whose pictures a release is made of");
    credits->add_option("FILE", o.credits.file, "The release")->required();
    auto* csv = credits->add_flag("--csv", o.credits.csv, "As comma-separated values");
    credits->add_flag("--json", o.credits.json, "As JSON")->excludes(csv);
    credits->callback([&] { run = [&] { return cli::tellCredits(o.credits); }; });
}

int runCommandLine(int argc, char** argv) {
    using namespace glyptos;
    std::signal(SIGXFSZ,
                SIG_IGN); // a file over the limit fails to be written and is reported, as a full disk is
    CLI::App app("Covers and sleeves from the command line.", "glyptos-cli");
    app.require_subcommand(1);
    Run run;

    cli::NewOptions made;
    auto* create = app.add_subcommand("new", "Make a release file");
    create->add_option("FILE", made.file, "The release to make")->required();
    create
        ->add_option("--form", made.forms,
                     "A piece to make, by the name of its form; may be given several times")
        ->required()
        ->type_size(1)
        ->allow_extra_args(false);
    create->add_option("--brief", made.brief, "Facts of the release, as JSON");
    create->callback([&] { run = [&] { return cli::makeNew(made); }; });

    cli::InfoOptions info;
    auto* tell = app.add_subcommand("info", "Say what a release holds");
    tell->add_option("FILE", info.file, "The release")->required();
    tell->add_flag("--json", info.json, "As JSON");
    tell->callback([&] { run = [&] { return cli::tellInfo(info); }; });

    cli::SeamsOptions seams;
    auto* joints = app.add_subcommand("seams", "Compare the art of panels that meet at a fold");
    joints->add_option("FILE", seams.file, "The release")->required();
    joints->add_option("--piece", seams.piece, "Piece, by id or by form; all when left out");
    joints->add_flag("--json", seams.json, "As JSON");
    joints->callback([&] { run = [&] { return cli::tellSeams(seams); }; });

    cli::FoldOptions fold;
    auto* folded = app.add_subcommand("fold", "Draw a piece as it is folded, to a PNG or JPEG");
    folded->add_option("FILE", fold.file, "The release")->required();
    folded->add_option("--piece", fold.piece, "Piece, by id or by form; the first one when left out");
    folded->add_option("--at", fold.at, "0 flat … 1 made up; a booklet: open at its last leaf … closed");
    folded->add_flag("--packed", fold.packed,
                     "With the pieces that go with it, in its case or sleeve: --at 0 all out … 1 all in");
    folded
        ->add_option("--turn", fold.turn,
                     "x,y: degrees by which it is turned to the right, and then its top towards you")
        ->delimiter(',');
    folded->add_option("--size", fold.size, "width,height of the picture in pixels")->delimiter(',');
    folded->add_option("--out", fold.out, "The picture")->required();
    folded->callback([&] { run = [&] { return cli::drawFolded(fold); }; });

    cli::CutterOptions cutter;
    auto* cuts = app.add_subcommand("cutter", "Say and draw what a cutter would do with an SVG or DXF file");
    cuts->add_option("FILE", cutter.file, "Cut and crease paths")->required();
    cuts->add_option("--out", cutter.out, "A PNG of it");
    cuts->add_flag("--json", cutter.json, "As JSON");
    cuts->callback([&] { run = [&] { return cli::runCutter(cutter); }; });

    cli::FacesOptions faces;
    auto* typefaces = app.add_subcommand("faces", "List typefaces, with what they look like");
    typefaces
        ->add_option("--style", faces.sorts,
                     "script, hand, blackletter, mono, slab, serif, grotesque, high-contrast, condensed, "
                     "wide or display; several: all of them")
        ->type_size(1)
        ->allow_extra_args(false);
    typefaces->add_option("--has", faces.has, "Words whose characters are needed");
    typefaces->add_flag("--json", faces.json, "As JSON");
    typefaces->callback([&, typefaces] {
        if (typefaces->get_subcommands().empty()) run = [&] { return cli::listFaces(faces); };
    });
    cli::FindFaceOptions finding;
    auto* which = typefaces->add_subcommand("find", "Say which typeface words in a picture are set in");
    which->add_option("PICTURE", finding.picture, "The picture")->required();
    which->add_option("--words", finding.words, "What the words say")->required();
    which
        ->add_option("--box", finding.box,
                     "x,y,width,height in pixels: holds the words; all of it when left out")
        ->delimiter(',');
    which->add_flag("--json", finding.json, "As JSON");
    which->callback([&] { run = [&] { return cli::findFace(finding); }; });

    cli::FormsOptions forms;
    auto* list = app.add_subcommand("forms", "List the forms, or show one worked out");
    list->add_option("NAME", forms.name, "One form");
    addSetOption(list, forms.set);
    list->add_flag("--json", forms.json, "As JSON");
    list->callback([&] { run = [&] { return cli::listForms(forms); }; });

    cli::RenderOptions render;
    auto* draw = app.add_subcommand("render", "Render a piece or one of its panels to a PNG or JPEG");
    draw->add_option("FILE", render.file, "The release, or an OpenRaster file")->required();
    draw->add_option("--piece", render.piece, "Piece, by id or by form; the first one when left out");
    draw->add_option("--panel", render.panel, "Panel; the whole flat when left out");
    draw->add_option("--take", render.take, "Take; the current one when left out");
    auto* ppi = draw->add_option("--ppi", render.ppi, "Pixels per inch, for pieces in mm")
                    ->check(CLI::PositiveNumber);
    draw->add_option("--width", render.width, "Width of the picture in pixels")
        ->excludes(ppi)
        ->check(CLI::PositiveNumber);
    draw->add_flag("--bleed", render.bleed, "With the bleed");
    draw->add_option("--out", render.out, "The picture to write")->required();
    draw->add_flag("--json", render.json, "Report as JSON");
    draw->callback([&] { run = [&] { return cli::renderPicture(render); }; });

    cli::ExportOptions out;
    auto* deliver = app.add_subcommand("export", "Write a piece as a file for a store or a printer");
    deliver->add_option("FILE", out.file, "The release")->required();
    deliver->add_option("--piece", out.piece, "Piece, by id or by form")->required();
    deliver->add_option("--panel", out.panel,
                        "One panel instead of the whole flat; of an OpenRaster file the front when left out");
    deliver
        ->add_option("--as", out.as,
                     "png, jpeg, pdf, ora, tiff in press inks, cut paths, or home: a PDF for the printer "
                     "at home")
        ->required()
        ->check(CLI::IsMember({"png", "jpeg", "pdf", "ora", "tiff", "svg-cut", "dxf-cut", "home"}));
    deliver->add_option("--paper", out.paper, "Paper of home")->check(CLI::IsMember({"a4", "letter"}));
    deliver->add_option("--duplex", out.duplex, "Edge over which the printer at home turns the paper")
        ->check(CLI::IsMember({"none", "long", "short"}));
    deliver->add_option("--copies", out.copies, "How many of each sheet for home, side by side on the paper")
        ->check(CLI::Range(1, 100));
    deliver->add_option("--overlap", out.overlap, "Overlap of the tiles of home, mm")
        ->check(CLI::Range(0.0, 80.0));
    deliver->add_option("--width", out.width, "Width in pixels of a JPEG or PNG")->check(CLI::PositiveNumber);
    deliver->add_option("--quality", out.quality, "JPEG quality, 1 to 100");
    deliver->add_option("--pages", out.pages, "Pages of a print file, as 1,3-5; all when left out");
    deliver
        ->add_option("--profile", out.profile,
                     "ICC profile of the press, of four inks; FOGRA39 when left out")
        ->check(CLI::ExistingFile);
    deliver->add_option("--intent", out.intent, "Rendering intent of a print file")
        ->check(CLI::IsMember({"perceptual", "relative", "saturation", "absolute"}));
    deliver->add_flag("--no-black-point", out.noBlackPoint, "Without black point compensation");
    deliver
        ->add_option("--spot", out.spot,
                     "Plates of a PDF besides those of its art: cut (the dieline), white (under all art)")
        ->check(CLI::IsMember({"cut", "white"}));
    deliver->add_flag("--pairs", out.pairs, "A booklet's pages in printer's pairs");
    deliver->add_flag("--file-per-page", out.filePerPage, "One print file a page");
    deliver->add_flag("--report", out.report, "A report in text beside the print file");
    deliver->add_flag("--slug", out.slug, "Names, measures and a colour bar outside the bleed of a PDF");
    deliver->add_option("--sharpen", out.sharpen, "Sharpen a print file's art by so much, 0 to 5")
        ->check(CLI::Range(0.0, 5.0));
    deliver
        ->add_option("--rich-black", out.richBlack,
                     "Black words of so many points and more in all inks, of a PDF")
        ->check(CLI::NonNegativeNumber);
    deliver->add_option("--out", out.out, "The file to write")->required();
    deliver->add_flag("--json", out.json, "Report as JSON");
    deliver->callback([&] { run = [&] { return cli::exportPiece(out); }; });

    cli::CutOutOptions cutting;
    auto* cut = app.add_subcommand("cutout", "Cut a figure off its ground");
    cut->add_option("PICTURE", cutting.picture, "The picture")->required();
    cut->add_option("--box", cutting.box,
                    "x,y,width,height in pixels: holds all of the figure; without it\n"
                    "the figure is what the strokes lie on, or what stands out most")
        ->delimiter(',');
    cut->add_option("--hint", cutting.hints,
                    "JSON file with strokes over the figure and the ground:\n"
                    "[{\"kind\": \"figure\", \"radius\": 12, \"points\": [[x, y], …]}, …]");
    cut->add_option("--out", cutting.out, "PNG of its alpha")->required();
    cut->add_option("--figure", cutting.figure, "PNG of the figure with its own colours");
    cut->callback([&] { run = [&] { return cli::cutOut(cutting); }; });

    cli::MendCommand mending;
    auto* mend = app.add_subcommand("mend", "Fill a part of a picture from around it");
    mend->add_option("PICTURE", mending.picture, "The picture")->required();
    mend->add_option("--mask", mending.mask, "Picture of the same size: what is white in it is filled")
        ->required();
    mend->add_option("--out", mending.out, "PNG to write, of the picture's depth")->required();
    mend->callback([&] { run = [&] { return cli::mend(mending); }; });

    cli::WarpOptions warping;
    std::string size;
    auto* warp = app.add_subcommand("warp", "Tilt, bend or knead a picture");
    warp->add_option("PICTURE", warping.picture, "The picture")->required();
    auto* ways = warp->add_option_group("way", "How: one of");
    ways->add_option("--tilt", warping.tilt,
                     "x0,y0,…,x3,y3: where its corners go, clockwise from left top, in\n"
                     "pixels of what is written")
        ->delimiter(',')
        ->expected(8);
    ways->add_option("--grid", warping.grid,
                     "JSON file with a grid of points for a smooth surface, row by row:\n"
                     "{\"columns\": C, \"rows\": R, \"points\": [[x, y], …]}");
    ways->add_option("--knead", warping.knead,
                     "JSON file with strokes: {\"strokes\": [{\"way\": \"push\", \"radius\": px,\n"
                     "\"strength\": 0…1, \"points\": [[x, y], …]}]}; ways are push, spin, gather,\n"
                     "spread, smooth, restore");
    ways->require_option(1);
    warp->add_option("--size", size, "WIDTHxHEIGHT of what is written; that of the picture when left out")
        ->check([&](const std::string& text) {
            char end = 0;
            const int read = std::sscanf(text.c_str(), "%dx%d%c", &warping.width, &warping.height, &end);
            return read == 2 && warping.width > 0 && warping.height > 0
                       ? std::string()
                       : "“" + text + "” is no size such as 1200x800";
        });
    warp->add_option("--out", warping.out, "PNG to write, of the picture's depth")->required();
    warp->callback([&] { run = [&] { return cli::warp(warping); }; });

    cli::TreatOptions treating;
    bool listing = false, listingJson = false;
    auto* treat = app.add_subcommand("treat", "Grade and treat a picture by a list of treatments");
    auto* listed = treat->add_flag("--list", listing, "Print all kinds with their figures");
    treat->add_flag("--json", listingJson, "The list as JSON")->needs(listed);
    treat->add_option("PICTURE", treating.picture, "The picture");
    treat->add_option("--chain", treating.chain,
                      "JSON file with the list, as a release holds it:\n"
                      "[{\"kind\": \"look-table\", \"file\": \"dusk.cube\", \"opacity\": 0.5},\n"
                      " {\"kind\": \"soft-blur\", \"sigma_px\": 25}]");
    treat->add_option("--out", treating.out, "PNG to write, of the picture's depth");
    treat->callback([&] {
        if (!listing && (treating.picture.empty() || treating.chain.empty() || treating.out.empty()))
            throw CLI::RequiredError("treat needs PICTURE, --chain and --out, or --list");
        run = [&] { return listing ? cli::listTreatments(listingJson) : cli::treat(treating); };
    });

    CrateCommands crate;
    addCrateCommands(app, crate, run);

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        if (e.get_exit_code() == 0) return app.exit(e);
        cli::warn(std::string(e.what()) + " (glyptos-cli --help tells more)");
        return 2;
    }
    return report(caught(run));
}

} // namespace

int main(int argc, char** argv) {
    try {
        const glyptos::cli::PlainSpeech plain;
        return runCommandLine(argc, argv);
    } catch (const std::exception& e) { // memory, at the most: everything else is a Result
        std::fprintf(stderr, "glyptos-cli: The work was given up (%s); nothing was written.\n", e.what());
        return 2;
    }
}
