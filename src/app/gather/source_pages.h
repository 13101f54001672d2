// The pictures of the crate and of the stock drawer: what narrows them, the grids, and what is known of those
// that are chosen.
#pragma once

#include "app/gather/facet_panel.h"
#include "app/gather/gather_bar.h"
#include "app/gather/source_details.h"
#include "app/gather/source_grid.h"
#include "app/session/thumbnail_store.h"
#include "release/release.h"

#include <QStackedWidget>
#include <QTimer>

namespace glyptos {

class Document;

class SourcePages : public QWidget {
    Q_OBJECT
  public:
    SourcePages(CrateService& crate, GatherBar& bar, QWidget* parent = nullptr);
    void setDocument(Document* document);
    /// Shows the crate, or the drawer.
    void setInDrawer(bool drawer);
    /// Leaves the room to the pictures alone.
    void setNarrow(bool narrow);
    /// Asks again for what is shown.
    void search();
    void setUsed(const std::set<std::string>& sources) { crateGrid_->setUsed(sources); }
    void refreshDetails();
    /// Looks for relatives of the picture that is chosen, or for whatever it is.
    void setLike(bool on);
    bool isLike() const { return !like_.empty(); }
    void stopLike();

    SourceGrid* crateGrid() const { return crateGrid_; }
    SourceGrid* drawerGrid() const { return drawerGrid_; }
    SourceGrid* grid() const { return inDrawer_ ? drawerGrid_ : crateGrid_; }
    SourceDetails* details() const { return details_; }
    bool isBusy() const { return thumbnails_.busy() || searchWaits_.isActive(); }
    QStringList chosenFiles() const;

  private:
    QWidget* makeFacets();
    QWidget* makeGrids();
    void connectBar();
    void connectCrate();
    void connectDrawer();
    void connectChosen();
    void noteOfDrawer(const QString& sentence, bool failed);

    CrateService& crate_;
    GatherBar& bar_;
    ThumbnailStore thumbnails_;
    Document* document_ = nullptr;
    bool inDrawer_ = false;
    QLabel* drawerSays_;
    QPushButton* again_;
    QWidget* drawerNote_;
    FacetPanel *facets_, *drawerFacets_;
    QStackedWidget *facetPages_, *gridPages_;
    SourceGrid *crateGrid_, *drawerGrid_;
    SourceDetails* details_;
    std::string like_;
    QTimer searchWaits_;
};

/// Ids of the pictures that a release shows on its pieces.
std::set<std::string> picturesUsedIn(const Release& release);

} // namespace glyptos
