// glyptos-cli: everything the window can do with a release, without a display.
// Exit codes: 0 fine, 1 findings, 2 bad input or usage with one line on stderr.

#include "base/text.h"
#include "cli/command_line.h"
#include "cli/saying.h"

#include <csignal>
#include <cstdio>

namespace {

int report(const glyptos::Result<glyptos::cli::Outcome>& result) {
    if (result) return *result == glyptos::cli::Outcome::Fine ? 0 : 1;
    glyptos::cli::warn(result.error().message);
    return 2;
}

int runCommandLine(int argc, char** argv) {
    using namespace glyptos;
    std::signal(SIGXFSZ,
                SIG_IGN); // a file over the limit fails to be written and is reported, as a full disk is
    CLI::App app("Covers and sleeves from the command line.", "glyptos-cli");
    app.require_subcommand(1);
    cli::Run run;
    cli::addReleaseCommands(app, run);
    cli::addPictureCommands(app, run);
    cli::addCrateCommands(app, run);
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
