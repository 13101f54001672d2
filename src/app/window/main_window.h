// The window: steps, the set, the view of the step in hand, and the status line.
#pragma once

#include "app/brief/brief_view.h"
#include "app/compose/compose_view.h"
#include "app/deliver/deliver_view.h"
#include "app/gather/gather_view.h"
#include "app/layout/layout_view.h"
#include "app/session/engine.h"
#include "app/session/font_shelf.h"
#include "app/session/importer.h"
#include "app/session/journal_keeper.h"
#include "app/session/release_files.h"
#include "app/window/layer_menu.h"
#include "app/window/set_strip.h"
#include "app/window/start_sheet.h"
#include "app/window/steps_rail.h"

#include <QElapsedTimer>
#include <QFutureWatcher>
#include <QMainWindow>
#include <QMenu>
#include <QStackedWidget>
#include <QTimer>
#include <QToolButton>

namespace glyptos {

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    /// Without folders the crate is the user's own, and the drawer the one shipped.
    explicit MainWindow(Engine& engine, FormList forms, const std::filesystem::path& crate = crateFolder(),
                        const std::filesystem::path& drawer = drawerFolder());
    ~MainWindow() override;

    Document* document() const { return document_.get(); }
    ComposeView* compose() const { return compose_; }
    BriefView* brief() const { return brief_; }
    GatherView* gather() const { return gather_; }
    CrateService& crate() { return crate_; }
    LayoutView* layOut() const { return layout_; }
    Proofing& proofing() { return proofing_; }
    DeliverView* deliver() const { return deliver_; }
    SetStrip* set() const { return strip_; }
    StepsRail* rail() const { return rail_; }
    /// True while something is being rendered, decoded, opened, saved or brought in.
    bool isBusy() const;

  public Q_SLOTS:
    /// Opens a release in the background; a sentence says so when it cannot be opened, and the open one
    /// stays.
    void openFile(const QString& file);
    void saveTo(const QString& file);
    /// Brings pictures into the panel in hand, each as a layer; `at` is where the first goes, or nothing for
    /// the middle.
    void bringIn(const QStringList& files, std::optional<Vec2> at = std::nullopt);
    /// A release of the usual pieces, with nothing on them.
    void newRelease();
    /// Asks for pieces and a starting composition first.
    StartSheet* askNewRelease();
    /// At the start: what was not saved the last time, else a new release.
    void begin();
    /// All that was not saved and can be found again.
    void showFoundAgain();
    JournalKeeper& journal() { return journal_; }
    void showStep(Step step);
    /// One sentence that stays until it is dismissed or replaced.
    void tell(const QString& sentence);

  Q_SIGNALS:
    void opened();
    void saved();
    void broughtIn();

  protected:
    void closeEvent(QCloseEvent* event) override;
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    void buildViews();
    void buildNotice();
    void buildStateLine();
    void connectViews();
    void connectBenches();
    void connectImporter();
    void tellPlace(Vec2 at, const QColor& colour);
    void makeActions();
    void makeReleaseMenu();
    void makeEditMenu();
    void makePieceMenu();
    void makeLayerMenu();
    void makeViewMenu();
    QAction* action(QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run);
    void setRelease(const ReleasePtr& release, const std::filesystem::path& file);
    void setDocument(std::unique_ptr<Document> document);
    void showFound(const std::vector<JournalSummary>& lost);
    void showReadBack(const std::shared_ptr<JournalContents>& contents);
    void connectJournal();
    void askMiniature();
    void tellProgress(double share);
    void refreshTitles();
    void tellMissing();
    void refreshRecent();
    void remember(const QString& file);
    /// Goes on once the open release may be let go: there is nothing unsaved in it, or the user said what to
    /// do.
    void leaveThen(const std::function<void()>& go);
    /// Title, artist and catalogue number, as far as they are known.
    QString windowName() const;
    void askOpen();
    void save(bool askName);
    void askPictures();
    void connectGather();
    void connectBrushes();
    void readStamps(const QStringList& ids, bool asStamps);
    QString askPicture(const QString& title);
    void addPiece(const std::shared_ptr<const Form>& form);
    void fillPieceMenu(QMenu* menu);
    void readOwnForms();
    /// A form from a file, kept with the artist's own; a piece of it is added.
    void takeForm(const QString& file);
    void restoreWindow();
    void keepOnScreen();
    void takeFocus();
    void tameChoiceBoxes();
    void setNight(bool night);

    Engine& engine_;
    FormList forms_;
    struct OwnForms {
        FormList forms;
        std::vector<std::string> notes;
        std::shared_ptr<const Form> taken; ///< one that was just brought in
    };
    FormList ownForms_;
    QFutureWatcher<Result<OwnForms>> ownFormsReading_;
    RenderService service_;
    Proofing proofing_;
    JournalKeeper journal_; ///< outlives what saves
    FontShelf fonts_;
    ReleaseFiles files_;
    Importer importer_;
    CrateService crate_;
    std::unique_ptr<Document> document_;
    StepsRail* rail_;
    SetStrip* strip_;
    QStackedWidget* views_;
    BriefView* brief_;
    GatherView* gather_;
    ComposeView* compose_;
    LayoutView* layout_;
    DeliverView* deliver_;
    QWidget* notice_;
    QLabel *noticeText_, *position_, *colourUnder_, *saveState_, *size_;
    QToolButton *stopImport_, *stopSave_;
    Miniature* miniature_; ///< of the release, for its journal
    QTimer miniatureSoon_;
    QElapsedTimer saving_;
    QAction *undo_, *redo_, *night_, *linear_, *nextTake_, *blendSheet_, *sideBySide_, *asPrinted_;
    QMenu* recent_;
    LayerMenu* layerMenu_ = nullptr;
    void connectFiles();
    void showOpened(const ReleasePtr& release, const QString& file, const ReleasePtr& left);
    void closeWhenSaved();
    std::function<void()> afterSave_;
    std::set<std::string> missing_; ///< pictures that cannot be shown, and that was said
    QSize opened_;                  ///< size that the window gave itself
    bool beginsAlike_ = false;      ///< a new piece starts with the art of the one in hand
    bool isBeginning_ = false;      ///< what is lost is being looked for as the program starts
    bool closing_ = false;          ///< the window is being asked to close
    bool leaving_ = false;          ///< and may
};

} // namespace glyptos
