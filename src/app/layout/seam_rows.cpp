#include "app/layout/seam_rows.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"

namespace glyptos {
namespace {

bool isOf(const Seam& a, const Seam& b) {
    return a.fold == b.fold && a.one == b.one && a.other == b.other;
}

} // namespace

SeamRows::SeamRows(QWidget* parent)
    : QWidget(parent)
    , column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(7);
}

void SeamRows::make(const Flat& flat, const std::vector<Seam>& seams) {
    for (const Row& row : rows_)
        row.whole->hide(), row.whole->deleteLater(), column_->removeWidget(row.whole);
    rows_.clear();
    for (size_t i = 0; i < seams.size(); ++i) {
        const Seam& seam = seams[i];
        auto* whole = new QWidget;
        auto* lines = new QVBoxLayout(whole);
        lines->setContentsMargins(0, 0, 0, 0);
        lines->setSpacing(1);
        lines->addWidget(new QLabel(tr("%1 to %2").arg(q(flat.panel(seam.one)->name), q(seam.otherName))));
        auto* said = roleLabel(QString(), "soft");
        lines->addWidget(said);
        auto* align = new QWidget;
        auto* words = new QHBoxLayout(align);
        words->setContentsMargins(0, 0, 0, 0);
        std::vector<std::string> movable{seam.one};
        if (seam.otherPiece.empty()) movable.push_back(seam.other);
        for (const std::string& moving : movable) {
            auto* word =
                wordButton(tr("Move %1").arg(q(flat.panel(moving)->name)),
                           tr("Moves what reaches there along it, until it meets the other panel's art"));
            connect(word, &QToolButton::clicked, this,
                    [this, i, moving] { Q_EMIT alignAsked(rows_[i].seam, moving); });
            words->addWidget(word);
        }
        words->addStretch();
        lines->addWidget(align);
        column_->addWidget(whole);
        rows_.push_back({seam, whole, said, align});
    }
}

void SeamRows::show(const Flat& flat, const std::vector<Seam>& seams) {
    const bool same = std::equal(rows_.begin(), rows_.end(), seams.begin(), seams.end(),
                                 [](const Row& row, const Seam& seam) { return isOf(row.seam, seam); });
    if (!same) make(flat, seams);
    for (size_t i = 0; i < seams.size(); ++i) {
        const Seam& seam = rows_[i].seam = seams[i];
        const QString sentence = q(sentenceOf(seam, flat.unit));
        const bool off = isOff(seam, flat.unit);
        const bool meets = seam.hasArt && sentence == QLatin1String("meets");
        // Different art on both sides is no fault: only what is meant to run on can miss.
        const bool runsOn = seam.offset.has_value();
        const char* mark = meets ? "✓ " : off ? "✗ " : "";
        rows_[i].said->setText(QString::fromUtf8(mark) + sentence);
        setRole(rows_[i].said, meets ? "good" : off ? "fault" : runsOn ? "caution" : "soft");
        rows_[i].align->setVisible(off);
    }
}

} // namespace glyptos
