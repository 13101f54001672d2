// Preferences of the application.
#pragma once

#include "app/form_rows.h"
#include "app/memory_budget.h"

#include <QDialog>

namespace glyptos {

class PreferencesSheet : public QDialog {
    Q_OBJECT
  public:
    PreferencesSheet(Engine& engine, QWidget* parent);
};

} // namespace glyptos
