#include "app/letter/axis_fields.h"

#include "app/figures/layer_section.h"
#include "app/widgets/form_rows.h"

namespace glyptos {
namespace {

constexpr int kNotches = 1000;

} // namespace

AxisFields::AxisFields(QWidget* parent)
    : QWidget(parent)
    , form_(figuresForm(this)) {}

void AxisFields::makeRows(const std::vector<FaceAxis>& axes) {
    while (form_->rowCount() > 0) form_->removeRow(0);
    rows_.clear();
    for (const FaceAxis& axis : axes) {
        const QString name = QString::fromStdString(axis.name.empty() ? axis.tag : axis.name);
        auto* field = new NumberField(name, plainUnit(QString(), axis.most - axis.least > 20 ? 0 : 2,
                                                      (axis.most - axis.least) / 100, axis.least, axis.most));
        auto* slider = new QSlider(Qt::Horizontal);
        slider->setAccessibleName(name);
        slider->setRange(0, kNotches);
        const auto at = [axis](double value) { return AxisValue{axis.tag, value}; };
        connect(field, &NumberField::edited, this,
                [this, at](double value, bool settled) { Q_EMIT moved(at(value), settled); });
        connect(slider, &QSlider::valueChanged, this, [this, axis, at, slider](int notch) {
            if (!showing_)
                Q_EMIT moved(at(axis.least + (axis.most - axis.least) * notch / kNotches),
                             !slider->isSliderDown());
        });
        connect(slider, &QSlider::sliderReleased, this, [this, axis, at, slider] {
            Q_EMIT moved(at(axis.least + (axis.most - axis.least) * slider->value() / kNotches), true);
        });
        form_->addRow(new FieldLabel(name, field), inOneRow({slider, field}));
        rows_.push_back({axis, field, slider});
    }
}

void AxisFields::show(const Face& face) {
    const auto& axes = face.axes();
    setVisible(!axes.empty());
    showing_ = true;
    const bool isSame = std::equal(
        axes.begin(), axes.end(), rows_.begin(), rows_.end(), [](const FaceAxis& a, const Row& row) {
            return a.tag == row.axis.tag && a.least == row.axis.least && a.most == row.axis.most;
        });
    if (!isSame) makeRows(axes);
    for (size_t i = 0; i < rows_.size(); ++i) {
        const FaceAxis& axis = axes[i];
        rows_[i].field->setValue(axis.at);
        const double share = axis.most > axis.least ? (axis.at - axis.least) / (axis.most - axis.least) : 0;
        if (!rows_[i].slider->isSliderDown()) rows_[i].slider->setValue(int(std::lround(share * kNotches)));
    }
    showing_ = false;
}

} // namespace glyptos
