#include "app/letter/rule_section.h"

#include "type/hand_setting.h"

#include <algorithm>

namespace glyptos {
namespace {

using Kind = LetterRule::Kind;

/// Figures that a rule begins with.
LetterRule newRule(Kind kind) {
    LetterRule out;
    out.kind = kind;
    if (kind == Kind::Falling) out.rise = 0.6, out.turn = 30, out.fade = 0.6;
    if (kind == Kind::Chance) out.rise = 0.05, out.turn = 6, out.spread = 0.08;
    return out;
}

} // namespace

RuleSection::RuleSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Rule of the letters"));
    kind_->addItems(
        {tr("In their places"), tr("On a wave"), tr("On an arc"), tr("Falling"), tr("By chance")});
    connect(kind_, &QComboBox::activated, this, &RuleSection::choose);
    form->addRow(roleLabel(tr("Letters"), "soft"), kind_);
    rise_ = new NumberField(tr("How far letters move"), plainUnit(QStringLiteral("em"), 2, 0.05, -20, 20));
    turn_ = new NumberField(tr("How far letters turn"), plainUnit(QStringLiteral("°"), 1, 1, -360, 360));
    spread_ =
        new NumberField(tr("How far letters grow or shrink"), plainUnit(QStringLiteral("×"), 2, 0.02, 0, 1));
    fade_ = new NumberField(tr("How far letters fade"), plainUnit(QStringLiteral("×"), 2, 0.05, 0, 1));
    period_ = new NumberField(tr("Letters a wave"), plainUnit(QString(), 1, 0.5, 0.5, 1000));
    again_ = new QPushButton(tr("Again"));
    again_->setToolTip(tr("Other chances"));
    connect(again_, &QPushButton::clicked, this, [this] {
        changeRule(tr("Chances of %1"), [](LetterRule& r) { r.seed = (r.seed + 1) & 0x7fffffffU; });
    });
    const auto row = [&](const QString& label, NumberField* field, std::vector<Kind> kinds,
                         QWidget* beside = nullptr) {
        auto* title = new FieldLabel(label, field);
        QWidget* made = beside ? inOneRow({field, beside}) : inOneRow({field});
        form->addRow(title, made);
        rows_.emplace_back(title, kinds);
        rows_.emplace_back(made, std::move(kinds));
    };
    row(tr("By"), rise_, {Kind::Wave, Kind::Arc, Kind::Falling, Kind::Chance});
    row(tr("A wave"), period_, {Kind::Wave});
    row(tr("Turned"), turn_, {Kind::Falling, Kind::Chance});
    row(tr("Fading"), fade_, {Kind::Falling});
    row(tr("Scaled"), spread_, {Kind::Chance}, again_);
    makeMarked(form);
    bindRule(rise_, [](LetterRule& r, double v) { r.rise = v; });
    bindRule(turn_, [](LetterRule& r, double v) { r.turn = v; });
    bindRule(spread_, [](LetterRule& r, double v) { r.spread = v; });
    bindRule(fade_, [](LetterRule& r, double v) { r.fade = v; });
    bindRule(period_, [](LetterRule& r, double v) { r.period = v; });
}

/// Each of the marked letters by itself.
void RuleSection::makeMarked(QFormLayout* form) {
    markedTurn_ =
        new NumberField(tr("Turn of the marked letters"), plainUnit(QStringLiteral("°"), 1, 1, -360, 360));
    markedScale_ = new NumberField(tr("Scale of the marked letters"),
                                   plainUnit(QStringLiteral("×"), 2, 0.05, 0.01, 100));
    markedOpacity_ =
        new NumberField(tr("Opacity of the marked letters"), plainUnit(QStringLiteral("×"), 2, 0.05, 0, 1));
    kern_ = new NumberField(tr("Space before the marked letters"),
                            plainUnit(QStringLiteral("em"), 3, 0.01, -5, 5));
    kern_->setToolTip(tr("Added to what the kerning says; the Letter hand drags it between two letters"));
    const auto row = [&](const QString& label, NumberField* first, NumberField* second) {
        auto* title = new FieldLabel(label, first);
        QWidget* made = inOneRow({first, second});
        form->addRow(title, made);
        markedRows_.push_back(title), markedRows_.push_back(made);
    };
    row(tr("Marked"), markedTurn_, markedScale_);
    row(tr("Opacity"), markedOpacity_, kern_);
    bindPose(markedTurn_, [](LetterPose& p, double v) { p.turn = v; });
    bindPose(markedScale_, [](LetterPose& p, double v) { p.scale = v; });
    bindPose(markedOpacity_, [](LetterPose& p, double v) { p.opacity = v; });
    bind(kern_, tr("Kern a pair of %1"), [this](Layer& l, double v) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (const auto marked = document_->lettersInHand(); text && marked)
            text->spec = withKern(std::move(text->spec), marked->from, v);
    });
}

void RuleSection::bindPose(NumberField* field, void (*set)(LetterPose&, double)) {
    bind(field, tr("Letters of %1"), [this, set](Layer& l, double v) {
        auto* text = std::get_if<TextContent>(&l.content);
        const auto marked = document_->lettersInHand();
        if (!text || !marked) return;
        for (size_t at = marked->from; at < marked->to; ++at) {
            if ((text->spec.text[at] & 0xc0) == 0x80) continue; // inside a character
            LetterPose pose = poseAt(text->spec, at);
            set(pose, v);
            text->spec = withPose(std::move(text->spec), pose);
        }
    });
}

void RuleSection::refreshMarked(const TextContent& text) {
    const auto marked = document_->lettersInHand();
    for (QWidget* widget : markedRows_) widget->setVisible(marked.has_value());
    if (!marked) return;
    const LetterPose pose = poseAt(text.spec, marked->from);
    markedTurn_->setValue(pose.turn), markedScale_->setValue(pose.scale);
    markedOpacity_->setValue(pose.opacity), kern_->setValue(kernAt(text.spec, marked->from));
}

void RuleSection::bindRule(NumberField* field, void (*set)(LetterRule&, double)) {
    bind(field, tr("Letters of %1"), [set](Layer& l, double v) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (text && !text->spec.rules.empty()) set(text->spec.rules.front(), v);
    });
}

void RuleSection::changeRule(const QString& name, const std::function<void(LetterRule&)>& edit) {
    change(name, [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (text && !text->spec.rules.empty()) edit(text->spec.rules.front());
    });
}

void RuleSection::choose(int kind) {
    change(tr("Letters of %1"), [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (!text) return;
        auto& rules = text->spec.rules;
        if (kind == 0) {
            if (!rules.empty()) rules.erase(rules.begin());
            return;
        }
        const LetterRule made = newRule(static_cast<Kind>(kind - 1));
        if (rules.empty())
            rules.push_back(made);
        else
            rules.front() = made;
    });
}

void RuleSection::refresh(const Layer& layer) {
    const auto& rules = layer.as<TextContent>()->spec.rules;
    const LetterRule rule = rules.empty() ? LetterRule() : rules.front();
    kind_->setCurrentIndex(rules.empty() ? 0 : int(rule.kind) + 1);
    for (const auto& [widget, kinds] : rows_)
        widget->setVisible(!rules.empty() && std::find(kinds.begin(), kinds.end(), rule.kind) != kinds.end());
    rise_->setValue(rule.rise), turn_->setValue(rule.turn), spread_->setValue(rule.spread);
    fade_->setValue(rule.fade), period_->setValue(rule.period);
    refreshMarked(*layer.as<TextContent>());
}

} // namespace glyptos
