// What is known of the source in hand, its colours, and its relatives.
#pragma once

#include "app/session/crate_service.h"
#include "app/session/thumbnail_store.h"
#include "color/palette_text.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSlider>
#include <QWidget>

namespace glyptos {

class SourceDetails : public QWidget {
    Q_OBJECT
  public:
    SourceDetails(CrateService& service, ThumbnailStore& thumbnails, QWidget* parent = nullptr);
    /// The sources in hand: facts of the first, colours of all. `fromDrawer`: of the agency, with the terms
    /// of its licence; nothing can be changed.
    void show(const std::vector<EntryPtr>& entries, bool fromDrawer, const AgencyLicence* terms);
    /// The name of the piece that placing goes to; empty: there is none.
    void setPiece(const QString& name);
    void setLike(bool on);
    LikenessWeights weights() const;

  Q_SIGNALS:
    void factsEdited(const std::string& id, const glyptos::SourceFacts& facts);
    void coloursTaken(const std::vector<glyptos::NamedColour>& colours);
    void likeAsked(bool on);
    void weightsChanged();
    void placeAsked();
    void pinAsked();
    void faceAsked(); ///< of words in it
    void takeAsked();
    void removeAsked();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    QLineEdit* line(const QString& label, std::string SourceFacts::*member, QFormLayout* form);
    void makeFacts(QFormLayout* form);
    QWidget* makeLikeness();
    QWidget* makeDeeds();
    void edit(const std::function<void(SourceFacts&)>& change);
    void showFacts();
    void showColours();
    void showPicture();

    CrateService& service_;
    ThumbnailStore& thumbnails_;
    std::vector<EntryPtr> entries_;
    bool fromDrawer_ = false;
    QLabel *picture_, *title_, *size_, *terms_;
    QWidget *facts_, *chips_, *likeness_, *all_, *scroll_;
    std::vector<std::pair<QLineEdit*, std::string SourceFacts::*>> lines_;
    QComboBox* kind_;
    QLineEdit* tags_;
    QPlainTextEdit* notes_;
    QSlider *colour_, *structure_;
    QPushButton *like_, *place_, *pin_, *take_, *remove_, *keepAll_;
};

} // namespace glyptos
