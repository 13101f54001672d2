#include "app/window/panel_menu.h"

#include "app/compose/run_over_sheet.h"
#include "app/session/words.h"
#include "release/edits/wrap_edits.h"

namespace glyptos {

PanelMenu::PanelMenu(QWidget* parent)
    : QMenu(tr("Panels"), parent) {
    connect(this, &QMenu::aboutToShow, this, &PanelMenu::fill);
}

void PanelMenu::setDocument(Document* document) {
    document_ = document;
    fill();
}

void PanelMenu::fill() {
    clear();
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    const Panel* here = piece ? document_->shownPanel() : nullptr;
    const bool some = here && !document_->layers().empty();
    const Wrap* wrap = here ? piece->wrap(here->id) : nullptr;
    const auto hasOther = [&] {
        return std::any_of(piece->flat->panels.begin(), piece->flat->panels.end(),
                           [&](const Panel& p) { return p.sheet == here->sheet && p.id != here->id; });
    };
    if (wrap) {
        QMenu* keep = addMenu(tr("Keep to one panel"));
        fillKeeping(keep, *wrap);
        keep->setEnabled(some);
        addAction(tr("Take this wrap away"), this, &PanelMenu::removeWrap);
    } else {
        addAction(tr("Run over panels…"), this, [this] {
            (new RunOverSheet(*document_, parentWidget()))->open();
        })->setEnabled(some && hasOther());
    }
    for (const bool mirrored : {false, true}) {
        QMenu* copy = addMenu(mirrored ? tr("Copy mirrored to") : tr("Copy to"));
        connect(copy, &QMenu::aboutToShow, this, [this, copy, mirrored] { fillCopying(copy, mirrored); });
        copy->setEnabled(some);
    }
}

void PanelMenu::fillKeeping(QMenu* menu, const Wrap& wrap) {
    for (const std::string& id : wrap.panels) {
        const Panel* panel = document_->piece()->flat->panel(id);
        if (!panel) continue;
        menu->addAction(q(panel->name), this, [this, id, name = q(panel->name)] {
            std::vector<std::string> layers = document_->layers();
            const std::string piece = document_->panel().piece;
            document_->edit(tr("Keep to %1").arg(name),
                            withKeptTo(document_->release(), document_->panel(), layers, id));
            document_->selectPanel({piece, id});
            document_->selectLayers(std::move(layers));
        });
    }
}

/// Every panel of the set; those of this piece stand first.
void PanelMenu::fillCopying(QMenu* menu, bool mirrored) {
    menu->clear();
    const auto add = [&](QMenu* where, const PiecePtr& piece) {
        for (const Panel& panel : piece->flat->panels) {
            const PanelRef to{piece->id, panel.id};
            if (to == document_->panel()) continue;
            where->addAction(q(panel.name), this,
                             [this, to, name = q(panel.name), mirrored] { copyTo(to, name, mirrored); });
        }
    };
    const PiecePtr own = document_->piece();
    add(menu, own);
    menu->addSeparator();
    for (const PiecePtr& piece : document_->release()->pieces)
        if (piece != own) add(menu->addMenu(q(piece->name)), piece);
}

void PanelMenu::copyTo(const PanelRef& to, const QString& name, bool mirrored) {
    document_->edit(
        (mirrored ? tr("Copy mirrored to %1") : tr("Copy to %1")).arg(name),
        withCopiesOn(document_->release(), document_->panel(), document_->layers(), to, mirrored).release);
}

void PanelMenu::removeWrap() {
    const PanelRef wrap = document_->panel();
    const PiecePtr piece = document_->piece();
    const std::string first = piece->wrap(wrap.panel)->panels.front();
    const ReleasePtr next = withoutWrap(document_->release(), wrap.piece, wrap.panel);
    document_->selectPanel({wrap.piece, first});
    document_->edit(tr("Take the wrap away"), next);
}

} // namespace glyptos
