#include "file/journal/deeds.h"

#include "base/overloaded.h"

namespace glyptos {

void JournalState::take(const Deed& deed) {
    std::visit(Overloaded{[&](const StepDone& step) {
                              if (!step.merged) history.settle();
                              history.push(step.name, step.release, "step");
                          },
                          [&](const WentTo& to) { history.go(to.step); },
                          [&](const MiniatureMade& made) { miniature = made.png; },
                          [&](const SaveDone& save) { saved = save.release, as = save.as; },
                          [](const SaveBegun&) {}, [](const LeftUnsaved&) {}},
               deed);
    if (!std::holds_alternative<MiniatureMade>(deed) && !std::holds_alternative<SaveBegun>(deed))
        isLeft = std::holds_alternative<LeftUnsaved>(deed);
}

std::string titleOf(const Release& release) {
    const Brief& brief = release.brief;
    return brief.title.empty() || brief.artist.empty() ? brief.title + brief.artist
                                                       : brief.title + " · " + brief.artist;
}

} // namespace glyptos
