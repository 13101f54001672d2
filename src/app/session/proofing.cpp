#include "app/session/proofing.h"

#include "app/session/words.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"

#include <QFileInfo>

namespace glyptos {
namespace {

constexpr double kInkLimit = 3.3; // as print files keep to

} // namespace

Proofing::Proofing(QObject* parent)
    : QObject(parent) {}

void Proofing::setOn(bool on) {
    if (on && !proof_) useShippedProfile();
    if (on_ == on) return;
    on_ = on;
    Q_EMIT changed();
}

void Proofing::setLook(const ProofLook& look) {
    if (look_ == look) return;
    look_ = look;
    Q_EMIT changed();
}

void Proofing::setSplit(bool split) {
    if (split_ == split) return;
    split_ = split;
    Q_EMIT changed();
}

void Proofing::useShippedProfile() {
    use(Proof::create(pressProfileBytes(), kInkLimit));
}

void Proofing::useProfile(const QString& file) {
    const auto bytes = readFile(file.toStdString());
    if (!bytes) {
        Q_EMIT refused(q(bytes.error().message));
        return;
    }
    auto proof = Proof::create(*bytes, kInkLimit);
    if (!proof)
        proof = fail(Fault::Damaged, "“" + QFileInfo(file).fileName().toStdString() +
                                         "” is no profile of a press in four inks; the one before is kept.");
    use(std::move(proof));
}

void Proofing::use(Result<std::shared_ptr<const Proof>> proof) {
    if (!proof) {
        Q_EMIT refused(q(proof.error().message));
        return;
    }
    proof_ = std::move(*proof);
    Q_EMIT changed();
}

} // namespace glyptos
