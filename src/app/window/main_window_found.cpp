// Of the window: what was written down as it was worked on, and comes back.
#include "app/window/main_window.h"

#include "app/session/words.h"
#include "app/widgets/miniature.h"
#include "app/window/found_sheet.h"
#include "base/text.h"

namespace glyptos {
namespace {

constexpr int kMiniature = 128, kMiniatureAfter = 2000; // px; ms without a change

} // namespace

void MainWindow::connectJournal() {
    journal_.setFileOf([this](const std::string& source) -> std::optional<std::filesystem::path> {
        const EntryPtr entry = crate_.entry(source);
        return entry ? std::optional(crate_.fileOf(*entry)) : std::nullopt;
    });
    connect(&journal_, &JournalKeeper::told, this, &MainWindow::tell);
    connect(&journal_, &JournalKeeper::found, this, &MainWindow::showFound);
    connect(&journal_, &JournalKeeper::readBack, this, &MainWindow::showReadBack);
    connect(&journal_, &JournalKeeper::hasUnsaved, this,
            [this](const JournalSummary& journal) { showFound({journal}); });
    miniature_ = new Miniature(service_, this);
    connect(miniature_, &Miniature::arrived, this, [this] { journal_.setMiniature(miniature_->image()); });
    miniatureSoon_.setSingleShot(true);
    miniatureSoon_.setInterval(kMiniatureAfter);
    connect(&miniatureSoon_, &QTimer::timeout, this, &MainWindow::askMiniature);
}

/// Of the panel in hand, or the first one when that is the wall.
void MainWindow::askMiniature() {
    const PanelRef& ref = document_->piecePanel();
    const PiecePtr piece = document_->release()->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel || !document_->isModified()) return;
    auto [scene, region] = fittedScene(document_->release(), ref, panel->trim(), {kMiniature, kMiniature});
    miniature_->ask(5, std::move(scene), region);
}

void MainWindow::begin() {
    newRelease();
    isBeginning_ = true;
    journal_.lookForLost(false);
}

void MainWindow::showFoundAgain() {
    journal_.lookForLost(true);
}

void MainWindow::showFound(const std::vector<JournalSummary>& lost) {
    const bool beginning = std::exchange(isBeginning_, false);
    if (lost.empty() && beginning) return void(askNewRelease());
    auto* sheet = new FoundSheet(lost, this);
    connect(sheet, &FoundSheet::takeUpAsked, this, [this](const std::filesystem::path& journal) {
        leaveThen([this, journal] { journal_.takeUp(journal); });
    });
    connect(sheet, &FoundSheet::leftOne, &journal_, &JournalKeeper::leaveFound);
    connect(sheet, &FoundSheet::discardAsked, &journal_, &JournalKeeper::discardFound);
    connect(sheet, &QDialog::rejected, this, [this, beginning] {
        if (beginning) askNewRelease();
    });
    sheet->open();
}

void MainWindow::showReadBack(const std::shared_ptr<JournalContents>& contents) {
    JournalState& start = contents->start;
    const std::filesystem::path file = start.as ? start.as->file : std::filesystem::path();
    if (start.as) files_.know(q(file.string()), start.as->stamp);
    setDocument(std::make_unique<Document>(std::move(start.history), start.saved, file));
    journal_.followFound(*document_, std::move(contents->journal), start.as);
    refreshTitles();
    showStep(Step::Compose);
    Q_EMIT opened();
}

} // namespace glyptos
