// The folder of journals: what was not saved and can be found again, and the histories of saved releases.
#pragma once

#include "file/journal/journal_reader.h"

namespace glyptos {

/// glyptos/journals in the user's state folder.
std::filesystem::path journalsFolder();

/// What is in the folder, the latest first. What cannot be read is left out, and stays.
std::vector<JournalSummary> journalsIn(const std::filesystem::path& folder);

/// The journal of a release that lies in that file, other than `own`; the latest of several. Nothing when
/// there is none.
std::optional<JournalSummary> journalOf(const std::filesystem::path& folder,
                                        const std::filesystem::path& file,
                                        const std::filesystem::path& own = {});

/// Notes that the artist has looked at it and left it.
[[nodiscard]] Result<void> leaveJournal(const std::filesystem::path& journal);

/// Days that a journal stays: one with unsaved work that was left, or whose file is gone; the history of a
/// saved release. Unsaved work that nobody has looked at stays.
inline constexpr int kLeftDays = 30, kHistoryDays = 180;
/// Of the histories of saved releases the oldest go when all journals take more than that.
inline constexpr uintmax_t kMostJournalBytes = uintmax_t(8) << 30;

/// Removes what has stayed long enough, and what tells nothing. None that is in use.
void tidyJournals(const std::filesystem::path& folder, int64_t nowMs);

} // namespace glyptos
