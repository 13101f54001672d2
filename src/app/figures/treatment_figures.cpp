#include "app/figures/treatment_figures.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kNotches = 1000; ///< of a slider

/// Lengths and the like go finely at the small end: a cubic of the slider's way.
bool isBent(const Figure& figure) {
    return figure.unit == FigureUnit::Length || figure.unit == FigureUnit::LinesPerInch ||
           (figure.unit == FigureUnit::Plain && figure.most > 20);
}

struct SliderRange {
    double least, most;
    bool bent;
    int notchOf(double v) const {
        const double t = std::clamp((v - least) / (most - least), 0.0, 1.0);
        return int(std::lround(kNotches * (bent ? std::cbrt(t) : t)));
    }
    double valueAt(int notch) const {
        const double t = double(notch) / kNotches;
        return least + (most - least) * (bent ? t * t * t : t);
    }
};

SliderRange rangeOf(const Figure& figure, const FigureSurroundings& around) {
    const double most =
        figure.unit == FigureUnit::Length ? std::min(figure.most, around.longest) : figure.most;
    return {figure.least, most, isBent(figure)};
}

} // namespace

QString treatmentWord(std::string_view english) {
    return QCoreApplication::translate("glyptos::treatments", std::string(english).c_str());
}

TreatmentFigures::TreatmentFigures(QWidget* parent)
    : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
}

/// Without the part of it that names its group.
QString TreatmentFigures::labelOf(const Figure& figure) const {
    QString label = treatmentWord(figure.label);
    const auto colon = label.indexOf(QStringLiteral(": "));
    if (colon < 0) return label;
    const QString rest = label.mid(colon + 2);
    return rest.left(1).toUpper() + rest.mid(1);
}

void TreatmentFigures::show(const Treatment& treatment, const FigureSurroundings& around) {
    const bool otherUnit = around.length.suffix != around_.length.suffix || around.longest != around_.longest;
    treatment_ = treatment;
    around_ = around;
    if (kind_ != treatment.kind || otherUnit) rebuild();
    showing_ = true;
    for (size_t i = 0; i < rows_.size(); ++i) showValue(i);
    showing_ = false;
}

void TreatmentFigures::rebuild() {
    kind_ = treatment_.kind;
    rows_.clear();
    curveFigures_.clear();
    groups_ = curves_ = nullptr;
    curve_ = nullptr;
    delete holder_;
    holder_ = new QWidget;
    form_ = figuresForm(holder_);
    layout()->addWidget(holder_);
    if (!kind_) return;
    rows_.resize(kind_->figures.size());
    QStringList groups;
    for (size_t i = 0; i < rows_.size(); ++i) {
        const Figure& figure = kind_->figures[i];
        const QString label = treatmentWord(figure.label);
        const auto colon = label.indexOf(QStringLiteral(": "));
        if (colon >= 0) rows_[i].group = label.left(colon);
        if (colon >= 0 && !groups.contains(rows_[i].group)) groups << rows_[i].group;
        if (figure.kind == FigureKind::Curve) curveFigures_.push_back(i);
    }
    if (!curveFigures_.empty()) addCurves(curveFigures_);
    if (groups.size() > 1) {
        groups_ = new QComboBox;
        groups_->setAccessibleName(tr("Part"));
        groups_->addItems(groups);
        connect(groups_, &QComboBox::currentIndexChanged, this, &TreatmentFigures::showGroup);
        form_->addRow(roleLabel(tr("Part"), "soft"), groups_);
    }
    for (size_t i = 0; i < rows_.size(); ++i)
        if (kind_->figures[i].kind != FigureKind::Curve) addRow(i);
    showGroup();
}

void TreatmentFigures::showGroup() {
    if (!groups_) return;
    for (const Row& row : rows_)
        for (QWidget* widget : row.all)
            widget->setVisible(row.group.isEmpty() || row.group == groups_->currentText());
}

void TreatmentFigures::put(size_t i, QWidget* label, QWidget* field) {
    if (label)
        form_->addRow(label, field);
    else
        form_->addRow(QString(), field);
    rows_[i].all = {field};
    if (label) rows_[i].all.push_back(label);
}

FieldUnit TreatmentFigures::unitOf(const Figure& figure, double& by) const {
    FieldUnit unit;
    by = 1;
    switch (figure.unit) {
    case FigureUnit::Share:
        by = 100, unit.suffix = QStringLiteral("%"), unit.decimals = 0, unit.step = 2;
        break;
    case FigureUnit::Degrees:
    case FigureUnit::Hue:
        unit.suffix = QStringLiteral("°"), unit.decimals = 0, unit.step = 5;
        break;
    case FigureUnit::Length:
        unit = around_.length;
        break;
    case FigureUnit::LinesPerInch:
        unit.suffix = tr("lpi"), unit.decimals = 0, unit.step = 5;
        break;
    case FigureUnit::Stops:
        unit.suffix = QString(), unit.decimals = 2, unit.step = 0.1;
        break;
    case FigureUnit::Whole:
    case FigureUnit::Chance:
        unit.decimals = 0;
        break;
    default:
        unit.decimals = 2, unit.step = (figure.most - figure.least) / 50;
    }
    unit.least = figure.least * by, unit.most = figure.most * by;
    return unit;
}

void TreatmentFigures::addNumber(size_t i, const QString& label) {
    const Figure& figure = kind_->figures[i];
    double by = 1;
    auto* field = new NumberField(label, unitOf(figure, by));
    field->setFixedWidth(66);
    rows_[i].by = by;
    rows_[i].widget = field;
    connect(field, &NumberField::edited, this, [this, i, by](double v, bool settled) {
        if (!showing_) Q_EMIT edited(i, v / by, settled);
    });
    if (figure.unit == FigureUnit::Chance) {
        auto* next = wordButton(tr("Another"), tr("Another number: other chances"));
        connect(next, &QToolButton::clicked, field, [field] { field->stepBy(1); });
        return put(i, new FieldLabel(label, field), inOneRow({field, next}));
    }
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setRange(0, kNotches);
    slider->setAccessibleName(tr("%1 slider").arg(label));
    rows_[i].slider = slider;
    connect(slider, &QSlider::valueChanged, this, [this, i](int notch) {
        if (showing_) return;
        const Figure& f = kind_->figures[i];
        double v = rangeOf(f, around_).valueAt(notch);
        if (f.unit == FigureUnit::Whole) v = std::round(v);
        Q_EMIT edited(i, std::clamp(v, f.least, f.most),
                      !static_cast<QSlider*>(rows_[i].slider)->isSliderDown());
    });
    connect(slider, &QSlider::sliderReleased, this,
            [this, i] { Q_EMIT edited(i, treatment_.figures[i], true); });
    if (figure.unit != FigureUnit::Hue)
        return put(i, new FieldLabel(label, field), inOneRow({slider, field}));
    put(i, new FieldLabel(label, field), inOneRow({slider, pickButton(i), field}));
}

QToolButton* TreatmentFigures::pickButton(size_t i) {
    auto* pick = wordButton(tr("Pick"), tr("Take it from the picture: click there"));
    connect(pick, &QToolButton::clicked, this, [this, i] { Q_EMIT colourPickAsked(i); });
    return pick;
}

void TreatmentFigures::addRow(size_t i) {
    const Figure& figure = kind_->figures[i];
    const QString label = labelOf(figure);
    switch (figure.kind) {
    case FigureKind::Number:
        return addNumber(i, label);
    case FigureKind::Flag: {
        auto* box = new QCheckBox(label);
        connect(box, &QCheckBox::clicked, this,
                [this, i](bool on) { Q_EMIT edited(i, on ? 1.0 : 0.0, true); });
        rows_[i].widget = box;
        return put(i, nullptr, box);
    }
    case FigureKind::Choice: {
        auto* box = new QComboBox;
        box->setAccessibleName(label);
        for (const char* word : figure.choices) box->addItem(treatmentWord(word));
        connect(box, &QComboBox::activated, this, [this, i](int at) { Q_EMIT edited(i, double(at), true); });
        rows_[i].widget = box;
        return put(i, roleLabel(label, "soft"), box);
    }
    case FigureKind::Colour: {
        auto* button = new ColourButton(label);
        connect(button, &ColourButton::chosen, this,
                [this, i](const Ink& ink) { Q_EMIT edited(i, ink, true); });
        rows_[i].widget = button;
        return put(i, roleLabel(label, "soft"), inOneRow({button, pickButton(i)}));
    }
    case FigureKind::Run:
        return addRun(i, label);
    case FigureKind::Table: {
        auto* button = new QPushButton;
        button->setAccessibleName(label);
        connect(button, &QPushButton::clicked, this, [this, i] { Q_EMIT lookFileAsked(i); });
        rows_[i].widget = button;
        return put(i, roleLabel(label, "soft"), button);
    }
    case FigureKind::Picture: {
        auto* box = new QComboBox;
        // Names may be long; the list that opens shows them whole.
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
        box->setAccessibleName(label);
        connect(box, &QComboBox::activated, this, [this, i, box](int at) {
            Q_EMIT edited(i, box->itemData(at).toString().toStdString(), true);
        });
        rows_[i].widget = box;
        return put(i, roleLabel(label, "soft"), box);
    }
    case FigureKind::Point: {
        auto* says = roleLabel(QString(), "soft");
        rows_[i].widget = says;
        return put(i, roleLabel(label, "soft"), says);
    }
    case FigureKind::Path: {
        auto* button = new QPushButton(tr("From the shape in front"));
        button->setAccessibleName(label);
        connect(button, &QPushButton::clicked, this, [this, i] { Q_EMIT pathAsked(i); });
        rows_[i].widget = button;
        return put(i, roleLabel(label, "soft"), button);
    }
    case FigureKind::Curve:
        return;
    }
}

void TreatmentFigures::addRun(size_t i, const QString& label) {
    auto* bar = new GradientBar;
    bar->setAccessibleName(label);
    auto* colour = new ColourButton(tr("Colour of the stop"));
    connect(bar, &GradientBar::edited, this, [this, i, bar](bool settled) {
        if (!showing_) Q_EMIT edited(i, ColourRun(bar->stops()), settled);
    });
    const auto showStop = [this, bar, colour] {
        if (bar->current() < bar->stops().size())
            colour->setColour(bar->stops()[bar->current()].colour, around_.palette);
    };
    connect(bar, &GradientBar::currentChanged, this, showStop);
    connect(bar, &GradientBar::colourAsked, colour, &QPushButton::click);
    connect(colour, &ColourButton::chosen, this, [this, i, bar, showStop](const Ink& ink) {
        ColourRun run = bar->stops();
        if (bar->current() >= run.size()) return;
        run[bar->current()].colour = ink;
        bar->setStops(run);
        showStop();
        Q_EMIT edited(i, std::move(run), true);
    });
    rows_[i].widget = bar;
    rows_[i].slider = colour;
    form_->addRow(bar);
    form_->addRow(roleLabel(tr("Stop"), "soft"), colour);
}

void TreatmentFigures::addCurves(const std::vector<size_t>& figures) {
    curveInHand_ = figures.front();
    curves_ = new QComboBox;
    curves_->setAccessibleName(tr("Curve"));
    for (const size_t i : figures) curves_->addItem(labelOf(kind_->figures[i]));
    auto* pick = wordButton(tr("Pick"), tr("Add the point of a tone: click it in the picture"));
    auto* straight = wordButton(tr("Straight"), tr("Take all points of this curve away"));
    curve_ = new ToneCurveEditor(tr("Curve of tones"));
    curve_->setHistogram(histogram_, 3);
    connect(curves_, &QComboBox::activated, this, [this](int at) {
        curveInHand_ = curveFigures_[size_t(at)];
        setHistogram(histogram_);
        showValue(curveInHand_);
    });
    connect(pick, &QToolButton::clicked, this, &TreatmentFigures::pointPickAsked);
    connect(straight, &QToolButton::clicked, this,
            [this] { Q_EMIT edited(curveInHand_, ToneCurve{}, true); });
    connect(curve_, &ToneCurveEditor::edited, this,
            [this](bool settled) { Q_EMIT edited(curveInHand_, curve_->curve(), settled); });
    form_->addRow(inOneRow({curves_, pick, straight}));
    form_->addRow(curve_);
    for (const size_t i : figures) rows_[i].widget = curve_;
}

void TreatmentFigures::setHistogram(const Histogram& histogram) {
    histogram_ = histogram;
    if (!curve_) return;
    const auto at =
        std::find(curveFigures_.begin(), curveFigures_.end(), curveInHand_) - curveFigures_.begin();
    curve_->setHistogram(histogram, at >= 1 && at <= 3 ? int(at) - 1 : 3);
}

void TreatmentFigures::showValue(size_t i) {
    const Figure& figure = kind_->figures[i];
    const FigureValue& value = treatment_.figures[i];
    Row& row = rows_[i];
    switch (figure.kind) {
    case FigureKind::Number: {
        const double v = std::get<double>(value);
        static_cast<NumberField*>(row.widget)->setValue(v * row.by);
        auto* slider = static_cast<QSlider*>(row.slider);
        if (slider && !slider->isSliderDown()) slider->setValue(rangeOf(figure, around_).notchOf(v));
        break;
    }
    case FigureKind::Flag:
        static_cast<QCheckBox*>(row.widget)->setChecked(std::get<double>(value) != 0);
        break;
    case FigureKind::Choice:
        static_cast<QComboBox*>(row.widget)->setCurrentIndex(int(std::get<double>(value)));
        break;
    case FigureKind::Colour:
        static_cast<ColourButton*>(row.widget)->setColour(std::get<Ink>(value), around_.palette);
        break;
    case FigureKind::Run: {
        auto* bar = static_cast<GradientBar*>(row.widget);
        bar->setStops(std::get<ColourRun>(value));
        if (bar->current() < bar->stops().size())
            static_cast<ColourButton*>(row.slider)
                ->setColour(bar->stops()[bar->current()].colour, around_.palette);
        break;
    }
    case FigureKind::Table: {
        const auto& table = std::get<LookTablePtr>(value);
        static_cast<QPushButton*>(row.widget)
            ->setText(!table                 ? tr("Choose a look…")
                      : table->title.empty() ? tr("A table of %1").arg(table->size)
                                             : QString::fromStdString(table->title));
        break;
    }
    case FigureKind::Picture: {
        auto* box = static_cast<QComboBox*>(row.widget);
        box->clear();
        box->addItem(tr("none"), QString());
        for (const auto& [name, id] : around_.pictures) box->addItem(name, QString::fromStdString(id));
        box->setCurrentIndex(
            std::max(0, box->findData(QString::fromStdString(std::get<std::string>(value)))));
        break;
    }
    case FigureKind::Point: {
        const auto& at = std::get<std::optional<Vec2>>(value);
        static_cast<QLabel*>(row.widget)
            ->setText(at ? tr("%1, %2 — drag it on the bench").arg(at->x, 0, 'f', 1).arg(at->y, 0, 'f', 1)
                         : tr("drag it on the bench"));
        break;
    }
    case FigureKind::Path:
        static_cast<QPushButton*>(row.widget)
            ->setText(std::get<std::vector<Contour>>(value).empty() ? tr("From the shape in front")
                                                                    : tr("Taken from a shape; take another"));
        break;
    case FigureKind::Curve:
        if (i == curveInHand_) curve_->setCurve(std::get<ToneCurve>(value));
        break;
    }
}

} // namespace glyptos
