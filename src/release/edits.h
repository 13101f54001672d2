// Edits: pure functions from one release to the next. Each returns the release it was given when there is
// nothing to do.
#pragma once

#include "release/release.h"

#include <functional>
#include <string>

namespace glyptos {

using LayerChange = std::function<void(Layer&)>;

ReleasePtr withBrief(const ReleasePtr& release, Brief brief);

/// The release with the source, unless one with that id is there.
ReleasePtr withSource(const ReleasePtr& release, SourcePtr source);

/// A new piece of `form` with one empty take, at the end of the set. Fails when the form cannot be worked
/// out.
Result<ReleasePtr> withPiece(const ReleasePtr& release, std::shared_ptr<const Form> form,
                             const ParameterValues& values = {});
ReleasePtr withoutPiece(const ReleasePtr& release, const std::string& piece);
/// The piece's form with one figure set, or back to its standard or formula (no value). Fails when that is
/// out of range.
Result<ReleasePtr> withParameter(const ReleasePtr& release, const std::string& piece,
                                 const std::string& parameter, std::optional<double> value);

/// The piece with another of its takes as the current one. Fails when there is no such take.
Result<ReleasePtr> withTake(const ReleasePtr& release, const std::string& piece, const std::string& take);

/// `layer` put directly in front of `above` (in the same group), or at the very front when that is empty. A
/// layer without an id gets one, and so do the layers in it; the id is written to `newId` when given.
ReleasePtr withLayer(const ReleasePtr& release, const PanelRef& panel, Layer layer,
                     const std::string& above = {}, std::string* newId = nullptr);
ReleasePtr withoutLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer);
/// The layer changed by `change`; its id stays.
ReleasePtr withChangedLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                            const LayerChange& change);
/// The layer moved to `index` (0 = front) of the group, or of the panel's stack when `group` is empty. The
/// index counts as before the move. A group cannot move into itself.
ReleasePtr withMovedLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                          const std::string& group, size_t index);
/// The layer replaced by a group that holds only it.
ReleasePtr withGrouped(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                       std::string* newId = nullptr);
/// The group replaced by its layers.
ReleasePtr withUngrouped(const ReleasePtr& release, const PanelRef& panel, const std::string& group);
/// A copy of the layer, with new ids, directly in front of it.
ReleasePtr withDuplicate(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                         std::string* newId = nullptr);

} // namespace glyptos
