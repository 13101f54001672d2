#include "app/hands/letter_hand.h"

#include "app/bench/compose_bench.h"

namespace glyptos {

void LetterHand::press(const QMouseEvent&, Vec2 at) {
    bench_.words().add(ComposeBench::tr("Words"), ComposeBench::tr("Your words"), at, 0.07);
    bench_.words().edit(true);
}

QString LetterHand::sentence() const {
    return ComposeBench::tr("Click where the words should stand.");
}

} // namespace glyptos
