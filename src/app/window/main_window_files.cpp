// Of the window: opening, saving and leaving releases, and what is asked and said on the way.
#include "app/window/main_window.h"

#include "app/session/engine.h"
#include "app/session/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

namespace glyptos {
void MainWindow::openFile(const QString& file) {
    leaveThen([this, file] {
        files_.open(QFileInfo(file).absoluteFilePath(), document_->release());
        saveState_->setText(tr("opening %1…").arg(QFileInfo(file).fileName()));
    });
}

void MainWindow::connectFiles() {
    connect(&files_, &ReleaseFiles::opened, this, &MainWindow::showOpened);
    files_.setBeforeTake([this](const std::filesystem::path& file, const ReleasePtr& release) {
        journal_.secureBefore(file, release);
    });
    connect(&files_, &ReleaseFiles::progressed, this, &MainWindow::tellProgress);
    connect(&files_, &ReleaseFiles::saved, this, [this](const QString& file) {
        journal_.saveEnded(); // of whichever document it was, the file is not about to change any more
        remember(file);
        refreshTitles();
        Q_EMIT saved();
    });
    connect(&files_, &ReleaseFiles::failed, this, [this](const QString& sentence) {
        journal_.saveEnded();
        refreshTitles();
        tell(sentence);
    });
    connect(&files_, &ReleaseFiles::told, this, &MainWindow::tell);
    connect(&files_, &ReleaseFiles::allSaved, this, [this](bool good) {
        stopSave_->hide();
        const auto next = std::exchange(afterSave_, {});
        if (good && next) next();
    });
}

void MainWindow::showOpened(const ReleasePtr& release, const QString& file, const ReleasePtr& left) {
    refreshTitles();
    const auto show = [this, release, file] {
        setRelease(release, file.toStdString());
        remember(file);
        Q_EMIT opened();
    };
    // What was done meanwhile has not been asked about.
    document_->release() == left ? show() : leaveThen(show);
}

void MainWindow::saveTo(const QString& file) {
    saveState_->setText(tr("saving…"));
    saving_.start();
    files_.save(*document_, QFileInfo(file).absoluteFilePath());
}

void MainWindow::tellProgress(double share) {
    constexpr qint64 kAtOnce = 400; // ms: what is saved by then needs no progress
    if (!files_.isSaving() || saving_.elapsed() < kAtOnce) return;
    saveState_->setText(tr("saving… %1 %").arg(int(share * 100)));
    stopSave_->show();
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
void MainWindow::leaveThen(const std::function<void()>& go) {
    if (!document_ || !document_->isModified()) return go();
    if (files_.covers(*document_))
        return void(afterSave_ = [this, go] { leaveThen(go); }); // it is on its way to its file
    QMessageBox box(QMessageBox::Question, tr("Unsaved work"),
                    tr("“%1” has changes that are not saved.").arg(windowName()), QMessageBox::NoButton,
                    this);
    const QPushButton* keep = box.addButton(tr("Save them"), QMessageBox::AcceptRole);
    const QPushButton* leave = box.addButton(tr("Go on without them"), QMessageBox::DestructiveRole);
    QPushButton* stay = box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.setDefaultButton(stay);
    box.exec();
    if (box.clickedButton() == leave) {
        journal_.leave();
        return go();
    }
    if (box.clickedButton() != keep) return;
    afterSave_ = [this, go] { leaveThen(go); };
    save(false);
}

/// The window goes once every release is in its file, also one that is no longer open.
void MainWindow::closeWhenSaved() {
    if (files_.isSaving()) {
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
