#include "app/window/start_sheet.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/form_words.h"
#include "release/edits/edits.h"

#include <QButtonGroup>
#include <QGridLayout>
#include <QPixmap>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kMiniature = 118, kColumns = 4;

/// The words that a composition shows until the brief has its own.
Brief exampleBrief() {
    Brief out;
    out.artist = "The Gannet Hours";
    out.title = "Slack Tide Almanac";
    out.label = "Gannet Street Recordings";
    out.catalogue = "GSR 027";
    out.year = "2026";
    return out;
}

} // namespace

StartSheet::StartSheet(RenderService& service, const FormList& forms, QWidget* parent)
    : QDialog(parent)
    , service_(service)
    , forms_(forms) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("A new release"));
    resize(900, 600);
    auto* column = new QVBoxLayout(this);
    auto* row = new QHBoxLayout;
    row->addWidget(makePieces());
    row->addWidget(makeStarts(), 1);
    column->addLayout(row, 1);
    column->addWidget(note_ = roleLabel(QString(), "soft"));
    begin_ = new QPushButton(tr("Begin"));
    begin_->setProperty("role", "main");
    begin_->setDefault(true);
    auto* leave = new QPushButton(tr("Cancel"));
    leave->setAutoDefault(false);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    buttons->addWidget(leave);
    buttons->addWidget(begin_);
    column->addLayout(buttons);
    connect(begin_, &QPushButton::clicked, this, [this] {
        Q_EMIT begun(release());
        accept();
    });
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    refresh();
    askMiniatures();
}

QWidget* StartSheet::makePieces() {
    auto* side = new QWidget;
    side->setFixedWidth(250);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 10, 0);
    column->addWidget(heading(tr("Who and what")));
    artist_ = new QLineEdit;
    artist_->setAccessibleName(tr("Artist"));
    artist_->setPlaceholderText(tr("Artist"));
    title_ = new QLineEdit;
    title_->setAccessibleName(tr("Title"));
    title_->setPlaceholderText(tr("Title"));
    // The compositions show the words as they are being typed.
    soon_.setSingleShot(true);
    soon_.setInterval(120);
    connect(&soon_, &QTimer::timeout, this, &StartSheet::askMiniatures);
    for (QLineEdit* line : {artist_, title_})
        connect(line, &QLineEdit::textChanged, this, [this] { soon_.start(); });
    column->addWidget(artist_);
    column->addWidget(title_);
    column->addSpacing(8);
    column->addWidget(heading(tr("Pieces wanted")));
    auto* list = new QWidget;
    auto* inside = new QVBoxLayout(list);
    inside->setContentsMargins(0, 0, 0, 0);
    std::optional<FormGroup> group;
    for (const auto& form : forms_) {
        if (form->retired) continue;
        if (group != form->group) inside->addWidget(roleLabel(formGroupWord(form->group), "soft"));
        group = form->group;
        auto* box = new QCheckBox(q(form->name));
        box->setToolTip(q(form->note));
        box->setChecked(form->id == "digital-cover" || form->id == "sleeve-12");
        connect(box, &QCheckBox::toggled, this, &StartSheet::refresh);
        inside->addWidget(box);
        pieces_.emplace_back(box, form);
    }
    inside->addStretch();
    column->addWidget(scrolling(list), 1);
    return side;
}

QWidget* StartSheet::makeStarts() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(heading(tr("Starts from")));
    auto* board = new QWidget;
    auto* grid = new QGridLayout(board);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(8);
    auto starts = shippedStarts();
    if (starts) starts_ = std::move(*starts);
    auto* group = new QButtonGroup(this);
    for (size_t i = 0; i <= starts_.size(); ++i) {
        auto* button = new QToolButton;
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setIconSize({kMiniature, kMiniature});
        button->setText(i == 0 ? tr("Nothing") : q(starts_[i - 1].name));
        button->setAccessibleName(button->text());
        button->setToolTip(i == 0 ? tr("Empty pieces") : q(starts_[i - 1].note));
        button->setCheckable(true);
        button->setFixedSize(kMiniature + 22, kMiniature + 34);
        group->addButton(button, int(i));
        grid->addWidget(button, int(i) / kColumns, int(i) % kColumns);
        buttons_.push_back(button);
    }
    QPixmap bare(kMiniature, kMiniature);
    bare.fill(Qt::white);
    buttons_.front()->setIcon(bare);
    buttons_.front()->setChecked(true);
    connect(group, &QButtonGroup::idClicked, this, [this](int id) {
        chosen_ = size_t(id);
        refresh();
    });
    auto* holder = new QWidget;
    auto* inside = new QVBoxLayout(holder);
    inside->setContentsMargins(0, 0, 0, 0);
    inside->addWidget(board);
    inside->addStretch();
    column->addWidget(scrolling(holder), 1);
    if (!starts) column->addWidget(roleLabel(q(starts.error().message), "caution"));
    return page;
}

void StartSheet::refresh() {
    int pieces = 0;
    for (const auto& [box, form] : pieces_) pieces += box->isChecked();
    begin_->setEnabled(pieces > 0);
    note_->setText(pieces == 0    ? tr("Choose at least one piece.")
                   : chosen_ == 0 ? tr("Empty pieces, to be filled as you like.")
                                  : q(starts_[chosen_ - 1].note) + QLatin1Char(' ') +
                                        tr("It goes on the square fronts among the pieces; all of it are "
                                           "layers to strip and fill."));
}

void StartSheet::askMiniatures() {
    const auto square =
        std::find_if(forms_.begin(), forms_.end(), [](const auto& f) { return f->id == "digital-cover"; });
    if (square == forms_.end()) return;
    const Brief own = typed();
    Brief words = exampleBrief();
    if (!own.artist.empty() || !own.title.empty()) words.artist = own.artist, words.title = own.title;
    const auto plain = withPiece(withBrief(std::make_shared<const Release>(), words), *square);
    if (!plain) return;
    const PiecePtr& piece = (*plain)->pieces.front();
    const PanelRef panel{piece->id, piece->flat->frontPanel().id};
    for (size_t i = 0; i < starts_.size(); ++i) {
        if (miniatures_.size() <= i) {
            const auto& made = miniatures_.emplace_back(std::make_unique<Miniature>(service_));
            connect(made.get(), &Miniature::arrived, this, [button = buttons_[i + 1], shown = made.get()] {
                button->setIcon(QPixmap::fromImage(shown->image()));
            });
        }
        const auto& mini = miniatures_[i];
        const auto [scene, region] =
            fittedScene(withStart(*plain, panel, starts_[i]), panel, piece->flat->frontPanel().trim(),
                        QSizeF(kMiniature, kMiniature) * devicePixelRatioF());
        mini->ask(1, scene, region);
    }
}

Brief StartSheet::typed() const {
    Brief brief;
    brief.artist = artist_->text().trimmed().toStdString();
    brief.title = title_->text().trimmed().toStdString();
    return brief;
}

ReleasePtr StartSheet::release() const {
    ReleasePtr out = withBrief(std::make_shared<const Release>(), typed());
    for (const auto& [box, form] : pieces_) {
        if (!box->isChecked()) continue;
        const auto next = withPiece(out, form);
        if (!next) continue;
        out = *next;
        const PiecePtr& piece = out->pieces.back();
        const Panel& front = piece->flat->frontPanel();
        if (chosen_ > 0 && suitsStart(front))
            out = withStart(out, {piece->id, front.id}, starts_[chosen_ - 1]);
    }
    return out;
}

} // namespace glyptos
