#include "app/gather/facet_panel.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"

#include <QGridLayout>
#include <QPainter>

namespace glyptos {
namespace {

QColor exampleOf(ColourFamily family) {
    constexpr const char* kColours[] = {"#c83a30", "#e08030", "#e8c840", "#58a050", "#2f8f88", "#3a68b8",
                                        "#7a50a8", "#e08ab0", "#7a5030", "#1c1c1c", "#8c8c8c", "#f6f4f0"};
    return QColor(QLatin1String(kColours[size_t(family)]));
}

/// A spot of a colour family, with a ring while it is chosen.
class ColourSpot : public QToolButton {
  public:
    explicit ColourSpot(ColourFamily family)
        : colour_(exampleOf(family)) {
        setCheckable(true);
        setFixedSize(23, 23);
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setOpacity(isEnabled() || isChecked() ? 1 : 0.25);
        painter.setPen(QPen(theme().hairline, 1));
        painter.setBrush(colour_);
        painter.drawRoundedRect(QRectF(rect()).adjusted(4.5, 4.5, -4.5, -4.5), 4, 4);
        if (!isChecked() && !hasFocus()) return;
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(isChecked() ? theme().ink : theme().accent, isChecked() ? 2 : 1));
        painter.drawRoundedRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5), 6, 6);
    }

  private:
    QColor colour_;
};

template <class T>
void toggle(std::optional<T>& value, const T& to, bool on) {
    if (on)
        value = to;
    else if (value == to)
        value.reset();
}

} // namespace

FacetPanel::FacetPanel(bool ofRelease, QWidget* parent)
    : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 6, 10);
    column->setSpacing(1);
    column->addWidget(heading(tr("Kind")));
    for (int i = 0; i < kSourceKinds; ++i) {
        const auto kind = static_cast<SourceKind>(i);
        row(
            column, tr(nameOf(kind)), [=](const FacetCounts& c) { return c.kinds[size_t(i)]; },
            [=, this] { return query_.kind == kind; }, [=, this](bool on) { toggle(query_.kind, kind, on); });
    }
    column->addSpacing(9);
    column->addWidget(heading(tr("Shape")));
    for (int i = 0; i < kShapeFacets; ++i) {
        const auto shape = static_cast<ShapeFacet>(i);
        row(
            column, tr(nameOf(shape)), [=](const FacetCounts& c) { return c.shapes[size_t(i)]; },
            [=, this] { return query_.shape == shape; },
            [=, this](bool on) { toggle(query_.shape, shape, on); });
    }
    row(
        column, tr("12-inch front"), [](const FacetCounts& c) { return c.largeEnough; },
        [this] { return query_.onlyLargeEnough; }, [this](bool on) { query_.onlyLargeEnough = on; })
        ->setToolTip(tr("Enough pixels for the front of a 12-inch sleeve at 300 ppi, %1 a side, or a drawing")
                         .arg(kFrontPixels));
    column->addSpacing(9);
    column->addWidget(heading(tr("Main colour")));
    makeColours(column);
    column->addSpacing(9);
    column->addWidget(licenceHead_ = heading(tr("Licence")));
    column->addLayout(licences_ = new QVBoxLayout);
    licences_->setSpacing(1);
    if (ofRelease) {
        column->addSpacing(9);
        column->addWidget(heading(tr("Release")));
        row(
            column, tr("Used in it"), [](const FacetCounts& c) { return c.used; },
            [this] { return query_.onlyUsed; }, [this](bool on) { query_.onlyUsed = on; });
    }
    column->addSpacing(8);
    column->addWidget(clear_ = wordButton(tr("Show all"), tr("Narrow the search by nothing")));
    connect(clear_, &QToolButton::clicked, this, &FacetPanel::clear);
    column->addStretch();
    refresh({});
}

FacetRow::FacetRow(const QString& name, QWidget* parent)
    : QAbstractButton(parent) {
    setText(name);
    setAccessibleName(name);
    setCheckable(true);
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::TabFocus);
    setAttribute(Qt::WA_Hover);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void FacetRow::setCount(int count) {
    count_ = count;
    setEnabled(count > 0 || isChecked());
    update();
}

void FacetRow::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF area = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(hasFocus() ? QPen(t.accent, 1) : QPen(Qt::NoPen));
    painter.setBrush(isChecked()                   ? t.ink
                     : underMouse() && isEnabled() ? t.hairline
                                                   : QColor(Qt::transparent));
    painter.drawRoundedRect(area, 6, 6);
    painter.setFont(uiFont(12, isChecked() ? 600 : 400));
    painter.setPen(isChecked() ? t.sheet : isEnabled() ? t.ink : t.softInk);
    if (!isEnabled()) painter.setOpacity(0.6);
    const QRect words = rect().adjusted(8, 0, -8, 0);
    const QString count = count_ > 0 ? QString::number(count_) : QString();
    const int room = words.width() - painter.fontMetrics().horizontalAdvance(count) - 8;
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(text(), Qt::ElideRight, room));
    painter.setPen(isChecked() ? t.sheet : t.softInk);
    painter.drawText(words, Qt::AlignRight | Qt::AlignVCenter, count);
}

QAbstractButton* FacetPanel::row(QVBoxLayout* column, const QString& name,
                                 std::function<int(const FacetCounts&)> count, std::function<bool()> isOn,
                                 std::function<void(bool)> set) {
    auto* button = new FacetRow(name);
    column->addWidget(button);
    connect(button, &QAbstractButton::clicked, this, [this, set = std::move(set)](bool on) {
        set(on);
        Q_EMIT changed();
    });
    rows_.push_back({button, std::move(count), std::move(isOn)});
    return button;
}

void FacetPanel::makeColours(QVBoxLayout* column) {
    auto* grid = new QGridLayout;
    grid->setSpacing(1);
    grid->setContentsMargins(4, 2, 0, 0);
    for (int i = 0; i < kColourFamilies; ++i) {
        const auto family = static_cast<ColourFamily>(i);
        auto* chip = new ColourSpot(family);
        chip->setAccessibleName(tr(nameOf(family)));
        grid->addWidget(chip, i / 6, i % 6);
        chips_.push_back(chip);
        connect(chip, &QToolButton::clicked, this, [this, family](bool on) {
            toggle(query_.colour, family, on);
            Q_EMIT changed();
        });
    }
    column->addLayout(grid);
}

void FacetPanel::clear() {
    query_ = {};
    Q_EMIT changed();
}

void FacetPanel::setCounts(const FacetCounts& counts) {
    refreshLicences(counts);
    refresh(counts);
}

void FacetPanel::refreshLicences(const FacetCounts& counts) {
    constexpr size_t kMost = 6;
    std::vector<std::pair<int, std::string>> ordered;
    for (const auto& [name, count] : counts.licences) ordered.emplace_back(-count, name);
    std::sort(ordered.begin(), ordered.end());
    std::vector<std::string> names;
    for (size_t i = 0; i < std::min(kMost, ordered.size()); ++i) names.push_back(ordered[i].second);
    if (query_.licence && std::find(names.begin(), names.end(), *query_.licence) == names.end())
        names.push_back(*query_.licence);
    if (names == licenceNames_) return;
    std::erase_if(rows_, [this](const Row& r) {
        if (licences_->indexOf(r.button) < 0) return false;
        r.button->deleteLater();
        r.button->hide();
        licences_->removeWidget(r.button);
        return true;
    });
    licenceNames_ = names;
    for (const std::string& name : names)
        row(
            licences_, name.empty() ? tr("Not known") : q(name),
            [name](const FacetCounts& c) {
                const auto found = c.licences.find(name);
                return found == c.licences.end() ? 0 : found->second;
            },
            [name, this] { return query_.licence == name; },
            [name, this](bool on) { toggle(query_.licence, name, on); });
}

void FacetPanel::refresh(const FacetCounts& counts) {
    for (const Row& r : rows_) {
        r.button->setChecked(r.isOn());
        r.button->setCount(r.count(counts));
    }
    for (size_t i = 0; i < chips_.size(); ++i) {
        chips_[i]->setChecked(query_.colour == static_cast<ColourFamily>(i));
        chips_[i]->setEnabled(counts.colours[i] > 0 || chips_[i]->isChecked());
        chips_[i]->setToolTip(chips_[i]->accessibleName() + QStringLiteral("  %1").arg(counts.colours[i]));
    }
    licenceHead_->setVisible(!licenceNames_.empty());
    clear_->setEnabled(query_.kind || query_.shape || query_.colour || query_.licence || query_.onlyUsed ||
                       query_.onlyLargeEnough);
}

} // namespace glyptos
