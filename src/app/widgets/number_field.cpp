#include "app/widgets/number_field.h"

#include "base/expression.h"
#include "base/text.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QStyle>
#include <QWheelEvent>
#include <cmath>

namespace glyptos {

NumberField::NumberField(const QString& accessibleName, const FieldUnit& unit, QWidget* parent)
    : QLineEdit(parent)
    , unit_(unit) {
    setAccessibleName(accessibleName);
    setMinimumWidth(58);
    connect(this, &QLineEdit::editingFinished, this, &NumberField::readText);
    showValue(0);
}

void NumberField::setUnit(const FieldUnit& unit) {
    unit_ = unit;
    showValue(value_);
}

void NumberField::setValue(double value) {
    value_ = value;
    if (!hasFocus() || !isModified()) showValue(value);
}

void NumberField::showValue(double value) {
    setText(QString::fromStdString(shortNumber(value, unit_.decimals)) +
            (unit_.suffix.isEmpty() ? QString() : QStringLiteral(" ") + unit_.suffix));
    setModified(false);
    setProperty("wrong", false);
    setToolTip(unit_.length ? tr("Takes sums and units: 12.5in, 3mm + 1/8in") : tr("Takes sums: 100/3"));
    style()->polish(this);
}

void NumberField::readText() {
    if (!isModified()) return;
    const NameValue lengths = lengthUnitsInMm(unit_.pxPerMm);
    // "%", "°" and the like may stay behind the figure; in front of a sum of percent they mean themselves.
    QString typed = text();
    if (!unit_.length && !unit_.suffix.isEmpty()) typed.remove(unit_.suffix);
    const auto names = [&](std::string_view name) -> std::optional<double> {
        if (!unit_.length) return std::nullopt;
        if (QString::fromUtf8(name.data(), qsizetype(name.size())) == unit_.suffix) return 1.0;
        const auto mm = lengths(name);
        return mm ? std::optional(*mm * unit_.perMm) : std::nullopt;
    };
    const auto result = evaluate(typed.toStdString(), names);
    QString wrong;
    if (!result)
        wrong = QString::fromStdString(result.error().message);
    else if (*result < unit_.least || *result > unit_.most)
        wrong = tr("It must lie between %1 and %2.").arg(unit_.least).arg(unit_.most);
    if (!wrong.isEmpty()) {
        setProperty("wrong", true);
        setToolTip(wrong + QLatin1Char(' ') +
                   tr("The figure before it is still in force: %1.")
                       .arg(QString::fromStdString(shortNumber(value_, unit_.decimals))));
        style()->polish(this);
        return;
    }
    value_ = *result;
    showValue(value_);
    Q_EMIT edited(value_, true);
}

void NumberField::stepBy(double steps) {
    const double next = value_ + steps * unit_.step;
    if (next < unit_.least || next > unit_.most) return;
    value_ = next;
    showValue(value_);
    Q_EMIT edited(value_, false);
}

void NumberField::wheelEvent(QWheelEvent* event) {
    if (!hasFocus()) return event->ignore();
    stepBy(event->angleDelta().y() / 120.0 * (event->modifiers() & Qt::ShiftModifier ? 10 : 1));
    event->accept();
}

void NumberField::keyPressEvent(QKeyEvent* event) {
    const double size = event->modifiers() & Qt::ShiftModifier ? 10 : 1;
    if (event->key() == Qt::Key_Up)
        stepBy(size);
    else if (event->key() == Qt::Key_Down)
        stepBy(-size);
    else if (event->key() == Qt::Key_Escape)
        showValue(value_);
    else
        QLineEdit::keyPressEvent(event);
}

void NumberField::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    if (event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason) selectAll();
}

FieldLabel::FieldLabel(const QString& text, NumberField* field, QWidget* parent)
    : QLabel(text, parent)
    , field_(field) {
    setBuddy(field);
    setCursor(Qt::SizeHorCursor);
    setProperty("role", "soft");
    setToolTip(tr("Drag sideways to turn the figure"));
}

void FieldLabel::mousePressEvent(QMouseEvent* event) {
    Q_EMIT field_->turning();
    lastX_ = event->position().x();
}

void FieldLabel::mouseMoveEvent(QMouseEvent* event) {
    const double way = event->position().x() - lastX_;
    if (std::abs(way) < 3) return;
    field_->stepBy(std::trunc(way / 3));
    lastX_ += std::trunc(way / 3) * 3;
}

} // namespace glyptos
