#include "app/brief/track_model.h"

#include "release/edits/edits.h"
#include "release/fields.h"

namespace glyptos {
namespace {

enum Column { Number, Side, Title, Performer, Duration };

} // namespace

void TrackModel::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    const auto reset = [this] {
        // A reset closes the editor in hand, so cells that only change are told apart from rows that come and
        // go.
        if (int(tracks().size()) == shownRows_) {
            if (shownRows_ > 0) Q_EMIT dataChanged(index(0, 0), index(shownRows_ - 1, Duration));
            return;
        }
        beginResetModel();
        shownRows_ = int(tracks().size());
        endResetModel();
    };
    connect(document_, &Document::changed, this, reset);
    beginResetModel();
    shownRows_ = int(tracks().size());
    endResetModel();
}

int TrackModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : shownRows_;
}

QVariant TrackModel::data(const QModelIndex& index, int role) const {
    if (!document_ || index.row() >= int(tracks().size())) return {};
    const Track& track = tracks()[size_t(index.row())];
    if (role == Qt::TextAlignmentRole && index.column() == Duration)
        return int(Qt::AlignRight | Qt::AlignVCenter);
    if (role != Qt::DisplayRole && role != Qt::EditRole) return {};
    switch (index.column()) {
    case Number:
        return QString::fromStdString(trackNumber(tracks(), size_t(index.row())));
    case Side:
        return QString::fromStdString(track.side);
    case Title:
        return QString::fromStdString(track.title);
    case Performer:
        return QString::fromStdString(track.performer);
    default:
        return QString::fromStdString(durationText(track.seconds));
    }
}

QVariant TrackModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
    const QString names[] = {tr("No."), tr("Side"), tr("Title"), tr("Performer"), tr("Length")};
    return names[section];
}

Qt::ItemFlags TrackModel::flags(const QModelIndex& index) const {
    return QAbstractTableModel::flags(index) |
           (index.column() == Number ? Qt::NoItemFlags : Qt::ItemIsEditable);
}

bool TrackModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || index.row() >= int(tracks().size())) return false;
    const QString text = value.toString().trimmed();
    const size_t row = size_t(index.row());
    if (index.column() == Duration) {
        const auto seconds = text.isEmpty() ? std::optional(0) : durationFromText(text.toStdString());
        if (!seconds) {
            Q_EMIT notUnderstood(
                tr("“%1” is not a length; write minutes and seconds, as in 4:08. The length is as it was.")
                    .arg(text));
            return false;
        }
        edit(tr("Length of track"), [&](auto& all) { all[row].seconds = *seconds; });
    } else if (index.column() == Side) {
        edit(tr("Side of track"), [&](auto& all) { all[row].side = text.toUpper().toStdString(); });
    } else if (index.column() == Performer) {
        edit(tr("Performer of track"), [&](auto& all) { all[row].performer = text.toStdString(); });
    } else {
        edit(tr("Title of track"), [&](auto& all) { all[row].title = text.toStdString(); });
    }
    return true;
}

void TrackModel::edit(const QString& name, const std::function<void(std::vector<Track>&)>& change) {
    Brief brief = document_->release()->brief;
    change(brief.tracks);
    document_->edit(name, withBrief(document_->release(), std::move(brief)));
}

void TrackModel::addTrack() {
    edit(tr("Add a track"), [](auto& all) { all.push_back({all.empty() ? "A" : all.back().side, "", 0}); });
}

void TrackModel::removeTrack(int row) {
    if (row < 0 || row >= int(tracks().size())) return;
    edit(tr("Remove a track"), [&](auto& all) { all.erase(all.begin() + row); });
}

void TrackModel::moveTrack(int row, int by) {
    const int to = row + by;
    if (row < 0 || to < 0 || row >= int(tracks().size()) || to >= int(tracks().size())) return;
    edit(tr("Move a track"), [&](auto& all) { std::swap(all[size_t(row)], all[size_t(to)]); });
}

} // namespace glyptos
