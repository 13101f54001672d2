// Releases as the commands open and draw them.
#pragma once

#include "cli/commands.h"

#include "base/json.h"
#include "file/data_folder.h"
#include "file/pictures/picture_store.h"
#include "file/pictures/store_picture.h"
#include "render/renderer.h"

namespace glyptos::cli {

/// What rendering needs, made once a run.
struct Engine {
    FontLibrary fonts{dataFolder() / "fonts"};
    PictureStore pictures;
    Renderer renderer{pictures, fonts};
};

struct Opened {
    ReleasePtr release;
    std::vector<std::string> notes; ///< what could not be taken over
    std::vector<BroughtFontPtr> fonts = {};

    /// Draws its words as they are where all its faces are at hand.
    void giveFonts(Engine& engine) const {
        engine.fonts.bring(fonts);
        engine.renderer.paragraphs().fallBackOn(release->keptWords);
    }
};

/// A release file, or an OpenRaster file as it stands.
Result<Opened> opened(const std::string& file);
/// A piece by its id, or the first one of a form.
Result<PiecePtr> pieceNamed(const Release& release, const std::string& name);

/// What is missing from what was drawn, by name, for programs to read.
Json missingJson(const Engine& engine);
Json pictureJson(const Engine& engine, const EncodedPicture& picture);
std::string sized(double w, double h, Unit unit);

/// How a command ends that has done its work, with what there is to say about it.
Result<Outcome> ended(const Result<void>& done, const std::vector<std::string>& notes = {});
/// The same for what was drawn: pictures that are missing from it are told of.
Result<Outcome> drawn(const Engine& engine, const Result<void>& done, std::vector<std::string> notes = {});

} // namespace glyptos::cli
