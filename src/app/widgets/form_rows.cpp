#include "app/widgets/form_rows.h"

#include "app/widgets/colour_popup.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"

#include <QColorDialog>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QStyle>
#include <QWidgetAction>

namespace glyptos {

QLabel* roleLabel(const QString& text, const char* role, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("role", role);
    label->setWordWrap(true);
    return label;
}

QLabel* heading(const QString& text, QWidget* parent) {
    QLabel* label = roleLabel(text.toUpper(), "heading", parent);
    QFont font = uiFont(11, 600);
    font.setLetterSpacing(QFont::AbsoluteSpacing, 0.8);
    label->setFont(font);
    return label;
}

void setRole(QLabel* label, const char* role) {
    label->setProperty("role", role);
    label->style()->unpolish(label);
    label->style()->polish(label);
}

QFormLayout* figuresForm(QWidget* parent) {
    auto* form = new QFormLayout(parent);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(10);
    form->setVerticalSpacing(6);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    return form;
}

QWidget* inOneRow(std::initializer_list<QWidget*> widgets) {
    auto* row = new QWidget;
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    for (QWidget* w : widgets) layout->addWidget(w);
    return row;
}

QScrollArea* scrolling(QWidget* inside) {
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setWidget(inside);
    return area;
}

QToolButton* wordButton(const QString& text, const QString& why, bool checkable) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setAccessibleName(text);
    button->setToolTip(why);
    button->setCheckable(checkable);
    button->setCursor(Qt::PointingHandCursor);
    return button;
}

QToolButton* opening(const QString& text, const QString& why, QWidget* inside) {
    QToolButton* button = wordButton(text, why);
    button->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(button);
    auto* action = new QWidgetAction(menu);
    action->setDefaultWidget(inside);
    menu->addAction(action);
    button->setMenu(menu);
    return button;
}

QColorDialog* colourChooser(const QColor& colour, QWidget* parent) {
    auto* dialog = new QColorDialog(colour, parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setOptions(QColorDialog::ShowAlphaChannel | QColorDialog::DontUseNativeDialog);
    return dialog;
}

ColourButton::ColourButton(const QString& accessibleName, QWidget* parent)
    : QPushButton(parent) {
    setAccessibleName(accessibleName);
    setMinimumWidth(64);
    connect(this, &QPushButton::clicked, this, &ColourButton::ask);
}

QColor ColourButton::colour() const {
    return toQt(colour_);
}

void ColourButton::setColour(const Ink& colour, const std::vector<Swatch>& palette) {
    colour_ = colour;
    palette_ = palette;
    QString says = QString::fromStdString(toHex(colour));
    for (const Swatch& s : palette)
        if (s.id == colour.swatch)
            says = tr("%1, %2 of the release").arg(says, QString::fromStdString(s.name));
    setToolTip(says);
    update();
}

void ColourButton::ask() {
    if (palette_.empty()) return askOther();
    auto* popup = new ColourPopup(palette_, colour_, this);
    connect(popup, &ColourPopup::chosen, this, &ColourButton::chosen);
    connect(popup, &ColourPopup::otherAsked, this, &ColourButton::askOther);
    popup->popUp(this);
}

void ColourButton::askOther() {
    QColorDialog* dialog = colourChooser(colour(), this);
    connect(dialog, &QColorDialog::colorSelected, this,
            [this](const QColor& c) { Q_EMIT chosen(fromQt(c)); });
    dialog->open();
}

void ColourButton::paintEvent(QPaintEvent* event) {
    QPushButton::paintEvent(event);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF area = QRectF(rect()).adjusted(6, 6, -6, -6);
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(area, 3, 3);
    painter.setBrush(colour());
    painter.drawRoundedRect(area, 3, 3);
    if (colour_.swatch.empty()) return;
    // A notch says that it follows the palette.
    const QPolygonF notch{area.topRight(), area.topRight() - QPointF(9, 0), area.topRight() + QPointF(0, 9)};
    painter.setBrush(theme().sheet);
    painter.drawPolygon(notch);
}

} // namespace glyptos
