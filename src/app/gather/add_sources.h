// The button that brings sources into the crate: files, a folder, the clipboard, folders that are watched.
#pragma once

#include <QMenu>
#include <QPushButton>

namespace glyptos {

class CrateService;

class AddSources : public QPushButton {
    Q_OBJECT
  public:
    explicit AddSources(CrateService& crate, QWidget* parent = nullptr);
    /// Puts a picture on the clipboard into the crate. False when there is none.
    bool paste();

  Q_SIGNALS:
    void told(const QString& sentence);

  private:
    void askFiles();
    void askFolder();
    void fillWatched(QMenu* menu);

    CrateService& crate_;
};

} // namespace glyptos
