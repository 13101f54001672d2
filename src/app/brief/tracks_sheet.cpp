#include "app/brief/tracks_sheet.h"

#include "app/session/background.h"
#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "release/fields.h"
#include "release/track_times.h"

#include <QButtonGroup>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace glyptos {
TracksSheet::TracksSheet(QWidget* parent)
    : QDialog(parent) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Tracks from elsewhere"));
    resize(860, 520);
    auto* row = new QHBoxLayout(this);
    auto* left = new QVBoxLayout;
    left->addWidget(heading(tr("Paste, open or search")));
    auto* pages = new QStackedWidget;
    auto* words = new QHBoxLayout;
    auto* group = new QButtonGroup(this);
    const std::tuple<QString, QString, QWidget*> places[] = {
        {tr("Text"), tr("Paste or type a list, one track a line"), makeText()},
        {tr("Song feed"), tr("What a streaming service has of an artist"), makeFeed()}};
    for (const auto& [name, why, page] : places) {
        QToolButton* button = wordButton(name, why, true);
        group->addButton(button, pages->addWidget(page));
        words->addWidget(button);
    }
    words->addStretch();
    group->button(0)->setChecked(true);
    connect(group, &QButtonGroup::idClicked, pages, &QStackedWidget::setCurrentIndex);
    left->addLayout(words);
    left->addWidget(pages, 1);
    auto* file = new QPushButton(tr("A list: CSV, cue sheet, text…"));
    auto* audio = new QPushButton(tr("Audio files…"));
    connect(file, &QPushButton::clicked, this, [this] {
        const QString name = QFileDialog::getOpenFileName(
            this, tr("A track list"), {}, tr("Track lists (*.csv *.tsv *.cue *.txt);;All files (*)"));
        if (!name.isEmpty()) readFiles({name});
    });
    connect(audio, &QPushButton::clicked, this, [this] {
        readFiles(QFileDialog::getOpenFileNames(
            this, tr("Audio files"), {},
            tr("Audio (*.wav *.aif *.aiff *.flac *.mp3 *.ogg *.oga *.opus *.m4a);;All files (*)")));
    });
    left->addWidget(inOneRow({file, audio}));
    row->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->addWidget(heading(tr("As it was understood")));
    preview_ = new QTableWidget(0, 3);
    preview_->setAccessibleName(tr("Tracks as they were understood"));
    preview_->setHorizontalHeaderLabels({tr("Side"), tr("Title"), tr("Length")});
    preview_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    preview_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    preview_->setColumnWidth(0, 46);
    preview_->setColumnWidth(2, 70);
    preview_->verticalHeader()->hide();
    preview_->verticalHeader()->setDefaultSectionSize(25);
    preview_->setShowGrid(false);
    preview_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    right->addWidget(preview_, 1);
    right->addWidget(says_ = roleLabel(QString(), "soft"));
    replace_ = new QPushButton(tr("Take it as the track list"));
    replace_->setProperty("role", "main");
    append_ = new QPushButton(tr("Put it behind the list"));
    auto* leave = new QPushButton(tr("Cancel"));
    for (QPushButton* b : {replace_, append_, leave}) b->setAutoDefault(false);
    connect(replace_, &QPushButton::clicked, this, [this] {
        Q_EMIT taken(list_, true);
        accept();
    });
    connect(append_, &QPushButton::clicked, this, [this] {
        Q_EMIT taken(list_, false);
        accept();
    });
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    right->addWidget(inOneRow({replace_, append_, leave}));
    row->addLayout(right, 1);
    connect(&reader_, &QFutureWatcherBase::finished, this, [this] {
        show(reader_.future().result());
        Q_EMIT read();
    });
    show(TrackList{});
}

TracksSheet::~TracksSheet() {
    reader_.waitForFinished();
}

QWidget* TracksSheet::makeText() {
    text_ = new QPlainTextEdit;
    text_->setAccessibleName(tr("Track list as text"));
    text_->setPlaceholderText(
        tr("Side A\n1. Low Water 3:42\n2. Lantern Room 4:08\n\nSide B\n1. Slack Tide 6:20"));
    connect(text_, &QPlainTextEdit::textChanged, this,
            [this] { show(tracksFromText(text_->toPlainText().toStdString())); });
    return text_;
}

QWidget* TracksSheet::makeFeed() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 6, 0, 0);
    search_ = new QLineEdit;
    search_->setAccessibleName(tr("Search the song feed"));
    search_->setPlaceholderText(tr("Artist, release or song"));
    found_ = new QListWidget;
    found_->setAccessibleName(tr("Releases in the song feed"));
    column->addWidget(search_);
    column->addWidget(found_, 1);
    auto feed = shippedSongFeed();
    if (feed)
        feed_ = std::move(*feed);
    else
        column->addWidget(roleLabel(q(feed.error().message), "caution"));
    connect(search_, &QLineEdit::textChanged, this, &TracksSheet::findInFeed);
    connect(found_, &QListWidget::currentRowChanged, this, [this](int at) {
        const auto all = feed_.find(search_->text().toStdString());
        if (at >= 0 && size_t(at) < all.size()) show(all[size_t(at)]->list());
    });
    findInFeed();
    return page;
}

void TracksSheet::findInFeed() {
    found_->clear();
    for (const FeedRelease* r : feed_.find(search_->text().toStdString()))
        found_->addItem(q(r->artist) + QStringLiteral(" · ") + q(r->title) +
                        QStringLiteral(" (%1)").arg(q(r->year)));
}

void TracksSheet::readFiles(const QStringList& files) {
    if (files.isEmpty() || reader_.isRunning()) return;
    says_->setText(tr("Reading %1 …").arg(QFileInfo(files.front()).fileName()));
    reader_.setFuture(inBackground([files]() -> Result<TrackList> {
        std::vector<std::filesystem::path> paths;
        for (const QString& f : files) paths.emplace_back(f.toStdString());
        return paths.size() > 1 || isAudioName(paths.front().string()) ? tracksFromAudio(paths)
                                                                       : readTrackList(paths.front());
    }));
}

void TracksSheet::show(const Result<TrackList>& list) {
    list_ = list ? *list : TrackList{};
    preview_->setRowCount(int(list_.tracks.size()));
    for (int i = 0; i < int(list_.tracks.size()); ++i) {
        const Track& t = list_.tracks[size_t(i)];
        const QString cells[] = {q(t.side), q(t.title), q(durationText(t.seconds))};
        for (int c = 0; c < 3; ++c) preview_->setItem(i, c, new QTableWidgetItem(cells[c]));
    }
    QStringList says;
    if (!list && !text_->toPlainText().trimmed().isEmpty())
        says << q(list.error().message);
    else if (!list)
        says << (reader_.isFinished() && reader_.future().isValid() ? q(list.error().message) : QString());
    for (const std::string& note : list_.notes) says << q(note);
    for (const std::string& caution : timeCautions(list_.tracks)) says << q(caution);
    setRole(says_, says.join(QString()).isEmpty() ? "soft" : "caution");
    if (list && !list_.tracks.empty())
        says.prepend(tr("Tracks: %1, %2 in all.")
                         .arg(list_.tracks.size())
                         .arg(q(durationText(totalSeconds(list_.tracks)))));
    says_->setText(says.join(QLatin1Char(' ')));
    for (QPushButton* b : {replace_, append_}) b->setEnabled(!list_.tracks.empty());
}

} // namespace glyptos
