// Edits: pure functions from one release to the next. Each returns the release it was given when there is
// nothing to do.
#pragma once

#include "release/release.h"

#include <functional>
#include <string>
#include <vector>

namespace glyptos {

/// Groups inside groups, counted from the panel's stack.
inline constexpr int kDeepestGroup = 64;

using LayerChange = std::function<void(Layer&)>;

/// The next release and the id of what is new in it: a layer or a take; no id when there was nothing to do.
/// Stands for the release where only that is wanted.
struct Made {
    ReleasePtr release;
    std::string id;
    operator ReleasePtr() const { return release; }
};

[[nodiscard]] ReleasePtr withBrief(const ReleasePtr& release, Brief brief);

/// The release with the source, unless one with that id is there.
[[nodiscard]] ReleasePtr withSource(const ReleasePtr& release, SourcePtr source);

/// The release with the font file, unless one with that id is there; and without it.
[[nodiscard]] ReleasePtr withFont(const ReleasePtr& release, SourcePtr font);
[[nodiscard]] ReleasePtr withoutFont(const ReleasePtr& release, const std::string& font);

/// What is known of a source changed.
[[nodiscard]] ReleasePtr withFacts(const ReleasePtr& release, const std::string& source,
                                   const SourceFacts& facts);
/// The release without the sources that nothing in it shows: no take, mask, reference, nor the wall.
[[nodiscard]] ReleasePtr withoutUnusedSources(const ReleasePtr& release);

/// A new piece of `form` with one empty take, at the end of the set, under a name of its own. Fails when the
/// form cannot be worked out.
[[nodiscard]] Result<ReleasePtr> withPiece(const ReleasePtr& release, std::shared_ptr<const Form> form,
                                           const ParameterValues& values = {});
[[nodiscard]] ReleasePtr withoutPiece(const ReleasePtr& release, const std::string& piece);
/// The piece's form with one figure set, or back to its standard or formula (no value). Fails when that is
/// out of range.
[[nodiscard]] Result<ReleasePtr> withParameter(const ReleasePtr& release, const std::string& piece,
                                               const std::string& parameter, std::optional<double> value);
/// Why a figure that could be worked out is set by hand; empty: not said. It goes with the figure.
[[nodiscard]] ReleasePtr withReason(const ReleasePtr& release, const std::string& piece,
                                    const std::string& parameter, const std::string& reason);

/// The piece made to another form: figures that this has too stay; art stays on the panels of the same ids,
/// and is kept for those that are gone. Fails when the form cannot be worked out.
[[nodiscard]] Result<ReleasePtr> withForm(const ReleasePtr& release, const std::string& piece,
                                          std::shared_ptr<const Form> form);

/// The piece with another of its takes as the current one. Fails when there is no such take.
[[nodiscard]] Result<ReleasePtr> withTake(const ReleasePtr& release, const std::string& piece,
                                          const std::string& take);

/// A new take, a copy of the current one with new layer ids, as the current one. It gets the first free
/// letter.
[[nodiscard]] Made withNewTake(const ReleasePtr& release, const std::string& piece);
/// The piece without that take; the current one becomes the take before it. The last take stays.
[[nodiscard]] ReleasePtr withoutTake(const ReleasePtr& release, const std::string& piece,
                                     const std::string& take);
/// A copy of the layer at the front of the same panel of another take. Nothing changes when there is no such
/// layer or take.
[[nodiscard]] ReleasePtr withLayerInTake(const ReleasePtr& release, const PanelRef& panel,
                                         const std::string& layer, const std::string& take);
/// `take`, from another state of the release, as a new take of the piece and its current one. Nothing changes
/// when the piece is gone.
[[nodiscard]] Made withTakeFrom(const ReleasePtr& release, const std::string& piece, const Take& take);

[[nodiscard]] ReleasePtr withLinearLight(const ReleasePtr& release, bool linear);
/// The reference picture of a panel, or none.
[[nodiscard]] ReleasePtr withReference(const ReleasePtr& release, const PanelRef& panel,
                                       const std::optional<Reference>& reference);

/// `layer` put directly in front of `above` (in the same group), or at the very front when that is empty or
/// when groups would be nested more than kDeepestGroup deep there. A layer without an id gets one, and so do
/// the layers in it.
[[nodiscard]] Made withLayer(const ReleasePtr& release, const PanelRef& panel, Layer layer,
                             const std::string& above = {});
[[nodiscard]] ReleasePtr withoutLayer(const ReleasePtr& release, const PanelRef& panel,
                                      const std::string& layer);
/// The layer changed by `change`; its id stays.
[[nodiscard]] ReleasePtr withChangedLayer(const ReleasePtr& release, const PanelRef& panel,
                                          const std::string& layer, const LayerChange& change);
/// The layer moved to `index` (0 = front) of the group, or of the panel's stack when `group` is empty. The
/// index counts as before the move. A group cannot move into itself, nor deeper than kDeepestGroup.
[[nodiscard]] ReleasePtr withMovedLayer(const ReleasePtr& release, const PanelRef& panel,
                                        const std::string& layer, const std::string& group, size_t index);
/// Each layer one place, or all the way, nearer to the front or the back of the list it is in; those that
/// move keep their order.
enum class Nearer : unsigned char { Front, OneForward, OneBack, Back };
[[nodiscard]] ReleasePtr withOrder(const ReleasePtr& release, const PanelRef& panel,
                                   const std::vector<std::string>& layers, Nearer where);
/// The layers put into a new group, in the order they have, where the front-most of them is. Layers inside
/// other layers of the list go with those. Fails when groups would be nested more than kDeepestGroup deep.
[[nodiscard]] Result<Made> withGrouped(const ReleasePtr& release, const PanelRef& panel,
                                       const std::vector<std::string>& layers);
/// The group replaced by its layers.
[[nodiscard]] ReleasePtr withUngrouped(const ReleasePtr& release, const PanelRef& panel,
                                       const std::string& group);
/// A copy of the layer, with new ids, directly in front of it.
[[nodiscard]] Made withDuplicate(const ReleasePtr& release, const PanelRef& panel, const std::string& layer);
/// Copies, each further on by `step` (panel units) and at `fade` times the opacity of the one before it.
struct Ghosts {
    int count;
    Vec2 step;
    double fade;
};
/// Those of the layer, behind it.
[[nodiscard]] ReleasePtr withGhosts(const ReleasePtr& release, const PanelRef& panel,
                                    const std::string& layer, const Ghosts& ghosts);
/// A layer that shows another panel, in front of `above`. Fails when it would show itself.
[[nodiscard]] Result<Made> withEcho(const ReleasePtr& release, const PanelRef& panel, Layer echo,
                                    const std::string& above = {});

} // namespace glyptos
