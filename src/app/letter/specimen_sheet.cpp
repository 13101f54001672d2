#include "app/letter/specimen_sheet.h"

#include "app/letter/letters_in_hand.h"
#include "app/session/background.h"
#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/session/font_shelf.h"
#include "app/widgets/form_rows.h"
#include "release/edits/edits.h"
#include "release/fields.h"

#include <QApplication>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QSettings>
#include <QVBoxLayout>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

enum Order { ByName, LatelyUsed, GoingWell };
constexpr int kWidth = 396, kMostRecent = 24, kMostLetters = 60;

QString sortLabel(FaceSort sort) {
    const std::string_view word = wordFor(sort);
    return QString::fromUtf8(word.data(), qsizetype(word.size()));
}

/// Those that are `known` are not measured again, but for those that were brought in.
std::vector<FaceEntry> measuredFaces(const FontLibrary& fonts, const std::vector<FaceEntry>& known) {
    const auto families = fonts.families();
    std::vector<FaceEntry> out(families.size());
    tbb::parallel_for(size_t(0), families.size(), [&](size_t i) {
        const FamilyInfo& family = families[i];
        const auto old = std::find_if(known.begin(), known.end(), [&](const FaceEntry& entry) {
            return entry.family == family.name && !entry.brought && !family.brought;
        });
        out[i] = old == known.end() ? entryOf(family, fonts) : *old;
    });
    return out;
}

} // namespace

SpecimenSheet::SpecimenSheet(Engine& engine, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {
    setAccessibleName(tr("All faces"));
    setFixedWidth(kWidth);
    const QSettings settings;
    starred_ = settings.value(QStringLiteral("faces/starred")).toStringList();
    recent_ = settings.value(QStringLiteral("faces/recent")).toStringList();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    column->addWidget(makeHead());
    column->addWidget(makeSorts());
    column->addWidget(makeRest());
    column->addWidget(list_ = new SpecimenList(engine.fonts), 1);
    connect(list_, &SpecimenList::tried, this, &SpecimenSheet::showTried);
    connect(list_, &SpecimenList::taken, this, &SpecimenSheet::take);
    connect(list_, &SpecimenList::starToggled, this, &SpecimenSheet::toggleStar);
    connect(&measuring_, &QFutureWatcherBase::finished, this, [this] {
        isMeasuring_ = false;
        if (!isUpToDate_) return measure(); // others have come meanwhile
        if (auto all = measuring_.result()) entries_ = std::move(*all);
        refresh();
        takeAwaited();
        Q_EMIT measured();
    });
    connect(&engine_, &Engine::facesChanged, this, [this] {
        isUpToDate_ = false;
        list_->forgetPictures();
        if (isVisible() && !isMeasuring_) measure();
    });
    hide();
}

QWidget* SpecimenSheet::makeHead() {
    auto* head = new QWidget;
    auto* rows = new QVBoxLayout(head);
    rows->setContentsMargins(12, 0, 12, 0);
    rows->setSpacing(6);
    auto* top = new QHBoxLayout;
    top->addWidget(title_ = heading(tr("ALL FACES")));
    top->addStretch();
    auto* leave = wordButton(tr("Leave it as it is"), tr("Esc"));
    connect(leave, &QToolButton::clicked, this, &SpecimenSheet::leave);
    top->addWidget(leave);
    rows->addLayout(top);
    auto* second = new QHBoxLayout;
    second->addWidget(name_ = new QLineEdit, 1);
    name_->setPlaceholderText(tr("Part of a name"));
    name_->setAccessibleName(tr("Name of the face"));
    order_ = new QComboBox;
    order_->setAccessibleName(tr("Order"));
    order_->addItems({tr("By name"), tr("Lately used first"), tr("Going with this face")});
    second->addWidget(order_);
    rows->addLayout(second);
    connect(name_, &QLineEdit::textChanged, this, &SpecimenSheet::refresh);
    connect(order_, &QComboBox::activated, this, &SpecimenSheet::refresh);
    return head;
}

/// What a face is, as many as must be true at once.
QWidget* SpecimenSheet::makeSorts() {
    auto* all = new QWidget;
    auto* grid = new QGridLayout(all);
    grid->setContentsMargins(8, 0, 8, 0);
    grid->setSpacing(2);
    constexpr int kColumns = 4;
    for (size_t i = 0; i < sortWords().size(); ++i) {
        const auto sort = static_cast<FaceSort>(i);
        QToolButton* chip =
            wordButton(sortLabel(sort), tr("Only faces that are so, by their outlines"), true);
        chip->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(chip, &QToolButton::toggled, this, &SpecimenSheet::refresh);
        grid->addWidget(chip, int(i) / kColumns, int(i) % kColumns);
        sorts_.emplace_back(sort, chip);
    }
    return all;
}

QWidget* SpecimenSheet::makeRest() {
    auto* all = new QWidget;
    auto* rows = new QVBoxLayout(all);
    rows->setContentsMargins(12, 0, 12, 2);
    rows->setSpacing(4);
    const auto choice = [this](const QString& name, const QStringList& items) {
        auto* box = new QComboBox;
        box->setAccessibleName(name);
        box->addItems(items);
        connect(box, &QComboBox::activated, this, &SpecimenSheet::refresh);
        return box;
    };
    const auto check = [this](const QString& text, bool on) {
        auto* box = new QCheckBox(text);
        box->setChecked(on);
        connect(box, &QCheckBox::toggled, this, &SpecimenSheet::refresh);
        return box;
    };
    weight_ = choice(tr("Weights"), {tr("Any weight"), tr("Has light"), tr("Has bold"), tr("Has black")});
    xHeight_ = choice(tr("Height of x"), {tr("Any height of x"), tr("Small x"), tr("Large x")});
    rows->addWidget(inOneRow({weight_, xHeight_}));
    auto* row = new QHBoxLayout;
    row->addWidget(allLetters_ = check(tr("All letters"), true));
    allLetters_->setToolTip(tr("Only faces that have every character of these words"));
    row->addWidget(italic_ = check(tr("Italics"), false));
    row->addWidget(starredOnly_ = check(tr("Starred"), false));
    row->addStretch();
    row->addWidget(count_ = roleLabel(QString(), "soft"));
    rows->addLayout(row);
    rows->addWidget(takeOut_ = wordButton(QString(), tr("Words that are set in it get another face then")));
    takeOut_->hide();
    connect(takeOut_, &QToolButton::clicked, this, &SpecimenSheet::takeOut);
    return all;
}

/// Offered for the face in hand where the release holds its file.
void SpecimenSheet::refreshTakeOut() {
    const int row = list_->current();
    const bool isRow = row >= 0 && row < int(list_->rows().size());
    const std::string family = isRow ? list_->rows()[size_t(row)].family : std::string();
    takeOut_->setVisible(isRow && releaseFontOf(family, engine_, *document_->release()));
    takeOut_->setText(tr("Take %1 out of this release").arg(QString::fromStdString(family)));
}

void SpecimenSheet::takeOut() {
    const int row = list_->current();
    if (row < 0 || row >= int(list_->rows().size())) return;
    const std::string family = list_->rows()[size_t(row)].family;
    const SourcePtr font = releaseFontOf(family, engine_, *document_->release());
    if (!font) return;
    document_->preview(nullptr);
    document_->edit(tr("Take out %1").arg(QString::fromStdString(font->name)),
                    withoutFont(document_->release(), font->id));
}

void SpecimenSheet::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::selectionChanged, this, [this] {
        if (!isVisible()) return;
        layer() ? refreshWords() : leave();
    });
    hide();
}

LayerPtr SpecimenSheet::layer() const {
    const bool isOne = document_ && document_->layers().size() == 1;
    const LayerPtr one =
        isOne ? findLayer(stackOf(*document_->release(), document_->panel()), document_->layer()) : nullptr;
    return one && !one->locked && one->as<TextContent>() ? one : nullptr;
}

void SpecimenSheet::open() {
    if (!layer()) return;
    before_ = QApplication::focusWidget();
    show();
    refreshWords();
    if (!isUpToDate_ && !isMeasuring_) measure();
    list_->setFocus();
}

bool SpecimenSheet::openAt(const std::string& family) {
    if (!layer()) return false;
    awaited_ = family;
    open();
    if (isMeasured()) takeAwaited();
    return true;
}

/// What the list leaves out because of what is looked for is not waited for.
void SpecimenSheet::takeAwaited() {
    const std::string family = std::exchange(awaited_, {});
    const auto row = std::find_if(list_->rows().begin(), list_->rows().end(),
                                  [&](const Specimen& one) { return one.family == family; });
    if (!isVisible() || row == list_->rows().end()) return;
    list_->setCurrent(int(row - list_->rows().begin()));
    Q_EMIT list_->tried(list_->current());
}

void SpecimenSheet::measure() {
    isUpToDate_ = isMeasuring_ = true;
    measuring_.setFuture(inBackground([&fonts = engine_.fonts, known = entries_] {
        return Result<std::vector<FaceEntry>>(measuredFaces(fonts, known));
    }));
}

void SpecimenSheet::leave() {
    if (document_) document_->preview(nullptr);
    hide();
    if (before_) before_->setFocus();
}

void SpecimenSheet::refreshWords() {
    const LayerPtr one = layer();
    if (!one) return;
    const TextSpec words = resolvedText(*one->as<TextContent>(), *document_->release());
    const QString text = QString::fromStdString(words.text).simplified().left(kMostLetters);
    TextSpec shown;
    shown.text = text.toStdString(), shown.letters = words.letters;
    words_ = shown.text;
    list_->setWords(shown);
    refresh();
}

FaceFilter SpecimenSheet::filter() const {
    FaceFilter out;
    out.name = name_->text().trimmed().toStdString();
    for (const auto& [sort, chip] : sorts_)
        if (chip->isChecked()) out.sorts.push_back(sort);
    if (allLetters_->isChecked()) out.letters = words_;
    out.italic = italic_->isChecked();
    out.weight = static_cast<FaceFilter::Weight>(weight_->currentIndex());
    out.xHeight = static_cast<FaceFilter::XHeight>(xHeight_->currentIndex());
    return out;
}

Specimen SpecimenSheet::specimenOf(const FaceEntry& entry, const QString& caption) const {
    return {entry.family, entry.style, caption, starred_.contains(QString::fromStdString(entry.family))};
}

std::vector<Specimen> SpecimenSheet::allThatPass() const {
    std::vector<Specimen> out;
    const FaceFilter wanted = filter();
    for (const FaceEntry& entry : entries_) {
        if (!passes(entry, wanted, engine_.fonts)) continue;
        QStringList said;
        if (entry.facts)
            for (const FaceSort sort : entry.facts->sorts) said << sortLabel(sort);
        if (entry.shipped) said.prepend(tr("shipped"));
        if (entry.brought)
            said.prepend(releaseFontOf(entry.family, engine_, *document_->release())
                             ? tr("in this release")
                             : tr("only while Glyptos is open"));
        out.push_back(specimenOf(entry, said.join(QStringLiteral(", "))));
    }
    return out;
}

std::vector<Specimen> SpecimenSheet::pairs() const {
    std::vector<Specimen> out;
    const LayerPtr one = layer();
    const FaceFilter wanted = filter();
    const auto own = std::find_if(entries_.begin(), entries_.end(), [&](const FaceEntry& e) {
        return one && e.family == one->as<TextContent>()->spec.letters.family;
    });
    if (own == entries_.end()) return out;
    for (const FacePair& pair : pairsFor(*own, entries_))
        if (passes(entries_[pair.entry], wanted, engine_.fonts))
            out.push_back(specimenOf(entries_[pair.entry], QString::fromStdString(pair.reason)));
    return out;
}

void SpecimenSheet::refresh() {
    if (entries_.empty()) {
        count_->setText(tr("Looking at the faces…"));
        return;
    }
    std::vector<Specimen> rows = order_->currentIndex() == GoingWell ? pairs() : allThatPass();
    if (starredOnly_->isChecked()) std::erase_if(rows, [](const Specimen& row) { return !row.starred; });
    if (order_->currentIndex() == LatelyUsed) {
        const auto place = [this](const Specimen& row) {
            const auto at = recent_.indexOf(QString::fromStdString(row.family));
            return at < 0 ? qsizetype(kMostRecent) : at;
        };
        std::stable_sort(rows.begin(), rows.end(),
                         [&](const Specimen& a, const Specimen& b) { return place(a) < place(b); });
    }
    count_->setText(tr("%1 of %2").arg(rows.size()).arg(entries_.size()));
    list_->setRows(std::move(rows));
    refreshTakeOut();
}

ReleasePtr SpecimenSheet::withFace(const Specimen& specimen) const {
    return withChangedLayer(document_->release(), document_->panel(), layer()->id, [&](Layer& l) {
        if (auto* text = std::get_if<TextContent>(&l.content))
            setFace(*text, *document_, specimen.family, specimen.style);
    });
}

void SpecimenSheet::showTried(int row) {
    if (!layer()) return;
    const bool isRow = row >= 0 && row < int(list_->rows().size());
    document_->preview(isRow ? withFace(list_->rows()[size_t(row)]) : nullptr);
    refreshTakeOut();
}

void SpecimenSheet::take(int row) {
    const LayerPtr one = layer();
    if (!one || row < 0 || row >= int(list_->rows().size())) return;
    const Specimen specimen = list_->rows()[size_t(row)];
    document_->edit(tr("Typeface of %1").arg(QString::fromStdString(one->name)), withFace(specimen));
    const QString family = QString::fromStdString(specimen.family);
    recent_.removeAll(family);
    recent_.prepend(family);
    while (recent_.size() > kMostRecent) recent_.removeLast();
    QSettings().setValue(QStringLiteral("faces/recent"), recent_);
}

void SpecimenSheet::toggleStar(int row) {
    if (row < 0 || row >= int(list_->rows().size())) return;
    const QString family = QString::fromStdString(list_->rows()[size_t(row)].family);
    if (!starred_.removeOne(family)) starred_ << family;
    QSettings().setValue(QStringLiteral("faces/starred"), starred_);
    refresh();
}

void SpecimenSheet::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return leave();
    QWidget::keyPressEvent(event);
}

} // namespace glyptos
