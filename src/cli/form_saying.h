// Forms by name, set, and told.
#pragma once

#include "base/json.h"
#include "file/project.h"

namespace glyptos::cli {

Result<std::shared_ptr<const Form>> formNamed(const FormList& forms, const std::string& name);
/// "spine=4mm" to a value in the unit of the form.
Result<ParameterValues> parseSet(const std::vector<std::string>& set, Unit unit);
/// With how many layers each panel has, when there is a take.
Json flatJson(const Form& form, const Flat& flat, const Take* take = nullptr);

} // namespace glyptos::cli
