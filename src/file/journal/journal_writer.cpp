#include "file/journal/journal_writer.h"

#include "base/overloaded.h"
#include "file/disk/atomic_file.h"
#include "file/disk/fresh_file.h"
#include "file/pictures/picture_reader.h"
#include "release/edits/edit_steps.h"
#include "release/edits/edits.h"

#include <fcntl.h>
#include <random>
#include <sys/stat.h>
#include <unistd.h>

namespace glyptos {
namespace {

using Clock = std::chrono::steady_clock;

int64_t nowMs() {
    using namespace std::chrono;
    return duration_cast<milliseconds>(system_clock::now().time_since_epoch()).count();
}

std::string freshName() {
    std::random_device chance;
    const uint64_t bits[2] = {uint64_t(nowMs()), uint64_t(chance()) << 32U | chance()};
    return contentId({reinterpret_cast<const uint8_t*>(bits), sizeof bits}).substr(0, 16) + ".journal";
}

std::string titleOf(const Release& release) {
    const Brief& brief = release.brief;
    return brief.title.empty() || brief.artist.empty() ? brief.title + brief.artist
                                                       : brief.title + " · " + brief.artist;
}

void addAct(std::vector<uint8_t>& out, const Json& act) {
    addRecord(out, RecordKind::Act, {bytesOf(act.dump())});
}

} // namespace

JournalWriter::JournalWriter(std::filesystem::path folder, JournalStart start, Told told)
    : folder_(std::move(folder))
    , tell_(std::move(told))
    , state_(std::move(start))
    , isBehind_(state_.history.steps().size() > 1)
    , isIdle_(!isBehind_)
    , worker_([this](const std::stop_token& stop) { work(stop); }) {}

JournalWriter::JournalWriter(OpenJournal journal, JournalStart start, bool isBehind, Told told)
    : folder_(journal.file.path().parent_path())
    , tell_(std::move(told))
    , file_(std::move(journal.file))
    , lock_(std::move(journal.lock))
    , end_(journal.end)
    , nodes_(std::move(journal.holdings))
    , state_(std::move(start))
    , firstStep_(-ptrdiff_t(journal.firstStep))
    , anewAt_(journal.end)
    , isBehind_(isBehind)
    , isIdle_(!isBehind)
    , path_(file_->path())
    , worker_([this](const std::stop_token& stop) { work(stop); }) {}

JournalWriter::~JournalWriter() {
    worker_.request_stop();
    wake_.notify_all();
    worker_.join();
    const History& history = state_.history;
    const bool isEmpty = history.steps().size() == 1 && history.left().empty();
    std::error_code gone;
    if (file_ && isEmpty) std::filesystem::remove(path_, gone);
}

std::filesystem::path JournalWriter::path() const {
    const std::lock_guard lock(mutex_);
    return path_;
}

void JournalWriter::put(Deed deed) {
    {
        const std::lock_guard lock(mutex_);
        // Of steps that take each other's place the last one counts.
        const auto* step = std::get_if<Step>(&deed);
        auto* before = deeds_.empty() ? nullptr : std::get_if<Step>(&deeds_.back());
        if (step && step->merged && before)
            deeds_.back() = Step{step->name, step->release, before->merged};
        else
            deeds_.push_back(std::move(deed));
        isIdle_ = false;
    }
    wake_.notify_all();
}

void JournalWriter::step(std::string name, ReleasePtr release, bool merged) {
    put(Step{std::move(name), std::move(release), merged});
}

void JournalWriter::go(size_t step) {
    put(Go{step});
}

void JournalWriter::miniature(std::vector<uint8_t> png) {
    put(Small{std::move(png)});
}

void JournalWriter::saved(ReleasePtr release, const SavedAs& as) {
    put(Save{std::move(release), as});
    const std::lock_guard lock(mutex_);
    saving_.reset();
}

void JournalWriter::mayBeIn(const std::string& source, const std::filesystem::path& file) {
    const std::lock_guard lock(mutex_);
    elsewhere_[source] = file;
}

void JournalWriter::secureBefore(const std::filesystem::path& file, ReleasePtr release) {
    {
        const std::lock_guard lock(mutex_);
        saving_ = file;
    }
    put(Secure{file, std::move(release)});
    [[maybe_unused]] const bool done = flush(); // a save goes on without a journal
}

void JournalWriter::saveFailed() {
    const std::lock_guard lock(mutex_);
    saving_.reset();
}

void JournalWriter::leave() {
    put(Left{});
}

bool JournalWriter::flush() {
    std::unique_lock lock(mutex_);
    hurry_ = true, failed_ = false;
    wake_.notify_all();
    wake_.wait(lock, [&] { return isIdle_ || failed_; });
    hurry_ = false;
    return !failed_;
}

void JournalWriter::work(const std::stop_token& stop) {
    Clock::time_point next = Clock::now();
    std::unique_lock lock(mutex_);
    while (true) {
        wake_.wait(lock, stop, [&] { return !deeds_.empty() || isBehind_; });
        if (deeds_.empty() && !isBehind_) return;
        isIdle_ = false;
        wake_.wait_until(lock, stop, next, [&] { return hurry_; });
        std::deque<Deed> deeds = std::exchange(deeds_, {});
        lock.unlock();
        const auto written = caught([&] { return writeSome(deeds); });
        tell(written);
        lock.lock();
        deeds_.insert(deeds_.begin(), std::make_move_iterator(deeds.begin()),
                      std::make_move_iterator(deeds.end()));
        failed_ = !written;
        isIdle_ = deeds_.empty() && !isBehind_;
        if (failed_) hurry_ = false;
        next = Clock::now() + (failed_ ? Clock::duration(kTryAgain) : Clock::duration(kPause));
        wake_.notify_all();
        if (failed_ && stop.stop_requested()) return;
    }
}

void JournalWriter::tell(const Result<void>& written) {
    const auto why = [&]() -> std::string {
        const Error& error = written.error();
        return error.fault == Fault::TooLarge   ? "there is not enough memory"
               : error.fault == Fault::Internal ? "something went wrong inside"
                                                : error.message;
    };
    if (!written && !isTroubled_)
        tell_("What you do is not being written down for now (" + why() +
              "): until there is room again, only saving keeps it. Your work goes on as before.");
    if (written && isTroubled_) tell_({});
    isTroubled_ = !written;
}

/// What could be written is gone from `deeds` afterwards.
Result<void> JournalWriter::writeSome(std::deque<Deed>& deeds) {
    const bool begins = !file_ && std::any_of(deeds.begin(), deeds.end(), [](const Deed& deed) {
        return std::holds_alternative<Step>(deed);
    });
    if (!isBehind_ && !begins && file_ && canTell(deeds)) {
        if (auto added = addDeeds(deeds); !added) return added;
        for (const Deed& deed : deeds) take(deed);
        const bool isSaved = std::any_of(deeds.begin(), deeds.end(),
                                         [](const Deed& deed) { return std::holds_alternative<Save>(deed); });
        deeds.clear();
        const bool isLarge =
            isSaved ? end_ > anewAt_ + anewAt_ / 2 + kWorthWhile : end_ > std::max(kMostBytes, 2 * anewAt_);
        // Where there is no room for another one, the longer one does as well.
        if (isLarge)
            if (auto anew = writeAnew(); !anew) anewAt_ = end_;
        return {};
    }
    for (const Deed& deed : deeds) take(deed);
    deeds.clear();
    if (!isBehind_ && !begins && !file_) return {};
    isBehind_ = true;
    if (auto anew = writeAnew(); !anew) return anew;
    isBehind_ = false;
    return {};
}

/// Whether it can be told by adding to what is there.
bool JournalWriter::canTell(const std::deque<Deed>& deeds) const {
    size_t end = endStep_;
    for (const Deed& deed : deeds) {
        if (std::holds_alternative<Step>(deed)) end = SIZE_MAX;
        if (const auto* go = std::get_if<Go>(&deed);
            go && (ptrdiff_t(go->step) < firstStep_ || go->step >= end))
            return false;
    }
    return true;
}

void JournalWriter::take(const Deed& deed) {
    std::visit(Overloaded{[&](const Step& step) {
                              if (!step.merged) state_.history.settle();
                              state_.history.push(step.name, step.release, "step");
                              endStep_ = SIZE_MAX;
                          },
                          [&](const Go& go) { state_.history.go(go.step); },
                          [&](const Small& small) { miniature_ = small.png; },
                          [&](const Save& save) { state_.saved = save.release, state_.as = save.as; },
                          [](const Secure&) {}, [](const Left&) {}},
               deed);
    if (!std::holds_alternative<Small>(deed) && !std::holds_alternative<Secure>(deed))
        isLeft_ = std::holds_alternative<Left>(deed);
}

void JournalWriter::secureChanged(std::vector<uint8_t>& out) {
    std::unique_lock lock(mutex_);
    const auto saving = saving_;
    lock.unlock();
    nodes_.secure(
        [&](const Source&, const PictureSpot& spot) { return spot.file != saving && !isAsSeen(spot); }, out);
}

Result<void> JournalWriter::addDeeds(const std::deque<Deed>& deeds) {
    std::vector<uint8_t> out;
    const Result<void> added = caught([&]() -> Result<void> {
        for (const Deed& deed : deeds) add(deed, out);
        secureChanged(out);
        // Something may be left of a write that failed.
        if (file_->size() != end_)
            if (auto cut = file_->cut(end_); !cut) return cut;
        return out.empty() ? Result<void>() : file_->append(out);
    });
    if (added)
        nodes_.commit(), end_ += out.size();
    else
        nodes_.rollBack();
    return added;
}

ToldStep JournalWriter::told(const HistoryStep& step, NodeWriter& nodes, std::vector<uint8_t>& out) {
    const auto spots = [this](const Source& source) { return spotOf(source); };
    return {step.name, nodes.write(*step.release, spots, out), int(step.release->nextId)};
}

void JournalWriter::add(const Deed& deed, std::vector<uint8_t>& out) {
    std::visit(Overloaded{[&](const Step& step) {
                              const ToldStep one = told({step.name, step.release, {}}, nodes_, out);
                              addAct(out, stepAct(one, step.merged, titleOf(*step.release), nowMs()));
                          },
                          [&](const Go& go) { addAct(out, goAct(size_t(ptrdiff_t(go.step) - firstStep_))); },
                          [&](const Small& small) { addRecord(out, RecordKind::Miniature, {small.png}); },
                          [&](const Save& save) {
                              if (save.as.stamp)
                                  nodes_.isSaved(*save.release, {save.as.file, true, *save.as.stamp});
                              state_.saved = save.release, state_.as = save.as;
                              addAct(out, savedNow(nodes_, out));
                          },
                          [&](const Secure& secure) {
                              nodes_.secure(
                                  [&](const Source& source, const PictureSpot& spot) {
                                      return spot.file == secure.file && !secure.release->source(source.id);
                                  },
                                  out);
                          },
                          [&](const Left&) { addAct(out, leftAct()); }},
               deed);
}

/// Of the release as it is in its file: pictures that nothing shows are not there.
Json JournalWriter::savedNow(NodeWriter& nodes, std::vector<uint8_t>& out) {
    const ToldStep step = told({{}, state_.saved, {}}, nodes, out);
    const ToldStep inFile = told({{}, withoutUnusedSources(state_.saved), {}}, nodes, out);
    return savedAct(step.root, inFile.root, state_.as);
}

std::optional<PictureSpot> JournalWriter::spotOf(const Source& source) {
    std::unique_lock lock(mutex_);
    const auto known = elsewhere_.find(source.id);
    const auto file = known == elsewhere_.end() ? std::nullopt : std::optional(known->second);
    lock.unlock();
    if (const auto stamp = file ? stampOf(*file) : std::nullopt) {
        const PictureSpot spot{*file, false, *stamp};
        if (readSpot(spot, source) && isAsSeen(spot)) return spot;
    }
    if (state_.saved && state_.as && state_.as->stamp && state_.saved->source(source.id))
        return PictureSpot{state_.as->file, true, *state_.as->stamp};
    return std::nullopt;
}

/// The last steps alone, in a file that takes the place of the one that is there.
Result<void> JournalWriter::writeAnew() {
    std::error_code code;
    std::filesystem::create_directories(folder_, code);
    ::chmod(folder_.c_str(), 0700);
    const std::filesystem::path path = path_.empty() ? folder_ / freshName() : path_;
    const History history = state_.history.last(kKeptSteps);
    NodeWriter nodes;
    std::optional<AppendFile> fresh;
    std::optional<AppendFile::Lock> lock;
    const auto write = [&](int file) -> Result<void> {
        constexpr size_t kBlock = size_t(8) << 20;
        ::fchmod(file, 0600);
        std::vector<uint8_t> out;
        Result<void> done;
        const auto flushed = [&](size_t least) {
            if (done && out.size() >= least) done = writeAll(file, out), out.clear();
            return done.has_value();
        };
        const auto tell = [&](const HistoryStep& step) {
            flushed(kBlock);
            return told(step, nodes, out);
        };
        addRecord(out, RecordKind::Head,
                  {bytesOf(Json{{"glyptos-journal", 1}, {"format", kReleaseFormatVersion}}.dump())});
        const auto& steps = history.steps();
        for (size_t i = 0; i < steps.size() && done; ++i) {
            const ToldStep one = tell(steps[i]);
            const std::string title = titleOf(*steps[i].release);
            addAct(out, i == 0 ? beginAct(one, title, nowMs()) : stepAct(one, false, title, nowMs()));
        }
        for (const LeftBranch& branch : history.left()) {
            std::vector<ToldStep> left;
            for (const HistoryStep& step : branch.steps) left.push_back(tell(step));
            addAct(out, branchAct(branch.from, left));
        }
        addAct(out, goAct(history.position()));
        if (state_.saved) addAct(out, savedNow(nodes, out));
        if (isLeft_) addAct(out, leftAct());
        if (!miniature_.empty()) addRecord(out, RecordKind::Miniature, {miniature_});
        flushed(0);
        const int kept = ::fcntl(file, F_DUPFD_CLOEXEC, 0);
        if (kept < 0) return fail(Fault::Unwritable, "too many files are open");
        fresh.emplace(path, kept);
        ::fcntl(kept, F_SETFL, O_APPEND);
        lock = fresh->tryLock();
        return done;
    };
    auto unnamed = FreshFile::open(folder_);
    if (!unnamed) return tl::unexpected(unnamed.error());
    if (auto written = write(unnamed->get()); !written) return written;
    if (auto taken = unnamed->takePlace(path); !taken) return taken;
    nodes.commit();
    nodes_ = std::move(nodes);
    file_.reset();
    file_.emplace(std::move(*fresh));
    lock_.reset();
    if (lock) lock_.emplace(std::move(*lock));
    end_ = anewAt_ = file_->size();
    firstStep_ = ptrdiff_t(state_.history.position()) - ptrdiff_t(history.position());
    endStep_ = size_t(firstStep_) + history.steps().size() < state_.history.steps().size()
                   ? size_t(firstStep_) + history.steps().size()
                   : SIZE_MAX;
    const std::lock_guard guard(mutex_);
    path_ = path;
    return {};
}

} // namespace glyptos
