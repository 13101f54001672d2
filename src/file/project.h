// The project file, *.glyptos: a zip with release.json and the original pictures (docs/file-format.md).
#pragma once

#include "base/error.h"
#include "release/release.h"

#include <filesystem>
#include <vector>

namespace glyptos {

using FormList = std::vector<std::shared_ptr<const Form>>;

/// Forms shipped with Glyptos.
Result<FormList> shippedForms();

/// Saves all of the release but sources that nothing in it shows, atomically.
[[nodiscard]] Result<void> saveProject(const Release& release, const std::filesystem::path& file);

/// Opens a project. Any failure is one sentence that says what is wrong with which file.
[[nodiscard]] Result<ReleasePtr> openProject(const std::filesystem::path& file, const FormList& forms);

} // namespace glyptos
