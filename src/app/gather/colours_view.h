// The release's palette: its colours, what goes with them, and how well two of them can be read on each
// other.
#pragma once

#include "app/session/document.h"
#include "app/widgets/colour_chip.h"
#include "app/widgets/miniature.h"
#include "color/palette.h"
#include "color/palette_text.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

namespace glyptos {

class Engine;

/// Two colours laid on each other, with their contrast in figures.
class ContrastCard : public QWidget {
    Q_OBJECT
  public:
    explicit ContrastCard(QWidget* parent = nullptr);
    void show(const QColor& words, const QColor& ground);
    QString says() const;
    QSize sizeHint() const override { return {260, 96}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    QColor words_, ground_;
};

class ColoursView : public QWidget {
    Q_OBJECT
  public:
    ColoursView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    /// Puts colours into the palette, as one step.
    void take(const std::vector<NamedColour>& colours);
    /// The swatch in hand, and the one it is compared with.
    const std::string& current() const { return current_; }
    void setCurrent(const std::string& swatch);
    void readFrom(const QString& file);
    void writeTo(const QString& file);
    /// The palette of all pieces as they look, once they have been rendered.
    void takeFromSet();

  Q_SIGNALS:
    void told(const QString& sentence);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    struct Row {
        std::string id;
        ColourChip* chip;
        QLineEdit* name;
        QLabel* says;
        QComboBox* plate;
        std::vector<QWidget*> all;
    };
    QWidget* makeList();
    QWidget* makeSide();
    void addRow();
    void refresh();
    void refreshRow(Row& row, const Swatch& swatch);
    void refreshSide();
    void changeCurrent(bool anew);
    void askRead();
    void askWrite();
    const Swatch* swatch(const std::string& id) const;

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    QGridLayout* list_;
    std::vector<Row> rows_;
    std::string current_, against_;
    QLabel *empty_, *sideTitle_;
    QWidget *side_, *harmonies_, *others_;
    ContrastCard* contrast_;
    std::vector<std::unique_ptr<Miniature>> counting_;
};

} // namespace glyptos
