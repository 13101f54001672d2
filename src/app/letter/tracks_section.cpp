#include "app/letter/tracks_section.h"

#include "app/letter/setting_section.h"
#include "release/edits/style_edits.h"
#include "release/fields.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

namespace glyptos {
namespace {

constexpr int kFact = Qt::UserRole;

QString factName(TrackFact fact) {
    const QString names[]{TracksSection::tr("Number"), TracksSection::tr("Title"),
                          TracksSection::tr("Performer"), TracksSection::tr("Length")};
    return names[size_t(fact)];
}

QComboBox* choiceOf(const QString& name, const QStringList& items, const QString& why) {
    QComboBox* out = SettingSection::choice(name, items);
    out->setToolTip(why);
    return out;
}

} // namespace

TracksSection::TracksSection(Engine& engine)
    : LayerSection(engine) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(empty_ = roleLabel(tr("There are no tracks to show yet."), "caution"));
    auto* brief = wordButton(tr("The tracks in the brief"), tr("Titles and lengths are changed there"));
    auto* free = wordButton(tr("Set free"), tr("The words as they are now, no longer those of the brief"));
    connect(brief, &QToolButton::clicked, this, &TracksSection::briefAsked);
    connect(free, &QToolButton::clicked, this, &TracksSection::setFree);
    column->addWidget(inOneRow({brief, free}));
    column->addWidget(makeFacts());
    auto* form = figuresForm();
    column->addLayout(form);
    makeTracks(form);
    makeStyles(form);
}

QWidget* TracksSection::makeFacts() {
    constexpr int kHeight = 76; // four rows
    facts_ = new QListWidget;
    facts_->setAccessibleName(tr("Facts of a track"));
    facts_->setToolTip(tr("What is shown, in this order: drag them, or Ctrl and the arrows"));
    facts_->setDragDropMode(QAbstractItemView::InternalMove);
    facts_->setFixedHeight(kHeight);
    facts_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    facts_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(facts_, &QListWidget::itemChanged, this, &TracksSection::takeFacts);
    connect(facts_->model(), &QAbstractItemModel::rowsMoved, this, &TracksSection::takeFacts,
            Qt::QueuedConnection);
    facts_->installEventFilter(this);
    return facts_;
}

/// Ctrl and the arrows move a fact here, though they move a layer elsewhere.
bool TracksSection::eventFilter(QObject* watched, QEvent* event) {
    const bool isKey = event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress;
    if (watched != facts_ || !isKey) return LayerSection::eventFilter(watched, event);
    const auto& key = *static_cast<QKeyEvent*>(event);
    if (key.modifiers() != Qt::ControlModifier || (key.key() != Qt::Key_Up && key.key() != Qt::Key_Down))
        return LayerSection::eventFilter(watched, event);
    if (event->type() == QEvent::KeyPress) moveFact(key.key() == Qt::Key_Up ? -1 : 1);
    event->accept();
    return true;
}

void TracksSection::makeTracks(QFormLayout* form) {
    numbers_ = choiceOf(tr("Numbers"), {tr("A1"), tr("1, each side"), tr("1"), tr("01")},
                        tr("Side and place, from one on each side, or right through"));
    performers_ = choiceOf(tr("Place of performers"), {tr("Below titles"), tr("A column")},
                           tr("Where a track's performer stands"));
    sides_ = wordButton(tr("All sides ▾"), tr("Which sides are listed here"));
    sides_->setPopupMode(QToolButton::InstantPopup);
    sides_->setMenu(new QMenu(sides_));
    connect(sides_->menu(), &QMenu::aboutToShow, this, &TracksSection::fillSides);
    first_ = new NumberField(tr("First track"), plainUnit(QString(), 0, 1, 1, 9999));
    last_ = new NumberField(tr("Last track"), plainUnit(QString(), 0, 1, 0, 9999));
    first_->setToolTip(tr("Counted through the sides that are listed here"));
    last_->setToolTip(tr("0: to the end; what follows may stand on another panel"));
    headings_ = new QCheckBox(tr("Headed"));
    headings_->setToolTip(tr("A line over each side"));
    word_ = new QLineEdit;
    word_->setAccessibleName(tr("Word before a side"));
    word_->setToolTip(tr("“Side” gives “Side A”; “Disc”, “Hlið”, or nothing"));
    form->addRow(new FieldLabel(tr("Tracks"), first_), inOneRow({first_, last_}));
    form->addRow(roleLabel(tr("Numbers"), "soft"), inOneRow({numbers_, performers_}));
    form->addRow(roleLabel(tr("Sides"), "soft"), inOneRow({sides_, headings_}));
    const auto bindList = [this](NumberField* field, int TrackListing::*which) {
        bind(field, tr("Tracks of %1"), [which](Layer& l, double v) {
            auto* text = std::get_if<TextContent>(&l.content);
            if (text && text->tracks) (*text->tracks).*which = int(v);
        });
    };
    bindList(first_, &TrackListing::first), bindList(last_, &TrackListing::last);
    connect(numbers_, &QComboBox::activated, this, [this](int i) {
        changeList(tr("Numbers of %1"), [i](TrackListing& t) { t.numbers = static_cast<TrackNumbers>(i); });
    });
    connect(performers_, &QComboBox::activated, this, [this](int i) {
        changeList(tr("Performers of %1"), [i](TrackListing& t) { t.performerBelow = i == 0; });
    });
    connect(headings_, &QCheckBox::clicked, this,
            [this](bool on) { changeList(tr("Sides of %1"), [on](TrackListing& t) { t.headings = on; }); });
    connect(word_, &QLineEdit::editingFinished, this, [this] {
        changeList(tr("Sides of %1"),
                   [word = word_->text().trimmed().toStdString()](TrackListing& t) { t.headingWord = word; });
    });
}

void TracksSection::makeStyles(QFormLayout* form) {
    const QString names[]{tr("Figures"), tr("Performers"), tr("Headings")};
    for (int i = 0; i < int(styles_.size()); ++i) {
        styles_[size_t(i)] = choiceOf(tr("Style of %1").arg(names[i].toLower()), {},
                                      tr("A text style; titles have that of the whole list"));
        connect(styles_[size_t(i)], &QComboBox::activated, this, [this, i](int at) {
            const LayerPtr layer = document_->selectedLayer();
            if (!layer) return;
            const std::string style = styles_[size_t(i)]->itemData(at).toString().toStdString();
            document_->edit(
                tr("Style of %1").arg(QString::fromStdString(layer->name)),
                withTrackLettersOf(document_->release(), document_->panel(), layer->id, i + 1, style));
        });
        const bool isHeading = size_t(i) + 1 == styles_.size();
        form->addRow(roleLabel(names[i], "soft"),
                     isHeading ? inOneRow({styles_[size_t(i)], word_}) : styles_[size_t(i)]);
    }
}

bool TracksSection::fits(const Layer& layer) const {
    const auto* text = layer.as<TextContent>();
    return text && text->tracks;
}

void TracksSection::changeList(const QString& name, const std::function<void(TrackListing&)>& edit) {
    change(name, [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (text && text->tracks) edit(*text->tracks);
    });
}

/// As the list has them now, those that are ticked.
void TracksSection::takeFacts() {
    std::vector<TrackFact> facts;
    for (int i = 0; i < facts_->count(); ++i)
        if (facts_->item(i)->checkState() == Qt::Checked)
            facts.push_back(static_cast<TrackFact>(facts_->item(i)->data(kFact).toInt()));
    changeList(tr("Facts of %1"), [&](TrackListing& t) { t.facts = facts; });
}

void TracksSection::moveFact(int by) {
    const int from = facts_->currentRow(), to = from + by;
    if (from < 0 || to < 0 || to >= facts_->count()) return;
    {
        const QSignalBlocker quiet(facts_);
        facts_->insertItem(to, facts_->takeItem(from));
        facts_->setCurrentRow(to);
    }
    takeFacts();
}

void TracksSection::fillSides() {
    QMenu* menu = sides_->menu();
    menu->clear();
    const LayerPtr layer = document_->selectedLayer();
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    if (!text || !text->tracks) return;
    const std::vector<std::string> all = sidesOf(document_->shown()->brief.tracks);
    const std::vector<std::string>& shown = text->tracks->sides;
    menu->addAction(tr("All sides"), this,
                    [this] { changeList(tr("Sides of %1"), [](TrackListing& t) { t.sides.clear(); }); });
    for (const std::string& side : all) {
        QAction* one = menu->addAction(QString::fromStdString(side));
        one->setCheckable(true);
        one->setChecked(std::find(shown.begin(), shown.end(), side) != shown.end());
        connect(one, &QAction::triggered, this, [this, side](bool on) {
            changeList(tr("Sides of %1"), [&](TrackListing& t) {
                std::erase(t.sides, side);
                if (on) t.sides.push_back(side);
            });
        });
    }
}

void TracksSection::setFree() {
    change(tr("Set %1 free"), [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (!text || !text->tracks) return;
        text->spec = resolvedText(*text, *document_->release());
        text->tracks.reset();
    });
}

void TracksSection::refresh(const Layer& layer) {
    const TrackListing& listing = *layer.as<TextContent>()->tracks;
    const std::vector<Track>& tracks = document_->shown()->brief.tracks;
    empty_->setVisible(listedTracks(listing, tracks).empty());
    empty_->setText(tracks.empty() ? tr("The brief has no tracks yet.")
                                   : tr("None of the tracks is listed here."));
    refreshFacts(listing);
    numbers_->setCurrentIndex(int(listing.numbers));
    performers_->setCurrentIndex(listing.performerBelow ? 0 : 1);
    performers_->setEnabled(std::count(listing.facts.begin(), listing.facts.end(), TrackFact::Performer) > 0);
    first_->setValue(listing.first), last_->setValue(listing.last);
    headings_->setChecked(listing.headings);
    if (!word_->hasFocus()) word_->setText(QString::fromStdString(listing.headingWord));
    QStringList sides;
    for (const std::string& side : listing.sides) sides << QString::fromStdString(side);
    sides_->setText(sides.isEmpty() ? tr("All sides ▾")
                                    : tr("Sides %1 ▾").arg(sides.join(QStringLiteral(", "))));
    const bool hasSides = !sidesOf(tracks).empty();
    sides_->setEnabled(hasSides), headings_->setEnabled(hasSides),
        word_->setEnabled(hasSides && listing.headings);
    refreshStyles(listing);
}

void TracksSection::refreshFacts(const TrackListing& listing) {
    std::vector<TrackFact> all = listing.facts;
    for (const TrackFact fact :
         {TrackFact::Number, TrackFact::Title, TrackFact::Performer, TrackFact::Length})
        if (std::find(all.begin(), all.end(), fact) == all.end()) all.push_back(fact);
    const QSignalBlocker quiet(facts_);
    const int row = facts_->currentRow();
    facts_->clear();
    for (size_t i = 0; i < all.size(); ++i) {
        auto* item = new QListWidgetItem(factName(all[i]), facts_); // the list's own
        item->setData(kFact, int(all[i]));
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable |
                       Qt::ItemIsDragEnabled);
        item->setCheckState(i < listing.facts.size() ? Qt::Checked : Qt::Unchecked);
    }
    facts_->setCurrentRow(row);
}

void TracksSection::refreshStyles(const TrackListing& listing) {
    const TrackLetters* letters[]{&listing.figures, &listing.performers, &listing.headingLetters};
    for (size_t i = 0; i < styles_.size(); ++i) {
        QComboBox* box = styles_[i];
        box->clear();
        box->addItem(tr("As the titles"), QString());
        for (const TextStyle& style : document_->shown()->textStyles)
            box->addItem(QString::fromStdString(style.name), QString::fromStdString(style.id));
        const int at = box->findData(QString::fromStdString(letters[i]->style));
        if (letters[i]->letters && letters[i]->style.empty())
            box->addItem(tr("Of its own")), box->setCurrentIndex(box->count() - 1);
        else
            box->setCurrentIndex(std::max(at, 0));
    }
}

} // namespace glyptos
