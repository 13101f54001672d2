// The figures of a soft proof, along the top of the bench that shows it.
#pragma once

#include "app/bench/bench_proof.h"
#include "app/widgets/elided_label.h"

#include <QCheckBox>
#include <QComboBox>
#include <QWidget>

namespace glyptos {

class ProofStrip : public QWidget {
    Q_OBJECT
  public:
    ProofStrip(Proofing& proofing, const BenchProof& proof, QWidget* bench);
    static constexpr int kHeight = 36; ///< px
    /// Along the top of its bench, under the ruler.
    void stand();

  private:
    void refresh();
    void refreshInks();
    void choosePlate(int choice);
    void chooseProfile(int choice);
    void change(const std::function<void(ProofLook&)>& edit);

    Proofing& proofing_;
    const BenchProof& proof_;
    QComboBox *profile_, *plate_, *mark_;
    QCheckBox *paper_, *split_;
    ElidedLabel* tally_;
};

} // namespace glyptos
