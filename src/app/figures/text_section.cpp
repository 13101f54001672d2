#include "app/figures/text_section.h"

#include "app/session/engine.h"
#include "app/widgets/colours.h"
#include "release/fields.h"
#include "type/style_name.h"

#include <QMenu>

namespace glyptos {
namespace {

QString q(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

} // namespace

TextSection::TextSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    words_ = new WordsBox;
    connect(words_, &WordsBox::refused, this,
            [this](const QString& sentence) { Q_EMIT document_->refused(sentence); });
    words_->setAccessibleName(tr("Words"));
    words_->setFixedHeight(58);
    words_->setTabChangesFocus(true);
    connect(words_, &QPlainTextEdit::textChanged, this, [this] {
        changeText(
            tr("Write %1"), [&](TextContent& t) { t.spec.text = words_->toPlainText().toStdString(); },
            QStringLiteral("write"));
    });
    auto* fields = new QPushButton(tr("From the brief"));
    auto* menu = new QMenu(fields);
    for (const FieldInfo& field : textFields())
        menu->addAction(q(field.label), this, [this, &field] { words_->insertPlainText(q(field.token)); });
    fields->setMenu(menu);
    fields->setToolTip(tr("Words that follow the brief on every piece"));
    family_ = new QComboBox;
    family_->setAccessibleName(tr("Typeface"));
    family_->setMaxVisibleItems(24);
    for (const FamilyInfo& f : engine_.fonts.families()) family_->addItem(q(f.name));
    style_ = new QComboBox;
    style_->setAccessibleName(tr("Style"));
    for (QComboBox* wide : {family_, style_}) {
        wide->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        wide->setMinimumContentsLength(8);
    }
    connect(family_, &QComboBox::activated, this, [this] {
        fillStyles(family_->currentText().toStdString());
        const int regular = std::max(style_->findText(QStringLiteral("Regular")), 0);
        changeText(tr("Typeface of %1"), [&](TextContent& t) {
            t.spec.family = family_->currentText().toStdString(),
            t.spec.style = style_->itemText(regular).toStdString();
        });
    });
    connect(style_, &QComboBox::activated, this, [this] {
        changeText(tr("Style of %1"),
                   [&](TextContent& t) { t.spec.style = style_->currentText().toStdString(); });
    });
    faceNote_ = roleLabel(QString(), "caution");
    size_ = new NumberField(tr("Type size"));
    textColour_ = new ColourButton(tr("Colour of the words"));
    tracking_ = new NumberField(tr("Tracking"), plainUnit(QStringLiteral("‰"), 0, 5, -300, 2000));
    tracking_->setToolTip(tr("Space between letters, in thousandths of the size"));
    leading_ = new NumberField(tr("Leading"), plainUnit(QStringLiteral("em"), 2, 0.05, 0.3, 5));
    measure_ = new NumberField(tr("Line width"));
    align_ = new QComboBox;
    align_->setAccessibleName(tr("Alignment"));
    align_->addItems({tr("Left"), tr("Centre"), tr("Right")});
    capitals_ = new QCheckBox(tr("Capitals"));
    const auto text = [](auto set) {
        return [set](Layer& l, double v) {
            if (auto* t = std::get_if<TextContent>(&l.content)) set(*t, v);
        };
    };
    bind(size_, tr("Type size of %1"), text([](TextContent& t, double v) { t.spec.size = v; }));
    bind(tracking_, tr("Track %1"), text([](TextContent& t, double v) { t.spec.tracking = v; }));
    bind(leading_, tr("Leading of %1"), text([](TextContent& t, double v) { t.spec.leading = v; }));
    bind(measure_, tr("Line width of %1"), text([](TextContent& t, double v) { t.spec.measure = v; }));
    connect(textColour_, &ColourButton::chosen, this,
            [this](const Ink& c) { changeText(tr("Colour %1"), [&](TextContent& t) { t.colour = c; }); });
    connect(align_, &QComboBox::activated, this, [this](int i) {
        changeText(tr("Align %1"), [&](TextContent& t) { t.spec.align = static_cast<Align>(i); });
    });
    connect(capitals_, &QCheckBox::clicked, this,
            [this](bool on) { changeText(tr("Capitals of %1"), [&](TextContent& t) { t.capitals = on; }); });
    form->addRow(words_);
    form->addRow(inOneRow({fields, capitals_}));
    form->addRow(roleLabel(tr("Typeface"), "soft"), family_);
    form->addRow(roleLabel(tr("Style"), "soft"), style_);
    form->addRow(faceNote_);
    form->addRow(new FieldLabel(tr("Size"), size_), inOneRow({size_, textColour_}));
    form->addRow(new FieldLabel(tr("Tracking"), tracking_), inOneRow({tracking_, align_}));
    form->addRow(new FieldLabel(tr("Leading"), leading_), inOneRow({leading_, measure_}));
    measure_->setToolTip(tr("Width at which lines break; 0 breaks only where you do"));
}

void TextSection::changeText(const QString& what, const std::function<void(TextContent&)>& edit,
                             const QString& merge) {
    change(
        what,
        [&](Layer& l) {
            if (auto* text = std::get_if<TextContent>(&l.content)) edit(*text);
        },
        merge);
}

void TextSection::fillStyles(const std::string& family) {
    style_->clear();
    for (const FamilyInfo& f : engine_.fonts.families())
        if (f.name == family)
            for (const std::string& s : f.styles) style_->addItem(q(s));
}

void TextSection::refresh(const Layer& layer) {
    const auto& text = *layer.as<TextContent>();
    for (NumberField* f : {size_, measure_}) f->setUnit(lengthUnit());
    if (words_->toPlainText().toStdString() != text.spec.text) words_->setPlainText(q(text.spec.text));
    // The boxes show what is drawn.
    const auto paragraph = engine_.renderer.paragraphs().get(resolvedText(text, *document_->shown()));
    family_->setCurrentText(q(paragraph->usedFamily));
    fillStyles(paragraph->usedFamily);
    style_->setCurrentText(q(paragraph->usedStyle));
    size_->setValue(text.spec.size);
    tracking_->setValue(text.spec.tracking);
    leading_->setValue(text.spec.leading);
    measure_->setValue(text.spec.measure);
    align_->setCurrentIndex(int(text.spec.align));
    capitals_->setChecked(text.capitals);
    textColour_->setColour(text.colour, document_->shown()->palette);
    QStringList notes;
    if (paragraph->usedFamily != text.spec.family ||
        traitsOf(paragraph->usedStyle) != traitsOf(text.spec.style))
        notes << tr("%1 %2 is not on this machine; %3 %4 stands in.")
                     .arg(q(text.spec.family), q(text.spec.style), q(paragraph->usedFamily),
                          q(paragraph->usedStyle));
    for (const std::string& f : paragraph->stoodIn) notes << tr("Some letters come from %1.").arg(q(f));
    for (const std::string& c : paragraph->unprintable) notes << tr("No typeface here has “%1”.").arg(q(c));
    faceNote_->setText(notes.join(QLatin1Char(' ')));
    faceNote_->setVisible(!notes.isEmpty());
}

} // namespace glyptos
