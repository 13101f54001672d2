// A disk that takes its time, or fails: what flushes to it in this program waits, or is refused.
#pragma once

namespace glyptos::test {

/// How long each flush (fsync, fdatasync) takes from now on, besides its own time; of those under way, too.
void setFlushMs(int ms);
/// The next flushes fail with EIO, so many.
void setFailingFlushes(int flushes);

} // namespace glyptos::test
