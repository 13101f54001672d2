#include "app/letter/setting_section.h"

#include "app/letter/letters_in_hand.h"
#include "app/session/background.h"
#include "app/session/engine.h"
#include "base/overloaded.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/layer_way.h"
#include "type/faces/face_features.h"
#include "type/text_edits.h"
#include "type/text_fit.h"

#include <QMenu>
#include <QVBoxLayout>
#include <numbers>

namespace glyptos {
namespace {

/// Languages whose words can be divided, as far as their patterns are there.
QComboBox* languageChoice(const QString& name, const Hyphenator& hyphenator) {
    QComboBox* out = SettingSection::choice(name, {SettingSection::tr("No language")});
    out->setItemData(0, QString());
    for (const char* code : {"en-GB", "en-US", "de", "es", "fr", "is", "it", "nb", "nn", "sv"})
        if (hyphenator.has(code)) {
            const QLocale locale{QString::fromLatin1(code)};
            QString label = QLocale::languageToString(locale.language());
            if (QLatin1String(code).contains(QLatin1Char('-')))
                label += QLatin1Char(' ') + QString::fromLatin1(code).section(QLatin1Char('-'), 1);
            out->addItem(label, QString::fromLatin1(code));
        }
    return out;
}

} // namespace

QComboBox* SettingSection::choice(const QString& name, const QStringList& items) {
    auto* out = new QComboBox;
    out->setAccessibleName(name);
    out->addItems(items);
    out->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    out->setMinimumContentsLength(4); // shares its row with another field
    out->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    return out;
}

SettingSection::SettingSection(Engine& engine)
    : LayerSection(engine) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(marked_ = roleLabel(QString(), "good"));
    auto* form = figuresForm();
    column->addLayout(form);
    makeSizes(form);
    makeSpaces(form);
    makeFrame(form);
    column->addWidget(makeOverflow());
}

void SettingSection::changeText(const QString& name, const Change& edit) {
    change(name, [&](Layer& l) {
        if (auto* text = std::get_if<TextContent>(&l.content)) edit(*text);
    });
}

void SettingSection::bindText(NumberField* field, const QString& name,
                              std::function<void(TextContent&, double)> set) {
    bind(field, name, [set = std::move(set)](Layer& l, double v) {
        if (auto* text = std::get_if<TextContent>(&l.content)) set(*text, v);
    });
}

void SettingSection::makeSizes(QFormLayout* form) {
    size_ = new NumberField(tr("Type size"));
    size_->setToolTip(tr("Size of the letters; takes mm, pt and px"));
    colour_ = new ColourButton(tr("Colour of the words"));
    capitals_ = new NumberField(tr("Height of capitals"));
    capitals_->setToolTip(tr("How high a capital stands"));
    width_ = new NumberField(tr("Width of the words"));
    width_->setToolTip(tr("The size at which the longest line is as wide"));
    bindText(size_, tr("Type size of %1"), [this](TextContent& t, double v) {
        if (v > 0)
            changeLetters(t, *document_,
                          [k = v / lettersShown(t, *document_).size](LetterStyle& l) { l.size *= k; });
    });
    bindText(capitals_, tr("Type size of %1"), [this](TextContent& t, double v) {
        const LetterStyle& letters = lettersShown(t, *document_);
        const FacePtr face = engine_.fonts.face(letters.family, letters.style, letters.axes);
        const double now = face ? capHeightEm(*face) * letters.size : 0;
        if (now > 0 && v > 0) changeLetters(t, *document_, [k = v / now](LetterStyle& l) { l.size *= k; });
    });
    bindText(width_, tr("Type size of %1"), [this](TextContent& t, double v) { setWidth(t, v); });
    connect(colour_, &ColourButton::chosen, this, [this](const Ink& c) {
        changeText(tr("Colour %1"), [&](TextContent& t) { setInk(t, *document_, c); });
    });
    form->addRow(new FieldLabel(tr("Size"), size_), inOneRow({size_, colour_}));
    form->addRow(new FieldLabel(tr("Capitals"), capitals_), inOneRow({capitals_, width_}));
}

/// As the words are shown: fields filled.
void SettingSection::setWidth(TextContent& text, double width) const {
    const TextSpec shown = resolvedText(text, *document_->shown());
    const auto fitted = fittedToWidth(shown, width, engine_.fonts);
    if (!fitted) return;
    const double factor = fitted->letters.size / shown.letters.size;
    text.spec = withLetters(text.spec, [factor](LetterStyle& l) { l.size *= factor; });
}

void SettingSection::makeSpaces(QFormLayout* form) {
    tracking_ = new NumberField(tr("Tracking"), plainUnit(QStringLiteral("‰"), 0, 5, -300, 2000));
    tracking_->setToolTip(tr("Space between letters, in thousandths of the size"));
    leading_ = new NumberField(tr("Leading"), plainUnit(QStringLiteral("em"), 2, 0.05, 0.3, 5));
    leading_->setToolTip(tr("From line to line, in sizes of the letters"));
    shift_ = new NumberField(tr("Shift of the baseline"), plainUnit(QStringLiteral("em"), 2, 0.02, -3, 3));
    shift_->setToolTip(tr("How far the letters stand above the line"));
    kerning_ = choice(tr("Kerning"), {tr("By face"), tr("By eye"), tr("None")});
    kerning_->setToolTip(
        tr("Space between pairs: as the face has it, or so that the areas between letters are even"));
    case_ = choice(tr("Case"), {tr("Aa"), tr("AA"), tr("aa")});
    case_->setToolTip(tr("As written, all in capitals, or all in small letters"));
    language_ = languageChoice(tr("Language"), engine_.fonts.hyphenator());
    align_ = choice(tr("Alignment"), {tr("Left"), tr("Centre"), tr("Right"), tr("Justified")});
    const auto letters = [this](auto set) {
        return [this, set](TextContent& t, double v) {
            changeLetters(t, *document_, [&](LetterStyle& l) { set(l, v); });
        };
    };
    bindText(tracking_, tr("Track %1"), letters([](LetterStyle& l, double v) { l.tracking = v; }));
    bindText(shift_, tr("Shift %1"), letters([](LetterStyle& l, double v) { l.shift = v; }));
    bindText(leading_, tr("Leading of %1"), [](TextContent& t, double v) { t.spec.leading = v; });
    const auto choose = [this](QComboBox* box, const QString& name, auto set) {
        connect(box, &QComboBox::activated, this, [this, name, set](int i) {
            changeText(name, [&](TextContent& t) {
                changeLetters(t, *document_, [&](LetterStyle& l) { set(l, i); });
            });
        });
    };
    choose(kerning_, tr("Kerning of %1"), [](LetterStyle& l, int i) { l.kerning = static_cast<Kerning>(i); });
    choose(case_, tr("Case of %1"), [](LetterStyle& l, int i) { l.letterCase = static_cast<LetterCase>(i); });
    connect(language_, &QComboBox::activated, this,
            [this](int i) { setLanguage(language_->itemData(i).toString().toStdString()); });
    connect(align_, &QComboBox::activated, this, [this](int i) {
        changeText(tr("Align %1"), [&](TextContent& t) { t.spec.align = static_cast<Align>(i); });
    });
    form->addRow(new FieldLabel(tr("Tracking"), tracking_), inOneRow({tracking_, kerning_}));
    form->addRow(new FieldLabel(tr("Leading"), leading_), inOneRow({leading_, align_}));
    form->addRow(new FieldLabel(tr("Shift"), shift_), inOneRow({shift_, case_}));
}

void SettingSection::setLanguage(const std::string& language) {
    const auto read = [&fonts = engine_.fonts, language] {
        return Result<bool>(fonts.hyphenator().knows(language));
    };
    inBackground(read).then(this, [this, language, layer = document_->layer()](const Result<bool>&) {
        if (document_->layer() != layer) return;
        changeText(tr("Language of %1"), [&](TextContent& t) {
            changeLetters(t, *document_, [&](LetterStyle& l) { l.language = language; });
        });
    });
}

QCheckBox* SettingSection::makeSwitch(const QString& text, const QString& why, bool TextSpec::*which) {
    auto* box = new QCheckBox(text);
    box->setToolTip(why);
    connect(box, &QCheckBox::clicked, this, [this, which](bool on) {
        changeText(tr("Lines of %1"), [&](TextContent& t) { t.spec.*which = on; });
    });
    return box;
}

void SettingSection::refresh(const Layer& layer) {
    const auto& text = *layer.as<TextContent>();
    const auto set = engine_.renderer.paragraphs().get(resolvedText(text, *document_->shown()));
    for (NumberField* f : {size_, capitals_, width_, areaWidth_, areaHeight_, pathStart_, radius_})
        f->setUnit(lengthUnit());
    const auto marked = document_->lettersInHand();
    marked_->setVisible(marked.has_value());
    if (marked)
        marked_->setText(
            tr("For “%1” alone.")
                .arg(QString::fromStdString(text.spec.text.substr(marked->from, marked->to - marked->from))
                         .simplified()
                         .left(30)));
    refreshSizes(text, *set);
    const LetterStyle& letters = lettersShown(text, *document_);
    tracking_->setValue(letters.tracking), shift_->setValue(letters.shift);
    leading_->setValue(text.spec.leading);
    kerning_->setCurrentIndex(int(letters.kerning)), case_->setCurrentIndex(int(letters.letterCase));
    const QString language = QString::fromStdString(letters.language);
    if (language_->findData(language) < 0) language_->addItem(language, language);
    language_->setCurrentIndex(language_->findData(language));
    align_->setCurrentIndex(int(text.spec.align));
    refreshFrame(text, *set);
}

void SettingSection::refreshSizes(const TextContent& text, const Paragraph& set) {
    const LetterStyle& letters = lettersShown(text, *document_);
    size_->setValue(letters.size);
    const FacePtr face = engine_.fonts.face(letters.family, letters.style, letters.axes);
    capitals_->setValue(face ? capHeightEm(*face) * letters.size : 0);
    double widest = 0;
    for (const SetLine& line : set.lines) widest = std::max(widest, line.width);
    width_->setValue(widest);
    colour_->setColour(inkShown(text, *document_), document_->shown()->palette);
}

} // namespace glyptos
