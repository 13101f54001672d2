#include "cli/opened.h"

#include "base/text.h"
#include "cli/saying.h"
#include "file/font_files.h"
#include "file/open_raster.h"
#include "file/project.h"

namespace glyptos::cli {

Result<Opened> opened(const std::string& file) {
    if (isOpenRaster(file)) {
        auto raster = readOpenRaster(file);
        if (!raster) return tl::unexpected(raster.error());
        auto release = releaseOf(*raster, nameOf(file));
        if (!release) return tl::unexpected(release.error());
        return Opened{*release, std::move(raster->notes)};
    }
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    auto release = openProject(file, *forms);
    if (!release) return tl::unexpected(release.error());
    ReleaseFonts fonts = fontsOf(**release);
    Opened out{*release, {}, std::move(fonts.fonts)};
    if (!fonts.trouble.empty()) out.notes.push_back(fonts.trouble);
    return out;
}

Result<PiecePtr> pieceNamed(const Release& release, const std::string& name) {
    if (name.empty() && !release.pieces.empty()) return release.pieces.front();
    if (PiecePtr piece = release.piece(name)) return piece;
    for (const PiecePtr& piece : release.pieces)
        if (piece->form->id == name || piece->name == name) return piece;
    return fail(Fault::Usage,
                name.empty() ? "The release holds no piece." : "The release holds no piece “" + name + "”.");
}

Json missingJson(const Engine& engine) {
    Json out = Json::list();
    for (const MissingPicture& picture : engine.pictures.missing()) out.push_back(picture.name);
    return out;
}

Json pictureJson(const Engine& engine, const EncodedPicture& picture) {
    return {{"width", picture.width},
            {"height", picture.height},
            {"bytes", picture.bytes.size()},
            {"missing", missingJson(engine)}};
}

std::string sized(double w, double h, Unit unit) {
    return shortNumber(w) + " × " + shortNumber(h) + (unit == Unit::Mm ? " mm" : " px");
}

Result<Outcome> ended(const Result<void>& done, const std::vector<std::string>& notes) {
    if (!done) return tl::unexpected(done.error());
    warn(notes);
    return notes.empty() ? Outcome::Fine : Outcome::Findings;
}

Result<Outcome> drawn(const Engine& engine, const Result<void>& done, std::vector<std::string> notes) {
    for (const MissingPicture& picture : engine.pictures.missing()) notes.push_back(picture.sentence);
    return ended(done, notes);
}

} // namespace glyptos::cli
