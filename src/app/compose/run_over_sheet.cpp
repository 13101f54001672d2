#include "app/compose/run_over_sheet.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "release/edits/wrap_edits.h"

#include <QVBoxLayout>

namespace glyptos {
namespace {

/// Whether two panels lie side by side, or one above the other.
bool touch(const Panel& a, const Panel& b) {
    constexpr double kSame = 0.01; // units
    const Rect both = b.onFlat.grown(kSame).intersected(a.onFlat);
    return !both.empty() && std::max(both.w, both.h) > 2 * kSame; // not at a corner alone
}

} // namespace

RunOverSheet::RunOverSheet(Document& document, QWidget* parent)
    : QDialog(parent)
    , document_(document) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Run over panels"));
    const PiecePtr piece = document.piece();
    const Panel& here = *document.shownPanel();
    auto* column = new QVBoxLayout(this);
    column->addWidget(roleLabel(tr("The layers in hand stay where they are on the sheet, and go on over %1 "
                                   "and the panels chosen here:")
                                    .arg(q(here.name)),
                                "soft"));
    for (const Panel& panel : piece->flat->panels) {
        if (panel.sheet != here.sheet || panel.id == here.id) continue;
        auto* box = new QCheckBox(q(panel.name));
        box->setChecked(touch(panel, here));
        connect(box, &QCheckBox::toggled, this, &RunOverSheet::refresh);
        column->addWidget(box);
        others_.emplace_back(panel.id, box);
    }
    run_ = new QPushButton(tr("Run over them"));
    run_->setProperty("role", "main");
    auto* leave = new QPushButton(tr("Cancel"));
    column->addWidget(inOneRow({leave, run_}));
    connect(run_, &QPushButton::clicked, this, &RunOverSheet::accept);
    connect(leave, &QPushButton::clicked, this, &RunOverSheet::reject);
    refresh();
}

void RunOverSheet::refresh() {
    run_->setEnabled(std::any_of(others_.begin(), others_.end(),
                                 [](const auto& other) { return other.second->isChecked(); }));
}

void RunOverSheet::accept() {
    std::vector<std::string> over, layers = document_.layers();
    for (const auto& [panel, box] : others_)
        if (box->isChecked()) over.push_back(panel);
    const std::string piece = document_.panel().piece;
    const auto made = withRunOver(document_.release(), document_.panel(), layers, over);
    document_.edit(tr("Run over panels"), Result<ReleasePtr>(made));
    if (made) {
        document_.selectPanel({piece, made->id});
        document_.selectLayers(std::move(layers));
    }
    QDialog::accept();
}

} // namespace glyptos
