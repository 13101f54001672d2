// glyptos-cli: everything the window can do with a release, without a display.
// Exit codes: 0 fine, 1 findings, 2 bad input or usage with one line on stderr.

#include "base/text.h"
#include "cli/commands.h"

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
    std::cerr << "glyptos-cli: " << result.error().message << '\n';
    return 2;
}

int runCommandLine(int argc, char** argv) {
    using namespace glyptos;
    std::signal(SIGXFSZ,
                SIG_IGN); // a file over the limit fails to be written and is reported, as a full disk is
    CLI::App app("Covers and sleeves from the command line.", "glyptos-cli");
    app.require_subcommand(1);
    std::function<Result<cli::Outcome>()> run;

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
    draw->callback([&] { run = [&] { return cli::renderPicture(render); }; });

    cli::ExportOptions out;
    auto* deliver = app.add_subcommand("export", "Write a piece as a file for a store or a printer");
    deliver->add_option("FILE", out.file, "The release")->required();
    deliver->add_option("--piece", out.piece, "Piece, by id or by form")->required();
    deliver->add_option("--panel", out.panel,
                        "One panel instead of the whole flat; of an OpenRaster file the front when left out");
    deliver->add_option("--as", out.as, "png, jpeg, pdf or ora")
        ->required()
        ->check(CLI::IsMember({"png", "jpeg", "pdf", "ora"}));
    deliver->add_option("--width", out.width, "Width in pixels of a JPEG or PNG")->check(CLI::PositiveNumber);
    deliver->add_option("--quality", out.quality, "JPEG quality, 1 to 100");
    deliver->add_option("--out", out.out, "The file to write")->required();
    deliver->add_flag("--json", out.json, "Report as JSON");
    deliver->callback([&] { run = [&] { return cli::exportPiece(out); }; });

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        if (e.get_exit_code() == 0) return app.exit(e);
        std::cerr << "glyptos-cli: " << e.what() << " (glyptos-cli --help tells more)\n";
        return 2;
    }
    return report(run());
}

} // namespace

int main(int argc, char** argv) {
    try {
        return runCommandLine(argc, argv);
    } catch (const std::exception& e) { // memory, at the most: everything else is a Result
        std::fprintf(stderr, "glyptos-cli: The work was given up (%s); nothing was written.\n", e.what());
        return 2;
    }
}
