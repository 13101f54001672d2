#include "app/bench/proof/proof_strip.h"

#include "app/session/words.h"

#include <QFileDialog>
#include <QHBoxLayout>

namespace glyptos {
namespace {

constexpr int kTop = 24;        // px, under the ruler
constexpr int kPressPlates = 5; // all together, and each of the four

} // namespace

ProofStrip::ProofStrip(Proofing& proofing, const BenchProof& proof, QWidget* bench)
    : QWidget(bench)
    , proofing_(proofing)
    , proof_(proof) {
    setObjectName(QStringLiteral("proofStrip"));
    setAttribute(Qt::WA_StyledBackground);
    setStyleSheet(QStringLiteral("#proofStrip { background: palette(base); }"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 3, 10, 3);
    row->setSpacing(8);
    const auto box = [&](const QString& name, const QStringList& items) {
        auto* made = new QComboBox;
        made->setAccessibleName(name);
        made->addItems(items);
        row->addWidget(made);
        return made;
    };
    profile_ = box(tr("Press profile"), {QString(), tr("The shipped one"), tr("From a file…")});
    profile_->setMaximumWidth(170);
    connect(profile_, &QComboBox::activated, this, &ProofStrip::chooseProfile);
    plate_ = box(tr("Inks"), {tr("All inks"), tr("Cyan alone"), tr("Magenta alone"), tr("Yellow alone"),
                              tr("Black alone")});
    connect(plate_, &QComboBox::activated, this, &ProofStrip::choosePlate);
    mark_ = box(tr("What is marked"),
                {tr("Mark nothing"), tr("Mark what inks cannot show"), tr("Mark too much ink")});
    connect(mark_, &QComboBox::activated, this,
            [this](int i) { change([i](ProofLook& l) { l.mark = static_cast<ProofMark>(i); }); });
    row->addWidget(paper_ = new QCheckBox(tr("Paper")));
    paper_->setToolTip(tr("White as the paper is, and black as the ink on it"));
    connect(paper_, &QCheckBox::clicked, this,
            [this](bool on) { change([on](ProofLook& l) { l.paperWhite = on; }); });
    row->addWidget(split_ = new QCheckBox(tr("Half")));
    split_->setToolTip(tr("The left half stays as it is on screens"));
    connect(split_, &QCheckBox::clicked, this, [this](bool on) { proofing_.setSplit(on); });
    row->addWidget(tally_ = new ElidedLabel, 1);
    connect(&proofing_, &Proofing::changed, this, &ProofStrip::refresh);
    connect(&proof_, &BenchProof::shown, this, &ProofStrip::refresh);
    refresh();
}

void ProofStrip::stand() {
    setGeometry(kTop, kTop, parentWidget()->width() - kTop, kHeight);
}

void ProofStrip::change(const std::function<void(ProofLook&)>& edit) {
    ProofLook look = proofing_.look();
    edit(look);
    proofing_.setLook(look);
}

void ProofStrip::chooseProfile(int choice) {
    if (choice == 1) proofing_.useShippedProfile();
    if (choice == 2) {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Press profile"), {}, tr("ICC profiles (*.icc *.icm)"));
        if (!file.isEmpty()) proofing_.useProfile(file);
    }
    refresh();
}

void ProofStrip::choosePlate(int choice) {
    change([&](ProofLook& look) {
        const bool isPress = choice < kPressPlates;
        look.plate = isPress ? static_cast<ProofPlate>(choice) : ProofPlate::All;
        look.spot = isPress ? std::string() : plate_->itemData(choice).toString().toStdString();
    });
}

/// Behind the plates of the press those of the piece's own inks.
void ProofStrip::refreshInks() {
    const std::vector<Swatch> inks = proof_.spotInks();
    while (plate_->count() > kPressPlates + int(inks.size())) plate_->removeItem(plate_->count() - 1);
    while (plate_->count() < kPressPlates + int(inks.size())) plate_->addItem(QString());
    for (size_t i = 0; i < inks.size(); ++i) {
        plate_->setItemText(kPressPlates + int(i), tr("%1 alone").arg(q(inks[i].name)));
        plate_->setItemData(kPressPlates + int(i), q(inks[i].id));
    }
    const std::string alone = proof_.spotAlone();
    plate_->setCurrentIndex(alone.empty() ? int(proofing_.look().plate) : plate_->findData(q(alone)));
}

void ProofStrip::refresh() {
    setVisible(proof_.isOn());
    if (!proof_.isOn()) return;
    stand();
    raise();
    profile_->setItemText(0, q(proofing_.proof()->description()));
    profile_->setCurrentIndex(0);
    refreshInks();
    mark_->setCurrentIndex(int(proofing_.look().mark));
    paper_->setChecked(proofing_.look().paperWhite);
    split_->setChecked(proofing_.isSplit());
    const ProofTally& t = proof_.tally();
    const auto share = [&](size_t n) { return t.shown ? 100.0 * double(n) / double(t.shown) : 0.0; };
    tally_->setWords(tr("%1 % not to be shown · most ink %2 %, %3 % over")
                         .arg(share(t.outOfGamut), 0, 'f', 1)
                         .arg(100 * t.mostInk, 0, 'f', 0)
                         .arg(share(t.overInk), 0, 'f', 1));
}

} // namespace glyptos
