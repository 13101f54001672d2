// The Brief step: facts and track list at the left, a live sheet of all pieces at the right.
#pragma once

#include "app/document.h"
#include "app/miniature.h"
#include "app/tracks_sheet.h"

#include <QAbstractTableModel>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTableView>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

/// The tracks of the brief as a table: side, title, duration.
class TrackModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    using QAbstractTableModel::QAbstractTableModel;
    void setDocument(Document* document);
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex&) const override { return 4; }
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    void addTrack();
    void removeTrack(int row);
    void moveTrack(int row, int by);

  Q_SIGNALS:
    void notUnderstood(const QString& sentence);

  private:
    const std::vector<Track>& tracks() const { return document_->shown()->brief.tracks; }
    void edit(const QString& name, const std::function<void(std::vector<Track>&)>& change);
    Document* document_ = nullptr;
    int shownRows_ = 0;
};

/// All pieces at true relative scale on one sheet.
class PieceSheet : public QWidget {
    Q_OBJECT
  public:
    PieceSheet(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    void setDocument(Document* document);

  Q_SIGNALS:
    void pieceChosen(const std::string& piece);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

  private:
    struct Place {
        PiecePtr piece;
        QRect area;
        double pxPerUnit = 1;
        std::unique_ptr<Miniature> miniature;
    };
    void arrange();
    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::vector<Place> places_;
};

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
