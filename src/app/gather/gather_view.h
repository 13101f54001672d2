// Gather: the crate, the stock drawer, the wall, colours and credits.
#pragma once

#include "app/gather/colours_view.h"
#include "app/gather/credits_view.h"
#include "app/gather/facet_panel.h"
#include "app/gather/source_details.h"
#include "app/gather/source_grid.h"
#include "app/gather/wall_bench.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QSplitter>
#include <QStackedWidget>

namespace glyptos {

class Engine;

class WallPane;

class GatherView : public QWidget {
    Q_OBJECT
  public:
    enum Place { CratePlace, DrawerPlace, WallPlace, ColoursPlace, CreditsPlace };

    GatherView(Engine& engine, RenderService& service, CrateService& crate, QWidget* parent = nullptr);
    ~GatherView() override;
    void setDocument(Document* document);
    void showPlace(Place place);
    Place place() const { return place_; }
    void setWallBeside(bool beside);
    bool isWallShown() const;

    SourceGrid* crateGrid() const { return crateGrid_; }
    SourceGrid* drawerGrid() const { return drawerGrid_; }
    WallBench* wall() const;
    ColoursView* colours() const { return colours_; }
    CreditsView* credits() const { return credits_; }
    SourceDetails* details() const { return details_; }
    WallPane* wallPane() const { return wallPane_; }
    QLineEdit* searchField() const { return search_; }
    /// The keys go to what is looked at.
    void takeFocus();
    bool isBusy() const { return thumbnails_.busy() || searchWaits_.isActive(); }
    /// Puts a picture on the clipboard into the crate. False when there is none.
    bool paste();

  Q_SIGNALS:
    /// Pictures are to be placed on a panel; nothing for the middle.
    void placeAsked(const QStringList& files, const glyptos::PanelRef& panel,
                    std::optional<glyptos::Vec2> at);
    void composeAsked();
    void told(const QString& sentence);

  protected:
    void showEvent(QShowEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    QWidget* makeBar();
    QWidget* makeGrids();
    void connectCrate();
    void connectDetails();
    void askAddFiles();
    void askAddFolder();
    void fillWatchMenu(QMenu* menu);
    void search();
    void refreshPlace();
    void refreshDetails();
    void refreshUsed();
    void setLike(bool on);
    void editFacts(const std::string& source, const SourceFacts& facts);
    QStringList chosenFiles() const;
    SourceGrid* grid() const { return place_ == DrawerPlace ? drawerGrid_ : crateGrid_; }

    CrateService& crate_;
    ThumbnailStore thumbnails_;
    Document* document_ = nullptr;
    Place place_ = CratePlace;
    QButtonGroup* places_;
    QToolButton* beside_;
    QLineEdit* search_;
    QComboBox* order_;
    QPushButton* add_;
    QLabel *count_, *drawerSays_;
    QPushButton *again_, *cancel_;
    QWidget *searchRow_, *drawerNote_;
    FacetPanel *facets_, *drawerFacets_;
    QStackedWidget *facetPages_, *gridPages_, *pages_;
    QSplitter* split_;
    SourceGrid *crateGrid_, *drawerGrid_;
    SourceDetails* details_;
    WallPane* wallPane_;
    ColoursView* colours_;
    CreditsView* credits_;
    std::string like_;
    QTimer searchWaits_;
};

} // namespace glyptos
