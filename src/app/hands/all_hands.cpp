#include "app/hands/all_hands.h"

#include "app/hands/bend_hand.h"
#include "app/hands/crop_hand.h"
#include "app/hands/fill_hand.h"
#include "app/hands/knead_hand.h"
#include "app/hands/letter_hand.h"
#include "app/hands/mask_hand.h"
#include "app/hands/mend_hand.h"
#include "app/hands/move_hand.h"
#include "app/hands/paint/paint_hand.h"
#include "app/hands/pick_hand.h"
#include "app/hands/select_hand.h"
#include "app/hands/shape_hand.h"
#include "app/hands/slice_hand.h"

namespace glyptos {

Hands allHands(ComposeBench& bench) {
    Hands out;
    out[size_t(Hand::Move)] = std::make_unique<MoveHand>(bench);
    out[size_t(Hand::Crop)] = std::make_unique<CropHand>(bench);
    out[size_t(Hand::Select)] = std::make_unique<SelectHand>(bench);
    out[size_t(Hand::Mask)] = std::make_unique<MaskHand>(bench);
    out[size_t(Hand::Mend)] = std::make_unique<MendHand>(bench);
    out[size_t(Hand::Slice)] = std::make_unique<SliceHand>(bench);
    out[size_t(Hand::Paint)] = std::make_unique<PaintHand>(bench);
    out[size_t(Hand::Knead)] = std::make_unique<KneadHand>(bench);
    out[size_t(Hand::Bend)] = std::make_unique<BendHand>(bench);
    out[size_t(Hand::Letter)] = std::make_unique<LetterHand>(bench);
    out[size_t(Hand::Shape)] = std::make_unique<ShapeHand>(bench);
    out[size_t(Hand::Fill)] = std::make_unique<FillHand>(bench);
    out[size_t(Hand::Pick)] = std::make_unique<PickHand>(bench);
    return out;
}

} // namespace glyptos
