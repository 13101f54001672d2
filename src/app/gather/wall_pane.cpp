#include "app/gather/wall_pane.h"

#include "app/hands/pick_options.h"
#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "base/text.h"
#include "color/colour_words.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/store_picture.h"
#include "file/print/picture_pdf.h"
#include "release/wall.h"
#include "render/wall_layout.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr double kPiece = 420; // px of the longer side of a pinned piece
constexpr double kGap = 24;    // px between things in rows
constexpr Ppi kPageResolution{150};

/// Answers with what is missing from it.
Result<std::vector<MissingPicture>> write(PictureStore& pictures, Renderer& renderer,
                                          const ReleasePtr& release, const std::filesystem::path& file) {
    const bool pdf = file.extension() == ".pdf";
    const auto format = pdf ? std::optional(PictureFormat::Jpeg) : pictureFormatOf(file);
    if (!format)
        return fail(Fault::Usage,
                    "“" + nameOf(file) + "” must end in .png, .jpg or .pdf; nothing was written.");
    PictureOptions options;
    options.format = *format;
    const auto picture = encodePiece(renderer, release, kWallId, options);
    if (!picture) return tl::unexpected(picture.error());
    const auto done = writeFile(file, pdf ? pictureAsPdf(*picture, kPageResolution) : picture->bytes);
    if (!done) return tl::unexpected(done.error());
    return pictures.missing();
}

} // namespace

WallPane::WallPane(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , bench_(new WallBench(engine, service)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* bar = new QWidget;
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(8, 4, 8, 4);
    row->setSpacing(2);
    const auto word = [&](const QString& text, const QString& why, auto act) {
        QToolButton* button = wordButton(text, why);
        connect(button, &QToolButton::clicked, this, act);
        row->addWidget(button);
        return button;
    };
    const auto menu = [&](const QString& text, const QString& why, void (WallPane::*fill)(QMenu*)) {
        QToolButton* button = wordButton(text, why);
        button->setPopupMode(QToolButton::InstantPopup);
        auto* entries = new QMenu(button);
        connect(entries, &QMenu::aboutToShow, this, [=, this] {
            entries->clear();
            (this->*fill)(entries);
        });
        button->setMenu(entries);
        row->addWidget(button);
    };
    word(tr("Pin words"), tr("Words of your own; the Letter hand writes them on"), [this] { pinWords(); });
    menu(tr("Pin a colour"), tr("A scrap of a colour of the release, which follows it"),
         &WallPane::fillColours);
    menu(tr("Pin type"), tr("A specimen of a typeface"), &WallPane::fillTypes);
    word(tr("Pin the set"), tr("All pieces as they look now, and go on looking"), [this] { pinSet(); });
    row->addSpacing(10);
    word(tr("Into rows"), tr("Arranges what is in hand, or all, so that nothing lies over anything"),
         [this] { arrange(); });
    word(tr("Fit"), tr("Show all that is pinned (Ctrl+0)"), [this] { bench_->zoomToFit(); });
    word(tr("Write…"), tr("The wall as a picture or a PDF"), [this] { askWrite(); });
    row->addSpacing(10);
    QToolButton* pick =
        wordButton(tr("Pick colour"), tr("Takes a colour off the wall (P; M moves again)"), true);
    auto* picking = new PickOptions(*bench_);
    picking->hide();
    row->addWidget(pick);
    row->addWidget(picking);
    connect(pick, &QToolButton::clicked, this,
            [this](bool on) { bench_->setHand(on ? Hand::Pick : Hand::Move); });
    connect(bench_, &ComposeBench::handChanged, this, [=, this] {
        pick->setChecked(bench_->hand() == Hand::Pick);
        picking->setVisible(bench_->hand() == Hand::Pick);
    });
    row->addStretch();
    column->addWidget(bar);
    column->addWidget(bench_, 1);
    connect(&writer_, &QFutureWatcherBase::finished, this, [this] {
        const auto done = writer_.future().result();
        QStringList said;
        if (!done) said << q(done.error().message);
        if (done)
            for (const MissingPicture& picture : *done) said << q(picture.sentence);
        if (!said.isEmpty()) Q_EMIT told(said.join(QLatin1Char(' ')));
        Q_EMIT written();
    });
}

WallPane::~WallPane() {
    writer_.waitForFinished();
}

void WallPane::setDocument(Document* document) {
    document_ = document;
    bench_->setDocument(document);
}

void WallPane::pin(const QString& name, Layer layer) {
    const Made made = withPinned(document_->release(), std::move(layer), engine_.renderer.paragraphs());
    document_->edit(name, made.release);
    document_->selectPanel(wallPanel());
    document_->selectLayer(made.id);
}

void WallPane::pinWords() {
    bool fine = false;
    const QString words =
        QInputDialog::getMultiLineText(this, tr("Pin words"), tr("What should stand there?"), {}, &fine);
    if (fine && !words.trimmed().isEmpty())
        pin(tr("Pin words"), pinnedWords(words.trimmed().toStdString(), {}));
}

void WallPane::pinSet() {
    ReleasePtr next = document_->release();
    for (const PiecePtr& piece : document_->release()->pieces)
        next = withPinned(next, pinnedPiece(*piece, kPiece, {}), engine_.renderer.paragraphs());
    document_->edit(tr("Pin the set"), next);
    bench_->zoomToFit();
}

void WallPane::fillColours(QMenu* menu) {
    for (const Swatch& s : document_->release()->palette) {
        QPixmap spot(16, 16);
        spot.fill(toQt(s.colour));
        menu->addAction(QIcon(spot), q(s.name), this, [this, s] {
            pin(tr("Pin %1").arg(q(s.name)), pinnedColour({s.colour, s.id}, s.name, {}));
        });
    }
    if (document_->release()->palette.empty()) menu->addAction(tr("The palette is empty"))->setEnabled(false);
}

void WallPane::fillTypes(QMenu* menu) {
    for (const FamilyInfo& family : engine_.fonts.families())
        menu->addAction(q(family.name), this, [this, name = family.name] {
            pin(tr("Pin %1").arg(q(name)), pinnedType(name, "Regular", {}));
        });
}

void WallPane::arrange() {
    const auto& inHand = document_->layers();
    document_->edit(tr("Into rows"),
                    withRows(document_->release(), inHand.size() > 1 ? inHand : std::vector<std::string>{},
                             kGap, engine_.renderer.paragraphs()));
}

void WallPane::askWrite() {
    const QString file = QFileDialog::getSaveFileName(this, tr("Write the wall"), QStringLiteral("wall.png"),
                                                      tr("Picture (*.png *.jpg);;PDF (*.pdf)"));
    if (!file.isEmpty()) writeTo(file);
}

void WallPane::writeTo(const QString& file) {
    if (writer_.isRunning()) return;
    writer_.setFuture(
        inBackground([release = document_->release(), path = std::filesystem::path(file.toStdString())] {
            const FontLibrary fonts(dataFolder() / "fonts");
            PictureStore pictures; // full pictures, whatever the bench has so far
            Renderer renderer(pictures, fonts);
            return write(pictures, renderer, release, path);
        }));
}

} // namespace glyptos
