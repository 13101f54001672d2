// The Brief step: facts and track list at the left, a live sheet of all pieces at the right.
#pragma once

#include "app/brief/piece_sheet.h"
#include "app/brief/track_model.h"
#include "app/brief/tracks_sheet.h"

#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTableView>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

class Engine;

class BriefView : public QWidget {
    Q_OBJECT
  public:
    BriefView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);
    QTableView* trackTable() const { return table_; }
    /// Opens the sheet that brings track lists in.
    TracksSheet* askTracks();

  Q_SIGNALS:
    void pieceChosen(const std::string& piece);

  private:
    QLineEdit* field(const QString& label, std::string Brief::*member);
    void makeFacts(QFormLayout* form);
    void makeTracks(QVBoxLayout* column);
    void edit(const QString& what, const std::function<void(Brief&)>& change);
    void takeTracks(const TrackList& list, bool replace);
    void refresh();
    void refreshTimes(const Brief& brief);
    bool eventFilter(QObject* watched, QEvent* event) override;
    Document* document_ = nullptr;
    std::vector<std::pair<QLineEdit*, std::string Brief::*>> fields_;
    TrackModel* tracks_;
    QTableView* table_;
    QLineEdit* mood_;
    QPlainTextEdit* notes_;
    QLabel *totals_, *cautions_;
    PieceSheet* sheet_;
};

} // namespace glyptos
