// Words in one typeface a row, as many as there are, drawn as they come into view.
#pragma once

#include "type/text_spec.h"

#include <QAbstractScrollArea>
#include <QCache>
#include <QImage>
#include <QThreadPool>
#include <QTimer>
#include <memory>

namespace glyptos {

class FontLibrary;

struct Specimen {
    std::string family, style;
    QString caption; ///< what is said of it
    bool starred = false;
};

/// A row that the pointer rests on, or that the keys lead to, is tried; a click or Return takes it; Space
/// gives it a star.
class SpecimenList : public QAbstractScrollArea {
    Q_OBJECT
  public:
    explicit SpecimenList(const FontLibrary& fonts, QWidget* parent = nullptr);
    ~SpecimenList() override;
    void setWords(const TextSpec& words);
    void setRows(std::vector<Specimen> rows);
    const std::vector<Specimen>& rows() const { return rows_; }
    int current() const { return current_; }
    void setCurrent(int row);
    /// Whether all rows in view are drawn.
    bool isSettled() const;
    QRect rowRect(int row) const;
    /// They are drawn anew.
    void forgetPictures();

  Q_SIGNALS:
    void tried(int row); ///< -1: none
    void taken(int row);
    void starToggled(int row);
    void settled();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void changeEvent(QEvent* event) override;

  private:
    void paintRow(QPainter& painter, int row);
    const QImage* picture(int row);
    void ask(int row);
    void arrived(const QString& name, quint64 round, const QImage& image);
    QString nameOf(const Specimen& row) const;
    QSize pictureSize() const;
    int rowAt(const QPoint& place) const;
    QRect starRect(int row) const;
    void updateBar();

    const FontLibrary& fonts_;
    TextSpec words_;
    std::vector<Specimen> rows_;
    QCache<QString, QImage> pictures_;
    QSet<QString> asked_;
    QThreadPool workers_;
    QTimer rest_;
    quint64 round_ = 0;
    int current_ = -1, hovered_ = -1;
};

} // namespace glyptos
