// The Compose step: hand bar, bench, stack and properties.
#pragma once

#include "app/compose_bench.h"
#include "app/line_key.h"
#include "app/properties_panel.h"
#include "app/shape_choice.h"
#include "app/stack_view.h"

#include <QButtonGroup>
#include <QLabel>
#include <QScrollArea>
#include <QToolButton>
#include <QWidget>

namespace glyptos {

class ComposeView : public QWidget {
    Q_OBJECT
  public:
    ComposeView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    ComposeBench* bench() const { return bench_; }
    StackView* stack() const { return stack_; }

  Q_SIGNALS:
    void pictureAsked();
    /// Another picture for the layer in hand.
    void replaceAsked();

  private:
    QWidget* makeHandBar();
    QWidget* makeFoot();
    QWidget* makeSide(Engine& engine, RenderService& service);
    void refreshHand();
    void refreshPanels();
    void refreshZoom();
    void showCardInHand();

    Document* document_ = nullptr;
    ComposeBench* bench_;
    StackView* stack_;
    QScrollArea* stackScroll_;
    PropertiesPanel* properties_;
    QButtonGroup* hands_;
    LineKeySwitches* key_;
    QLabel *sentence_, *zoom_, *emptyNote_;
    QWidget *panels_, *empty_, *snapping_;
    ShapeChoice* shapes_;
};

} // namespace glyptos
