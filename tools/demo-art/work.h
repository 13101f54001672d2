// The demo's release as takes are made for it, and what looking at it needs.
#pragma once

#include "file/data_folder.h"
#include "file/pictures/picture_store.h"
#include "release/edits/edits.h"
#include "render/layer_geometry.h"
#include "render/painting.h"
#include "render/renderer.h"

namespace glyptos::demo {

/// Works on the front of the first piece, until another panel is set.
class Work {
  public:
    explicit Work(ReleasePtr release);
    ReleasePtr release() const { return release_; }

  protected:
    /// A new take of that piece, made from another, calls make(), and leaves the take current that was.
    Result<void> inNewTake(const std::string& from, const std::function<Result<void>()>& make);
    const Stack& stack() const { return stackOf(*release_, panel_); }
    std::string named(const std::string& name) const;
    SourcePtr source(const std::string& name) const;
    Layer pictureLayer(const std::string& name, const std::string& file, Vec2 at, double scale) const;
    std::string put(Layer layer, const std::string& above = {});
    /// All but those of these names go.
    void keepOnly(const std::vector<std::string>& names);
    /// Decoded as fine as it is.
    PyramidPtr decoded(const Source& source);
    Picture rendered(const Scene& scene, const IntRect& area);
    Rect boundsOf(const std::string& id);
    static Selection along(const std::vector<Vec2>& corners, double soft);

    static constexpr Rect kPanel{0, 0, 3000, 3000};
    ReleasePtr release_;
    PanelRef panel_;
    PictureStore pictures_;
    FontLibrary fonts_{dataFolder() / "fonts"};

  private:
    void wait() const;
};

} // namespace glyptos::demo
