// Of the window: releases on their way to and from their files.
#include "app/window/main_window.h"

#include "app/session/background.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

namespace glyptos {
namespace {

QString q(const std::string& s) {
    return QString::fromStdString(s);
}

std::filesystem::path pathOf(const QString& file) {
    return file.toStdString();
}

} // namespace

/// Of several files opened at once the last one counts.
void MainWindow::openFile(const QString& file) {
    leaveThen([this, file] {
        opening_ = {QFileInfo(file).absoluteFilePath(), document_->release()};
        saveState_->setText(tr("opening %1…").arg(QFileInfo(file).fileName()));
        opener_.setFuture(inBackground(
            [path = pathOf(opening_.file), forms = forms_] { return openProject(path, forms); }));
    });
}

void MainWindow::endOpen() {
    const auto result = opener_.future().result();
    refreshTitles();
    if (!result) return tell(q(result.error().message));
    const auto show = [this, release = *result, file = opening_.file] {
        setRelease(release, pathOf(file));
        remember(file);
        Q_EMIT opened();
    };
    // What was done meanwhile has not been asked about.
    document_->release() == opening_.left ? show() : leaveThen(show);
}

void MainWindow::saveTo(const QString& file) {
    const Saving asked{document_.get(), document_->release(), QFileInfo(file).absoluteFilePath()};
    saveState_->setText(tr("saving…"));
    const bool again =
        saves_.size() > 1 && saves_.back().document == asked.document && saves_.back().file == asked.file;
    again ? void(saves_.back() = asked) : saves_.push_back(asked);
    if (saves_.size() == 1) beginSave();
}

void MainWindow::beginSave() {
    saver_.setFuture(inBackground([release = saves_.front().release, path = pathOf(saves_.front().file)] {
        return saveProject(*release, path);
    }));
}

void MainWindow::endSave() {
    const auto result = saver_.future().result();
    const Saving done = std::move(saves_.front());
    saves_.pop_front();
    if (isSaving()) beginSave();
    if (result && done.document) done.document->setSaved(done.release, pathOf(done.file));
    if (result) remember(done.file);
    refreshTitles();
    if (!result) tell(q(result.error().message));
    if (result) Q_EMIT saved();
    if (isSaving()) return;
    const auto next = std::exchange(afterSave_, {});
    if (result && next) next();
}

void MainWindow::save(bool askName) {
    if (!askName && !document_->file().empty()) return saveTo(q(document_->file().string()));
    const QString suggested = document_->file().empty()
                                  ? q(document_->release()->brief.title) + QStringLiteral(".glyptos")
                                  : q(document_->file().string());
    QString file =
        QFileDialog::getSaveFileName(this, tr("Save release"), suggested, tr("Glyptos release (*.glyptos)"));
    if (file.isEmpty()) return void(afterSave_ = {});
    if (!file.endsWith(QStringLiteral(".glyptos"))) file += QStringLiteral(".glyptos");
    saveTo(file);
}

void MainWindow::askOpen() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Open release"), {}, tr("Glyptos release (*.glyptos)"));
    if (!file.isEmpty()) openFile(file);
}

/// Unsaved work is saved, left or kept open, as the user says.
void MainWindow::leaveThen(std::function<void()> go) {
    if (!document_ || !document_->isModified()) return go();
    if (isSaving() && saves_.back().document == document_.get() &&
        saves_.back().release == document_->release())
        return void(afterSave_ = [this, go] { leaveThen(go); }); // it is on its way to its file
    QMessageBox box(QMessageBox::Question, tr("Unsaved work"),
                    tr("“%1” has changes that are not saved.").arg(windowName()), QMessageBox::NoButton,
                    this);
    const QPushButton* keep = box.addButton(tr("Save them"), QMessageBox::AcceptRole);
    const QPushButton* leave = box.addButton(tr("Go on without them"), QMessageBox::DestructiveRole);
    QPushButton* stay = box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.setDefaultButton(stay);
    box.exec();
    if (box.clickedButton() == leave) return go();
    if (box.clickedButton() != keep) return;
    afterSave_ = [this, go] { leaveThen(go); };
    save(false);
}

/// The window goes once every release is in its file, also one that is no longer open.
void MainWindow::closeWhenSaved() {
    if (isSaving()) {
        afterSave_ = [this, left = document_->release()] {
            document_->release() == left ? closeWhenSaved() : void(close());
        };
        return;
    }
    leaving_ = true;
    if (!closing_) close();
}

/// Pictures of the open release that cannot be decoded, once each.
void MainWindow::tellMissing() {
    QStringList news;
    for (const MissingPicture& picture : engine_.pictures.missing())
        if (document_->release()->source(picture.source) && missing_.insert(picture.source).second)
            news << q(picture.sentence);
    if (!news.isEmpty()) tell(news.join(QLatin1Char(' ')));
}

} // namespace glyptos
