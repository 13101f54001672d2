#include "cli/command_line.h"

namespace glyptos::cli {
namespace {

/// Which crate, and how it is told.
void addCommon(CLI::App& command, std::string& folder, bool& json) {
    command.add_option("--crate", folder, "Folder of the crate; your own when left out");
    command.add_flag("--json", json, "As JSON");
}

void addCrateAdd(CLI::App& crate, Run& run) {
    const auto o = std::make_shared<CrateAddOptions>();
    auto* add = crate.add_subcommand("add", "Add pictures, and all that is in folders");
    add->add_option("PATH", o->paths, "Files and folders")->required();
    addCommon(*add, o->crate, o->json);
    carriesOut(*add, run, o, addToCrate);
}

void addCrateFind(CLI::App& crate, Run& run) {
    const auto o = std::make_shared<CrateFindOptions>();
    auto* find = crate.add_subcommand("find", "Sources by words; all when there are none");
    find->add_option("WORDS", o->words, "Words, or how they begin; all of them have to be there");
    find->add_option("--kind", o->kind, "photo, texture, illustration, element, scan or look-table");
    find->add_option("--shape", o->shape, "square, tall or wide");
    find->add_option("--colour", o->colour, "Main colour: red, orange, yellow, …");
    find->add_option("--licence", o->licence, "Licence, as it is written");
    find->add_flag("--large-enough", o->largeEnough, "Only what is enough for a 12-inch front at 300 ppi");
    find->add_option("--most", o->most, "How many to show")->check(CLI::PositiveNumber);
    addCommon(*find, o->crate, o->json);
    carriesOut(*find, run, o, findInCrate);
}

void addCrateSimilar(CLI::App& crate, Run& run) {
    const auto o = std::make_shared<CrateSimilarOptions>();
    auto* similar = crate.add_subcommand("similar", "Sources like one, the most alike first");
    similar->add_option("SOURCE", o->source, "Id or file of a source, or any picture")->required();
    similar->add_option("--colour", o->colour, "Weight of the colours");
    similar->add_option("--structure", o->structure, "Weight of what runs where");
    similar->add_option("--most", o->most, "How many to show")->check(CLI::PositiveNumber);
    addCommon(*similar, o->crate, o->json);
    carriesOut(*similar, run, o, findSimilar);
}

void addCrateCredits(CLI::App& crate, Run& run) {
    const auto o = std::make_shared<CreditsOptions>();
    auto* credits = crate.add_subcommand("credits", "Whose pictures a release is made of");
    credits->add_option("FILE", o->file, "The release")->required();
    auto* csv = credits->add_flag("--csv", o->csv, "As comma-separated values");
    credits->add_flag("--json", o->json, "As JSON")->excludes(csv);
    carriesOut(*credits, run, o, tellCredits);
}

} // namespace

void addCrateCommands(CLI::App& app, Run& run) {
    auto* crate = app.add_subcommand("crate", "The library of sources: add, find, similar, credits");
    crate->require_subcommand(1);
    addCrateAdd(*crate, run), addCrateFind(*crate, run);
    addCrateSimilar(*crate, run), addCrateCredits(*crate, run);
}

} // namespace glyptos::cli
