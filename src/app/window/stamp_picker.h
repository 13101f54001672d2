// Pictures of the crate that a brush should print.
#pragma once

#include "app/session/crate_service.h"
#include "app/session/thumbnail_store.h"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace glyptos {

class StampPicker : public QDialog {
    Q_OBJECT
  public:
    explicit StampPicker(CrateService& crate, QWidget* parent = nullptr);

  Q_SIGNALS:
    /// Those that were marked, in their order.
    void picked(const QStringList& sources);

  private:
    void fill();
    void showPictures();

    CrateService& crate_;
    ThumbnailStore thumbnails_;
    QLabel* note_;
    QLineEdit* search_;
    QListWidget* list_;
    QPushButton* use_;
};

} // namespace glyptos
