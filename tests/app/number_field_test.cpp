// Number fields: units and sums, wheel, arrows, a drag on the label, and figures that are refused.
#include "app/widgets/number_field.h"
#include "support/register.h"

#include <QApplication>
#include <QMouseEvent>
#include <QSignalSpy>
#include <QStringLiteral>
#include <QWheelEvent>

using namespace glyptos;

namespace {

FieldUnit millimetres() {
    FieldUnit unit;
    unit.suffix = "mm", unit.decimals = 2, unit.step = 0.5, unit.length = true, unit.least = -1000,
    unit.most = 1000;
    return unit;
}

void type(NumberField& field, const QString& text) {
    field.selectAll();
    QTest::keyClicks(&field, text);
    QTest::keyClick(&field, Qt::Key_Return);
}

void wheel(NumberField& field, int notches, Qt::KeyboardModifiers keys = Qt::NoModifier) {
    QWheelEvent event({5, 5}, field.mapToGlobal(QPointF(5, 5)), {}, {0, 120 * notches}, Qt::NoButton, keys,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(&field, &event);
}

} // namespace

class NumberFieldTest : public QObject {
    Q_OBJECT
    std::unique_ptr<NumberField> field;

  private Q_SLOTS:
    void init() {
        field = std::make_unique<NumberField>("Width", millimetres());
        field->setValue(10);
        field->show();
        field->activateWindow();
        field->setFocus();
        QVERIFY(QTest::qWaitForWindowActive(field.get()));
    }

    void unitsAndSums_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<double>("value");
        QTest::addColumn<QString>("shown");
        QTest::newRow("inches") << "12.5in" << 317.5 << "317.5 mm";
        QTest::newRow("sum") << "3mm + 1/8in" << 6.175 << "6.17 mm";
        QTest::newRow("comma") << "2,5" << 2.5 << "2.5 mm";
        QTest::newRow("centimetres") << "31.5 cm" << 315.0 << "315 mm";
        QTest::newRow("own unit") << "7 mm" << 7.0 << "7 mm";
    }
    void unitsAndSums() {
        QFETCH(QString, typed);
        QFETCH(double, value);
        QFETCH(QString, shown);
        QSignalSpy edited(field.get(), &NumberField::edited);
        type(*field, typed);
        QCOMPARE(field->value(), value);
        QCOMPARE(field->text(), shown);
        QCOMPARE(edited.size(), 1);
        QCOMPARE(edited[0][1].toBool(), true);
    }

    void refusedFiguresStayVisible_data() {
        QTest::addColumn<QString>("typed");
        for (const char* text : {"wide", "3 +", "2000", "1/0"}) QTest::newRow(text) << text;
    }
    void refusedFiguresStayVisible() {
        QFETCH(QString, typed);
        QSignalSpy edited(field.get(), &NumberField::edited);
        type(*field, typed);
        QCOMPARE(edited.size(), 0);
        QCOMPARE(field->value(), 10.0);
        QCOMPARE(field->text(), typed); // nothing the user typed is changed
        QVERIFY(field->property("wrong").toBool());
        QVERIFY2(field->toolTip().contains("still in force: 10"), qPrintable(field->toolTip()));
        QTest::keyClick(field.get(), Qt::Key_Escape);
        QCOMPARE(field->text(), QStringLiteral("10 mm"));
        QVERIFY(!field->property("wrong").toBool());
    }

    void wheelAndArrows() {
        wheel(*field, 2);
        QCOMPARE(field->value(), 11.0);
        wheel(*field, -1, Qt::ShiftModifier);
        QCOMPARE(field->value(), 6.0);
        QTest::keyClick(field.get(), Qt::Key_Up);
        QCOMPARE(field->value(), 6.5);
        QTest::keyClick(field.get(), Qt::Key_Down, Qt::ShiftModifier);
        QCOMPARE(field->value(), 1.5);
        field->setValue(999.8);
        wheel(*field, 1); // would pass the limit
        QCOMPARE(field->value(), 999.8);
        field->clearFocus();
        wheel(*field, -1); // a page that scrolls by must not turn figures
        QCOMPARE(field->value(), 999.8);
    }

    void aDragOnTheLabelTurns() {
        FieldLabel label("Width", field.get());
        label.resize(60, 20);
        label.show();
        QSignalSpy edited(field.get(), &NumberField::edited), turning(field.get(), &NumberField::turning);
        QTest::mousePress(&label, Qt::LeftButton, {}, {10, 10});
        QMouseEvent move(QEvent::MouseMove, QPointF(40, 10), label.mapToGlobal(QPointF(40, 10)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(&label, &move);
        QCOMPARE(field->value(), 15.0); // 30 px, a step every 3
        QCOMPARE(turning.size(), 1);
        QVERIFY(edited.size() >= 1 && !edited[0][1].toBool());
    }

    void lengthsInPixels() {
        FieldUnit px = millimetres();
        px.suffix = "px", px.decimals = 0, px.perMm = px.pxPerMm = 300 / 25.4, px.most = 9000;
        field->setUnit(px);
        type(*field, "1in");
        QCOMPARE(field->value(), 300.0);
        type(*field, "250px + 50");
        QCOMPARE(field->value(), 300.0);
    }

    void percent() {
        FieldUnit unit;
        unit.suffix = "%", unit.decimals = 0, unit.least = 0, unit.most = 100;
        field->setUnit(unit);
        type(*field, "50%");
        QCOMPARE(field->value(), 50.0);
        type(*field, "100/8 %");
        QCOMPARE(field->value(), 12.5);
    }
};

GLYPTOS_TEST(NumberFieldTest)
#include "number_field_test.moc"
