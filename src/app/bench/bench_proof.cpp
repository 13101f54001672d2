#include "app/bench/bench_proof.h"

#include "app/session/background.h"
#include "app/widgets/colours.h"

#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

using Plates = PlatePictures::Plates;

/// What is shown of one row. Inks that print over the four are clear; they are seen alone.
ProofTally proveRow(const Proof& proof, const QImage& art, const Plates& plates, int y, uchar* to,
                    const ProofLook& look) {
    const auto width = size_t(art.width());
    const QImage& press = plates.press.isNull() ? art : plates.press;
    const ProofTally tally = proof.show(press.constScanLine(y), to, width, look);
    for (const auto& [ink, cover] : plates.spots) {
        if (look.spot == ink.id)
            showInkAlone(art.constScanLine(y), cover.constScanLine(y), to, width);
        else if (look.spot.empty() && look.plate == ProofPlate::All && ink.plate == Plate::Own)
            layInk(cover.constScanLine(y), to, width, ink.colour);
    }
    return tally;
}

/// Bands of rows apart, on all cores.
ProofTally prove(const Proof& proof, const QImage& art, const Plates& plates, QImage& out,
                 const ProofLook& look) {
    constexpr int kRows = 32;
    const int bands = (art.height() + kRows - 1) / kRows;
    std::vector<ProofTally> tallies(size_t(std::max(0, bands)));
    uchar* to = out.bits();
    tbb::parallel_for(0, bands, [&](int band) {
        const int from = band * kRows, end = std::min(art.height(), from + kRows);
        for (int y = from; y < end; ++y)
            tallies[size_t(band)].add(
                proveRow(proof, art, plates, y, to + ptrdiff_t(y) * out.bytesPerLine(), look));
    });
    ProofTally all;
    for (const ProofTally& t : tallies) all.add(t);
    return all;
}

} // namespace

BenchProof::BenchProof(BenchPicture& picture, RenderService& service)
    : picture_(picture)
    , plates_(service) {
    connect(&plates_, &PlatePictures::arrived, this, &BenchProof::make);
    connect(&picture_, &BenchPicture::arrived, this, &BenchProof::make);
    connect(&making_, &QFutureWatcherBase::finished, this, [this] {
        if (const auto made = making_.future().result()) {
            image_ = made->image, tally_ = made->tally;
            shownOf_ = makingOf_, place_ = placeMade_;
            Q_EMIT shown();
        }
        if (!(makingOf_ == wanted())) make();
    });
}

BenchProof::~BenchProof() {
    making_.waitForFinished();
}

void BenchProof::setProofing(Proofing* proofing) {
    proofing_ = proofing;
    connect(proofing, &Proofing::changed, this, [this] {
        if (!isOn()) image_ = {}, shownOf_ = {};
        make();
        Q_EMIT shown();
    });
}

QColor BenchProof::paper() const {
    const bool whole = isOn() && proofing_->look().plate == ProofPlate::All && spotAlone().empty();
    return whole && proofing_->look().paperWhite ? toQt(proofing_->proof()->paper()) : Qt::white;
}

std::string BenchProof::spotAlone() const {
    const std::string& asked = proofing_->look().spot;
    if (asked.empty()) return {};
    const auto inks = spotInks();
    const bool there =
        std::any_of(inks.begin(), inks.end(), [&](const Swatch& ink) { return ink.id == asked; });
    return there ? asked : std::string();
}

BenchProof::Wanted BenchProof::wanted() const {
    if (!isOn()) return {};
    Wanted out{picture_.image().cacheKey(), proofing_->proof().get(), proofing_->look()};
    out.look.spot = spotAlone();
    return out;
}

void BenchProof::make() {
    if (!isOn() || making_.isRunning() || picture_.isEmpty()) return;
    Plates plates;
    if (!spotInks().empty()) {
        plates_.ask(picture_);
        const Plates* ready = plates_.of(picture_);
        if (!ready) return; // called again when they are there
        plates = *ready;
    }
    makingOf_ = wanted(), placeMade_ = picture_.place();
    making_.setFuture(inBackground([art = picture_.image(), plates = std::move(plates),
                                    proof = proofing_->proof(), look = makingOf_.look] {
        Made made{QImage(art.size(), QImage::Format_ARGB32_Premultiplied), {}};
        made.image.setDevicePixelRatio(art.devicePixelRatio());
        made.tally = prove(*proof, art, plates, made.image, look);
        return made;
    }));
}

void BenchProof::paint(QPainter& painter, Vec2 origin, double scale, const QRect& view) const {
    if (!isOn() || image_.isNull()) return;
    painter.save();
    if (proofing_->isSplit()) painter.setClipRect(view.adjusted(view.width() / 2, 0, 0, 0));
    painter.drawImage(place_.at(origin, scale), image_);
    painter.restore();
    if (!proofing_->isSplit()) return;
    painter.setPen(QPen(QColor(255, 255, 255, 200), 1));
    painter.drawLine(view.center().x(), view.top(), view.center().x(), view.bottom());
}

} // namespace glyptos
