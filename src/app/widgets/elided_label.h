// One line of words that gives way when there is little room, and then shows all of them as its tool tip.
#pragma once

#include <QLabel>

namespace glyptos {

class ElidedLabel : public QLabel {
    Q_OBJECT
  public:
    explicit ElidedLabel(QWidget* parent = nullptr);
    void setWords(const QString& words);
    const QString& words() const { return words_; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void fit();
    QString words_;
};

} // namespace glyptos
