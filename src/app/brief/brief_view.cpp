#include "app/brief/brief_view.h"

#include "app/widgets/form_rows.h"
#include "release/edits/edits.h"
#include "release/fields.h"
#include "release/track_times.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

namespace glyptos {

BriefView::BriefView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent) {
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    auto* left = new QWidget;
    left->setFixedWidth(480);
    auto* column = new QVBoxLayout(left);
    column->setContentsMargins(20, 16, 20, 14);
    column->setSpacing(9);
    column->addWidget(roleLabel(tr("Brief"), "title"));
    column->addWidget(roleLabel(tr("These words live here once and flow into every piece."), "soft"));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(12);
    form->setVerticalSpacing(6);
    makeFacts(form);
    column->addLayout(form);
    column->addSpacing(4);
    makeTracks(column);
    all->addWidget(left);
    all->addWidget(sheet_ = new PieceSheet(engine, service), 1);
    connect(sheet_, &PieceSheet::pieceChosen, this, &BriefView::pieceChosen);
    connect(tracks_, &TrackModel::notUnderstood, this,
            [this](const QString& sentence) { Q_EMIT document_->refused(sentence); });
}

void BriefView::makeFacts(QFormLayout* form) {
    const auto row = [&](const QString& label, QWidget* edit) {
        QLabel* caption = roleLabel(label, "soft");
        caption->setBuddy(edit);
        form->addRow(caption, edit);
    };
    row(tr("Artist"), field(tr("Artist"), &Brief::artist));
    row(tr("Title"), field(tr("Title"), &Brief::title));
    row(tr("Label"), field(tr("Label"), &Brief::label));
    QLineEdit* year = field(tr("Year"), &Brief::year);
    year->setFixedWidth(70);
    row(tr("Catalogue"),
        inOneRow({field(tr("Catalogue number"), &Brief::catalogue), roleLabel(tr("Year"), "soft"), year}));
    mood_ = new QLineEdit;
    mood_->setAccessibleName(tr("Mood words"));
    mood_->setPlaceholderText(tr("slow, salt, after dark"));
    connect(mood_, &QLineEdit::editingFinished, this, [this] {
        std::vector<std::string> words;
        for (const QString& word : mood_->text().split(QLatin1Char(','), Qt::SkipEmptyParts))
            if (!word.trimmed().isEmpty()) words.push_back(word.trimmed().toStdString());
        edit(tr("Mood words"), [&](Brief& b) { b.mood = words; });
    });
    row(tr("Mood"), mood_);
    QLineEdit* made = field(tr("Made in"), &Brief::madeIn);
    made->setFixedWidth(120);
    row(tr("Genre"), inOneRow({field(tr("Genre"), &Brief::genre), roleLabel(tr("Made in"), "soft"), made}));
    row(tr("Audience"), field(tr("Audience"), &Brief::audience));
    QLineEdit* barcode = field(tr("Digits of the barcode"), &Brief::barcode);
    barcode->setToolTip(tr("An EAN-13 or UPC-A; the check digit is worked out where it is missing"));
    row(tr("Barcode"), inOneRow({barcode, roleLabel(tr("Address"), "soft"),
                                 field(tr("Address that a code leads to"), &Brief::address)}));
    row(QStringLiteral("©"),
        inOneRow({field(tr("© line"), &Brief::copyright), roleLabel(QStringLiteral("℗"), "soft"),
                  field(tr("℗ line"), &Brief::phonogram)}));
    notes_ = new QPlainTextEdit;
    notes_->setAccessibleName(tr("Notes"));
    notes_->setFixedHeight(44);
    notes_->setTabChangesFocus(true);
    notes_->installEventFilter(this);
    row(tr("Notes"), notes_);
}

bool BriefView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == notes_ && event->type() == QEvent::FocusOut)
        edit(tr("Notes"), [this](Brief& b) { b.notes = notes_->toPlainText().trimmed().toStdString(); });
    return QWidget::eventFilter(watched, event);
}

void BriefView::makeTracks(QVBoxLayout* column) {
    auto* elsewhere = new QPushButton(tr("From elsewhere…"));
    elsewhere->setToolTip(tr("Tracks from pasted text, CSV, a cue sheet, audio files or the song feed"));
    connect(elsewhere, &QPushButton::clicked, this, &BriefView::askTracks);
    auto* head = new QHBoxLayout;
    head->addWidget(heading(tr("Track list")), 1);
    head->addWidget(elsewhere);
    column->addLayout(head);
    tracks_ = new TrackModel(this);
    table_ = new QTableView;
    table_->setAccessibleName(tr("Track list"));
    table_->setModel(tracks_);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(27);
    table_->setShowGrid(false);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                            QAbstractItemView::AnyKeyPressed);
    table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->setColumnWidth(0, 46);
    table_->setColumnWidth(1, 50);
    table_->setColumnWidth(3, 130);
    table_->setColumnWidth(4, 74);
    column->addWidget(table_, 1);
    auto* add = new QPushButton(tr("Add track"));
    auto* remove = new QPushButton(tr("Remove"));
    auto* up = new QPushButton(tr("Earlier"));
    auto* down = new QPushButton(tr("Later"));
    const auto row = [this] { return table_->currentIndex().row(); };
    connect(add, &QPushButton::clicked, this, [this] {
        tracks_->addTrack();
        const QModelIndex title = tracks_->index(tracks_->rowCount() - 1, 2);
        table_->setCurrentIndex(title);
        table_->edit(title);
    });
    connect(remove, &QPushButton::clicked, this, [this, row] { tracks_->removeTrack(row()); });
    connect(up, &QPushButton::clicked, this, [this, row] {
        tracks_->moveTrack(row(), -1);
        table_->selectRow(std::max(0, row() - 1));
    });
    connect(down, &QPushButton::clicked, this, [this, row] {
        tracks_->moveTrack(row(), 1);
        table_->selectRow(std::min(tracks_->rowCount() - 1, row() + 1));
    });
    column->addWidget(inOneRow({add, remove, up, down}));
    column->addWidget(totals_ = roleLabel(QString(), "soft"));
    column->addWidget(cautions_ = roleLabel(QString(), "caution"));
}

TracksSheet* BriefView::askTracks() {
    auto* sheet = new TracksSheet(this);
    connect(sheet, &TracksSheet::taken, this, &BriefView::takeTracks);
    sheet->open();
    return sheet;
}

/// Artist and title come along where the brief has none.
void BriefView::takeTracks(const TrackList& list, bool replace) {
    edit(tr("Track list from elsewhere"), [&](Brief& b) {
        if (replace) b.tracks.clear();
        b.tracks.insert(b.tracks.end(), list.tracks.begin(), list.tracks.end());
        if (b.artist.empty()) b.artist = list.artist;
        if (b.title.empty()) b.title = list.title;
    });
}

void BriefView::edit(const QString& what, const std::function<void(Brief&)>& change) {
    Brief brief = document_->release()->brief;
    change(brief);
    document_->edit(tr("%1 in the brief").arg(what), withBrief(document_->release(), std::move(brief)));
}

QLineEdit* BriefView::field(const QString& label, std::string Brief::*member) {
    auto* edit = new QLineEdit;
    edit->setAccessibleName(label);
    fields_.emplace_back(edit, member);
    connect(edit, &QLineEdit::textEdited, this, [this, label, member](const QString& text) {
        Brief brief = document_->release()->brief;
        brief.*member = text.toStdString();
        document_->edit(tr("%1 in the brief").arg(label), withBrief(document_->release(), std::move(brief)),
                        QStringLiteral("brief ") + label);
    });
    connect(edit, &QLineEdit::editingFinished, this, [this] { document_->settle(); });
    return edit;
}

void BriefView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    tracks_->setDocument(document);
    sheet_->setDocument(document);
    connect(document_, &Document::changed, this, &BriefView::refresh);
    refresh();
}

void BriefView::refresh() {
    const Brief& brief = document_->shown()->brief;
    for (const auto& [edit, member] : fields_) {
        const QString now = QString::fromStdString(brief.*member);
        if (edit->text() == now) continue;
        edit->setText(now);
        edit->setCursorPosition(0); // what is longer than the field is read from its start
    }
    QStringList mood;
    for (const std::string& word : brief.mood) mood << QString::fromStdString(word);
    if (!mood_->hasFocus()) mood_->setText(mood.join(QStringLiteral(", ")));
    if (!notes_->hasFocus()) notes_->setPlainText(QString::fromStdString(brief.notes));
    refreshTimes(brief);
}

void BriefView::refreshTimes(const Brief& brief) {
    QStringList parts, cautions;
    for (const SideTime& s : sideTimes(brief.tracks))
        if (!s.side.empty())
            parts << tr("Side %1 %2")
                         .arg(QString::fromStdString(s.side),
                              QString::fromStdString(durationText(s.seconds)));
    const int total = totalSeconds(brief.tracks);
    parts << (brief.tracks.empty() ? tr("No tracks yet")
              : total == 0         ? tr("Tracks %1, lengths not known").arg(brief.tracks.size())
                                   : tr("Tracks %1, %2 in all")
                                 .arg(brief.tracks.size())
                                 .arg(QString::fromStdString(durationText(total))));
    totals_->setText(parts.join(QStringLiteral("  ·  ")));
    for (const std::string& sentence : timeCautions(brief.tracks))
        cautions << QString::fromStdString(sentence);
    cautions_->setText(cautions.join(QLatin1Char(' ')));
    cautions_->setVisible(!cautions.isEmpty());
}

} // namespace glyptos
