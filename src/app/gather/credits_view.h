// The ledger: whose pictures the release is made of, on which pieces, and what is to be said of them.
#pragma once

#include "app/session/document.h"
#include "release/credits.h"

#include <QAbstractTableModel>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableView>
#include <QWidget>

namespace glyptos {

class CreditsModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    enum Column { Title, Maker, Licence, Line, On };
    using QAbstractTableModel::QAbstractTableModel;
    void show(const Release& release);
    const std::vector<CreditRow>& rows() const { return rows_; }
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& = {}) const override { return On + 1; }
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

  Q_SIGNALS:
    void factsEdited(const std::string& source, const glyptos::SourceFacts& facts);

  private:
    std::vector<CreditRow> rows_;
};

class CreditsView : public QWidget {
    Q_OBJECT
  public:
    explicit CreditsView(QWidget* parent = nullptr);
    void setDocument(Document* document);
    CreditsModel* model() const { return model_; }
    void writeTo(const QString& file);

  Q_SIGNALS:
    void factsEdited(const std::string& source, const glyptos::SourceFacts& facts);
    void told(const QString& sentence);
    void placed(); ///< the text block is on a piece

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void refresh();
    void putOnPiece();
    void askWrite();
    Document* document_ = nullptr;
    CreditsModel* model_;
    QTableView* table_;
    QPlainTextEdit* text_;
    QLabel* says_;
    QPushButton *put_, *write_;
};

} // namespace glyptos
