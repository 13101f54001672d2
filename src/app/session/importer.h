// Brings files into the panel in hand: pictures as layers, OpenRaster files as groups of theirs, fonts for
// the whole release.
#pragma once

#include "app/session/import_queue.h"

#include <functional>

namespace glyptos {

class Engine;
class FontShelf;

class Importer : public QObject {
    Q_OBJECT
  public:
    Importer(Engine& engine, FontShelf& fonts, QObject* parent = nullptr);
    /// What arrives after another release has been opened is dropped.
    void setDocument(Document* document);
    bool isRunning() const { return queue_.isRunning(); }
    /// Reads the files on another thread, then adds each as one named step. `at`, in panel units, is where
    /// the first one goes; nothing for the middle. Without a panel they go to the one in hand. What is asked
    /// for while others are being read comes after them, to the panel it was meant for.
    void bringIn(const QStringList& files, std::optional<Vec2> at, const std::optional<PanelRef>& panel = {});
    /// Stops reading; what has not arrived yet is left out.
    void cancel() { queue_.cancel(); }
    /// A picture of the release on another panel, as if it had been brought in there.
    void placeAgain(const std::string& source, const PanelRef& panel);
    /// What is known elsewhere of a picture, by the id of its source.
    using FactsOf = std::function<std::optional<SourceFacts>(const std::string& source)>;
    void setFacts(FactsOf facts) { factsOf_ = std::move(facts); }

    /// Reads one picture, which then takes the place of that of a layer of the panel in hand.
    void replace(const QString& file, const std::string& layer);
    /// Reads one picture, which becomes the reference of the panel in hand.
    void refer(const QString& file);

  Q_SIGNALS:
    void began();  ///< files are being read
    void placed(); ///< something was added to a piece; it is taken in hand next
    /// A picture came onto an area of other proportions, as that layer, covering it.
    void covered(const std::string& layer);
    void fontArrived(const std::string& family);
    void told(const QString& sentence); ///< what could not be brought in, or not all of it
    void finished();

  private:
    void ask(ImportBatch batch);
    void take(const ImportAnswer& answer);
    Imported known(Imported picture) const;
    void place(const Imported& picture);
    void pin(const SourcePtr& source);
    void placeSource(const SourcePtr& source, Placement covering);
    void replaceBy(const Imported& picture, const std::string& layer);
    void referTo(const Imported& picture);
    void takeFont(const ImportedFont& font, const ImportBatch& batch, QStringList& troubles);
    void use(const ImportBatch& batch, const Arrival& arrival, QStringList& troubles);
    void place(const OpenRaster& raster, const std::string& name);
    const Panel* panel() const;

    Engine& engine_;
    FontShelf& fonts_;
    Document* document_ = nullptr;
    ImportQueue queue_;
    std::optional<Vec2> at_; ///< of the next picture
    PanelRef target_;        ///< where what is being placed goes
    FactsOf factsOf_;
};

} // namespace glyptos
