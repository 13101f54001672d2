// The bar over Gather: its five places, and what the pictures are searched by.
#pragma once

#include "crate/shelf.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>

namespace glyptos {

class AddSources;
class CrateService;

/// The places of Gather.
enum class GatherPlace : unsigned char { Crate, Drawer, Wall, Colours, Credits };

/// Whether a place shows pictures to be searched.
inline bool hasPictures(GatherPlace place) {
    return place == GatherPlace::Crate || place == GatherPlace::Drawer;
}

class GatherBar : public QWidget {
    Q_OBJECT
  public:
    explicit GatherBar(CrateService& crate, QWidget* parent = nullptr);
    /// Marks that place, and shows what can be done there.
    void setPlace(GatherPlace place);
    bool isWallBeside() const { return beside_->isChecked(); }
    void setWallBeside(bool beside) { beside_->setChecked(beside); }
    QLineEdit* searchField() const { return search_; }
    CrateOrder order() const { return static_cast<CrateOrder>(order_->currentIndex()); }
    AddSources* adding() const { return add_; }
    /// How many there are, or what has just been done.
    void setCount(const QString& words) { count_->setText(words); }

  Q_SIGNALS:
    void placeChosen(glyptos::GatherPlace place);
    void besideChosen(bool beside);
    void wordsTyped();
    void wordsEntered(); ///< the keys go to what was found
    void orderChosen();

  private:
    QLayout* makePlaces();
    QWidget* makeSearch(CrateService& crate);
    QButtonGroup* places_;
    QToolButton* beside_;
    QWidget* searchRow_;
    QLineEdit* search_;
    QComboBox* order_;
    QLabel* count_;
    AddSources* add_;
};

} // namespace glyptos
