// Reads journals: all that one tells, or what there is to say about it (docs/journal.md).
#pragma once

#include "file/journal/journal_writer.h"
#include "file/project.h"

namespace glyptos {

/// All that a journal tells, and what is needed to go on with it.
struct JournalContents {
    JournalState start;
    std::string inFile; ///< the root of the release as it was last saved
    OpenJournal journal;
};

/// Reads a journal that nobody writes to. What is cut short or damaged ends it: all before that is given.
/// Layers, pieces and pictures that are alike in `known` are those of `known`. At most the last
/// JournalWriter::kKeptSteps steps come back. Fails with a sentence when it is in use, or when nothing can be
/// read of it.
[[nodiscard]] Result<JournalContents> readJournal(const std::filesystem::path& file, const FormList& forms,
                                                  const ReleasePtr& known = nullptr);

/// What there is to say about a journal.
struct JournalSummary {
    std::filesystem::path journal;
    std::string title;         ///< of the release; may be empty
    std::optional<SavedAs> as; ///< the file it belongs to
    int64_t changedMs = 0;     ///< since 1970: when the last step was made
    size_t steps = 0;          ///< since it was saved
    bool isModified = false;   ///< there is something that is not saved
    bool isLeft = false;       ///< it was closed without saving
    bool isInUse = false;      ///< by a window that is open
    uintmax_t bytes = 0;
    std::vector<uint8_t> miniature; ///< a PNG; may be empty
};
/// Does not read what is painted. Fails when it is no journal, or nothing in it is whole.
[[nodiscard]] Result<JournalSummary> summaryOf(const std::filesystem::path& file);

/// The name that a journal would have for the release's root, without a word about where it lies.
std::string rootName(const Release& release);

} // namespace glyptos
