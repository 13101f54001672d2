// The track list of the brief as words: which facts of which tracks, in which order and in which styles.
#pragma once

#include "app/figures/layer_section.h"

#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>

namespace glyptos {

class TracksSection : public LayerSection {
    Q_OBJECT
  public:
    explicit TracksSection(Engine& engine);

  Q_SIGNALS:
    /// The words themselves are wanted: they are those of the brief.
    void briefAsked();

  protected:
    bool fits(const Layer& layer) const override;
    void refresh(const Layer& layer) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void changeList(const QString& name, const std::function<void(TrackListing&)>& edit);
    QWidget* makeFacts();
    void makeTracks(QFormLayout* form);
    void makeStyles(QFormLayout* form);
    void takeFacts();
    void moveFact(int by);
    void fillSides();
    void setFree();
    void refreshFacts(const TrackListing& listing);
    void refreshStyles(const TrackListing& listing);

    QListWidget* facts_;
    QComboBox *numbers_, *performers_;
    QToolButton* sides_;
    NumberField *first_, *last_;
    QCheckBox* headings_;
    QLineEdit* word_;
    std::array<QComboBox*, 3> styles_; ///< of figures, performers and headings
    QLabel* empty_;
};

} // namespace glyptos
