#include "app/session/release_files.h"

#include "app/session/background.h"
#include "file/project.h"

namespace glyptos {
namespace {

std::filesystem::path pathOf(const QString& file) {
    return file.toStdString();
}

} // namespace

ReleaseFiles::ReleaseFiles(FormList forms, QObject* parent)
    : QObject(parent)
    , forms_(std::move(forms)) {
    connect(&opener_, &QFutureWatcherBase::finished, this, &ReleaseFiles::endOpen);
    connect(&saver_, &QFutureWatcherBase::finished, this, &ReleaseFiles::endSave);
}

ReleaseFiles::~ReleaseFiles() {
    opener_.waitForFinished();
    saver_.waitForFinished();
    for (size_t i = 1; i < saves_.size(); ++i) (void)saveProject(*saves_[i].release, pathOf(saves_[i].file));
}

void ReleaseFiles::open(const QString& file, ReleasePtr left) {
    opening_ = {file, std::move(left)};
    opener_.setFuture(
        inBackground([path = pathOf(file), forms = forms_] { return openProject(path, forms); }));
}

void ReleaseFiles::endOpen() {
    const auto result = opener_.future().result();
    if (result)
        Q_EMIT opened(*result, opening_.file, opening_.left);
    else
        Q_EMIT failed(QString::fromStdString(result.error().message));
}

void ReleaseFiles::save(Document& document, const QString& file) {
    const Saving asked{&document, document.release(), file};
    const bool again = saves_.size() > 1 && saves_.back().document == &document && saves_.back().file == file;
    again ? void(saves_.back() = asked) : saves_.push_back(asked);
    if (saves_.size() == 1) beginSave();
}

void ReleaseFiles::beginSave() {
    saver_.setFuture(inBackground([release = saves_.front().release, path = pathOf(saves_.front().file)] {
        return saveProject(*release, path);
    }));
}

void ReleaseFiles::endSave() {
    const auto result = saver_.future().result();
    const Saving done = std::move(saves_.front());
    saves_.pop_front();
    if (isSaving()) beginSave();
    if (result && done.document) done.document->setSaved(done.release, pathOf(done.file));
    if (result)
        Q_EMIT saved(done.file);
    else
        Q_EMIT failed(QString::fromStdString(result.error().message));
    if (!isSaving()) Q_EMIT allSaved(result.has_value());
}

bool ReleaseFiles::covers(const Document& document) const {
    return isSaving() && saves_.back().document == &document && saves_.back().release == document.release();
}

} // namespace glyptos
