#include "app/layout/panel_rows.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "base/text.h"

#include <QMouseEvent>

namespace glyptos {

PanelRows::PanelRows(QWidget* parent)
    : QWidget(parent)
    , column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(7);
}

void PanelRows::make(const Flat& flat) {
    for (const Row& row : rows_)
        row.whole->hide(), row.whole->deleteLater(), column_->removeWidget(row.whole);
    for (QWidget* head : heads_) head->hide(), head->deleteLater(), column_->removeWidget(head);
    rows_.clear(), heads_.clear();
    for (size_t sheet = 0; sheet < flat.sheets.size(); ++sheet) {
        if (flat.sheets.size() > 1)
            column_->addWidget(heads_.emplace_back(roleLabel(q(flat.sheets[sheet].name), "heading")));
        for (const Panel& panel : flat.panels) {
            if (panel.sheet != sheet) continue;
            auto* whole = new QWidget;
            auto* lines = new QVBoxLayout(whole);
            lines->setContentsMargins(0, 0, 0, 0);
            lines->setSpacing(1);
            auto* name = new QLabel;
            name->setTextFormat(Qt::RichText);
            auto* said = roleLabel(QString(), "soft");
            lines->addWidget(name);
            lines->addWidget(said);
            whole->setCursor(Qt::PointingHandCursor);
            column_->addWidget(whole);
            rows_.push_back({panel.id, whole, name, said});
        }
    }
}

void PanelRows::show(const Flat& flat, const std::string& inHand,
                     const std::function<PanelVerdict(const Panel&)>& verdictOf) {
    const bool same = rows_.size() == flat.panels.size() &&
                      std::all_of(rows_.begin(), rows_.end(),
                                  [&](const Row& row) { return flat.panel(row.panel) != nullptr; });
    if (!same) make(flat);
    const QString unit = flat.unit == Unit::Mm ? tr("mm") : tr("px");
    for (const Row& row : rows_) {
        const Panel& panel = *flat.panel(row.panel);
        const QString size =
            panel.outline.kind == Outline::Kind::Disc
                ? tr("Ø %1 %2").arg(q(shortNumber(panel.width)), unit)
                : tr("%1 × %2 %3").arg(q(shortNumber(panel.onFlat.w)), q(shortNumber(panel.onFlat.h)), unit);
        const QString mark = panel.id == inHand ? QStringLiteral("▸ ") : QString();
        row.name->setText(QStringLiteral("%1<b>%2</b>  %3").arg(mark, q(panel.name).toHtmlEscaped(), size));
        const PanelVerdict verdict = verdictOf(panel);
        const bool known = !verdict.sentence.isEmpty();
        row.said->setText(!known         ? tr("looking…")
                          : verdict.good ? QStringLiteral("✓ ") + verdict.sentence
                                         : QStringLiteral("✗ ") + verdict.sentence);
        setRole(row.said, !known ? "soft" : verdict.good ? "good" : "fault");
    }
}

void PanelRows::mousePressEvent(QMouseEvent* event) {
    for (const Row& row : rows_)
        if (row.whole->geometry().contains(event->pos())) Q_EMIT chosen(row.panel);
}

} // namespace glyptos
