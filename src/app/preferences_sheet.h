// Preferences of the application.
#pragma once

#include "app/crate_service.h"
#include "app/form_rows.h"
#include "app/memory_budget.h"

#include <QDialog>

namespace glyptos {

/// How the line to the agency of the stock drawer is set to be.
AgencyLine keptLine();

class PreferencesSheet : public QDialog {
    Q_OBJECT
  public:
    PreferencesSheet(Engine& engine, CrateService& crate, QWidget* parent);
};

} // namespace glyptos
