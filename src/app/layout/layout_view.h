// The Lay out step: the flat of a piece with its lines, each panel's art judged, and the figures of its form.
#pragma once

#include "app/bench/line_key.h"
#include "app/layout/flat_bench.h"
#include "app/layout/fold_view.h"
#include "app/layout/panel_rows.h"
#include "app/layout/seam_rows.h"
#include "app/widgets/elided_label.h"
#include "app/widgets/form_rows.h"
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
    /// Shows the piece as an object, or its flat.
    void showFolded(bool folded);
    void takeFocus() { ways_->currentWidget()->setFocus(); }
    bool isFolded() const { return ways_->currentWidget() == fold_; }
    /// True when the panels' art has been judged as it is now.
    bool isJudged() const { return judged_; }
    QString verdictOf(const std::string& panel) const;

  Q_SIGNALS:
    void composeAsked();

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
    void align(const Seam& seam, const std::string& moving);

    Engine& engine_;
    Document* document_ = nullptr;
    FlatBench* bench_;
    FoldView* fold_;
    QStackedWidget* ways_;
    QToolButton *flatWay_, *foldedWay_;
    QSlider* slider_;
    ElidedLabel* sentence_;
    LineKeySwitches* key_;
    PanelRows* panelRows_;
    QLabel *keyHead_, *seamHead_;
    SeamRows* seamRows_;
    QVBoxLayout* formRows_;
    QLabel *selected_, *selectedNote_;
    QPushButton* fit_;
    std::string formOf_;
    std::map<std::string, NumberField*> fields_;
    std::map<std::string, QComboBox*> choices_;
    std::map<std::string, QLabel*> workings_;
    QFutureWatcher<Result<Verdicts>> watcher_;
    Verdicts verdicts_;
    bool judged_ = false, again_ = false;
};

} // namespace glyptos
