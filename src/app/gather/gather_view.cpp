#include "app/gather/gather_view.h"

#include "app/gather/wall_pane.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "release/credits.h"
#include "release/edits/edits.h"
#include "release/wall.h"

#include <QClipboard>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kSearchWait = 40; // ms after the last key

QString q(const std::string& s) {
    return QString::fromStdString(s);
}

std::set<std::string> usedIn(const Release& release) {
    std::set<std::string> out;
    for (const CreditRow& row : creditsOf(release)) out.insert(row.source->id);
    return out;
}

} // namespace

GatherView::GatherView(Engine& engine, RenderService& service, CrateService& crate, QWidget* parent)
    : QWidget(parent)
    , crate_(crate) {
    setAcceptDrops(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(makeBar());
    pages_ = new QStackedWidget;
    split_ = new QSplitter;
    split_->setHandleWidth(5);
    split_->setChildrenCollapsible(false);
    split_->addWidget(makeGrids());
    split_->addWidget(wallPane_ = new WallPane(engine, service));
    pages_->addWidget(split_);
    pages_->addWidget(colours_ = new ColoursView(engine, service));
    pages_->addWidget(credits_ = new CreditsView);
    column->addWidget(pages_, 1);
    searchWaits_.setSingleShot(true);
    searchWaits_.setInterval(kSearchWait);
    connect(&searchWaits_, &QTimer::timeout, this, &GatherView::search);
    connectCrate();
    connectDetails();
    connect(wallPane_, &WallPane::told, this, &GatherView::told);
    connect(colours_, &ColoursView::told, this, &GatherView::told);
    connect(credits_, &CreditsView::told, this, &GatherView::told);
    connect(credits_, &CreditsView::placed, this, &GatherView::composeAsked);
    connect(credits_, &CreditsView::factsEdited, this, &GatherView::editFacts);
    connect(wall(), &ComposeBench::picturesArrived, this,
            [this](const QStringList& files, Vec2 at) { Q_EMIT placeAsked(files, wallPanel(), at); });
    refreshPlace();
}

GatherView::~GatherView() = default;

WallBench* GatherView::wall() const {
    return wallPane_->bench();
}

QWidget* GatherView::makeBar() {
    auto* bar = new QWidget;
    auto* rows = new QVBoxLayout(bar);
    rows->setContentsMargins(12, 6, 12, 6);
    rows->setSpacing(5);
    auto* words = new QHBoxLayout;
    words->setSpacing(4);
    places_ = new QButtonGroup(this);
    const std::tuple<Place, QString, QString> places[] = {
        {CratePlace, tr("Crate"), tr("Your own sources, across releases")},
        {DrawerPlace, tr("Stock drawer"), tr("Pictures of an agency, to be taken with their credit")},
        {WallPlace, tr("Wall"), tr("Pin up, look, choose")},
        {ColoursPlace, tr("Colours"), tr("The palette of the release")},
        {CreditsPlace, tr("Credits"), tr("Whose pictures the release is made of")}};
    for (const auto& [place, text, why] : places) {
        QToolButton* button = wordButton(text, why, true);
        places_->addButton(button, int(place));
        words->addWidget(button);
    }
    connect(places_, &QButtonGroup::idClicked, this, [this](int id) { showPlace(static_cast<Place>(id)); });
    words->addStretch();
    beside_ = wordButton(tr("Wall beside"),
                         tr("Shows the wall beside the pictures, to pin by dragging (W pins what is chosen)"),
                         true);
    connect(beside_, &QToolButton::clicked, this, &GatherView::setWallBeside);
    words->addWidget(beside_);
    rows->addLayout(words);
    searchRow_ = new QWidget;
    auto* row = new QHBoxLayout(searchRow_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    search_ = new QLineEdit;
    search_->setAccessibleName(tr("Search"));
    search_->setPlaceholderText(tr("A word: rope, dusk, Orri …"));
    search_->setClearButtonEnabled(true);
    connect(search_, &QLineEdit::textEdited, this, [this] {
        like_.clear();
        details_->setLike(false);
        searchWaits_.start();
    });
    connect(search_, &QLineEdit::returnPressed, this, [this] { grid()->setFocus(); });
    order_ = new QComboBox;
    order_->setAccessibleName(tr("Order"));
    order_->addItems({tr("Best first"), tr("Newest first"), tr("By title"), tr("Largest first")});
    connect(order_, &QComboBox::activated, this, &GatherView::search);
    count_ = roleLabel(QString(), "soft");
    count_->setWordWrap(false);
    cancel_ = new QPushButton(tr("Stop adding"));
    connect(cancel_, &QPushButton::clicked, &crate_, &CrateService::cancelAdding);
    cancel_->hide();
    add_ = new QPushButton(tr("Add to the crate"));
    auto* menu = new QMenu(add_);
    menu->addAction(tr("Files…"), this, &GatherView::askAddFiles);
    menu->addAction(tr("A folder…"), this, &GatherView::askAddFolder);
    menu->addAction(tr("What is on the clipboard"), this, [this] {
        if (!paste()) Q_EMIT told(tr("There is no picture on the clipboard."));
    });
    auto* watch = menu->addMenu(tr("Watched folders"));
    connect(watch, &QMenu::aboutToShow, this, [=, this] { fillWatchMenu(watch); });
    add_->setMenu(menu);
    row->addWidget(search_, 1);
    row->addWidget(order_);
    row->addWidget(count_);
    row->addWidget(cancel_);
    row->addWidget(add_);
    rows->addWidget(searchRow_);
    return bar;
}

QWidget* GatherView::makeGrids() {
    auto* page = new QWidget;
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    facetPages_ = new QStackedWidget;
    facetPages_->addWidget(scrolling(facets_ = new FacetPanel(true)));
    facetPages_->addWidget(scrolling(drawerFacets_ = new FacetPanel(false)));
    facetPages_->setFixedWidth(178);
    connect(facets_, &FacetPanel::changed, this, &GatherView::search);
    connect(drawerFacets_, &FacetPanel::changed, this, &GatherView::search);
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
    connect(again_, &QPushButton::clicked, this, &GatherView::search);
    column->addWidget(drawerNote_);
    column->addWidget(drawerGrid_ = new SourceGrid(crate_, thumbnails_), 1);
    drawerGrid_->setDragging(false);
    drawerGrid_->setAccessibleName(tr("Pictures of the agency"));
    gridPages_->addWidget(drawer);
    details_ = new SourceDetails(crate_, thumbnails_);
    details_->setFixedWidth(300);
    row->addWidget(facetPages_);
    row->addWidget(gridPages_, 1);
    row->addWidget(details_);
    return page;
}

void GatherView::connectCrate() {
    connect(&crate_, &CrateService::opened, this, [this] {
        search();
        refreshDetails();
    });
    connect(&crate_, &CrateService::changed, this, [this] {
        place_ == DrawerPlace ? refreshDetails() : search(); // the agency is not asked again for that
    });
    connect(&crate_, &CrateService::told, this, &GatherView::told);
    connect(&crate_, &CrateService::found, this, [this](const Found& found) {
        crateGrid_->setEmptyText(
            crate_.shelf()->entries().empty()
                ? tr("The crate is empty. Drop pictures or folders here, paste one, or use “Add to the "
                     "crate”; the stock drawer has some to begin with.")
                : tr("Nothing in the crate is like that. Try fewer letters, or “Show all” at the left."));
        crateGrid_->setEntries(found.entries);
        facets_->setCounts(found.counts);
        if (place_ == CratePlace)
            count_->setText(tr("%1 of %2").arg(found.entries.size()).arg(crate_.shelf()->entries().size()));
        refreshDetails();
    });
    connect(&crate_, &CrateService::progressed, this, [this](int done, int all) {
        cancel_->setVisible(crate_.isAdding());
        count_->setText(tr("adding: %1 of %2").arg(done).arg(all));
    });
    connect(&crate_, &CrateService::added, this, [this](const QString& report) {
        cancel_->hide();
        if (!report.isEmpty()) count_->setText(report);
    });
    connect(&crate_, &CrateService::drawerFound, this, [this](const Found& found) {
        drawerNote_->hide();
        drawerGrid_->setEmptyText(tr("The agency has nothing like that."));
        drawerGrid_->setEntries(found.entries);
        drawerFacets_->setCounts(found.counts);
        if (place_ == DrawerPlace)
            count_->setText(tr("%1 of %2")
                                .arg(found.entries.size())
                                .arg(crate_.agency() ? q(crate_.agency()->name()) : QString()));
        refreshDetails();
    });
    connect(&crate_, &CrateService::drawerFailed, this, [this](const QString& sentence) {
        drawerSays_->setText(sentence);
        setRole(drawerSays_, "caution");
        again_->show();
        drawerNote_->show();
        details_->setEnabled(true);
    });
    connect(&crate_, &CrateService::took, this, [this](const QString& id) {
        drawerNote_->hide();
        details_->setEnabled(true);
        const EntryPtr entry = crate_.entry(id.toStdString());
        if (entry) count_->setText(tr("“%1” is in the crate, with its credit.").arg(q(entry->name())));
        refreshDetails();
    });
}

void GatherView::connectDetails() {
    for (SourceGrid* g : {crateGrid_, drawerGrid_})
        connect(g, &SourceGrid::chosenChanged, this, &GatherView::refreshDetails);
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
    connect(details_, &SourceDetails::placeAsked, this, [this] {
        if (!chosenFiles().isEmpty() && place_ == CratePlace)
            Q_EMIT placeAsked(chosenFiles(), document_->piecePanel(), std::nullopt);
    });
    connect(details_, &SourceDetails::pinAsked, this, [this] {
        if (!chosenFiles().isEmpty()) Q_EMIT placeAsked(chosenFiles(), wallPanel(), std::nullopt);
    });
    connect(details_, &SourceDetails::removeAsked, this, [this] {
        std::vector<std::string> ids;
        for (const EntryPtr& e : crateGrid_->chosen()) ids.push_back(e->id);
        crate_.remove(ids);
    });
    connect(details_, &SourceDetails::takeAsked, this, [this] {
        const EntryPtr entry = drawerGrid_->current();
        if (!entry || crate_.entry(entry->id)) return;
        drawerSays_->setText(tr("Taking “%1” …").arg(q(entry->name())));
        setRole(drawerSays_, "soft");
        again_->hide();
        drawerNote_->show();
        details_->setEnabled(false);
        crate_.take(entry->id);
    });
    connect(details_, &SourceDetails::likeAsked, this, &GatherView::setLike);
    connect(details_, &SourceDetails::weightsChanged, this, [this] {
        if (!like_.empty()) search();
    });
    connect(details_, &SourceDetails::coloursTaken, colours_, &ColoursView::take);
    connect(details_, &SourceDetails::factsEdited, this, &GatherView::editFacts);
}

void GatherView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    wallPane_->setDocument(document);
    colours_->setDocument(document);
    credits_->setDocument(document);
    connect(document_, &Document::changed, this, &GatherView::refreshUsed);
    connect(document_, &Document::selectionChanged, this, [this] {
        if (isWallShown() && isVisible() && !isWall(document_->panel())) document_->selectPanel(wallPanel());
        refreshDetails();
    });
    refreshUsed();
    refreshDetails();
}

/// In the crate as well as in the release that uses it.
void GatherView::editFacts(const std::string& source, const SourceFacts& facts) {
    if (crate_.entry(source)) crate_.change(source, facts);
    document_->edit(tr("What is known of %1").arg(q(facts.title)),
                    withFacts(document_->release(), source, facts));
}

void GatherView::refreshUsed() {
    if (!isVisible()) return;
    crateGrid_->setUsed(usedIn(*document_->shown()));
}

void GatherView::search() {
    if (!document_) return;
    const bool inDrawer = place_ == DrawerPlace;
    CrateQuery query = (inDrawer ? drawerFacets_ : facets_)->query();
    query.order = static_cast<CrateOrder>(order_->currentIndex());
    query.like = like_;
    query.weights = details_->weights();
    if (inDrawer) {
        drawerSays_->setText(tr("Asking the agency …"));
        setRole(drawerSays_, "soft");
        again_->hide();
        drawerNote_->show();
        return crate_.findInDrawer(search_->text(), query);
    }
    crate_.find(search_->text(), query, usedIn(*document_->release()));
}

void GatherView::setLike(bool on) {
    const EntryPtr entry = grid()->current();
    like_ = on && entry ? entry->id : std::string();
    details_->setLike(!like_.empty());
    if (on) search_->clear(); // relatives are looked for everywhere
    search();
}

void GatherView::showPlace(Place place) {
    if (place != place_) like_.clear();
    place_ = place;
    details_->setLike(false);
    refreshPlace();
    if (place == CratePlace || place == DrawerPlace) search();
    if (isVisible()) takeFocus();
}

void GatherView::setWallBeside(bool beside) {
    beside_->setChecked(beside);
    refreshPlace();
}

bool GatherView::isWallShown() const {
    return place_ == WallPlace || (beside_->isChecked() && (place_ == CratePlace || place_ == DrawerPlace));
}

void GatherView::refreshPlace() {
    places_->button(place_)->setChecked(true);
    const bool grids = place_ == CratePlace || place_ == DrawerPlace;
    searchRow_->setVisible(grids);
    beside_->setVisible(grids);
    add_->setVisible(place_ == CratePlace);
    pages_->setCurrentIndex(place_ == ColoursPlace ? 1 : place_ == CreditsPlace ? 2 : 0);
    gridPages_->setCurrentIndex(place_ == DrawerPlace ? 1 : 0);
    facetPages_->setCurrentIndex(place_ == DrawerPlace ? 1 : 0);
    const bool wallShown = isWallShown();
    split_->widget(0)->setVisible(grids);
    wallPane_->setVisible(wallShown);
    facetPages_->setVisible(!wallShown);
    details_->setVisible(!wallShown);
    if (grids && wallShown) split_->setSizes({split_->width() * 11 / 20, split_->width() * 9 / 20});
    if (document_ && isVisible()) document_->selectPanel(wallShown ? wallPanel() : document_->piecePanel());
    refreshDetails();
}

void GatherView::refreshDetails() {
    if (!document_) return;
    const bool fromDrawer = place_ == DrawerPlace;
    const auto entries = grid()->chosen();
    const EntryPtr current = grid()->current();
    std::vector<EntryPtr> ordered;
    if (current) ordered.push_back(current);
    for (const EntryPtr& e : entries)
        if (e != current) ordered.push_back(e);
    const Agency* agency = crate_.agency();
    details_->show(ordered, fromDrawer,
                   fromDrawer && agency && current ? agency->licence(current->facts.licence) : nullptr);
    const PiecePtr piece = document_->release()->piece(document_->piecePanel().piece);
    details_->setPiece(piece ? q(piece->name) : QString());
}

QStringList GatherView::chosenFiles() const {
    QStringList out;
    for (const EntryPtr& e : crateGrid_->chosen()) out << q(crate_.fileOf(*e).string());
    return out;
}

void GatherView::askAddFiles() {
    crate_.add(QFileDialog::getOpenFileNames(
        this, tr("Add to the crate"), {},
        tr("Sources (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.svg *.cube);;All files (*)")));
}

void GatherView::askAddFolder() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Add a folder to the crate"));
    if (!folder.isEmpty()) crate_.add({folder});
}

void GatherView::fillWatchMenu(QMenu* menu) {
    menu->clear();
    menu->addAction(tr("Watch a folder…"), this, [this] {
        const QString folder = QFileDialog::getExistingDirectory(
            this, tr("New pictures in it come into the crate by themselves"));
        if (!folder.isEmpty()) crate_.setWatched(folder, true);
    });
    menu->addSeparator();
    for (const std::string& folder : crate_.watched()) {
        QAction* entry =
            menu->addAction(q(folder), this, [this, folder] { crate_.setWatched(q(folder), false); });
        entry->setCheckable(true);
        entry->setChecked(true);
    }
}

void GatherView::takeFocus() {
    if (place_ == WallPlace)
        wall()->setFocus();
    else if (place_ == CratePlace || place_ == DrawerPlace)
        grid()->setFocus();
}

bool GatherView::paste() {
    const QMimeData* data = QGuiApplication::clipboard()->mimeData();
    if (data && data->hasUrls()) {
        QStringList files;
        for (const QUrl& url : data->urls())
            if (url.isLocalFile()) files << url.toLocalFile();
        if (!files.isEmpty()) return crate_.add(files), true;
    }
    const QImage image = QGuiApplication::clipboard()->image();
    if (image.isNull()) return false;
    crate_.addImage(image, tr("Pasted picture"));
    return true;
}

void GatherView::showEvent(QShowEvent*) {
    refreshUsed();
    refreshPlace();
    search();
}

void GatherView::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste) && place_ == CratePlace && paste()) return;
    if (event->matches(QKeySequence::Find)) return search_->setFocus();
    if (event->key() == Qt::Key_W && place_ == CratePlace && event->modifiers() == Qt::NoModifier)
        return Q_EMIT details_->pinAsked();
    if (event->key() == Qt::Key_Escape && !like_.empty()) return setLike(false);
    QWidget::keyPressEvent(event);
}

void GatherView::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && place_ == CratePlace) event->acceptProposedAction();
}

void GatherView::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    if (paths.isEmpty() || event->source() == crateGrid_) return;
    crate_.add(paths);
    event->acceptProposedAction();
}

} // namespace glyptos
