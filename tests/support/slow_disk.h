// A disk that takes its time, or fails: what writes or flushes to it in this program waits, or is refused.
#pragma once

namespace glyptos::test {

/// How long each flush (fsync, fdatasync) takes from now on, besides its own time; of those under way, too.
void setFlushMs(int ms);
/// The same for each write of 64 kB or more.
void setWriteMs(int ms);
/// The next flushes fail with EIO, so many.
void setFailingFlushes(int flushes);

} // namespace glyptos::test
