// Many sources as small pictures in rows. Only what can be seen is painted and asked for.
#pragma once

#include "app/session/crate_service.h"
#include "app/session/thumbnail_store.h"

#include <QAbstractScrollArea>
#include <QFont>
#include <map>
#include <set>

namespace glyptos {

class SourceGrid : public QAbstractScrollArea {
    Q_OBJECT
  public:
    SourceGrid(CrateService& service, ThumbnailStore& thumbnails, QWidget* parent = nullptr);

    /// Shows these; what is still among them stays chosen.
    void setEntries(std::vector<EntryPtr> entries);
    const std::vector<EntryPtr>& entries() const { return entries_; }
    /// Marks sources that the release shows.
    void setUsed(std::set<std::string> used);
    /// What is said where nothing is to be shown.
    void setEmptyText(const QString& text);
    /// Whether what is chosen may be dragged out as files.
    void setDragging(bool on) { dragging_ = on; }

    /// In the order shown. current() is the one whose details show.
    std::vector<EntryPtr> chosen() const;
    EntryPtr current() const;
    void choose(const std::string& id);
    /// Where a cell is in the viewport; empty when it is out of sight.
    QRect cellOf(const std::string& id) const;
    int columns() const;

  Q_SIGNALS:
    void chosenChanged();
    void activated(); ///< double click or Return on current()
    void menuAsked(const QPoint& globalPosition);

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    QRect cell(size_t index) const;
    std::optional<size_t> at(QPoint p) const;
    void setCurrent(size_t index, Qt::KeyboardModifiers keys);
    /// What stands under a picture, as it was cut to the width of a cell.
    struct Words {
        EntryPtr entry;
        bool used = false;
        QString name, second;
    };
    const Words& wordsOf(const EntryPtr& entry, int width);
    void paintCell(QPainter& painter, const EntryPtr& entry, const QRect& cell);
    void refreshRange();
    void reveal(size_t index);
    void startDrag();

    CrateService& service_;
    ThumbnailStore& thumbnails_;
    QFont nameFont_, secondFont_;
    std::map<std::string, Words> words_;
    std::vector<EntryPtr> entries_;
    std::set<std::string> chosen_, used_;
    std::string current_;
    QString emptyText_;
    QPoint pressed_;
    bool dragging_ = true, mayDrag_ = false, chooseOnRelease_ = false;
};

} // namespace glyptos
