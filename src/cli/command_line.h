// The arguments of glyptos-cli: which commands there are, and what each is told.
#pragma once

#include "cli/commands.h"

#include <CLI/CLI.hpp>
#include <functional>
#include <memory>

namespace glyptos::cli {

/// What is to be done: set by the command that was named. Holds what it was told.
using Run = std::function<Result<Outcome>()>;

/// When the command is named, `act` is run with what it was told, which lives as long as the command.
template <class Options>
void carriesOut(CLI::App& command, Run& run, const std::shared_ptr<Options>& told,
                Result<Outcome> (*act)(const Options&)) {
    command.callback([=, &run] { run = [=] { return act(*told); }; });
}

/// Releases and their pieces, and the forms they are made of.
void addReleaseCommands(CLI::App& app, Run& run);
/// Typefaces, and pictures by themselves.
void addPictureCommands(CLI::App& app, Run& run);
/// The library of sources.
void addCrateCommands(CLI::App& app, Run& run);

} // namespace glyptos::cli
