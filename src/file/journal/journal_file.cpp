#include "file/journal/journal_file.h"

#include "base/overloaded.h"
#include "file/disk/atomic_file.h"
#include "release/edits/edit_steps.h"
#include "release/edits/edits.h"

#include <chrono>

namespace glyptos {
namespace {

int64_t nowMs() {
    using namespace std::chrono;
    return duration_cast<milliseconds>(system_clock::now().time_since_epoch()).count();
}

void addAct(RecordSink& out, const Json& act) {
    out.add(RecordKind::Act, {bytesOf(act.dump())});
}

} // namespace

JournalFile JournalFile::begun(AppendFile file) {
    JournalFile out(std::move(file));
    out.lock_ = out.file_->tryLock();
    return out;
}

JournalFile::JournalFile(OpenJournal journal)
    : file_(std::make_shared<AppendFile>(std::move(journal.file)))
    , lock_(std::move(journal.lock))
    , end_(journal.end)
    , nodes_(std::move(journal.holdings))
    , firstStep_(-ptrdiff_t(journal.firstStep)) {}

bool JournalFile::canAdd(const Deeds& deeds) const {
    size_t end = endStep_;
    for (const Deed& deed : deeds) {
        if (std::holds_alternative<StepDone>(deed)) end = SIZE_MAX;
        if (const auto* to = std::get_if<WentTo>(&deed);
            to && (ptrdiff_t(to->step) < firstStep_ || to->step >= end))
            return false;
    }
    return end_ > 0;
}

/// All of what `write` adds, or nothing of it.
Result<void> JournalFile::written(const Write& write, const std::function<Result<void>()>& between) {
    RecordSink out([&](std::span<const uint8_t> bytes) -> Result<void> {
        auto added = file_->write({&bytes, 1});
        return added && between ? between() : added;
    });
    Result<void> done = caught([&]() -> Result<void> {
        // Something may be left of a write that failed.
        if (file_->size() != end_)
            if (auto cut = file_->cut(end_); !cut) return cut;
        write(out);
        return out.finish();
    });
    if (done)
        nodes_.commit(), end_ += out.bytes();
    else
        nodes_.rollBack();
    return done;
}

Result<void> JournalFile::add(const Deeds& deeds, const PicturesElsewhere& pictures) {
    auto done = written(
        [&](RecordSink& out) {
            for (const Deed& deed : deeds) add(deed, pictures.spots, out);
            nodes_.secure([&](const Source&, const PictureSpot& spot) { return pictures.isGone(spot); }, out);
        },
        {});
    if (done && std::any_of(deeds.begin(), deeds.end(),
                            [](const Deed& deed) { return std::holds_alternative<StepDone>(deed); }))
        endStep_ = SIZE_MAX;
    return done;
}

ToldStep JournalFile::told(const HistoryStep& step, const PictureSpots& spots, RecordSink& out) {
    return {step.name, nodes_.write(*step.release, spots, out), int(step.release->nextId)};
}

void JournalFile::add(const Deed& deed, const PictureSpots& spots, RecordSink& out) {
    std::visit(
        Overloaded{[&](const StepDone& step) {
                       const ToldStep one = told({step.name, step.release, {}}, spots, out);
                       addAct(out, stepAct(one, step.merged, titleOf(*step.release), nowMs()));
                   },
                   [&](const WentTo& to) { addAct(out, goAct(size_t(ptrdiff_t(to.step) - firstStep_))); },
                   [&](const MiniatureMade& made) { out.add(RecordKind::Miniature, {made.png}); },
                   [&](const SaveDone& save) { addAct(out, saved(save.release, save.as, spots, out)); },
                   [&](const SaveBegun& save) {
                       nodes_.secure(
                           [&](const Source& source, const PictureSpot& spot) {
                               return spot.file == save.file && !save.release->source(source.id);
                           },
                           out);
                   },
                   [&](const LeftUnsaved&) { addAct(out, leftAct()); }},
        deed);
}

/// Of the release as it is in its file: pictures that nothing shows are not there.
Json JournalFile::saved(const ReleasePtr& release, const std::optional<SavedAs>& as,
                        const PictureSpots& spots, RecordSink& out) {
    if (as && as->stamp) nodes_.isSaved(*release, {as->file, true, *as->stamp});
    const ToldStep step = told({{}, release, {}}, spots, out);
    const ToldStep inFile = told({{}, withoutUnusedSources(release), {}}, spots, out);
    return savedAct(step.root, inFile.root, as);
}

Result<void> JournalFile::tell(const JournalState& state, size_t steps, const PicturesElsewhere& pictures,
                               const std::function<Result<void>()>& between) {
    const History history = state.history.last(steps);
    const std::string title = titleOf(*history.current());
    const auto tellAll = [&](RecordSink& out) {
        const bool isFirst = end_ == 0;
        if (isFirst)
            out.add(RecordKind::Head,
                    {bytesOf(Json{{"glyptos-journal", 1}, {"format", kReleaseFormatVersion}}.dump())});
        ToldHistory all{{}, history.position(), {}};
        for (const HistoryStep& step : history.steps()) {
            all.steps.push_back(told(step, pictures.spots, out));
            // Should it be damaged, there are those before. What was told before is worth more than that.
            if (isFirst)
                addAct(out, all.steps.size() == 1 ? historyAct({all.steps, 0, {}}, title, nowMs())
                                                  : stepAct(all.steps.back(), false, title, nowMs()));
        }
        for (const LeftBranch& branch : history.left()) {
            all.left.push_back({branch.from, {}});
            for (const HistoryStep& step : branch.steps)
                all.left.back().steps.push_back(told(step, pictures.spots, out));
        }
        const auto save =
            state.saved ? std::optional(saved(state.saved, state.as, pictures.spots, out)) : std::nullopt;
        addAct(out, historyAct(all, title, nowMs()));
        if (save) addAct(out, *save);
        if (state.isLeft) addAct(out, leftAct());
        if (!state.miniature.empty()) out.add(RecordKind::Miniature, {state.miniature});
    };
    if (auto done = written(tellAll, between); !done) return done;
    firstStep_ = ptrdiff_t(state.history.position()) - ptrdiff_t(history.position());
    const size_t end = size_t(firstStep_) + history.steps().size();
    endStep_ = end < state.history.steps().size() ? end : SIZE_MAX;
    return {};
}

} // namespace glyptos
