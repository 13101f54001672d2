// Edits of what is selected.
#pragma once

#include "release/release.h"

namespace glyptos {

/// The panel with that selection, or none.
[[nodiscard]] ReleasePtr withSelection(const ReleasePtr& release, const PanelRef& panel,
                                       const std::optional<Selection>& selection);
/// What is selected kept under a name; one of that name is replaced. Nothing changes when nothing is
/// selected.
[[nodiscard]] ReleasePtr withKeptSelection(const ReleasePtr& release, const PanelRef& panel,
                                           const std::string& name);
/// A kept selection forgotten.
[[nodiscard]] ReleasePtr withoutKeptSelection(const ReleasePtr& release, const PanelRef& panel,
                                              const std::string& name);

} // namespace glyptos
