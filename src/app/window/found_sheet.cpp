#include "app/window/found_sheet.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "base/text.h"

#include <QDateTime>
#include <QLocale>
#include <QMessageBox>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kSide = 84, kRow = kSide + 20; // px
enum Role { TitleRole = Qt::UserRole, LinesRole };

/// A miniature, the title, and lines beneath it.
class FoundRow : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {300, kRow}; }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const Theme& t = theme();
        const bool chosen = option.state & QStyle::State_Selected;
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        if (chosen) {
            painter->setPen(Qt::NoPen);
            painter->setBrush(t.paper);
            painter->drawRoundedRect(option.rect.adjusted(4, 3, -4, -3), 6, 6);
            painter->setBrush(t.accent);
            painter->drawRoundedRect(QRect(option.rect.left() + 4, option.rect.top() + 10, 3, kRow - 20), 1,
                                     1);
        }
        const QRect place(option.rect.left() + 16, option.rect.top() + 10, kSide, kSide);
        painter->fillRect(place, t.bench);
        const auto image = index.data(Qt::DecorationRole).value<QImage>();
        if (!image.isNull()) {
            QRect shown(QPoint(), image.size().scaled(place.size(), Qt::KeepAspectRatio));
            shown.moveCenter(place.center());
            painter->setRenderHint(QPainter::SmoothPixmapTransform);
            painter->drawImage(shown, image);
        }
        QRect words = option.rect.adjusted(kSide + 32, 14, -16, 0);
        painter->setFont(uiFont(14, 600));
        painter->setPen(t.ink);
        const auto line = [&](const QString& text, int height) {
            painter->drawText(QRect(words.left(), words.top(), words.width(), height), Qt::AlignVCenter,
                              painter->fontMetrics().elidedText(text, Qt::ElideMiddle, words.width()));
            words.setTop(words.top() + height);
        };
        line(index.data(TitleRole).toString(), 24);
        painter->setFont(uiFont(12, 400));
        painter->setPen(t.softInk);
        for (const QString& text : index.data(LinesRole).toStringList()) line(text, 20);
        painter->restore();
    }
};

QString whenOf(int64_t ms) {
    const QDateTime at = QDateTime::fromMSecsSinceEpoch(ms), now = QDateTime::currentDateTime();
    const QLocale here;
    const QString time =
        here.toString(at.time(), here.language() == QLocale::C ? QStringLiteral("HH:mm")
                                                               : here.timeFormat(QLocale::ShortFormat));
    if (at.date() == now.date()) return FoundSheet::tr("today at %1").arg(time);
    if (at.date() == now.date().addDays(-1)) return FoundSheet::tr("yesterday at %1").arg(time);
    return FoundSheet::tr("on %1 at %2").arg(QLocale().toString(at.date(), QLocale::LongFormat), time);
}

QString whereOf(const JournalSummary& journal) {
    if (!journal.as) return FoundSheet::tr("never saved in a file");
    const QString name = q(visible(journal.as->file.string()));
    std::error_code code;
    if (!std::filesystem::exists(journal.as->file, code))
        return FoundSheet::tr("of %1, which is gone").arg(name);
    return stampOf(journal.as->file) == journal.as->stamp
               ? FoundSheet::tr("of %1").arg(name)
               : FoundSheet::tr("of %1, which has been changed elsewhere since").arg(name);
}

} // namespace

FoundSheet::FoundSheet(const std::vector<JournalSummary>& lost, QWidget* parent)
    : QDialog(parent)
    , lost_(lost) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Found again"));
    resize(680, std::clamp(int(lost.size()), 1, 4) * kRow + 150);
    auto* column = new QVBoxLayout(this);
    column->setSpacing(10);
    column->addWidget(roleLabel(
        lost.empty() ? tr("There is nothing that was not saved.")
                     : tr("This was not saved when its window went. Take one up, and it is as it was, with "
                          "its steps; what you leave stays here for %1 days.")
                           .arg(kLeftDays),
        "soft"));
    column->addWidget(list_ = new QListWidget, 1);
    list_->setAccessibleName(tr("Releases with work that was not saved"));
    list_->setItemDelegate(new FoundRow(list_));
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    for (const JournalSummary& journal : lost) addRow(journal);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(discard_ = new QPushButton(tr("Remove for good…")));
    buttons->addStretch();
    auto* leave = new QPushButton(lost.empty() ? tr("Close") : tr("Leave them"));
    buttons->addWidget(leave);
    buttons->addWidget(take_ = new QPushButton(tr("Take it up")));
    take_->setProperty("role", "main");
    take_->setDefault(true);
    discard_->setAutoDefault(false);
    leave->setAutoDefault(false);
    column->addLayout(buttons);
    for (QPushButton* button : {take_, discard_}) button->setEnabled(!lost.empty());
    list_->setCurrentRow(0);
    connect(take_, &QPushButton::clicked, this, &FoundSheet::takeUp);
    connect(list_, &QListWidget::itemActivated, this, &FoundSheet::takeUp);
    connect(leave, &QPushButton::clicked, this, &FoundSheet::reject);
    connect(discard_, &QPushButton::clicked, this, &FoundSheet::discard);
}

void FoundSheet::addRow(const JournalSummary& journal) {
    const QString title = journal.title.empty() ? tr("A release without a title") : q(visible(journal.title));
    const QString when = whenOf(journal.changedMs);
    const QStringList lines{journal.steps == 1
                                ? tr("one step not saved, made %1").arg(when)
                                : tr("%1 steps not saved, the last %2").arg(journal.steps).arg(when),
                            whereOf(journal)};
    auto* row = new QListWidgetItem(list_);
    row->setData(TitleRole, title);
    row->setData(LinesRole, lines);
    row->setData(Qt::AccessibleTextRole, title + QStringLiteral(", ") + lines.join(QStringLiteral(", ")));
    row->setData(Qt::DecorationRole,
                 QImage::fromData(journal.miniature.data(), int(journal.miniature.size()), "PNG"));
}

void FoundSheet::takeUp() {
    const int row = list_->currentRow();
    if (row < 0) return;
    for (size_t i = 0; i < lost_.size(); ++i)
        if (int(i) != row && !lost_[i].isLeft) Q_EMIT leftOne(lost_[i].journal);
    Q_EMIT takeUpAsked(lost_[size_t(row)].journal);
    accept();
}

/// What is left is not asked about again.
void FoundSheet::reject() {
    for (const JournalSummary& journal : lost_)
        if (!journal.isLeft) Q_EMIT leftOne(journal.journal);
    QDialog::reject();
}

void FoundSheet::discard() {
    const int row = list_->currentRow();
    if (row < 0) return;
    QMessageBox box(QMessageBox::Warning, tr("Remove for good"),
                    tr("“%1” and all its steps cannot be found again after that.")
                        .arg(list_->item(row)->data(TitleRole).toString()),
                    QMessageBox::NoButton, this);
    const QPushButton* remove = box.addButton(tr("Remove it"), QMessageBox::DestructiveRole);
    box.setDefaultButton(box.addButton(tr("Keep it"), QMessageBox::RejectRole));
    box.exec();
    if (box.clickedButton() != remove) return;
    Q_EMIT discardAsked(lost_[size_t(row)].journal);
    lost_.erase(lost_.begin() + row);
    delete list_->takeItem(row);
    for (QPushButton* button : {take_, discard_}) button->setEnabled(!lost_.empty());
}

} // namespace glyptos
