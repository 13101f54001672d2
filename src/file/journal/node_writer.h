// From releases to records: each node, tile, table and picture once, named by what is in it.
#pragma once

#include "file/journal/picture_spot.h"
#include "file/journal/records.h"
#include "file/release_json/layer_codec.h"
#include "type/kept_words.h"

#include <map>
#include <string>
#include <unordered_map>
#include <unordered_set>

namespace glyptos {

/// What a journal holds already, by name: "n…" of nodes, "t…" of tiles, "l…" of tables, "p…" of the bytes of
/// pictures.
using Holdings = std::unordered_set<std::string>;

class NodeWriter {
  public:
    explicit NodeWriter(Holdings held = {})
        : held_(std::move(held)) {}

    /// The name of the release's root. Records of all it is made of and that are not there yet are added to
    /// `out`; commit() says that they have been written, rollBack() that they have not.
    std::string write(const Release& release, const PictureSpots& spots, RecordSink& out);
    /// Adds the bytes of pictures that were said to be in files for which `isGoing` says that they will not
    /// be there any more, or are not already.
    void secure(const std::function<bool(const Source&, const PictureSpot&)>& isGoing, RecordSink& out);
    /// A release has been saved, and is in that file now.
    void isSaved(const Release& release, const PictureSpot& spot);
    /// One that gives names and no records.
    static NodeWriter naming();
    /// The names of what a journal may hold of a release, to find it again.
    std::string nameOf(const LayerPtr& layer, Unit unit);
    std::string nameOf(const PiecePtr& piece);
    std::string nameOf(const SourcePtr& source);
    std::string nameOf(const KeptWordsList& kept);
    std::string nameOf(const Release& release);
    void commit();
    void rollBack();

  private:
    struct Named {
        std::weak_ptr<const void> node;
        std::string name;
    };
    struct Elsewhere {
        SourcePtr source;
        PictureSpot spot;
    };
    std::string put(const Json& node, RecordSink& out);
    std::string named(const LayerPtr& layer, Unit unit, RecordSink& out);
    std::string named(const PiecePtr& piece, RecordSink& out);
    std::string named(const SourcePtr& source, const PictureSpots& spots, RecordSink& out);
    std::string named(const KeptWordsList& kept, RecordSink& out);
    NodeTelling telling(RecordSink& out);
    template <class Node, class Write>
    std::string remembered(const Node& node, size_t sort, Write write);
    void putTiles(const PixelTiles& tiles, RecordSink& out);
    void putLooks(const Layer& layer, RecordSink& out);
    void putPicture(const SourcePtr& source, const PictureSpots& spots, RecordSink& out);
    bool putBytes(const Source& source, RecordSink& out);
    bool isNew(const std::string& name);

    Holdings held_, fresh_; ///< written; in records that may come to nothing
    std::map<std::pair<const void*, size_t>, Named> names_;
    std::map<std::string, Elsewhere> elsewhere_; ///< by id of the picture
    std::map<std::string, Elsewhere> leaving_;   ///< of those: secured, but that is not written yet
    size_t prunedAt_ = 0;
    bool namesAlone_ = false;
};

} // namespace glyptos
