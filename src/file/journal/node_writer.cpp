#include "file/journal/node_writer.h"

#include "base/path_text.h"
#include "file/disk/atomic_file.h"
#include "file/journal/tile_record.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/brief_codec.h"
#include "file/release_json/kept_words_codec.h"
#include "file/release_json/piece_codec.h"
#include "file/release_json/source_codec.h"
#include "file/release_json/text_codec.h"
#include "file/release_json/treatment_codec.h"
#include "release/walks.h"
#include "release/wall.h"

namespace glyptos {
namespace {

template <class T>
std::span<const uint8_t> rawBytes(const T& value) {
    return {reinterpret_cast<const uint8_t*>(&value), sizeof value};
}

/// Of one that gives names alone nothing comes.
RecordSink toNowhere() {
    return RecordSink([](std::span<const uint8_t>) { return Result<void>(); });
}

} // namespace

bool NodeWriter::isNew(const std::string& name) {
    return !namesAlone_ && !held_.contains(name) && fresh_.insert(name).second;
}

void NodeWriter::commit() {
    held_.merge(fresh_);
    fresh_.clear();
    leaving_.clear();
    if (names_.size() < 2 * prunedAt_ + 1000) return;
    std::erase_if(names_, [](const auto& known) { return known.second.node.expired(); });
    prunedAt_ = names_.size();
}

void NodeWriter::rollBack() {
    fresh_.clear();
    names_.clear(); // they may stand for nodes that are not there
    elsewhere_.merge(leaving_);
    leaving_.clear();
    std::erase_if(elsewhere_, [&](const auto& one) { return !held_.contains("p" + one.first); });
}

/// Names are kept by address, which is not another's as long as something knows of it.
template <class Node, class Write>
std::string NodeWriter::remembered(const Node& node, size_t sort, Write write) {
    Named& known = names_[{node.get(), sort}];
    if (known.node.expired()) known = {node, write()};
    return known.name;
}

std::string NodeWriter::put(const Json& node, RecordSink& out) {
    const std::string text = node.dump();
    std::string name = contentId(bytesOf(text));
    if (isNew("n" + name)) {
        out.add(RecordKind::Node, {bytesOf(*fromHexDigits(name)), packed(bytesOf(text))});
    }
    return name;
}

NodeTelling NodeWriter::telling(RecordSink& out) {
    NodeTelling tell;
    tell.layer = [this, &out](const LayerPtr& layer, Unit unit) { return Json(named(layer, unit, out)); };
    tell.take = [this, &out](const std::shared_ptr<const Take>& take, const Piece& piece) {
        return Json(put(toJson(*take, piece, telling(out)), out));
    };
    return tell;
}

std::string NodeWriter::named(const LayerPtr& layer, Unit unit, RecordSink& out) {
    return remembered(layer, size_t(unit), [&] {
        eachPainted(*layer, [&](const PixelTiles& tiles) { putTiles(tiles, out); });
        putLooks(*layer, out);
        return put(toJson(*layer, unit, telling(out)), out);
    });
}

std::string NodeWriter::named(const PiecePtr& piece, RecordSink& out) {
    return remembered(piece, 0, [&] {
        for (const auto& [panel, selections] : piece->selections)
            eachPainted(selections, [&](const PixelTiles& tiles) { putTiles(tiles, out); });
        return put(toJson(*piece, telling(out)), out);
    });
}

std::string NodeWriter::named(const SourcePtr& source, const PictureSpots& spots, RecordSink& out) {
    return remembered(source, 0, [&] {
        putPicture(source, spots, out);
        return put(toJson(*source), out);
    });
}

std::string NodeWriter::named(const KeptWordsList& kept, RecordSink& out) {
    return remembered(kept, 0, [&] { return put(toJson(kept), out); });
}

void NodeWriter::putTiles(const PixelTiles& tiles, RecordSink& out) {
    for (const auto& [place, tile] : tiles.tiles()) {
        if (!isNew("t" + tileName(tile->hash()))) continue;
        const auto pixels = tile->pixels();
        const Buffer<uint8_t>& first = pixels->front();
        TileRecord record;
        std::copy_n(tile->hash().begin(), 2, record.hash);
        const IntRect used = tile->used();
        record.used[0] = used.x, record.used[1] = used.y, record.used[2] = used.w, record.used[3] = used.h;
        record.farthest = tile->farthest();
        record.channels = uint8_t(tiles.format().channels);
        record.bytesPerSample = uint8_t(tiles.format().bytesPerSample);
        out.add(RecordKind::Tile, {rawBytes(record), packed({first.data(), first.size()})});
    }
}

void NodeWriter::putLooks(const Layer& layer, RecordSink& out) {
    if (!layer.treatments) return;
    for (const Treatment& treatment : *layer.treatments)
        for (const FigureValue& value : treatment.figures.values()) {
            const auto* table = std::get_if<LookTablePtr>(&value);
            if (!table || !*table || !isNew("l" + lookName(**table))) continue;
            const std::string name = lookName(**table) + '\0', text = cubeText(**table);
            out.add(RecordKind::Look, {bytesOf(name), packed(bytesOf(text))});
        }
}

void NodeWriter::putPicture(const SourcePtr& source, const PictureSpots& spots, RecordSink& out) {
    if (!source->bytes || !isNew("p" + source->id)) return;
    const auto spot = spots ? spots(*source) : std::nullopt;
    if (!spot || !isAsSeen(*spot)) {
        if (!putBytes(*source, out)) fresh_.erase("p" + source->id);
        return;
    }
    const Json where{{"id", source->id},
                     {"file", pathText(spot->file.native())},
                     {"size", source->bytes->size()},
                     {"inRelease", spot->inRelease},
                     {"stamp", toJson(spot->stamp)}};
    out.add(RecordKind::PictureAt, {bytesOf(where.dump())});
    elsewhere_[source->id] = {source, *spot};
}

/// False when they cannot be read: a picture that is lost keeps nothing else from being written down.
bool NodeWriter::putBytes(const Source& source, RecordSink& out) {
    const auto bytes = source.bytes->read();
    if (bytes) out.add(RecordKind::Picture, {bytesOf(source.id), **bytes});
    return bytes.has_value();
}

void NodeWriter::isSaved(const Release& release, const PictureSpot& spot) {
    for (const SourcePtr& source : filesOf(release))
        if (const auto there = elsewhere_.find(source->id);
            there != elsewhere_.end() && there->second.spot.file == spot.file)
            there->second.spot = spot;
}

void NodeWriter::secure(const std::function<bool(const Source&, const PictureSpot&)>& isGoing,
                        RecordSink& out) {
    std::erase_if(elsewhere_, [&](const auto& one) {
        const auto& [source, spot] = one.second;
        if (!isGoing(*source, spot)) return false;
        if (putBytes(*source, out)) leaving_.insert(one);
        return true;
    });
}

NodeWriter NodeWriter::naming() {
    NodeWriter out;
    out.namesAlone_ = true;
    return out;
}

std::string NodeWriter::nameOf(const LayerPtr& layer, Unit unit) {
    RecordSink nowhere = toNowhere();
    return named(layer, unit, nowhere);
}

std::string NodeWriter::nameOf(const PiecePtr& piece) {
    RecordSink nowhere = toNowhere();
    return named(piece, nowhere);
}

std::string NodeWriter::nameOf(const SourcePtr& source) {
    return contentId(bytesOf(toJson(*source).dump()));
}

std::string NodeWriter::nameOf(const KeptWordsList& kept) {
    RecordSink nowhere = toNowhere();
    return named(kept, nowhere);
}

std::string NodeWriter::nameOf(const Release& release) {
    RecordSink nowhere = toNowhere();
    return write(release, {}, nowhere);
}

std::string NodeWriter::write(const Release& release, const PictureSpots& spots, RecordSink& out) {
    Json palette = Json::list(), styles = Json::list(), sources = Json::list(), pieces = Json::list(),
         fonts = Json::list();
    for (const Swatch& swatch : release.palette) palette.push_back(toJson(swatch));
    for (const TextStyle& style : release.textStyles) styles.push_back(toJson(style));
    for (const SourcePtr& source : release.sources) sources.push_back(named(source, spots, out));
    for (const SourcePtr& font : release.fonts) fonts.push_back(named(font, spots, out));
    for (const PiecePtr& piece : release.pieces) pieces.push_back(named(piece, out));
    const std::string brief = put(toJson(release.brief), out);
    const std::string listed = put(sources, out);
    Json root{{"brief", brief},
              {"linearLight", release.linearLight},
              {"palette", std::move(palette)},
              {"textStyles", std::move(styles)},
              {"sources", listed},
              {"pieces", std::move(pieces)},
              {"wall", toJson(release.wall->take().stack(kWallId), release.wall->flat->unit, telling(out))}};
    if (!release.fonts.empty()) root["fonts"] = std::move(fonts);
    if (release.keptWords) root["keptWords"] = named(release.keptWords, out);
    return put(root, out);
}

} // namespace glyptos
