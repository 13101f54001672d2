// A part of the properties panel: some figures of the layer in hand.
#pragma once

#include "app/session/document.h"
#include "app/widgets/form_rows.h"
#include "release/edits/edits.h"
#include "render/layer_geometry.h"

#include <QWidget>
#include <functional>

namespace glyptos {

class Engine;

/// The unit of lengths on the panels of a piece.
FieldUnit lengthUnitOf(const Piece* piece);

class LayerSection : public QWidget {
    Q_OBJECT
  public:
    explicit LayerSection(Engine& engine, QWidget* parent = nullptr);
    void setDocument(Document* document) { document_ = document; }
    /// Shows the layer's figures, or hides when there are none for it.
    void showLayer(const LayerPtr& layer);

  protected:
    /// Whether this part is about such a layer.
    virtual bool fits(const Layer& layer) const = 0;
    virtual void refresh(const Layer& layer) = 0;

    const Panel* panel() const { return document_->shownPanel(); }
    Frame frameOfLayer(const Layer& layer) const;
    /// The unit of lengths on the panel in hand.
    FieldUnit lengthUnit() const { return lengthUnitOf(document_->piece().get()); }
    /// One edit of the layer in hand. `name` has %1 for the layer's name.
    void change(const QString& name, const LayerChange& change, const QString& merge = {});
    /// The same for what `settled` says may still go on, as while dragging: those edits become one step.
    void change(const QString& name, const LayerChange& change, bool settled, const QString& merge);
    /// A field whose figure sets something of the layer.
    void bind(NumberField* field, const QString& name, std::function<void(Layer&, double)> set);

    Engine& engine_;
    Document* document_ = nullptr;

  private:
    bool showing_ = false;
};

/// A unit that is not a length.
FieldUnit plainUnit(const QString& suffix, int decimals, double step, double least, double most);

} // namespace glyptos
