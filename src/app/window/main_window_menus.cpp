#include "app/window/main_window.h"

#include "app/session/background.h"
#include "app/session/words.h"
#include "app/widgets/form_words.h"
#include "app/widgets/theme.h"
#include "app/window/preferences_sheet.h"
#include "file/dieline/own_forms.h"
#include "form/form_edits.h"
#include "release/edits/edits.h"
#include "release/wall.h"

#include <QApplication>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenuBar>
#include <QSettings>

namespace glyptos {
namespace {

constexpr int kMostRecent = 8;

} // namespace

QAction* MainWindow::action(QMenu* menu, const QString& text, const QKeySequence& keys,
                            std::function<void()> run) {
    QAction* made = menu->addAction(text);
    if (!keys.isEmpty()) made->setShortcut(keys);
    connect(made, &QAction::triggered, this, std::move(run));
    return made;
}

void MainWindow::makeActions() {
    makeReleaseMenu();
    makeEditMenu();
    makePieceMenu();
    makeLayerMenu();
    makeViewMenu();
}

void MainWindow::makeReleaseMenu() {
    QMenu* menu = menuBar()->addMenu(tr("&Release"));
    action(menu, tr("New…"), QKeySequence::New, [this] { askNewRelease(); });
    action(menu, tr("Open…"), QKeySequence::Open, [this] { askOpen(); });
    recent_ = menu->addMenu(tr("Open recent"));
    refreshRecent();
    action(menu, tr("Found again…"), {}, [this] {
        showFoundAgain();
    })->setToolTip(tr("Work that was not saved and can be taken up again"));
    menu->addSeparator();
    action(menu, tr("Save"), QKeySequence::Save, [this] { save(false); });
    action(menu, tr("Save under another name…"), QKeySequence::SaveAs, [this] { save(true); });
    menu->addSeparator();
    action(menu, tr("Bring in pictures…"), QKeySequence(tr("Ctrl+I")), [this] { askPictures(); });
    linear_ = action(menu, tr("Blend in linear light"), {}, [this] {
        document_->edit(linear_->isChecked() ? tr("Blend in linear light") : tr("Blend in sRGB encoding"),
                        withLinearLight(document_->release(), linear_->isChecked()));
    });
    linear_->setCheckable(true);
    linear_->setToolTip(tr("Light adds up as it does in a camera: softer edges and brighter mixtures"));
    menu->addSeparator();
    action(menu, tr("Close"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::makeEditMenu() {
    QMenu* menu = menuBar()->addMenu(tr("&Edit"));
    undo_ = action(menu, tr("Undo"), QKeySequence::Undo, [this] { document_->undo(); });
    redo_ = action(menu, tr("Redo"), QKeySequence::Redo, [this] { document_->redo(); });
    menu->addSeparator();
    action(menu, tr("Take all layers in hand"), QKeySequence::SelectAll, [this] {
        std::vector<std::string> all;
        for (const LayerPtr& layer : stackOf(*document_->release(), document_->panel()))
            all.push_back(layer->id);
        if (!isWall(document_->panel())) showStep(Step::Compose);
        document_->selectLayers(std::move(all));
    });
    menu->addSeparator();
    action(menu, tr("Preferences…"), QKeySequence::Preferences,
           [this] { (new PreferencesSheet(engine_, crate_, this))->open(); });
}

void MainWindow::fillPieceMenu(QMenu* menu) {
    menu->setToolTipsVisible(true);
    QAction* like = action(menu, tr("Begin with the art of the piece in hand"), {}, [] {});
    like->setCheckable(true);
    like->setToolTip(tr(
        "Its ground re-framed on the new front, its words by the brief; otherwise the piece begins empty"));
    connect(like, &QAction::toggled, this, [this](bool on) { beginsAlike_ = on; });
    connect(menu, &QMenu::aboutToShow, like, [this, like] {
        const PiecePtr piece = document_->release()->piece(document_->piecePanel().piece);
        like->setEnabled(bool(piece));
        like->setText(piece ? tr("Begin with the art of %1").arg(q(piece->name))
                            : tr("Begin with the art of the piece in hand"));
        like->setChecked(beginsAlike_);
    });
    menu->addSeparator();
    for (size_t g = 0; g < std::size(kFormGroupIds); ++g) {
        QMenu* group = menu->addMenu(formGroupWord(static_cast<FormGroup>(g)));
        group->setToolTipsVisible(true);
        for (const auto& form : forms_)
            if (size_t(form->group) == g && !form->retired)
                action(group, q(form->name), {}, [this, form] { addPiece(form); })->setToolTip(q(form->note));
    }
    QMenu* own = menu->addMenu(tr("Your own"));
    connect(own, &QMenu::aboutToShow, this, [this, own] {
        own->clear();
        for (const auto& form : ownForms_)
            own->addAction(q(form->name), this, [this, form] { addPiece(form); });
        own->addSeparator();
        own->addAction(tr("From a file…"), this, [this] {
            const QString file = QFileDialog::getOpenFileName(this, tr("A form"), {}, tr("Forms (*.json)"));
            if (!file.isEmpty()) takeForm(file);
        });
    });
}

void MainWindow::readOwnForms() {
    ownFormsReading_.setFuture(inBackground([]() -> Result<OwnForms> {
        OwnForms out;
        auto all = allForms(out.notes);
        if (!all) return tl::unexpected(all.error());
        for (const auto& form : *all)
            if (form->own) out.forms.push_back(form);
        return out;
    }));
}

void MainWindow::takeForm(const QString& file) {
    ownFormsReading_.setFuture(inBackground([file = file.toStdString()]() -> Result<OwnForms> {
        auto form = loadForm(file);
        if (!form) return tl::unexpected(form.error());
        if (const auto flat = workOut(*form); !flat) return tl::unexpected(flat.error());
        const Form own = asOwn(*form, form->name);
        if (const auto kept = keepOwnForm(own); !kept) return tl::unexpected(kept.error());
        OwnForms out;
        auto all = allForms(out.notes);
        if (!all) return tl::unexpected(all.error());
        for (const auto& one : *all)
            if (one->own) out.forms.push_back(one);
        out.taken = std::make_shared<const Form>(own);
        return out;
    }));
}

void MainWindow::makePieceMenu() {
    QMenu* menu = menuBar()->addMenu(tr("&Piece"));
    fillPieceMenu(menu->addMenu(tr("Add")));
    action(menu, tr("Remove from the set"), {}, [this] {
        if (const PiecePtr piece = document_->piece())
            document_->edit(tr("Remove %1").arg(q(piece->name)),
                            withoutPiece(document_->release(), piece->id));
    });
    menu->addSeparator();
    action(menu, tr("New take from this one"), {}, [this] { document_->newTake(); });
    nextTake_ = action(menu, tr("Next take"), {}, [this] { compose_->bar()->stepTake(1); });
}

void MainWindow::makeLayerMenu() {
    layerMenu_ = new LayerMenu(engine_, *compose_, menuBar());
    menuBar()->addMenu(layerMenu_);
    connect(layerMenu_, &LayerMenu::composeAsked, this, [this] { showStep(Step::Compose); });
}

void MainWindow::makeViewMenu() {
    QMenu* menu = menuBar()->addMenu(tr("&View"));
    for (const Step step : {Step::Brief, Step::Gather, Step::Compose, Step::LayOut, Step::Deliver})
        action(menu, StepsRail::nameOf(step), QKeySequence(tr("Ctrl+%1").arg(int(step) + 1)),
               [this, step] { showStep(step); });
    menu->addSeparator();
    const auto onBench = [this](const std::function<void(BenchView*)>& act) {
        act(rail_->current() == Step::LayOut   ? static_cast<BenchView*>(layout_->bench())
            : rail_->current() == Step::Gather ? gather_->wall()
                                               : compose_->bench());
    };
    const auto zoomed = [onBench](double factor) {
        return [=] {
            onBench([=](BenchView* b) { b->zoomBy(factor, QPointF(b->width() / 2.0, b->height() / 2.0)); });
        };
    };
    action(menu, tr("Zoom in"), QKeySequence::ZoomIn, zoomed(1.25));
    action(menu, tr("Zoom out"), QKeySequence::ZoomOut, zoomed(0.8));
    action(menu, tr("Fit"), QKeySequence(tr("Ctrl+0")),
           [=] { onBench([](BenchView* b) { b->zoomToFit(); }); });
    action(menu, tr("100 %"), QKeySequence(tr("Ctrl+9")),
           [=] { onBench([](BenchView* b) { b->zoomToActualPixels(); }); });
    menu->addSeparator();
    asPrinted_ = action(menu, tr("As printed"), QKeySequence(tr("F7")),
                        [this] { proofing_.setOn(asPrinted_->isChecked()); });
    asPrinted_->setCheckable(true);
    asPrinted_->setToolTip(tr("In press inks on paper, on the benches of Compose and Lay out"));
    connect(&proofing_, &Proofing::changed, asPrinted_, [this] { asPrinted_->setChecked(proofing_.isOn()); });
    QMenu* around = menu->addMenu(tr("Round the panel in hand (W)"));
    const std::pair<QString, Around> choices[] = {{tr("Nothing"), Around::Nothing},
                                                  {tr("Its neighbours"), Around::Neighbours},
                                                  {tr("The whole piece"), Around::Piece}};
    for (const auto& [name, choice] : choices)
        action(around, name, {}, [this, choice = choice] {
            showStep(Step::Compose);
            compose_->bench()->around().setAround(choice);
        });
    blendSheet_ = action(menu, tr("Blend sheet"), {}, [this] {
        showStep(Step::Compose);
        compose_->blendSheet()->open();
    });
    sideBySide_ = action(menu, tr("Takes side by side"), {}, [this] {
        showStep(Step::Compose);
        compose_->grid()->setSideBySide(!compose_->grid()->isSideBySide());
    });
    action(menu, tr("Size ladder"), {}, [this] {
        showStep(Step::Compose);
        compose_->ladder()->setVisible(!compose_->ladder()->isVisible());
    });
    for (const bool steps : {false, true})
        action(menu, steps ? tr("Steps of this session") : tr("Stack"), {}, [this, steps] {
            showStep(Step::Compose);
            compose_->showHistory(steps);
        });
    QAction* fold = action(menu, tr("Fold the set to a line"), QKeySequence(tr("F6")),
                           [this] { strip_->setFolded(!strip_->isFolded()); });
    fold->setCheckable(true);
    connect(menu, &QMenu::aboutToShow, fold, [this, fold] { fold->setChecked(strip_->isFolded()); });
    QMenu* rulers = menu->addMenu(tr("Rulers in"));
    const std::pair<QString, RulerUnit> units[] = {
        {tr("mm"), RulerUnit::Mm}, {tr("Inches"), RulerUnit::Inch}, {tr("Pixels"), RulerUnit::Px}};
    for (const auto& [name, unit] : units)
        action(rulers, name, {}, [this, unit = unit] {
            compose_->bench()->setRulerUnit(unit);
            layout_->bench()->setRulerUnit(unit);
        });
    menu->addSeparator();
    night_ = action(menu, tr("Night look"), {}, [this] { setNight(night_->isChecked()); });
    night_->setCheckable(true);
    night_->setChecked(isNight());
}

void MainWindow::setNight(bool night) {
    applyTheme(*qobject_cast<QApplication*>(QCoreApplication::instance()), night);
    QSettings().setValue(QStringLiteral("look/night"), night);
    for (QWidget* w : findChildren<QWidget*>()) w->update();
}

void MainWindow::remember(const QString& file) {
    QSettings settings;
    QStringList files = settings.value(QStringLiteral("recent")).toStringList();
    files.removeAll(file);
    files.prepend(file);
    settings.setValue(QStringLiteral("recent"), files.mid(0, kMostRecent));
    refreshRecent();
}

void MainWindow::refreshRecent() {
    recent_->clear();
    const QStringList files = QSettings().value(QStringLiteral("recent")).toStringList();
    for (const QString& file : files)
        action(recent_, QFileInfo(file).fileName(), {}, [this, file] { openFile(file); })->setToolTip(file);
    recent_->setEnabled(!files.isEmpty());
}

} // namespace glyptos
