// Art of one panel on others: running over several, kept to one again, copied.
#pragma once

#include "app/session/document.h"

#include <QMenu>

namespace glyptos {

class PanelMenu : public QMenu {
    Q_OBJECT
  public:
    explicit PanelMenu(QWidget* parent = nullptr);
    void setDocument(Document* document);

  private:
    void fill();
    void fillKeeping(QMenu* menu, const Wrap& wrap);
    void fillCopying(QMenu* menu, bool mirrored);
    void copyTo(const PanelRef& to, const QString& name, bool mirrored);
    void removeWrap();

    Document* document_ = nullptr;
};

} // namespace glyptos
