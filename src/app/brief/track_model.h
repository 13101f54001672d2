// The tracks of the brief as a table: side, title, performer, duration.
#pragma once

#include "app/session/document.h"

#include <QAbstractTableModel>

namespace glyptos {

class TrackModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    using QAbstractTableModel::QAbstractTableModel;
    void setDocument(Document* document);
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex&) const override { return 5; }
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

} // namespace glyptos
