#include "app/figures/code_section.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/layer_words.h"
#include "release/code_size.h"
#include "release/placing.h"

namespace glyptos {
namespace {

constexpr int kSoonMs = 250;

const char* roleOf(CodeGrade grade) {
    return grade == CodeGrade::Good ? "good" : grade == CodeGrade::Doubtful ? "caution" : "fault";
}

} // namespace

CodeSection::CodeSection(Engine& engine)
    : LayerSection(engine) {
    QFormLayout* form = figuresForm(this);
    kind_ = new QComboBox;
    kind_->setAccessibleName(tr("Kind of code"));
    for (const CodeKind kind : {CodeKind::Ean13, CodeKind::UpcA, CodeKind::Qr})
        kind_->addItem(codeWord(kind));
    connect(kind_, &QComboBox::activated, this, [this](int i) {
        changeCode(tr("Kind of %1"), [i](CodeContent& c) { c.kind = static_cast<CodeKind>(i); });
    });
    text_ = new QLineEdit;
    text_->setAccessibleName(tr("What the code says"));
    text_->setToolTip(
        tr("Digits of a barcode, the check digit as you like; any words for a QR code. {barcode} and "
           "{address} are those of the brief."));
    connect(text_, &QLineEdit::editingFinished, this, [this] {
        changeCode(tr("Text of %1"),
                   [this](CodeContent& c) { c.text = text_->text().trimmed().toStdString(); });
    });
    scale_ = new NumberField(tr("Size of the code"), plainUnit(QStringLiteral("%"), 0, 5, 10, 1000));
    scale_->setToolTip(tr("A barcode may be printed at 80 to 200 %"));
    bind(scale_, tr("Size %1"), [this](Layer& l, double v) { setScale(l, v); });
    bars_ = new ColourButton(tr("Colour of the bars"));
    connect(bars_, &ColourButton::chosen, this,
            [this](const Ink& c) { changeCode(tr("Colour %1"), [&](CodeContent& code) { code.bars = c; }); });
    ground_ = new ColourButton(tr("Colour of the ground"));
    connect(ground_, &ColourButton::chosen, this, [this](const Ink& c) {
        changeCode(tr("Ground of %1"), [&](CodeContent& code) { code.ground = c; });
    });
    auto* darker = wordButton(tr("Darken"), tr("Makes the bars black, which every scanner reads"));
    connect(darker, &QToolButton::clicked, this, [this] {
        changeCode(tr("Darken %1"), [](CodeContent& code) { code.bars = Ink{0, 0, 0, 1}; });
    });
    grounded_ = new QCheckBox(tr("of its own"));
    grounded_->setToolTip(tr("Else it stands on what lies behind it, which must be light and calm"));
    connect(grounded_, &QCheckBox::clicked, this, [this](bool on) {
        changeCode(tr("Ground of %1"), [on](CodeContent& c) {
            c.ground = on ? std::optional(Ink{1, 1, 1, 1}) : std::nullopt;
        });
    });
    form->addRow(roleLabel(tr("Code"), "soft"), kind_);
    form->addRow(roleLabel(tr("Says"), "soft"), text_);
    form->addRow(new FieldLabel(tr("At"), scale_), scale_);
    form->addRow(roleLabel(tr("Bars"), "soft"), inOneRow({bars_, darker}));
    form->addRow(roleLabel(tr("Ground"), "soft"), inOneRow({grounded_, ground_}));
    form->addRow(verdict_ = roleLabel(QString(), "soft"));
    verdict_->setAccessibleName(tr("What a reader makes of the code"));
    soon_.setSingleShot(true);
    soon_.setInterval(kSoonMs);
    connect(&soon_, &QTimer::timeout, this, &CodeSection::judge);
    connect(&judging_, &QFutureWatcherBase::finished, this, [this] {
        const auto verdict = judging_.future().result();
        if (judged_ != asked_) return judge();
        setRole(verdict_, verdict ? roleOf(verdict->grade) : "fault");
        verdict_->setText(q(verdict ? verdict->sentence : verdict.error().message));
    });
    connect(&engine_, &Engine::pictureReady, this, [this] {
        judged_.reset();
        soon_.start();
    });
}

CodeSection::~CodeSection() {
    judging_.waitForFinished();
}

void CodeSection::changeCode(const QString& name, const std::function<void(CodeContent&)>& edit, bool settled,
                             const QString& merge) {
    change(
        name,
        [&](Layer& l) {
            if (auto* code = std::get_if<CodeContent>(&l.content)) edit(*code);
        },
        settled, merge);
}

/// About its middle; what was stretched is in proportion again.
void CodeSection::setScale(Layer& layer, double percent) const {
    const auto* code = layer.as<CodeContent>();
    if (!code || !document_->piece()) return;
    layer.placement.scaleX = layer.placement.scaleY =
        codeModule(code->kind, document_->piece()->flat->unit) * percent / 100;
}

void CodeSection::refresh(const Layer& layer) {
    const auto& code = *layer.as<CodeContent>();
    kind_->setCurrentIndex(int(code.kind));
    if (!text_->hasFocus()) text_->setText(q(code.text));
    scale_->setValue(layer.placement.scaleX / codeModule(code.kind, document_->piece()->flat->unit) * 100);
    const std::vector<Swatch>& palette = document_->shown()->palette;
    bars_->setColour(code.bars, palette);
    ground_->setColour(code.ground.value_or(Ink{1, 1, 1, 1}), palette);
    ground_->setEnabled(code.ground.has_value());
    grounded_->setChecked(code.ground.has_value());
    if (asked_ == document_->shown() && layer_ == layer.id) return;
    asked_ = document_->shown(), layer_ = layer.id;
    soon_.start();
}

void CodeSection::judge() {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    if (judging_.isRunning() || !layer || !layer->as<CodeContent>()) return;
    judged_ = asked_ = document_->shown();
    judging_.setFuture(
        inBackground([&renderer = engine_.renderer, release = asked_, panel = document_->panel(), layer] {
            return judgeCode(renderer, release, panel, *layer);
        }));
}

} // namespace glyptos
