#include "cli/commands.h"
#include "cli/saying.h"

#include "base/expression.h"
#include "base/json.h"
#include "base/text.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/font_files.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_store.h"
#include "file/pictures/store_picture.h"
#include "file/print/print_pdf.h"
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "release/edits/edits.h"
#include "release/fields.h"

#include <cmath>
#include <iostream>

namespace glyptos::cli {
namespace {

/// What rendering needs, made once a run.
struct Engine {
    FontLibrary fonts{dataFolder() / "fonts"};
    PictureStore pictures;
    Renderer renderer{pictures, fonts};
};

Result<std::shared_ptr<const Form>> formNamed(const FormList& forms, const std::string& name) {
    for (const auto& form : forms)
        if (form->id == name || form->name == name) return form;
    std::string known;
    for (const auto& form : forms) known += (known.empty() ? "" : ", ") + form->id;
    return fail(Fault::Usage, "There is no form “" + name + "”; there are " + known + ".");
}

/// A piece by its id, or the first one of a form.
Result<PiecePtr> pieceNamed(const Release& release, const std::string& name) {
    if (name.empty() && !release.pieces.empty()) return release.pieces.front();
    if (PiecePtr piece = release.piece(name)) return piece;
    for (const PiecePtr& piece : release.pieces)
        if (piece->form->id == name || piece->name == name) return piece;
    return fail(Fault::Usage,
                name.empty() ? "The release holds no piece." : "The release holds no piece “" + name + "”.");
}

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

/// What is missing from what was drawn, by name, for programs to read.
Json missingJson(const Engine& engine) {
    Json out = Json::list();
    for (const MissingPicture& picture : engine.pictures.missing()) out.push_back(picture.name);
    return out;
}

/// How a command ends that has done its work, with what there is to say about it.
Result<Outcome> ended(const Result<void>& done, const std::vector<std::string>& notes = {}) {
    if (!done) return tl::unexpected(done.error());
    warn(notes);
    return notes.empty() ? Outcome::Fine : Outcome::Findings;
}

/// The same for what was drawn: pictures that are missing from it are told of.
Result<Outcome> drawn(const Engine& engine, const Result<void>& done, std::vector<std::string> notes = {}) {
    for (const MissingPicture& picture : engine.pictures.missing()) notes.push_back(picture.sentence);
    return ended(done, notes);
}

/// "spine=4mm" to a value in the unit of the form.
Result<ParameterValues> parseSet(const std::vector<std::string>& set, Unit unit) {
    ParameterValues values;
    const NameValue inMm = lengthUnitsInMm(pxPerMm({300}));
    const NameValue inPx = [](std::string_view name) {
        return name == "px" ? std::optional(1.0) : std::nullopt;
    };
    for (const std::string& item : set) {
        const size_t equals = item.find('=');
        if (equals == item.npos) return fail(Fault::Usage, "“" + item + "” is not of the form name=value.");
        auto value = evaluate(item.substr(equals + 1), unit == Unit::Mm ? inMm : inPx);
        if (!value) return tl::unexpected(value.error());
        values[item.substr(0, equals)] = *value;
    }
    return values;
}

Json pictureJson(const Engine& engine, const EncodedPicture& picture) {
    return {{"width", picture.width},
            {"height", picture.height},
            {"bytes", picture.bytes.size()},
            {"missing", missingJson(engine)}};
}

Json panelJson(const Panel& p) {
    return {{"id", p.id},          {"name", p.name},       {"x", p.onFlat.x}, {"y", p.onFlat.y},
            {"width", p.onFlat.w}, {"height", p.onFlat.h}, {"turn", p.turn}};
}

/// With how many layers each panel has, when there is a take.
Json flatJson(const Form& form, const Flat& flat, const Take* take = nullptr) {
    Json panels = Json::list(), values = Json::object();
    for (const Panel& p : flat.panels) {
        Json panel = panelJson(p);
        if (take) panel["layers"] = take->stack(p.id).size();
        panels.push_back(std::move(panel));
    }
    for (const auto& [id, value] : flat.values) values[id] = value;
    return {{"id", form.id},       {"name", form.name},     {"unit", flat.unit == Unit::Mm ? "mm" : "px"},
            {"bleed", flat.bleed}, {"safety", flat.safety}, {"parameters", values},
            {"panels", panels}};
}

std::string sized(double w, double h, Unit unit) {
    return shortNumber(w) + " × " + shortNumber(h) + (unit == Unit::Mm ? " mm" : " px");
}

void printFlat(const Form& form, const Flat& flat) {
    std::cout << form.name << " (" << form.id << ")\n";
    for (const Parameter& p : form.parameters) {
        std::cout << "  " << p.id << " = " << shortNumber(flat.values.at(p.id))
                  << (p.unit.empty() ? "" : " " + p.unit);
        if (const auto working = flat.working.find(p.id); working != flat.working.end())
            std::cout << "   (" << working->second << ")";
        std::cout << '\n';
    }
    for (const Panel& p : flat.panels)
        std::cout << "  panel " << p.id << ": " << sized(p.onFlat.w, p.onFlat.h, flat.unit) << '\n';
    std::cout << "  flat: " << sized(flat.trim().w, flat.trim().h, flat.unit) << ", bleed "
              << shortNumber(flat.bleed) << ", safety " << shortNumber(flat.safety) << '\n';
}

} // namespace

Result<Outcome> makeNew(const NewOptions& options) {
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    ReleasePtr release = std::make_shared<const Release>();
    if (!options.brief.empty()) {
        auto bytes = readFile(options.brief);
        if (!bytes) return tl::unexpected(bytes.error());
        auto brief = briefFromJson({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
        if (!brief)
            return fail(brief.error().fault,
                        "The brief “" + options.brief + "” cannot be used: " + brief.error().message + ".");
        release = withBrief(release, *brief);
    }
    for (const std::string& name : options.forms) {
        auto form = formNamed(*forms, name);
        if (!form) return tl::unexpected(form.error());
        auto next = withPiece(release, *form);
        if (!next) return tl::unexpected(next.error());
        release = *next;
    }
    if (std::error_code code; std::filesystem::exists(options.file, code))
        return fail(Fault::Unwritable,
                    "“" + options.file + "” is there already; it was left as it is. Choose another name.");
    return ended(saveProject(*release, options.file));
}

Result<Outcome> tellInfo(const InfoOptions& options) {
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    const Release& r = *file->release;
    if (options.json) {
        Json pieces = Json::list(), sources = Json::list(), fonts = Json::list();
        for (const PiecePtr& p : r.pieces) {
            Json piece = flatJson(*p->form, *p->flat, &p->take());
            piece["form"] = p->form->id;
            piece["id"] = p->id;
            piece["take"] = p->take().id;
            pieces.push_back(std::move(piece));
        }
        for (const SourcePtr& s : r.sources)
            sources.push_back({{"name", s->name},
                               {"format", s->format},
                               {"width", s->width},
                               {"height", s->height},
                               {"bytes", s->bytes->size()}});
        for (const SourcePtr& s : r.fonts)
            fonts.push_back({{"name", s->name}, {"format", s->format}, {"bytes", s->bytes->size()}});
        print(Json{{"artist", r.brief.artist},
                   {"title", r.brief.title},
                   {"catalogue", r.brief.catalogue},
                   {"tracks", r.brief.tracks.size()},
                   {"pieces", pieces},
                   {"sources", sources},
                   {"fonts", fonts}});
        return Outcome::Fine;
    }
    std::cout << visible(r.brief.artist + " · " + r.brief.title + " · " + r.brief.catalogue) << '\n';
    for (size_t i = 0; i < r.brief.tracks.size(); ++i)
        std::cout << "  " << trackNumber(r.brief.tracks, i) << "  " << visible(r.brief.tracks[i].title)
                  << "  " << durationText(r.brief.tracks[i].seconds) << '\n';
    for (const PiecePtr& p : r.pieces) {
        std::cout << visible(p->id + "  " + p->name) << ", "
                  << sized(p->flat->trim().w, p->flat->trim().h, p->flat->unit) << '\n';
        for (const Panel& panel : p->flat->panels)
            std::cout << "    " << visible(panel.name) << ": " << p->take().stack(panel.id).size()
                      << " layers\n";
    }
    for (const SourcePtr& s : r.sources)
        std::cout << "picture " << visible(s->name) << ", " << s->width << " × " << s->height << " px, "
                  << s->bytes->size() << " bytes\n";
    for (const SourcePtr& s : r.fonts)
        std::cout << "font " << visible(s->name) << ", " << s->bytes->size() << " bytes\n";
    return Outcome::Fine;
}

Result<Outcome> listForms(const FormsOptions& options) {
    auto forms = shippedForms();
    if (!forms) return tl::unexpected(forms.error());
    FormList shown = *forms;
    if (!options.name.empty()) {
        auto form = formNamed(*forms, options.name);
        if (!form) return tl::unexpected(form.error());
        shown = {*form};
    } else if (!options.set.empty()) {
        return fail(Fault::Usage, "--set needs the name of one form.");
    }
    Json all = Json::list();
    for (const auto& form : shown) {
        auto values = parseSet(options.set, form->unit);
        if (!values) return tl::unexpected(values.error());
        auto flat = workOut(*form, *values);
        if (!flat) return tl::unexpected(flat.error());
        if (options.json)
            all.push_back(flatJson(*form, *flat));
        else
            printFlat(*form, *flat);
    }
    if (options.json) print(options.name.empty() ? all : all.as<Json::List>()->front());
    return Outcome::Fine;
}

Result<Outcome> renderPicture(const RenderOptions& options) {
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    ReleasePtr release = file->release;
    auto piece = pieceNamed(*release, options.piece);
    if (!piece) return tl::unexpected(piece.error());
    if (!options.take.empty()) {
        auto next = withTake(release, (*piece)->id, options.take);
        if (!next) return tl::unexpected(next.error());
        release = *next;
    }
    const auto format = pictureFormatOf(options.out);
    if (!format)
        return fail(Fault::Usage,
                    "“" + options.out + "” must end in .png, .jpg or .jpeg; nothing was written.");
    if (options.ppi > 0 && (*piece)->flat->unit == Unit::Px)
        return fail(Fault::Usage, (*piece)->name + " is measured in px; use --width instead of --ppi.");
    Engine engine;
    file->giveFonts(engine);
    auto picture = encodePiece(engine.renderer, release, (*piece)->id,
                               {*format, options.panel, options.width, options.ppi, options.bleed, 95});
    if (!picture) return tl::unexpected(picture.error());
    const auto written = writeFile(options.out, picture->bytes);
    if (written && options.json) print(pictureJson(engine, *picture));
    return drawn(engine, written, file->notes);
}

namespace {

Result<Outcome> exportPdf(Engine& engine, const ReleasePtr& release, const Piece& piece,
                          const ExportOptions& options) {
    const auto report = writePrintPdf(engine.renderer, release, piece.id, {}, options.out);
    if (!report) return tl::unexpected(report.error());
    if (options.json)
        print(Json{{"trimWidthMm", report->trimWidthMm},
                   {"trimHeightMm", report->trimHeightMm},
                   {"bleedMm", report->bleedMm},
                   {"ppi", report->ppi},
                   {"mostInkPercent", report->mostInk * 100},
                   {"outlinedTexts", report->outlinedTexts},
                   {"bytes", report->bytes},
                   {"missing", missingJson(engine)}});
    else
        std::cout << "trim " << sized(report->trimWidthMm, report->trimHeightMm, Unit::Mm) << ", bleed "
                  << shortNumber(report->bleedMm) << " mm, " << shortNumber(report->ppi) << " ppi, most ink "
                  << shortNumber(report->mostInk * 100, 0) << " %, " << report->bytes << " bytes\n";
    return drawn(engine, {});
}

/// One panel: the one named, else the piece's front.
Result<Outcome> exportOpenRaster(Engine& engine, const ReleasePtr& release, const Piece& piece,
                                 const ExportOptions& options) {
    const std::string panel = options.panel.empty() ? piece.flat->panels.back().id : options.panel;
    const double scale = piece.flat->unit == Unit::Px ? 1 : pxPerMm({piece.flat->ppi});
    const auto notes = writeOpenRaster(engine.renderer, release, {piece.id, panel}, {scale}, options.out);
    if (!notes) return tl::unexpected(notes.error());
    if (options.json) print(Json{{"notes", *notes}, {"missing", missingJson(engine)}});
    return drawn(engine, {}, *notes);
}

Result<Outcome> exportPicture(Engine& engine, const ReleasePtr& release, const Piece& piece,
                              const ExportOptions& options) {
    PictureOptions how;
    how.format = options.as == "png" ? PictureFormat::Png : PictureFormat::Jpeg;
    how.panel = options.panel;
    how.width = options.width;
    how.quality = options.quality;
    const auto picture = encodePiece(engine.renderer, release, piece.id, how);
    if (!picture) return tl::unexpected(picture.error());
    if (auto written = writeFile(options.out, picture->bytes); !written)
        return tl::unexpected(written.error());
    if (options.json)
        print(pictureJson(engine, *picture));
    else
        std::cout << picture->width << " × " << picture->height << " px, " << picture->bytes.size()
                  << " bytes\n";
    return drawn(engine, {});
}

} // namespace

Result<Outcome> exportPiece(const ExportOptions& options) {
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    const auto piece = pieceNamed(*file->release, options.piece);
    if (!piece) return tl::unexpected(piece.error());
    if (options.width > 0 && options.as != "jpeg" && options.as != "png")
        return fail(Fault::Usage, "--width is for JPEG and PNG; nothing was written.");
    if (!options.panel.empty() && options.as == "pdf")
        return fail(Fault::Usage, "A print file holds the whole flat, not one panel; nothing was written.");
    Engine engine;
    file->giveFonts(engine);
    const auto write = options.as == "pdf"   ? exportPdf
                       : options.as == "ora" ? exportOpenRaster
                                             : exportPicture;
    const auto done = write(engine, file->release, **piece, options);
    if (!done || file->notes.empty()) return done;
    warn(file->notes);
    return Outcome::Findings;
}

} // namespace glyptos::cli
