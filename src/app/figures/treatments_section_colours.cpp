// Figures that a picture sets: from the colours beneath, or so that they match another picture.
#include "app/figures/treatments_section.h"

#include "app/session/background.h"
#include "app/session/words.h"
#include "app/widgets/scope_drawing.h"
#include "base/text.h"
#include "file/data_folder.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "render/kept_papers.h"
#include "render/scene.h"
#include "treat/colour_match.h"

#include <QFileDialog>
#include <QFileInfo>
#include <algorithm>

namespace glyptos {
namespace {

constexpr double kCutSide = 1600; ///< px in which papers are cut

/// Premultiplied, as the image is.
Planes planesOf(const QImage& image) {
    Planes out({0, 0, image.width(), image.height()});
    for (int y = 0; y < image.height(); ++y) {
        const auto* row = reinterpret_cast<const QRgb*>(image.constScanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            out.row(0, y)[x] = float(qRed(row[x])) / 255, out.row(1, y)[x] = float(qGreen(row[x])) / 255;
            out.row(2, y)[x] = float(qBlue(row[x])) / 255, out.row(3, y)[x] = float(qAlpha(row[x])) / 255;
        }
    }
    return out;
}

constexpr double kReferenceSide = 200; ///< px that a reference is looked at in

/// Where a kind keeps its table, if it has one.
std::optional<size_t> tableOf(const Treatment& treatment) {
    if (!treatment.kind) return std::nullopt;
    const auto figures = treatment.kind->figures;
    const auto found = std::find_if(figures.begin(), figures.end(),
                                    [](const Figure& f) { return f.kind == FigureKind::Table; });
    return found == figures.end() ? std::nullopt : std::optional(size_t(found - figures.begin()));
}

/// Some of a picture's pixels, from all over it.
std::vector<Rgba> coloursOf(const Picture& picture) {
    constexpr int kAcross = 200;
    std::vector<Rgba> out;
    const int step = std::max(1, std::max(picture.width, picture.height) / kAcross);
    for (int y = 0; y < picture.height; y += step)
        for (int x = 0; x < picture.width; x += step) {
            Rgba c;
            const auto take = [&](const auto* p, float full) {
                c = {float(p[0]) / full, float(p[1]) / full, float(p[2]) / full, float(p[3]) / full};
            };
            if (picture.is16())
                take(picture.row<uint16_t>(y) + size_t(x) * 4, 65535);
            else
                take(picture.row<uint8_t>(y) + size_t(x) * 4, 255);
            out.push_back(c);
        }
    return out;
}

} // namespace

void TreatmentsSection::showFromPictures(const Treatment& shown) {
    const bool sets = shown.kind->byPicture != nullptr, matches = tableOf(shown).has_value(),
               cuts = shown.kind == treatmentKind("cut-paper");
    byPicture_->setVisible(sets), match_->setVisible(matches), papers_->setVisible(cuts);
    fromPictures_->setVisible(sets || matches || cuts);
}

void TreatmentsSection::setByPicture() {
    const Treatment* shown = shownTreatment();
    if (!shown || !shown->kind || !shown->kind->byPicture) return;
    const std::vector<Rgba> colours = glyptos::coloursOf(before_.image());
    if (colours.empty())
        return Q_EMIT document_->refused(
            tr("There is nothing beneath it yet whose colours could be looked at."));
    changeOne(tr("%2 of %1 from the picture"), [&](Treatment& t) { t.kind->byPicture(t.figures, colours); });
}

void TreatmentsSection::makeMatchMenu() {
    matchMenu_->clear();
    for (const SourcePtr& source : document_->shown()->sources)
        matchMenu_->addAction(q(source->name), this, [this, source] {
            Layer picture;
            picture.id = source->id;
            picture.content = PictureContent{source->id};
            picture.placement.position = {source->width / 2.0, source->height / 2.0};
            matchTo(picture, {0, 0, double(source->width), double(source->height)}, q(source->name));
        });
    matchMenu_->addSeparator();
    matchMenu_->addAction(tr("A picture from a file…"), this, &TreatmentsSection::matchToFile);
}

void TreatmentsSection::matchTo(const Layer& picture, const Rect& area, const QString& name) {
    const double k = kReferenceSide / std::max({area.w, area.h, 1.0});
    Scene scene = aloneScene(document_->shown(), picture, false, Affine::scaling(k, k), area);
    referenceName_ = name, matched_ = inHand();
    const IntRect region = scene.bounds();
    reference_.ask(1, std::move(scene), region);
}

void TreatmentsSection::matchToFile() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Match the colours of a picture"), {},
                                     tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
    if (file.isEmpty()) return;
    matched_ = inHand();
    inBackground([path = file.toStdString()]() -> Result<std::vector<Rgba>> {
        const auto bytes = readFile(path);
        if (!bytes) return tl::unexpected(bytes.error());
        const auto picture = decodePicture(*bytes, nameOf(path), pressProfileBytes());
        if (!picture) return tl::unexpected(picture.error());
        return coloursOf(*picture);
    })
        .then(this,
              [this, name = QFileInfo(file).completeBaseName()](const Result<std::vector<Rgba>>& colours) {
                  if (!colours) return Q_EMIT document_->refused(q(colours.error().message));
                  setMatch(name, *colours);
              });
}

void TreatmentsSection::askPapers() {
    const Treatment* shown = shownTreatment();
    if (!shown || shown->kind != treatmentKind("cut-paper")) return;
    cut_ = document_->selectedLayer(), cutFigures_ = shown->figures;
    askBefore(toCut_, kCutSide, toCutPx_);
}

void TreatmentsSection::keepPapers() {
    const LayerPtr layer = std::exchange(cut_, nullptr);
    if (!layer || !panel()) return;
    inBackground([image = toCut_.image(), figures = cutFigures_,
                  place = Place{toCutPx_, panel()->withBleed(), unitHere()}]() -> Result<std::vector<Layer>> {
        return papersOf(planesOf(image), figures, place);
    }).then(this, [this, layer](const Result<std::vector<Layer>>& papers) {
        if (!papers || papers->empty())
            return Q_EMIT document_->refused(tr("%1 shows nothing that could be cut.").arg(q(layer->name)));
        GroupContent group;
        for (const Layer& paper : *papers) group.layers.push_back(std::make_shared<const Layer>(paper));
        Layer all;
        all.name = layer->name;
        all.content = std::move(group);
        const Made made = withLayer(document_->release(), document_->panel(), std::move(all), layer->id);
        document_->edit(
            tr("Keep the papers of %1 as shapes").arg(q(layer->name)),
            withChangedLayer(made.release, document_->panel(), layer->id, [](Layer& l) { l.on = false; }));
        document_->selectLayer(made.id);
    });
}

void TreatmentsSection::setMatch(const QString& name, std::vector<Rgba> reference) {
    if (matched_ != inHand())
        return Q_EMIT document_->refused(
            tr("Another treatment is in hand than the one that was to be matched, so nothing was matched."));
    const Treatment* shown = shownTreatment();
    const std::vector<Rgba> own = glyptos::coloursOf(before_.image());
    const auto figure = shown ? tableOf(*shown) : std::nullopt;
    if (!figure) return;
    if (own.empty() || reference.empty())
        return Q_EMIT document_->refused(
            tr("One of the two pictures shows nothing, so nothing was matched."));
    inBackground([own, reference = std::move(reference), title = tr("As %1").arg(name).toStdString()] {
        return kept(matchTable(spreadOf(own), spreadOf(reference), title));
    }).then(this, [this, figure = *figure, asked = inHand()](const Result<LookTablePtr>& table) {
        if (table && asked == inHand()) setFigure(figure, *table, true);
    });
}

} // namespace glyptos
