// What a search can be narrowed by, each with how many there would be.
#pragma once

#include "crate/shelf.h"

#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

namespace glyptos {

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
        QToolButton* button;
        QString name;
        std::function<int(const FacetCounts&)> count;
        std::function<bool()> isOn;
    };
    QToolButton* row(QVBoxLayout* column, const QString& name, std::function<int(const FacetCounts&)> count,
                     std::function<bool()> isOn, std::function<void(bool)> set);
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
