#include "app/deliver/deliver_view.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "base/text.h"
#include "file/cut/cut_paths.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"

#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLocale>
#include <QPixmap>
#include <QProgressBar>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

QString bytesText(uintmax_t n) {
    return n < 1'000'000 ? DeliverView::tr("%1 KB").arg(std::lround(double(n) / 1000))
                         : DeliverView::tr("%1 MB").arg(double(n) / 1e6, 0, 'f', 2);
}

constexpr int kPreview = 300; // px

/// A sheet of paper for one kind of delivery.
void asCard(QWidget* box) {
    box->setObjectName(QStringLiteral("card"));
    box->setAttribute(Qt::WA_StyledBackground);
    box->setStyleSheet(QStringLiteral(
        "#card { background: palette(base); border: 1px solid palette(window); border-radius: 9px; }"));
}

QVBoxLayout* card(QWidget* box) {
    asCard(box);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(18, 14, 18, 16);
    column->setSpacing(9);
    return column;
}

QString pagesText(size_t count) {
    return count == 1 ? DeliverView::tr("one page") : DeliverView::tr("%1 pages").arg(count);
}

QString saidOf(const PrintDone& done, const QString& file) {
    const PrintReport& report = done.report;
    const PrintedPage& first = report.pages.front();
    QStringList said{DeliverView::tr("Wrote %1: %8, trim %2 × %3 mm, bleed %4 mm, %5 ppi, most ink %6 %, %7.")
                         .arg(done.files.size() == 1 ? QFileInfo(file).fileName()
                                                     : DeliverView::tr("%1 files").arg(done.files.size()),
                              q(shortNumber(first.trimWidthMm)), q(shortNumber(first.trimHeightMm)),
                              q(shortNumber(report.bleedMm)), q(shortNumber(report.ppi)),
                              q(shortNumber(report.mostInk() * 100, 0)), bytesText(report.bytes),
                              pagesText(report.pages.size()))};
    for (const std::string& note : report.notes) said << q(note);
    return said.join(QLatin1Char(' '));
}

} // namespace

DeliverView::DeliverView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {
    // On a low window the cards scroll, so that a message above them never pushes the window off the screen.
    auto* inside = new QWidget;
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(scrolling(inside));
    auto* all = new QVBoxLayout(inside);
    all->setContentsMargins(26, 18, 26, 14);
    all->setSpacing(12);
    all->addWidget(pieceName_ = roleLabel(QString(), "title"));
    home_ = new HomeCard;
    asCard(home_);
    connect(home_, &HomeCard::printAsked, this, [this] {
        const QString file =
            askedName(tr("Save for a home printer"), tr(" at home") + QStringLiteral(".pdf"));
        if (!file.isEmpty()) writeForHome(file);
    });
    connect(home_, &HomeCard::cutsAsked, this, [this](const QString& ending) {
        const QString file = askedName(tr("Save cut paths"), ending);
        if (!file.isEmpty()) writeCuts(file);
    });
    auto* row = new QHBoxLayout;
    row->setSpacing(18);
    row->addWidget(makeStore(), 1, Qt::AlignTop);
    row->addWidget(printBox_ = makePrint(service), 1, Qt::AlignTop);
    all->addLayout(row);
    row->addWidget(home_, 1, Qt::AlignTop);
    all->addWidget(makeWorking());
    all->addWidget(result_ = roleLabel(QString(), "good"));
    result_->setAccessibleName(tr("Result"));
    all->addStretch();
    weighSoon_.setSingleShot(true);
    weighSoon_.setInterval(250);
    connect(&weighSoon_, &QTimer::timeout, this, &DeliverView::weigh);
    connect(&weigher_, &QFutureWatcherBase::finished, this, [this] {
        if (weighAgain_) return weigh();
        showWeight(weigher_.future().result());
    });
    connect(&writer_, &QFutureWatcherBase::finished, this,
            [this] { showWritten(writer_.future().result()); });
}

void DeliverView::showWeight(const Result<Weighed>& weighed) {
    setRole(weight_, weighed && weighed->missing.empty() ? "soft" : "fault");
    if (!weighed) return weight_->setText(q(weighed.error().message));
    QString said = layered() ? tr("Each layer as its own picture, with its name, blend and opacity")
                             : tr("%1 × %2 px · %3 · sRGB profile embedded")
                                   .arg(weighed->width)
                                   .arg(weighed->height)
                                   .arg(bytesText(weighed->bytes));
    for (const MissingPicture& picture : weighed->missing) said += QLatin1Char('\n') + q(picture.sentence);
    weight_->setText(said);
    preview_->setPixmap(QPixmap::fromImage(weighed->seen));
}

void DeliverView::showWritten(const Result<Written>& written) {
    const bool stopped = !written && written.error().fault == Fault::Cancelled;
    QString said = written ? written->said : q(written.error().message);
    if (written)
        for (const MissingPicture& picture : written->missing) said += QLatin1Char(' ') + q(picture.sentence);
    setRole(result_, written && written->missing.empty() ? "good" : stopped ? "soft" : "fault");
    result_->setText(said);
    working_->hide();
    refresh();
    Q_EMIT this->written(result_->text());
}

DeliverView::~DeliverView() {
    cancel_ = true;
    weigher_.waitForFinished();
    writer_.waitForFinished();
}

QWidget* DeliverView::makeStore() {
    auto* box = new QWidget;
    QVBoxLayout* column = card(box);
    column->addWidget(heading(tr("For stores")));
    column->addWidget(preview_ = new QLabel, 0, Qt::AlignHCenter);
    preview_->setFixedHeight(kPreview);
    preview_->setAccessibleName(tr("The picture as it will be written"));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(7);
    format_ = new QComboBox;
    format_->setAccessibleName(tr("Format"));
    format_->addItem(QStringLiteral("JPEG"), QStringLiteral(".jpg"));
    format_->addItem(QStringLiteral("PNG"), QStringLiteral(".png"));
    format_->addItem(tr("OpenRaster, with its layers"), QStringLiteral(".ora"));
    panelChoice_ = new QComboBox;
    panelChoice_->setAccessibleName(tr("What to send"));
    FieldUnit px;
    px.suffix = QStringLiteral("px"), px.decimals = 0, px.step = 100, px.least = 64, px.most = 12000;
    width_ = new NumberField(tr("Width"), px);
    FieldUnit percent;
    percent.decimals = 0, percent.least = 1, percent.most = 100;
    quality_ = new NumberField(tr("JPEG quality"), percent);
    quality_->setValue(95);
    for (QComboBox* c : {format_, panelChoice_})
        connect(c, &QComboBox::activated, this, [this] { refresh(); });
    for (NumberField* f : {width_, quality_})
        connect(f, &NumberField::edited, this, [this] { weighSoon_.start(); });
    form->addRow(roleLabel(tr("Send"), "soft"), panelChoice_);
    form->addRow(roleLabel(tr("Format"), "soft"), format_);
    form->addRow(new FieldLabel(tr("Width"), width_), width_);
    form->addRow(new FieldLabel(tr("Quality"), quality_), quality_);
    column->addLayout(form);
    column->addWidget(weight_ = roleLabel(QString(), "soft"));
    weight_->setAccessibleName(tr("Size of the file"));
    store_ = new QPushButton(tr("Save for stores…"));
    store_->setProperty("role", "main");
    connect(store_, &QPushButton::clicked, this, [this] { askName(false); });
    column->addWidget(store_);
    return box;
}

QWidget* DeliverView::makeWorking() {
    auto* progress = new QProgressBar;
    progress->setRange(0, 0); // neither the inks nor the packing know how far they are
    progress->setTextVisible(false);
    progress->setFixedHeight(8);
    progress->setAccessibleName(tr("Writing"));
    auto* stop = new QPushButton(tr("Cancel"));
    connect(stop, &QPushButton::clicked, this, [this] { cancel_ = true; });
    working_ = inOneRow({progress, stop});
    working_->hide();
    return working_;
}

QWidget* DeliverView::makePrint(RenderService& service) {
    auto* box = new QWidget;
    QVBoxLayout* column = card(box);
    column->addWidget(heading(tr("For the printer")));
    column->addWidget(page_ = new PagePreview(service));
    page_->setFixedHeight(kPreview);
    column->addWidget(pages_ = new QComboBox);
    pages_->setAccessibleName(tr("Page of the print file"));
    connect(pages_, &QComboBox::currentIndexChanged, this, &DeliverView::showPage);
    column->addWidget(printFacts_ = roleLabel(QString(), "soft"));
    column->addWidget(choices_ = new PrintChoices);
    connect(choices_, &PrintChoices::changed, this, [this] {
        if (document_ && isVisible() && printBox_->isVisible()) showPage();
    });
    print_ = new QPushButton(tr("Save print file…"));
    print_->setProperty("role", "main");
    connect(print_, &QPushButton::clicked, this, [this] { askName(true); });
    column->addWidget(print_);
    return box;
}

void DeliverView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &DeliverView::refresh);
    connect(document_, &Document::selectionChanged, this, [this] {
        width_->setValue(0);
        refresh();
    });
    width_->setValue(0);
    refresh();
}

void DeliverView::showEvent(QShowEvent*) {
    refresh();
}
void DeliverView::hideEvent(QHideEvent*) {
    weighSoon_.stop();
}

void DeliverView::refresh() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!isVisible()) return;
    for (QPushButton* button : {store_, print_}) button->setEnabled(piece && !writer_.isRunning());
    home_->setBusy(writer_.isRunning());
    for (QWidget* box : {printBox_, static_cast<QWidget*>(home_)})
        box->setVisible(piece && piece->flat->unit == Unit::Mm);
    pieceName_->setText(piece ? tr("Deliver: %1").arg(q(piece->name))
                              : tr("Nothing to deliver yet: add a piece first"));
    if (!piece) return;
    const QVariant chosen = panelChoice_->currentData();
    panelChoice_->clear();
    for (auto it = piece->flat->panels.rbegin(); it != piece->flat->panels.rend(); ++it)
        panelChoice_->addItem(q(it->name), q(it->id));
    if (piece->flat->panels.size() > 1) panelChoice_->addItem(tr("Whole flat"), QString());
    panelChoice_->setCurrentIndex(chosen.isValid() ? std::max(0, panelChoice_->findData(chosen)) : 0);
    quality_->setEnabled(ending() == QLatin1String(".jpg"));
    width_->setEnabled(!layered());
    if (width_->value() < 1) width_->setValue(3000);
    const Flat& flat = *piece->flat;
    if (flat.unit == Unit::Mm) {
        choices_->setPiece(*piece);
        home_->setPiece(*piece);
        showPage();
    }
    weight_->setText(tr("weighing…"));
    weighSoon_.start();
}

/// The page that is turned to, and what is written of all of them.
void DeliverView::showPage() {
    const PiecePtr piece = document_->piece();
    const Flat& flat = *piece->flat;
    if (pageOf_ != piece->id || pages_->count() != int(flat.sheets.size())) {
        const QSignalBlocker quiet(pages_);
        pages_->clear();
        for (size_t i = 0; i < flat.sheets.size(); ++i)
            pages_->addItem(flat.sheets[i].name.empty()
                                ? tr("Page %1").arg(i + 1)
                                : tr("Page %1: %2").arg(i + 1).arg(q(flat.sheets[i].name)));
        pageOf_ = piece->id;
    }
    pages_->setVisible(flat.sheets.size() > 1);
    const size_t sheet = size_t(std::max(0, pages_->currentIndex()));
    const Rect& trim = flat.sheets[sheet].trim;
    page_->setPiece(document_->shown(), piece->id, sheet);
    const bool pdf = choices_->job().as == PrintJob::As::Pdf;
    printFacts_->setText(
        (pdf ? tr("The file has %1; this one is %2 × %3 mm with %4 mm bleed. Art at %5 ppi in press inks, at "
                  "most 330 %; words in front stay sharp outlines. Crop and fold marks stand outside the "
                  "bleed.")
             : tr("The file has %1; this one is %2 × %3 mm with %4 mm bleed. Art and words at %5 ppi in "
                  "press inks, at most 330 %."))
            .arg(pagesText(flat.sheets.size()), q(shortNumber(trim.w)), q(shortNumber(trim.h)),
                 q(shortNumber(flat.bleed)), q(shortNumber(flat.ppi))));
}

QString DeliverView::ending() const {
    return format_->currentData().toString();
}

bool DeliverView::layered() const {
    return ending() == QLatin1String(".ora");
}

PictureOptions DeliverView::storeOptions() const {
    PictureOptions options;
    options.format = ending() == QLatin1String(".jpg") ? PictureFormat::Jpeg : PictureFormat::Png;
    options.panel = panelChoice_->currentData().toString().toStdString();
    options.width = int(width_->value());
    options.quality = int(quality_->value());
    return options;
}

void DeliverView::weigh() {
    weighAgain_ = weigher_.isRunning();
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (weighAgain_ || !piece || !isVisible()) return;
    if (engine_.pictures.busy()) return weighSoon_.start();
    weigher_.setFuture(
        inBackground([this, release = document_->release(), id = piece->id, options = storeOptions(),
                      ratio = devicePixelRatioF()]() -> Result<Weighed> {
            const auto encoded = encodePiece(engine_.renderer, release, id, options);
            if (!encoded) return tl::unexpected(encoded.error());
            const int side = int(kPreview * ratio);
            Weighed out{encoded->width, encoded->height, encoded->bytes.size(),
                        QImage::fromData(encoded->bytes.data(), int(encoded->bytes.size()))
                            .scaled(side, side, Qt::KeepAspectRatio, Qt::SmoothTransformation),
                        engine_.pictures.missing()};
            out.seen.setDevicePixelRatio(ratio);
            std::erase_if(out.missing, [&](const MissingPicture& m) { return !release->source(m.source); });
            return out;
        }));
}

QString DeliverView::suggestedName(const QString& ending) const {
    const Brief& brief = document_->release()->brief;
    QString name = q(brief.catalogue + " " + brief.title + " " + document_->piece()->name).trimmed();
    name.replace(QLatin1Char('/'), QLatin1Char('-'));
    const auto folder =
        document_->file().empty() ? QDir::homePath() : q(document_->file().parent_path().string());
    return folder + QLatin1Char('/') + name + ending;
}

QString DeliverView::askedName(const QString& title, const QString& ending) {
    return QFileDialog::getSaveFileName(this, title, suggestedName(ending),
                                        QStringLiteral("*.") + QFileInfo(ending).suffix());
}

void DeliverView::askName(bool print) {
    const bool tiff = print && choices_->job().as == PrintJob::As::Tiff;
    const QString wanted = tiff ? QStringLiteral(".tif") : print ? QStringLiteral(".pdf") : ending();
    const QString file = askedName(print ? tr("Save print file") : tr("Save for stores"), wanted);
    if (file.isEmpty()) return;
    if (print)
        writePrintFile(file);
    else if (layered())
        writeLayers(file);
    else
        writeStorePicture(file);
}

/// Runs a job that answers with what it wrote.
void DeliverView::run(const QString& file, std::function<Result<Written>()> job) {
    cancel_ = false;
    result_->setText(tr("Writing %1…").arg(QFileInfo(file).fileName()));
    setRole(result_, "soft");
    working_->show();
    writer_.setFuture(inBackground(std::move(job)));
    refresh();
}

void DeliverView::writeStorePicture(const QString& file) {
    PictureOptions options = storeOptions();
    options.cancel = &cancel_;
    run(file,
        [&fonts = engine_.fonts, file, release = document_->release(), id = document_->piece()->id,
         options]() -> Result<Written> {
            PictureStore pictures; // full pictures, whatever the bench has so far
            Renderer renderer(pictures, fonts);
            const auto encoded = encodePiece(renderer, release, id, options);
            if (!encoded) return tl::unexpected(encoded.error());
            if (const auto done = writeFile(file.toStdString(), encoded->bytes); !done)
                return tl::unexpected(done.error());
            return Written{tr("Wrote %1: %2 × %3 px, %4.")
                               .arg(QFileInfo(file).fileName())
                               .arg(encoded->width)
                               .arg(encoded->height)
                               .arg(bytesText(encoded->bytes.size())),
                           pictures.missing()};
        });
}

/// One panel at its own resolution; the front when the whole flat is chosen.
void DeliverView::writeLayers(const QString& file) {
    const PiecePtr piece = document_->piece();
    const std::string chosen = panelChoice_->currentData().toString().toStdString();
    const PanelRef panel{piece->id, chosen.empty() ? piece->flat->frontPanel().id : chosen};
    const QString panelName = q(piece->flat->panel(panel.panel)->name);
    const double scale = piece->flat->unit == Unit::Px ? 1 : pxPerMm({piece->flat->ppi});
    run(file,
        [&fonts = engine_.fonts, file, release = document_->release(), panel, panelName, scale,
         cancel = &cancel_]() -> Result<Written> {
            PictureStore pictures;
            Renderer renderer(pictures, fonts);
            const auto notes = writeOpenRaster(renderer, release, panel, {scale, cancel}, file.toStdString());
            if (!notes) return tl::unexpected(notes.error());
            QStringList said{tr("Wrote %1: the layers of %2.").arg(QFileInfo(file).fileName(), panelName)};
            for (const std::string& note : *notes) said << q(note);
            return Written{said.join(QLatin1Char(' ')), pictures.missing()};
        });
}

void DeliverView::writePrintFile(const QString& file) {
    PrintJob job = choices_->job();
    job.options.cancel = &cancel_;
    run(file,
        [&fonts = engine_.fonts, file, release = document_->release(), id = document_->piece()->id, job,
         profileFile = choices_->profileFile().toStdString()]() mutable -> Result<Written> {
            std::vector<uint8_t> profile;
            if (!profileFile.empty()) {
                auto bytes = readFile(profileFile);
                if (!bytes) return tl::unexpected(bytes.error());
                profile = std::move(*bytes);
                job.options.pressProfile = profile;
            }
            PictureStore pictures;
            Renderer renderer(pictures, fonts);
            const auto done = writePrintJob(renderer, release, id, job, file.toStdString());
            if (!done) return tl::unexpected(done.error());
            return Written{saidOf(*done, file), pictures.missing()};
        });
}

void DeliverView::writeForHome(const QString& file) {
    HomeOptions options = home_->options();
    options.cancel = &cancel_;
    run(file,
        [&fonts = engine_.fonts, file, release = document_->release(), id = document_->piece()->id,
         options]() -> Result<Written> {
            PictureStore pictures;
            Renderer renderer(pictures, fonts);
            const auto report = writeHomePrint(renderer, release, id, options, file.toStdString());
            if (!report) return tl::unexpected(report.error());
            return Written{
                tr("Wrote %1: %2, %3. Print it at 100 %, and measure the ruler.")
                    .arg(QFileInfo(file).fileName(), pagesText(report->pages), bytesText(report->bytes)),
                pictures.missing()};
        });
}

void DeliverView::writeCuts(const QString& file) {
    run(file, [file, release = document_->release(), id = document_->piece()->id]() -> Result<Written> {
        const auto order = printOrder(release, id, {});
        if (!order) return tl::unexpected(order.error());
        const CutJob job = cutJobOf(*order->piece->flat, order->sheets);
        const bool svg = file.endsWith(QLatin1String(".svg"), Qt::CaseInsensitive);
        const std::string text = svg ? cutSvg(job, order->piece->name) : cutDxf(job);
        if (auto done =
                writeFile(file.toStdString(), {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
            !done)
            return tl::unexpected(done.error());
        const auto faults = faultsOf(job);
        QString said = tr("Wrote %1: %2 mm to cut, %3 mm to crease.")
                           .arg(QFileInfo(file).fileName())
                           .arg(std::lround(job.length(CutTool::Cut)))
                           .arg(std::lround(job.length(CutTool::Crease)));
        for (const CutFault& fault : faults) said += QLatin1Char(' ') + q(fault.sentence());
        return Written{said, {}};
    });
}

} // namespace glyptos
