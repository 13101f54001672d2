// What the tests of the hands that select, mask, cut out and mend share: a window on an empty panel with a
// ground.
#pragma once

#include "support/window.h"

#include "file/pictures/picture_writer.h"
#include "render/painting.h"

#include <QComboBox>
#include <QMenu>
#include <QSignalSpy>
#include <QToolButton>

namespace glyptos::test {

class HandworkTest : public QObject {
  protected:
    std::unique_ptr<TestWindow> t;
    QTemporaryDir folder;

    const QColor ground{26, 26, 51}, red{204, 26, 26};

    void put(const std::string& name, const Picture& picture) {
        const auto file = std::filesystem::path(folder.path().toStdString()) / (name + ".png");
        write(file, encodePng(picture, {72}).value());
        t->drop(t->bench(), {QString::fromStdString(file.string())}, t->on({1500, 1500}));
    }
    void choose(const QString& name, int index) {
        auto* box = t->find<QComboBox>(name);
        QVERIFY(box);
        box->setCurrentIndex(index);
        Q_EMIT box->activated(index);
    }
    /// A command of one of the menus in the option bar.
    bool choose(const QString& button, const QString& command) {
        for (QToolButton* b : t->window->findChildren<QToolButton*>()) {
            if (!b->isVisible() || !b->menu() || !b->text().startsWith(button)) continue;
            Q_EMIT b->menu()->aboutToShow();
            for (QAction* a : b->menu()->findChildren<QAction*>())
                if (a->text().startsWith(command) && a->isEnabled()) {
                    a->trigger();
                    t->settle();
                    return true;
                }
        }
        return false;
    }
    void click(const QString& button) {
        for (QToolButton* b : t->window->findChildren<QToolButton*>())
            if (b->isVisible() && b->text() == button) b->click();
        t->settle();
    }
    void setSize(const QString& text) {
        auto* field = t->find<QLineEdit>("Size of the brush");
        QVERIFY(field);
        enter(field, text);
    }
    /// Saved, and the file opened.
    void saveAndOpen() {
        const auto file = std::filesystem::path(folder.path().toStdString()) / "kept.glyptos";
        t->window->saveTo(QString::fromStdString(file.string()));
        t->settle();
        QSignalSpy opened(t->window.get(), &MainWindow::opened);
        t->window->openFile(QString::fromStdString(file.string()));
        QVERIFY(t->settle([&] { return opened.count() > 0; }));
        t->window->showStep(Step::Compose);
        t->settle();
        leaveBench();
    }
    /// The pointer goes where its ring hides nothing.
    void leaveBench() {
        QMouseEvent move(QEvent::MouseMove, QPointF(t->on({2900, 100})),
                         t->bench().mapToGlobal(QPointF(t->on({2900, 100}))), Qt::NoButton, Qt::NoButton,
                         Qt::NoModifier);
        QApplication::sendEvent(&t->bench(), &move);
    }
    const PaintedMask* painted(const std::string& id) {
        const LayerPtr layer = t->find(id);
        return layer && layer->mask ? std::get_if<PaintedMask>(&layer->mask->form) : nullptr;
    }
    std::optional<Selection> selection() {
        return selectionOf(*t->document().release(), t->document().panel());
    }
    /// 0…255 at a point of the panel.
    int selected(Vec2 at) {
        const auto now = selection();
        return now ? valuesOf(*now->tiles, {int(at.x), int(at.y), 1, 1}).at(0, 0) : 0;
    }

    void begin() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->bench().setSnap({false, false});
        Layer fill;
        fill.name = "Ground";
        fill.content = FillContent{Rgba{0.1f, 0.1f, 0.2f, 1}};
        t->put(fill);
    }
};

} // namespace glyptos::test
