#include "app/deliver/print_choices.h"

#include "form/imposition.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>

namespace glyptos {
namespace {

constexpr double kSharpen = 0.6; // amount of the treatment, for paper
enum ProfileRow : int { Shipped, FromFile };

QComboBox* choice(const QString& name, const QStringList& words) {
    auto* made = new QComboBox;
    made->setAccessibleName(name);
    made->addItems(words);
    return made;
}

} // namespace

PrintChoices::PrintChoices(QWidget* parent)
    : QWidget(parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(7);
    format_ = choice(tr("Print format"), {tr("PDF/X-4"), tr("TIFF in press inks, words as pixels")});
    profile_ = choice(tr("Press profile"), {tr("Coated stock, FOGRA39"), tr("From a file…")});
    intent_ = choice(tr("Rendering intent"), {tr("Perceptual"), tr("Relative colorimetric"), tr("Saturation"),
                                              tr("Absolute colorimetric")});
    intent_->setCurrentIndex(int(RenderingIntent::Relative));
    form->addRow(roleLabel(tr("Format"), "soft"), format_);
    form->addRow(roleLabel(tr("Profile"), "soft"), profile_);
    form->addRow(roleLabel(tr("Intent"), "soft"), intent_);
    all->addLayout(form);
    blackPoint_ =
        check(tr("Black point fitted"), tr("The darkest of the art becomes the darkest of the press"));
    blackPoint_->setChecked(true);
    pairs_ = check(tr("Printer's pairs"), tr("Pages as the sheets are folded into each other, not as read"));
    apart_ = check(tr("One file a page"), tr("Numbered, beside each other"));
    report_ = check(tr("Report beside it"), tr("A text that says size, resolution and inks of each page"));
    slug_ = check(tr("Slug and colour bar"), tr("Names, measures and all inks, below the bleed"));
    dieline_ =
        check(tr("Dieline as plates"), tr("“Cut” and “Crease”, each an ink of its own over everything"));
    white_ = check(tr("White under the art"), tr("A plate “White”, for stock that is see-through or metal"));
    sharpen_ = check(tr("Sharpen for print"), tr("Pictures lose some sharpness on paper"));
    rich_ =
        check(tr("Large words in rich black"), tr("Black words of that size are of all inks; smaller ones "
                                                  "always of black alone"));
    FieldUnit points = {};
    points.suffix = QStringLiteral("pt"), points.decimals = 0, points.step = 2, points.least = 8,
    points.most = 2000;
    richFrom_ = new NumberField(tr("Rich black from"), points);
    richFrom_->setValue(48);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(14), grid->setVerticalSpacing(5);
    QWidget* const cells[] = {blackPoint_, sharpen_, pairs_, apart_, report_, slug_, dieline_, white_};
    for (int i = 0; i < int(std::size(cells)); ++i) grid->addWidget(cells[i], i / 2, i % 2);
    grid->addWidget(rich_, int(std::size(cells)) / 2, 0);
    grid->addWidget(richFrom_, int(std::size(cells)) / 2, 1);
    all->addLayout(grid);
    connect(profile_, &QComboBox::activated, this, &PrintChoices::askProfile);
    for (QComboBox* box : {format_, intent_})
        connect(box, &QComboBox::activated, this, [this] { Q_EMIT changed(); });
    connect(richFrom_, &NumberField::edited, this, [this] { Q_EMIT changed(); });
    connect(this, &PrintChoices::changed, this, [this] {
        const bool pdf = format_->currentIndex() == 0;
        for (QWidget* w : {static_cast<QWidget*>(slug_), static_cast<QWidget*>(dieline_),
                           static_cast<QWidget*>(white_), static_cast<QWidget*>(rich_)})
            w->setEnabled(pdf);
        richFrom_->setEnabled(pdf && rich_->isChecked());
    });
    Q_EMIT changed();
}

QCheckBox* PrintChoices::check(const QString& text, const QString& why) {
    auto* made = new QCheckBox(text);
    made->setToolTip(why);
    connect(made, &QCheckBox::toggled, this, [this] { Q_EMIT changed(); });
    return made;
}

void PrintChoices::askProfile(int index) {
    if (index == Shipped) return setProfileFile({});
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Press profile"), {}, tr("ICC profiles (*.icc *.icm)"));
    setProfileFile(file.isEmpty() ? profileFile_ : file);
}

void PrintChoices::setProfileFile(const QString& file) {
    profileFile_ = file;
    profile_->setItemText(FromFile, file.isEmpty() ? tr("From a file…") : QFileInfo(file).fileName());
    profile_->setCurrentIndex(file.isEmpty() ? Shipped : FromFile);
    Q_EMIT changed();
}

void PrintChoices::setPiece(const Piece& piece) {
    const bool booklet = inPrintersPairs(*piece.flat).has_value();
    pairs_->setVisible(booklet);
    apart_->setVisible(piece.flat->sheets.size() > 1);
}

PrintJob PrintChoices::job() const {
    PrintJob job;
    const auto on = [](const QCheckBox* box) {
        return !box->isHidden() && box->isEnabled() && box->isChecked();
    };
    job.as = format_->currentIndex() == 0 ? PrintJob::As::Pdf : PrintJob::As::Tiff;
    job.filePerPage = on(apart_);
    job.report = on(report_);
    PrintOptions& options = job.options;
    options.look = {static_cast<RenderingIntent>(intent_->currentIndex()), on(blackPoint_)};
    options.inPairs = on(pairs_);
    options.sharpen = on(sharpen_) ? kSharpen : 0;
    options.richBlackFrom = on(rich_) ? richFrom_->value() : 0;
    options.slug = on(slug_);
    options.extra = {on(dieline_), on(white_)};
    return job;
}

} // namespace glyptos
