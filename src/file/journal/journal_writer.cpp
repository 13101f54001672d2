#include "file/journal/journal_writer.h"

#include "file/disk/fresh_file.h"
#include "file/pictures/picture_reader.h"

#include <fcntl.h>
#include <future>
#include <random>
#include <sys/stat.h>
#include <unistd.h>

namespace glyptos {
namespace {

using Clock = std::chrono::steady_clock;

std::string freshName() {
    std::random_device chance;
    const uint64_t bits[2] = {uint64_t(Clock::now().time_since_epoch().count()),
                              uint64_t(chance()) << 32U | chance()};
    return contentId({reinterpret_cast<const uint8_t*>(bits), sizeof bits}).substr(0, 16) + ".journal";
}

} // namespace

JournalWriter::JournalWriter(const std::filesystem::path& folder, JournalState start, Told told)
    : path_(folder / freshName())
    , tell_(std::move(told))
    , state_(std::move(start))
    , isBehind_(state_.history.steps().size() > 1)
    , isIdle_(!isBehind_)
    , flusher_([this](const Error&) { notFlushed(); })
    , worker_([this](const std::stop_token& stop) { work(stop); }) {}

JournalWriter::JournalWriter(OpenJournal journal, JournalState start, bool isBehind, Told told)
    : path_(journal.file.path())
    , tell_(std::move(told))
    , state_(std::move(start))
    , file_(std::move(journal))
    , anewAt_(file_->size())
    , isBehind_(isBehind)
    , isIdle_(!isBehind)
    , flusher_([this](const Error&) { notFlushed(); })
    , worker_([this](const std::stop_token& stop) { work(stop); }) {}

JournalWriter::~JournalWriter() {
    worker_.request_stop();
    wake_.notify_all();
    worker_.join();
    const History& history = state_.history;
    const bool isEmpty = history.steps().size() == 1 && history.left().empty();
    std::error_code gone;
    if (file_ && (isEmpty || isDiscarded_ || file_->size() == 0)) std::filesystem::remove(path_, gone);
}

void JournalWriter::put(Deed deed) {
    {
        const std::lock_guard lock(mutex_);
        // Of steps that take each other's place the last one counts.
        const auto* step = std::get_if<StepDone>(&deed);
        auto* before = deeds_.empty() ? nullptr : std::get_if<StepDone>(&deeds_.back());
        if (step && step->merged && before)
            deeds_.back() = StepDone{step->name, step->release, before->merged};
        else
            deeds_.push_back(std::move(deed));
        isIdle_ = false;
    }
    wake_.notify_all();
}

void JournalWriter::step(std::string name, ReleasePtr release, bool merged) {
    put(StepDone{std::move(name), std::move(release), merged});
}

void JournalWriter::go(size_t step) {
    put(WentTo{step});
}

void JournalWriter::miniature(std::vector<uint8_t> png) {
    put(MiniatureMade{std::move(png)});
}

void JournalWriter::saved(ReleasePtr release, const SavedAs& as) {
    put(SaveDone{std::move(release), as});
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
        saving_ = SaveBegun{file, release};
    }
    put(SaveBegun{file, std::move(release)});
    [[maybe_unused]] const bool done = flush(); // a save goes on without a journal
}

void JournalWriter::saveEnded() {
    const std::lock_guard lock(mutex_);
    saving_.reset();
}

void JournalWriter::leave() {
    put(LeftUnsaved{});
}

void JournalWriter::discard() {
    const std::lock_guard lock(mutex_);
    isDiscarded_ = true;
}

bool JournalWriter::flush() {
    std::unique_lock lock(mutex_);
    hurry_ = true, failed_ = false;
    wake_.notify_all();
    while (!failed_ && !(isIdle_ && flusher_.isDone())) {
        wake_.wait(lock, [&] { return isIdle_ || failed_; });
        lock.unlock();
        flusher_.wait();
        lock.lock();
    }
    hurry_ = false;
    return !failed_;
}

void JournalWriter::notFlushed() {
    {
        const std::lock_guard lock(mutex_);
        isUnflushed_ = true, isIdle_ = false;
    }
    wake_.notify_all();
}

void JournalWriter::work(const std::stop_token& stop) {
    std::unique_lock lock(mutex_);
    while (true) {
        wake_.wait(lock, stop, [&] { return hasWork(); });
        if (!hasWork()) return;
        isIdle_ = false;
        wake_.wait_until(lock, stop, next_, [&] { return hurry_; });
        Deeds deeds = std::exchange(deeds_, {});
        isUnsound_ = std::exchange(isUnflushed_, false) || isUnsound_;
        lock.unlock();
        const auto written = caught([&] { return writeSome(deeds); });
        noteTrouble(written);
        lock.lock();
        deeds_.insert(deeds_.begin(), std::make_move_iterator(deeds.begin()),
                      std::make_move_iterator(deeds.end()));
        failed_ = !written;
        isIdle_ = !hasWork();
        if (failed_) hurry_ = false;
        next_ = Clock::now() + (failed_ ? Clock::duration(kTryAgain) : Clock::duration(kPause));
        wake_.notify_all();
        if (failed_ && stop.stop_requested()) return;
    }
}

void JournalWriter::setBehind(bool isBehind) {
    const std::lock_guard lock(mutex_);
    isBehind_ = isBehind;
}

void JournalWriter::noteTrouble(const Result<void>& written) {
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

/// They are part of the state then, and gone from `deeds`.
void JournalWriter::takeAll(Deeds& deeds) {
    for (const Deed& deed : std::exchange(deeds, {})) state_.take(deed);
}

/// What could be written, or is part of the state now, is gone from `deeds` afterwards.
Result<void> JournalWriter::writeSome(Deeds& deeds) {
    const auto any = [&]<class Sort>(Sort) {
        return std::any_of(deeds.begin(), deeds.end(),
                           [](const Deed& deed) { return std::holds_alternative<Sort>(deed); });
    };
    const bool isSaved = any(SaveDone{});
    if (!file_ && !isBehind_ && !any(StepDone{})) {
        takeAll(deeds);
        return {};
    }
    if (isUnsound_) {
        takeAll(deeds);
        return writeAnew();
    }
    if (!file_)
        if (auto begun = begin(); !begun) return begun;
    if (auto told = tell(deeds); !told) return told;
    const size_t size = file_->size();
    const bool isLarge =
        isSaved ? size > anewAt_ + anewAt_ / 2 + kWorthWhile : size > std::max(kMostBytes, 2 * anewAt_);
    // Where there is no room for another one, the longer one does as well.
    if (isLarge)
        if (auto anew = writeAnew(); !anew) anewAt_ = size;
    return {};
}

/// Adds deeds to the file; where that cannot be, tells it the state once more.
Result<void> JournalWriter::tell(Deeds& deeds) {
    if (!isBehind_ && file_->canAdd(deeds)) {
        if (auto added = file_->add(deeds, pictures()); !added) return added;
        takeAll(deeds);
    } else {
        takeAll(deeds);
        setBehind(true);
        if (auto told = file_->tell(state_, kKeptSteps, pictures()); !told) return told;
        setBehind(false);
    }
    flusher_.want(file_->file());
    return {};
}

Result<void> JournalWriter::begin() {
    const std::filesystem::path folder = path_.parent_path();
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    ::chmod(folder.c_str(), 0700);
    auto file = AppendFile::open(path_);
    if (!file) return tl::unexpected(file.error());
    if (file->isReadOnly()) return fail(Fault::Unwritable, "the folder of journals cannot be written");
    file_ = JournalFile::begun(std::move(*file));
    flusher_.want(file_->file(), true);
    return {};
}

PicturesElsewhere JournalWriter::pictures() {
    std::unique_lock lock(mutex_);
    const auto saving = saving_ ? saving_->file : std::filesystem::path();
    lock.unlock();
    return {[this](const Source& source) { return spotOf(source); },
            [saving](const PictureSpot& spot) { return spot.file != saving && !isAsSeen(spot); }};
}

std::optional<PictureSpot> JournalWriter::spotOf(const Source& source) {
    std::unique_lock lock(mutex_);
    const auto known = elsewhere_.find(source.id);
    const auto file = known == elsewhere_.end() ? std::nullopt : std::optional(known->second);
    const bool isGoing =
        saving_ && state_.as && saving_->file == state_.as->file && !saving_->release->source(source.id);
    lock.unlock();
    if (const auto stamp = file ? stampOf(*file) : std::nullopt) {
        const PictureSpot spot{*file, false, *stamp};
        if (readSpot(spot, source) && isAsSeen(spot)) return spot;
    }
    if (state_.saved && state_.as && state_.as->stamp && state_.saved->source(source.id) && !isGoing)
        return PictureSpot{state_.as->file, true, *state_.as->stamp};
    return std::nullopt;
}

/// What is done while the journal is being written anew goes into the old one as ever, and behind the state
/// in the new one.
Result<void> JournalWriter::meanwhile() {
    if (isUnsound_) return {};
    std::unique_lock lock(mutex_);
    if (deeds_.empty() || Clock::now() < next_) return {};
    Deeds deeds = std::exchange(deeds_, {});
    lock.unlock();
    since_.insert(since_.end(), deeds.begin(), deeds.end());
    auto told = caught([&] { return tell(deeds); });
    lock.lock();
    deeds_.insert(deeds_.begin(), std::make_move_iterator(deeds.begin()),
                  std::make_move_iterator(deeds.end()));
    next_ = Clock::now() + kPause;
    return told;
}

/// The last steps alone, in a file that takes the place of the one that is there.
Result<void> JournalWriter::writeAnew() {
    auto fresh = FreshFile::open(path_.parent_path());
    if (!fresh) return tl::unexpected(fresh.error());
    ::fchmod(fresh->get(), 0600);
    const int kept = ::fcntl(fresh->get(), F_DUPFD_CLOEXEC, 0);
    if (kept < 0) return fail(Fault::Unwritable, "too many files are open");
    ::fcntl(kept, F_SETFL, O_APPEND);
    JournalFile next = JournalFile::begun(AppendFile(path_, kept));
    since_.clear();
    if (auto told = next.tell(JournalState(state_), kKeptSteps, pictures(), [this] { return meanwhile(); });
        !told)
        return told;
    auto flushing = std::async(std::launch::async, [&] { return fresh->flush(); });
    Result<void> told;
    while (flushing.wait_for(kPause) != std::future_status::ready)
        if (told) told = meanwhile();
    if (auto flushed = flushing.get(); !flushed || !told) return flushed ? told : flushed;
    if (!since_.empty())
        told = next.canAdd(since_) ? next.add(since_, pictures()) : next.tell(state_, kKeptSteps, pictures());
    if (!told) return told;
    if (auto named = fresh->takeName(path_); !named) return named;
    file_ = std::move(next);
    anewAt_ = file_->size();
    isUnsound_ = false;
    setBehind(false);
    flusher_.want(file_->file(), true);
    return {};
}

} // namespace glyptos
