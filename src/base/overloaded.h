// Several functions as one visitor of a variant: a kind that none of them takes does not compile.
#pragma once

namespace glyptos {

template <class... Acts>
struct Overloaded : Acts... {
    using Acts::operator()...;
};
template <class... Acts>
Overloaded(Acts...) -> Overloaded<Acts...>;

} // namespace glyptos
