// Between the text of the core, which is UTF-8, and that of the window.
#pragma once

#include <QMimeData>
#include <QString>
#include <QStringList>
#include <QUrl>
#include <string>

namespace glyptos {

inline QString q(const std::string& text) {
    return QString::fromStdString(text);
}

/// Files of this machine that are dragged, dropped or pasted; others are left out.
inline QStringList localFiles(const QMimeData& data) {
    QStringList out;
    for (const QUrl& url : data.urls())
        if (url.isLocalFile()) out << url.toLocalFile();
    return out;
}

} // namespace glyptos
