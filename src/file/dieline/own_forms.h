// Forms that the artist has made or been given.
#pragma once

#include "file/project.h"

namespace glyptos {

/// Where they are kept: glyptos/forms in the user's data folder.
std::filesystem::path ownFormsFolder();

/// The shipped forms, then the artist's own, by name. `notes` gets a sentence for each file that cannot be
/// used.
[[nodiscard]] Result<FormList> allForms(std::vector<std::string>& notes);

/// Keeps a form of the artist's for new pieces; one of the same id is replaced.
[[nodiscard]] Result<void> keepOwnForm(const Form& form);
/// Writes a form to a file of its own, to be given away.
[[nodiscard]] Result<void> writeForm(const Form& form, const std::filesystem::path& file);

} // namespace glyptos
