// A real window for tests: opened on a file, waited for, clicked, dragged and looked at.
#pragma once

#include "app/widgets/theme.h"
#include "app/window/main_window.h"
#include "support/pictures.h"

#include <QAction>
#include <QApplication>
#include <QColor>
#include <QComboBox>
#include <QCoreApplication>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QMimeData>
#include <QMouseEvent>
#include <QSettings>
#include <QStandardPaths>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <QUrl>
#include <QWidget>

namespace glyptos::test {

/// The window with its engine, 1280 × 800, on a new release of a digital cover and a sleeve; settings are
/// apart from the user's and empty.
class TestWindow {
  public:
    TestWindow() {
        QStandardPaths::setTestModeEnabled(true);
        qputenv("XDG_CACHE_HOME", (crateHome.path() + QStringLiteral("/cache")).toUtf8());
        qputenv("XDG_DATA_HOME", (crateHome.path() + QStringLiteral("/data")).toUtf8());
        qputenv("XDG_STATE_HOME", stateFolder().toUtf8());
        QCoreApplication::setOrganizationName(QStringLiteral("glyptos-tests"));
        QSettings().clear();
        applyTheme(*qobject_cast<QApplication*>(QCoreApplication::instance()), false);
        engine = std::make_unique<Engine>();
        window = std::make_unique<MainWindow>(*engine, shippedForms().value(),
                                              crateHome.path().toStdString() + "/crate");
        window->resize(1280, 800);
        window->show();
        window->newRelease();
        settle();
    }

    /// Until nothing is being rendered, decoded, opened, saved or brought in, and has not been for a while,
    /// since finished work reaches the window as an event and may ask for more.
    bool settle(const std::function<bool()>& also = [] { return true; }) {
        int calm = 0;
        const bool done =
            QTest::qWaitFor([&] { return (calm = window->isBusy() || !also() ? 0 : calm + 1) > 4; }, 240000);
        return done;
    }

    Document& document() { return *window->document(); }
    ComposeBench& bench() { return *window->compose()->bench(); }
    StackView& stack() { return *window->compose()->stack(); }
    const Stack& layers() { return stackOf(*document().release(), document().panel()); }
    LayerPtr layer(const std::string& name) {
        for (const LayerPtr& l : layers())
            if (l->name == name) return l;
        return nullptr;
    }
    /// Puts a layer in front and takes it in hand; its id.
    std::string put(const Layer& layer) {
        const Made made = withLayer(document().release(), document().panel(), layer);
        document().editMaking("Put", made);
        settle();
        return made.id;
    }
    /// A box of one colour on the panel.
    std::string putBox(const char* name, const Rect& box, const Rgba& colour) {
        ShapeContent shape;
        shape.width = box.w, shape.height = box.h;
        shape.fill = colour;
        Layer layer;
        layer.name = name;
        layer.content = shape;
        layer.placement.position = box.centre();
        return put(layer);
    }
    LayerPtr find(const std::string& id) { return findLayer(layers(), id); }
    Rect bounds(const std::string& id) {
        return frameOf(*find(id), *document().release(), bench().panel()->withBleed(),
                       engine->renderer.paragraphs())
            .bounds();
    }
    std::string piece(const std::string& form) {
        for (const PiecePtr& p : document().release()->pieces)
            if (p->form->id == form) return p->id;
        return {};
    }

    /// What the window says at its foot.
    QString notice() {
        const auto* label = find<QLabel>("Message");
        return label ? label->text() : QString();
    }
    /// Gives the release that title, as a step.
    void title(const std::string& words) {
        Brief brief = document().release()->brief;
        brief.title = words;
        document().edit("Title", withBrief(document().release(), brief));
    }

    /// Where a point of the panel stands on the bench.
    QPoint on(Vec2 panel) {
        const Vec2 v = bench().toView().map(panel);
        return {int(std::lround(v.x)), int(std::lround(v.y))};
    }
    /// Colour that the bench shows at a point of the panel.
    QColor seen(Vec2 panel) { return bench().grab().toImage().pixelColor(on(panel)); }

    void drag(QWidget& widget, QPoint from, QPoint to, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        QTest::mousePress(&widget, Qt::LeftButton, keys, from);
        const int steps = 6;
        for (int i = 1; i <= steps; ++i) {
            const QPointF at = QPointF(from) + QPointF(to - from) * i / steps;
            QMouseEvent move(QEvent::MouseMove, at, widget.mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                             keys);
            QApplication::sendEvent(&widget, &move);
        }
        QTest::mouseRelease(&widget, Qt::LeftButton, keys, to);
        settle();
    }

    /// As a file manager drops files.
    void drop(QWidget& widget, const QStringList& files, QPoint at) {
        auto* data = new QMimeData;
        QList<QUrl> urls;
        for (const QString& f : files) urls << QUrl::fromLocalFile(f);
        data->setUrls(urls);
        QDragEnterEvent enter(at, Qt::CopyAction, data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&widget, &enter);
        QDropEvent drop(at, Qt::CopyAction, data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&widget, &drop);
        settle();
        delete data;
    }

    /// The field, box or button with that accessible name that can be seen.
    template <class Widget>
    Widget* find(const QString& name) {
        for (Widget* w : window->findChildren<Widget*>())
            if (w->accessibleName() == name && w->isVisible()) return w;
        return nullptr;
    }
    /// Chooses an item of the box with that accessible name.
    void choose(const QString& box, const QString& item) {
        auto* found = find<QComboBox>(box);
        const int index = found ? found->findText(item) : -1;
        QVERIFY2(index >= 0, qPrintable(box + QStringLiteral(": ") + item));
        found->setCurrentIndex(index);
        Q_EMIT found->activated(index);
        settle();
    }
    /// Types a figure into the field with that accessible name.
    void type(const QString& field, const QString& figure) {
        auto* found = find<QLineEdit>(field);
        QVERIFY2(found, qPrintable(field));
        found->setFocus();
        found->selectAll();
        QTest::keyClicks(found, figure);
        QTest::keyClick(found, Qt::Key_Return);
        settle();
    }
    /// The menu's action with that text.
    QAction* action(const QString& text) {
        for (QAction* a : window->menuBar()->findChildren<QAction*>())
            if (a->text() == text) return a;
        return nullptr;
    }

    /// Where journals go: a folder of its own, unless somebody has set another.
    QString stateFolder() const {
        return qEnvironmentVariableIsSet("GLYPTOS_TEST_STATE") ? qEnvironmentVariable("GLYPTOS_TEST_STATE")
                                                               : crateHome.path() + QStringLiteral("/state");
    }

    QTemporaryDir crateHome;
    std::unique_ptr<Engine> engine;
    std::unique_ptr<MainWindow> window;
};

/// Types any letters, also those that no key of a plain keyboard has.
inline void typeText(QWidget* widget, const QString& text) {
    for (const QChar c : text) {
        QKeyEvent press(QEvent::KeyPress, 0, Qt::NoModifier, c),
            release(QEvent::KeyRelease, 0, Qt::NoModifier, c);
        QApplication::sendEvent(widget, &press);
        QApplication::sendEvent(widget, &release);
    }
}

/// Types a figure or words into a field, replacing what is there, and leaves it with Return.
inline void enter(QLineEdit* field, const QString& text) {
    field->setFocus();
    field->selectAll();
    typeText(field, text);
    QTest::keyClick(field, Qt::Key_Return);
}

} // namespace glyptos::test
