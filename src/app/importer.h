// Brings files into the panel in hand: pictures as layers, OpenRaster files as groups of theirs.
#pragma once

#include "app/document.h"
#include "file/open_raster.h"
#include "file/picture_reader.h"

#include <QFutureWatcher>
#include <QStringList>
#include <variant>

namespace glyptos {

class Importer : public QObject {
    Q_OBJECT
  public:
    explicit Importer(Engine& engine, QObject* parent = nullptr);
    ~Importer() override;
    /// What arrives after another release has been opened is dropped.
    void setDocument(Document* document);
    bool isRunning() const { return watcher_.isRunning(); }
    /// Reads the files on other threads, then adds each as one named step. `at`, in panel units, is where the
    /// first one goes; nothing for the middle.
    /// Without a panel they go to the one in hand.
    void bringIn(const QStringList& files, std::optional<Vec2> at, const std::optional<PanelRef>& panel = {});
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
    void placed(); ///< something was added to a piece; it is taken in hand next
    /// A picture came onto an area of other proportions, as that layer, covering it.
    void covered(const std::string& layer);
    void told(const QString& sentence); ///< what could not be brought in, or not all of it
    void finished();

  private:
    using Arrived = Result<std::variant<Imported, OpenRaster>>;
    struct Arrival {
        std::string name;
        Arrived what;
    };
    enum class Purpose { Layers, Replacement, Reference };
    void read(const QStringList& files, Purpose purpose, std::optional<Vec2> at, const std::string& replaced,
              const std::optional<PanelRef>& panel = {});
    void take();
    Imported known(Imported picture) const;
    void place(const Imported& picture);
    void pin(const SourcePtr& source);
    void placeSource(const SourcePtr& source, Placement covering);
    void replaceBy(const Imported& picture);
    void referTo(const Imported& picture);
    void use(const Arrival& arrival, QStringList& troubles);
    void place(const OpenRaster& raster, const std::string& name);
    const Panel* panel() const;

    Engine& engine_;
    Document* document_ = nullptr;
    Document* startedFor_ = nullptr;
    std::optional<Vec2> at_;
    PanelRef target_;
    FactsOf factsOf_;
    Purpose purpose_ = Purpose::Layers;
    std::string replaced_; ///< layer that gets the picture
    QFutureWatcher<std::vector<Arrival>> watcher_;
};

} // namespace glyptos
