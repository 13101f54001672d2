// Errors as values. Everything that can fail for a reason outside the program returns Result<T>.
#pragma once

#include <atomic>
#include <exception>
#include <new>
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
    NotFound,    ///< what was looked for is not there
    Cancelled,   ///< stopped because the user asked for it
    Internal     ///< something in the program itself went wrong
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

/// What an exception that nobody foresaw is to an artist.
inline tl::unexpected<Error> failedInside(const std::exception* what) {
    if (dynamic_cast<const std::bad_alloc*>(what))
        return fail(Fault::TooLarge,
                    "There is not enough memory for this; nothing was changed or written. Close what you "
                    "do not need, or lower the share of memory in Preferences, and try again.");
    return fail(Fault::Internal, std::string("Something went wrong inside Glyptos (") +
                                     (what ? what->what() : "no more is known") +
                                     "); nothing was changed or written. Save your work, and try again.");
}

template <class T>
struct AsResult {
    using Type = Result<T>;
};
template <class T>
struct AsResult<Result<T>> {
    using Type = Result<T>;
};

/// Does the work; what it throws is an error like any other. Work that cannot fail by itself yields a Result
/// too.
template <class Work>
auto caught(Work&& work) -> typename AsResult<decltype(work())>::Type {
    try {
        return work();
    } catch (const std::exception& e) {
        return failedInside(&e);
    } catch (...) {
        return failedInside(nullptr);
    }
}

} // namespace glyptos
