#include "app/window/stamp_picker.h"

#include "app/widgets/form_rows.h"

#include <QDialogButtonBox>
#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kSide = 92;

} // namespace

StampPicker::StampPicker(CrateService& crate, QWidget* parent)
    : QDialog(parent)
    , crate_(crate) {
    setWindowTitle(tr("Stamps from the crate"));
    setAttribute(Qt::WA_DeleteOnClose);
    resize(620, 480);
    auto* column = new QVBoxLayout(this);
    column->addWidget(note_ = roleLabel(QString(), "soft"));
    column->addWidget(search_ = new QLineEdit);
    search_->setPlaceholderText(tr("Search by name"));
    search_->setAccessibleName(tr("Search by name"));
    column->addWidget(list_ = new QListWidget);
    list_->setAccessibleName(tr("Pictures of the crate"));
    list_->setViewMode(QListView::IconMode);
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setIconSize({kSide, kSide});
    list_->setGridSize({kSide + 20, kSide + 34});
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setTextElideMode(Qt::ElideMiddle);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    use_ = buttons->addButton(tr("Use as stamps"), QDialogButtonBox::AcceptRole);
    column->addWidget(buttons);
    thumbnails_.setCell((QSizeF(kSide, kSide) * devicePixelRatioF()).toSize());
    connect(search_, &QLineEdit::textChanged, this, &StampPicker::fill);
    connect(&thumbnails_, &ThumbnailStore::arrived, this, &StampPicker::showPictures);
    connect(&crate_, &CrateService::changed, this, &StampPicker::fill);
    connect(list_, &QListWidget::itemSelectionChanged, this,
            [this] { use_->setEnabled(!list_->selectedItems().isEmpty()); });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, [this] {
        QStringList sources;
        for (int i = 0; i < list_->count(); ++i)
            if (list_->item(i)->isSelected()) sources << list_->item(i)->data(Qt::UserRole).toString();
        Q_EMIT picked(sources);
        accept();
    });
    fill();
}

void StampPicker::fill() {
    list_->clear();
    const ShelfPtr shelf = crate_.shelf();
    const QString words = search_->text().trimmed();
    if (shelf)
        for (auto entry = shelf->entries().rbegin(); entry != shelf->entries().rend(); ++entry) {
            const QString name = QString::fromStdString((*entry)->name());
            if ((*entry)->format == "cube" || !name.contains(words, Qt::CaseInsensitive)) continue;
            auto* item = new QListWidgetItem(name, list_);
            item->setData(Qt::UserRole, QString::fromStdString((*entry)->id));
            item->setToolTip(name);
        }
    note_->setText(
        !shelf || shelf->entries().empty()
            ? tr("The crate is empty. Bring pictures in under Gather, or use those in hand as stamps.")
        : list_->count() == 0 ? tr("No picture of the crate has that name.")
                              : tr("Mark one picture, or several that come by turns or by chance."));
    use_->setEnabled(false);
    showPictures();
}

void StampPicker::showPictures() {
    for (int i = 0; i < list_->count(); ++i) {
        QListWidgetItem* item = list_->item(i);
        const EntryPtr entry = crate_.entry(item->data(Qt::UserRole).toString().toStdString());
        if (!entry || !item->icon().isNull()) continue;
        const QImage image = thumbnails_.fitted(entry, crate_.fileOf(*entry));
        if (!image.isNull()) item->setIcon(QPixmap::fromImage(image));
    }
}

} // namespace glyptos
