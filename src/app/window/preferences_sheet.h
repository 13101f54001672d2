// Preferences of the application.
#pragma once

#include "app/session/crate_service.h"
#include "app/session/memory_budget.h"
#include "app/widgets/form_rows.h"

#include <QDialog>

namespace glyptos {

class Engine;

/// How the line to the agency of the stock drawer is set to be.
AgencyLine keptLine();

class PreferencesSheet : public QDialog {
    Q_OBJECT
  public:
    PreferencesSheet(Engine& engine, CrateService& crate, QWidget* parent);
};

} // namespace glyptos
