#include "app/gather/source_details.h"

#include "app/session/words.h"
#include "app/widgets/colour_chip.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"

#include <QEvent>
#include <QPainter>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kPreview = 150;

QString joinedTags(const std::vector<std::string>& tags) {
    QStringList out;
    for (const std::string& tag : tags) out << q(tag);
    return out.join(QStringLiteral(", "));
}

std::vector<std::string> tagsFrom(const QString& text) {
    std::vector<std::string> out;
    for (const QString& tag : text.split(QLatin1Char(','), Qt::SkipEmptyParts))
        if (!tag.trimmed().isEmpty()) out.push_back(tag.trimmed().toStdString());
    return out;
}

} // namespace

SourceDetails::SourceDetails(CrateService& service, ThumbnailStore& thumbnails, QWidget* parent)
    : QWidget(parent)
    , service_(service)
    , thumbnails_(thumbnails) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    all_ = new QWidget;
    auto* column = new QVBoxLayout(all_);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(7);
    column->addWidget(picture_ = new QLabel);
    picture_->setFixedHeight(kPreview + 6);
    picture_->setAlignment(Qt::AlignCenter);
    column->addWidget(title_ = roleLabel(QString(), "title"));
    column->addWidget(size_ = roleLabel(QString(), "soft"));
    column->addWidget(makeDeeds());
    column->addWidget(terms_ = roleLabel(QString(), "soft"));
    chips_ = new QWidget;
    auto* row = new QHBoxLayout(chips_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    column->addWidget(heading(tr("Its colours")));
    column->addWidget(chips_);
    column->addWidget(keepAll_ = new QPushButton(tr("Keep them in the palette")));
    keepAll_->setToolTip(
        tr("Puts these colours into the release's palette; one of them goes in by a click on it"));
    connect(keepAll_, &QPushButton::clicked, this, [this] {
        std::vector<NamedColour> colours;
        for (const ColourChip* chip :
             chips_->findChildren<ColourChip*>(QString(), Qt::FindDirectChildrenOnly))
            colours.push_back({nameOf(fromQt(chip->colour())), fromQt(chip->colour())});
        Q_EMIT coloursTaken(colours);
    });
    column->addWidget(likeness_ = makeLikeness());
    facts_ = new QWidget;
    auto* form = figuresForm(facts_);
    form->setContentsMargins(0, 4, 0, 0);
    makeFacts(form);
    column->addWidget(facts_);
    column->addStretch();
    outer->addWidget(scroll_ = scrolling(all_));
    connect(&thumbnails_, &ThumbnailStore::arrived, this, &SourceDetails::showPicture);
    show({}, false, nullptr);
}

QWidget* SourceDetails::makeDeeds() {
    place_ = new QPushButton;
    place_->setProperty("role", "main");
    pin_ = new QPushButton(tr("Pin to the wall"));
    take_ = new QPushButton(tr("Take it into the crate"));
    take_->setProperty("role", "main");
    remove_ = new QPushButton(tr("Out of the crate"));
    remove_->setToolTip(
        tr("Takes it out of the crate; its file stays where it is, and so do releases that use it"));
    auto* face = new QPushButton(tr("Which face is in it?"));
    face->setToolTip(tr("Words in the picture, and the typefaces nearest to theirs"));
    connect(face, &QPushButton::clicked, this, &SourceDetails::faceAsked);
    connect(place_, &QPushButton::clicked, this, &SourceDetails::placeAsked);
    connect(pin_, &QPushButton::clicked, this, &SourceDetails::pinAsked);
    connect(take_, &QPushButton::clicked, this, &SourceDetails::takeAsked);
    connect(remove_, &QPushButton::clicked, this, &SourceDetails::removeAsked);
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(take_);
    column->addWidget(place_);
    column->addWidget(inOneRow({pin_, remove_}));
    column->addWidget(face);
    return box;
}

QWidget* SourceDetails::makeLikeness() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 4, 0, 0);
    column->setSpacing(5);
    column->addWidget(heading(tr("Its relatives")));
    like_ = new QPushButton(tr("Show what is like it"));
    like_->setCheckable(true);
    connect(like_, &QPushButton::clicked, this, &SourceDetails::likeAsked);
    column->addWidget(like_);
    const auto slider = [&](const QString& name, const QString& why) {
        auto* made = new QSlider(Qt::Horizontal);
        made->setRange(0, 100);
        made->setValue(50);
        made->setAccessibleName(name);
        made->setToolTip(why);
        connect(made, &QSlider::valueChanged, this, &SourceDetails::weightsChanged);
        QLabel* label = roleLabel(name, "soft");
        label->setFixedWidth(52);
        column->addWidget(inOneRow({label, made}));
        return made;
    };
    colour_ = slider(tr("Colours"), tr("How much it counts that the colours are alike"));
    structure_ = slider(tr("Lines"), tr("How much it counts that edges run alike"));
    return box;
}

LikenessWeights SourceDetails::weights() const {
    if (colour_->value() + structure_->value() == 0) return {1, 1};
    return {colour_->value() / 100.0, structure_->value() / 100.0};
}

QLineEdit* SourceDetails::line(const QString& label, std::string SourceFacts::*member, QFormLayout* form) {
    auto* edit = new QLineEdit;
    edit->setAccessibleName(label);
    form->addRow(roleLabel(label, "soft"), edit);
    lines_.emplace_back(edit, member);
    connect(edit, &QLineEdit::editingFinished, this, [=, this] {
        this->edit([&](SourceFacts& f) { f.*member = edit->text().trimmed().toStdString(); });
    });
    return edit;
}

void SourceDetails::makeFacts(QFormLayout* form) {
    form->addRow(heading(tr("What is known of it")));
    line(tr("Title"), &SourceFacts::title, form);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Kind"));
    for (int i = 0; i < kSourceKinds; ++i) kind_->addItem(tr(nameOf(static_cast<SourceKind>(i))));
    connect(kind_, &QComboBox::activated, this,
            [this](int i) { edit([=](SourceFacts& f) { f.kind = static_cast<SourceKind>(i); }); });
    form->addRow(roleLabel(tr("Kind"), "soft"), kind_);
    tags_ = new QLineEdit;
    tags_->setAccessibleName(tr("Tags"));
    tags_->setPlaceholderText(tr("rope, tar, low tide"));
    connect(tags_, &QLineEdit::editingFinished, this,
            [this] { edit([&](SourceFacts& f) { f.tags = tagsFrom(tags_->text()); }); });
    form->addRow(roleLabel(tr("Tags"), "soft"), tags_);
    line(tr("Maker"), &SourceFacts::maker, form);
    line(tr("From"), &SourceFacts::origin, form)
        ->setToolTip(tr("Where it came from: a page, an archive, an agency"));
    line(tr("Licence"), &SourceFacts::licence, form);
    line(tr("Credit"), &SourceFacts::credit, form)
        ->setToolTip(tr("The line that its maker or licence asks for; when empty it is made from title, "
                        "maker and licence"));
    notes_ = new QPlainTextEdit;
    notes_->setAccessibleName(tr("Notes"));
    notes_->setFixedHeight(52);
    notes_->setTabChangesFocus(true);
    notes_->installEventFilter(this);
    form->addRow(roleLabel(tr("Notes"), "soft"), notes_);
}

bool SourceDetails::eventFilter(QObject* watched, QEvent* event) {
    if (watched == notes_ && event->type() == QEvent::FocusOut)
        edit([this](SourceFacts& f) { f.notes = notes_->toPlainText().trimmed().toStdString(); });
    return QWidget::eventFilter(watched, event);
}

void SourceDetails::edit(const std::function<void(SourceFacts&)>& change) {
    if (entries_.size() != 1 || fromDrawer_) return;
    SourceFacts facts = entries_.front()->facts;
    change(facts);
    if (facts == entries_.front()->facts) return;
    auto next = std::make_shared<CrateEntry>(*entries_.front());
    next->facts = facts;
    entries_.front() = next; // what is typed next goes on from here
    Q_EMIT factsEdited(next->id, facts);
}

void SourceDetails::show(const std::vector<EntryPtr>& entries, bool fromDrawer, const AgencyLicence* terms) {
    const bool other =
        entries.size() != entries_.size() || entries.empty() || entries.front()->id != entries_.front()->id;
    entries_ = entries;
    fromDrawer_ = fromDrawer;
    const bool any = !entries.empty(), one = entries.size() == 1;
    scroll_->setVisible(any);
    if (!any) return;
    const bool known = fromDrawer && service_.entry(entries.front()->id);
    take_->setVisible(fromDrawer);
    take_->setEnabled(one && !known);
    take_->setText(known ? tr("It is in the crate") : tr("Take it into the crate"));
    for (QWidget* w :
         {static_cast<QWidget*>(place_), static_cast<QWidget*>(pin_), static_cast<QWidget*>(remove_)})
        w->setVisible(!fromDrawer);
    likeness_->setVisible(one);
    facts_->setVisible(one);
    terms_->setVisible(fromDrawer && terms);
    if (terms) terms_->setText(q(terms->name) + QStringLiteral(": ") + q(terms->asks));
    showPicture();
    showColours();
    if (one && (other || !facts_->isAncestorOf(focusWidget()))) showFacts();
}

void SourceDetails::setPiece(const QString& name) {
    place_->setText(name.isEmpty() ? tr("Place it") : tr("Place on %1").arg(name));
    place_->setEnabled(!name.isEmpty());
}

void SourceDetails::setLike(bool on) {
    like_->setChecked(on);
}

void SourceDetails::showPicture() {
    if (entries_.empty()) return;
    const EntryPtr& e = entries_.front();
    const QImage image = thumbnails_.get(e, service_.fileOf(*e));
    if (image.isNull()) return picture_->clear();
    const QImage small = image.scaled(QSize(260, kPreview), Qt::KeepAspectRatio, Qt::SmoothTransformation);
    QPixmap shown(small.size());
    shown.fill(theme().bench); // what is see-through lies on neutral grey
    QPainter(&shown).drawImage(0, 0, small);
    picture_->setPixmap(shown);
}

void SourceDetails::showFacts() {
    const CrateEntry& e = *entries_.front();
    for (const auto& [edit, member] : lines_) {
        edit->setText(q(e.facts.*member));
        edit->setReadOnly(fromDrawer_);
        edit->setCursorPosition(0);
    }
    kind_->setCurrentIndex(int(e.facts.kind));
    kind_->setEnabled(!fromDrawer_);
    tags_->setText(joinedTags(e.facts.tags));
    tags_->setReadOnly(fromDrawer_);
    notes_->setPlainText(q(e.facts.notes));
    notes_->setReadOnly(fromDrawer_);
}

void SourceDetails::showColours() {
    const CrateEntry& e = *entries_.front();
    if (entries_.size() > 1) {
        title_->setText(tr("%1 sources").arg(entries_.size()));
        size_->setText(tr("Their colours together, each counting as much as the others."));
    } else {
        title_->setText(q(e.name()));
        QString says =
            e.width > 0 ? tr("%1 × %2 px, %3").arg(e.width).arg(e.height).arg(q(e.format)) : q(e.format);
        if (e.width > 0 && !isLargeEnough(e))
            says += tr(" · %1 ppi on a 12-inch front").arg(300 * std::min(e.width, e.height) / kFrontPixels);
        if (e.pages > 1) says += tr(" · the first of %1 pages").arg(e.pages);
        if (!e.copies.empty()) says += tr(" · copies elsewhere: %1").arg(e.copies.size());
        size_->setText(says);
    }
    qDeleteAll(chips_->findChildren<ColourChip*>(QString(), Qt::FindDirectChildrenOnly));
    std::vector<std::vector<PaletteColour>> palettes;
    for (const EntryPtr& entry : entries_) palettes.push_back(entry->palette);
    for (const PaletteColour& c : joinedPalette(palettes)) {
        const QString name = q(nameOf(c.colour));
        auto* chip = new ColourChip(toQt(c.colour), name);
        chip->setToolTip(tr("%1, %2, %3 % of it; a click puts it into the palette")
                             .arg(name, toQt(c.colour).name())
                             .arg(c.share * 100, 0, 'f', 0));
        chip->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        static_cast<QHBoxLayout*>(chips_->layout())
            ->addWidget(chip, std::max(3, int(std::lround(c.share * 40))));
        connect(chip, &QToolButton::clicked, this, [this, c] {
            Q_EMIT coloursTaken({{nameOf(c.colour), c.colour}});
        });
    }
}

} // namespace glyptos
