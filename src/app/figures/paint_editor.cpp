#include "app/figures/paint_editor.h"

#include <QRandomGenerator>
#include <QSignalBlocker>

namespace glyptos {
namespace {

constexpr const char* kKinds[] = {QT_TRANSLATE_NOOP("PaintEditor", "One colour"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Linear gradient"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Radial gradient"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Conic gradient"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Spiral gradient"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Clouds"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Paper"),
                                  QT_TRANSLATE_NOOP("PaintEditor", "Pattern of a picture")};

FieldUnit plain(const QString& suffix, int decimals, double step, double least, double most) {
    FieldUnit unit;
    unit.suffix = suffix, unit.decimals = decimals, unit.step = step, unit.least = least, unit.most = most;
    return unit;
}

/// The colour a paint is best known by.
Ink mainColour(const Paint& paint) {
    if (const auto* c = std::get_if<Ink>(&paint)) return *c;
    if (const auto* g = std::get_if<Gradient>(&paint)) return g->stops.front().colour;
    if (const auto* c = std::get_if<Clouds>(&paint)) return c->high;
    if (const auto* p = std::get_if<Paper>(&paint)) return p->colour;
    return {0.5f, 0.5f, 0.5f, 1};
}

/// What a gradient of that kind starts from: over the area, keeping stops that are there.
Gradient startOf(GradientKind kind, const Paint& before, const Rect& area) {
    Gradient g;
    if (const auto* old = std::get_if<Gradient>(&before)) {
        g = *old;
        if ((old->kind == GradientKind::Linear) == (kind == GradientKind::Linear)) {
            g.kind = kind;
            return g;
        }
    } else {
        const Ink c = mainColour(before);
        g.stops = {{0, c}, {1, {c.r, c.g, c.b, 0}}};
    }
    g.kind = kind;
    const Gradient run = evenRun(area, 0, {}, {});
    g.from = kind == GradientKind::Linear ? run.from : area.centre();
    g.to = kind == GradientKind::Linear
               ? run.to
               : Vec2{area.centre().x + std::min(area.w, area.h) / 2, area.centre().y};
    return g;
}

} // namespace

PaintEditor::PaintEditor(const QString& what, QWidget* parent)
    : QWidget(parent)
    , what_(what) {
    form_ = figuresForm(this);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Kind of %1").arg(what));
    for (const char* name : kKinds) kind_->addItem(tr(name));
    kind_->setMaxVisibleItems(kind_->count());
    kind_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(kind_, &QComboBox::activated, this, &PaintEditor::choose);
    colour_ = new ColourButton(tr("Colour of %1").arg(what));
    connect(colour_, &ColourButton::chosen, this, [this](const Ink& c) {
        if (auto* paper = std::get_if<Paper>(&paint_))
            paper->colour = c;
        else
            paint_ = c;
        set();
    });
    form_->addRow(roleLabel(what, "soft"), inOneRow({kind_, colour_}));
    makeGradientRows();
    makeNoiseRows();
    makePatternRows();
}

NumberField* PaintEditor::field(const QString& name, const FieldUnit& unit,
                                const std::function<void(double)>& change) {
    auto* made = new NumberField(name, unit);
    connect(made, &NumberField::edited, this, [this, change](double v, bool settled) {
        change(v);
        set(settled);
    });
    return made;
}

void PaintEditor::makeGradientRows() {
    bar_ = new GradientBar;
    connect(bar_, &GradientBar::edited, this, [this](bool settled) {
        if (auto* g = std::get_if<Gradient>(&paint_)) {
            g->stops = bar_->stops();
            set(settled);
        }
    });
    connect(bar_, &GradientBar::currentChanged, this, &PaintEditor::refresh);
    stopColour_ = new ColourButton(tr("Colour of the stop"));
    connect(bar_, &GradientBar::colourAsked, stopColour_, &QPushButton::click);
    connect(stopColour_, &ColourButton::chosen, this, &PaintEditor::chooseStopColour);
    stopAt_ = field(tr("Place of the stop"), plain(QStringLiteral("%"), 1, 1, 0, 100), [this](double v) {
        auto* g = std::get_if<Gradient>(&paint_);
        if (!g) return;
        GradientStop moved = g->stops[bar_->current()];
        moved.at = v / 100;
        g->stops.erase(g->stops.begin() + ptrdiff_t(bar_->current()));
        bar_->setCurrent(putStop(g->stops, moved)); // it may have passed others
    });
    turns_ = field(tr("Turns of the spiral"), plain(QString(), 2, 0.25, -200, 200), [this](double v) {
        if (auto* g = std::get_if<Gradient>(&paint_); g && v != 0) g->turns = v;
    });
    turns_->setToolTip(tr("How often the run winds out to its handle; below zero it winds the other way"));
    spread_ = new QComboBox;
    spread_->setAccessibleName(tr("Beyond its ends"));
    spread_->addItems({tr("holds"), tr("repeats"), tr("mirrors")});
    connect(spread_, &QComboBox::activated, this, [this](int i) {
        if (auto* g = std::get_if<Gradient>(&paint_)) {
            g->spread = static_cast<GradientSpread>(i);
            set();
        }
    });
    hint_ = roleLabel(QString(), "soft");
    setFillInHand(false);
    QWidget* stop = inOneRow({stopColour_, stopAt_});
    form_->addRow(bar_);
    form_->addRow(roleLabel(tr("Stop"), "soft"), stop);
    form_->addRow(roleLabel(tr("Beyond"), "soft"), spread_);
    form_->addRow(new FieldLabel(tr("Turns"), turns_), turns_);
    form_->addRow(hint_);
    gradientRows_ = {bar_, stop, spread_, turns_, hint_};
}

void PaintEditor::setFillInHand(bool inHand) {
    hint_->setText(inHand ? tr("Its ends and stops can be dragged on the bench.")
                          : tr("The Fill hand (F) places it on the bench."));
}

void PaintEditor::makeNoiseRows() {
    low_ = new ColourButton(tr("Colour of the gaps"));
    high_ = new ColourButton(tr("Colour of the clouds"));
    connect(low_, &ColourButton::chosen, this, [this](const Ink& c) {
        if (auto* clouds = std::get_if<Clouds>(&paint_)) {
            clouds->low = c;
            set();
        }
    });
    connect(high_, &ColourButton::chosen, this, [this](const Ink& c) {
        if (auto* clouds = std::get_if<Clouds>(&paint_)) {
            clouds->high = c;
            set();
        }
    });
    size_ = field(tr("Size of the grain"), {}, [this](double v) {
        if (auto* clouds = std::get_if<Clouds>(&paint_)) clouds->size = v;
        if (auto* paper = std::get_if<Paper>(&paint_)) paper->size = v;
    });
    detail_ = field(tr("Detail"), plain(QString(), 0, 1, 1, 12), [this](double v) {
        if (auto* clouds = std::get_if<Clouds>(&paint_)) clouds->octaves = int(v);
    });
    contrast_ = field(tr("Contrast"), plain(QStringLiteral("%"), 0, 5, 0, 1000), [this](double v) {
        if (auto* clouds = std::get_if<Clouds>(&paint_)) clouds->contrast = v / 100;
    });
    grain_ = field(tr("Strength of the grain"), plain(QStringLiteral("%"), 0, 1, 0, 100), [this](double v) {
        if (auto* paper = std::get_if<Paper>(&paint_)) paper->grain = v / 100;
    });
    other_ = new QPushButton(tr("Another sheet"));
    other_->setToolTip(tr("The same settings with other chance"));
    connect(other_, &QPushButton::clicked, this, [this] {
        const uint32_t seed = QRandomGenerator::global()->bounded(1'000'000);
        if (auto* clouds = std::get_if<Clouds>(&paint_))
            clouds->seed = seed;
        else if (auto* paper = std::get_if<Paper>(&paint_))
            paper->seed = seed;
        else
            return;
        set();
    });
    QWidget* colours = inOneRow({low_, high_});
    form_->addRow(roleLabel(tr("Between"), "soft"), colours);
    form_->addRow(new FieldLabel(tr("Size"), size_), size_);
    form_->addRow(new FieldLabel(tr("Detail"), detail_), detail_);
    form_->addRow(new FieldLabel(tr("Contrast"), contrast_), contrast_);
    form_->addRow(new FieldLabel(tr("Grain"), grain_), grain_);
    form_->addRow(QString(), other_);
    noiseRows_ = {colours, size_, detail_, contrast_, grain_, other_};
}

void PaintEditor::makePatternRows() {
    picture_ = new QComboBox;
    picture_->setAccessibleName(tr("Picture of the pattern"));
    picture_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(picture_, &QComboBox::activated, this, [this](int i) {
        if (auto* p = std::get_if<Pattern>(&paint_)) {
            p->source = pictures_[size_t(i)].second;
            set();
        }
    });
    const auto pattern = [this](double Pattern::*which, double by) {
        return [this, which, by](double v) {
            if (auto* p = std::get_if<Pattern>(&paint_)) p->*which = v * by;
        };
    };
    FieldUnit percent = plain(QStringLiteral("%"), 1, 1, 0.1, 10000);
    scale_ = field(tr("Scale of the pattern"), percent, pattern(&Pattern::scale, 0.01));
    scale_->setToolTip(tr("Of the pattern, in hundredths of a unit for each pixel of the picture"));
    turn_ = field(tr("Turn of the pattern"), plain(QStringLiteral("°"), 1, 5, -360, 360),
                  pattern(&Pattern::turn, 1));
    shift_ = field(tr("Shift of each row"), plain(QStringLiteral("%"), 0, 5, 0, 100),
                   pattern(&Pattern::shift, 0.01));
    mirrored_ = new QCheckBox(tr("Every other one mirrored"));
    connect(mirrored_, &QCheckBox::clicked, this, [this](bool on) {
        if (auto* p = std::get_if<Pattern>(&paint_)) {
            p->mirrored = on;
            set();
        }
    });
    form_->addRow(roleLabel(tr("Picture"), "soft"), picture_);
    form_->addRow(new FieldLabel(tr("Scale"), scale_), scale_);
    form_->addRow(new FieldLabel(tr("Turn"), turn_), turn_);
    form_->addRow(new FieldLabel(tr("Row shift"), shift_), shift_);
    form_->addRow(QString(), mirrored_);
    patternRows_ = {picture_, scale_, turn_, shift_, mirrored_};
}

int PaintEditor::kindOf() const {
    if (const auto* g = std::get_if<Gradient>(&paint_)) return Linear + int(g->kind);
    if (std::holds_alternative<Clouds>(paint_)) return CloudNoise;
    if (std::holds_alternative<Paper>(paint_)) return PaperGrain;
    return std::holds_alternative<Pattern>(paint_) ? PatternOf : Colour;
}

void PaintEditor::choose(int kind) {
    if (kind == kindOf()) return;
    const Ink colour = mainColour(paint_);
    const double side = std::max(area_.w, area_.h);
    if (kind == Colour)
        paint_ = colour;
    else if (kind <= Spiral)
        paint_ = startOf(static_cast<GradientKind>(kind - Linear), paint_, area_);
    else if (kind == CloudNoise)
        paint_ = Clouds{{colour.r * 0.3f, colour.g * 0.3f, colour.b * 0.3f, 1}, colour, side / 3};
    else if (kind == PaperGrain)
        paint_ = Paper{colour, 0.15, length_.suffix == QStringLiteral("px") ? 6.0 : 0.5};
    else if (!pictures_.empty())
        paint_ = Pattern{pictures_.front().second, {area_.x, area_.y}, side / 4 / 500};
    set();
}

void PaintEditor::chooseStopColour(const Ink& colour) {
    if (auto* g = std::get_if<Gradient>(&paint_)) g->stops[bar_->current()].colour = colour;
    set();
}

void PaintEditor::set(bool settled) {
    refresh();
    Q_EMIT edited(paint_, settled);
}

void PaintEditor::show(const Paint& paint, const Rect& area, const FieldUnit& length,
                       const Release& release) {
    paint_ = paint;
    area_ = area;
    length_ = length;
    palette_ = release.palette;
    pictures_.clear();
    for (const SourcePtr& s : release.sources) pictures_.emplace_back(QString::fromStdString(s->name), s->id);
    const QSignalBlocker quiet(picture_);
    picture_->clear();
    for (const auto& [name, id] : pictures_) picture_->addItem(name);
    refresh();
}

void PaintEditor::refresh() {
    const auto* gradient = std::get_if<Gradient>(&paint_);
    const auto* clouds = std::get_if<Clouds>(&paint_);
    const auto* paper = std::get_if<Paper>(&paint_);
    const auto* pattern = std::get_if<Pattern>(&paint_);
    const auto reveal = [this](QWidget* row, bool on) {
        row->setVisible(on);
        if (QWidget* label = form_->labelForField(row)) label->setVisible(on);
    };
    kind_->setCurrentIndex(kindOf());
    kind_->setItemData(PatternOf, pictures_.empty() ? QVariant(0) : QVariant(), Qt::UserRole - 1);
    colour_->setVisible(paper || std::holds_alternative<Ink>(paint_));
    colour_->setColour(mainColour(paint_), palette_);
    for (QWidget* row : gradientRows_) reveal(row, gradient);
    for (QWidget* row : noiseRows_) reveal(row, clouds || paper);
    for (QWidget* row : patternRows_) reveal(row, pattern);
    if (gradient) {
        if (bar_->stops() != gradient->stops) bar_->setStops(gradient->stops);
        const GradientStop& stop = gradient->stops[std::min(bar_->current(), gradient->stops.size() - 1)];
        stopColour_->setColour(stop.colour, palette_);
        stopAt_->setValue(stop.at * 100);
        turns_->setValue(gradient->turns);
        spread_->setCurrentIndex(int(gradient->spread));
        reveal(turns_, gradient->kind == GradientKind::Spiral);
        reveal(spread_, gradient->kind == GradientKind::Linear || gradient->kind == GradientKind::Radial);
    }
    FieldUnit size = length_;
    size.least = 1e-3;
    size_->setUnit(size);
    if (clouds) {
        low_->setColour(clouds->low, palette_);
        high_->setColour(clouds->high, palette_);
        size_->setValue(clouds->size);
        detail_->setValue(clouds->octaves);
        contrast_->setValue(clouds->contrast * 100);
        reveal(grain_, false);
    }
    if (paper) {
        size_->setValue(paper->size);
        grain_->setValue(paper->grain * 100);
        for (QWidget* row : {noiseRows_[0], static_cast<QWidget*>(detail_), static_cast<QWidget*>(contrast_)})
            reveal(row, false);
    }
    if (pattern) {
        for (size_t i = 0; i < pictures_.size(); ++i)
            if (pictures_[i].second == pattern->source) picture_->setCurrentIndex(int(i));
        scale_->setValue(pattern->scale * 100);
        turn_->setValue(pattern->turn);
        shift_->setValue(pattern->shift * 100);
        mirrored_->setChecked(pattern->mirrored);
    }
    // At once, from here outwards: rows that came or went must not be drawn where others are still shown.
    for (QWidget* w = this; w && w->layout(); w = w->parentWidget()) {
        w->layout()->invalidate();
        w->layout()->activate();
    }
}

} // namespace glyptos
