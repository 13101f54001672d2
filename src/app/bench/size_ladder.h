// The panel at the sizes at which it will be met, live, and which words are lost there.
#pragma once

#include "app/widgets/miniature.h"

#include <QCheckBox>
#include <QLabel>

namespace glyptos {

class Document;

class Engine;

class SizeLadder : public QWidget {
    Q_OBJECT
  public:
    SizeLadder(Engine& engine, RenderService& service, QWidget* parent);
    void setDocument(Document* document);
    /// px of the longer side, largest first.
    std::vector<int> sizes() const;
    const QImage& imageAt(int size) const;
    QString note() const { return note_->text(); }

  Q_SIGNALS:
    void opened(bool open); ///< or closed

  protected:
    void paintEvent(QPaintEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    void refresh();
    static QRect place(int size);

    Engine& engine_;
    RenderService& service_;
    Document* document_ = nullptr;
    std::map<int, std::unique_ptr<Miniature>> steps_;
    QCheckBox* large_;
    QLabel* note_;
};

} // namespace glyptos
