// The looks that there are, read, kept and written off the window's thread.
#pragma once

#include "file/looks.h"

#include <QObject>

namespace glyptos {

class FontLibrary;

class LookShelf : public QObject {
    Q_OBJECT
  public:
    explicit LookShelf(const FontLibrary& fonts, QObject* parent = nullptr);
    /// Those that come with the application first; none before they are read. One of grades alone is one look
    /// table, so that its strength is one figure.
    const std::vector<NamedLook>& looks() const { return looks_; }
    /// Reads them, when that was not done yet.
    void read();
    void keep(NamedLook look);
    void remove(const NamedLook& look);

  Q_SIGNALS:
    void changed();
    void told(const QString& sentence); ///< what went wrong

  private:
    void readAgain();
    const FontLibrary& fonts_;
    std::vector<NamedLook> looks_;
    bool isRead_ = false;
};

} // namespace glyptos
