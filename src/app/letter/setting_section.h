// How the words of a text are set: size, space, sides, and the frame they stand in.
#pragma once

#include "app/figures/layer_section.h"

#include <QCheckBox>
#include <QComboBox>

namespace glyptos {

class SettingSection : public LayerSection {
    Q_OBJECT
  public:
    explicit SettingSection(Engine& engine);
    /// A box to choose from that shares its row with another field.
    static QComboBox* choice(const QString& name, const QStringList& items);

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    using Change = std::function<void(TextContent&)>;
    void changeText(const QString& name, const Change& edit);
    void bindText(NumberField* field, const QString& name, std::function<void(TextContent&, double)> set);
    void makeSizes(QFormLayout* form);
    void makeSpaces(QFormLayout* form);
    void makeFrame(QFormLayout* form);
    QWidget* makeOverflow();
    QCheckBox* makeSwitch(const QString& text, const QString& why, bool TextSpec::*which);
    void chooseFrame(int kind);
    void chooseWay(bool along);
    void setWidth(TextContent& text, double width) const;
    /// Once its patterns are read, which may take seconds.
    void setLanguage(const std::string& language);
    void fit();
    void refreshSizes(const TextContent& text, const Paragraph& set);
    void refreshFrame(const TextContent& text, const Paragraph& set);

    NumberField *size_, *capitals_, *width_, *tracking_, *leading_, *shift_;
    NumberField *areaWidth_, *areaHeight_, *pathStart_, *radius_, *circleStart_;
    ColourButton* colour_;
    QComboBox *kerning_, *case_, *language_, *align_, *frame_;
    QCheckBox *below_, *inside_, *hyphens_, *hang_, *even_, *spaces_;
    std::vector<QWidget*> areaRow_, pathRow_, circleRow_;
    QLabel *overflow_, *marked_, *frameLabel_;
    QPushButton* fit_;
    QWidget* overflowRow_;
};

} // namespace glyptos
