// The Deliver step: a store picture, a print file, and pages for printing and cutting at home, of the piece
// in hand.
#pragma once

#include "app/deliver/home_card.h"
#include "app/deliver/print_choices.h"
#include "app/session/document.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/page_preview.h"
#include "file/pictures/store_picture.h"
#include "file/print/print_pdf.h"

#include <QComboBox>
#include <QFutureWatcher>
#include <QSlider>
#include <QTimer>
#include <QWidget>

namespace glyptos {

class Engine;

class DeliverView : public QWidget {
    Q_OBJECT
  public:
    DeliverView(Engine& engine, RenderService& service, QWidget* parent = nullptr);
    ~DeliverView() override;
    void setDocument(Document* document);
    PrintChoices* choices() const { return choices_; }
    HomeCard* home() const { return home_; }
    bool isWriting() const { return writer_.isRunning(); }

  public Q_SLOTS:
    /// Writes to a file without asking for its name.
    void writeStorePicture(const QString& file);
    void writePrintFile(const QString& file);
    void writeLayers(const QString& file);
    void writeForHome(const QString& file);
    void writeCuts(const QString& file); ///< SVG or DXF, by its ending

  Q_SIGNALS:
    void written(const QString& sentence);

  protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    QWidget* makeStore();
    QWidget* makePrint(RenderService& service);
    QWidget* makeWorking();
    PictureOptions storeOptions() const;
    QString ending() const; ///< of the format chosen
    bool layered() const;   ///< OpenRaster
    void refresh();
    void showPage();
    /// Encodes in the background to tell the size in bytes.
    void weigh();
    void askName(bool print);
    QString askedName(const QString& title, const QString& ending);
    /// What a job says of the file it wrote, and what is missing from that.
    struct Written {
        QString said;
        std::vector<MissingPicture> missing;
    };
    /// Of the piece as it would be written.
    struct Weighed {
        int width = 0, height = 0;
        uintmax_t bytes = 0;
        QImage seen;
        std::vector<MissingPicture> missing;
    };
    void run(const QString& file, std::function<Result<Written>()> job);
    void showWeight(const Result<Weighed>& weighed);
    void showWritten(const Result<Written>& written);
    QString suggestedName(const QString& ending) const;

    Engine& engine_;
    Document* document_ = nullptr;
    QComboBox *format_, *panelChoice_, *pages_;
    std::string pageOf_; ///< the piece whose pages can be turned to
    NumberField *width_, *quality_;
    QLabel *weight_, *printFacts_, *result_, *pieceName_, *preview_;
    QPushButton *store_, *print_;
    PagePreview* page_;
    PrintChoices* choices_;
    HomeCard* home_;
    QWidget *printBox_, *working_;
    QTimer weighSoon_;
    QFutureWatcher<Result<Weighed>> weigher_;
    QFutureWatcher<Result<Written>> writer_;
    std::atomic<bool> cancel_ = false;
    bool weighAgain_ = false;
};

} // namespace glyptos
