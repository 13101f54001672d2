// Fonts that come with the release in hand, and those that are brought in only while Glyptos is open.
#pragma once

#include "file/font_files.h"

#include <QFutureWatcher>
#include <QObject>
#include <QPointer>
#include <mutex>
#include <set>

namespace glyptos {

class Document;
class Engine;

class FontShelf : public QObject {
    Q_OBJECT
  public:
    explicit FontShelf(Engine& engine, QObject* parent = nullptr);
    ~FontShelf() override;
    /// Reads a release's fonts, on any thread, so that they are there when it is shown.
    void prepare(const Release& release);
    /// The faces at hand follow the fonts of this document's release from now on.
    void setDocument(Document* document);
    /// Brings a font into the document in hand, or only into this session where its makers do not let it
    /// travel in files; gives a sentence about that, or nothing.
    QString bringIn(const ImportedFont& font);

  Q_SIGNALS:
    void told(const QString& sentence);

  private:
    void follow();
    Engine& engine_;
    QPointer<Document> document_;
    mutable std::mutex mutex_;
    std::vector<BroughtFontPtr> known_; ///< read once
    std::set<std::string> tried_;       ///< ids, also of those that cannot be used
    std::string trouble_;               ///< with those that were read last
    std::vector<BroughtFontPtr> session_;
    QFutureWatcher<Result<bool>> reading_;
};

/// The file in the release that gives a family; nothing when there is none.
SourcePtr releaseFontOf(const std::string& family, const Engine& engine, const Release& release);

} // namespace glyptos
