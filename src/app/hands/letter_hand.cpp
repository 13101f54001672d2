#include "app/hands/letter_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"
#include "type/hand_setting.h"
#include "type/text_edits.h"

#include <QApplication>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kPairReach = 4;   // px beside the place between two letters
constexpr double kBeforeLine = 14; // px

QLineF lineOf(Vec2 a, Vec2 b) {
    return {toQt(a), toQt(b)};
}

} // namespace

std::optional<LetterHand::Words> LetterHand::words() const {
    const LayerPtr one = layer();
    const auto* text = one ? one->as<TextContent>() : nullptr;
    if (!text || one->warp || bench_.words().isOpen()) return std::nullopt;
    const Release& shown = *document().shown();
    return Words{one, placedOnPanel(*one, shown), bench_.paragraphs().get(resolvedText(*text, shown)),
                 text->tracks ? std::vector<FieldSpan>() : fieldSpans(text->spec.text, shown)};
}

/// On the baseline, where a circle's or a line's words start.
std::optional<Vec2> LetterHand::startGrip(const Words& words) const {
    const auto at = startOf(words.layer->as<TextContent>()->spec.frame);
    return at ? std::optional(inView(words.toPanel.map(*at))) : std::nullopt;
}

/// Beside the beginning of a line that has one above it.
std::optional<Vec2> LetterHand::lineGrip(const Words& words, size_t line) const {
    const auto* text = words.layer->as<TextContent>();
    const bool isStraight = text && !text->tracks && std::holds_alternative<AtPoint>(text->spec.frame);
    const bool breaks = text && !text->tracks && std::holds_alternative<InArea>(text->spec.frame);
    if (line == 0 || line >= words.set->lines.size() || !(isStraight || breaks)) return std::nullopt;
    const SetLine& set = words.set->lines[line];
    const Vec2 foot = inView(words.toPanel.map({set.left, set.baseline})),
               way = words.toPanel.mapVector({-1, 0});
    return foot + way * (kBeforeLine / std::max(way.length(), 1e-9));
}

LetterHand::Spot LetterHand::spotAt(const Words& words, Vec2 at, bool alone) const {
    const Vec2 view = inView(at);
    if (const auto grip = startGrip(words); grip && (*grip - view).length() <= kGripReach)
        return {Grip::Start, 0};
    for (size_t i = 1; i < words.set->lines.size(); ++i)
        if (const auto grip = lineGrip(words, i); grip && (*grip - view).length() <= kGripReach)
            return {Grip::Line, i};
    const double pxPerUnit = std::sqrt(std::abs(words.toPanel.determinant())) * bench_.zoom();
    const auto& letters = words.set->letters;
    const bool isList = words.layer->as<TextContent>()->tracks.has_value();
    Spot on;
    for (size_t i = 0; i < letters.size(); ++i) {
        const auto back = (words.toPanel * letters[i].map).inverse();
        if (!back) continue;
        const Vec2 p = back->map(at);
        if (p.y < -letters[i].above || p.y > letters[i].below) continue;
        const bool isInside = p.x >= 0 && p.x <= letters[i].advance;
        // What is read from the right mostly joins.
        const bool hasPair = i > 0 && letters[i - 1].line == letters[i].line && !letters[i].rightToLeft;
        if (!isList && !alone && hasPair && std::abs(p.x) * pxPerUnit <= kPairReach) return {Grip::Pair, i};
        if (isInside) on = {!isList && alone ? Grip::Letter : Grip::Words, i};
    }
    return on;
}

std::optional<size_t> LetterHand::written(const Words& words, size_t byte) {
    for (const FieldSpan& field : words.fields) {
        const size_t from = filledByte(words.fields, field.from);
        if (byte > from && byte < from + field.value.size()) return std::nullopt;
    }
    return writtenByte(words.fields, byte);
}

void LetterHand::press(const QMouseEvent& event, Vec2 at) {
    from_ = at, moving_ = false;
    start_ = words();
    spot_ = start_ ? spotAt(*start_, at, event.modifiers() & Qt::AltModifier) : Spot();
    if (spot_.grip != Grip::None) return;
    start_.reset();
    // Words that are not in hand yet are taken, not covered with new ones.
    for (const std::string& id : bench_.layersAt(at)) {
        const LayerPtr one = findLayer(stackOf(*document().shown(), document().panel()), id);
        if (!one || !one->as<TextContent>()) continue;
        document().selectLayer(one->id);
        if ((start_ = words())) spot_ = spotAt(*start_, at, event.modifiers() & Qt::AltModifier);
        return;
    }
    bench_.words().add(ComposeBench::tr("Words"), ComposeBench::tr("Your words"), at, 0.07);
    bench_.words().edit(true);
}

void LetterHand::drag(const QMouseEvent&, Vec2 at) {
    if (!start_ || spot_.grip == Grip::None || spot_.grip == Grip::Words) return;
    if (!moving_ && (inView(at) - inView(from_)).length() < kDragStarts) return;
    if (const auto next = moved(at)) {
        moving_ = true;
        change(start_->layer, *next);
    } else if (!moving_) {
        Q_EMIT document().refused(ComposeBench::tr(
            "These letters come from the brief; write them here to set single ones by hand."));
        start_.reset();
    }
}

/// The layer as dragged to there; nothing where the letters are not its own.
std::optional<Layer> LetterHand::moved(Vec2 to) const {
    Layer next = *start_->layer;
    auto& spec = std::get<TextContent>(next.content).spec;
    const auto back = start_->toPanel.inverse();
    if (!back) return std::nullopt;
    if (spot_.grip == Grip::Start) {
        spec.frame = withStart(std::move(spec.frame), back->map(to));
        return next;
    }
    if (spot_.grip == Grip::Line) {
        const SetLine& line = start_->set->lines[spot_.index];
        const auto at = written(*start_, line.from), end = written(*start_, line.to);
        if (!at || !end) return std::nullopt;
        const double before = line.baseline - start_->set->lines[spot_.index - 1].baseline,
                     size = before / std::max(leadingOf(spec, *at, *end), 1e-6),
                     by = back->mapVector(to - from_).y;
        spec = withLeading(std::move(spec), *at, *end, std::max(0.0, (before + by) / size));
        return next;
    }
    const SetLetter& letter = start_->set->letters[spot_.index];
    const auto at = written(*start_, letter.from);
    const auto upright = (start_->toPanel * letter.map).inverse();
    if (!at || !upright) return std::nullopt;
    const double em = lettersAt(spec, *at).size;
    const Vec2 by = upright->mapVector(to - from_) * (1 / em);
    if (spot_.grip == Grip::Pair) {
        const double kern = kernAt(spec, *at) + by.x;
        spec = withKern(std::move(spec), *at, kern);
    } else {
        LetterPose pose = poseAt(spec, *at);
        pose.offEm = pose.offEm + by;
        spec = withPose(std::move(spec), pose);
    }
    return next;
}

QString LetterHand::stepName() const {
    const QString name = QString::fromStdString(start_->layer->name);
    switch (spot_.grip) {
    case Grip::Pair:
        return ComposeBench::tr("Kern a pair of %1").arg(name);
    case Grip::Line:
        return ComposeBench::tr("Leading of a line of %1").arg(name);
    case Grip::Start:
        return ComposeBench::tr("Start of %1").arg(name);
    default:
        return ComposeBench::tr("Move a letter of %1").arg(name);
    }
}

void LetterHand::release() {
    if (!start_) return;
    if (moving_)
        settle(stepName());
    else
        bench_.words().edit();
    start_.reset();
    moving_ = false;
}

bool LetterHand::cancel() {
    if (!moving_) return false;
    document().preview(nullptr);
    start_.reset();
    moving_ = false;
    return true;
}

void LetterHand::hover(Vec2 at) {
    const auto in = words();
    const Spot now = in ? spotAt(*in, at, QApplication::keyboardModifiers() & Qt::AltModifier) : Spot();
    if (now == shown_) return;
    shown_ = now;
    Q_EMIT bench_.handChanged();
    bench_.update();
}

Qt::CursorShape LetterHand::cursor() const {
    switch (moving_ ? spot_.grip : shown_.grip) {
    case Grip::Pair:
        return Qt::SplitHCursor;
    case Grip::Line:
        return Qt::SplitVCursor;
    case Grip::Start:
    case Grip::Letter:
        return Qt::SizeAllCursor;
    case Grip::Words:
        return Qt::IBeamCursor;
    default:
        return Qt::CrossCursor;
    }
}

void LetterHand::paint(QPainter& painter) {
    const auto in = words();
    if (!in) return;
    if (const auto grip = startGrip(*in)) paintRoundGrip(painter, *grip, theme().accent);
    for (size_t i = 1; i < in->set->lines.size(); ++i)
        if (const auto grip = lineGrip(*in, i)) paintSmallGrip(painter, *grip);
    const Spot spot = moving_ ? spot_ : shown_;
    if (spot.grip != Grip::Pair || spot.index >= in->set->letters.size()) return;
    const SetLetter& letter = in->set->letters[spot.index];
    const Affine map = in->toPanel * letter.map;
    const QLineF bar = lineOf(inView(map.map({0, -letter.above})), inView(map.map({0, letter.below})));
    painter.setPen(QPen(theme().paper, 3.5));
    painter.drawLine(bar);
    painter.setPen(QPen(theme().accent, 1.5));
    painter.drawLine(bar);
}

QString LetterHand::sentence() const {
    switch (moving_ ? spot_.grip : shown_.grip) {
    case Grip::Pair:
        return ComposeBench::tr("Drag to bring the two letters closer or further apart; click to write.");
    case Grip::Line:
        return ComposeBench::tr("Drag the line nearer to the one above or further from it.");
    case Grip::Start:
        return ComposeBench::tr("Drag the start of the words along.");
    case Grip::Letter:
        return ComposeBench::tr("Drag the letter off its place.");
    case Grip::Words:
        return ComposeBench::tr("Click to write; with Alt a letter is dragged off its place.");
    default:
        return ComposeBench::tr("Click where the words should stand, or on words to change them.");
    }
}

} // namespace glyptos
