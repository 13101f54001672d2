// The shipped forms, for tests.
#pragma once

#include "file/data_folder.h"
#include "file/project.h"
#include "release/edits/edits.h"

#include <stdexcept>

namespace glyptos::test {

inline std::shared_ptr<const Form> shippedForm(std::string_view id) {
    const FormList forms = shippedForms().value();
    for (const auto& form : forms)
        if (form->id == id) return form;
    throw std::invalid_argument("there is no form " + std::string(id));
}

inline Flat flatOf(std::string_view id, const ParameterValues& set = {}) {
    return workOut(*shippedForm(id), set).value();
}

/// A release with one empty piece of that form.
inline ReleasePtr releaseOf(std::string_view id, const ParameterValues& set = {}) {
    return withPiece(std::make_shared<const Release>(), shippedForm(id), set).value();
}

} // namespace glyptos::test
