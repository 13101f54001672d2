#include "app/hands/shape_choice.h"

#include "app/bench/shape_painting.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/layer_words.h"
#include "app/widgets/theme.h"

#include <QFutureWatcher>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QWidgetAction>
#include <QtConcurrent>

namespace glyptos {
namespace {

enum : int { kArrow = 100 };

} // namespace

ShapeChoice::ShapeChoice(ComposeBench& bench)
    : bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Shape to draw"));
    for (const ShapeKind kind : {ShapeKind::Rectangle, ShapeKind::Ellipse, ShapeKind::Polygon,
                                 ShapeKind::Star, ShapeKind::Line, ShapeKind::Free}) {
        kind_->addItem(shapeWord(kind), int(kind));
        if (kind == ShapeKind::Line) kind_->addItem(tr("arrow"), kArrow);
    }
    row->addWidget(kind_);
    row->addWidget(ornaments_ = new QToolButton);
    ornaments_->setText(tr("Ornaments ▾"));
    ornaments_->setAccessibleName(tr("Ornaments"));
    ornaments_->setToolTip(tr("Figures of music and the sea, in any colour"));
    ornaments_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(ornaments_);
    auto* grid = new QWidgetAction(menu);
    grid->setDefaultWidget(board_ = new QWidget);
    menu->addAction(grid);
    ornaments_->setMenu(menu);
    auto* reading = new QFutureWatcher<void>(this);
    connect(reading, &QFutureWatcherBase::finished, this, &ShapeChoice::fillOrnaments);
    reading->setFuture(QtConcurrent::run([] { shippedOrnaments(); }));
    connect(kind_, &QComboBox::activated, this, &ShapeChoice::choose);
    choose();
}

/// Once their files have been read.
void ShapeChoice::fillOrnaments() {
    constexpr int kColumns = 8, kSide = 34;
    auto* grid = new QGridLayout(board_);
    grid->setSpacing(2);
    int i = 0;
    for (const Ornament& ornament : shippedOrnaments()) {
        auto* button = new QToolButton;
        button->setIconSize({kSide, kSide});
        button->setIcon(shapePixmap(ornament.shape, kSide, theme().ink, devicePixelRatioF()));
        button->setToolTip(QString::fromStdString(ornament.name));
        button->setAccessibleName(QString::fromStdString(ornament.name));
        connect(button, &QToolButton::clicked, this, [this, &ornament] {
            chooseOrnament(ornament);
            ornaments_->menu()->hide();
        });
        grid->addWidget(button, i / kColumns, i % kColumns);
        ++i;
    }
}

void ShapeChoice::chooseOrnament(const Ornament& ornament) {
    ShapeContent shape = ornament.shape;
    shape.fill = fromQt(Theme::day().paper);
    ornaments_->setText(tr("Ornament: %1 ▾").arg(QString::fromStdString(ornament.name)));
    kind_->setCurrentIndex(-1);
    bench_.setShapeToDraw(shape, QString::fromStdString(ornament.name));
}

/// New shapes are of paper with ink lines, which both stand out from most art.
void ShapeChoice::choose() {
    const int chosen = kind_->currentData().toInt();
    ShapeContent shape;
    shape.kind = chosen == kArrow ? ShapeKind::Line : static_cast<ShapeKind>(chosen);
    shape.fill = fromQt(Theme::day().paper);
    if (shape.kind == ShapeKind::Line) {
        const PiecePtr piece = bench_.document() ? bench_.document()->piece() : nullptr;
        shape.fill.reset();
        shape.stroke = StrokeStyle{};
        shape.stroke->paint = fromQt(Theme::day().paper);
        shape.stroke->width = piece && piece->flat->unit == Unit::Mm ? 1 : 12;
        if (chosen == kArrow) shape.stroke->endCap = LineCap::Arrow;
    }
    ornaments_->setText(tr("Ornaments ▾"));
    QString name = kind_->currentText();
    name[0] = name[0].toUpper();
    bench_.setShapeToDraw(shape, name);
}

} // namespace glyptos
