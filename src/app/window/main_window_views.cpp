#include "app/window/main_window.h"

#include "app/letter/which_face_sheet.h"
#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/theme.h"
#include "app/window/preferences_sheet.h"
#include "app/window/stamp_picker.h"
#include "base/units.h"
#include "release/placing.h"
#include "release/walks.h"

#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QStatusBar>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {

void MainWindow::buildViews() {
    auto* whole = new QWidget;
    auto* row = new QHBoxLayout(whole);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(rail_ = new StepsRail);
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    column->addWidget(strip_ = new SetStrip(engine_, service_));
    buildNotice();
    column->addWidget(notice_);
    column->addWidget(views_ = new QStackedWidget, 1);
    row->addLayout(column, 1);
    setCentralWidget(whole);
    views_->addWidget(brief_ = new BriefView(engine_, service_));
    views_->addWidget(gather_ = new GatherView(engine_, service_, crate_));
    views_->addWidget(compose_ = new ComposeView(engine_, service_));
    views_->addWidget(layout_ = new LayoutView(engine_, service_));
    views_->addWidget(deliver_ = new DeliverView(engine_, service_));
}

/// A sentence across the window, above whichever view is shown.
void MainWindow::buildNotice() {
    notice_ = new QWidget;
    notice_->setObjectName(QStringLiteral("notice"));
    notice_->setAttribute(Qt::WA_StyledBackground);
    notice_->setStyleSheet(
        QStringLiteral("#notice { background: palette(base); border-bottom: 1px solid %1; }")
            .arg(theme().fault.name()));
    auto* noticeRow = new QHBoxLayout(notice_);
    noticeRow->addWidget(noticeText_ = roleLabel(QString(), "fault"), 1);
    noticeText_->setAccessibleName(tr("Message"));
    auto* dismiss = new QPushButton(tr("Understood"));
    noticeRow->addWidget(dismiss);
    connect(dismiss, &QPushButton::clicked, notice_, &QWidget::hide);
    notice_->hide();
}

void MainWindow::buildStateLine() {
    statusBar()->setSizeGripEnabled(false);
    for (QLabel** label : {&size_, &saveState_, &position_, &colourUnder_}) {
        statusBar()->addWidget(*label = roleLabel(QString(), "soft"));
        (*label)->setWordWrap(false);
        (*label)->setContentsMargins(8, 0, 16, 0);
    }
    statusBar()->addWidget(stopImport_ = new QToolButton);
    stopImport_->setText(tr("Stop bringing in"));
    stopImport_->setToolTip(tr("What has arrived stays; the rest is left out"));
    stopImport_->hide();
    connect(stopImport_, &QToolButton::clicked, &importer_, &Importer::cancel);
    statusBar()->addWidget(stopSave_ = new QToolButton);
    stopSave_->setText(tr("Stop saving"));
    stopSave_->setToolTip(tr("The file stays as it was before"));
    stopSave_->hide();
    connect(stopSave_, &QToolButton::clicked, &files_, &ReleaseFiles::cancelSave);
}

void MainWindow::connectViews() {
    connect(rail_, &StepsRail::chosen, this, &MainWindow::showStep);
    connect(brief_, &BriefView::pieceChosen, this, [this](const std::string& piece) {
        if (const PiecePtr p = document_->release()->piece(piece))
            document_->selectPanel({piece, p->flat->frontPanel().id});
        showStep(Step::Compose);
    });
    connect(layout_, &LayoutView::composeAsked, this, [this] { showStep(Step::Compose); });
    connect(layout_, &LayoutView::formsChanged, this, &MainWindow::readOwnForms);
    connect(layout_, &LayoutView::refused, this, &MainWindow::tell);
    connect(&ownFormsReading_, &QFutureWatcherBase::finished, this, [this] {
        const auto read = ownFormsReading_.future().result();
        if (!read) return tell(q(read.error().message));
        ownForms_ = read->forms;
        for (const std::string& note : read->notes) tell(q(note));
        if (read->taken) addPiece(read->taken);
    });
    connect(compose_, &ComposeView::pictureAsked, this, &MainWindow::askPictures);
    connect(compose_, &ComposeView::briefAsked, this, [this] { showStep(Step::Brief); });
    connect(compose_, &ComposeView::replaceAsked, this, [this] {
        const QString file = askPicture(tr("Replace the picture by"));
        if (!file.isEmpty()) importer_.replace(file, document_->layer());
    });
    connect(compose_, &ComposeView::referenceAsked, this, [this] {
        const QString file = askPicture(tr("A reference picture"));
        if (!file.isEmpty()) importer_.refer(file);
    });
    connect(strip_, &SetStrip::addPieceAsked, this, [this](QPoint at) {
        auto* menu = new QMenu(this);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        fillPieceMenu(menu);
        menu->popup(at);
    });
}

void MainWindow::connectBenches() {
    compose_->bench()->setProofing(&proofing_);
    layout_->bench()->setProofing(&proofing_);
    connect(&proofing_, &Proofing::refused, this, &MainWindow::tell);
    connect(compose_->bench(), &ComposeBench::picturesArrived, this,
            [this](const QStringList& files, Vec2 at) { bringIn(files, at); });
    for (BenchView* bench :
         {static_cast<BenchView*>(compose_->bench()), static_cast<BenchView*>(layout_->bench()),
          static_cast<BenchView*>(gather_->wall())})
        connect(bench, &BenchView::pointerMoved, this, &MainWindow::tellPlace);
}

/// Where the pointer is on a bench, and what colour is there.
void MainWindow::tellPlace(Vec2 at, const QColor& colour) {
    const PiecePtr piece = document_->piece();
    if (!piece) return;
    const bool mm = piece->flat->unit == Unit::Mm;
    const double px = mm ? pxPerMm({piece->flat->ppi}) : 1;
    position_->setText(mm ? tr("x %1  y %2 mm   (%3, %4 px)")
                                .arg(at.x, 0, 'f', 1)
                                .arg(at.y, 0, 'f', 1)
                                .arg(std::lround(at.x * px))
                                .arg(std::lround(at.y * px))
                          : tr("x %1  y %2 px").arg(std::lround(at.x)).arg(std::lround(at.y)));
    colourUnder_->setText(
        colour.isValid()
            ? tr("colour under: %1 %2 %3").arg(colour.red()).arg(colour.green()).arg(colour.blue())
            : QString());
}

void MainWindow::connectImporter() {
    connect(&importer_, &Importer::told, this, &MainWindow::tell);
    connect(&importer_, &Importer::placed, this, [this] { showStep(Step::Compose); });
    connect(&importer_, &Importer::fontArrived, this, [this](const std::string& family) {
        constexpr int kSaid = 10000; // ms
        if (!compose_->showFace(family))
            statusBar()->showMessage(
                tr("%1 is at hand in this release now. Take some words in hand to set them in it.")
                    .arg(q(family)),
                kSaid);
    });
    connect(gather_, &GatherView::fontsArrived, this, [this](const QStringList& files) { bringIn(files); });
    // Once the release that it is about is shown.
    connect(&fonts_, &FontShelf::told, this, &MainWindow::tell, Qt::QueuedConnection);
    connect(&importer_, &Importer::began, this, [this] {
        saveState_->setText(tr("bringing in files…"));
        stopImport_->show();
    });
    connect(&importer_, &Importer::finished, this, [this] {
        stopImport_->setVisible(importer_.isRunning());
        refreshTitles();
        Q_EMIT broughtIn();
    });
}

void MainWindow::connectGather() {
    connect(&importer_, &Importer::covered, this,
            [this](const std::string& layer) { compose_->framing()->open(layer); });
    crate_.setLine(keptLine());
    importer_.setFacts([this](const std::string& source) { return crate_.facts(source); });
    connect(gather_, &GatherView::placeAsked, this,
            [this](const QStringList& files, const PanelRef& panel, std::optional<Vec2> at) {
                importer_.bringIn(files, at, panel);
            });
    connect(strip_, &SetStrip::picturesArrived, this,
            [this](const QStringList& files, const PanelRef& panel) {
                importer_.bringIn(files, std::nullopt, panel);
            });
    connect(gather_, &GatherView::composeAsked, this, [this] { showStep(Step::Compose); });
    connect(gather_, &GatherView::faceAsked, this, [this](const QString& file) {
        auto* sheet = new WhichFaceSheet(engine_, *document_, {}, this);
        sheet->readFile(file);
        sheet->open();
    });
    connect(gather_, &GatherView::told, this, &MainWindow::tell);
    WallBench* wall = gather_->wall();
    const auto pieceAt = [this](QPoint global) { return strip_->pieceAt(strip_->mapFromGlobal(global)); };
    wall->setElsewhere([=](QPoint global) { return pieceAt(global) != nullptr; });
    connect(wall, &WallBench::draggedOver, this,
            [=, this](QPoint global) { strip_->setTarget(pieceAt(global)); });
    connect(wall, &WallBench::droppedElsewhere, this, [=, this](QPoint global) {
        strip_->setTarget(nullptr);
        const PiecePtr piece = pieceAt(global);
        const LayerPtr layer = document_->selectedLayer();
        if (!piece || !layer) return;
        const auto sources = sourcesOf(*layer);
        if (sources.empty()) return tell(tr("%1 holds no picture to place on a piece.").arg(q(layer->name)));
        importer_.placeAgain(sources.front(), {piece->id, piece->flat->frontPanel().id});
    });
}

void MainWindow::connectBrushes() {
    BrushBoard* board = &compose_->brushes();
    connect(board, &BrushBoard::told, this, &MainWindow::tell);
    connect(board, &BrushBoard::picturesAsked, this,
            [this](const QStringList& ids) { readStamps(ids, false); });
    connect(board, &BrushBoard::stampsFromCrateAsked, this, [this] {
        auto* picker = new StampPicker(crate_, this);
        connect(picker, &StampPicker::picked, this,
                [this](const QStringList& ids) { readStamps(ids, true); });
        picker->open();
    });
}

/// Files of the crate are read in the background; then the brush has their pictures: as its only stamps, or
/// as those that it names already.
void MainWindow::readStamps(const QStringList& ids, bool asStamps) {
    std::vector<std::filesystem::path> files;
    for (const QString& id : ids)
        if (const EntryPtr entry = crate_.entry(id.toStdString())) files.push_back(crate_.fileOf(*entry));
    auto* reading = new QFutureWatcher<Result<std::vector<SourcePtr>>>(this);
    connect(reading, &QFutureWatcherBase::finished, this, [this, reading, asStamps] {
        const auto sources = reading->result();
        reading->deleteLater();
        if (!sources) return tell(q(sources.error().message));
        HandSettings next = compose_->bench()->settings();
        next.paint.sources = *sources;
        if (asStamps) {
            next.paint.brush.stamps.clear();
            for (const SourcePtr& source : *sources) next.paint.brush.stamps.push_back({source->id, {}});
            if (next.paint.brush.brush.tip != TipKind::Stamp)
                next.paint.brush.brush.tip = TipKind::Stamp, next.paint.brush.brush.spacing = 1.2;
        }
        compose_->bench()->setSettings(next);
    });
    reading->setFuture(inBackground([files]() -> Result<std::vector<SourcePtr>> {
        std::vector<SourcePtr> out;
        for (const auto& file : files) {
            auto picture = importPicture(file);
            if (!picture) return tl::unexpected(picture.error());
            out.push_back(picture->source);
        }
        return out;
    }));
}

} // namespace glyptos
