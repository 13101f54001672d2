#include "app/bench/line_key.h"

#include "base/text.h"

#include <QBoxLayout>
#include <QPainter>
#include <QSignalBlocker>

namespace glyptos {
namespace {

/// A sample of the line itself.
class Sample : public QWidget {
  public:
    explicit Sample(LineKind kind)
        : kind_(kind) {
        setFixedSize(24, 14);
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        paintLineSample(painter, rect().adjusted(0, 2, 0, -2), kind_);
    }

  private:
    LineKind kind_;
};

QString wordFor(LineKind kind) {
    switch (kind) {
    case LineKind::Bleed:
        return LineKeySwitches::tr("Bleed");
    case LineKind::Trim:
        return LineKeySwitches::tr("Trim");
    case LineKind::Safety:
        return LineKeySwitches::tr("Safety");
    case LineKind::Zone:
        return LineKeySwitches::tr("Zones");
    default:
        return LineKeySwitches::tr("Fold");
    }
}

QString sentenceFor(LineKind kind, const Flat& flat) {
    const auto amount = [&](double v) {
        return QString::fromStdString(shortNumber(v)) + (flat.unit == Unit::Mm ? " mm" : " px");
    };
    switch (kind) {
    case LineKind::Bleed:
        return LineKeySwitches::tr("Bleed %1: art runs to here").arg(amount(flat.bleed));
    case LineKind::Trim:
        return flat.unit == Unit::Mm ? LineKeySwitches::tr("Trim: cut here")
                                     : LineKeySwitches::tr("Trim: the edge of the picture");
    case LineKind::Safety:
        return LineKeySwitches::tr("Safety %1: keep words inside").arg(amount(flat.safety));
    case LineKind::Zone:
        return LineKeySwitches::tr("Zones: what a place is for");
    default:
        return LineKeySwitches::tr("Fold, and glue flaps beyond");
    }
}

} // namespace

LineKeySwitches::LineKeySwitches(BenchView* bench, Qt::Orientation orientation, QWidget* parent)
    : QWidget(parent)
    , orientation_(orientation) {
    auto* all = new QBoxLayout(
        orientation == Qt::Horizontal ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom, this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(orientation == Qt::Horizontal ? 9 : 7);
    if (orientation == Qt::Horizontal) setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Preferred);
    for (const LineKind kind : kLineKinds) {
        auto* whole = new QWidget;
        auto* row = new QHBoxLayout(whole);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(5);
        auto* box = new QCheckBox(wordFor(kind));
        box->setChecked(true);
        connect(box, &QCheckBox::toggled, bench, [bench, kind](bool on) {
            LineKey key = bench->key();
            key[kind] = on;
            bench->setKey(key);
        });
        row->addWidget(new Sample(kind));
        row->addWidget(box, 1);
        all->addWidget(whole);
        rows_[size_t(kind)] = {whole, box};
    }
    connect(bench, &BenchView::viewMoved, this, [this, bench] {
        for (const LineKind kind : kLineKinds) {
            const QSignalBlocker quiet(rows_[size_t(kind)].box);
            rows_[size_t(kind)].box->setChecked(bench->key()[kind]);
        }
    });
}

void LineKeySwitches::setFlat(const Flat& flat, const Panel* alone) {
    rows_[size_t(LineKind::Bleed)].whole->setVisible(flat.bleed > 0);
    rows_[size_t(LineKind::Safety)].whole->setVisible(flat.safety > 0);
    rows_[size_t(LineKind::Fold)].whole->setVisible(!alone && !flat.folds.empty());
    rows_[size_t(LineKind::Zone)].whole->setVisible(
        std::any_of(flat.panels.begin(), flat.panels.end(),
                    [&](const Panel& p) { return !p.zones.empty() && (!alone || p.id == alone->id); }));
    for (const LineKind kind : kLineKinds)
        if (orientation_ == Qt::Vertical) rows_[size_t(kind)].box->setText(sentenceFor(kind, flat));
}

} // namespace glyptos
