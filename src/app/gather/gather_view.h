// Gather: the crate, the stock drawer, the wall, colours and credits.
#pragma once

#include "app/gather/colours_view.h"
#include "app/gather/credits_view.h"
#include "app/gather/source_pages.h"
#include "app/gather/wall_bench.h"

#include <QSplitter>

namespace glyptos {

class Engine;
class RenderService;
class WallPane;

class GatherView : public QWidget {
    Q_OBJECT
  public:
    GatherView(Engine& engine, RenderService& service, CrateService& crate, QWidget* parent = nullptr);
    ~GatherView() override;
    void setDocument(Document* document);
    void showPlace(GatherPlace place);
    GatherPlace place() const { return place_; }
    void setWallBeside(bool beside);
    bool isWallShown() const;

    SourcePages* pictures() const { return pictures_; }
    WallBench* wall() const;
    ColoursView* colours() const { return colours_; }
    CreditsView* credits() const { return credits_; }
    WallPane* wallPane() const { return wallPane_; }
    GatherBar* bar() const { return bar_; }
    /// The keys go to what is looked at.
    void takeFocus();
    bool isBusy() const { return pictures_->isBusy(); }

  Q_SIGNALS:
    /// Pictures are to be placed on a panel; nothing for the middle.
    void placeAsked(const QStringList& files, const glyptos::PanelRef& panel,
                    std::optional<glyptos::Vec2> at);
    void composeAsked();
    /// Which face the words in a picture are set in.
    void faceAsked(const QString& file);
    void told(const QString& sentence);
    void fontsArrived(const QStringList& files);

  protected:
    void showEvent(QShowEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    void connectPlaces();
    void connectPictures();
    void refreshPlace();
    QWidget* pageOf(GatherPlace place) const;
    void refreshUsed();
    void editFacts(const std::string& source, const SourceFacts& facts);

    CrateService& crate_;
    Document* document_ = nullptr;
    GatherPlace place_ = GatherPlace::Crate;
    GatherBar* bar_;
    QStackedWidget* pages_;
    QSplitter* split_;
    SourcePages* pictures_;
    WallPane* wallPane_;
    ColoursView* colours_;
    CreditsView* credits_;
};

} // namespace glyptos
