// The words in hand in every typeface: found by what a face is, tried on the piece, taken by a click.
#pragma once

#include "app/letter/specimen_list.h"
#include "release/release.h"
#include "type/faces/face_catalogue.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFutureWatcher>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <QToolButton>

namespace glyptos {

class Document;
class Engine;

/// Stands beside the bench while it is open.
class SpecimenSheet : public QWidget {
    Q_OBJECT
  public:
    explicit SpecimenSheet(Engine& engine, QWidget* parent = nullptr);
    void setDocument(Document* document);
    /// Opens when one text layer is in hand, and not locked.
    void open();
    /// Opens with that family in hand, once it has been measured; false when there are no words in hand.
    bool openAt(const std::string& family);
    void leave();
    SpecimenList* list() const { return list_; }
    /// Whether all faces have been measured.
    bool isMeasured() const { return isUpToDate_ && !isMeasuring_; }

  Q_SIGNALS:
    void measured();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// As it is kept, whatever is tried.
    LayerPtr layer() const;
    QWidget* makeHead();
    QWidget* makeSorts();
    QWidget* makeRest();
    void measure();
    void takeAwaited();
    void takeOut();
    void refreshTakeOut();
    FaceFilter filter() const;
    void refresh();
    void refreshWords();
    std::vector<Specimen> allThatPass() const;
    std::vector<Specimen> pairs() const;
    Specimen specimenOf(const FaceEntry& entry, const QString& caption) const;
    void showTried(int row);
    void take(int row);
    void toggleStar(int row);
    ReleasePtr withFace(const Specimen& specimen) const;

    Engine& engine_;
    Document* document_ = nullptr;
    QLabel *title_, *count_;
    QLineEdit* name_;
    std::vector<std::pair<FaceSort, QToolButton*>> sorts_;
    QCheckBox *allLetters_, *italic_, *starredOnly_;
    QComboBox *weight_, *xHeight_, *order_;
    SpecimenList* list_;
    QToolButton* takeOut_;
    std::vector<FaceEntry> entries_;
    bool isMeasuring_ = false;
    bool isUpToDate_ = false; ///< `entries_` are of the faces that are at hand now
    std::string awaited_;     ///< family to take in hand when all are measured
    QFutureWatcher<Result<std::vector<FaceEntry>>> measuring_;
    QStringList starred_, recent_;
    std::string words_;
    QPointer<QWidget> before_;
};

} // namespace glyptos
