#include "app/compose/paint_options.h"

#include "app/figures/layer_section.h"
#include "app/hands/paint/paint_hand.h"

#include <QHBoxLayout>
#include <QWidgetAction>

namespace glyptos {
PaintOptions::PaintOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    makeBrush(row);
    makeFigures(row);
    makeWays(row);
    connect(&bench_, &ComposeBench::handChanged, this, &PaintOptions::refresh);
    refresh();
}

void PaintOptions::makeBrush(QLayout* row) {
    board_ = new BrushBoard(bench_);
    row->addWidget(brush_ = opening(tr("Brush ▾"), tr("All brushes, with a stroke of each"), board_));
    brush_->setAccessibleName(tr("Brush"));
    connect(board_, &BrushBoard::left, this, [this] { brush_->menu()->hide(); });
    const auto hand = [this] { return static_cast<PaintHand*>(&bench_.handOf(Hand::Paint)); };
    connect(board_, &BrushBoard::stampsInHandAsked, this, [hand] { hand()->takeStamps(); });
    row->addWidget(way_ = new QComboBox);
    way_->setAccessibleName(tr("The brush paints"));
    way_->addItems({tr("over"), tr("behind"), tr("inside"), tr("erases")});
    way_->setToolTip(tr("Over what is there, behind it, only inside it, or away"));
    connect(way_, &QComboBox::activated, this,
            [this](int i) { set([=](PaintSettings& s) { s.brush.brush.way = static_cast<PaintWay>(i); }); });
    row->addWidget(colour_ = new ColourButton(tr("Colour of the brush")));
    colour_->setFixedWidth(34);
    connect(colour_, &ColourButton::chosen, this,
            [this](const Ink& ink) { set([=](PaintSettings& s) { s.colour = ink; }); });
}

void PaintOptions::makeFigures(QLayout* row) {
    size_ = new NumberField(tr("Size of the brush"));
    hardness_ = new NumberField(tr("Hardness"), {QStringLiteral("%"), 0, 5, 0, 100});
    opacity_ = new NumberField(tr("Opacity of a stroke"), {QStringLiteral("%"), 0, 5, 0, 100});
    const auto add = [&](const QString& text, NumberField* field, int width) {
        field->setFixedWidth(width);
        row->addWidget(new FieldLabel(text, field));
        row->addWidget(field);
    };
    add(tr("size"), size_, 66);
    add(tr("hard"), hardness_, 50);
    add(tr("opacity"), opacity_, 50);
    connect(size_, &NumberField::edited, this, [this](double v) {
        if (bench_.panel())
            set([=, this](PaintSettings& s) { s.brush.brush.diameter = v / bench_.brushUnit(); });
    });
    connect(hardness_, &NumberField::edited, this,
            [this](double v) { set([=](PaintSettings& s) { s.brush.brush.hardness = v / 100; }); });
    connect(opacity_, &NumberField::edited, this,
            [this](double v) { set([=](PaintSettings& s) { s.brush.brush.opacity = v / 100; }); });
    figures_ = new BrushFigures(false);
    connect(figures_, &BrushFigures::edited, this, [this](const Brush& brush) {
        set([=](PaintSettings& s) {
            const double diameter = s.brush.brush.diameter;
            s.brush.brush = brush, s.brush.brush.diameter = diameter;
        });
    });
    row->addWidget(figuresButton_ =
                       opening(tr("Figures ▾"), tr("All that makes this brush what it is"), figures_));
}

void PaintOptions::makeWays(QLayout* row) {
    row->addWidget(ways_ =
                       wordButton(tr("Ways ▾"), tr("Lines that are kept, lines along something, symmetry")));
    ways_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(ways_);
    ways_->setMenu(menu);
    const auto hand = [this] { return static_cast<PaintHand*>(&bench_.handOf(Hand::Paint)); };
    keeps_ = menu->addAction(tr("Keep strokes as lines that can be changed"));
    keeps_->setCheckable(true);
    connect(keeps_, &QAction::triggered, this,
            [this](bool on) { set([=](PaintSettings& s) { s.keepsCurves = on; }); });
    connect(menu->addAction(tr("Draw along the layer in hand: its outline, words or turns")),
            &QAction::triggered, this, [hand] { hand()->drawAlong(); });
    menu->addSeparator();
    symmetry_ = new QActionGroup(this);
    for (const QString& text : {tr("No symmetry"), tr("Mirrored at an axis"), tr("Arms round the middle"),
                                tr("Tiles of a pattern")}) {
        QAction* action = menu->addAction(text);
        action->setCheckable(true);
        symmetry_->addAction(action);
    }
    connect(symmetry_, &QActionGroup::triggered, this, [this](QAction* action) {
        set([=, this](PaintSettings& s) {
            s.symmetry.kind = static_cast<Symmetry::Kind>(symmetry_->actions().indexOf(action));
            if (!bench_.panel()) return;
            const double side = std::max(bench_.panel()->width, bench_.panel()->height) / 4;
            if (s.symmetry.kind == Symmetry::Kind::Tile) s.symmetry.tile = {side, side};
        });
    });
    auto* inside = new QWidget;
    auto* form = figuresForm(inside);
    form->setContentsMargins(28, 4, 10, 6);
    arms_ = new NumberField(tr("Arms"), {QString(), 0, 1, 2, kMostArms});
    axis_ = new NumberField(tr("Turn of the axis"), {QStringLiteral("°"), 0, 5, -180, 180});
    tileWidth_ = new NumberField(tr("Width of a tile"));
    tileHeight_ = new NumberField(tr("Height of a tile"));
    connect(arms_, &NumberField::edited, this,
            [this](double v) { set([=](PaintSettings& s) { s.symmetry.arms = int(v); }); });
    connect(axis_, &NumberField::edited, this,
            [this](double v) { set([=](PaintSettings& s) { s.symmetry.turn = v; }); });
    connect(tileWidth_, &NumberField::edited, this, [this](double v) {
        if (v > 0) set([=](PaintSettings& s) { s.symmetry.tile.x = v; });
    });
    connect(tileHeight_, &NumberField::edited, this, [this](double v) {
        if (v > 0) set([=](PaintSettings& s) { s.symmetry.tile.y = v; });
    });
    form->addRow(new FieldLabel(tr("Arms"), arms_), arms_);
    form->addRow(new FieldLabel(tr("Turn"), axis_), axis_);
    form->addRow(new FieldLabel(tr("Tile"), tileWidth_), inOneRow({tileWidth_, tileHeight_}));
    auto* action = new QWidgetAction(menu);
    action->setDefaultWidget(inside);
    menu->addAction(action);
    mirrored_ = menu->addAction(tr("Arms and tiles are mirrored"));
    mirrored_->setCheckable(true);
    connect(mirrored_, &QAction::triggered, this,
            [this](bool on) { set([=](PaintSettings& s) { s.symmetry.mirrored = on; }); });
}

void PaintOptions::set(const std::function<void(PaintSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next.paint);
    bench_.setSettings(next);
}

void PaintOptions::refresh() {
    if (!bench_.panel()) return;
    const PaintSettings& s = bench_.settings().paint;
    const Brush& brush = s.brush.brush;
    brush_->setText(
        tr("%1 ▾").arg(s.brush.name.empty() ? tr("Brush") : QString::fromStdString(s.brush.name)));
    way_->setCurrentIndex(int(brush.way));
    colour_->setColour(s.colour, bench_.document()->release()->palette);
    FieldUnit unit = lengthUnitOf(bench_.document()->piece().get());
    unit.least = 0.001; // nothing is painted by nothing
    for (NumberField* field : {size_, tileWidth_, tileHeight_}) field->setUnit(unit);
    size_->setValue(bench_.paintBrush(1).diameter);
    hardness_->setValue(brush.hardness * 100), opacity_->setValue(brush.opacity * 100);
    figures_->setBrush(brush);
    keeps_->setChecked(s.keepsCurves);
    symmetry_->actions()[int(s.symmetry.kind)]->setChecked(true);
    arms_->setValue(s.symmetry.arms), axis_->setValue(s.symmetry.turn);
    tileWidth_->setValue(s.symmetry.tile.x), tileHeight_->setValue(s.symmetry.tile.y);
    mirrored_->setChecked(s.symmetry.mirrored);
    const bool centre = s.symmetry.kind == Symmetry::Kind::Centre,
               tile = s.symmetry.kind == Symmetry::Kind::Tile;
    arms_->setEnabled(centre), tileWidth_->setEnabled(tile), tileHeight_->setEnabled(tile);
    axis_->setEnabled(centre || s.symmetry.kind == Symmetry::Kind::Axis),
        mirrored_->setEnabled(centre || tile);
}

} // namespace glyptos
