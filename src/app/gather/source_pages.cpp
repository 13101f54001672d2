#include "app/gather/source_pages.h"

#include "app/session/crate_service.h"
#include "app/session/document.h"
#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "release/credits.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kSearchWait = 40; // ms after the last key
constexpr int kFacetWidth = 178, kDetailsWidth = 300;

} // namespace

SourcePages::SourcePages(CrateService& crate, GatherBar& bar, QWidget* parent)
    : QWidget(parent)
    , crate_(crate)
    , bar_(bar) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(makeFacets());
    row->addWidget(makeGrids(), 1);
    row->addWidget(details_ = new SourceDetails(crate_, thumbnails_));
    details_->setFixedWidth(kDetailsWidth);
    searchWaits_.setSingleShot(true);
    searchWaits_.setInterval(kSearchWait);
    connect(&searchWaits_, &QTimer::timeout, this, &SourcePages::search);
    connectBar();
    connectCrate();
    connectDrawer();
    connectChosen();
}

QWidget* SourcePages::makeFacets() {
    facetPages_ = new QStackedWidget;
    facetPages_->addWidget(scrolling(facets_ = new FacetPanel(true)));
    facetPages_->addWidget(scrolling(drawerFacets_ = new FacetPanel(false)));
    facetPages_->setFixedWidth(kFacetWidth);
    for (const FacetPanel* facets : {facets_, drawerFacets_})
        connect(facets, &FacetPanel::changed, this, &SourcePages::search);
    return facetPages_;
}

QWidget* SourcePages::makeGrids() {
    gridPages_ = new QStackedWidget;
    gridPages_->addWidget(crateGrid_ = new SourceGrid(crate_, thumbnails_));
    crateGrid_->setEmptyText(tr("The crate is being opened …"));
    auto* drawer = new QWidget;
    auto* column = new QVBoxLayout(drawer);
    column->setContentsMargins(0, 0, 0, 0);
    drawerNote_ = new QWidget;
    auto* note = new QHBoxLayout(drawerNote_);
    note->setContentsMargins(14, 6, 14, 6);
    note->addWidget(drawerSays_ = roleLabel(QString(), "soft"), 1);
    note->addWidget(again_ = new QPushButton(tr("Try again")));
    connect(again_, &QPushButton::clicked, this, &SourcePages::search);
    column->addWidget(drawerNote_);
    column->addWidget(drawerGrid_ = new SourceGrid(crate_, thumbnails_), 1);
    drawerGrid_->setDragging(false);
    drawerGrid_->setAccessibleName(tr("Pictures of the agency"));
    gridPages_->addWidget(drawer);
    return gridPages_;
}

void SourcePages::connectBar() {
    connect(&bar_, &GatherBar::wordsTyped, this, [this] {
        stopLike();
        searchWaits_.start();
    });
    connect(&bar_, &GatherBar::wordsEntered, this, [this] { grid()->setFocus(); });
    connect(&bar_, &GatherBar::orderChosen, this, &SourcePages::search);
}

void SourcePages::connectCrate() {
    connect(&crate_, &CrateService::opened, this, [this] {
        search();
        refreshDetails();
    });
    connect(&crate_, &CrateService::changed, this, [this] {
        inDrawer_ ? refreshDetails() : search(); // the agency is not asked again for that
    });
    connect(&crate_, &CrateService::found, this, [this](const Found& found) {
        const size_t all = crate_.shelf()->entries().size();
        crateGrid_->setEmptyText(
            all == 0
                ? tr("The crate is empty. Drop pictures or folders here, paste one, or use “Add to the "
                     "crate”; the stock drawer has some to begin with.")
                : tr("Nothing in the crate is like that. Try fewer letters, or “Show all” at the left."));
        crateGrid_->setEntries(found.entries);
        facets_->setCounts(found.counts);
        if (!inDrawer_) bar_.setCount(tr("%1 of %2").arg(found.entries.size()).arg(all));
        refreshDetails();
    });
}

void SourcePages::connectDrawer() {
    connect(&crate_, &CrateService::drawerFound, this, [this](const Found& found) {
        drawerNote_->hide();
        drawerGrid_->setEmptyText(tr("The agency has nothing like that."));
        drawerGrid_->setEntries(found.entries);
        drawerFacets_->setCounts(found.counts);
        const QString name = crate_.agency() ? q(crate_.agency()->name()) : QString();
        if (inDrawer_) bar_.setCount(tr("%1 of %2").arg(found.entries.size()).arg(name));
        refreshDetails();
    });
    connect(&crate_, &CrateService::drawerFailed, this, [this](const QString& sentence) {
        noteOfDrawer(sentence, true);
        details_->setEnabled(true);
    });
    connect(&crate_, &CrateService::took, this, [this](const QString& id) {
        drawerNote_->hide();
        details_->setEnabled(true);
        if (const EntryPtr entry = crate_.entry(id.toStdString()))
            bar_.setCount(tr("“%1” is in the crate, with its credit.").arg(q(entry->name())));
        refreshDetails();
    });
}

/// What the agency is being asked, or has answered instead of pictures.
void SourcePages::noteOfDrawer(const QString& sentence, bool failed) {
    drawerSays_->setText(sentence);
    setRole(drawerSays_, failed ? "caution" : "soft");
    again_->setVisible(failed);
    drawerNote_->show();
}

void SourcePages::connectChosen() {
    for (SourceGrid* g : {crateGrid_, drawerGrid_})
        connect(g, &SourceGrid::chosenChanged, this, &SourcePages::refreshDetails);
    connect(crateGrid_, &SourceGrid::activated, details_, &SourceDetails::placeAsked);
    connect(drawerGrid_, &SourceGrid::activated, details_, &SourceDetails::takeAsked);
    connect(crateGrid_, &SourceGrid::menuAsked, this, [this](const QPoint& at) {
        auto* menu = new QMenu(this);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        menu->addAction(tr("Place on the piece"), details_, &SourceDetails::placeAsked);
        menu->addAction(tr("Pin to the wall"), details_, &SourceDetails::pinAsked);
        menu->addAction(tr("Show what is like it"), this, [this] { setLike(true); });
        menu->addAction(tr("Out of the crate"), details_, &SourceDetails::removeAsked);
        menu->popup(at);
    });
    connect(details_, &SourceDetails::removeAsked, this, [this] {
        std::vector<std::string> ids;
        for (const EntryPtr& e : crateGrid_->chosen()) ids.push_back(e->id);
        crate_.remove(ids);
    });
    connect(details_, &SourceDetails::takeAsked, this, [this] {
        const EntryPtr entry = drawerGrid_->current();
        if (!entry || crate_.entry(entry->id)) return;
        noteOfDrawer(tr("Taking “%1” …").arg(q(entry->name())), false);
        details_->setEnabled(false);
        crate_.take(entry->id);
    });
    connect(details_, &SourceDetails::likeAsked, this, &SourcePages::setLike);
    connect(details_, &SourceDetails::weightsChanged, this, [this] {
        if (isLike()) search();
    });
}

void SourcePages::setDocument(Document* document) {
    document_ = document;
    refreshDetails();
}

void SourcePages::setInDrawer(bool drawer) {
    inDrawer_ = drawer;
    gridPages_->setCurrentIndex(drawer ? 1 : 0);
    facetPages_->setCurrentIndex(drawer ? 1 : 0);
}

void SourcePages::setNarrow(bool narrow) {
    facetPages_->setVisible(!narrow);
    details_->setVisible(!narrow);
}

void SourcePages::search() {
    if (!document_) return;
    CrateQuery query = (inDrawer_ ? drawerFacets_ : facets_)->query();
    query.order = bar_.order();
    query.like = like_;
    query.weights = details_->weights();
    const QString words = bar_.searchField()->text();
    if (!inDrawer_) return crate_.find(words, query, picturesUsedIn(*document_->release()));
    noteOfDrawer(tr("Asking the agency …"), false);
    crate_.findInDrawer(words, query);
}

void SourcePages::stopLike() {
    like_.clear();
    details_->setLike(false);
}

void SourcePages::setLike(bool on) {
    const EntryPtr entry = grid()->current();
    like_ = on && entry ? entry->id : std::string();
    details_->setLike(isLike());
    if (on) bar_.searchField()->clear(); // relatives are looked for everywhere
    search();
}

void SourcePages::refreshDetails() {
    if (!document_) return;
    const EntryPtr current = grid()->current();
    std::vector<EntryPtr> ordered;
    if (current) ordered.push_back(current);
    for (const EntryPtr& e : grid()->chosen())
        if (e != current) ordered.push_back(e);
    const Agency* agency = inDrawer_ && current ? crate_.agency() : nullptr;
    details_->show(ordered, inDrawer_, agency ? agency->licence(current->facts.licence) : nullptr);
    const PiecePtr piece = document_->release()->piece(document_->piecePanel().piece);
    details_->setPiece(piece ? q(piece->name) : QString());
}

QStringList SourcePages::chosenFiles() const {
    QStringList out;
    for (const EntryPtr& e : crateGrid_->chosen()) out << q(crate_.fileOf(*e).string());
    return out;
}

std::set<std::string> picturesUsedIn(const Release& release) {
    std::set<std::string> out;
    for (const CreditRow& row : creditsOf(release)) out.insert(row.source->id);
    return out;
}

} // namespace glyptos
