#include "app/letter/feature_list.h"

#include "app/letter/words_picture.h"
#include "app/widgets/form_rows.h"

#include <QVBoxLayout>

namespace glyptos {

namespace {

constexpr QSize kPreview{150, 26};
constexpr double kCapitals = 12; // px

} // namespace

FeatureList::FeatureList(const FontLibrary& fonts, QWidget* parent)
    : QWidget(parent)
    , fonts_(fonts) {
    rows_ = new QVBoxLayout(this);
    rows_->setContentsMargins(8, 8, 8, 8);
    rows_->setSpacing(2);
}

void FeatureList::makeRows(const std::vector<FaceFeature>& features) {
    qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
    buttons_.clear();
    if (features.empty()) rows_->addWidget(roleLabel(tr("This face has its plain letters alone."), "soft"));
    for (const FaceFeature& feature : features) {
        auto* button = new QToolButton;
        button->setText(QString::fromStdString(feature.label));
        button->setAccessibleName(button->text());
        button->setCheckable(true);
        button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
        button->setIconSize(kPreview);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(button, &QToolButton::clicked, this,
                [this, feature](bool on) { Q_EMIT switched(feature, on); });
        rows_->addWidget(button);
        buttons_.emplace_back(feature, button);
    }
}

void FeatureList::show(const TextSpec& words) {
    const FacePtr face = fonts_.face(words.letters.family, words.letters.style, words.letters.axes);
    const std::vector<FaceFeature> features = face ? featuresOf(*face) : std::vector<FaceFeature>();
    const bool isSame = std::equal(features.begin(), features.end(), buttons_.begin(), buttons_.end(),
                                   [](const FaceFeature& f, const auto& row) {
                                       return f.tag == row.first.tag && f.label == row.first.label;
                                   });
    if (!isSame || features.empty()) makeRows(features);
    const double ratio = devicePixelRatioF();
    for (const auto& [feature, button] : buttons_) {
        button->setChecked(hasFeature(words.letters, feature));
        TextSpec with = words;
        with.letters = withFeature(words.letters, feature, true);
        QImage picture = wordsPicture(with, fonts_, kPreview * ratio, kCapitals * ratio,
                                      palette().color(QPalette::WindowText));
        picture.setDevicePixelRatio(ratio);
        button->setIcon(QIcon(QPixmap::fromImage(picture)));
    }
}

} // namespace glyptos
