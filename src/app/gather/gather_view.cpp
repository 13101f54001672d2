#include "app/gather/gather_view.h"

#include "app/gather/add_sources.h"
#include "app/gather/wall_pane.h"
#include "app/session/crate_service.h"
#include "app/session/document.h"
#include "app/session/words.h"
#include "release/edits/edits.h"
#include "release/wall.h"

#include <QDragEnterEvent>
#include <QFileInfo>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace glyptos {

namespace {

bool isNamedAsFont(const QString& file) {
    const QString ending = QFileInfo(file).suffix().toLower();
    return ending == QStringLiteral("ttf") || ending == QStringLiteral("otf") ||
           ending == QStringLiteral("ttc");
}

} // namespace

GatherView::GatherView(Engine& engine, RenderService& service, CrateService& crate, QWidget* parent)
    : QWidget(parent)
    , crate_(crate) {
    setAcceptDrops(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(bar_ = new GatherBar(crate));
    pages_ = new QStackedWidget;
    split_ = new QSplitter;
    split_->setHandleWidth(5);
    split_->setChildrenCollapsible(false);
    split_->addWidget(pictures_ = new SourcePages(crate, *bar_));
    split_->addWidget(wallPane_ = new WallPane(engine, service));
    pages_->addWidget(split_);
    pages_->addWidget(colours_ = new ColoursView(engine, service));
    pages_->addWidget(credits_ = new CreditsView);
    column->addWidget(pages_, 1);
    connectPlaces();
    connectPictures();
    refreshPlace();
}

GatherView::~GatherView() = default;

WallBench* GatherView::wall() const {
    return wallPane_->bench();
}

void GatherView::connectPlaces() {
    connect(bar_, &GatherBar::placeChosen, this, &GatherView::showPlace);
    connect(bar_, &GatherBar::besideChosen, this, &GatherView::setWallBeside);
    connect(bar_->adding(), &AddSources::told, this, &GatherView::told);
    connect(&crate_, &CrateService::told, this, &GatherView::told);
    connect(wallPane_, &WallPane::told, this, &GatherView::told);
    connect(colours_, &ColoursView::told, this, &GatherView::told);
    connect(credits_, &CreditsView::told, this, &GatherView::told);
    connect(credits_, &CreditsView::placed, this, &GatherView::composeAsked);
    connect(credits_, &CreditsView::factsEdited, this, &GatherView::editFacts);
    connect(wall(), &ComposeBench::picturesArrived, this,
            [this](const QStringList& files, Vec2 at) { Q_EMIT placeAsked(files, wallPanel(), at); });
}

void GatherView::connectPictures() {
    const SourceDetails* details = pictures_->details();
    connect(details, &SourceDetails::placeAsked, this, [this] {
        const QStringList files = pictures_->chosenFiles();
        if (!files.isEmpty() && place_ == GatherPlace::Crate)
            Q_EMIT placeAsked(files, document_->piecePanel(), std::nullopt);
    });
    connect(details, &SourceDetails::pinAsked, this, [this] {
        const QStringList files = pictures_->chosenFiles();
        if (!files.isEmpty()) Q_EMIT placeAsked(files, wallPanel(), std::nullopt);
    });
    connect(details, &SourceDetails::faceAsked, this, [this] {
        const QStringList files = pictures_->chosenFiles();
        if (!files.isEmpty()) Q_EMIT faceAsked(files.front());
    });
    connect(details, &SourceDetails::coloursTaken, colours_, &ColoursView::take);
    connect(details, &SourceDetails::factsEdited, this, &GatherView::editFacts);
}

void GatherView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    pictures_->setDocument(document);
    wallPane_->setDocument(document);
    colours_->setDocument(document);
    credits_->setDocument(document);
    connect(document_, &Document::changed, this, &GatherView::refreshUsed);
    connect(document_, &Document::selectionChanged, this, [this] {
        if (isWallShown() && isVisible() && !isWall(document_->panel())) document_->selectPanel(wallPanel());
        pictures_->refreshDetails();
    });
    refreshUsed();
}

/// In the crate as well as in the release that uses it.
void GatherView::editFacts(const std::string& source, const SourceFacts& facts) {
    if (crate_.entry(source)) crate_.change(source, facts);
    document_->edit(tr("What is known of %1").arg(q(facts.title)),
                    withFacts(document_->release(), source, facts));
}

void GatherView::refreshUsed() {
    if (isVisible()) pictures_->setUsed(picturesUsedIn(*document_->shown()));
}

void GatherView::showPlace(GatherPlace place) {
    place_ = place;
    pictures_->stopLike();
    refreshPlace();
    if (hasPictures(place)) pictures_->search();
    if (isVisible()) takeFocus();
}

void GatherView::setWallBeside(bool beside) {
    bar_->setWallBeside(beside);
    refreshPlace();
}

bool GatherView::isWallShown() const {
    return place_ == GatherPlace::Wall || (bar_->isWallBeside() && hasPictures(place_));
}

void GatherView::refreshPlace() {
    const bool pictures = hasPictures(place_), wall = isWallShown();
    bar_->setPlace(place_);
    pages_->setCurrentWidget(pageOf(place_));
    pictures_->setInDrawer(place_ == GatherPlace::Drawer);
    pictures_->setVisible(pictures);
    pictures_->setNarrow(wall);
    wallPane_->setVisible(wall);
    if (pictures && wall) split_->setSizes({split_->width() * 11 / 20, split_->width() * 9 / 20});
    if (document_ && isVisible()) document_->selectPanel(wall ? wallPanel() : document_->piecePanel());
    pictures_->refreshDetails();
}

QWidget* GatherView::pageOf(GatherPlace place) const {
    if (place == GatherPlace::Colours) return colours_;
    if (place == GatherPlace::Credits) return credits_;
    return split_;
}

void GatherView::takeFocus() {
    if (place_ == GatherPlace::Wall) wall()->setFocus();
    if (hasPictures(place_)) pictures_->grid()->setFocus();
}

void GatherView::showEvent(QShowEvent*) {
    refreshUsed();
    refreshPlace();
    pictures_->search();
}

void GatherView::keyPressEvent(QKeyEvent* event) {
    const bool crate = place_ == GatherPlace::Crate;
    if (event->matches(QKeySequence::Paste) && crate && bar_->adding()->paste()) return;
    if (event->matches(QKeySequence::Find)) return bar_->searchField()->setFocus();
    if (event->key() == Qt::Key_W && crate && event->modifiers() == Qt::NoModifier)
        return Q_EMIT pictures_->details()->pinAsked();
    if (event->key() == Qt::Key_Escape && pictures_->isLike()) return pictures_->setLike(false);
    QWidget::keyPressEvent(event);
}

void GatherView::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && place_ == GatherPlace::Crate) event->acceptProposedAction();
}

void GatherView::dropEvent(QDropEvent* event) {
    QStringList fonts, files; // by their names, as the disk is not waited for here
    for (const QString& file : localFiles(*event->mimeData())) (isNamedAsFont(file) ? fonts : files) << file;
    if (fonts.isEmpty() && (files.isEmpty() || event->source() == pictures_->crateGrid())) return;
    if (!files.isEmpty()) crate_.add(files);
    if (!fonts.isEmpty()) Q_EMIT fontsArrived(fonts);
    event->acceptProposedAction();
}

} // namespace glyptos
