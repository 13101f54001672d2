#include "app/session/memory_budget.h"

#include "app/session/engine.h"

#include <QSettings>
#include <algorithm>

namespace glyptos {
namespace {

const auto kKey = QStringLiteral("memory/share");

} // namespace

int memoryShare() {
    const int percent = QSettings().value(kKey, kStandardMemoryShare).toInt();
    return std::clamp(percent, kLeastMemoryShare, kMostMemoryShare);
}

void applyMemoryShare(Engine& engine) {
    const size_t budget = installedMemory() / 100 * size_t(memoryShare());
    engine.pictures.setBudget(budget / 4 * 3);
    engine.renderer.setCacheBytes(budget / 4);
}

void setMemoryShare(Engine& engine, int percent) {
    QSettings().setValue(kKey, percent);
    applyMemoryShare(engine);
}

} // namespace glyptos
