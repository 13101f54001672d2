#include "app/gather/gather_bar.h"

#include "app/gather/add_sources.h"
#include "app/session/crate_service.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace glyptos {

GatherBar::GatherBar(CrateService& crate, QWidget* parent)
    : QWidget(parent) {
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(12, 6, 12, 6);
    rows->setSpacing(5);
    rows->addLayout(makePlaces());
    rows->addWidget(makeSearch(crate));
}

QLayout* GatherBar::makePlaces() {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    places_ = new QButtonGroup(this);
    const std::tuple<GatherPlace, QString, QString> places[] = {
        {GatherPlace::Crate, tr("Crate"), tr("Your own sources, across releases")},
        {GatherPlace::Drawer, tr("Stock drawer"), tr("Pictures of an agency, to be taken with their credit")},
        {GatherPlace::Wall, tr("Wall"), tr("Pin up, look, choose")},
        {GatherPlace::Colours, tr("Colours"), tr("The palette of the release")},
        {GatherPlace::Credits, tr("Credits"), tr("Whose pictures the release is made of")}};
    for (const auto& [place, text, why] : places) {
        QToolButton* button = wordButton(text, why, true);
        places_->addButton(button, int(place));
        row->addWidget(button);
    }
    connect(places_, &QButtonGroup::idClicked, this,
            [this](int id) { Q_EMIT placeChosen(static_cast<GatherPlace>(id)); });
    row->addStretch();
    beside_ = wordButton(tr("Wall beside"),
                         tr("Shows the wall beside the pictures, to pin by dragging (W pins what is chosen)"),
                         true);
    connect(beside_, &QToolButton::clicked, this, &GatherBar::besideChosen);
    row->addWidget(beside_);
    return row;
}

QWidget* GatherBar::makeSearch(CrateService& crate) {
    searchRow_ = new QWidget;
    auto* row = new QHBoxLayout(searchRow_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    search_ = new QLineEdit;
    search_->setAccessibleName(tr("Search"));
    search_->setPlaceholderText(tr("A word: rope, dusk, Orri …"));
    search_->setClearButtonEnabled(true);
    connect(search_, &QLineEdit::textEdited, this, &GatherBar::wordsTyped);
    connect(search_, &QLineEdit::returnPressed, this, &GatherBar::wordsEntered);
    order_ = new QComboBox;
    order_->setAccessibleName(tr("Order"));
    order_->addItems({tr("Best first"), tr("Newest first"), tr("By title"), tr("Largest first")});
    connect(order_, &QComboBox::activated, this, &GatherBar::orderChosen);
    count_ = roleLabel(QString(), "soft");
    count_->setWordWrap(false);
    auto* stop = new QPushButton(tr("Stop adding"));
    stop->hide();
    connect(stop, &QPushButton::clicked, &crate, &CrateService::cancelAdding);
    connect(&crate, &CrateService::progressed, this, [this, stop, &crate](int done, int all) {
        stop->setVisible(crate.isAdding());
        setCount(tr("adding: %1 of %2").arg(done).arg(all));
    });
    connect(&crate, &CrateService::added, this, [this, stop](const QString& report) {
        stop->hide();
        if (!report.isEmpty()) setCount(report);
    });
    row->addWidget(search_, 1);
    row->addWidget(order_);
    row->addWidget(count_);
    row->addWidget(stop);
    row->addWidget(add_ = new AddSources(crate));
    return searchRow_;
}

void GatherBar::setPlace(GatherPlace place) {
    places_->button(int(place))->setChecked(true);
    searchRow_->setVisible(hasPictures(place));
    beside_->setVisible(hasPictures(place));
    add_->setVisible(place == GatherPlace::Crate);
}

} // namespace glyptos
