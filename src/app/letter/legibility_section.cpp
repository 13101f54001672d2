#include "app/letter/legibility_section.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "base/units.h"
#include "color/colour_words.h"
#include "release/fields.h"
#include "render/legible/lost_words.h"
#include "type/faces/face_features.h"

#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr double kPicture = 320; // px of the longer side
constexpr int kUrgency = 3;

} // namespace

LegibilitySection::LegibilitySection(Engine& engine, RenderService& service)
    : LayerSection(engine)
    , behind_(service) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(note_ = roleLabel(QString(), "soft"));
    note_->setAccessibleName(tr("Legibility"));
    connect(&behind_, &Miniature::arrived, this, &LegibilitySection::measure);
    connect(&measuring_, &QFutureWatcherBase::finished, this, [this] {
        const auto found = measuring_.result();
        contrast_ = found ? *found : std::nullopt;
        isMeasured_ = true;
        say();
    });
}

void LegibilitySection::refresh(const Layer& layer) {
    const auto& text = *layer.as<TextContent>();
    const LetterStyle& letters = text.spec.letters;
    const FacePtr face = engine_.fonts.face(letters.family, letters.style, letters.axes);
    const PiecePtr piece = document_->piece();
    heights_.clear();
    if (face && piece) {
        const double x = xHeightEm(*face) * letters.size * layer.placement.scaleY;
        heights_ = tr("x is %1 mm high.").arg(x / panelUnitsPerMm(piece->flat->unit), 0, 'f', 1);
    }
    for (const LostWords& lost :
         lostWords(*document_->shown(), document_->panel(), 0, engine_.renderer.paragraphs()))
        if (lost.layer == layer.name) heights_ += tr(" Read down to %1 px.").arg(lost.below);
    if (release_ != document_->shown() || layer_ != layer.id) ask(layer);
    say();
}

/// What lies behind it: without it, and without what lies in front of it.
ReleasePtr LegibilitySection::without(const Layer& layer) const {
    ReleasePtr out = document_->shown();
    const auto hide = [&](const std::string& id) {
        out = withChangedLayer(out, document_->panel(), id, [](Layer& l) { l.on = false; });
    };
    for (const LayerPtr& other : stackOf(*document_->shown(), document_->panel())) {
        const auto* group = other->as<GroupContent>();
        if (other->id == layer.id || (group && findLayer(group->layers, layer.id))) break;
        if (other->on) hide(other->id);
    }
    hide(layer.id);
    return out;
}

void LegibilitySection::ask(const Layer& layer) {
    release_ = document_->shown(), layer_ = layer.id;
    isMeasured_ = false;
    const auto& text = *layer.as<TextContent>();
    const Frame frame = frameOfLayer(layer);
    if (frame.warp || !panel() || frame.bounds().empty()) {
        contrast_.reset();
        return;
    }
    const Rect words = frame.bounds(), area = words.grown(0.04 * std::max(words.w, words.h));
    auto [scene, region] = fittedScene(without(layer), document_->panel(), area, {kPicture, kPicture});
    asked_ = {engine_.renderer.paragraphs().get(resolvedText(text, *document_->shown())),
              scene.panels.front().toOutput * placedOnPanel(layer, *document_->shown()), Rgba(text.colour)};
    behind_.ask(kUrgency, std::move(scene), region);
}

void LegibilitySection::measure() {
    const QImage picture = behind_.image().convertToFormat(QImage::Format_RGBA8888);
    measuring_.setFuture(inBackground([picture, asked = asked_]() -> Result<std::optional<EdgeContrast>> {
        const Buffer<float> cover =
            coverage(asked.set->outline, asked.toPicture, picture.width(), picture.height());
        std::vector<uint8_t> pixels;
        for (int y = 0; y < picture.height(); ++y)
            pixels.insert(pixels.end(), picture.constScanLine(y),
                          picture.constScanLine(y) + ptrdiff_t(4) * picture.width());
        return edgeContrast(pixels, cover, picture.width(), picture.height(), asked.ink);
    }));
}

void LegibilitySection::say() {
    QString said = heights_;
    if (contrast_)
        said += tr(" Contrast %1, at its worst %2 (%3).")
                    .arg(contrast_->typical, 0, 'f', 1)
                    .arg(contrast_->worst, 0, 'f', 1)
                    .arg(QString::fromLatin1(contrastGrade(contrast_->worst)));
    note_->setText(said.trimmed());
    setRole(note_, contrast_ && contrast_->worst < 3 ? "caution" : "soft");
}

} // namespace glyptos
