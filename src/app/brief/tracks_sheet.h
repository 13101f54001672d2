// Track lists from elsewhere: looked at as they were understood before they come into the brief.
#pragma once

#include "file/song_feed.h"

#include <QDialog>
#include <QFutureWatcher>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>

namespace glyptos {

class TracksSheet : public QDialog {
    Q_OBJECT
  public:
    explicit TracksSheet(QWidget* parent);
    ~TracksSheet() override;
    /// Reads one list, or the tags of several audio files, in the background.
    void readFiles(const QStringList& files);
    const TrackList& list() const { return list_; }

  Q_SIGNALS:
    /// The list is to replace the brief's, or to go behind it.
    void taken(const glyptos::TrackList& list, bool replace);
    void read(); ///< what readFiles began is done

  private:
    QWidget* makeText();
    QWidget* makeFeed();
    void show(const Result<TrackList>& list);
    void findInFeed();

    TrackList list_;
    SongFeed feed_;
    QPlainTextEdit* text_;
    QLineEdit* search_;
    QListWidget* found_;
    QTableWidget* preview_;
    QLabel* says_;
    QPushButton *replace_, *append_;
    QFutureWatcher<Result<TrackList>> reader_;
};

} // namespace glyptos
