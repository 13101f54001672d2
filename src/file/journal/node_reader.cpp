#include "file/journal/node_reader.h"

#include "base/path_text.h"
#include "file/journal/tile_record.h"
#include "file/pictures/picture_reader.h"
#include "file/release_json/brief_codec.h"
#include "file/release_json/kept_words_codec.h"
#include "file/release_json/piece_codec.h"
#include "file/release_json/source_codec.h"
#include "file/release_json/text_codec.h"
#include "file/release_json/treatment_codec.h"
#include "release/edits/edits.h"
#include "release/walks.h"
#include "release/wall.h"

#include <cstring>
#include <deque>
#include <stdexcept>
#include <xxhash.h>

namespace glyptos {
namespace {

constexpr size_t kNameBytes = 16, kIdCharacters = 32, kMostText = size_t(256) << 20;

TileFacts factsOf(const TileRecord& record) {
    TileFacts out;
    out.format = {record.channels, record.bytesPerSample};
    out.hash = {record.hash[0], record.hash[1]};
    out.used = {record.used[0], record.used[1], record.used[2], record.used[3]};
    out.farthest = record.farthest;
    return out;
}

bool isKnown(const PixelFormat& format) {
    const auto& [channels, bytes] = format;
    return (bytes == 4 && channels == 2) ||
           ((bytes == 1 || bytes == 2) && (channels == 1 || channels == 2 || channels == 4));
}

} // namespace

void NodeIndex::take(const Record& record, std::span<const uint8_t> payload) {
    const auto textOf = [&](size_t n) {
        return std::string(reinterpret_cast<const char*>(payload.data()), std::min(n, payload.size()));
    };
    if (record.kind == RecordKind::Node && payload.size() > kNameBytes)
        nodes[toHexDigits(textOf(kNameBytes))] = {record.kind, record.at + kNameBytes,
                                                  record.size - kNameBytes};
    if (record.kind == RecordKind::Tile && payload.size() > sizeof(TileRecord)) {
        TileRecord tile;
        std::memcpy(&tile, payload.data(), sizeof tile);
        const TileFacts facts = factsOf(tile);
        if (isKnown(facts.format))
            tiles[tileName(facts.hash)] = {facts,
                                           {record.kind, record.at + sizeof tile, record.size - sizeof tile}};
    }
    if (record.kind == RecordKind::Look)
        if (const size_t end = textOf(payload.size()).find('\0'); end != std::string::npos)
            looks[textOf(end)] = {record.kind, record.at + end + 1, record.size - end - 1};
    if (record.kind == RecordKind::Picture && payload.size() > kIdCharacters)
        pictures[textOf(kIdCharacters)] = {record.kind, record.at + kIdCharacters,
                                           record.size - kIdCharacters};
    if (record.kind == RecordKind::PictureAt)
        // What cannot be read is a picture that is not found.
        [[maybe_unused]]
        const auto read = guarded(textOf(payload.size()), "picture", [&](const Entry& e) {
            const std::string id = e.text("id");
            spots[id].push_back(
                {pathFromText(e.text("file")), e.flag("inRelease"), readStamp(e.at("stamp"))});
            spotSizes[id] = size_t(e.between("size", 1, double(kMostFileBytes)));
            return true;
        });
}

Holdings NodeIndex::holdings() const {
    Holdings out;
    for (const auto& [name, record] : nodes) out.insert("n" + name);
    for (const auto& [name, tile] : tiles) out.insert("t" + name);
    for (const auto& [name, record] : looks) out.insert("l" + name);
    for (const auto& [id, record] : pictures) out.insert("p" + id);
    return out;
}

/// Pixels that stay in the journal until they are looked at.
class NodeReader::Tiles : public TileStore {
  public:
    explicit Tiles(std::shared_ptr<const AppendFile> file)
        : file_(std::move(file)) {}

    size_t add(const NodeIndex::Tile& tile) {
        kept_.push_back(tile);
        return kept_.size() - 1;
    }

    void get(size_t at, TileLevels& levels) const override {
        const NodeIndex::Tile& tile = kept_.at(at);
        const auto bytes = readPayload(*file_, tile.packed.at, tile.packed.size);
        const auto pixels = bytes ? unpacked(*bytes, levels[0].size()) : bytes;
        if (!pixels || pixels->size() != levels[0].size())
            throw std::runtime_error("Painted pixels cannot be read from the journal any more.");
        std::memcpy(levels[0].data(), pixels->data(), pixels->size());
        levels = tileLevels(tile.facts.format, std::move(levels[0]));
    }
    void forget(size_t, size_t) override {}

  private:
    std::shared_ptr<const AppendFile> file_;
    std::deque<NodeIndex::Tile> kept_; ///< complete before any of them is read
};

/// The bytes of a picture: in the journal, or in files that it names.
class NodeReader::PicturePlace : public PictureBytes::Place {
  public:
    PicturePlace(std::shared_ptr<const AppendFile> file, std::optional<Record> held,
                 std::vector<PictureSpot> spots, const Source& source)
        : file_(std::move(file))
        , held_(held)
        , spots_(std::move(spots)) {
        source_.id = source.id, source_.format = source.format;
    }

    Result<PictureBytes::Held> read() const override {
        if (held_) {
            auto bytes = readPayload(*file_, held_->at, held_->size);
            if (bytes && contentId(*bytes) == source_.id)
                return std::make_shared<const std::vector<uint8_t>>(std::move(*bytes));
        }
        Result<PictureBytes::Held> out = fail(Fault::NotFound, "its bytes are not there any more");
        for (auto spot = spots_.rbegin(); spot != spots_.rend(); ++spot)
            if (out = readSpot(*spot, source_); out) return out;
        return out;
    }

  private:
    std::shared_ptr<const AppendFile> file_;
    std::optional<Record> held_;
    std::vector<PictureSpot> spots_;
    Source source_; ///< its id and format
};

NodeReader::NodeReader(std::shared_ptr<const AppendFile> file, std::shared_ptr<const NodeIndex> index,
                       FormList forms)
    : file_(std::move(file))
    , index_(std::move(index))
    , forms_(std::move(forms))
    , store_(std::make_shared<Tiles>(file_)) {}

void NodeReader::share(const Release& known) {
    NodeWriter names = NodeWriter::naming();
    for (const SourcePtr& source : filesOf(known)) sources_[names.nameOf(source)] = source;
    if (known.keptWords) keptWords_[names.nameOf(known.keptWords)] = known.keptWords;
    const auto add = [&](const Stack& stack, Unit unit) {
        eachLayer(stack, [&](const LayerPtr& layer) { layers_[{names.nameOf(layer, unit), unit}] = layer; });
    };
    for (const PiecePtr& piece : known.pieces) {
        pieces_[names.nameOf(piece)] = piece;
        for (const auto& take : piece->takes)
            for (const auto& [panel, stack] : take->stacks) add(stack, piece->flat->unit);
    }
    add(known.wall->take().stack(kWallId), known.wall->flat->unit);
    eachPainted(known, [&](const PixelTiles& painted) {
        for (const auto& [place, tile] : painted.tiles()) tiles_[tileName(tile->hash())] = tile;
    });
}

std::string NodeReader::text(const std::string& name) const {
    const auto found = index_->nodes.find(name);
    if (found == index_->nodes.end()) throw Wrong{Fault::Damaged, "“" + name + "” is missing in the journal"};
    const auto bytes = readPayload(*file_, found->second.at, found->second.size);
    const auto text = bytes ? unpacked(*bytes, kMostText) : bytes;
    if (!text) throw Wrong{Fault::Damaged, "“" + name + "” cannot be read from the journal"};
    return {text->begin(), text->end()};
}

/// What read(entry) gives for the node of that name.
template <class Read>
auto NodeReader::node(const std::string& name, const char* what, Read read) {
    struct Deeper {
        int& depth;
        explicit Deeper(int& d)
            : depth(d) {
            if (++depth > 2 * kDeepestGroup) throw Wrong{Fault::TooLarge, "groups are nested too deeply"};
        }
        ~Deeper() { --depth; }
        Deeper(const Deeper&) = delete;
        Deeper& operator=(const Deeper&) = delete;
    };
    const Deeper deeper(depth_);
    auto out = guarded(text(name), what, read);
    if (!out) throw Wrong{out.error().fault, out.error().message};
    return std::move(*out);
}

LayerReading NodeReader::readingFor(const Release& release) {
    LayerReading out{release, {}, {}};
    out.tiles = [this](const std::string& name, const PixelFormat& format) { return tile(name, format); };
    out.looks = [this](const std::string& name) { return look(name); };
    out.namedLayer = [this](const Entry& name, const LayerReading& around) {
        return layer(name.text(), around);
    };
    out.namedTake = [this, &release](const Entry& name, const Piece& piece) {
        return take(name.text(), piece, release);
    };
    return out;
}

LayerPtr NodeReader::layer(const std::string& name, const LayerReading& around) {
    LayerPtr& kept = layers_[{name, around.unit}];
    if (kept) return kept;
    LayerReading reading = readingFor(around.release);
    reading.area = around.area, reading.unit = around.unit;
    LayerPtr made = node(name, "layer", [&](const Entry& e) { return readLayer(e, reading); });
    return layers_[{name, around.unit}] = std::move(made);
}

std::shared_ptr<const Take> NodeReader::take(const std::string& name, const Piece& piece,
                                             const Release& release) {
    const std::pair key(name, piece.form->id);
    if (const auto kept = takes_.find(key); kept != takes_.end()) return kept->second;
    LayerReading reading = readingFor(release);
    return takes_[key] = node(name, "take", [&](const Entry& e) { return readTake(e, piece, reading); });
}

PiecePtr NodeReader::piece(const std::string& name, const Release& release) {
    if (const auto kept = pieces_.find(name); kept != pieces_.end()) return kept->second;
    LayerReading reading = readingFor(release);
    return pieces_[name] = node(name, "piece", [&](const Entry& e) { return readPiece(e, reading, forms_); });
}

SourcePtr NodeReader::source(const std::string& name, SourcePtr (*read)(const Entry&)) {
    if (const auto kept = sources_.find(name); kept != sources_.end()) return kept->second;
    auto made = std::make_shared<Source>(*node(name, "file", read));
    addPicture(*made);
    return sources_[name] = std::move(made);
}

KeptWordsList NodeReader::keptWords(const std::string& name) {
    if (const auto known = keptWords_.find(name); known != keptWords_.end()) return known->second;
    return keptWords_[name] = node(name, "kept words", [](const Entry& list) { return readAllKept(list); });
}

void NodeReader::addPicture(Source& source) const {
    const auto held = index_->pictures.find(source.id);
    const auto spots = index_->spots.find(source.id);
    const bool isHeld = held != index_->pictures.end(), isElsewhere = spots != index_->spots.end();
    const size_t size = isHeld ? held->second.size : isElsewhere ? index_->spotSizes.at(source.id) : 0;
    source.bytes = std::make_shared<const PictureBytes>(
        size, std::make_shared<const PicturePlace>(file_, isHeld ? std::optional(held->second) : std::nullopt,
                                                   isElsewhere ? spots->second : std::vector<PictureSpot>(),
                                                   source));
}

Result<PixelTilePtr> NodeReader::tile(const std::string& name, const PixelFormat& format) {
    if (const auto kept = tiles_.find(name); kept != tiles_.end()) return kept->second;
    const auto found = index_->tiles.find(name);
    if (found == index_->tiles.end() || !(found->second.facts.format == format))
        return fail(Fault::Damaged, "the tile “" + name + "” is missing in the journal");
    return tiles_[name] =
               std::make_shared<const PixelTile>(found->second.facts, store_, store_->add(found->second));
}

Result<LookTablePtr> NodeReader::look(const std::string& name) {
    if (const auto kept = looks_.find(name); kept != looks_.end()) return kept->second;
    const auto found = index_->looks.find(name);
    if (found == index_->looks.end()) return fail(Fault::Damaged, "“" + name + "” is missing in the journal");
    const auto bytes = readPayload(*file_, found->second.at, found->second.size);
    const auto text = bytes ? unpacked(*bytes, kMostText) : bytes;
    if (!text) return tl::unexpected(text.error());
    auto table = lookTableFromCube({reinterpret_cast<const char*>(text->data()), text->size()});
    if (!table) return tl::unexpected(table.error());
    return looks_[name] = kept(std::move(*table));
}

void NodeReader::readInto(Release& release, const Entry& root) {
    release.brief = node(root.text("brief"), "brief", [](const Entry& e) { return readBrief(e); });
    release.linearLight = root.flag("linearLight");
    root.each("palette", [&](const Entry& swatch) { release.palette.push_back(readSwatch(swatch)); });
    if (root.has("textStyles"))
        root.each("textStyles",
                  [&](const Entry& style) { release.textStyles.push_back(readTextStyle(style)); });
    for (const std::string& name : node(root.text("sources"), "sources", [](const Entry& list) {
             std::vector<std::string> names;
             list.each([&](const Entry& name) { names.push_back(name.text()); });
             return names;
         }))
        release.sources.push_back(source(name, readPictureFile));
    if (root.has("fonts"))
        for (const std::string& name : root.texts("fonts"))
            release.fonts.push_back(source(name, readFontFile));
    if (root.has("keptWords")) release.keptWords = keptWords(root.text("keptWords"));
    for (const std::string& name : root.texts("pieces")) release.pieces.push_back(piece(name, release));
    auto wall = std::make_shared<Piece>(*release.wall);
    auto take = std::make_shared<Take>(wall->take());
    LayerReading reading = readingFor(release);
    reading.area = wall->flat->panels.front().withBleed();
    reading.unit = wall->flat->unit;
    take->stacks[kWallId] = readStack(root.at("wall"), reading);
    wall->takes.front() = std::move(take);
    release.wall = std::move(wall);
}

Result<ReleasePtr> NodeReader::release(const std::string& root, int nextId) {
    auto out = std::make_shared<Release>();
    out->nextId = nextId;
    const auto read = caught([&]() -> Result<bool> {
        try {
            return guarded(text(root), "release", [&](const Entry& e) {
                readInto(*out, e);
                return true;
            });
        } catch (const Wrong& wrong) {
            return fail(wrong.fault, wrong.what);
        }
    });
    if (!read) return tl::unexpected(read.error());
    return out;
}

} // namespace glyptos
