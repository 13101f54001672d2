// Reading a value of one of several kinds: the kinds of a variant are tried in turn, and one that has no
// codec does not compile.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace glyptos {

/// What the codec that reads() that kind makes of the arguments; nothing when no kind is called so.
template <class Variant, template <class> class Codec, class... From>
std::optional<Variant> readKind(const std::string& kind, From&&... from) {
    std::optional<Variant> out;
    const auto attempt = [&]<class T>(std::in_place_type_t<T>) {
        if (!out && Codec<T>::reads(kind)) out.emplace(Codec<T>::read(from...));
    };
    [&]<class... T>(const std::variant<T...>*) {
        (attempt(std::in_place_type<T>), ...);
    }(static_cast<const Variant*>(nullptr));
    return out;
}

} // namespace glyptos
