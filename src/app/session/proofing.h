// Whether and how the benches show what is on them as it will be printed.
#pragma once

#include "color/proof.h"

#include <QObject>

namespace glyptos {

class Proofing : public QObject {
    Q_OBJECT
  public:
    explicit Proofing(QObject* parent = nullptr);

    bool isOn() const { return on_; }
    void setOn(bool on);
    const ProofLook& look() const { return look_; }
    void setLook(const ProofLook& look);
    /// Only the right half shows it, and the left the art as it is.
    bool isSplit() const { return split_; }
    void setSplit(bool split);
    /// By the shipped profile until another is chosen; nothing where that cannot be used.
    const std::shared_ptr<const Proof>& proof() const { return proof_; }
    /// A profile from a file; says why when it is none, and keeps the one before.
    void useProfile(const QString& file);
    void useShippedProfile();

  Q_SIGNALS:
    void changed();
    void refused(const QString& sentence);

  private:
    void use(Result<std::shared_ptr<const Proof>> proof);
    bool on_ = false, split_ = false;
    ProofLook look_;
    std::shared_ptr<const Proof> proof_;
};

} // namespace glyptos
