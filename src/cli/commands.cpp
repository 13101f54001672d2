#include "cli/commands.h"
#include "cli/form_saying.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "file/dieline/own_forms.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/store_picture.h"
#include "file/project.h"
#include "file/release_json/release_json.h"
#include "release/edits/edits.h"
#include "release/fields.h"

#include <iostream>

namespace glyptos::cli {

Result<Outcome> makeNew(const NewOptions& options) {
    std::vector<std::string> notes;
    auto forms = allForms(notes);
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
    return ended(saveProject(*release, options.file), notes);
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
                  << sized(p->flat->sheets[0].trim.w, p->flat->sheets[0].trim.h, p->flat->unit) << '\n';
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

} // namespace glyptos::cli
