#include "app/compose/brush_board.h"

#include "app/session/background.h"
#include "app/widgets/brush_miniature.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"

#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QVBoxLayout>
#include <QtConcurrent>

namespace glyptos {
namespace {

constexpr QSize kMiniature{132, 40};

struct Read {
    std::vector<NamedBrush> brushes;
    std::map<std::string, QImage> miniatures;
    std::vector<std::string> troubles;
};

Read readAll(QSize px, const QColor& colour) {
    Read out;
    out.brushes = ownBrushes(out.troubles);
    const auto& shipped = shippedBrushes();
    out.brushes.insert(out.brushes.end(), shipped.begin(), shipped.end());
    for (const NamedBrush& brush : out.brushes)
        if (!out.miniatures.contains(brush.name))
            out.miniatures[brush.name] = brushMiniature(brush, px, colour);
    return out;
}

} // namespace

BrushBoard::BrushBoard(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 10, 10, 10);
    column->addWidget(search_ = new QLineEdit);
    search_->setPlaceholderText(tr("Search brushes"));
    search_->setAccessibleName(tr("Search brushes"));
    search_->setClearButtonEnabled(true);
    column->addWidget(list_ = new QListWidget);
    list_->setAccessibleName(tr("Brushes"));
    list_->setViewMode(QListView::IconMode);
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setIconSize(kMiniature);
    list_->setGridSize({kMiniature.width() + 30, kMiniature.height() + 30});
    list_->setFixedSize(3 * (kMiniature.width() + 30) + 24, 372);
    list_->setWordWrap(true);
    auto* row = new QHBoxLayout;
    row->addWidget(
        save_ = wordButton(tr("Save as own…"), tr("Keeps the brush in hand, as it is set, by a name")));
    row->addWidget(remove_ = wordButton(tr("Remove"), tr("Removes the own brush that is marked")));
    row->addStretch();
    row->addWidget(roleLabel(tr("Stamps:"), "soft"));
    row->addWidget(inHand_ = wordButton(tr("of what is in hand"),
                                        tr("The pictures and shapes in hand become what the brush prints")));
    row->addWidget(
        crate_ = wordButton(tr("from the crate…"), tr("Pictures of the crate become what the brush prints")));
    column->addLayout(row);
    connect(search_, &QLineEdit::textChanged, this, &BrushBoard::fill);
    connect(search_, &QLineEdit::returnPressed, this, [this] {
        if (list_->count() > 0) Q_EMIT list_->itemActivated(list_->item(0));
    });
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) { choose(item->text()); });
    connect(list_, &QListWidget::itemActivated, this,
            [this](QListWidgetItem* item) { choose(item->text()); });
    connect(list_, &QListWidget::currentRowChanged, this, &BrushBoard::refreshButtons);
    connect(save_, &QToolButton::clicked, this, &BrushBoard::askName);
    connect(remove_, &QToolButton::clicked, this, &BrushBoard::removeCurrent);
    for (QToolButton* button : {inHand_, crate_})
        connect(button, &QToolButton::clicked, this, &BrushBoard::left);
    connect(inHand_, &QToolButton::clicked, this, &BrushBoard::stampsInHandAsked);
    connect(crate_, &QToolButton::clicked, this, &BrushBoard::stampsFromCrateAsked);
    read();
}

/// In the background: the files, and a stroke of each.
void BrushBoard::read() {
    auto* reading = new QFutureWatcher<Read>(this);
    connect(reading, &QFutureWatcherBase::finished, this, [this, reading] {
        Read all = reading->result();
        reading->deleteLater();
        brushes_ = std::move(all.brushes), miniatures_ = std::move(all.miniatures);
        for (const std::string& trouble : all.troubles) Q_EMIT told(QString::fromStdString(trouble));
        fill();
        Q_EMIT brushesRead(brushes_);
        if (bench_.settings().paint.brush.name.empty()) choose(QStringLiteral("Soft round"));
    });
    const qreal dpr = devicePixelRatioF();
    reading->setFuture(
        QtConcurrent::run([px = kMiniature * dpr, colour = theme().ink] { return readAll(px, colour); }));
}

void BrushBoard::fill() {
    const std::string words = search_->text().toStdString();
    list_->clear();
    for (const NamedBrush& brush : brushes_) {
        if (!matches(brush, words)) continue;
        QPixmap stroke = QPixmap::fromImage(miniatures_[brush.name]);
        stroke.setDevicePixelRatio(devicePixelRatioF());
        auto* item = new QListWidgetItem(QIcon(stroke), QString::fromStdString(brush.name), list_);
        item->setToolTip(brush.own ? tr("Your own brush") : QString());
        if (brush.name == bench_.settings().paint.brush.name) list_->setCurrentItem(item);
    }
    refreshButtons();
}

void BrushBoard::showEvent(QShowEvent* event) {
    fill();
    search_->setFocus();
    QWidget::showEvent(event);
}

bool BrushBoard::choose(const QString& name) {
    for (const NamedBrush& brush : brushes_)
        if (brush.name == name.toStdString()) {
            takeUp(brush);
            return true;
        }
    return false;
}

void BrushBoard::takeUp(const NamedBrush& brush) {
    HandSettings next = bench_.settings();
    next.paint.brush = brush;
    next.paint.sources.clear();
    QStringList wanted;
    for (const Stamp& stamp : brush.stamps)
        if (!stamp.source.empty() && !bench_.document()->release()->source(stamp.source))
            wanted << QString::fromStdString(stamp.source);
    bench_.setSettings(next);
    if (!wanted.isEmpty()) Q_EMIT picturesAsked(wanted);
    Q_EMIT left();
}

void BrushBoard::askName() {
    Q_EMIT left();
    const QString was = QString::fromStdString(bench_.settings().paint.brush.name);
    bool fine = false;
    const QString name = QInputDialog::getText(bench_.window(), tr("Save the brush"), tr("Its name:"),
                                               QLineEdit::Normal, was, &fine)
                             .trimmed();
    if (fine && !name.isEmpty()) save(name);
}

void BrushBoard::save(const QString& name) {
    NamedBrush brush = bench_.settings().paint.brush;
    brush.name = name.toStdString();
    auto* saving = new QFutureWatcher<Result<NamedBrush>>(this);
    connect(saving, &QFutureWatcherBase::finished, this, [this, saving] {
        const Result<NamedBrush> saved = saving->result();
        saving->deleteLater();
        if (!saved) return void(Q_EMIT told(QString::fromStdString(saved.error().message)));
        HandSettings next = bench_.settings();
        next.paint.brush = *saved;
        bench_.setSettings(next);
        Q_EMIT told(tr("The brush %1 is kept.").arg(QString::fromStdString(saved->name)));
        read();
    });
    saving->setFuture(inBackground([brush] { return saveBrush(brush); }));
}

void BrushBoard::removeCurrent() {
    const QListWidgetItem* item = list_->currentItem();
    const auto found = std::find_if(brushes_.begin(), brushes_.end(), [&](const NamedBrush& b) {
        return b.own && item && b.name == item->text().toStdString();
    });
    if (found == brushes_.end()) return;
    const NamedBrush brush = *found;
    auto* removing = new QFutureWatcher<Result<void>>(this);
    connect(removing, &QFutureWatcherBase::finished, this, [this, removing, name = item->text()] {
        const Result<void> done = removing->result();
        removing->deleteLater();
        Q_EMIT told(done ? tr("The brush %1 is removed.").arg(name)
                         : QString::fromStdString(done.error().message));
        read();
    });
    removing->setFuture(inBackground([brush] { return removeBrush(brush); }));
}

void BrushBoard::refreshButtons() {
    const QListWidgetItem* item = list_->currentItem();
    remove_->setEnabled(item && std::any_of(brushes_.begin(), brushes_.end(), [&](const NamedBrush& b) {
                            return b.own && b.name == item->text().toStdString();
                        }));
}

} // namespace glyptos
