// The Lay out step: the flat of a piece with its lines, each panel's art judged, and the figures of its form.
#pragma once

#include "app/bench/line_key.h"
#include "app/layout/flat_bench.h"
#include "app/layout/fold_view.h"
#include "app/layout/form/form_view.h"
#include "app/layout/panel_rows.h"
#include "app/layout/seam_rows.h"
#include "app/session/long_work.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/form_rows.h"
#include "release/edits/lengthen.h"
#include "render/fit/art_cover.h"

#include <QComboBox>
#include <QFutureWatcher>
#include <QSlider>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace glyptos {

class Engine;

class LayoutView : public QWidget {
    Q_OBJECT
  public:
    LayoutView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    ~LayoutView() override;
    void setDocument(Document* document);
    FlatBench* bench() const { return bench_; }
    FoldView* fold() const { return fold_; }
    FormView* form() const { return form_; }
    bool isBusy() const { return form_->isBusy() || work_.isGoingOn(); }
    /// Shows the piece as an object, or its flat.
    void showFolded(bool folded) { showWay(folded ? Way::Folded : Way::Flat); }
    enum class Way : unsigned char { Flat, Folded, Form };
    void showWay(Way way);
    Way way() const { return static_cast<Way>(ways_->currentIndex()); }
    void takeFocus() { ways_->currentWidget()->setFocus(); }
    bool isFolded() const { return way() == Way::Folded; }
    /// True when the panels' art has been judged as it is now.
    bool isJudged() const { return judged_; }
    QString verdictOf(const std::string& panel) const;

  Q_SIGNALS:
    void composeAsked();
    void formsChanged();                   ///< there are other forms of the artist's
    void refused(const QString& sentence); ///< why something was not done

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    struct Verdicts {
        ReleasePtr release;
        std::string piece;
        std::vector<std::pair<std::string, ArtCover>> panels;
        std::vector<Seam> seams;
    };
    QWidget* makeBench();
    QWidget* makeForm();
    void refreshFold();
    void rebuildForm();
    void refresh();
    void judge();
    void showVerdicts();
    void showSeams();
    void fitArt();
    void setSpineWords();
    void addWorking(const Parameter& parameter, QFormLayout& form);
    void makeLengthening();
    void lengthen(Lengthening how);
    static ShortBy shortBy(const ArtCover& cover);
    [[nodiscard]] static ReleasePtr lengthened(const ReleasePtr& release, const PanelRef& panel,
                                               const Layer& layer, const ShortBy& by, Lengthening how);
    void lengthenMending();
    void runColourOn();
    /// What the panel in hand is short by, as it was judged last; nothing while it is not known.
    std::optional<ArtCover> coverInHand() const;
    void align(const Seam& seam, const std::string& moving);

    Engine& engine_;
    Document* document_ = nullptr;
    FlatBench* bench_;
    FoldView* fold_;
    FormView* form_;
    QStackedWidget *ways_, *sides_;
    QToolButton *flatWay_, *foldedWay_, *formWay_, *packedWay_;
    QSlider* slider_;
    ElidedLabel* sentence_;
    LineKeySwitches* key_;
    PanelRows* panelRows_;
    QLabel *keyHead_, *seamHead_;
    SeamRows* seamRows_;
    QVBoxLayout* formRows_;
    QLabel *selected_, *selectedNote_;
    QPushButton *fit_, *spine_;
    QToolButton* lengthen_;
    LongWork work_;
    std::string formOf_;
    std::map<std::string, NumberField*> fields_;
    std::map<std::string, QComboBox*> choices_;
    std::map<std::string, QLabel*> workings_;
    std::map<std::string, QLineEdit*> reasons_;
    QFutureWatcher<Result<Verdicts>> watcher_;
    Verdicts verdicts_;
    bool judged_ = false, again_ = false;
};

} // namespace glyptos
