#include "app/widgets/colour_popup.h"

#include "app/widgets/colour_chip.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"

#include <QGridLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QScreen>

namespace glyptos {
namespace {

constexpr int kColumns = 6;

} // namespace

ColourPopup::ColourPopup(const std::vector<Swatch>& palette, const Ink& now, QWidget* parent)
    : QWidget(parent, Qt::Popup) {
    setAttribute(Qt::WA_DeleteOnClose);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 12);
    column->setSpacing(7);
    column->addWidget(heading(tr("Colours of the release")));
    auto* grid = new QGridLayout;
    grid->setSpacing(2);
    for (size_t i = 0; i < palette.size(); ++i) {
        const Swatch& swatch = palette[i];
        auto* chip = new ColourChip(toQt(swatch.colour), QString::fromStdString(swatch.name));
        chip->setCheckable(true);
        chip->setChecked(swatch.id == now.swatch);
        grid->addWidget(chip, int(i) / kColumns, int(i) % kColumns);
        connect(chip, &QToolButton::clicked, this, [this, swatch, alpha = now.a] {
            Q_EMIT chosen(Ink({swatch.colour.r, swatch.colour.g, swatch.colour.b, alpha}, swatch.id));
            close();
        });
    }
    grid->setColumnStretch(kColumns, 1);
    column->addLayout(grid);
    auto* other = new QPushButton(tr("Another colour…"));
    connect(other, &QPushButton::clicked, this, [this] {
        close();
        Q_EMIT otherAsked();
    });
    column->addWidget(other);
}

void ColourPopup::popUp(QWidget* by) {
    adjustSize();
    const QRect screen = by->screen()->availableGeometry();
    QPoint at = by->mapToGlobal(QPoint(0, by->height() + 3));
    if (at.y() + height() > screen.bottom()) at.setY(by->mapToGlobal(QPoint(0, 0)).y() - height() - 3);
    popUpAt(at);
}

void ColourPopup::popUpAt(QPoint at) {
    adjustSize();
    const QRect screen = parentWidget()->screen()->availableGeometry();
    at.setX(std::clamp(at.x(), screen.left(), std::max(screen.left(), screen.right() - width())));
    at.setY(std::clamp(at.y(), screen.top(), std::max(screen.top(), screen.bottom() - height())));
    move(at);
    show();
    if (auto* first = findChild<ColourChip*>()) first->setFocus();
}

void ColourPopup::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().sheet);
    painter.setPen(QPen(theme().softInk, 1));
    painter.drawRect(rect().adjusted(0, 0, -1, -1));
}

void ColourPopup::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Right || event->key() == Qt::Key_Down) return void(focusNextPrevChild(true));
    if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Up) return void(focusNextPrevChild(false));
    QWidget::keyPressEvent(event);
}

} // namespace glyptos
