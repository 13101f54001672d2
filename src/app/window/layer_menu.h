// The Layer menu: all that can be done to the layers in hand.
#pragma once

#include "app/compose/compose_view.h"
#include "app/window/letter_menu.h"
#include "app/window/panel_menu.h"
#include "render/arrange.h"

#include <QMenu>

namespace glyptos {

class Engine;

class LayerMenu : public QMenu {
    Q_OBJECT
  public:
    LayerMenu(Engine& engine, ComposeView& view, QWidget* parent = nullptr);
    void setDocument(Document* document);
    /// Its entries act only while the Compose step is shown.
    void setActive(bool active);

  Q_SIGNALS:
    void composeAsked(); ///< something was added that is seen in Compose

  private:
    /// One edit of the layers in hand; ids written to `inHand` are taken in hand afterwards.
    using Edit =
        std::function<Result<ReleasePtr>(const ReleasePtr& release, std::vector<std::string>& inHand)>;
    QAction* entry(QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run);
    /// What an entry says and its step is called, where %1 is what the layers are called.
    struct Wording {
        QString text, name;
        QKeySequence keys = {};
    };
    /// Needs at least `least` layers in hand.
    QAction* onLayers(QMenu* menu, const Wording& says, int least, Edit edit);
    /// Turns a flag of the layers in hand to what it is not in the one whose figures show.
    QAction* onSwitch(const QKeySequence& keys, bool Layer::*flag, const QString& on, const QString& off);
    bool holdsGroup() const;
    void makeAdding();
    void makeLight();
    void askFace();
    void addCode(CodeKind kind);
    void addGrade(const TreatmentKind& kind);
    void glow();
    void makeCopying();
    void makeGrouping();
    void makeArranging();
    enum class ArrangeTo : unsigned char { Panel, Safety, EachOther };
    void addArranging(QMenu* menu, ArrangeTo to);
    void fillEchoes(QMenu* menu);
    void fillTakes(QMenu* menu);
    void add(const QString& name, Layer layer);
    PanelLayers inHand() const;
    Rect areaOf(ArrangeTo to) const;
    QString what() const;
    void refresh();

    Engine& engine_;
    ComposeView& view_;
    Document* document_ = nullptr;
    LetterMenu* letters_ = nullptr;
    PanelMenu* panels_ = nullptr;
    bool active_ = true;
    std::vector<std::pair<QAction*, int>> needing_; ///< actions and how many layers they need
    QAction *clip_ = nullptr, *lock_ = nullptr;
    QAction* dissolve_ = nullptr; ///< needs a group
};

} // namespace glyptos
