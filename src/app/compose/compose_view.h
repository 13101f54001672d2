// The Compose step: hand bar, bench, stack and properties.
#pragma once

#include "app/bench/bench_bar.h"
#include "app/bench/bench_grid.h"
#include "app/bench/compose_bench.h"
#include "app/compose/bend_options.h"
#include "app/compose/blend_sheet.h"
#include "app/compose/brush_options.h"
#include "app/compose/compose_foot.h"
#include "app/compose/fill_options.h"
#include "app/compose/framing_sheet.h"
#include "app/compose/history_view.h"
#include "app/compose/knead_options.h"
#include "app/compose/paint_options.h"
#include "app/compose/properties_panel.h"
#include "app/compose/scopes.h"
#include "app/compose/select_options.h"
#include "app/compose/slice_options.h"
#include "app/compose/stack_view.h"
#include "app/compose/try_sheet.h"
#include "app/figures/treatments_section.h"
#include "app/hands/pick_options.h"
#include "app/hands/shape_choice.h"
#include "app/letter/specimen_sheet.h"
#include "app/widgets/elided_label.h"

#include <QButtonGroup>
#include <QLabel>
#include <QScrollArea>
#include <QStackedWidget>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class Engine;

class ComposeView : public QWidget {
    Q_OBJECT
  public:
    ComposeView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    ComposeBench* bench() const { return bench_; }
    StackView* stack() const { return stack_; }
    BenchGrid* grid() const { return grid_; }
    BenchBar* bar() const { return bar_; }
    BlendSheet* blendSheet() const { return blendSheet_; }
    Scopes* scopes() const { return scopes_; }
    TrySheet* trySheet() const { return trying_; }
    SpecimenSheet* specimens() const { return specimens_; }
    /// Tries a face on the words in hand; false when there are none.
    bool showFace(const std::string& family) { return specimens_->openAt(family); }
    FramingSheet* framing() const { return framing_; }
    SizeLadder* ladder() const { return ladder_; }
    HistoryView* history() const { return history_; }
    void showHistory(bool on);
    TreatmentsSection* treatments() const { return treatments_; }
    /// Shows the treatments of the layer in hand in place of its figures.
    void showTreatments(bool on);
    LookShelf& looks() { return looks_; }
    BrushBoard& brushes() const { return painting_->board(); }

  Q_SIGNALS:
    void pictureAsked();
    void briefAsked();
    /// Another picture for the layer in hand.
    void replaceAsked();
    /// A file with a reference picture.
    void referenceAsked();

  protected:
    void hideEvent(QHideEvent* event) override;

  private:
    QWidget* makeHandBar();
    QWidget* makeOptionBar();
    QWidget* makeSideHead();
    void makeKeys();
    QWidget* makeFigures(Engine& engine, RenderService& service);
    void refreshTreatments();
    QWidget* makeSide(Engine& engine, RenderService& service);
    void refreshHand();
    void refreshEmpty();
    void showCardInHand();

    Document* document_ = nullptr;
    LookShelf looks_;
    ComposeBench* bench_;
    BenchGrid* grid_;
    BlendSheet* blendSheet_;
    TrySheet* trying_;
    SpecimenSheet* specimens_;
    Scopes* scopes_;
    FramingSheet* framing_;
    PickOptions* picking_;
    SelectOptions* selecting_;
    BrushOptions* brushing_;
    SliceOptions* slicing_;
    PaintOptions* painting_;
    KneadOptions* kneading_;
    BendOptions* bending_;
    FillOptions* filling_;
    SizeLadder* ladder_;
    BenchBar* bar_;
    HistoryView* history_;
    QToolButton *stackTab_, *historyTab_;
    QStackedWidget* sideTop_;
    StackView* stack_;
    QScrollArea* stackScroll_;
    PropertiesPanel* properties_;
    QToolButton *figuresTab_, *treatmentsTab_, *scopesSwitch_;
    QStackedWidget* sideFoot_;
    TreatmentsSection* treatments_;
    QButtonGroup* hands_;
    ComposeFoot* foot_;
    ElidedLabel *sentence_, *optionSentence_;
    QLabel* emptyNote_;
    QWidget *empty_, *snapping_, *options_;
    ShapeChoice* shapes_;
};

} // namespace glyptos
