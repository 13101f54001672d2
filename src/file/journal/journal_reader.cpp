#include "file/journal/journal_reader.h"

#include "base/text.h"
#include "file/journal/node_reader.h"

namespace glyptos {
namespace {

constexpr int kVersion = 1;

tl::unexpected<Error> notRead(const std::filesystem::path& file, Fault fault, const std::string& why) {
    return fail(fault,
                "The journal “" + nameOf(file) + "” was not taken up: " + why + ". It was left as it is.");
}

Result<void> checkHead(std::string_view json) {
    const auto head = guarded(json, "journal", [&](const Entry& e) {
        return std::pair(e.number("glyptos-journal"), e.number("format"));
    });
    if (!head) return fail(Fault::Damaged, "it is no journal of a release");
    if (head->first > kVersion || head->second > kReleaseFormatVersion)
        return fail(Fault::Unsupported, "it was written by a newer version of Glyptos");
    return {};
}

/// Everything of a journal but the releases.
struct Told {
    std::shared_ptr<NodeIndex> index = std::make_shared<NodeIndex>();
    ActReplay acts;
    std::vector<uint8_t> miniature;
    size_t end = 0;
};

/// Without nodes, what is painted and the pictures are not read.
Result<Told> readTold(const AppendFile& file, bool withNodes) {
    Told out;
    Result<void> head = fail(Fault::Damaged, "it is no journal of a release");
    bool isFirst = true, isWhole = true;
    const auto wanted = [&](RecordKind kind) {
        return withNodes || kind == RecordKind::Head || kind == RecordKind::Act ||
               kind == RecordKind::Miniature;
    };
    const auto end = eachRecord(file, 0, wanted, [&](const Record& record, std::span<const uint8_t> payload) {
        const std::string_view text(reinterpret_cast<const char*>(payload.data()), payload.size());
        if (std::exchange(isFirst, false)) {
            if (record.kind == RecordKind::Head) head = checkHead(text);
            return;
        }
        if (!head || !isWhole) return;
        if (record.kind == RecordKind::Act && !out.acts.take(text)) {
            isWhole = false; // what follows cannot be understood without it
            return;
        }
        if (record.kind == RecordKind::Miniature) out.miniature.assign(payload.begin(), payload.end());
        if (withNodes) out.index->take(record, payload);
        out.end = record.at + record.size;
    });
    if (!end) return tl::unexpected(end.error());
    if (!head) return tl::unexpected(head.error());
    if (!out.acts.hasBegun()) return fail(Fault::Damaged, "there is nothing whole in it");
    return out;
}

/// The history with the releases that its steps stand for. A step that cannot be read ends it.
class Realised {
  public:
    Realised(const ActReplay& acts, NodeReader& nodes)
        : acts_(acts)
        , nodes_(nodes) {}

    Result<ReleasePtr> release(const ReleasePtr& standIn) {
        const ToldStep& told = acts_.told(standIn);
        if (ReleasePtr kept = ofRoot(told.root)) return kept;
        auto made = nodes_.release(told.root, told.nextId);
        if (made) made_[told.root] = *made;
        return made;
    }

    /// Nothing when no step stands for it.
    ReleasePtr ofRoot(const std::string& root) const {
        const auto made = made_.find(root);
        return made == made_.end() ? nullptr : made->second;
    }

    Result<History> history(const History& told) {
        std::vector<HistoryStep> steps;
        for (const HistoryStep& step : told.steps()) {
            auto made = release(step.release);
            if (!made) return tl::unexpected(made.error());
            steps.push_back({step.name, std::move(*made), {}});
        }
        std::vector<LeftBranch> left;
        for (const LeftBranch& branch : told.left()) {
            LeftBranch one{branch.from, {}};
            for (const HistoryStep& step : branch.steps)
                if (auto made = release(step.release)) one.steps.push_back({step.name, std::move(*made), {}});
            if (!one.steps.empty()) left.push_back(std::move(one));
        }
        return History(std::move(steps), told.position(), std::move(left));
    }

  private:
    const ActReplay& acts_;
    NodeReader& nodes_;
    std::map<std::string, ReleasePtr> made_;
};

} // namespace

Result<JournalContents> readJournal(const std::filesystem::path& path, const FormList& forms,
                                    const ReleasePtr& known) {
    auto file = AppendFile::open(path);
    if (!file) return notRead(path, file.error().fault, file.error().message);
    auto lock = file->tryLock();
    if (!lock) return notRead(path, Fault::Unreadable, "another window writes to it");
    const auto told = readTold(*file, true);
    if (!told) return notRead(path, told.error().fault, told.error().message);
    auto forReading = AppendFile::openToRead(path);
    if (!forReading) return notRead(path, forReading.error().fault, forReading.error().message);
    NodeReader nodes(std::make_shared<const AppendFile>(std::move(*forReading)), told->index, forms);
    if (known) nodes.share(*known);
    const History& all = told->acts.history();
    const History last = all.last(JournalWriter::kKeptSteps);
    const size_t firstStep = all.position() - last.position();
    Realised realised(told->acts, nodes);
    auto history = realised.history(last);
    if (!history) return notRead(path, history.error().fault, history.error().message);
    ReleasePtr saved = realised.ofRoot(told->acts.savedStep());
    return JournalContents{
        {std::move(*history), std::move(saved), told->acts.savedAs()},
        told->acts.inFile(),
        {std::move(*file), std::move(*lock), told->end, told->index->holdings(), firstStep}};
}

Result<JournalSummary> summaryOf(const std::filesystem::path& path) {
    const auto file = AppendFile::openToRead(path);
    if (!file) return notRead(path, file.error().fault, file.error().message);
    const bool isInUse = file->isLocked();
    auto told = readTold(*file, false);
    if (!told) return notRead(path, told.error().fault, told.error().message);
    const ActReplay& acts = told->acts;
    return JournalSummary{path,
                          acts.title(),
                          acts.savedAs(),
                          acts.lastMs(),
                          acts.stepsSinceSaved(),
                          acts.isModified(),
                          acts.isLeft(),
                          isInUse,
                          file->size(),
                          std::move(told->miniature)};
}

std::string rootName(const Release& release) {
    return NodeWriter::naming().nameOf(release);
}

} // namespace glyptos
