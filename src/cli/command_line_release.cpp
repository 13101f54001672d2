#include "cli/command_line.h"

namespace glyptos::cli {
namespace {

/// Splits "spine=4mm" arguments of --set.
void addSetOption(CLI::App* command, std::vector<std::string>& set) {
    command->add_option("--set", set, "A figure of the form, as in spine=4mm")
        ->type_size(1)
        ->allow_extra_args(false);
}

void addNew(CLI::App& app, Run& run) {
    const auto made = std::make_shared<NewOptions>();
    auto* create = app.add_subcommand("new", "Make a release file");
    create->add_option("FILE", made->file, "The release to make")->required();
    create
        ->add_option("--form", made->forms,
                     "A piece to make, by the name of its form; may be given several times")
        ->required()
        ->type_size(1)
        ->allow_extra_args(false);
    create->add_option("--brief", made->brief, "Facts of the release, as JSON");
    carriesOut(*create, run, made, makeNew);
}

void addInfo(CLI::App& app, Run& run) {
    const auto info = std::make_shared<InfoOptions>();
    auto* tell = app.add_subcommand("info", "Say what a release holds");
    tell->add_option("FILE", info->file, "The release")->required();
    tell->add_flag("--json", info->json, "As JSON");
    carriesOut(*tell, run, info, tellInfo);
}

void addSeams(CLI::App& app, Run& run) {
    const auto seams = std::make_shared<SeamsOptions>();
    auto* joints = app.add_subcommand("seams", "Compare the art of panels that meet at a fold");
    joints->add_option("FILE", seams->file, "The release")->required();
    joints->add_option("--piece", seams->piece, "Piece, by id or by form; all when left out");
    joints->add_flag("--json", seams->json, "As JSON");
    carriesOut(*joints, run, seams, tellSeams);
}

void addFold(CLI::App& app, Run& run) {
    const auto fold = std::make_shared<FoldOptions>();
    auto* folded = app.add_subcommand("fold", "Draw a piece as it is folded, to a PNG or JPEG");
    folded->add_option("FILE", fold->file, "The release")->required();
    folded->add_option("--piece", fold->piece, "Piece, by id or by form; the first one when left out");
    folded->add_option("--at", fold->at, "0 flat … 1 made up; a booklet: open at its last leaf … closed");
    folded->add_flag("--packed", fold->packed,
                     "With the pieces that go with it, in its case or sleeve: --at 0 all out … 1 all in");
    folded
        ->add_option("--turn", fold->turn,
                     "x,y: degrees by which it is turned to the right, and then its top towards you")
        ->delimiter(',');
    folded->add_option("--size", fold->size, "width,height of the picture in pixels")->delimiter(',');
    folded->add_option("--out", fold->out, "The picture")->required();
    carriesOut(*folded, run, fold, drawFolded);
}

void addCutter(CLI::App& app, Run& run) {
    const auto cutter = std::make_shared<CutterOptions>();
    auto* cuts = app.add_subcommand("cutter", "Say and draw what a cutter would do with an SVG or DXF file");
    cuts->add_option("FILE", cutter->file, "Cut and crease paths")->required();
    cuts->add_option("--out", cutter->out, "A PNG of it");
    cuts->add_flag("--json", cutter->json, "As JSON");
    carriesOut(*cuts, run, cutter, runCutter);
}

void addForms(CLI::App& app, Run& run) {
    const auto forms = std::make_shared<FormsOptions>();
    auto* list = app.add_subcommand("forms", "List the forms, or show one worked out");
    list->add_option("NAME", forms->name, "One form");
    addSetOption(list, forms->set);
    list->add_flag("--json", forms->json, "As JSON");
    carriesOut(*list, run, forms, listForms);
}

void addRender(CLI::App& app, Run& run) {
    const auto render = std::make_shared<RenderOptions>();
    auto* draw = app.add_subcommand("render", "Render a piece or one of its panels to a PNG or JPEG");
    draw->add_option("FILE", render->file, "The release, or an OpenRaster file")->required();
    draw->add_option("--piece", render->piece, "Piece, by id or by form; the first one when left out");
    draw->add_option("--panel", render->panel, "Panel; the whole flat when left out");
    draw->add_option("--take", render->take, "Take; the current one when left out");
    auto* ppi = draw->add_option("--ppi", render->ppi, "Pixels per inch, for pieces in mm")
                    ->check(CLI::PositiveNumber);
    draw->add_option("--width", render->width, "Width of the picture in pixels")
        ->excludes(ppi)
        ->check(CLI::PositiveNumber);
    draw->add_flag("--bleed", render->bleed, "With the bleed");
    draw->add_option("--out", render->out, "The picture to write")->required();
    draw->add_flag("--json", render->json, "Report as JSON");
    carriesOut(*draw, run, render, renderPicture);
}

/// Of print files.
void addPrintOptions(CLI::App& deliver, ExportOptions& out) {
    deliver.add_option("--pages", out.pages, "Pages of a print file, as 1,3-5; all when left out");
    deliver
        .add_option("--profile", out.profile, "ICC profile of the press, of four inks; FOGRA39 when left out")
        ->check(CLI::ExistingFile);
    deliver.add_option("--intent", out.intent, "Rendering intent of a print file")
        ->check(CLI::IsMember({"perceptual", "relative", "saturation", "absolute"}));
    deliver.add_flag("--no-black-point", out.noBlackPoint, "Without black point compensation");
    deliver
        .add_option("--spot", out.spot,
                    "Plates of a PDF besides those of its art: cut (the dieline), white (under all art)")
        ->check(CLI::IsMember({"cut", "white"}));
    deliver.add_flag("--pairs", out.pairs, "A booklet's pages in printer's pairs");
    deliver.add_flag("--file-per-page", out.filePerPage, "One print file a page");
    deliver.add_flag("--report", out.report, "A report in text beside the print file");
    deliver.add_flag("--slug", out.slug, "Names, measures and a colour bar outside the bleed of a PDF");
    deliver.add_option("--sharpen", out.sharpen, "Sharpen a print file's art by so much, 0 to 5")
        ->check(CLI::Range(0.0, 5.0));
    deliver
        .add_option("--rich-black", out.richBlack,
                    "Black words of so many points and more in all inks, of a PDF")
        ->check(CLI::NonNegativeNumber);
}

/// Of pages for the printer at home.
void addHomeOptions(CLI::App& deliver, ExportOptions& out) {
    deliver.add_option("--paper", out.paper, "Paper of home")->check(CLI::IsMember({"a4", "letter"}));
    deliver.add_option("--duplex", out.duplex, "Edge over which the printer at home turns the paper")
        ->check(CLI::IsMember({"none", "long", "short"}));
    deliver.add_option("--copies", out.copies, "How many of each sheet for home, side by side on the paper")
        ->check(CLI::Range(1, 100));
    deliver.add_option("--overlap", out.overlap, "Overlap of the tiles of home, mm")
        ->check(CLI::Range(0.0, 80.0));
}

void addExport(CLI::App& app, Run& run) {
    const auto out = std::make_shared<ExportOptions>();
    auto* deliver = app.add_subcommand("export", "Write a piece as a file for a store or a printer");
    deliver->add_option("FILE", out->file, "The release")->required();
    deliver->add_option("--piece", out->piece, "Piece, by id or by form")->required();
    deliver->add_option("--panel", out->panel,
                        "One panel instead of the whole flat; of an OpenRaster file the front when left out");
    deliver
        ->add_option("--as", out->as,
                     "png, jpeg, pdf, ora, tiff in press inks, cut paths, or home: a PDF for the printer "
                     "at home")
        ->required()
        ->check(CLI::IsMember({"png", "jpeg", "pdf", "ora", "tiff", "svg-cut", "dxf-cut", "home"}));
    deliver->add_option("--width", out->width, "Width in pixels of a JPEG or PNG")
        ->check(CLI::PositiveNumber);
    deliver->add_option("--quality", out->quality, "JPEG quality, 1 to 100");
    addPrintOptions(*deliver, *out);
    addHomeOptions(*deliver, *out);
    deliver->add_option("--out", out->out, "The file to write")->required();
    deliver->add_flag("--json", out->json, "Report as JSON");
    carriesOut(*deliver, run, out, exportPiece);
}

} // namespace

void addReleaseCommands(CLI::App& app, Run& run) {
    addNew(app, run), addInfo(app, run), addForms(app, run);
    addRender(app, run), addExport(app, run);
    addSeams(app, run), addFold(app, run), addCutter(app, run);
}

} // namespace glyptos::cli
