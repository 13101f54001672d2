#include "app/bench/bench_proof.h"

#include "app/session/background.h"
#include "app/widgets/colours.h"

#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// Bands of rows apart, on all cores.
ProofTally prove(const Proof& proof, const QImage& art, QImage& out, const ProofLook& look) {
    constexpr int kRows = 32;
    const int bands = (art.height() + kRows - 1) / kRows;
    std::vector<ProofTally> tallies(size_t(std::max(0, bands)));
    uchar* to = out.bits();
    tbb::parallel_for(0, bands, [&](int band) {
        const int from = band * kRows, end = std::min(art.height(), from + kRows);
        for (int y = from; y < end; ++y)
            tallies[size_t(band)].add(proof.show(art.constScanLine(y), to + ptrdiff_t(y) * out.bytesPerLine(),
                                                 size_t(art.width()), look));
    });
    ProofTally all;
    for (const ProofTally& t : tallies) all.add(t);
    return all;
}

} // namespace

BenchProof::BenchProof(BenchPicture& picture, QObject* parent)
    : QObject(parent)
    , picture_(picture) {
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
    if (!isOn() || !proofing_->look().paperWhite || proofing_->look().plate != ProofPlate::All)
        return Qt::white;
    return toQt(proofing_->proof()->paper());
}

BenchProof::Wanted BenchProof::wanted() const {
    if (!isOn()) return {};
    return {picture_.image().cacheKey(), proofing_->proof().get(), proofing_->look()};
}

void BenchProof::make() {
    if (!isOn() || making_.isRunning() || picture_.isEmpty()) return;
    makingOf_ = wanted(), placeMade_ = picture_.place();
    making_.setFuture(
        inBackground([art = picture_.image(), proof = proofing_->proof(), look = proofing_->look()] {
            Made made{QImage(art.size(), QImage::Format_ARGB32_Premultiplied), {}};
            made.image.setDevicePixelRatio(art.devicePixelRatio());
            made.tally = prove(*proof, art, made.image, look);
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
