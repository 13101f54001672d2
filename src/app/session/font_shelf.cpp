#include "app/session/font_shelf.h"

#include "app/session/background.h"
#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "release/edits/edits.h"

#include <algorithm>

namespace glyptos {
namespace {

const BroughtFontPtr* findFont(const std::vector<BroughtFontPtr>& fonts, const std::string& id) {
    const auto found =
        std::find_if(fonts.begin(), fonts.end(), [&](const BroughtFontPtr& font) { return font->id == id; });
    return found == fonts.end() ? nullptr : &*found;
}

void addFont(std::vector<BroughtFontPtr>& fonts, const BroughtFontPtr& font) {
    if (!findFont(fonts, font->id)) fonts.push_back(font);
}

} // namespace

FontShelf::FontShelf(Engine& engine, QObject* parent)
    : QObject(parent)
    , engine_(engine) {
    connect(&reading_, &QFutureWatcherBase::finished, this, [this] {
        if (document_) follow();
    });
}

FontShelf::~FontShelf() {
    reading_.waitForFinished();
}

void FontShelf::prepare(const Release& release) {
    std::unique_lock lock(mutex_);
    const std::vector<BroughtFontPtr> known = known_;
    lock.unlock();
    const ReleaseFonts read = fontsOf(release, known);
    lock.lock();
    for (const BroughtFontPtr& font : read.fonts) addFont(known_, font);
    for (const SourcePtr& source : release.fonts) tried_.insert(source->id);
    trouble_ = read.trouble;
}

void FontShelf::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document, &Document::changed, this, &FontShelf::follow);
    follow();
}

/// What has not been read yet is read in the background, and followed then.
void FontShelf::follow() {
    const ReleasePtr release = document_->release();
    engine_.renderer.paragraphs().fallBackOn(release->keptWords);
    std::vector<BroughtFontPtr> wanted = session_;
    std::unique_lock lock(mutex_);
    bool isAllRead = true;
    for (const SourcePtr& source : release->fonts) {
        const BroughtFontPtr* font = findFont(known_, source->id);
        if (font) addFont(wanted, *font);
        isAllRead = isAllRead && tried_.count(source->id) > 0;
    }
    const std::string said = std::exchange(trouble_, {});
    lock.unlock();
    if (!said.empty()) Q_EMIT told(q(said));
    if (wanted != engine_.fonts.brought()) engine_.bringFonts(std::move(wanted));
    if (isAllRead || reading_.isRunning()) return;
    reading_.setFuture(inBackground([this, release]() -> Result<bool> {
        prepare(*release);
        return true;
    }));
}

QString FontShelf::bringIn(const ImportedFont& font) {
    const QString name = q(font.source->name), family = q(font.font->faces.front().face->family());
    {
        const std::lock_guard lock(mutex_);
        addFont(known_, font.font);
        tried_.insert(font.font->id);
    }
    if (font.font->mayTravel()) {
        document_->edit(tr("Bring in %1").arg(name), withFont(document_->release(), font.source));
        return {};
    }
    addFont(session_, font.font);
    follow();
    return tr("%1 (%2) can be used while Glyptos is open, but its makers do not allow that files hold it, so "
              "it is not kept in the release: words set in it keep their outlines there. Install it to go on "
              "working with it later.")
        .arg(family, name);
}

SourcePtr releaseFontOf(const std::string& family, const Engine& engine, const Release& release) {
    for (const BroughtFontPtr& font : engine.fonts.brought())
        if (font->faces.front().face->family() == family) return release.font(font->id);
    return nullptr;
}

} // namespace glyptos
