#include "file/xdg_folders.h"

#include "support/register.h"

using namespace glyptos;

class XdgFoldersTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void setAndLeftOut() {
        const QByteArray home = qgetenv("HOME"), data = qgetenv("XDG_DATA_HOME"),
                         cache = qgetenv("XDG_CACHE_HOME");
        const auto back = qScopeGuard(
            [&] { qputenv("HOME", home), qputenv("XDG_DATA_HOME", data), qputenv("XDG_CACHE_HOME", cache); });
        qputenv("HOME", "/home/ása");
        qputenv("XDG_DATA_HOME", "/mnt/all my data");
        qputenv("XDG_CACHE_HOME", "/mnt/cache");
        QCOMPARE(dataHome().string(), std::string("/mnt/all my data"));
        QCOMPARE(cacheHome().string(), std::string("/mnt/cache"));
        qputenv("XDG_DATA_HOME", "not/absolute"); // is to be left out of account
        qunsetenv("XDG_CACHE_HOME");
        QCOMPARE(dataHome().string(), std::string("/home/ása/.local/share"));
        QCOMPARE(cacheHome().string(), std::string("/home/ása/.cache"));
    }
};

GLYPTOS_TEST(XdgFoldersTest)
#include "xdg_folders_test.moc"
