// Beside the form being changed: its parts, the figures of the one in hand, and what can be added to it.
#pragma once

#include "app/session/document.h"
#include "form/form_edits.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <array>

namespace glyptos {

class FormSide : public QWidget {
    Q_OBJECT
  public:
    explicit FormSide(QWidget* parent = nullptr);
    /// Shows the form with a part of it in hand, or none.
    void show(const Form& form, const std::vector<FormPart>& parts, const std::optional<PartRef>& inHand);
    /// What there is of a printer's sheet.
    void setSheetNote(const QString& note, bool canTrace);
    /// Which page of the printer's file lies under the form, from 1; with one page there is nothing to
    /// choose.
    void setPages(int page, int pages);
    QComboBox* sheets() const { return sheets_; }

  Q_SIGNALS:
    /// The form changed by hand; `name` is what the step is called.
    void changed(const QString& name, const Form& form);
    void partAsked(PartKind kind);
    void chosen(const std::optional<PartRef>& part);
    void sheetFileAsked();
    void pageAsked(int page); ///< from 1
    void traceAsked();
    void measureToggled(bool on);
    void keepAsked();  ///< for new pieces
    void shareAsked(); ///< as a file of its own

  private:
    QWidget* makeAdding();
    QWidget* makeFigures();
    QWidget* makeSheet();
    void change(const QString& name, const std::function<void(Form&)>& edit);
    void showKind();

    Form form_;
    std::optional<PartRef> inHand_;
    QComboBox *sheets_, *parts_, *turn_, *fold_, *zone_;
    QLineEdit* name_;
    std::array<QLineEdit*, 4> figures_{};
    std::array<QLabel*, 4> labels_{};
    QLineEdit *angle_, *order_;
    QFormLayout* rows_;
    QWidget* inHandBox_;
    QLabel *formName_, *sheetNote_;
    QPushButton *trace_, *measure_, *remove_;
    QWidget* pageRow_;
    QSpinBox* page_;
    QLabel* pages_;
};

} // namespace glyptos
