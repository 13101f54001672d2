#include "file/journal/journals.h"

#include "file/disk/atomic_file.h"
#include "file/xdg_folders.h"

#include <algorithm>
#include <climits>

namespace glyptos {
namespace {

constexpr int64_t kDayMs = int64_t(24) * 60 * 60 * 1000;

bool isGone(const JournalSummary& journal) {
    std::error_code code;
    return journal.as && !std::filesystem::exists(journal.as->file, code) && !code;
}

int daysOf(const JournalSummary& journal) {
    if (journal.isModified) return journal.isLeft ? kLeftDays : INT_MAX;
    return !journal.as || isGone(journal) ? kLeftDays : kHistoryDays;
}

/// Unless somebody has opened it.
void removeUnheld(const std::filesystem::path& journal) {
    const auto file = AppendFile::openToRead(journal);
    std::error_code gone;
    if (file && file->tryLock()) std::filesystem::remove(journal, gone);
}

/// One in which nothing is whole, as a kill leaves it before the first step is told.
void removeEmpty(const std::filesystem::path& journal, std::filesystem::file_time_type before) {
    std::error_code code;
    const auto changed = std::filesystem::last_write_time(journal, code);
    if (code || changed >= before) return;
    const auto summary = summaryOf(journal);
    if (!summary && summary.error().fault == Fault::Damaged) removeUnheld(journal);
}

std::vector<std::filesystem::path> filesIn(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> out;
    std::error_code code;
    for (std::filesystem::directory_iterator at(folder, code), end; !code && at != end; at.increment(code))
        if (at->path().extension() == ".journal" && at->is_regular_file(code)) out.push_back(at->path());
    return out;
}

} // namespace

std::filesystem::path journalsFolder() {
    return stateHome() / "glyptos" / "journals";
}

std::vector<JournalSummary> journalsIn(const std::filesystem::path& folder) {
    std::vector<JournalSummary> out;
    for (const auto& file : filesIn(folder))
        if (auto summary = summaryOf(file)) out.push_back(std::move(*summary));
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.changedMs > b.changedMs; });
    return out;
}

std::optional<JournalSummary> journalOf(const std::filesystem::path& folder,
                                        const std::filesystem::path& file, const std::filesystem::path& own) {
    auto all = journalsIn(folder);
    const auto found = std::find_if(all.begin(), all.end(), [&](const JournalSummary& one) {
        return one.as && one.as->file == file && one.journal != own;
    });
    return found == all.end() ? std::nullopt : std::optional(std::move(*found));
}

Result<void> leaveJournal(const std::filesystem::path& journal) {
    auto file = AppendFile::open(journal);
    if (!file) return tl::unexpected(file.error());
    const auto lock = file->tryLock();
    if (!lock) return fail(Fault::Unreadable, "another window writes to it");
    const auto end = eachRecord(
        *file, 0, [](RecordKind kind) { return kind == RecordKind::Act; }, [](const Record&, auto) {});
    if (!end) return tl::unexpected(end.error());
    if (auto cut = *end < file->size() ? file->cut(*end) : Result<void>(); !cut) return cut;
    std::vector<uint8_t> out;
    addRecord(out, RecordKind::Act, {bytesOf(leftAct().dump())});
    return file->append(out);
}

void tidyJournals(const std::filesystem::path& folder, int64_t nowMs) {
    const auto before = std::filesystem::file_time_type::clock::now() - std::chrono::days(kLeftDays);
    for (const auto& journal : filesIn(folder)) removeEmpty(journal, before);
    auto all = journalsIn(folder);
    uintmax_t bytes = 0;
    for (const JournalSummary& journal : all) {
        const auto days = (nowMs - journal.changedMs) / kDayMs;
        const bool isStale = days > daysOf(journal);
        const bool isHistory = !journal.isModified && bytes + journal.bytes > kMostJournalBytes;
        if (!journal.isInUse && (isStale || isHistory))
            removeUnheld(journal.journal);
        else
            bytes += journal.bytes;
    }
}

} // namespace glyptos
