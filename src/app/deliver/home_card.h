// For the printer and the cutter at home.
#pragma once

#include "app/widgets/form_rows.h"
#include "file/print/home_print.h"

#include <QComboBox>
#include <QPushButton>

namespace glyptos {

class HomeCard : public QWidget {
    Q_OBJECT
  public:
    explicit HomeCard(QWidget* parent = nullptr);
    void setPiece(const Piece& piece);
    void setBusy(bool busy);
    HomeOptions options() const;

  Q_SIGNALS:
    void printAsked();
    void cutsAsked(const QString& ending); ///< ".svg" or ".dxf"

  private:
    void refresh();

    QComboBox *paper_, *duplex_;
    NumberField *copies_, *overlap_;
    QLabel* said_;
    QPushButton *print_, *svg_, *dxf_;
    std::shared_ptr<const Flat> flat_;
};

} // namespace glyptos
