// Work off the window's thread. Whatever goes wrong in it is a sentence, never the end of the program.
#pragma once

#include "base/error.h"

#include <QtConcurrent/QtConcurrentRun>
#include <type_traits>

namespace glyptos {

/// Runs `work` on another thread; its future holds a Result: what the work gave, or why it gave nothing.
template <class Work>
auto inBackground(Work work) {
    return QtConcurrent::run([work = std::move(work)]() mutable { return caught(work); });
}

} // namespace glyptos
