#include "app/bench/bench_bar.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <QActionGroup>
#include <QHBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

constexpr size_t kMostTakes = 5; ///< that stand in the bar

QString wayWord(Reference::Way way) {
    switch (way) {
    case Reference::Way::Over:
        return BenchBar::tr("over the work");
    case Reference::Way::Beside:
        return BenchBar::tr("beside it");
    case Reference::Way::Split:
        return BenchBar::tr("split with it");
    case Reference::Way::Difference:
        return BenchBar::tr("as a difference");
    default:
        return BenchBar::tr("off");
    }
}

} // namespace

BenchBar::BenchBar(BenchGrid& grid, SizeLadder& ladder)
    : grid_(grid)
    , ladder_(ladder) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    row->addWidget(word_ = roleLabel(tr("Take"), "soft"));
    word_->setWordWrap(false);
    takes_ = new QWidget;
    auto* takes = new QHBoxLayout(takes_);
    takes->setContentsMargins(0, 0, 0, 0);
    takes->setSpacing(1);
    row->addWidget(takes_);
    row->addWidget(allTakes_ = wordButton(QStringLiteral("▾"), tr("All takes of the piece")));
    allTakes_->setAccessibleName(tr("All takes"));
    allTakes_->setPopupMode(QToolButton::InstantPopup);
    auto* all = new QMenu(allTakes_);
    allTakes_->setMenu(all);
    connect(all, &QMenu::aboutToShow, this, [this, all] { fillTakes(all); });
    QToolButton* add = wordButton(QStringLiteral("+"), tr("A new take, starting from this one"));
    add->setAccessibleName(tr("New take"));
    connect(add, &QToolButton::clicked, this, [this] { document_->newTake(); });
    row->addWidget(add);
    row->addWidget(
        beside_ = wordButton(tr("Side by side"), tr("All takes beside each other, at the same zoom"), true));
    connect(beside_, &QToolButton::clicked, &grid_, &BenchGrid::setSideBySide);
    connect(&grid_, &BenchGrid::sideBySideChanged, this, &BenchBar::refresh);
    row->addSpacing(8);
    row->addWidget(reference_ = wordButton(QString(), tr("A picture to compare with; it is never printed")));
    reference_->setAccessibleName(tr("Reference"));
    reference_->setPopupMode(QToolButton::InstantPopup);
    references_ = new QMenu(reference_);
    reference_->setMenu(references_);
    connect(references_, &QMenu::aboutToShow, this, &BenchBar::fillReferences);
    row->addWidget(strength_ = new QSlider(Qt::Horizontal));
    strength_->setAccessibleName(tr("Opacity of the reference"));
    strength_->setRange(0, 100);
    strength_->setFixedWidth(70);
    connect(strength_, &QSlider::valueChanged, this, [this](int v) {
        changeReference(tr("Opacity of the reference"), [=](Reference& r) { r.opacity = v / 100.0; });
    });
    row->addWidget(sizes_ = wordButton(tr("Sizes"), tr("How small it can be and still be read"), true));
    connect(sizes_, &QToolButton::clicked, &ladder_, &QWidget::setVisible);
    connect(&ladder_, &SizeLadder::opened, sizes_, &QToolButton::setChecked);
}

void BenchBar::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &BenchBar::refresh);
    connect(document_, &Document::selectionChanged, this, &BenchBar::refresh);
    refresh();
}

void BenchBar::refresh() {
    const PiecePtr piece = document_->piece();
    setVisible(bool(piece));
    if (!piece) return;
    refreshTakes();
    beside_->setVisible(piece->takes.size() > 1);
    beside_->setChecked(grid_.isSideBySide());
    const auto reference = referenceOf(*document_->shown(), document_->panel());
    const bool shown = reference && reference->way != Reference::Way::Off;
    reference_->setText(shown ? tr("Reference: %1 ▾").arg(wayWord(reference->way)) : tr("Reference ▾"));
    strength_->setVisible(reference && reference->way == Reference::Way::Over);
    if (reference) {
        const QSignalBlocker quiet(strength_);
        strength_->setValue(int(std::lround(reference->opacity * 100)));
    }
}

void BenchBar::refreshTakes() {
    const PiecePtr piece = document_->piece();
    QLayout* row = takes_->layout();
    while (row->count() > int(piece->takes.size())) {
        const std::unique_ptr<QLayoutItem> gone(row->takeAt(row->count() - 1));
        gone->widget()->hide();
        gone->widget()->deleteLater();
    }
    for (size_t i = 0; i < piece->takes.size(); ++i) {
        if (row->count() <= int(i)) {
            QToolButton* made = wordButton({}, tr("Work on this take; T steps to the next one"), true);
            made->setContextMenuPolicy(Qt::CustomContextMenu);
            connect(made, &QToolButton::clicked, this, [this, made] {
                document_->showTake(made->text().toStdString());
                refresh();
            });
            connect(made, &QWidget::customContextMenuRequested, this,
                    [this, made](QPoint at) { takeMenu(made->text().toStdString(), made->mapToGlobal(at)); });
            row->addWidget(made);
        }
        auto* button = static_cast<QToolButton*>(row->itemAt(int(i))->widget());
        button->setText(q(piece->takes[i]->id));
        button->setAccessibleName(tr("Take %1").arg(button->text()));
        button->setChecked(i == piece->current);
        button->setMinimumWidth(button->sizeHint().width());
    }
    // Those about the current one; there is a menu of all when there are more.
    const size_t count = piece->takes.size(), half = kMostTakes / 2;
    const size_t first = count <= kMostTakes
                             ? 0
                             : std::min(piece->current - std::min(piece->current, half), count - kMostTakes);
    for (size_t i = 0; i < count; ++i)
        row->itemAt(int(i))->widget()->setVisible(i >= first && i < first + kMostTakes);
    allTakes_->setVisible(count > kMostTakes);
}

void BenchBar::fillTakes(QMenu* menu) {
    menu->clear();
    const PiecePtr piece = document_->piece();
    for (size_t i = 0; i < piece->takes.size(); ++i) {
        const std::string id = piece->takes[i]->id;
        QAction* take =
            menu->addAction(tr("Take %1").arg(q(id)), this, [this, id] { document_->showTake(id); });
        take->setCheckable(true);
        take->setChecked(i == piece->current);
    }
}

void BenchBar::takeMenu(const std::string& take, QPoint at) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    QAction* remove = menu->addAction(tr("Remove take %1").arg(q(take)), this, [this, take] {
        document_->edit(tr("Remove take %1").arg(q(take)),
                        withoutTake(document_->release(), document_->panel().piece, take));
    });
    remove->setEnabled(document_->piece()->takes.size() > 1);
    menu->popup(at);
}

void BenchBar::stepTake(int by) {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece || piece->takes.size() < 2) return;
    const auto count = int(piece->takes.size());
    document_->showTake(piece->takes[size_t((int(piece->current) + by + count) % count)]->id);
}

void BenchBar::setWay(Reference::Way way) {
    changeReference(tr("Reference %1").arg(wayWord(way)), [=](Reference& r) { r.way = way; });
}

void BenchBar::changeReference(const QString& name, const std::function<void(Reference&)>& edit) {
    auto reference = referenceOf(*document_->release(), document_->panel());
    if (!reference) return;
    edit(*reference);
    document_->edit(name, withReference(document_->release(), document_->panel(), reference),
                    QStringLiteral("reference"));
}

void BenchBar::addReference(const SourcePtr& source) {
    const Panel* panel = document_->shownPanel();
    if (!panel) return;
    document_->edit(
        tr("Reference %1").arg(q(source->name)),
        withReference(document_->release(), document_->panel(), referenceOver(panel->trim(), *source)));
}

void BenchBar::fillReferences() {
    references_->clear();
    const auto reference = referenceOf(*document_->release(), document_->panel());
    auto* ways = new QActionGroup(references_);
    for (const auto way : {Reference::Way::Off, Reference::Way::Over, Reference::Way::Beside,
                           Reference::Way::Split, Reference::Way::Difference}) {
        QAction* made = references_->addAction(wayWord(way), this, [this, way] { setWay(way); });
        made->setCheckable(true);
        made->setActionGroup(ways);
        made->setEnabled(reference.has_value());
        made->setChecked((reference ? reference->way : Reference::Way::Off) == way);
    }
    references_->addSeparator();
    references_->addAction(tr("From a file…"), this, &BenchBar::referenceAsked);
    QMenu* pictures = references_->addMenu(tr("From the release"));
    for (const SourcePtr& source : document_->release()->sources)
        pictures->addAction(q(source->name), this, [this, source] { addReference(source); });
    pictures->setEnabled(!document_->release()->sources.empty());
    references_
        ->addAction(tr("Take it away"), this,
                    [this] {
                        document_->edit(
                            tr("Take the reference away"),
                            withReference(document_->release(), document_->panel(), std::nullopt));
                    })
        ->setEnabled(reference.has_value());
}

} // namespace glyptos
