// What a search can be narrowed by, each with how many there would be.
#pragma once

#include "crate/shelf.h"

#include <QAbstractButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

/// One value to narrow by: its name at the left, how many there are at the right.
class FacetRow : public QAbstractButton {
    Q_OBJECT
  public:
    explicit FacetRow(const QString& name, QWidget* parent = nullptr);
    void setCount(int count);
    QSize sizeHint() const override { return {140, 23}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    int count_ = 0;
};

class FacetPanel : public QWidget {
    Q_OBJECT
  public:
    /// `ofRelease`: also by what the release uses.
    explicit FacetPanel(bool ofRelease, QWidget* parent = nullptr);
    /// Facets of the query; words, order and likeness are the caller's.
    const CrateQuery& query() const { return query_; }
    void setCounts(const FacetCounts& counts);
    void clear();

  Q_SIGNALS:
    void changed();

  private:
    struct Row {
        FacetRow* button;
        std::function<int(const FacetCounts&)> count;
        std::function<bool()> isOn;
    };
    QAbstractButton* row(QVBoxLayout* column, const QString& name,
                         std::function<int(const FacetCounts&)> count, std::function<bool()> isOn,
                         std::function<void(bool)> set);
    void makeColours(QVBoxLayout* column);
    void refreshLicences(const FacetCounts& counts);
    void refresh(const FacetCounts& counts);

    CrateQuery query_;
    std::vector<Row> rows_;
    std::vector<QToolButton*> chips_;
    QVBoxLayout* licences_;
    QWidget* licenceHead_;
    QToolButton* clear_;
    std::vector<std::string> licenceNames_;
};

} // namespace glyptos
