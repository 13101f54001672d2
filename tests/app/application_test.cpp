// What is thrown in a press, a paint, an answer or a job is a sentence, and the program goes on.
#include "app/session/application.h"

#include "app/session/background.h"
#include "support/register.h"

#include <QCoreApplication>
#include <QPaintEvent>
#include <QPushButton>
#include <QSignalSpy>
#include <QTimer>
#include <QWidget>
#include <stdexcept>

using namespace glyptos;

namespace {

class BadPaint : public QWidget {
  public:
    bool bad = true;
    int painted = 0;

  protected:
    void paintEvent(QPaintEvent*) override {
        ++painted;
        if (bad) throw std::runtime_error("no such colour");
    }
};

} // namespace

class ApplicationTest : public QObject {
    Q_OBJECT
    Application& app() { return *static_cast<Application*>(QCoreApplication::instance()); }

  private Q_SLOTS:
    void aPressThatThrows() {
        QPushButton button;
        connect(&button, &QPushButton::clicked, this, [] { throw std::runtime_error("torn page"); });
        button.show();
        QSignalSpy failed(&app(), &Application::failed);
        QTest::mouseClick(&button, Qt::LeftButton);
        QVERIFY(failed.wait(2000));
        const QString sentence = failed[0][0].toString();
        QVERIFY(sentence.contains("torn page") && sentence.endsWith('.'));
        // The same one is not said over and over, another one is.
        QTest::mouseClick(&button, Qt::LeftButton);
        button.disconnect();
        connect(&button, &QPushButton::clicked, this, [] { throw 7; });
        QTest::mouseClick(&button, Qt::LeftButton);
        QVERIFY(failed.wait(2000));
        QCOMPARE(failed.count(), 2);
    }

    void aPaintThatThrows() {
        BadPaint widget;
        QSignalSpy failed(&app(), &Application::failed);
        widget.resize(40, 40);
        widget.show();
        QVERIFY(failed.wait(2000));
        QVERIFY(failed[0][0].toString().contains("no such colour"));
        widget.bad = false;
        const int before = widget.painted;
        widget.update();
        QVERIFY(QTest::qWaitFor([&] { return widget.painted > before; }));
    }

    void aTimerThatThrows() {
        QSignalSpy failed(&app(), &Application::failed);
        QTimer::singleShot(0, this, [] { throw std::bad_alloc(); });
        QVERIFY(failed.wait(2000));
        QVERIFY(failed[0][0].toString().contains("memory"));
    }

    void jobsThatThrow() {
        auto plain = inBackground([]() -> int { throw std::runtime_error("half a file"); });
        const Result<int> none = plain.result();
        QVERIFY(!none);
        QVERIFY(none.error().message.find("half a file") != std::string::npos);
        QCOMPARE(inBackground([] { return 7; }).result().value(), 7);
        const auto refused =
            inBackground([]() -> Result<void> { return fail(Fault::Usage, "Not so."); }).result();
        QCOMPARE(refused.error().message, std::string("Not so."));
        const auto odd = inBackground([]() -> Result<void> { throw "text"; }).result();
        QCOMPARE(int(odd.error().fault), int(Fault::Internal));
    }
};

GLYPTOS_TEST(ApplicationTest)
#include "application_test.moc"
