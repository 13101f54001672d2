#include "app/bench/bench_grid.h"

namespace glyptos {

BenchGrid::BenchGrid(Engine& engine, RenderService& service, ComposeBench* bench)
    : engine_(engine)
    , service_(service)
    , bench_(bench)
    , grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(2);
    grid_->addWidget(bench_, 0, 0);
    connect(bench_, &BenchView::viewMoved, this, [this] { follow(bench_); });
}

void BenchGrid::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    for (SideBench* side : sides_) side->setDocument(document);
    connect(document_, &Document::changed, this, &BenchGrid::refresh);
    connect(document_, &Document::selectionChanged, this, &BenchGrid::refresh);
    refresh();
}

void BenchGrid::setSideBySide(bool on) {
    if (on == sideBySide_) return;
    sideBySide_ = on;
    refresh();
    Q_EMIT sideBySideChanged();
}

/// The takes to show, always with the current one; or the work and its reference.
std::vector<std::string> BenchGrid::wanted() const {
    const PiecePtr piece = document_->piece();
    if (!piece) return {std::string("A")};
    std::vector<std::string> out;
    if (sideBySide_) {
        const size_t first = piece->current < kMost ? 0 : piece->current - kMost + 1;
        for (size_t i = first; i < std::min(first + kMost, piece->takes.size()); ++i)
            out.push_back(piece->takes[i]->id);
        return out;
    }
    out.push_back(piece->take().id);
    const auto reference = referenceOf(*document_->shown(), document_->panel());
    if (reference && reference->way == Reference::Way::Beside) out.emplace_back();
    return out;
}

void BenchGrid::refresh() {
    const PiecePtr piece = document_->piece();
    std::string current = piece ? piece->take().id : std::string("A");
    auto next = wanted();
    if (next == shown_ && current == current_) return;
    shown_ = std::move(next);
    current_ = std::move(current);
    lay();
}

void BenchGrid::lay() {
    const size_t count = shown_.size();
    while (sides_.size() + 1 > count) {
        sides_.back()->deleteLater();
        sides_.back()->hide();
        sides_.pop_back();
    }
    while (sides_.size() + 1 < count) {
        auto* side = new SideBench(engine_, service_, this);
        side->setDocument(document_);
        connect(side, &BenchView::viewMoved, this, [this, side] { follow(side); });
        connect(side, &BenchView::resized, this, [this, side] { side->follow(*bench_); });
        connect(side, &SideBench::taken, this, [this, side](QPointF at) { take(side, at); });
        sides_.push_back(side);
    }
    size_t used = 0;
    for (size_t i = 0; i < count; ++i) {
        const std::string& what = shown_[i];
        const bool work = what == current_;
        const int columns = count > 2 ? 2 : int(count);
        QWidget* widget = bench_;
        if (!work) {
            SideBench* side = sides_[used++];
            side->setAccessibleName(what.empty() ? tr("Reference")
                                                 : tr("Take %1").arg(QString::fromStdString(what)));
            side->setTake(what);
            side->show();
            side->lower(); // under what floats on the benches
            widget = side;
        }
        grid_->addWidget(widget, int(i) / columns, int(i) % columns);
    }
    bench_->setCaption(sideBySide_ && count > 1 ? tr("Take %1").arg(QString::fromStdString(current_))
                                                : QString());
    bench_->zoomToFit();
    follow(bench_);
}

void BenchGrid::follow(const BenchView* leader) {
    if (leader != bench_) bench_->follow(*leader);
    for (SideBench* side : sides_)
        if (side != leader) side->follow(*leader);
}

/// A click on a take works on it; one on the reference picks its colour, with Pick in hand.
void BenchGrid::take(const SideBench* side, QPointF at) {
    if (side->take().empty()) {
        if (bench_->hand() == Hand::Pick) bench_->giveColour(side->colourAt(at));
        return;
    }
    document_->showTake(side->take());
}

} // namespace glyptos
