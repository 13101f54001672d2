// The open release, its history and its file, as the window sees them.
#pragma once

#include "app/session/in_hand.h"
#include "base/error.h"
#include "release/history/history.h"
#include "release/history/history_memory.h"

#include <QObject>
#include <QString>
#include <filesystem>
#include <memory>
#include <vector>

namespace glyptos {

struct Made;

/// One open release. All edits go through edit() or edited(); everything that shows the release listens to
/// changed().
class Document : public QObject {
    Q_OBJECT
  public:
    Document(const ReleasePtr& release, std::filesystem::path file, QObject* parent = nullptr);
    /// One whose history is known; `saved` is the release that is in the file, or nothing when that is none
    /// of its steps.
    Document(History history, ReleasePtr saved, std::filesystem::path file, QObject* parent = nullptr);

    const ReleasePtr& release() const { return history_.current(); }
    const std::filesystem::path& file() const { return file_; }
    bool isModified() const { return saved_ != release(); }
    const History& history() const { return history_; }
    const ReleasePtr& saved() const { return saved_; }
    /// What led to the release that was opened; see History::prepend.
    void rememberPast(const History& past);

    /// Adds a named step. `merge`: see History::push.
    void edit(const QString& name, ReleasePtr next, const QString& merge = {});
    /// The same for an edit that can be refused; a refusal is reported by refused().
    void edit(const QString& name, const Result<ReleasePtr>& next, const QString& merge = {});
    /// An edit that makes a layer on the panel in hand; takes that layer in hand unless it was refused.
    void editMaking(const QString& name, const Result<Made>& next);
    /// Shows a release that is not a step yet, as while dragging; nothing goes back to the current step.
    void preview(ReleasePtr shown);
    /// What to draw: the preview while there is one, else the current step.
    const ReleasePtr& shown() const { return preview_ ? preview_ : release(); }
    void settle() { history_.settle(); }
    void undo();
    void redo();
    /// Goes to a step of the history.
    void go(size_t step);
    void setSaved(const ReleasePtr& release, const std::filesystem::path& file);

    // Panel and layers in hand; see InHand.
    const PanelRef& panel() const { return inHand_.panel(); }
    const PanelRef& piecePanel() const { return inHand_.piecePanel(); }
    const std::string& layer() const { return inHand_.layer(); }
    const std::vector<std::string>& layers() const { return inHand_.layers(); }
    bool isInHand(const std::string& layer) const { return inHand_.holds(layer); }
    PiecePtr piece() const { return shown()->piece(panel().piece); }
    /// The panel in hand as shown; nothing when the release has no piece.
    const Panel* shownPanel() const;
    void selectPanel(const PanelRef& panel);
    /// An empty id: none.
    void selectLayer(const std::string& layer);
    void selectLayers(std::vector<std::string> layers);
    /// Takes one more layer in hand, or lets go of it.
    void toggleLayer(const std::string& layer);
    /// Another take of the piece in hand, or a new one made from it; layers of the same names stay in hand.
    void showTake(const std::string& take);
    void newTake();
    LayerPtr selectedLayer() const { return findLayer(stackOf(*shown(), panel()), layer()); }
    /// Whether the hand moves the mask of the layer instead of the layer.
    bool maskInHand() const { return inHand_.mask() && selectedLayer() && selectedLayer()->mask; }
    void setMaskInHand(bool on);
    /// Bytes of the words of the text layer in hand that are in hand themselves; nothing: all of them.
    struct Letters {
        size_t from = 0, to = 0;
        bool operator==(const Letters&) const = default;
    };
    std::optional<Letters> lettersInHand() const;
    void setLettersInHand(std::optional<Letters> letters);

  Q_SIGNALS:
    void changed();          ///< shown() is another release
    void historyChanged();   ///< steps, saved state or file
    void selectionChanged(); ///< panel, layer or letters in hand
    void refused(const QString& sentence);
    // What was done to the history, for who writes it down.
    void stepped(bool merged); ///< the current step is new
    void went();               ///< another step is the current one
    void wasSaved();

  private:
    void mendInHand();
    /// Steps to a release in whose current take the layers have other ids.
    void stepToTake(const QString& name, const Result<ReleasePtr>& next, const QString& merge);
    void lookAgain();
    /// Painted pixels of old steps go to disk, in the background, when they take too much memory.
    void tidyMemory();
    History history_;
    std::shared_ptr<HistoryMemory> memory_; ///< outlived by no work on it
    bool isTidying_ = false;
    ReleasePtr saved_, preview_;
    std::filesystem::path file_;
    InHand inHand_;
    std::optional<Letters> letters_;
};

} // namespace glyptos
