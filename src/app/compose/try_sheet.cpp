#include "app/compose/try_sheet.h"

#include "app/compose/sheet_cells.h"
#include "app/figures/treatment_figures.h"
#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/treatment_variants.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kHead = 48, kSide = 16, kGap = 8, kCaption = 20, kWidest = 136;

} // namespace

TrySheet::TrySheet(Engine& engine, RenderService& service, LookShelf& looks, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service)
    , looks_(looks) {
    setAccessibleName(tr("Treatments to try"));
    auto* head = new QWidget(this);
    head->setObjectName(QStringLiteral("tryHead"));
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(kSide, 6, kSide, 6);
    row->setSpacing(4);
    const QString words[]{tr("Treatments"), tr("Looks"), tr("By chance")};
    const QString whys[]{tr("Every treatment, light, middling and strong"), tr("All looks, shipped and kept"),
                         tr("Eight neighbours of what the layer has now; take one to go on from there")};
    for (size_t i = 0; i < 3; ++i) {
        row->addWidget(tabs_[i] = wordButton(words[i], whys[i], true));
        connect(tabs_[i], &QToolButton::clicked, this, [this, i] { open(static_cast<Page>(i), current_); });
    }
    row->addWidget(title_ = heading(QString()), 1);
    title_->setWordWrap(false);
    title_->setAlignment(Qt::AlignCenter);
    row->addWidget(again_ = wordButton(tr("Eight others"), tr("Other neighbours of the same")));
    connect(again_, &QToolButton::clicked, this, [this] {
        ++round_;
        fill();
    });
    row->addWidget(leave_ = wordButton(tr("Leave it as it is"), tr("Close without taking any (Esc)")));
    connect(leave_, &QToolButton::clicked, this, &TrySheet::leave);
    scroll_ = scrolling(board_ = new QWidget);
    scroll_->setParent(this);
    parent->installEventFilter(this);
    connect(&looks, &LookShelf::changed, this, [this] {
        if (isVisible() && page_ == Page::Looks) fill();
    });
    connect(&engine, &Engine::pictureReady, this, &TrySheet::ask);
    hide();
}

void TrySheet::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::selectionChanged, this, &TrySheet::hide);
    hide();
}

void TrySheet::open(Page page, int current) {
    const LayerPtr layer =
        document_ && document_->layers().size() == 1 ? document_->selectedLayer() : nullptr;
    if (!layer || layer->locked) return;
    if (!isVisible()) before_ = QApplication::focusWidget();
    page_ = page;
    current_ = current;
    for (size_t i = 0; i < 3; ++i) tabs_[i]->setChecked(i == size_t(page));
    again_->setVisible(page == Page::Chance);
    title_->setText(q(layer->name).toUpper());
    looks_.read();
    show();
    raise();
    fill();
    if (!cells_.empty()) cells_.front().button->setFocus();
}

void TrySheet::leave() {
    hide();
    if (before_) before_->setFocus();
}

Treatments TrySheet::present() const {
    const LayerPtr layer = document_->selectedLayer();
    return layer && layer->treatments ? *layer->treatments : Treatments{};
}

/// All kinds at three strengths, put in behind the treatment in hand.
std::vector<TrySheet::Offer> TrySheet::kinds() const {
    const QString strengths[]{tr("light"), tr("middling"), tr("strong")};
    const double unit = unitsPerMm(document_->piece()->flat->unit == Unit::Px);
    const bool isGrade = document_->selectedLayer()->as<GradeContent>();
    std::vector<Offer> out;
    for (const TreatmentKind* kind : treatmentKinds()) {
        if (isGrade && kind->followsOutline) continue; // of all beneath it there is no outline
        const bool isFilledIn = std::any_of(kind->figures.begin(), kind->figures.end(),
                                            [](const Figure& f) { return f.kind == FigureKind::Table; });
        if (isFilledIn) continue; // it does nothing before a file is chosen
        for (int strength = 0; strength < 3; ++strength) {
            Treatments list = present();
            const int at = std::clamp(current_ + 1, 0, int(list.size()));
            list.insert(list.begin() + at, atStrength(*kind, strength, unit));
            const QString title = treatmentWord(kind->title);
            out.push_back({tr("%1, %2").arg(title, strengths[strength]), std::move(list), at});
            // The three stand beside each other: the first says what they are.
            out.back().caption = strength == 0 ? title : strengths[strength];
        }
    }
    return out;
}

std::vector<TrySheet::Offer> TrySheet::lookOffers() const {
    const Panel* panel = document_->shownPanel();
    std::vector<Offer> out;
    for (const NamedLook& look : looks_.looks()) {
        Treatments list = present();
        const Treatments more = fitted(look, std::min(panel->width, panel->height));
        list.insert(list.end(), more.begin(), more.end());
        out.push_back({q(look.name), list, int(list.size()) - 1});
    }
    return out;
}

/// Round what there is now, which stands in the middle.
std::vector<TrySheet::Offer> TrySheet::neighbours() const {
    const Treatments now = present();
    if (current_ < 0 || current_ >= int(now.size())) return {};
    std::vector<Offer> out;
    for (uint32_t i = 0; i < 9; ++i) {
        Treatments list = now;
        if (i != 4) list[size_t(current_)] = neighbourOf(now[size_t(current_)], round_ * 16 + i);
        out.push_back(
            {i == 4 ? tr("as it is") : tr("No. %1").arg(i < 4 ? i + 1 : i), std::move(list), current_, true});
    }
    return out;
}

std::vector<TrySheet::Offer> TrySheet::offers() const {
    if (!document_->selectedLayer() || !document_->shownPanel()) return {};
    return page_ == Page::Treatments ? kinds() : page_ == Page::Looks ? lookOffers() : neighbours();
}

void TrySheet::fill() {
    for (Cell& cell : cells_) {
        delete cell.miniature;
        cell.button->deleteLater();
        cell.button->hide();
    }
    cells_.clear();
    for (Offer& offer : offers()) {
        auto* button = new QToolButton(board_);
        button->setText(offer.caption.isEmpty() ? offer.title : offer.caption);
        button->setAccessibleName(offer.title);
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setCursor(Qt::PointingHandCursor);
        button->installEventFilter(this);
        button->show();
        auto* miniature = new Miniature(service_, this);
        const size_t at = cells_.size();
        connect(button, &QToolButton::clicked, this, [this, at] { take(at); });
        connect(miniature, &Miniature::arrived, this, [this, button, miniature] {
            button->setIcon(QIcon(QPixmap::fromImage(miniature->image())));
            waiting_ = std::max(0, waiting_ - 1);
        });
        cells_.push_back({std::move(offer), button, miniature});
    }
    arrange();
    ask();
}

int TrySheet::columns() const {
    if (page_ == Page::Chance) return 3;
    const int fit = std::max(3, (width() - 2 * kSide + kGap) / (kWidest + kGap));
    return page_ == Page::Treatments ? fit / 3 * 3 : fit; // the three of a kind beside each other
}

void TrySheet::arrange() {
    if (!isVisible()) return;
    setGeometry(parentWidget()->rect());
    findChild<QWidget*>(QStringLiteral("tryHead"))->setGeometry(0, 0, width(), kHead);
    scroll_->setGeometry(0, kHead, width(), height() - kHead);
    const Rect shown = area();
    const double wide = shown.empty() ? 1 : shown.w / shown.h;
    const int count = columns(), cellWidth = (width() - 2 * kSide - 12 + kGap) / count - kGap;
    int iconWidth = cellWidth - 14, iconHeight = int(iconWidth / wide);
    if (page_ == Page::Chance) { // all nine at once
        iconHeight = std::min(iconHeight, (height() - kHead - kSide) / 3 - kGap - kCaption - 12);
        iconWidth = int(iconHeight * wide);
    }
    const int cellHeight = iconHeight + kCaption + 12;
    for (size_t i = 0; i < cells_.size(); ++i) {
        const int column = int(i) % count, line = int(i) / count;
        cells_[i].button->setIconSize({std::max(16, iconWidth), std::max(16, iconHeight)});
        cells_[i].button->setGeometry(kSide + column * (cellWidth + kGap), line * (cellHeight + kGap),
                                      cellWidth, cellHeight);
    }
    const int lines = (int(cells_.size()) + count - 1) / count;
    board_->setMinimumHeight(lines * (cellHeight + kGap) + kSide);
}

Rect TrySheet::area() const {
    return document_ ? roundTheLayer(*document_, engine_) : Rect{};
}

void TrySheet::ask() {
    const LayerPtr layer = document_ && isVisible() ? document_->selectedLayer() : nullptr;
    if (!layer) return;
    const Rect shown = area();
    waiting_ = int(cells_.size());
    for (const Cell& cell : cells_) {
        const ReleasePtr tried =
            withChangedLayer(document_->release(), document_->panel(), layer->id, [&](Layer& l) {
                l.treatments = std::make_shared<const Treatments>(cell.offer.list);
            });
        auto [scene, region] = fittedScene(tried, document_->panel(), shown,
                                           QSizeF(cell.button->iconSize()) * devicePixelRatioF());
        scene.inHand = layer->id;
        cell.miniature->ask(1, std::move(scene), region);
    }
}

void TrySheet::take(size_t at) {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || at >= cells_.size()) return;
    const Offer offer = cells_[at].offer;
    document_->edit(tr("%1 on %2").arg(offer.title, q(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id, [&](Layer& l) {
                        l.treatments = std::make_shared<const Treatments>(offer.list);
                    }));
    Q_EMIT taken(offer.current);
    if (!offer.again) return leave();
    ++round_;
    fill();
    if (cells_.size() > 4) cells_[4].button->setFocus();
}

std::vector<QToolButton*> TrySheet::cells() const {
    std::vector<QToolButton*> out;
    for (const Cell& cell : cells_) out.push_back(cell.button);
    return out;
}

void TrySheet::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return leave();
    QWidget::keyPressEvent(event);
}

void TrySheet::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), theme().paper);
}

bool TrySheet::eventFilter(QObject* watched, QEvent* event) {
    if (watched == parentWidget()) {
        if (event->type() == QEvent::Resize && isVisible()) arrange(), ask();
        return false;
    }
    QToolButton* const to = cellByKey(watched, event, cells(), columns());
    if (to) scroll_->ensureWidgetVisible(to, 0, 20);
    return to != nullptr;
}

} // namespace glyptos
