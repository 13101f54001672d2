#include "app/compose/framing_sheet.h"

#include "app/figures/layer_section.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "crate/thumbnails.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "vision/saliency.h"

#include <QHBoxLayout>
#include <QPainterPath>
#include <QSignalBlocker>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kMostTurn = 45, kMostZoom = 4;

/// The coarsest level with about 900 px, to paint beside the panel.
QImage lookAt(const Pyramid& pyramid) {
    int level = pyramid.levels() - 1;
    while (level > pyramid.firstLevel() &&
           std::max(pyramid.level(level).width, pyramid.level(level).height) < 900)
        --level;
    return imageOf(pyramid.level(level));
}

} // namespace

FramingSheet::FramingSheet(Engine& engine, ComposeBench& bench)
    : QWidget(&bench)
    , engine_(engine)
    , bench_(bench) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Framing"));
    setCursor(Qt::OpenHandCursor);
    bar_ = makeBar();
    hide();
    bench.installEventFilter(this);
    connect(&bench, &BenchView::viewMoved, this, qOverload<>(&QWidget::update));
    connect(&engine_, &Engine::pictureReady, this, [this] {
        if (isOpen()) readLook();
    });
}

QWidget* FramingSheet::makeBar() {
    auto* bar = new QWidget(this);
    bar->setObjectName(QStringLiteral("benchBar"));
    bar->setAttribute(Qt::WA_StyledBackground);
    bar->setCursor(Qt::ArrowCursor);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(10, 7, 10, 7);
    row->setSpacing(8);
    covers_ = new QPushButton(tr("Covers"));
    covers_->setToolTip(tr("All of the panel is covered; what is left over of the picture lies outside"));
    whole_ = new QPushButton(tr("Whole"));
    whole_->setToolTip(tr("All of the picture shows; what is left over of the panel stays free"));
    for (QPushButton* b : {covers_, whole_}) b->setCheckable(true);
    connect(covers_, &QPushButton::clicked, this, [this] { change([](Framing& f) { f.whole = false; }); });
    connect(whole_, &QPushButton::clicked, this, [this] { change([](Framing& f) { f.whole = true; }); });
    subjectIn_ = new QCheckBox(tr("Subject in frame"));
    subjectIn_->setToolTip(tr("Keeps what draws the eye inside; dragging lets go of it"));
    connect(subjectIn_, &QCheckBox::clicked, this, [this](bool on) {
        if (on) showSubject();
    });
    turn_ = new NumberField(tr("Straighten"), plainUnit(QStringLiteral("°"), 1, 0.1, -kMostTurn, kMostTurn));
    turn_->setFixedWidth(66);
    connect(turn_, &NumberField::edited, this,
            [this](double v, bool) { change([=](Framing& f) { f.turn = v; }); });
    zoom_ = new QSlider(Qt::Horizontal);
    zoom_->setRange(0, 100);
    zoom_->setFixedWidth(90);
    zoom_->setAccessibleName(tr("Zoom"));
    zoom_->setToolTip(tr("How much closer than it must be to cover"));
    connect(zoom_, &QSlider::valueChanged, this,
            [this](int v) { change([=](Framing& f) { f.zoom = std::pow(kMostZoom, v / 100.0); }); });
    flip_ = new QPushButton(tr("Flip"));
    flip_->setCheckable(true);
    connect(flip_, &QPushButton::clicked, this,
            [this](bool on) { change([=](Framing& f) { f.flip = on; }); });
    guides_ = new QCheckBox(tr("Thirds"));
    guides_->setChecked(true);
    connect(guides_, &QCheckBox::clicked, this, [this] { update(); });
    keep_ = new QPushButton(tr("Keep it so"));
    keep_->setProperty("role", "main");
    keep_->setToolTip(tr("Enter; Esc leaves it as it was"));
    connect(keep_, &QPushButton::clicked, this, &FramingSheet::keep);
    QLabel* straighten = new FieldLabel(tr("Straighten"), turn_);
    for (QWidget* w :
         {static_cast<QWidget*>(covers_), static_cast<QWidget*>(whole_), static_cast<QWidget*>(subjectIn_),
          static_cast<QWidget*>(straighten), static_cast<QWidget*>(turn_),
          static_cast<QWidget*>(roleLabel(tr("Zoom"), "soft")), static_cast<QWidget*>(zoom_),
          static_cast<QWidget*>(flip_), static_cast<QWidget*>(guides_), static_cast<QWidget*>(keep_)})
        row->addWidget(w);
    return bar;
}

void FramingSheet::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    hide();
    const auto elsewhere = [this] {
        if (isOpen() && !own_) hide(); // something else is being done: the picture lies as it came
    };
    connect(document_, &Document::changed, this, elsewhere);
    connect(document_, &Document::selectionChanged, this, elsewhere);
}

SourcePtr FramingSheet::source() const {
    const LayerPtr layer = findLayer(stackOf(*document_->release(), panel_), layer_);
    const auto* picture = layer ? layer->as<PictureContent>() : nullptr;
    return picture ? document_->release()->source(picture->source) : nullptr;
}

Rect FramingSheet::area() const {
    const Panel* panel = bench_.panel();
    return panel ? panel->withBleed() : Rect{};
}

void FramingSheet::open(const std::string& layer) {
    layer_ = layer;
    panel_ = document_->panel();
    if (!source() || area().empty()) return;
    framing_ = {};
    subject_ = {0.5, 0.5};
    look_ = {};
    readLook();
    framing_.middle = subject_;
    subjectIn_->setChecked(true);
    setGeometry(bench_.rect());
    place();
    show();
    raise();
    setFocus();
    refresh();
    change([](Framing&) {});
}

void FramingSheet::readLook() {
    const SourcePtr s = source();
    const PyramidPtr picture =
        s ? engine_.pictures.picture(*s, 900.0 / std::max(s->width, s->height)) : nullptr;
    if (!picture) return;
    const bool first = look_.isNull();
    look_ = lookAt(*picture);
    const Rect to = area();
    subject_ = partInFrame(saliencyOf(*picture), double(s->width) / s->height, to.w / to.h).centre();
    if (first && isOpen() && subjectIn_->isChecked()) showSubject();
    update();
}

void FramingSheet::showSubject() {
    change([this](Framing& f) { f.middle = subject_; });
}

void FramingSheet::change(const std::function<void(Framing&)>& change) {
    const SourcePtr s = source();
    if (!s) return;
    change(framing_);
    own_ = true;
    document_->preview(withChangedLayer(document_->release(), panel_, layer_, [&](Layer& l) {
        std::get<PictureContent>(l.content).crop = {0, 0, 1, 1};
        l.placement = framed(area(), *s, framing_);
    }));
    own_ = false;
    refresh();
}

void FramingSheet::refresh() {
    const QSignalBlocker a(zoom_), b(turn_);
    covers_->setChecked(!framing_.whole);
    whole_->setChecked(framing_.whole);
    flip_->setChecked(framing_.flip);
    turn_->setValue(framing_.turn);
    zoom_->setValue(int(std::lround(100 * std::log(framing_.zoom) / std::log(kMostZoom))));
    zoom_->setEnabled(!framing_.whole);
    subjectIn_->setEnabled(!framing_.whole);
    update();
}

void FramingSheet::place() {
    bar_->adjustSize();
    bar_->move(std::max(28, (width() - bar_->width()) / 2), 30);
}

void FramingSheet::keep() {
    if (!isOpen()) return;
    const LayerPtr layer = findLayer(stackOf(*document_->shown(), panel_), layer_);
    own_ = true;
    if (layer) document_->edit(tr("Frame %1").arg(q(layer->name)), document_->shown());
    own_ = false;
    hide();
    bench_.setFocus();
}

void FramingSheet::leave() {
    own_ = true;
    document_->preview(nullptr);
    own_ = false;
    hide();
    bench_.setFocus();
}

void FramingSheet::paintGhost(QPainter& painter, const QRectF& frame) {
    const SourcePtr s = source();
    const LayerPtr layer = findLayer(stackOf(*document_->shown(), panel_), layer_);
    if (!s || !layer || look_.isNull()) return;
    const Affine map = bench_.toView() * placementMap(layer->placement);
    painter.save();
    QPainterPath outside;
    outside.addRect(rect());
    outside.addRect(frame);
    outside.setFillRule(Qt::OddEvenFill);
    painter.setClipPath(outside);
    painter.setOpacity(0.4);
    painter.setTransform(QTransform(map.a, map.b, map.c, map.d, map.e, map.f), true);
    painter.drawImage(QRectF(-s->width / 2.0, -s->height / 2.0, s->width, s->height), look_);
    painter.restore();
}

void FramingSheet::paintEvent(QPaintEvent*) {
    if (!bench_.panel()) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const auto viewed = [this](const Rect& r) {
        const Rect v = bench_.toView().mapBounds(r);
        return QRectF(v.x, v.y, v.w, v.h);
    };
    paintGhost(painter, viewed(area()));
    const QRectF trim = viewed(bench_.panel()->trim());
    const auto line = [&](QPointF from, QPointF to, bool strong) {
        painter.setPen(QPen(QColor(0, 0, 0, 90), 3));
        painter.drawLine(from, to);
        painter.setPen(
            QPen(QColor(255, 255, 255, strong ? 230 : 170), 1, strong ? Qt::SolidLine : Qt::DashLine));
        painter.drawLine(from, to);
    };
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Qt::white, 1.5));
    painter.drawRect(trim);
    if (!guides_->isChecked()) return;
    for (const double k : {1 / 3.0, 2 / 3.0}) {
        line({trim.left() + k * trim.width(), trim.top()}, {trim.left() + k * trim.width(), trim.bottom()},
             false);
        line({trim.left(), trim.top() + k * trim.height()}, {trim.right(), trim.top() + k * trim.height()},
             false);
    }
    const QPointF c = trim.center();
    line(c - QPointF(9, 0), c + QPointF(9, 0), true);
    line(c - QPointF(0, 9), c + QPointF(0, 9), true);
}

void FramingSheet::mousePressEvent(QMouseEvent* event) {
    last_ = event->position();
}

void FramingSheet::mouseMoveEvent(QMouseEvent* event) {
    const SourcePtr s = source();
    if (!s || !(event->buttons() & Qt::LeftButton) || framing_.whole) return;
    const QPointF way = event->position() - std::exchange(last_, event->position());
    const double scale = framed(area(), *s, framing_).scaleX * bench_.zoom();
    Vec2 by = Affine::rotation(-framing_.turn).mapVector({way.x() / scale, way.y() / scale});
    if (framing_.flip) by.x = -by.x;
    subjectIn_->setChecked(false);
    change([&](Framing& f) {
        const Vec2 now = middleMet(area(), *s, f);
        f.middle = {now.x - by.x / s->width, now.y - by.y / s->height};
        f.middle = middleMet(area(), *s, f);
    });
}

void FramingSheet::wheelEvent(QWheelEvent* event) {
    zoom_->setValue(zoom_->value() + event->angleDelta().y() / 24);
    event->accept();
}

void FramingSheet::keyPressEvent(QKeyEvent* event) {
    // A figure typed into a field of the bar ends with Return too.
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && hasFocus()) return keep();
    if (event->key() == Qt::Key_Escape) return leave();
    const double step = event->modifiers() & Qt::ShiftModifier ? 0.05 : 0.005;
    const Vec2 by{event->key() == Qt::Key_Right  ? -step
                  : event->key() == Qt::Key_Left ? step
                                                 : 0,
                  event->key() == Qt::Key_Down ? -step
                  : event->key() == Qt::Key_Up ? step
                                               : 0};
    if (by == Vec2{}) return QWidget::keyPressEvent(event);
    subjectIn_->setChecked(false);
    change([&](Framing& f) { f.middle = middleMet(area(), *source(), f) + by; });
}

bool FramingSheet::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize) {
        setGeometry(bench_.rect());
        place();
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace glyptos
