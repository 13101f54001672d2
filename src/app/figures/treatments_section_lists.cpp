// Lists as a whole: copied, kept as looks, written as tables.
#include "app/figures/treatments_section.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "file/release_json/treatment_codec.h"
#include "release/walks.h"
#include "render/treated_picture.h"

#include <QClipboard>
#include <QFileDialog>
#include <QGuiApplication>
#include <QInputDialog>
#include <QMimeData>

namespace glyptos {
namespace {

constexpr const char* kMimeType = "application/x-glyptos-treatments";

} // namespace

void TreatmentsSection::makeListMenu() {
    moreMenu_->addAction(tr("Copy the list"), this, &TreatmentsSection::copyAll);
    moreMenu_->addAction(tr("Paste a copied list behind it"), this, &TreatmentsSection::paste);
    moreMenu_->addSeparator();
    QMenu* looks = moreMenu_->addMenu(tr("Add a look"));
    connect(looks, &QMenu::aboutToShow, this, [this, looks] { fillLooks(looks); });
    moreMenu_->addAction(tr("Keep the list as a look…"), this, &TreatmentsSection::keepAsLook);
    moreMenu_->addAction(tr("Write it as a look table…"), this, &TreatmentsSection::writeTable);
    moreMenu_->addSeparator();
    QAction* rest = moreMenu_->addAction(tr("Rests while the layer is moved"));
    rest->setCheckable(true);
    connect(rest, &QAction::toggled, this, &TreatmentsSection::restToggled);
    moreMenu_->addAction(tr("Take all away"), this,
                         [this] { changeList(tr("Untreat %1"), [](Treatments& all) { all.clear(); }); });
}

/// Every look table of a list as text, by the name that its JSON has for it.
Json tablesJson(const Treatments& list) {
    Json out = Json::object();
    for (const Treatment& t : list)
        for (const FigureValue& value : t.figures.values())
            if (const auto* table = std::get_if<LookTablePtr>(&value); table && *table)
                out[lookName(**table)] = cubeText(**table);
    return out;
}

void TreatmentsSection::copyAll() {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || !layer->treatments) return;
    Json copied = Json::object();
    copied["treatments"] = toJson(*layer->treatments, document_->piece()->flat->unit);
    copied["looks"] = tablesJson(*layer->treatments);
    auto data = std::make_unique<QMimeData>();
    data->setData(QString::fromLatin1(kMimeType), QByteArray::fromStdString(copied.dump()));
    QGuiApplication::clipboard()->setMimeData(data.release());
}

void TreatmentsSection::paste() {
    const QMimeData* data = QGuiApplication::clipboard()->mimeData();
    if (!data || !data->hasFormat(QString::fromLatin1(kMimeType)))
        return Q_EMIT document_->refused(tr("No list of treatments has been copied."));
    const Unit unit = document_->piece()->flat->unit;
    const auto list =
        guarded(data->data(QString::fromLatin1(kMimeType)).toStdString(), "list", [&](const Entry& e) {
            const LookSource looks = [&](const std::string& name) -> Result<LookTablePtr> {
                const Entry tables = e.at("looks");
                if (!tables.has(name.c_str()))
                    return fail(Fault::NotFound, "its table was not copied with it");
                auto table = lookTableFromCube(tables.text(name.c_str()));
                if (!table) return tl::unexpected(table.error());
                return kept(std::move(*table));
            };
            return readTreatments(e.at("treatments"), {unit, noTiles, looks});
        });
    if (!list)
        return Q_EMIT document_->refused(
            tr("The copied list was not pasted: %1.").arg(q(list.error().message)));
    changeList(tr("Paste treatments on %1"),
               [&](Treatments& all) { all.insert(all.end(), list->begin(), list->end()); });
}

void TreatmentsSection::addLook(const NamedLook& look) {
    QString words = tr("%2 on %1");
    words.replace(QStringLiteral("%2"), q(look.name));
    const Treatments list = fitted(look, shorterSide());
    changeList(words, [&](Treatments& all) { all.insert(all.end(), list.begin(), list.end()); });
}

void TreatmentsSection::fillLooks(QMenu* menu) {
    menu->clear();
    for (const NamedLook& look : looks_.looks())
        menu->addAction(q(look.name), this, [this, look] { addLook(look); });
    menu->addSeparator();
    menu->addAction(tr("A table from a file…"), this, [this] {
        add(*treatmentKind("look-table"));
        chooseLookFile(0);
    });
}

void TreatmentsSection::keepAsLook() {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || !layer->treatments) return;
    bool fine = false;
    const QString name = QInputDialog::getText(this, tr("Keep as a look"), tr("Its name"), QLineEdit::Normal,
                                               q(layer->name), &fine)
                             .trimmed();
    if (!fine || name.isEmpty()) return;
    looks_.keep(
        lookOf(name.toStdString(), *layer->treatments, shorterSide(), document_->piece()->flat->unit));
}

void TreatmentsSection::chooseLookFile(size_t figure) {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("A table of colours"), {}, tr("Look tables (*.cube)"));
    if (file.isEmpty()) return;
    inBackground([path = file.toStdString()] {
        return readCubeFile(path);
    }).then(this, [this, figure, layer = layer_, row = current_](const Result<LookTablePtr>& table) {
        if (!table) return Q_EMIT document_->refused(q(table.error().message));
        if (layer == layer_ && row == current_) setFigure(figure, *table, true);
    });
}

void TreatmentsSection::addTables(const QStringList& files) {
    for (const QString& file : files)
        inBackground([path = file.toStdString()] {
            return readCubeFile(path);
        }).then(this, [this](const Result<LookTablePtr>& table) {
            if (!table) return Q_EMIT document_->refused(q(table.error().message));
            if (!document_->selectedLayer())
                return Q_EMIT document_->refused(
                    tr("Choose the layer that the look table is to recolour, and drop it again."));
            Treatment treatment = newTreatment(*treatmentKind("look-table"), unitHere());
            treatment.figures.set(treatment.kind->find("file"), *table);
            changeList(tr("Look table on %1"), [&](Treatments& all) { all.push_back(treatment); });
        });
}

void TreatmentsSection::writeTable() {
    const LayerPtr layer = document_->selectedLayer();
    if (!layer || !layer->treatments) return;
    if (!isTable(*layer->treatments))
        return Q_EMIT document_->refused(
            tr("This list cannot be written as a table of colours: not all of it are grades without masks."));
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Write a look table"), q(layer->name) + QStringLiteral(".cube"), tr("Look tables (*.cube)"));
    if (file.isEmpty()) return;
    inBackground([path = file.toStdString(), layer, &fonts = engine_.fonts] {
        return writeCubeFile(path, tableOf(*layer->treatments, layer->name, fonts));
    }).then(this, [this](const Result<void>& done) {
        if (!done) Q_EMIT document_->refused(q(done.error().message));
    });
}

} // namespace glyptos
