// The application. What is thrown while an event is handled (a press, a paint, an answer that arrives) is
// told of and does not end it.
#pragma once

#include <QApplication>

namespace glyptos {

class Application : public QApplication {
    Q_OBJECT
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override;

  Q_SIGNALS:
    /// Once for a run of the same ones, as a widget that cannot be painted would repeat it for ever.
    void failed(const QString& sentence);

  private:
    void tell(const std::exception* what);
    QString told_;
    qint64 toldAt_ = 0;
};

} // namespace glyptos
