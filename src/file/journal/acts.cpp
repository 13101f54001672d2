#include "file/journal/acts.h"

#include "base/path_text.h"

namespace glyptos {
namespace {

constexpr int kMostSteps = 10'000'000, kMostIds = 1'000'000'000;
constexpr const char* kMergeable = "step";

Json toJson(const ToldStep& step) {
    return {{"name", step.name}, {"root", step.root}, {"nextId", step.nextId}};
}

Json toJson(const std::vector<ToldStep>& steps) {
    Json out = Json::list();
    for (const ToldStep& step : steps) out.push_back(toJson(step));
    return out;
}

ToldStep readStep(const Entry& e) {
    return {e.text("name"), e.text("root"), e.whole("nextId", 1, kMostIds)};
}

Json act(const char* kind) {
    return {{"act", kind}};
}

} // namespace

Json historyAct(const ToldHistory& history, const std::string& title, int64_t atMs) {
    Json out = act("history"), left = Json::list();
    for (const ToldHistory::Left& branch : history.left)
        left.push_back({{"from", branch.from}, {"steps", toJson(branch.steps)}});
    out.update({{"steps", toJson(history.steps)}, {"to", history.at}, {"left", std::move(left)}});
    out.update({{"title", title}, {"at", double(atMs)}});
    return out;
}

Json stepAct(const ToldStep& step, bool merged, const std::string& title, int64_t atMs) {
    Json out = act("step");
    out.update(toJson(step));
    if (merged) out["merged"] = true;
    out.update({{"title", title}, {"at", double(atMs)}});
    return out;
}

Json goAct(size_t step) {
    return {{"act", "go"}, {"to", step}};
}

Json savedAct(const std::string& step, const std::string& inFile, const std::optional<SavedAs>& as) {
    Json out{{"act", "saved"}, {"step", step}, {"inFile", inFile}};
    if (as) out["file"] = pathText(as->file.native());
    if (as && as->stamp) out["stamp"] = toJson(*as->stamp);
    return out;
}

Json leftAct() {
    return act("left");
}

Result<void> ActReplay::take(std::string_view json) {
    const auto done = guarded(json, "act", [&](const Entry& e) {
        take(e);
        return true;
    });
    if (!done) return tl::unexpected(done.error());
    return {};
}

/// A release of its own for each step, so that no two of them are one.
ReleasePtr ActReplay::standIn(const ToldStep& step) {
    static const Release empty;
    auto made = std::make_shared<Release>(empty);
    made->nextId = step.nextId;
    ReleasePtr out = std::move(made);
    told_[out] = step;
    return out;
}

size_t ActReplay::stepsSinceSaved() const {
    const size_t at = history_->position();
    for (size_t i = at + 1; i-- > 0;)
        if (told(history_->steps()[i].release).root == savedStep_) return at - i;
    for (size_t i = at; i < history_->steps().size(); ++i)
        if (told(history_->steps()[i].release).root == savedStep_) return i - at;
    return at;
}

std::vector<HistoryStep> ActReplay::readSteps(const Entry& list) {
    std::vector<HistoryStep> out;
    list.each("steps", [&](const Entry& one) {
        const ToldStep step = readStep(one);
        out.push_back({step.name, standIn(step), {}});
    });
    if (out.empty()) list.wrong("has no steps");
    return out;
}

void ActReplay::take(const Entry& e) {
    const std::string kind = e.text("act");
    if (kind == "history") {
        auto steps = readSteps(e);
        const int last = int(steps.size()) - 1;
        std::vector<LeftBranch> left;
        e.each("left", [&](const Entry& branch) {
            left.push_back({size_t(branch.whole("from", 0, last)), readSteps(branch)});
        });
        history_.emplace(std::move(steps), size_t(e.whole("to", 0, last)), std::move(left));
    } else if (!history_)
        e.wrong("comes before the history");
    if (kind == "history" || kind == "step") title_ = e.text("title"), lastMs_ = int64_t(e.number("at"));
    if (kind == "step") {
        const ToldStep step = readStep(e);
        const bool merged = e.flagOr("merged", false);
        if (!merged) history_->settle();
        history_->push(step.name, standIn(step), kMergeable);
    } else if (kind == "go") {
        history_->go(size_t(e.whole("to", 0, kMostSteps)));
    } else if (kind == "saved") {
        savedStep_ = e.text("step"), inFile_ = e.text("inFile");
        as_.reset();
        if (e.has("file")) as_ = SavedAs{pathFromText(e.text("file")), {}};
        if (as_ && e.has("stamp")) as_->stamp = readStamp(e.at("stamp"));
    }
    left_ = kind == "left";
}

} // namespace glyptos
