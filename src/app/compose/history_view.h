// The named steps of the session with miniatures: a click goes there. Branches that were left can be kept as
// takes.
#pragma once

#include "app/widgets/miniature.h"

#include "release/history/history.h"

#include <QAbstractListModel>
#include <QListView>
#include <QPushButton>

namespace glyptos {

class Document;

class Engine;

/// One row for each step, oldest first, and one for each left branch after the step it left from.
class HistoryModel : public QAbstractListModel {
    Q_OBJECT
  public:
    struct Row {
        size_t step = 0;            ///< of the history, or where the branch left
        std::optional<size_t> left; ///< index of the left branch
    };
    explicit HistoryModel(RenderService& service, QObject* parent = nullptr)
        : QAbstractListModel(parent)
        , service_(service) {}
    void setDocument(Document* document);
    void refresh();
    /// Renders the miniatures anew: pictures have become better.
    void renew();
    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    const Row& row(int i) const { return rows_[size_t(i)]; }
    /// The row of the step that is shown.
    int current() const;

  private:
    const HistoryStep& stepOf(const Row& row) const;
    /// Rendered once it is asked for, as rows come into sight.
    QPixmap miniature(const Row& row) const;

    RenderService& service_;
    Document* document_ = nullptr;
    std::vector<Row> rows_;
    mutable std::map<std::pair<ReleasePtr, std::string>, std::unique_ptr<Miniature>>
        miniatures_; ///< holds what it shows
};

class HistoryView : public QWidget {
    Q_OBJECT
  public:
    HistoryView(Engine& engine, RenderService& service);
    void setDocument(Document* document);
    QListView* list() const { return list_; }
    QPushButton* keep() const { return keep_; }

  private:
    void refresh();
    void go(const QModelIndex& index);
    void keepBranch();

    Document* document_ = nullptr;
    HistoryModel* model_;
    QListView* list_;
    QPushButton* keep_;
};

} // namespace glyptos
