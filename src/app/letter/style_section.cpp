#include "app/letter/style_section.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "release/edits/style_edits.h"
#include "type/faces/face_catalogue.h"

#include <QInputDialog>
#include <QMenu>
#include <QVBoxLayout>

namespace glyptos {
namespace {

QString partName(LookPart part) {
    const QString names[]{
        StyleSection::tr("typeface"), StyleSection::tr("style"),    StyleSection::tr("size"),
        StyleSection::tr("tracking"), StyleSection::tr("shift"),    StyleSection::tr("kerning"),
        StyleSection::tr("case"),     StyleSection::tr("language"), StyleSection::tr("letter forms"),
        StyleSection::tr("axes"),     StyleSection::tr("leading"),  StyleSection::tr("sides"),
        StyleSection::tr("hyphens"),  StyleSection::tr("colour")};
    return names[size_t(part)];
}

} // namespace

StyleSection::StyleSection(Engine& engine)
    : LayerSection(engine) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* form = figuresForm();
    column->addLayout(form);
    choice_ = new QComboBox;
    choice_->setAccessibleName(tr("Text style"));
    choice_->setToolTip(tr("Words that follow a style change with it on all pieces"));
    choice_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    choice_->setMinimumContentsLength(6);
    choice_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(choice_, &QComboBox::activated, this, &StyleSection::choose);
    auto* more = wordButton(tr("More ▾"), tr("New styles, and what becomes of this one"));
    more->setPopupMode(QToolButton::InstantPopup);
    more->setMenu(makeMenu());
    form->addRow(roleLabel(tr("Follows"), "soft"), inOneRow({choice_, more}));
    column->addWidget(own_ = roleLabel(QString(), "caution"));
    back_ = new QPushButton(tr("As the style"));
    back_->setToolTip(tr("These words look as their style says again"));
    take_ = new QPushButton(tr("Into the style"));
    take_->setToolTip(tr("The style, and all words that follow it, look as these"));
    connect(back_, &QPushButton::clicked, this, &StyleSection::goBack);
    connect(take_, &QPushButton::clicked, this, &StyleSection::takeIntoStyle);
    column->addWidget(ownRow_ = inOneRow({back_, take_}));
}

QMenu* StyleSection::makeMenu() {
    auto* menu = new QMenu(this);
    menu->addAction(tr("New style from these words…"), this, &StyleSection::makeNew);
    menu->addAction(tr("A set of styles from this face and one that goes with it"), this,
                    &StyleSection::makeSet);
    menu->addSeparator();
    rename_ = menu->addAction(tr("Rename the style…"), this, &StyleSection::rename);
    base_ = menu->addAction(tr("Base it on"));
    auto* bases = new QMenu(menu);
    base_->setMenu(bases);
    connect(bases, &QMenu::aboutToShow, this, [this, bases] {
        bases->clear();
        bases->addAction(tr("No other"), this, [this] { baseOn({}); });
        for (const TextStyle& other : document_->release()->textStyles)
            if (style() && other.id != style()->id)
                bases->addAction(QString::fromStdString(other.name), this,
                                 [this, id = other.id] { baseOn(id); });
    });
    inks_ = menu->addAction(tr("Print it in"));
    auto* inks = new QMenu(menu);
    inks_->setMenu(inks);
    connect(inks, &QMenu::aboutToShow, this, [this, inks] { offerInks(*inks); });
    remove_ = menu->addAction(tr("Remove the style"), this, [this] {
        if (const TextStyle* one = style())
            document_->edit(tr("Remove the style %1").arg(QString::fromStdString(one->name)),
                            withoutStyle(document_->release(), one->id));
    });
    return menu;
}

/// The inks of the release besides the four.
void StyleSection::offerInks(QMenu& menu) {
    menu.clear();
    const TextStyle* one = style();
    if (!one) return;
    const auto offer = [&](const QString& name, const std::string& ink) {
        auto* action = menu.addAction(name, this, [this, ink] { printIn(ink); });
        action->setCheckable(true);
        action->setChecked(one->spot == ink);
    };
    offer(tr("As its colours"), {});
    for (const Swatch& swatch : document_->release()->palette)
        if (swatch.plate != Plate::Process) offer(QString::fromStdString(swatch.name), swatch.id);
    if (menu.actions().size() == 1)
        menu.addAction(tr("Inks of their own are made in Gather, Colours"))->setEnabled(false);
}

const TextContent* StyleSection::text() const {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    return layer ? layer->as<TextContent>() : nullptr;
}

const TextStyle* StyleSection::style() const {
    const TextContent* words = text();
    return words ? textStyle(*document_->release(), words->style) : nullptr;
}

void StyleSection::choose(int index) {
    const std::string id = choice_->itemData(index).toString().toStdString();
    const LayerPtr layer = document_->selectedLayer();
    if (!layer) return;
    document_->edit(tr("Style of %1").arg(QString::fromStdString(layer->name)),
                    withStyleOf(document_->release(), document_->panel(), layer->id, id));
}

void StyleSection::makeNew() {
    const LayerPtr layer = document_->selectedLayer();
    if (!text()) return;
    bool named = false;
    const QString name =
        QInputDialog::getText(this, tr("New style"), tr("What are words called that look so?"),
                              QLineEdit::Normal, QString::fromStdString(layer->name), &named)
            .trimmed();
    if (!named || name.isEmpty()) return;
    const Made made = withTextStyle(document_->release(), name.toStdString(),
                                    lookOf(*text(), document_->piece()->flat->unit));
    document_->edit(tr("New style %1").arg(name),
                    withStyleOf(made.release, document_->panel(), layer->id, made.id));
}

/// With the best of the shipped faces that go with this one.
void StyleSection::makeSet() {
    const TextContent* words = text();
    if (!words) return;
    const LetterStyle head = words->spec.letters;
    using Partner = Result<std::optional<std::pair<std::string, std::string>>>;
    inBackground([family = head.family, &fonts = engine_.fonts]() -> Partner {
        return shippedPartner(family, fonts);
    }).then(this, [this, head, colour = words->colour](const Partner& found) {
        LetterStyle other = head;
        if (found && *found) std::tie(other.family, other.style) = **found;
        other.axes.clear(), other.features.clear(), other.letterCase = LetterCase::AsWritten;
        document_->edit(tr("A set of styles"),
                        withTextStyles(document_->release(), startingStyles(head, other, colour)));
    });
}

void StyleSection::rename() {
    const TextStyle* one = style();
    if (!one) return;
    bool named = false;
    const QString name = QInputDialog::getText(this, tr("Rename the style"), tr("Name of the style"),
                                               QLineEdit::Normal, QString::fromStdString(one->name), &named)
                             .trimmed();
    if (named && !name.isEmpty())
        document_->edit(tr("Rename the style %1").arg(name),
                        withStyleName(document_->release(), one->id, name.toStdString()));
}

void StyleSection::baseOn(const std::string& base) {
    if (const TextStyle* one = style())
        document_->edit(tr("Base of %1").arg(QString::fromStdString(one->name)),
                        withStyleBase(document_->release(), one->id, base));
}

void StyleSection::printIn(const std::string& ink) {
    if (const TextStyle* one = style())
        document_->edit(tr("Ink of the style %1").arg(QString::fromStdString(one->name)),
                        withStyleSpot(document_->release(), one->id, ink));
}

void StyleSection::takeIntoStyle() {
    const TextStyle* one = style();
    if (!one || !text()) return;
    document_->edit(
        tr("Style %1").arg(QString::fromStdString(one->name)),
        withStyleLook(document_->release(), one->id, lookOf(*text(), document_->piece()->flat->unit)));
}

void StyleSection::goBack() {
    if (const TextStyle* one = style())
        document_->edit(tr("%1 as its style").arg(QString::fromStdString(document_->selectedLayer()->name)),
                        withStyleOf(document_->release(), document_->panel(), document_->layer(), one->id));
}

void StyleSection::refresh(const Layer& layer) {
    const auto& words = *layer.as<TextContent>();
    const auto& styles = document_->shown()->textStyles;
    choice_->clear();
    choice_->addItem(tr("No style"), QString());
    for (const TextStyle& one : styles)
        choice_->addItem(QString::fromStdString(one.name), QString::fromStdString(one.id));
    choice_->setCurrentIndex(std::max(choice_->findData(QString::fromStdString(words.style)), 0));
    const TextStyle* one = textStyle(*document_->shown(), words.style);
    for (QAction* action : {rename_, base_, inks_, remove_}) action->setEnabled(one);
    QStringList own;
    if (one && document_->piece())
        for (const LookPart part : differences(lookOf(words, document_->piece()->flat->unit), one->look))
            own << partName(part);
    own_->setVisible(!own.isEmpty()), ownRow_->setVisible(!own.isEmpty());
    own_->setText(tr("Its own: %1.").arg(own.join(QStringLiteral(", "))));
}

} // namespace glyptos
