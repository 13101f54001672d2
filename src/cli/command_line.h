// The arguments of glyptos-cli: which commands there are, and what each is told.
#pragma once

#include "cli/commands.h"

#include <CLI/CLI.hpp>
#include <functional>

namespace glyptos::cli {

/// What is to be done: set by the command that was named. Holds what it was told.
using Run = std::function<Result<Outcome>()>;

/// Releases and their pieces, and the forms they are made of.
void addReleaseCommands(CLI::App& app, Run& run);
/// Typefaces, and pictures by themselves.
void addPictureCommands(CLI::App& app, Run& run);
/// The library of sources.
void addCrateCommands(CLI::App& app, Run& run);

} // namespace glyptos::cli
