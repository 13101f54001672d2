// Forms as JSON inside other files.
#pragma once

#include "base/json_entry.h"
#include "form/form.h"

namespace glyptos {

/// Reads a form where it stands; what is wrong is thrown as of any entry.
Form readForm(const Entry& entry);
/// What its file holds; reading that gives the same form, but for `own`.
Json toJson(const Form& form);

} // namespace glyptos
