// The wall with the words that pin things to it.
#pragma once

#include "app/gather/wall_bench.h"
#include "render/picture_provider.h"

#include <QFutureWatcher>
#include <QLabel>
#include <QWidget>

namespace glyptos {

class Engine;

class WallPane : public QWidget {
    Q_OBJECT
  public:
    WallPane(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    ~WallPane() override;
    void setDocument(Document* document);
    WallBench* bench() const { return bench_; }
    void pin(const QString& name, Layer layer);
    /// Writes what is pinned, as .png, .jpg or .pdf.
    void writeTo(const QString& file);
    bool isWriting() const { return writer_.isRunning(); }

  Q_SIGNALS:
    void told(const QString& sentence);
    void written();

  private:
    void pinWords();
    void pinSet();
    void fillColours(QMenu* menu);
    void fillTypes(QMenu* menu);
    void arrange();
    void askWrite();

    Engine& engine_;
    Document* document_ = nullptr;
    WallBench* bench_;
    QFutureWatcher<Result<std::vector<MissingPicture>>> writer_;
};

} // namespace glyptos
