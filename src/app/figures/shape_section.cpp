#include "app/figures/shape_section.h"

#include <QVBoxLayout>

namespace glyptos {

FillSection::FillSection(Engine& engine)
    : LayerSection(engine) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(paint_ = new PaintEditor(tr("Paint")));
    connect(paint_, &PaintEditor::edited, this, [this](const Paint& paint, bool settled) {
        change(
            tr("Paint %1"),
            [&](Layer& l) {
                if (auto* fill = std::get_if<FillContent>(&l.content)) fill->paint = paint;
            },
            settled, QStringLiteral("paint"));
    });
}

void FillSection::refresh(const Layer& layer) {
    paint_->show(layer.as<FillContent>()->paint, panel()->withBleed(), lengthUnit(), *document_->shown());
}

ShapeSection::ShapeSection(Engine& engine)
    : LayerSection(engine) {
    form_ = figuresForm(this);
    corner_ = new NumberField(tr("Corner radius"));
    points_ = new NumberField(tr("Corners"), plainUnit(QString(), 0, 1, 3, 200));
    inner_ = new NumberField(tr("Inner radius"), plainUnit(QStringLiteral("%"), 0, 1, 5, 100));
    const auto shape = [](auto set) {
        return [set](Layer& l, double v) {
            if (auto* s = std::get_if<ShapeContent>(&l.content)) set(*s, v);
        };
    };
    bind(corner_, tr("Round %1"), shape([](ShapeContent& s, double v) { s.corner = v; }));
    bind(points_, tr("Corners of %1"), shape([](ShapeContent& s, double v) { s.points = int(v); }));
    bind(inner_, tr("Inner radius of %1"), shape([](ShapeContent& s, double v) { s.inner = v / 100; }));
    free_ = new QPushButton(tr("Make it a free path"));
    free_->setToolTip(tr("Its corners become nodes that can be dragged with Shape in hand"));
    connect(free_, &QPushButton::clicked, this,
            [this] { changeShape(tr("Free %1"), [](ShapeContent& s) { s = asFree(s); }); });
    filled_ = new QCheckBox(tr("Filled"));
    connect(filled_, &QCheckBox::clicked, this, [this](bool on) {
        changeShape(tr("Fill of %1"), [=](ShapeContent& s) {
            s.fill = on ? std::optional<Paint>(Rgba{0.95f, 0.91f, 0.82f, 1}) : std::nullopt;
        });
    });
    fill_ = new PaintEditor(tr("Inside"));
    connect(fill_, &PaintEditor::edited, this, [this](const Paint& paint, bool settled) {
        changeShape(
            tr("Paint %1"), [&](ShapeContent& s) { s.fill = paint; }, settled, QStringLiteral("paint"));
    });
    form_->addRow(new FieldLabel(tr("Corner"), corner_), corner_);
    form_->addRow(new FieldLabel(tr("Corners"), points_), points_);
    form_->addRow(new FieldLabel(tr("Inner"), inner_), inner_);
    form_->addRow(QString(), free_);
    form_->addRow(filled_);
    form_->addRow(fill_);
    makeStroke(form_);
}

void ShapeSection::makeStroke(QFormLayout* form) {
    stroked_ = new QCheckBox(tr("With a stroke"));
    connect(stroked_, &QCheckBox::clicked, this, [this](bool on) {
        changeShape(tr("Stroke of %1"), [=, this](ShapeContent& s) {
            s.stroke.reset();
            if (!on) return;
            s.stroke = StrokeStyle{};
            s.stroke->width = lengthUnit().suffix == QStringLiteral("px") ? 12 : 1;
        });
    });
    strokeRows_ = new QWidget;
    auto* rows = figuresForm(strokeRows_);
    width_ = new NumberField(tr("Stroke width"));
    connect(width_, &NumberField::edited, this,
            [this](double v, bool settled) { changeStroke([=](StrokeStyle& s) { s.width = v; }, settled); });
    const auto box = [this](const QString& name, const QStringList& items, auto set) {
        auto* made = new QComboBox;
        made->setAccessibleName(name);
        made->addItems(items);
        connect(made, &QComboBox::activated, this,
                [this, set](int i) { changeStroke([=](StrokeStyle& s) { set(s, i); }); });
        return made;
    };
    place_ = box(tr("Side of the stroke"), {tr("inside"), tr("centre"), tr("outside")},
                 [](StrokeStyle& s, int i) { s.place = static_cast<StrokePlace>(i); });
    join_ = box(tr("Corners of the stroke"), {tr("pointed"), tr("round"), tr("bevelled")},
                [](StrokeStyle& s, int i) { s.join = static_cast<LineJoin>(i); });
    const QStringList caps{tr("flat"), tr("round"), tr("square"), tr("arrow")};
    startCap_ = box(tr("Start of the line"), caps,
                    [](StrokeStyle& s, int i) { s.startCap = static_cast<LineCap>(i); });
    endCap_ =
        box(tr("End of the line"), caps, [](StrokeStyle& s, int i) { s.endCap = static_cast<LineCap>(i); });
    stroke_ = new PaintEditor(tr("Stroke"));
    connect(stroke_, &PaintEditor::edited, this, [this](const Paint& paint, bool settled) {
        changeStroke([&](StrokeStyle& s) { s.paint = paint; }, settled);
    });
    rows->addRow(stroke_);
    rows->addRow(new FieldLabel(tr("Width"), width_), inOneRow({width_, place_}));
    rows->addRow(roleLabel(tr("Corners"), "soft"), cornerRow_ = join_);
    rows->addRow(roleLabel(tr("Ends"), "soft"), endsRow_ = inOneRow({startCap_, endCap_}));
    makeBrushed(rows);
    form->addRow(stroked_);
    form->addRow(strokeRows_);
}

void ShapeSection::makeBrushed(QFormLayout* rows) {
    drawn_ = new QComboBox;
    drawn_->setAccessibleName(tr("The line is drawn by"));
    connect(drawn_, &QComboBox::activated, this, &ShapeSection::drawWith);
    rows->insertRow(0, roleLabel(tr("Drawn by"), "soft"), drawn_);
    rows->addRow(brush_ = new BrushFigures(true));
    connect(brush_, &BrushFigures::edited, this, [this](const Brush& brush, bool settled) {
        changeStroke(
            [&](StrokeStyle& s) {
                if (s.brushed) s.brushed->brush = brush;
            },
            settled);
    });
    setBrushes({});
}

void ShapeSection::setBrushes(std::vector<NamedBrush> brushes) {
    // What erases draws no line, and what prints pictures would need them.
    std::erase_if(brushes, [](const NamedBrush& b) {
        return b.brush.way == PaintWay::Erase ||
               std::any_of(b.stamps.begin(), b.stamps.end(),
                           [](const Stamp& s) { return !s.source.empty(); });
    });
    const int chosen = std::max(0, drawn_->currentIndex());
    brushes_ = std::move(brushes);
    drawn_->clear();
    drawn_->addItems({tr("a pen"), tr("a brush")});
    for (const NamedBrush& brush : brushes_) drawn_->addItem(QString::fromStdString(brush.name));
    drawn_->setCurrentIndex(chosen);
}

void ShapeSection::drawWith(int choice) {
    changeStroke([&](StrokeStyle& s) {
        if (choice == 0) return s.brushed.reset();
        if (choice == 1) {
            if (!s.brushed) s.brushed.emplace();
            return;
        }
        const NamedBrush& brush = brushes_[size_t(choice) - 2];
        if (!s.brushed) s.brushed.emplace();
        s.brushed->brush = brush.brush, s.brushed->stamps = brush.stamps;
    });
}

void ShapeSection::refreshBrushed(const ShapeContent& shape) {
    const auto& brushed = shape.stroke->brushed;
    drawn_->setCurrentIndex(brushed ? 1 : 0);
    brush_->setVisible(brushed.has_value());
    for (QWidget* row : {cornerRow_, endsRow_}) {
        row->setVisible(!brushed);
        auto* form = qobject_cast<QFormLayout*>(strokeRows_->layout());
        if (QWidget* label = form->labelForField(row)) label->setVisible(!brushed);
    }
    place_->setVisible(!brushed);
    if (brushed) brush_->setBrush(brushed->brush);
}

void ShapeSection::changeShape(const QString& name, const std::function<void(ShapeContent&)>& edit,
                               bool settled, const QString& merge) {
    change(
        name,
        [&](Layer& l) {
            if (auto* shape = std::get_if<ShapeContent>(&l.content)) edit(*shape);
        },
        settled, merge);
}

void ShapeSection::changeStroke(const std::function<void(StrokeStyle&)>& edit, bool settled) {
    changeShape(
        tr("Stroke of %1"),
        [&](ShapeContent& s) {
            if (s.stroke) edit(*s.stroke);
        },
        settled, QStringLiteral("stroke"));
}

void ShapeSection::refresh(const Layer& layer) {
    const auto& s = *layer.as<ShapeContent>();
    const auto reveal = [this](QWidget* row, bool on) {
        row->setVisible(on);
        if (QWidget* label = form_->labelForField(row)) label->setVisible(on);
    };
    const bool polygon = s.kind == ShapeKind::Polygon || s.kind == ShapeKind::Star;
    reveal(corner_, s.kind == ShapeKind::Rectangle || polygon);
    reveal(points_, polygon);
    reveal(inner_, s.kind == ShapeKind::Star);
    free_->setVisible(s.kind != ShapeKind::Free);
    FieldUnit radius = lengthUnit();
    radius.least = 0;
    corner_->setUnit(radius);
    corner_->setValue(s.corner);
    points_->setValue(s.points);
    inner_->setValue(s.inner * 100);
    const Rect area{-s.width / 2, -s.height / 2, s.width, std::max(s.height, 1.0)};
    const bool line = s.kind == ShapeKind::Line;
    filled_->setVisible(!line);
    filled_->setChecked(s.fill.has_value());
    fill_->setVisible(s.fill.has_value() && !line);
    if (s.fill) fill_->show(*s.fill, area, lengthUnit(), *document_->shown());
    stroked_->setChecked(s.stroke.has_value());
    strokeRows_->setVisible(s.stroke.has_value());
    if (!s.stroke) return;
    FieldUnit width = lengthUnit();
    width.decimals = 2;
    width.least = 0.001;
    width_->setUnit(width);
    width_->setValue(s.stroke->width);
    refreshBrushed(s);
    place_->setCurrentIndex(int(s.stroke->place));
    place_->setEnabled(!line);
    join_->setCurrentIndex(int(s.stroke->join));
    startCap_->setCurrentIndex(int(s.stroke->startCap));
    endCap_->setCurrentIndex(int(s.stroke->endCap));
    stroke_->show(s.stroke->paint, area, lengthUnit(), *document_->shown());
}

} // namespace glyptos
