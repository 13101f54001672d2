#include "app/session/proofing.h"

#include "app/session/background.h"
#include "app/session/words.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"

#include <QFileInfo>

namespace glyptos {
namespace {

constexpr double kInkLimit = 3.3; // as print files keep to

} // namespace

Proofing::Proofing(QObject* parent)
    : QObject(parent) {
    connect(&reading_, &QFutureWatcherBase::finished, this, [this] {
        const auto proof = reading_.future().result();
        if (!proof) {
            Q_EMIT refused(q(proof.error().message));
            return;
        }
        proof_ = *proof;
        Q_EMIT changed();
    });
}

Proofing::~Proofing() {
    reading_.waitForFinished();
}

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
    read({});
}

void Proofing::useProfile(const QString& file) {
    read(file);
}

/// The one asked for last counts.
void Proofing::read(const QString& file) {
    reading_.setFuture(inBackground([file]() -> Result<ProofPtr> {
        if (file.isEmpty()) return Proof::create(pressProfileBytes(), kInkLimit);
        const auto bytes = readFile(file.toStdString());
        if (!bytes) return tl::unexpected(bytes.error());
        auto proof = Proof::create(*bytes, kInkLimit);
        if (proof) return proof;
        return fail(Fault::Damaged, "“" + QFileInfo(file).fileName().toStdString() +
                                        "” is no profile of a press in four inks; the one before is kept.");
    }));
}

} // namespace glyptos
