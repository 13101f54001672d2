// From records to releases. What two steps have in common they share.
#pragma once

#include "file/journal/node_writer.h"
#include "file/project.h"

namespace glyptos {

/// Where the nodes of a journal lie.
struct NodeIndex {
    struct Tile {
        TileFacts facts;
        Record packed; ///< without what stands before the pixels
    };
    std::map<std::string, Record> nodes, looks, pictures;
    std::map<std::string, Tile> tiles;
    std::map<std::string, std::vector<PictureSpot>> spots; ///< the latest last
    std::map<std::string, size_t> spotSizes;               ///< bytes of those pictures

    /// Takes up a record and its payload.
    void take(const Record& record, std::span<const uint8_t> payload);
    Holdings holdings() const;
};

class NodeReader {
  public:
    NodeReader(std::shared_ptr<const AppendFile> file, std::shared_ptr<const NodeIndex> index,
               FormList forms);
    /// Layers, pieces, pictures and kept words that are alike in it will be its own.
    void share(const Release& known);
    /// The release of a root. Fails with a part of a sentence.
    [[nodiscard]] Result<ReleasePtr> release(const std::string& root, int nextId);

  private:
    class Tiles;
    class PicturePlace;
    std::string text(const std::string& name) const;
    template <class Read>
    auto node(const std::string& name, const char* what, Read read);
    LayerPtr layer(const std::string& name, const LayerReading& around);
    std::shared_ptr<const Take> take(const std::string& name, const Piece& piece, const Release& release);
    PiecePtr piece(const std::string& name, const Release& release);
    SourcePtr source(const std::string& name, SourcePtr (*read)(const Entry&));
    KeptWordsList keptWords(const std::string& name);
    void addPicture(Source& source) const;
    LayerReading readingFor(const Release& release);
    Result<PixelTilePtr> tile(const std::string& name, const PixelFormat& format);
    Result<LookTablePtr> look(const std::string& name);
    void readInto(Release& release, const Entry& root);

    std::shared_ptr<const AppendFile> file_;
    std::shared_ptr<const NodeIndex> index_;
    FormList forms_;
    std::shared_ptr<Tiles> store_;
    std::map<std::pair<std::string, Unit>, LayerPtr> layers_;
    std::map<std::pair<std::string, std::string>, std::shared_ptr<const Take>> takes_; ///< by name and form
    std::map<std::string, PiecePtr> pieces_;
    std::map<std::string, SourcePtr> sources_;
    std::map<std::string, KeptWordsList> keptWords_;
    std::map<std::string, PixelTilePtr> tiles_;
    std::map<std::string, LookTablePtr> looks_;
    int depth_ = 0;
};

} // namespace glyptos
