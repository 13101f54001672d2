#include "app/line_key.h"

#include "base/text.h"

#include <QHBoxLayout>
#include <QPainter>

namespace glyptos {
namespace {

/// A sample of the line itself.
class Sample : public QWidget {
  public:
    explicit Sample(QString kind)
        : kind_(std::move(kind)) {
        setFixedSize(30, 14);
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        paintLineSample(painter, rect().adjusted(0, 2, 0, -2), kind_);
    }

  private:
    QString kind_;
};

bool& lineOf(LineKey& key, const QString& kind) {
    return kind == QLatin1String("bleed")    ? key.bleed
           : kind == QLatin1String("trim")   ? key.trim
           : kind == QLatin1String("safety") ? key.safety
                                             : key.fold;
}

QCheckBox* switchFor(const QString& kind, BenchView* bench) {
    auto* box = new QCheckBox;
    box->setChecked(true);
    QObject::connect(box, &QCheckBox::toggled, bench, [=](bool on) {
        LineKey key = bench->key();
        lineOf(key, kind) = on;
        bench->setKey(key);
    });
    return box;
}

} // namespace

LineKeySwitches::LineKeySwitches(const QStringList& kinds, BenchView* bench, QWidget* parent)
    : QWidget(parent) {
    const QMap<QString, QString> names{{QStringLiteral("bleed"), tr("Bleed")},
                                       {QStringLiteral("trim"), tr("Trim: the knife")},
                                       {QStringLiteral("safety"), tr("Safety")},
                                       {QStringLiteral("fold"), tr("Fold")}};
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(5);
    for (const QString& kind : kinds) {
        row->addWidget(new Sample(kind));
        QCheckBox* box = switchFor(kind, bench);
        box->setText(names.value(kind));
        row->addWidget(box);
        row->addSpacing(8);
    }
}

LineKeyList::LineKeyList(BenchView* bench, QWidget* parent)
    : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(7);
    for (const char* kind : {"bleed", "trim", "safety", "fold"}) {
        auto* row = new QHBoxLayout;
        row->addWidget(new Sample(QString::fromLatin1(kind)));
        boxes_.push_back(switchFor(QString::fromLatin1(kind), bench));
        row->addWidget(boxes_.back(), 1);
        column->addLayout(row);
    }
}

void LineKeyList::setFlat(const Flat& flat) {
    const QString unit = flat.unit == Unit::Mm ? tr("mm") : tr("px");
    const auto amount = [&](double v) {
        return QString::fromStdString(shortNumber(v)) + QLatin1Char(' ') + unit;
    };
    boxes_[0]->setText(flat.bleed > 0 ? tr("Bleed %1: art runs to here").arg(amount(flat.bleed))
                                      : tr("Bleed: none on a screen piece"));
    boxes_[1]->setText(tr("Trim: cut here"));
    boxes_[2]->setText(tr("Safety %1: keep words inside").arg(amount(flat.safety)));
    boxes_[3]->setText(flat.folds.empty() ? tr("Fold: none") : tr("Fold"));
}

} // namespace glyptos
