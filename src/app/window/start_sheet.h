// A new release from nothing: which pieces are wanted, and what they start from.
#pragma once

#include "app/widgets/miniature.h"
#include "file/project.h"
#include "file/starts.h"

#include <QCheckBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>

namespace glyptos {

class StartSheet : public QDialog {
    Q_OBJECT
  public:
    StartSheet(RenderService& service, const FormList& forms, QWidget* parent);
    /// A release of the pieces chosen, each with the chosen composition where it suits.
    ReleasePtr release() const;
    const std::vector<StartingComposition>& starts() const { return starts_; }

  Q_SIGNALS:
    void begun(const glyptos::ReleasePtr& release);

  private:
    QWidget* makePieces();
    QWidget* makeStarts();
    void askMiniatures();
    Brief typed() const;
    void refresh();

    RenderService& service_;
    FormList forms_;
    std::vector<StartingComposition> starts_;
    std::vector<std::pair<QCheckBox*, std::shared_ptr<const Form>>> pieces_;
    std::vector<QToolButton*> buttons_; ///< the first starts from nothing
    std::vector<std::unique_ptr<Miniature>> miniatures_;
    QTimer soon_;
    QLineEdit *artist_, *title_;
    QLabel* note_;
    QPushButton* begin_;
    size_t chosen_ = 0;
};

} // namespace glyptos
