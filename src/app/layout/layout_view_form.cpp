#include "app/layout/layout_view.h"

#include "app/session/words.h"
#include "release/edits/edits.h"

#include <QLineEdit>

namespace glyptos {
namespace {

void clear(QLayout* layout) {
    while (layout->count() > 0) {
        QLayoutItem* item = layout->takeAt(0);
        if (item->widget()) item->widget()->hide(), item->widget()->deleteLater();
        if (item->layout()) clear(item->layout());
        std::unique_ptr<QLayoutItem> gone(item);
    }
}

} // namespace

/// One row for each figure of the form: a choice where the form names some, else a field.
void LayoutView::rebuildForm() {
    const PiecePtr piece = document_->piece();
    clear(formRows_);
    fields_.clear();
    choices_.clear();
    workings_.clear();
    reasons_.clear();
    formOf_ = piece->id;
    auto* form = figuresForm();
    for (const Parameter& p : piece->form->parameters) {
        const auto set = [this, id = p.id, label = q(p.label)](std::optional<double> value) {
            document_->edit(tr("%1 of the form").arg(label),
                            withParameter(document_->release(), document_->panel().piece, id, value));
        };
        if (!p.choices.empty()) {
            auto* combo = new QComboBox;
            combo->setAccessibleName(q(p.label));
            for (const Choice& c : p.choices) combo->addItem(q(c.label), c.value);
            connect(combo, &QComboBox::activated, this,
                    [combo, set](int i) { set(combo->itemData(i).toDouble()); });
            choices_[p.id] = combo;
            form->addRow(roleLabel(q(p.label), "soft"), combo);
            continue;
        }
        FieldUnit unit;
        unit.suffix = q(p.unit), unit.decimals = 2, unit.step = p.unit == "mm" ? 0.1 : 1,
        unit.least = p.least, unit.most = p.most, unit.length = p.unit == "mm";
        auto* field = new NumberField(q(p.label), unit);
        connect(field, &NumberField::edited, this, [set](double value, bool) { set(value); });
        fields_[p.id] = field;
        QWidget* row = field;
        if (!p.formula.empty()) {
            auto* again = new QPushButton(tr("Work out"));
            again->setToolTip(tr("Back to the figure that follows from the others"));
            connect(again, &QPushButton::clicked, this, [set] { set(std::nullopt); });
            row = inOneRow({field, again});
        }
        form->addRow(new FieldLabel(q(p.label), field), row);
        if (!p.formula.empty()) addWorking(p, *form);
    }
    formRows_->addLayout(form);
    formRows_->addWidget(roleLabel(q(piece->form->note), "soft"));
}

/// The sum that a figure follows from, and why it is another, where it is.
void LayoutView::addWorking(const Parameter& p, QFormLayout& form) {
    form.addRow(QString(), workings_[p.id] = roleLabel(QString(), "soft"));
    auto* reason = new QLineEdit;
    reason->setPlaceholderText(tr("Why it is set by hand"));
    reason->setAccessibleName(tr("Why %1 is set by hand").arg(q(p.label)));
    reason->hide();
    connect(reason, &QLineEdit::editingFinished, this, [this, reason, id = p.id, label = q(p.label)] {
        document_->edit(tr("Reason for %1").arg(label),
                        withReason(document_->release(), document_->panel().piece, id,
                                   reason->text().trimmed().toStdString()));
    });
    form.addRow(QString(), reasons_[p.id] = reason);
}

} // namespace glyptos
