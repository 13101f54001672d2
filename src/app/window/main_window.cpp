#include "app/window/main_window.h"

#include "app/session/engine.h"
#include "app/session/words.h"
#include "base/text.h"
#include "release/edits/edits.h"
#include "release/edits/refit.h"
#include "release/wall.h"

#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QMimeData>
#include <QScreen>
#include <QSettings>

namespace glyptos {
namespace {

constexpr int kLowScreen = 900; // px: where the set begins folded, so that the art has room
constexpr QSize kFrame(12, 44); // about what a window's frame takes

} // namespace

MainWindow::MainWindow(Engine& engine, FormList forms, const std::filesystem::path& crate,
                       const std::filesystem::path& drawer)
    : engine_(engine)
    , forms_(std::move(forms))
    , service_(engine)
    , journal_(forms_)
    , fonts_(engine)
    , files_(forms_, engine, fonts_)
    , importer_(engine, fonts_)
    , crate_(crate, drawer) {
    setObjectName(QStringLiteral("glyptos"));
    setAcceptDrops(true);
    buildViews();
    buildStateLine();
    connectViews();
    connectBenches();
    connectImporter();
    connectFiles();
    connectJournal();
    connectGather();
    connectBrushes();
    connect(&service_, &RenderService::failed, this, &MainWindow::tell);
    connect(&engine_, &Engine::pictureReady, this, &MainWindow::tellMissing);
    readOwnForms();
    makeActions();
    setRelease(std::make_shared<const Release>(), {});
    showStep(Step::Compose);
    restoreWindow();
    tameChoiceBoxes();
}

MainWindow::~MainWindow() {
    ownFormsReading_.waitForFinished();
    hide();
    // What shows the release goes before the release, also an editor that is still open.
    delete takeCentralWidget();
}

bool MainWindow::isBusy() const {
    return service_.busy() || engine_.pictures.busy() || files_.isBusy() || importer_.isRunning() ||
           crate_.busy() || journal_.isBusy() || gather_->isBusy() || compose_->bench()->isBusy() ||
           layout_->isBusy() || ownFormsReading_.isRunning();
}

void MainWindow::tell(const QString& sentence) {
    noticeText_->setText(q(visible(sentence.toStdString())));
    notice_->show();
}

void MainWindow::setRelease(const ReleasePtr& release, const std::filesystem::path& file) {
    setDocument(std::make_unique<Document>(release, file));
    journal_.follow(*document_, files_.knownAt(q(file.string())));
}

void MainWindow::setDocument(std::unique_ptr<Document> document) {
    auto old = std::exchange(document_, std::move(document));
    connect(document_.get(), &Document::historyChanged, this, &MainWindow::refreshTitles);
    connect(document_.get(), &Document::historyChanged, &miniatureSoon_, qOverload<>(&QTimer::start));
    connect(document_.get(), &Document::wasSaved, this,
            [this] { journal_.saved(*document_, files_.knownAt(q(document_->file().string()))); });
    connect(document_.get(), &Document::selectionChanged, this, &MainWindow::refreshTitles);
    connect(document_.get(), &Document::refused, this, &MainWindow::tell);
    fonts_.setDocument(document_.get()); // before anything is drawn
    importer_.setDocument(document_.get());
    layerMenu_->setDocument(document_.get());
    strip_->setDocument(document_.get());
    brief_->setDocument(document_.get());
    gather_->setDocument(document_.get());
    compose_->setDocument(document_.get());
    layout_->setDocument(document_.get());
    deliver_->setDocument(document_.get());
    notice_->hide();
    missing_.clear();
    tellMissing();
    refreshTitles();
}

void MainWindow::newRelease() {
    leaveThen([this] {
        ReleasePtr release = std::make_shared<const Release>();
        for (const char* id : {"digital-cover", "sleeve-12"})
            for (const auto& form : forms_)
                if (form->id == id)
                    if (auto next = withPiece(release, form)) release = *next;
        setRelease(release, {});
    });
}

StartSheet* MainWindow::askNewRelease() {
    auto* sheet = new StartSheet(service_, forms_, this);
    connect(sheet, &StartSheet::begun, this, [this](const ReleasePtr& release) {
        leaveThen([this, release] {
            setRelease(release, {});
            showStep(Step::Compose);
        });
    });
    sheet->open();
    return sheet;
}

/// The frame is known only once the window is shown.
void MainWindow::showEvent(QShowEvent* event) {
    QMainWindow::showEvent(event);
    const bool asOpened = size() == opened_ || size() == opened_.expandedTo(minimumSizeHint());
    if (asOpened && !event->spontaneous()) QTimer::singleShot(0, this, &MainWindow::keepOnScreen);
}

void MainWindow::keepOnScreen() {
    if (isMaximized() || isFullScreen()) return;
    const QRect free = screen()->availableGeometry(), outer = frameGeometry();
    const QSize frame = outer.size() - size();
    if (const QSize room = free.size() - frame; size().boundedTo(room) != size())
        resize(size().boundedTo(room));
    const QRect now = frameGeometry();
    move(std::clamp(now.x(), free.left(), std::max(free.left(), free.right() + 1 - now.width())),
         std::clamp(now.y(), free.top(), std::max(free.top(), free.bottom() + 1 - now.height())));
}

/// Where keys belong in the step in hand.
void MainWindow::takeFocus() {
    const Step step = rail_->current();
    if (step == Step::Gather) gather_->takeFocus();
    if (step == Step::Compose) compose_->bench()->setFocus();
    if (step == Step::LayOut) layout_->takeFocus();
}

/// A choice box takes no keys unless one goes there by Tab: after a choice by mouse they belong to the bench
/// again, and a single letter never changes what a closed box says.
void MainWindow::tameChoiceBoxes() {
    for (QComboBox* box : findChildren<QComboBox*>()) {
        if (box->isEditable()) continue;
        box->setFocusPolicy(Qt::TabFocus);
        box->installEventFilter(this);
        connect(box, &QComboBox::activated, this, [this, box] {
            if (!box->hasFocus()) takeFocus();
        });
    }
}

bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
    // The wheel scrolls what a box stands in; only a box that has the keys is turned by it.
    if (auto* box = qobject_cast<QComboBox*>(watched);
        box && event->type() == QEvent::Wheel && !box->hasFocus()) {
        event->ignore();
        return true;
    }
    if (event->type() == QEvent::KeyPress && qobject_cast<QComboBox*>(watched)) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const bool letter =
            !key->text().isEmpty() && key->text().front().isPrint() && key->key() != Qt::Key_Space;
        if (letter && !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier))) {
            event->ignore(); // goes on to what is around the box
            return true;
        }
    }
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::showStep(Step step) {
    rail_->setCurrent(step);
    views_->setCurrentIndex(int(step)); // Gather takes the wall in hand as long as it is seen
    position_->clear(), colourUnder_->clear();
    if (step != Step::Gather && isWall(document_->panel())) document_->selectPanel(document_->piecePanel());
    takeFocus();
    refreshTitles();
}

void MainWindow::askPictures() {
    const QStringList files = QFileDialog::getOpenFileNames(
        this, tr("Bring in pictures"), {},
        tr("Pictures and layers (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.svg *.pdf "
           "*.ora);;Fonts (*.ttf *.otf *.ttc);;All files (*)"));
    if (!files.isEmpty()) bringIn(files);
}

QString MainWindow::askPicture(const QString& title) {
    return QFileDialog::getOpenFileName(
        this, title, {}, tr("Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.svg *.pdf);;All files (*)"));
}

void MainWindow::bringIn(const QStringList& files, std::optional<Vec2> at) {
    importer_.bringIn(files, at);
}

void MainWindow::addPiece(const std::shared_ptr<const Form>& form) {
    const ReleasePtr& release = document_->release();
    const size_t before = release->pieces.size();
    document_->edit(tr("Add %1").arg(q(form->name)),
                    beginsAlike_ ? withPieceLike(release, form, document_->piecePanel().piece)
                                 : withPiece(release, form));
    const auto& pieces = document_->release()->pieces;
    if (pieces.size() > before)
        document_->selectPanel({pieces.back()->id, pieces.back()->flat->frontPanel().id});
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!leaving_) {
        // A window that is closing does not hear another close(), so what may go at once goes with this
        // event.
        closing_ = true;
        leaveThen([this] { closeWhenSaved(); });
        closing_ = false;
    }
    if (!leaving_) return event->ignore();
    QSettings settings;
    settings.setValue(QStringLiteral("window/geometry"), saveGeometry());
    settings.setValue(QStringLiteral("window/setFolded"), strip_->isFolded());
    settings.setValue(QStringLiteral("window/step"), int(rail_->current()));
    settings.setValue(QStringLiteral("bench/around"), int(compose_->bench()->around().around()));
    event->accept();
}

void MainWindow::restoreWindow() {
    const QSettings settings;
    const QSize free = screen()->availableSize();
    strip_->setFolded(
        settings.value(QStringLiteral("window/setFolded"), free.height() < kLowScreen).toBool());
    if (!restoreGeometry(settings.value(QStringLiteral("window/geometry")).toByteArray()))
        resize(QSize(1280, 800).boundedTo(free - kFrame));
    opened_ = size();
    compose_->bench()->around().setAround(static_cast<Around>(
        std::clamp(settings.value(QStringLiteral("bench/around"), 0).toInt(), 0, int(Around::Piece))));
    showStep(static_cast<Step>(std::clamp(
        settings.value(QStringLiteral("window/step"), int(Step::Compose)).toInt(), 0, int(Step::Deliver))));
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const QStringList files = localFiles(*event->mimeData());
    for (const QString& file : files)
        if (file.endsWith(QStringLiteral(".glyptos"))) return openFile(file);
    if (!files.isEmpty()) bringIn(files);
}

QString MainWindow::windowName() const {
    const Brief& brief = document_->release()->brief;
    QStringList parts;
    for (const std::string* s : {&brief.title, &brief.artist, &brief.catalogue})
        if (!s->empty()) parts << q(*s);
    return parts.isEmpty() ? tr("New release") : parts.join(QStringLiteral(" · "));
}

void MainWindow::refreshTitles() {
    setWindowTitle(windowName() + QStringLiteral("[*]"));
    setWindowModified(document_->isModified());
    const History& history = document_->history();
    undo_->setEnabled(history.canUndo());
    undo_->setText(history.canUndo() ? tr("Undo: %1").arg(q(history.undoName())) : tr("Undo"));
    redo_->setEnabled(history.canRedo());
    redo_->setText(history.canRedo() ? tr("Redo: %1").arg(q(history.redoName())) : tr("Redo"));
    layerMenu_->setActive(rail_->current() == Step::Compose ||
                          (rail_->current() == Step::Gather && gather_->isWallShown()));
    const bool takes = document_->piece() && document_->piece()->takes.size() > 1;
    nextTake_->setEnabled(takes);
    sideBySide_->setEnabled(takes);
    blendSheet_->setEnabled(compose_->blendSheet()->canOpen());
    linear_->setChecked(document_->release()->linearLight);
    saveState_->setText(files_.isSaving()           ? tr("saving…")
                        : document_->isModified()   ? tr("changes not saved")
                        : document_->file().empty() ? tr("not saved yet")
                                                    : tr("saved"));
    const PiecePtr piece = document_->piece();
    if (!piece) return size_->clear();
    if (isWall(document_->panel())) return size_->setText(tr("The wall"));
    const Rect trim = piece->flat->sheets[0].trim;
    const size_t pages = piece->flat->sheets.size();
    const QString many = pages > 1 ? tr(", %1 pages").arg(pages) : QString();
    size_->setText(q(piece->name) + QStringLiteral("  ") + q(shortNumber(trim.w)) + QStringLiteral(" × ") +
                   q(shortNumber(trim.h)) +
                   (piece->flat->unit == Unit::Mm ? tr(" mm, %1 ppi").arg(piece->flat->ppi) : tr(" px")) +
                   many);
}

} // namespace glyptos
