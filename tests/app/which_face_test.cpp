// Which face is this: words marked in a photo taken at an angle, found, compared and taken.
#include "app/letter/which_face_sheet.h"
#include "support/register.h"
#include "support/window.h"

#include <QListWidget>
#include <QPainter>
#include <QPushButton>

using namespace glyptos;
using namespace glyptos::test;

namespace {

const QPolygonF kSign{QPointF(120, 150), QPointF(840, 90), QPointF(860, 330), QPointF(100, 300)};

/// A sign with words in that face, seen at an angle, noisy, pale on dark.
QImage photoOf(const FontLibrary& fonts, const char* family, const std::string& words) {
    TextSpec spec;
    spec.text = words, spec.letters.family = family, spec.letters.size = 100;
    const Paragraph set = setParagraph(spec, fonts);
    const int w = int(set.ink.w) + 80, h = int(set.ink.h) + 60;
    const auto cover = coverage(set.outline, Affine::translation(40 - set.ink.x, 30 - set.ink.y), w, h);
    QImage flat(w, h, QImage::Format_RGB32);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const int v = 60 + int(120 * cover.data()[size_t(y) * size_t(w) + size_t(x)]);
            flat.setPixel(x, y, qRgb(v, v, std::max(0, v - 20)));
        }
    QImage out(960, 420, QImage::Format_RGB32);
    out.fill(QColor(60, 60, 40));
    QPainter painter(&out);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    QTransform tilt;
    QTransform::quadToQuad(QPolygonF{{0, 0}, {qreal(w), 0}, {qreal(w), qreal(h)}, {0, qreal(h)}}, kSign,
                           tilt);
    painter.setTransform(tilt);
    painter.drawImage(0, 0, flat);
    painter.end();
    uint32_t seed = 3;
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x) {
            seed = seed * 1664525U + 1013904223U;
            const int n = int(seed >> 24) / 16 - 8;
            const QRgb p = out.pixel(x, y);
            out.setPixel(x, y,
                         qRgb(std::clamp(qRed(p) + n, 0, 255), std::clamp(qGreen(p) + n, 0, 255),
                              std::clamp(qBlue(p) + n, 0, 255)));
        }
    return out;
}

} // namespace

class WhichFaceTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    QString written(const QImage& image, const char* name) {
        const QString file = t->crateHome.filePath(QString::fromLatin1(name));
        image.save(file);
        return file;
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        Layer layer;
        layer.name = "Words";
        TextContent text;
        text.spec.text = "Ours";
        layer.content = text;
        layer.placement.position = {300, 800};
        t->put(layer);
    }
    void cleanup() { t.reset(); }

    void wordsAtAnAngleAreFoundAndTheirFaceTaken() {
        QPointer<WhichFaceSheet> sheet = new WhichFaceSheet(*t->engine, t->document(), {}, t->window.get());
        sheet->open();
        sheet->readFile(written(photoOf(t->engine->fonts, "Bebas Neue", "Lantern"), "sign.png"));
        QTRY_VERIFY_WITH_TIMEOUT(sheet->isSettled() && !sheet->view()->picture().isNull(), 20000);
        // Dragged by hand: a box, then its corners to those of the sign.
        SampleView& view = *sheet->view();
        const double scale = std::min(view.width() / 960.0, view.height() / 420.0);
        const auto on = [&](QPointF p) {
            return QPoint(int(std::lround((view.width() - 960 * scale) / 2 + p.x() * scale)),
                          int(std::lround((view.height() - 420 * scale) / 2 + p.y() * scale)));
        };
        t->drag(view, on({60, 60}), on({900, 360}));
        QCOMPARE(view.corners().size(), 4);
        const QPolygonF box = view.corners();
        for (int i = 0; i < 4; ++i) t->drag(view, on(box[i]), on(kSign[i]));
        for (int i = 0; i < 4; ++i) QVERIFY(QLineF(view.corners()[i], kSign[i]).length() < 3);
        auto* find = [&] {
            for (auto* button : sheet->findChildren<QPushButton*>())
                if (button->text() == QStringLiteral("Find the face")) return button;
            return static_cast<QPushButton*>(nullptr);
        }();
        QVERIFY(find && !find->isEnabled()); // what it says is not known yet
        QTest::keyClicks(sheet->findChild<QLineEdit*>(), "Lantern");
        QVERIFY(find->isEnabled());
        QTest::mouseClick(find, Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(sheet->isSettled(), 30000);
        auto* found = sheet->findChild<QListWidget*>();
        QVERIFY(found->count() >= 3);
        QVERIFY2(found->item(0)->text().contains(QStringLiteral("Bebas Neue")),
                 qPrintable(found->item(0)->text()));
        // The letters lie over those of the photo, in a colour that it does not have.
        const QImage seen = view.grab().toImage();
        const QColor fault = theme().fault;
        int over = 0;
        for (int y = on(kSign[0]).y(); y < on(kSign[2]).y(); ++y)
            for (int x = on(kSign[3]).x(); x < on(kSign[2]).x(); ++x) {
                const QColor c = seen.pixelColor(x, y);
                over += c.red() > c.blue() + 60 && std::abs(c.red() - fault.red()) < 110;
            }
        QVERIFY2(over > 500, qPrintable(QString::number(over)));
        for (auto* button : sheet->findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("Set the words in hand in it")) button->click();
        t->settle();
        QCOMPARE(t->layers()[0]->as<TextContent>()->spec.letters.family, std::string("Bebas Neue"));
        QTRY_VERIFY(!sheet);
    }

    void whatCannotBeFoundIsSaid() {
        QPointer<WhichFaceSheet> sheet = new WhichFaceSheet(*t->engine, t->document(), {}, t->window.get());
        sheet->open();
        const auto says = [&](const char* words) {
            for (auto* label : sheet->findChildren<QLabel*>())
                if (label->isVisible() && label->text().contains(QString::fromLatin1(words))) return true;
            return false;
        };
        QVERIFY(says("Choose a picture"));
        const QString broken = t->crateHome.filePath(QStringLiteral("broken.png"));
        QFile file(broken);
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write("no picture") > 0);
        file.close();
        sheet->readFile(broken);
        QTRY_VERIFY_WITH_TIMEOUT(sheet->isSettled(), 20000);
        QVERIFY(says("broken.png"));
        QImage empty(300, 200, QImage::Format_RGB32);
        empty.fill(Qt::gray);
        sheet->readFile(written(empty, "empty.png"));
        QTRY_VERIFY_WITH_TIMEOUT(sheet->isSettled(), 20000);
        sheet->view()->setCorners(QPolygonF{{20, 20}, {250, 20}, {250, 150}, {20, 150}});
        QTest::keyClicks(sheet->findChild<QLineEdit*>(), "Lantern");
        QTest::keyClick(sheet->findChild<QLineEdit*>(), Qt::Key_Return);
        QTRY_VERIFY_WITH_TIMEOUT(sheet->isSettled(), 30000);
        QVERIFY(says("no such words"));
        sheet->close();
    }
};

GLYPTOS_TEST(WhichFaceTest)
#include "which_face_test.moc"
