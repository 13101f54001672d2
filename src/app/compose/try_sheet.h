// The layer in hand under many treatments at once, live: every kind at three strengths, all looks, or
// neighbours of what it has by chance. A click takes one.
#pragma once

#include "app/session/look_shelf.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/miniature.h"
#include "release/release.h"

#include <QLabel>
#include <QPointer>
#include <QScrollArea>
#include <QToolButton>

namespace glyptos {

class Document;
class Engine;

class TrySheet : public QWidget {
    Q_OBJECT
  public:
    enum class Page { Treatments, Looks, Chance };
    TrySheet(Engine& engine, RenderService& service, LookShelf& looks, QWidget* parent);
    void setDocument(Document* document);
    /// The treatment of the layer that is tried anew; what is taken is put behind it.
    void open(Page page, int current);
    void leave();
    /// The buttons, in their order.
    std::vector<QToolButton*> cells() const;
    QToolButton* tab(Page page) const { return tabs_[size_t(page)]; }
    bool isSettled() const { return waiting_ == 0; }

  Q_SIGNALS:
    void taken(int current); ///< the row of the list that was put in

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    struct Offer {
        QString title;
        Treatments list;
        int current = 0;
        bool again = false;   ///< taking it shows its neighbours
        QString caption = {}; ///< under the miniature, where that is not the title
    };
    struct Cell {
        Offer offer;
        QToolButton* button = nullptr;
        Miniature* miniature = nullptr;
    };
    void fill();
    std::vector<Offer> offers() const;
    std::vector<Offer> kinds() const;
    std::vector<Offer> lookOffers() const;
    std::vector<Offer> neighbours() const;
    Treatments present() const;
    void arrange();
    void ask();
    void take(size_t cell);
    Rect area() const;
    int columns() const;

    Engine& engine_;
    RenderService& service_;
    LookShelf& looks_;
    Document* document_ = nullptr;
    QLabel* title_;
    QToolButton *leave_, *again_;
    std::array<QToolButton*, 3> tabs_{};
    QScrollArea* scroll_;
    QWidget* board_;
    std::vector<Cell> cells_;
    QPointer<QWidget> before_; ///< had the focus
    Page page_ = Page::Treatments;
    int current_ = -1, waiting_ = 0;
    uint32_t round_ = 1; ///< of the neighbours
};

} // namespace glyptos
