#include "cli/commands.h"
#include "cli/opened.h"
#include "cli/saying.h"

#include "base/text.h"
#include "render/fit/seams.h"

#include <iostream>

namespace glyptos::cli {
namespace {

Json seamJson(const Piece& piece, const Seam& seam) {
    Json out{{"piece", piece.id},
             {"fold", seam.fold},
             {"panels", Json::list()},
             {"hasArt", seam.hasArt},
             {"alike", seam.alike},
             {"step", seam.step},
             {"stepOnceAligned", seam.least},
             {"unit", piece.flat->unit == Unit::Mm ? "mm" : "px"},
             {"said", sentenceOf(seam, piece.flat->unit)}};
    out["panels"].push_back(seam.one), out["panels"].push_back(seam.other);
    if (!seam.otherPiece.empty()) out["otherPiece"] = seam.otherPiece;
    if (seam.offset) out["offset"] = *seam.offset;
    return out;
}

} // namespace

Result<Outcome> tellSeams(const SeamsOptions& options) {
    const auto file = opened(options.file);
    if (!file) return tl::unexpected(file.error());
    std::vector<PiecePtr> pieces = file->release->pieces;
    if (!options.piece.empty()) {
        auto one = pieceNamed(*file->release, options.piece);
        if (!one) return tl::unexpected(one.error());
        pieces = {*one};
    }
    Engine engine;
    file->giveFonts(engine);
    bool off = false;
    Json all = Json::list();
    for (const PiecePtr& piece : pieces)
        for (const Seam& seam : seamsOf(engine.renderer, file->release, piece->id)) {
            off = off || isOff(seam, piece->flat->unit);
            if (options.json)
                all.push_back(seamJson(*piece, seam));
            else
                std::cout << visible(piece->name) << ", " << seam.one << " to "
                          << (seam.otherPiece.empty() ? seam.other : visible(seam.otherName)) << ": "
                          << sentenceOf(seam, piece->flat->unit) << '\n';
        }
    if (options.json) print(all);
    const auto done = drawn(engine, {}, file->notes);
    return done && off ? Result<Outcome>(Outcome::Findings) : done;
}

} // namespace glyptos::cli
