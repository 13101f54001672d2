// Asks how many ghosts of the layers in hand there should be, showing them meanwhile.
#pragma once

#include "app/session/document.h"
#include "app/widgets/form_rows.h"

#include <QDialog>

namespace glyptos {

class GhostsSheet : public QDialog {
    Q_OBJECT
  public:
    /// `panel` is the one in hand.
    GhostsSheet(Document& document, const Panel* panel, QWidget* parent);
    void accept() override;
    void reject() override;

  private:
    ReleasePtr made() const;
    void look();

    Document& document_;
    NumberField *count_, *across_, *down_, *fade_;
};

} // namespace glyptos
