// Figures and words of the layer in hand.
#pragma once

#include "app/document.h"
#include "app/form_rows.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QSlider>
#include <QWidget>

namespace glyptos {

QColor toQt(const Rgba& c);
Rgba fromQt(const QColor& c);

class PropertiesPanel : public QWidget {
    Q_OBJECT
  public:
    explicit PropertiesPanel(Engine& engine, QWidget* parent = nullptr);
    void setDocument(Document* document);

  private:
    QWidget* makePlace();
    QWidget* makeBlend();
    QWidget* makePicture();
    QWidget* makeText();
    QWidget* makeFill();

    void refresh();
    void showPlace(const Layer& layer);
    void showText(const Layer& layer, const TextContent& text);
    void fillStyles(const std::string& family);
    const Panel* panel() const;
    /// One edit of the layer in hand.
    void change(const QString& name, const LayerChange& change, const QString& merge = {});
    void changeText(const QString& what, const std::function<void(TextContent&)>& change,
                    const QString& merge = {});
    void changeFill(const std::function<void(FillContent&)>& change);
    /// A field whose figure, in the panel's unit, sets something of the layer.
    void bind(NumberField* field, const QString& name, std::function<void(Layer&, double)> set);
    FieldUnit lengthUnit() const;

    Engine& engine_;
    Document* document_ = nullptr;
    QLabel *title_, *sharpness_, *faceNote_;
    QWidget *place_, *blend_, *picture_, *text_, *fill_, *empty_;
    NumberField *x_, *y_, *w_, *h_, *turn_, *opacityField_;
    NumberField *cropLeft_, *cropTop_, *cropRight_, *cropBottom_;
    NumberField *size_, *tracking_, *leading_, *measure_, *fillTurn_;
    QSlider* opacity_;
    QComboBox *mode_, *family_, *style_, *align_;
    QPlainTextEdit* words_;
    QCheckBox *capitals_, *gradient_, *passing_;
    ColourButton *textColour_, *fillColour_, *fillTo_;
    bool showing_ = false;
};

} // namespace glyptos
