// Asks over which panels the layers in hand should run.
#pragma once

#include "app/session/document.h"

#include <QCheckBox>
#include <QDialog>
#include <QPushButton>

namespace glyptos {

class RunOverSheet : public QDialog {
    Q_OBJECT
  public:
    RunOverSheet(Document& document, QWidget* parent);
    void accept() override;

  private:
    void refresh();

    Document& document_;
    std::vector<std::pair<std::string, QCheckBox*>> others_;
    QPushButton* run_;
};

} // namespace glyptos
