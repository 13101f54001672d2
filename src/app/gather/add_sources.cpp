#include "app/gather/add_sources.h"

#include "app/session/crate_service.h"
#include "app/session/words.h"

#include <QClipboard>
#include <QFileDialog>
#include <QGuiApplication>
#include <QMimeData>

namespace glyptos {

AddSources::AddSources(CrateService& crate, QWidget* parent)
    : QPushButton(tr("Add to the crate"), parent)
    , crate_(crate) {
    auto* menu = new QMenu(this);
    menu->addAction(tr("Files…"), this, &AddSources::askFiles);
    menu->addAction(tr("A folder…"), this, &AddSources::askFolder);
    menu->addAction(tr("What is on the clipboard"), this, [this] {
        if (!paste()) Q_EMIT told(tr("There is no picture on the clipboard."));
    });
    auto* watched = menu->addMenu(tr("Watched folders"));
    connect(watched, &QMenu::aboutToShow, this, [=, this] { fillWatched(watched); });
    setMenu(menu);
}

bool AddSources::paste() {
    const QMimeData* data = QGuiApplication::clipboard()->mimeData();
    const QStringList files = data ? localFiles(*data) : QStringList();
    if (!files.isEmpty()) return crate_.add(files), true;
    const QImage image = QGuiApplication::clipboard()->image();
    if (image.isNull()) return false;
    crate_.addImage(image, tr("Pasted picture"));
    return true;
}

void AddSources::askFiles() {
    crate_.add(QFileDialog::getOpenFileNames(
        this, tr("Add to the crate"), {},
        tr("Sources (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.svg *.pdf *.cube);;All files (*)")));
}

void AddSources::askFolder() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Add a folder to the crate"));
    if (!folder.isEmpty()) crate_.add({folder});
}

void AddSources::fillWatched(QMenu* menu) {
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

} // namespace glyptos
