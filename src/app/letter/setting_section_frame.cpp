#include "app/letter/setting_section.h"
#include "app/session/background.h"
#include "app/session/engine.h"
#include "base/overloaded.h"
#include "base/text.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/layer_way.h"
#include "type/text_edits.h"
#include "type/text_fit.h"

#include <QMenu>
#include <numbers>

namespace glyptos {
namespace {

enum FrameKind { AtAPoint, InAnArea, InAShape, AlongALine, RoundACircle, InATable }; // as TextFrame has them

template <class Frame>
void setFrame(TextContent& text, const std::function<void(Frame&)>& set) {
    if (auto* frame = std::get_if<Frame>(&text.spec.frame)) set(*frame);
}

/// With the columns that the tabs of a text make: the widest of them breaks, figures stand to the right.
InTable tableOf(const TextSpec& spec, double width) {
    std::vector<size_t> longest;
    std::vector<bool> figures;
    for (const std::string& line : split(spec.text, '\n')) {
        const std::vector<std::string> cells = split(line, '\t');
        longest.resize(std::max(longest.size(), cells.size())), figures.resize(longest.size(), true);
        for (size_t i = 0; cells.size() > 1 && i < cells.size(); ++i) {
            longest[i] = std::max(longest[i], cells[i].size());
            figures[i] = figures[i] && cells[i].find_first_not_of("0123456789:.,") == cells[i].npos;
        }
    }
    InTable out;
    out.width = width, out.gap = spec.letters.size, out.gutter = 3 * spec.letters.size;
    for (size_t i = 0; i < longest.size(); ++i)
        out.columns.push_back({figures[i] ? Align::Right : Align::Left, false});
    if (!longest.empty())
        out.columns[size_t(std::max_element(longest.begin(), longest.end()) - longest.begin())].breaks = true;
    return out;
}

} // namespace

void SettingSection::makeFrame(QFormLayout* form) {
    frame_ = choice(tr("Frame"), {tr("At a point"), tr("In an area"), tr("In a shape"), tr("Along a line"),
                                  tr("Round a circle"), tr("In a table")});
    connect(frame_, &QComboBox::activated, this, &SettingSection::chooseFrame);
    frameLabel_ = roleLabel(tr("Set"), "soft");
    form->addRow(frameLabel_, frame_);

    const auto row = [&](const QString& label, NumberField* field, std::initializer_list<QWidget*> all) {
        QWidget* made = inOneRow(all);
        auto* title = new FieldLabel(label, field);
        form->addRow(title, made);
        return std::vector<QWidget*>{title, made};
    };
    areaWidth_ = new NumberField(tr("Line width"));
    areaHeight_ = new NumberField(tr("Height of the area"));
    areaHeight_->setToolTip(tr("0: as high as the words are"));
    areaRow_ = row(tr("Area"), areaWidth_, {areaWidth_, areaHeight_});
    pathStart_ = new NumberField(tr("Start on the line"));
    below_ = new QCheckBox(tr("Other side"));
    pathRow_ = row(tr("Start"), pathStart_, {pathStart_, below_});
    radius_ = new NumberField(tr("Radius"));
    circleStart_ =
        new NumberField(tr("Start on the circle"), plainUnit(QStringLiteral("°"), 1, 5, -360, 360));
    circleStart_->setToolTip(tr("Clockwise from the top"));
    circleRow_ = row(tr("Radius"), radius_, {radius_, circleStart_});
    inside_ = new QCheckBox(tr("Inside, read from the middle"));
    auto* insideRow = inOneRow({inside_});
    form->addRow(QString(), insideRow);
    circleRow_.push_back(insideRow);

    bindText(areaWidth_, tr("Line width of %1"),
             [](TextContent& t, double v) { setFrame<InArea>(t, [v](InArea& a) { a.width = v; }); });
    bindText(areaHeight_, tr("Height of %1"),
             [](TextContent& t, double v) { setFrame<InArea>(t, [v](InArea& a) { a.height = v; }); });
    bindText(pathStart_, tr("Start of %1"),
             [](TextContent& t, double v) { setFrame<AlongPath>(t, [v](AlongPath& p) { p.start = v; }); });
    bindText(radius_, tr("Radius of %1"), [](TextContent& t, double v) {
        setFrame<RoundCircle>(t, [v](RoundCircle& c) { c.radius = v; });
    });
    bindText(circleStart_, tr("Start of %1"), [](TextContent& t, double v) {
        setFrame<RoundCircle>(t, [v](RoundCircle& c) { c.start = v; });
    });
    connect(below_, &QCheckBox::clicked, this, [this](bool on) {
        changeText(tr("Side of %1"),
                   [on](TextContent& t) { setFrame<AlongPath>(t, [on](AlongPath& p) { p.below = on; }); });
    });
    connect(inside_, &QCheckBox::clicked, this, [this](bool on) {
        changeText(tr("Side of %1"), [on](TextContent& t) {
            setFrame<RoundCircle>(t, [on](RoundCircle& c) { c.inside = on; });
        });
    });
    form->addRow(roleLabel(tr("Language"), "soft"), language_);
    form->addRow(
        inOneRow({hyphens_ = makeSwitch(tr("Hyphens"), tr("Words are divided as their language has it"),
                                        &TextSpec::hyphenate),
                  hang_ = makeSwitch(tr("Marks hang"), tr("Quotes, points and hyphens stand beyond the edge"),
                                     &TextSpec::hangPunctuation)}));
    form->addRow(inOneRow(
        {even_ = makeSwitch(tr("Even lines"), tr("Lines about as long as each other"), &TextSpec::balance),
         spaces_ = makeSwitch(tr("Only at spaces"), tr("Lines do not break behind hyphens and dashes"),
                              &TextSpec::breakAtSpaces)}));
}

QWidget* SettingSection::makeOverflow() {
    overflow_ = roleLabel(QString(), "caution");
    fit_ = new QPushButton(tr("Fit"));
    fit_->setToolTip(tr("The largest size at which all words have room"));
    connect(fit_, &QPushButton::clicked, this, &SettingSection::fit);
    return overflowRow_ = inOneRow({overflow_, fit_});
}

void SettingSection::chooseFrame(int kind) {
    const LayerPtr layer = document_->selectedLayer();
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    if (!text) return;
    const auto set = engine_.renderer.paragraphs().get(resolvedText(*text, *document_->shown()));
    const double size = text->spec.letters.size;
    switch (kind) {
    case AtAPoint:
        return changeText(tr("Set %1 at a point"), [](TextContent& t) { t.spec.frame = AtPoint{}; });
    case InAnArea:
        return changeText(tr("Set %1 in an area"), [&](TextContent& t) {
            t.spec.frame = InArea{std::max(set->box.w, size), 0};
        });
    case RoundACircle:
        return change(tr("Set %1 round a circle"), [&](Layer& l) {
            // The words stay where they are, at its top.
            const double radius = std::max(set->box.w / std::numbers::pi, size * 2);
            l.placement.position = textToPanel(l.placement).map({set->box.centre().x, set->ascent + radius});
            auto& spec = std::get<TextContent>(l.content).spec;
            spec.frame = RoundCircle{radius, 0, false}, spec.align = Align::Centre;
        });
    case InATable:
        return changeText(tr("Set %1 in a table"), [&](TextContent& t) {
            t.spec.frame = tableOf(t.spec, std::max(set->box.w, size));
        });
    default:
        frame_->setCurrentIndex(int(text->spec.frame.index()));
        return chooseWay(kind == AlongALine);
    }
}

/// Asks which layer's outline is meant; the words get a copy of it.
void SettingSection::chooseWay(bool along) {
    const LayerPtr layer = document_->selectedLayer();
    const auto toText = textToPanel(layer->placement).inverse();
    if (!toText) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const LayerPtr& other : stackOf(*document_->shown(), document_->panel())) {
        const auto* shape = other->as<ShapeContent>();
        if (!shape) continue;
        const auto way =
            wayAlong(*other, *document_->shown(), panel()->withBleed(), engine_.renderer.paragraphs());
        if (!way || way->contours.empty()) continue;
        const Affine map = *toText * placementMap(way->placement);
        std::vector<Contour> contours = way->contours;
        for (Contour& contour : contours)
            for (PathNode& node : contour.nodes)
                node = {map.map(node.at), map.mapVector(node.before), map.mapVector(node.after)};
        menu->addAction(QString::fromStdString(other->name), this, [this, along, contours] {
            changeText(along ? tr("Set %1 along a line") : tr("Set %1 in a shape"), [&](TextContent& t) {
                t.spec.frame = along ? TextFrame(AlongPath{contours.front(), 0, false}) : InShape{contours};
            });
        });
    }
    if (menu->isEmpty()) menu->addAction(tr("Draw a shape or a path on this panel first"))->setEnabled(false);
    menu->popup(frame_->mapToGlobal(QPoint(0, frame_->height())));
}

/// The words are set many times for it: off the window's thread.
void SettingSection::fit() {
    const LayerPtr layer = document_->selectedLayer();
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    if (!text) return;
    const TextSpec shown = resolvedText(*text, *document_->shown());
    inBackground([shown, &fonts = engine_.fonts]() -> Result<double> {
        const auto fitted = fittedToFrame(shown, fonts);
        return fitted ? fitted->letters.size / shown.letters.size : 1.0;
    }).then(this, [this, id = layer->id](const Result<double>& factor) {
        if (!factor || document_->layer() != id) return;
        changeText(tr("Fit %1"), [&](TextContent& t) {
            t.spec = withLetters(t.spec, [&](LetterStyle& l) { l.size *= *factor; });
        });
    });
}

void SettingSection::refreshFrame(const TextContent& text, const Paragraph& set) {
    const TextFrame& frame = text.spec.frame;
    frame_->setCurrentIndex(int(frame.index()));
    frame_->setVisible(!text.tracks), frameLabel_->setVisible(!text.tracks);
    const auto show = [](const std::vector<QWidget*>& row, bool on) {
        for (QWidget* widget : row) widget->setVisible(on);
    };
    show(areaRow_, frame.index() == InAnArea), show(pathRow_, frame.index() == AlongALine);
    show(circleRow_, frame.index() == RoundACircle);
    std::visit(
        Overloaded{
            [](const AtPoint&) {}, [](const InShape&) {}, [](const InTable&) {},
            [this](const InArea& a) { areaWidth_->setValue(a.width), areaHeight_->setValue(a.height); },
            [this](const AlongPath& p) { pathStart_->setValue(p.start), below_->setChecked(p.below); },
            [this](const RoundCircle& c) {
                radius_->setValue(c.radius), circleStart_->setValue(c.start), inside_->setChecked(c.inside);
            }},
        frame);
    const bool breaks = frame.index() == InAnArea || frame.index() == InAShape || frame.index() == InATable;
    hyphens_->setChecked(text.spec.hyphenate), hang_->setChecked(text.spec.hangPunctuation);
    even_->setChecked(text.spec.balance), spaces_->setChecked(text.spec.breakAtSpaces);
    show({hyphens_->parentWidget(), even_->parentWidget()}, breaks);
    // Cells have even lines, and nothing hangs from them.
    show({hang_, even_}, frame.index() != InATable);
    hyphens_->setEnabled(!text.spec.letters.language.empty());
    const size_t all = resolvedText(text, *document_->shown()).text.size();
    overflowRow_->setVisible(set.shown < all);
    overflow_->setText(tr("Some of the words have no room."));
}

} // namespace glyptos
