#include "file/dieline/own_forms.h"

#include "file/disk/atomic_file.h"
#include "file/xdg_folders.h"
#include "form/dieline.h"

#include <algorithm>

namespace glyptos {

std::filesystem::path ownFormsFolder() {
    return dataHome() / "glyptos" / "forms";
}

Result<FormList> allForms(std::vector<std::string>& notes) {
    auto forms = shippedForms();
    if (!forms) return forms;
    std::error_code code;
    FormList own;
    for (const auto& entry : std::filesystem::directory_iterator(ownFormsFolder(), code)) {
        if (entry.path().extension() != ".json") continue;
        auto form = loadForm(entry.path());
        if (!form) {
            notes.push_back(form.error().message);
            continue;
        }
        form->own = true;
        own.push_back(std::make_shared<const Form>(std::move(*form)));
    }
    std::sort(own.begin(), own.end(), [](const auto& a, const auto& b) { return a->name < b->name; });
    forms->insert(forms->end(), own.begin(), own.end());
    return forms;
}

Result<void> keepOwnForm(const Form& form) {
    std::error_code code;
    std::filesystem::create_directories(ownFormsFolder(), code);
    return writeForm(form, ownFormsFolder() / (form.id + ".json"));
}

Result<void> writeForm(const Form& form, const std::filesystem::path& file) {
    const std::string text = formToJson(form);
    return writeFile(file, {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
}

} // namespace glyptos
