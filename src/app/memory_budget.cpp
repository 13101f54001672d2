#include "app/memory_budget.h"

#include <QSettings>
#include <algorithm>
#include <unistd.h>

namespace glyptos {
namespace {

const auto kKey = QStringLiteral("memory/share");

} // namespace

size_t installedMemory() {
    const long pages = sysconf(_SC_PHYS_PAGES), page = sysconf(_SC_PAGE_SIZE);
    return pages > 0 && page > 0 ? size_t(pages) * size_t(page) : size_t(4) << 30;
}

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
