// Letter: sets words where one clicks, and words in hand by their letters: pairs closer or wider, lines
// nearer or farther, letters off their places, the start on a circle or a line.
#pragma once

#include "app/bench/bench_hand.h"
#include "release/fields.h"
#include "type/paragraph.h"

namespace glyptos {

class LetterHand : public BenchHand {
  public:
    using BenchHand::BenchHand;
    void press(const QMouseEvent& event, Vec2 at) override;
    void drag(const QMouseEvent& event, Vec2 at) override;
    void hover(Vec2 at) override;
    void release() override;
    void paint(QPainter& painter) override;
    bool cancel() override;
    Qt::CursorShape cursor() const override;
    QString sentence() const override;

  private:
    enum class Grip : unsigned char {
        None,
        Pair,   ///< between a letter and the one before it
        Line,   ///< at the left end of a line
        Start,  ///< on a circle or a line
        Letter, ///< with Alt
        Words   ///< elsewhere on them
    };
    struct Spot {
        Grip grip = Grip::None;
        size_t index = 0; ///< of the letter or the line
        bool operator==(const Spot&) const = default;
    };
    /// The words in hand as they are set.
    struct Words {
        LayerPtr layer;
        Affine toPanel;
        std::shared_ptr<const Paragraph> set;
        std::vector<FieldSpan> fields;
    };

    std::optional<Words> words() const;
    Spot spotAt(const Words& words, Vec2 at, bool alone) const;
    std::optional<Vec2> startGrip(const Words& words) const;
    std::optional<Vec2> lineGrip(const Words& words, size_t line) const;
    /// The byte of the written text at a byte of the filled one; nothing inside a field.
    static std::optional<size_t> written(const Words& words, size_t byte);
    std::optional<Layer> moved(Vec2 to) const;
    QString stepName() const;

    Spot spot_, shown_;
    std::optional<Words> start_; ///< while pressed
    Vec2 from_;
    bool moving_ = false;
};

} // namespace glyptos
