#include "app/bench/size_ladder.h"

#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "render/legible/lost_words.h"

#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr std::array kSizes{140, 96, 64, 40, 24};
constexpr int kLarge = 300;
constexpr int kPad = 12, kCaption = 22, kHead = 24;

} // namespace

SizeLadder::SizeLadder(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service) {
    setAccessibleName(tr("Size ladder"));
    for (const int size : kSizes) steps_[size] = std::make_unique<Miniature>(service);
    steps_[kLarge] = std::make_unique<Miniature>(service);
    for (const auto& [size, step] : steps_)
        connect(step.get(), &Miniature::arrived, this, qOverload<>(&QWidget::update));
    large_ = new QCheckBox(tr("300 px too"), this);
    connect(large_, &QCheckBox::toggled, this, &SizeLadder::refresh);
    note_ = roleLabel(QString(), "caution", this);
    note_->setAlignment(Qt::AlignHCenter);
    connect(&engine, &Engine::pictureReady, this, &SizeLadder::refresh);
    hide();
}

void SizeLadder::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &SizeLadder::refresh);
    connect(document_, &Document::selectionChanged, this, &SizeLadder::refresh);
    refresh();
}

std::vector<int> SizeLadder::sizes() const {
    std::vector<int> out(kSizes.begin(), kSizes.end());
    if (large_->isChecked()) out.insert(out.begin(), kLarge);
    return out;
}

const QImage& SizeLadder::imageAt(int size) const {
    return steps_.at(size)->image();
}

/// In device-independent px. The small ones stand beside larger ones, so that all fit beside the art; the
/// largest, on demand, to the right of them.
QRect SizeLadder::place(int size) {
    constexpr int second = kHead + 140 + kCaption, third = second + 96 + kCaption;
    switch (size) {
    case kLarge:
        return {2 * kPad + 140, kHead, size, size};
    case 96:
        return {kPad, second, size, size};
    case 40:
        return {kPad + 100, second + 96 - size, size, size};
    case 64:
        return {kPad + 16, third, size, size};
    case 24:
        return {kPad + 108, third + 64 - size, size, size};
    default:
        return {kPad, kHead, size, size};
    }
}

void SizeLadder::refresh() {
    const Panel* panel = document_ ? document_->shownPanel() : nullptr;
    if (!panel || !isVisible()) return;
    const auto all = sizes();
    resize(2 * kPad + 140 + (large_->isChecked() ? kPad + kLarge : 0), 10);
    // A store's 96 px are 96 px of its picture; on a denser screen they are drawn larger, not finer.
    for (const int size : all) {
        auto [scene, region] =
            fittedScene(document_->shown(), document_->panel(), panel->trim(), QSizeF(size, size));
        steps_.at(size)->ask(2, std::move(scene), region);
    }
    QStringList lost;
    for (const LostWords& words :
         lostWords(*document_->shown(), document_->panel(), all.back(), engine_.renderer.paragraphs()))
        lost << tr("%1 is lost below %2 px").arg(QString::fromStdString(words.layer)).arg(words.below);
    note_->setText(lost.isEmpty() ? tr("All words can be read") : lost.join(QLatin1Char('\n')));
    setRole(note_, lost.isEmpty() ? "good" : "caution");
    const int wide = 140 + 2 * kPad - 12, foot = place(64).bottom() + kCaption + 4;
    note_->setGeometry(6, foot, wide, note_->heightForWidth(wide));
    large_->move(kPad, note_->geometry().bottom() + 6);
    large_->adjustSize();
    resize(width(), large_->geometry().bottom() + 9);
    update();
}

void SizeLadder::showEvent(QShowEvent*) {
    refresh();
    Q_EMIT opened(true);
}

void SizeLadder::hideEvent(QHideEvent*) {
    Q_EMIT opened(!isHidden()); // still open when only the window is put away
}

void SizeLadder::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(t.hairline, 1));
    painter.setBrush(t.sheet);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    painter.setFont(uiFont(11, 600));
    painter.setPen(t.ink);
    painter.drawText(QRect(0, 4, width(), 18), Qt::AlignCenter, tr("How small"));
    const auto all = sizes();
    for (const int size : all) {
        const QRect room = place(size);
        const QImage& image = imageAt(size);
        QRect target(QPoint(), image.size());
        target.moveCenter(room.center());
        if (!image.isNull()) painter.drawImage(target, image);
        painter.setFont(uiFont(11));
        painter.setPen(t.softInk);
        painter.drawText(QRect(room.center().x() - 40, room.bottom() + 2, 80, 16), Qt::AlignCenter,
                         tr("%1 px").arg(size));
    }
}

} // namespace glyptos
