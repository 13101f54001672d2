// Releases with work that was not saved: what each is, to be taken up or left.
#pragma once

#include "file/journal/journals.h"

#include <QDialog>
#include <QListWidget>
#include <QPushButton>

namespace glyptos {

class FoundSheet : public QDialog {
    Q_OBJECT
  public:
    explicit FoundSheet(const std::vector<JournalSummary>& lost, QWidget* parent = nullptr);
    QListWidget* list() const { return list_; }

  Q_SIGNALS:
    void takeUpAsked(const std::filesystem::path& journal);
    /// It stays for a while, and is not asked about at the next start.
    void leftOne(const std::filesystem::path& journal);
    void discardAsked(const std::filesystem::path& journal);

  public Q_SLOTS:
    void reject() override;

  private:
    void addRow(const JournalSummary& journal);
    void takeUp();
    void discard();
    std::vector<JournalSummary> lost_;
    QListWidget* list_;
    QPushButton *take_, *discard_;
};

} // namespace glyptos
