#include "app/letter/text_section.h"

#include "app/letter/letters_in_hand.h"
#include "app/session/engine.h"
#include "app/widgets/colours.h"
#include "release/fields.h"
#include "type/style_name.h"
#include "type/text_edits.h"

#include <QMenu>

namespace glyptos {
namespace {

QString q(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

/// Faces that are not at hand, and what is set in their place, by name.
std::vector<std::pair<QString, QString>> facesStoodInFor(const TextSpec& spec, const FontLibrary& fonts) {
    std::vector<std::pair<QString, QString>> out;
    const auto asked = facesAskedFor(spec), got = facesFor(spec, fonts);
    const auto named = [](const FaceName& name) { return q(name.first + " " + name.second); };
    for (size_t i = 0; i < asked.size(); ++i)
        if (asked[i].first != got[i].first || traitsOf(asked[i].second) != traitsOf(got[i].second))
            out.emplace_back(named(asked[i]), named(got[i]));
    return out;
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
            tr("Write %1"),
            [&](TextContent& t) { t.spec = withText(t.spec, words_->toPlainText().toStdString()); },
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
    fillFamilies();
    connect(&engine_, &Engine::facesChanged, this, &TextSection::fillFamilies);
    style_ = new QComboBox;
    style_->setAccessibleName(tr("Style"));
    for (QComboBox* wide : {family_, style_}) {
        wide->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        wide->setMinimumContentsLength(4);
        wide->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    }
    connect(family_, &QComboBox::activated, this, [this] {
        fillStyles(family_->currentText().toStdString());
        const int regular = std::max(style_->findText(QStringLiteral("Regular")), 0);
        changeText(tr("Typeface of %1"), [&](TextContent& t) {
            setFace(t, *document_, family_->currentText().toStdString(),
                    style_->itemText(regular).toStdString());
        });
    });
    connect(style_, &QComboBox::activated, this, [this] {
        changeText(tr("Style of %1"), [&](TextContent& t) {
            changeLetters(t, *document_, [&](LetterStyle& l) {
                l.style = style_->currentText().toStdString(), l.axes.clear();
            });
        });
    });
    auto* specimens = new QPushButton(tr("See all faces"));
    specimens->setToolTip(tr("These words in every typeface at once"));
    connect(specimens, &QPushButton::clicked, this, &TextSection::specimensAsked);
    makeTuning();
    faceNote_ = roleLabel(QString(), "caution");
    form->addRow(words_);
    form->addRow(inOneRow({fields_ = fields, features_}));
    form->addRow(roleLabel(tr("Typeface"), "soft"), family_);
    form->addRow(roleLabel(tr("Style"), "soft"), inOneRow({style_, specimens}));
    form->addRow(axes_);
    form->addRow(faceNote_);
}

/// What the face can do: its features and its axes.
void TextSection::makeTuning() {
    featureList_ = new FeatureList(engine_.fonts);
    features_ = opening(tr("Letter forms ▾"),
                        tr("Ligatures, figures, small capitals and what else the face has"), featureList_);
    connect(features_->menu(), &QMenu::aboutToShow, this, &TextSection::refreshFeatures);
    connect(featureList_, &FeatureList::switched, this, [this](const FaceFeature& feature, bool on) {
        changeText(tr("%1 of %2").arg(QString::fromStdString(feature.label), QStringLiteral("%1")),
                   [&](TextContent& t) {
                       changeLetters(t, *document_, [&](LetterStyle& l) { l = withFeature(l, feature, on); });
                   });
        refreshFeatures();
    });
    axes_ = new AxisFields;
    connect(axes_, &AxisFields::moved, this, [this](const AxisValue& place, bool settled) {
        const auto move = [&](TextContent& t) {
            changeLetters(t, *document_, [&](LetterStyle& l) {
                std::erase_if(l.axes, [&](const AxisValue& a) { return a.tag == place.tag; });
                l.axes.push_back(place);
            });
        };
        changeText(tr("Axes of %1"), move, QString::fromStdString("axis " + place.tag));
        if (settled) document_->settle();
    });
}

void TextSection::refreshFeatures() {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    if (const auto* text = layer ? layer->as<TextContent>() : nullptr)
        featureList_->show(resolvedText(*text, *document_->shown()));
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

void TextSection::fillFamilies() {
    const QString now = family_->currentText();
    family_->clear();
    for (const FamilyInfo& f : engine_.fonts.families()) family_->addItem(q(f.name));
    family_->setCurrentText(now);
}

void TextSection::fillStyles(const std::string& family) {
    style_->clear();
    for (const FamilyInfo& f : engine_.fonts.families())
        if (f.name == family)
            for (const std::string& s : f.styles) style_->addItem(q(s));
}

void TextSection::refresh(const Layer& layer) {
    const auto& text = *layer.as<TextContent>();
    // The words of a track list are those of the brief.
    words_->setVisible(!text.tracks), fields_->setVisible(!text.tracks);
    if (words_->toPlainText().toStdString() != text.spec.text) words_->setPlainText(q(text.spec.text));
    // The boxes show what is drawn.
    const TextSpec spec = resolvedText(text, *document_->shown());
    const auto paragraph = engine_.renderer.paragraphs().get(spec);
    const LetterStyle& letters = lettersShown(text, *document_);
    const FacePtr used = engine_.fonts.face(letters.family, letters.style);
    family_->setCurrentText(used ? q(used->family()) : QString());
    fillStyles(used ? used->family() : std::string());
    style_->setCurrentText(used ? q(used->style()) : QString());
    if (const FacePtr face = engine_.fonts.face(letters.family, letters.style, letters.axes))
        axes_->show(*face);
    QStringList notes;
    for (const auto& [asked, got] : facesStoodInFor(spec, engine_.fonts))
        notes
            << (paragraph->isKept
                    ? tr("%1 is not on this machine; the words are drawn from the outlines that the release "
                         "keeps. Once they are changed, %2 stands in.")
                    : tr("%1 is not on this machine; %2 stands in."))
                   .arg(asked, got);
    for (const std::string& f : paragraph->stoodIn) notes << tr("Some letters come from %1.").arg(q(f));
    for (const std::string& c : paragraph->unprintable) notes << tr("No typeface here has “%1”.").arg(q(c));
    faceNote_->setText(notes.join(QLatin1Char(' ')));
    faceNote_->setVisible(!notes.isEmpty());
}

} // namespace glyptos
