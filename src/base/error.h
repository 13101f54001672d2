// Errors as values. Everything that can fail for a reason outside the program returns Result<T>.
#pragma once

#include <atomic>
#include <string>
#include <tl/expected.hpp>

namespace glyptos {

/// Why something failed, sorted by who can do something about it.
enum class Fault {
    Unreadable,  ///< the file cannot be opened or read
    Unwritable,  ///< the file cannot be written: permission, full disk, a folder that is gone
    Damaged,     ///< the contents are cut short or contradict themselves
    Unsupported, ///< well formed, but of a kind or version that is not handled
    TooLarge,    ///< over a stated limit
    Unsafe,      ///< reaches outside its own file
    Usage,       ///< a request that makes no sense
    Cancelled    ///< stopped because the user asked for it
};

/// One failure. `message` is a complete sentence for the artist: what happened to which file, what was kept,
/// what to do next.
struct Error {
    Fault fault = Fault::Damaged;
    std::string message;
};

template <class T>
using Result = tl::expected<T, Error>;

/// The failing return of a function that yields a Result.
inline tl::unexpected<Error> fail(Fault fault, std::string message) {
    return tl::unexpected<Error>(Error{fault, std::move(message)});
}

/// Long work looks at a flag that the user may set; without one it runs to its end.
inline bool isCancelled(const std::atomic<bool>* cancel) {
    return cancel && *cancel;
}
inline tl::unexpected<Error> cancelled() {
    return fail(Fault::Cancelled, "Cancelled; nothing was written.");
}

} // namespace glyptos
