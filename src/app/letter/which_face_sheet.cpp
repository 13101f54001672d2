#include "app/letter/which_face_sheet.h"

#include "app/bench/dieline_painter.h"
#include "app/letter/letters_in_hand.h"
#include "app/session/background.h"
#include "app/session/settled_pictures.h"
#include "app/widgets/form_rows.h"
#include "base/text.h"
#include "crate/thumbnails.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "release/edits/edits.h"
#include "type/paragraph.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kMostShown = 12;
constexpr int kMostSide = 3000; // px: finer is of no use

QImage bounded(const QImage& image) {
    const bool isLarge = std::max(image.width(), image.height()) > kMostSide;
    return isLarge ? image.scaled(kMostSide, kMostSide, Qt::KeepAspectRatio, Qt::SmoothTransformation)
                   : image;
}

} // namespace

WhichFaceSheet::WhichFaceSheet(Engine& engine, Document& document, const std::string& source, QWidget* parent)
    : QDialog(parent)
    , engine_(engine)
    , document_(document) {
    setWindowTitle(tr("Which face is this?"));
    setAttribute(Qt::WA_DeleteOnClose);
    auto* row = new QHBoxLayout(this);
    row->addWidget(view_ = new SampleView, 1);
    row->addWidget(makeSide());
    connect(view_, &SampleView::marked, this, &WhichFaceSheet::refresh);
    const int index = pictures_->findData(QString::fromStdString(source));
    if (index >= 0) pictures_->setCurrentIndex(index);
    choosePicture(pictures_->currentIndex());
    refresh();
}

QWidget* WhichFaceSheet::makeSide() {
    auto* side = new QWidget;
    side->setFixedWidth(300);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(8, 0, 0, 0);
    pictures_ = new QComboBox;
    pictures_->setAccessibleName(tr("Picture"));
    pictures_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    for (const SourcePtr& source : document_.release()->sources)
        pictures_->addItem(QString::fromStdString(source->name), QString::fromStdString(source->id));
    connect(pictures_, &QComboBox::activated, this, &WhichFaceSheet::choosePicture);
    auto* file = new QPushButton(tr("Another picture…"));
    file->setToolTip(tr("From a file, a photo of a page or a sign for example"));
    connect(file, &QPushButton::clicked, this, &WhichFaceSheet::askFile);
    column->addWidget(inOneRow({pictures_, file}));
    auto* how =
        roleLabel(tr("Drag a box round the words; then drag its corners to where theirs are."), "soft");
    how->setWordWrap(true);
    column->addWidget(how);
    column->addWidget(heading(tr("THEY SAY")));
    says_ = new QLineEdit;
    says_->setAccessibleName(tr("What the words say"));
    says_->setMaxLength(80);
    connect(says_, &QLineEdit::textChanged, this, &WhichFaceSheet::refresh);
    connect(says_, &QLineEdit::returnPressed, this, &WhichFaceSheet::find);
    column->addWidget(says_);
    find_ = new QPushButton(tr("Find the face"));
    connect(find_, &QPushButton::clicked, this, &WhichFaceSheet::find);
    column->addWidget(find_);
    column->addWidget(note_ = roleLabel(QString(), "caution"));
    note_->setWordWrap(true);
    found_ = new QListWidget;
    found_->setAccessibleName(tr("Nearest faces"));
    connect(found_, &QListWidget::currentRowChanged, this, &WhichFaceSheet::compare);
    connect(found_, &QListWidget::itemActivated, this, &WhichFaceSheet::take);
    column->addWidget(found_, 1);
    take_ = new QPushButton(tr("Set the words in hand in it"));
    connect(take_, &QPushButton::clicked, this, &WhichFaceSheet::take);
    column->addWidget(take_);
    for (QPushButton* button : {file, find_, take_}) button->setAutoDefault(false);
    return side;
}

void WhichFaceSheet::choosePicture(int index) {
    if (index < 0) return;
    const SourcePtr source = document_.release()->source(pictures_->itemData(index).toString().toStdString());
    if (!source) return;
    ++reading_;
    inBackground([source, &engine = engine_]() -> Result<QImage> {
        WorkControl control;
        const auto pixels = settledPicture(engine, *source, control);
        if (!pixels) return tl::unexpected(pixels.error());
        return bounded(imageOf((*pixels)->level((*pixels)->firstLevel())));
    }).then(this, [this, round = ++pictureRound_](const Result<QImage>& picture) { show(picture, round); });
    refresh();
}

void WhichFaceSheet::askFile() {
    auto* dialog = new QFileDialog(this, tr("A picture with words in it"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setFileMode(QFileDialog::ExistingFile);
    connect(dialog, &QFileDialog::fileSelected, this, &WhichFaceSheet::readFile);
    dialog->open();
}

void WhichFaceSheet::readFile(const QString& file) {
    pictures_->setCurrentIndex(-1);
    ++reading_;
    inBackground([path = std::filesystem::path(file.toStdString())]() -> Result<QImage> {
        const auto bytes = glyptos::readFile(path);
        if (!bytes) return tl::unexpected(bytes.error());
        const auto picture = decodePicture(*bytes, nameOf(path), pressProfileBytes());
        if (!picture) return tl::unexpected(picture.error());
        return bounded(imageOf(*picture));
    }).then(this, [this, round = ++pictureRound_](const Result<QImage>& picture) { show(picture, round); });
    refresh();
}

void WhichFaceSheet::show(const Result<QImage>& picture, int round) {
    --reading_;
    if (round != pictureRound_) return refresh(); // another has been chosen meanwhile
    if (picture) view_->setPicture(*picture);
    wrong_ = picture ? QString() : QString::fromStdString(picture.error().message);
    refresh();
}

LayerPtr WhichFaceSheet::words() const {
    const LayerPtr layer = document_.selectedLayer();
    return layer && layer->as<TextContent>() && !layer->locked ? layer : nullptr;
}

void WhichFaceSheet::find() {
    const FaceSample sample = view_->sample();
    const std::string said = says_->text().trimmed().toStdString();
    if (sample.lightness.empty() || said.empty()) return;
    ++finding_;
    inBackground([sample, said, &fonts = engine_.fonts]() -> Result<Found> {
        return Found{findFaces(sample, said, fonts), inkBounds(sample)};
    }).then(this, [this, round = ++round_](const Result<Found>& found) {
        --finding_;
        if (round == round_) showMatches(found.value_or(Found()));
        refresh();
    });
    refresh();
}

void WhichFaceSheet::showMatches(const Found& found) {
    matches_ = found.matches, ink_ = found.ink;
    if (matches_.size() > kMostShown) matches_.resize(kMostShown);
    found_->clear();
    for (const FaceMatch& match : matches_)
        found_->addItem(tr("%1 %2   %3 %")
                            .arg(QString::fromStdString(match.family), QString::fromStdString(match.style))
                            .arg(std::max(0, int(std::lround(match.score * 100)))));
    if (!matches_.empty()) found_->setCurrentRow(0);
}

/// The words in that face over those in the picture.
void WhichFaceSheet::compare(int row) {
    if (row < 0 || row >= int(matches_.size())) return view_->setOverlay({}, {}, {});
    TextSpec spec;
    spec.text = says_->text().trimmed().toStdString();
    spec.letters.family = matches_[size_t(row)].family, spec.letters.style = matches_[size_t(row)].style;
    const auto set = engine_.renderer.paragraphs().get(spec);
    view_->setOverlay(toQt(set->outline), {set->ink.x, set->ink.y, set->ink.w, set->ink.h},
                      QRectF(ink_.x, ink_.y, ink_.w, ink_.h));
    refresh();
}

void WhichFaceSheet::take() {
    const LayerPtr layer = words();
    const int row = found_->currentRow();
    if (!layer || row < 0 || row >= int(matches_.size())) return;
    const FaceMatch match = matches_[size_t(row)];
    document_.edit(tr("Typeface of %1").arg(QString::fromStdString(layer->name)),
                   withChangedLayer(document_.release(), document_.panel(), layer->id, [&](Layer& l) {
                       auto* text = std::get_if<TextContent>(&l.content);
                       if (text) setFace(*text, document_, match.family, match.style);
                   }));
    accept();
}

void WhichFaceSheet::refresh() {
    const bool isMarked = view_->corners().size() == 4;
    find_->setEnabled(isSettled() && isMarked && !says_->text().trimmed().isEmpty());
    find_->setText(finding_ > 0 ? tr("Comparing…") : tr("Find the face"));
    take_->setEnabled(words() && found_->currentRow() >= 0);
    if (reading_ > 0)
        note_->setText(tr("Reading the picture…"));
    else if (!wrong_.isEmpty())
        note_->setText(wrong_);
    else if (view_->picture().isNull())
        note_->setText(tr("Choose a picture with words in it."));
    else if (round_ > 0 && finding_ == 0 && matches_.empty())
        note_->setText(tr("There are no such words in what is marked, or no face has all their letters."));
    else
        note_->clear();
    note_->setVisible(!note_->text().isEmpty());
}

} // namespace glyptos
