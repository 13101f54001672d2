#include "app/properties_panel.h"

#include "base/text.h"
#include "release/fields.h"
#include "release/placing.h"

#include <QMenu>
#include <QVBoxLayout>
#include <cmath>

namespace glyptos {
namespace {

QString q(std::string_view s) {
    return QString::fromUtf8(s.data(), qsizetype(s.size()));
}

QFormLayout* formIn(QWidget* widget) {
    auto* form = new QFormLayout(widget);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(10);
    form->setVerticalSpacing(6);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    return form;
}

FieldUnit plain(const QString& suffix, int decimals, double step, double least, double most) {
    FieldUnit unit;
    unit.suffix = suffix, unit.decimals = decimals, unit.step = step, unit.least = least, unit.most = most;
    return unit;
}

} // namespace

QColor toQt(const Rgba& c) {
    return QColor::fromRgbF(c.r, c.g, c.b, c.a);
}
Rgba fromQt(const QColor& c) {
    return {c.redF(), c.greenF(), c.blueF(), c.alphaF()};
}

PropertiesPanel::PropertiesPanel(Engine& engine, QWidget* parent)
    : QWidget(parent)
    , engine_(engine) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(12, 8, 12, 10);
    all->setSpacing(9);
    all->addWidget(title_ = heading(QString()));
    all->addWidget(empty_ = roleLabel(
                       tr("Click a layer on the bench or in the stack to set its figures here."), "soft"));
    for (QWidget* part : {text_ = makeText(), fill_ = makeFill(), place_ = makePlace(), blend_ = makeBlend(),
                         picture_ = makePicture()})
        all->addWidget(part);
    all->addStretch();
}

void PropertiesPanel::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &PropertiesPanel::refresh);
    connect(document_, &Document::selectionChanged, this, &PropertiesPanel::refresh);
    refresh();
}

const Panel* PropertiesPanel::panel() const {
    const PiecePtr piece = document_->piece();
    return piece ? piece->flat->panel(document_->panel().panel) : nullptr;
}

FieldUnit PropertiesPanel::lengthUnit() const {
    const PiecePtr piece = document_->piece();
    FieldUnit unit;
    unit.length = true;
    if (piece && piece->flat->unit == Unit::Px) {
        unit.suffix = QStringLiteral("px"), unit.decimals = 0, unit.step = 5;
        unit.perMm = unit.pxPerMm = pxPerMm({300});
    } else {
        unit.suffix = QStringLiteral("mm"), unit.decimals = 2, unit.step = 0.5;
        unit.pxPerMm = piece ? pxPerMm({piece->flat->ppi}) : pxPerMm({300});
    }
    return unit;
}

void PropertiesPanel::change(const QString& name, const LayerChange& change, const QString& merge) {
    if (showing_ || !document_ || document_->layer().empty()) return;
    const LayerPtr layer = document_->selectedLayer();
    if (!layer) return;
    document_->edit(name.arg(q(layer->name)),
                    withChangedLayer(document_->release(), document_->panel(), layer->id, change),
                    merge.isEmpty() ? merge : merge + q(layer->id));
}

void PropertiesPanel::bind(NumberField* field, const QString& name, std::function<void(Layer&, double)> set) {
    connect(field, &NumberField::turning, this, [this] { document_->settle(); });
    connect(field, &NumberField::edited, this,
            [this, name, set = std::move(set), field](double value, bool settled) {
                change(
                    name, [&](Layer& layer) { set(layer, value); },
                    settled ? QString() : field->accessibleName());
            });
}

QWidget* PropertiesPanel::makePlace() {
    auto* box = new QWidget;
    auto* form = formIn(box);
    x_ = new NumberField(tr("Left edge"));
    y_ = new NumberField(tr("Top edge"));
    w_ = new NumberField(tr("Width"));
    h_ = new NumberField(tr("Height"));
    turn_ = new NumberField(tr("Turn"), plain(QStringLiteral("°"), 1, 1, -360, 360));
    const auto bounds = [this](const Layer& layer) {
        return frameOf(layer, *document_->release(), panel()->withBleed(), engine_.renderer.paragraphs());
    };
    bind(x_, tr("Place %1"), [=](Layer& l, double v) { l = moved(l, {v - bounds(l).bounds().x, 0}); });
    bind(y_, tr("Place %1"), [=](Layer& l, double v) { l = moved(l, {0, v - bounds(l).bounds().y}); });
    const auto resize = [=](Layer& l, double v, bool wide) {
        const Frame frame = bounds(l);
        const double now = wide ? frame.box.w * frame.toPanel.scaleX() : frame.box.h * frame.toPanel.scaleY();
        if (v > 0 && now > 0) l = scaled(l, frame.bounds().centre(), v / now);
    };
    bind(w_, tr("Size %1"), [=](Layer& l, double v) { resize(l, v, true); });
    bind(h_, tr("Size %1"), [=](Layer& l, double v) { resize(l, v, false); });
    bind(turn_, tr("Turn %1"), [=](Layer& l, double v) {
        const Frame frame = bounds(l);
        l = turned(l, frame.toPanel.map(frame.box.centre()), v - l.placement.turn);
    });
    auto* across = new QPushButton(tr("Flip across"));
    auto* down = new QPushButton(tr("Flip down"));
    connect(across, &QPushButton::clicked, this,
            [this] { change(tr("Flip %1 across"), [](Layer& l) { l = flipped(l, false); }); });
    connect(down, &QPushButton::clicked, this,
            [this] { change(tr("Flip %1 down"), [](Layer& l) { l = flipped(l, true); }); });
    form->addRow(new FieldLabel(tr("Place"), x_), inOneRow({x_, y_}));
    form->addRow(new FieldLabel(tr("Size"), w_), inOneRow({w_, h_}));
    form->addRow(new FieldLabel(tr("Turn"), turn_), turn_);
    form->addRow(QString(), inOneRow({across, down}));
    return box;
}

QWidget* PropertiesPanel::makeBlend() {
    auto* box = new QWidget;
    auto* form = formIn(box);
    mode_ = new QComboBox;
    mode_->setAccessibleName(tr("Blend mode"));
    for (size_t i = 0; i < kBlendModeCount; ++i) {
        // The standard's modes, our own, and the operators that cut instead of blending.
        const auto mode = static_cast<BlendMode>(i);
        if (mode == BlendMode::Etch || mode == BlendMode::DestinationIn)
            mode_->insertSeparator(mode_->count());
        mode_->addItem(q(infoOf(mode).label), int(i));
    }
    mode_->setMaxVisibleItems(mode_->count());
    connect(mode_, &QComboBox::activated, this, [this](int i) {
        const auto mode = static_cast<BlendMode>(mode_->itemData(i).toInt());
        change(tr("Blend %1"), [=](Layer& l) { l.blend = mode; });
    });
    opacity_ = new QSlider(Qt::Horizontal);
    opacity_->setAccessibleName(tr("Opacity slider"));
    opacity_->setRange(0, 100);
    opacityField_ = new NumberField(tr("Opacity"), plain(QStringLiteral("%"), 0, 1, 0, 100));
    opacityField_->setMaximumWidth(64);
    connect(opacity_, &QSlider::valueChanged, this, [this](int v) {
        change(
            tr("Opacity of %1"), [=](Layer& l) { l.opacity = v / 100.0; }, QStringLiteral("opacity"));
    });
    bind(opacityField_, tr("Opacity of %1"), [](Layer& l, double v) { l.opacity = v / 100; });
    form->addRow(roleLabel(tr("Blend"), "soft"), mode_);
    passing_ = new QCheckBox(tr("Layers pass through"));
    passing_->setToolTip(tr("Each layer of the group meets what lies below by itself; only with Normal"));
    connect(passing_, &QCheckBox::clicked, this, [this](bool on) {
        change(tr("Pass through %1"), [=](Layer& l) {
            if (auto* group = std::get_if<GroupContent>(&l.content)) group->passing = on;
        });
    });
    form->addRow(QString(), passing_);
    form->addRow(new FieldLabel(tr("Opacity"), opacityField_), inOneRow({opacity_, opacityField_}));
    return box;
}

QWidget* PropertiesPanel::makePicture() {
    auto* box = new QWidget;
    auto* form = formIn(box);
    sharpness_ = roleLabel(QString(), "good");
    const FieldUnit percent = plain(QStringLiteral("%"), 1, 1, 0, 99);
    cropLeft_ = new NumberField(tr("Crop left"), percent);
    cropTop_ = new NumberField(tr("Crop top"), percent);
    cropRight_ = new NumberField(tr("Crop right"), percent);
    cropBottom_ = new NumberField(tr("Crop bottom"), percent);
    const auto crop = [](Layer& l, int side, double v) {
        const auto* picture = l.as<PictureContent>();
        if (!picture) return;
        const Rect c = picture->crop;
        double edges[4] = {c.x, c.y, 1 - c.right(), 1 - c.bottom()};
        edges[side] = v / 100;
        const Rect next{edges[0], edges[1], 1 - edges[0] - edges[2], 1 - edges[1] - edges[3]};
        if (next.w >= 0.01 && next.h >= 0.01) l = cropped(l, next);
    };
    NumberField* fields[] = {cropLeft_, cropTop_, cropRight_, cropBottom_};
    for (int i = 0; i < 4; ++i) bind(fields[i], tr("Crop %1"), [=](Layer& l, double v) { crop(l, i, v); });
    form->addRow(roleLabel(tr("Sharpness"), "soft"), sharpness_);
    form->addRow(new FieldLabel(tr("Crop ← →"), cropLeft_), inOneRow({cropLeft_, cropRight_}));
    form->addRow(new FieldLabel(tr("Crop ↑ ↓"), cropTop_), inOneRow({cropTop_, cropBottom_}));
    return box;
}

void PropertiesPanel::changeText(const QString& what, const std::function<void(TextContent&)>& edit,
                                 const QString& merge) {
    change(
        what,
        [&](Layer& l) {
            if (auto* text = std::get_if<TextContent>(&l.content)) edit(*text);
        },
        merge);
}

QWidget* PropertiesPanel::makeText() {
    auto* box = new QWidget;
    auto* form = formIn(box);
    words_ = new QPlainTextEdit;
    words_->setAccessibleName(tr("Words"));
    words_->setFixedHeight(58);
    words_->setTabChangesFocus(true);
    connect(words_, &QPlainTextEdit::textChanged, this, [this] {
        changeText(
            tr("Write %1"), [&](TextContent& t) { t.spec.text = words_->toPlainText().toStdString(); },
            QStringLiteral("write"));
    });
    auto* fields = new QPushButton(tr("From the brief"));
    auto* menu = new QMenu(fields);
    for (const FieldInfo& field : textFields())
        menu->addAction(q(field.label), this, [this, &field] { words_->insertPlainText(q(field.token)); });
    fields->setMenu(menu);
    fields->setToolTip(tr("Words that follow the brief on every piece"));
    family_ = new QComboBox;
    family_->setAccessibleName(tr("Typeface"));
    family_->setMaxVisibleItems(24);
    for (const FamilyInfo& f : engine_.fonts.families()) family_->addItem(q(f.name));
    style_ = new QComboBox;
    style_->setAccessibleName(tr("Style"));
    for (QComboBox* wide : {family_, style_}) {
        wide->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        wide->setMinimumContentsLength(8);
    }
    connect(family_, &QComboBox::activated, this, [this] {
        fillStyles(family_->currentText().toStdString());
        const int regular = std::max(style_->findText(QStringLiteral("Regular")), 0);
        changeText(tr("Typeface of %1"), [&](TextContent& t) {
            t.spec.family = family_->currentText().toStdString(),
            t.spec.style = style_->itemText(regular).toStdString();
        });
    });
    connect(style_, &QComboBox::activated, this, [this] {
        changeText(tr("Style of %1"),
                   [&](TextContent& t) { t.spec.style = style_->currentText().toStdString(); });
    });
    faceNote_ = roleLabel(QString(), "caution");
    size_ = new NumberField(tr("Type size"));
    textColour_ = new ColourButton(tr("Colour of the words"));
    tracking_ = new NumberField(tr("Tracking"), plain(QStringLiteral("‰"), 0, 5, -300, 2000));
    tracking_->setToolTip(tr("Space between letters, in thousandths of the size"));
    leading_ = new NumberField(tr("Leading"), plain(QStringLiteral("em"), 2, 0.05, 0.3, 5));
    measure_ = new NumberField(tr("Line width"));
    align_ = new QComboBox;
    align_->setAccessibleName(tr("Alignment"));
    align_->addItems({tr("Left"), tr("Centre"), tr("Right")});
    capitals_ = new QCheckBox(tr("Capitals"));
    const auto text = [](auto set) {
        return [set](Layer& l, double v) {
            if (auto* t = std::get_if<TextContent>(&l.content)) set(*t, v);
        };
    };
    bind(size_, tr("Type size of %1"), text([](TextContent& t, double v) { t.spec.size = v; }));
    bind(tracking_, tr("Track %1"), text([](TextContent& t, double v) { t.spec.tracking = v; }));
    bind(leading_, tr("Leading of %1"), text([](TextContent& t, double v) { t.spec.leading = v; }));
    bind(measure_, tr("Line width of %1"), text([](TextContent& t, double v) { t.spec.measure = v; }));
    connect(textColour_, &ColourButton::chosen, this, [this](const QColor& c) {
        changeText(tr("Colour %1"), [&](TextContent& t) { t.colour = fromQt(c); });
    });
    connect(align_, &QComboBox::activated, this, [this](int i) {
        changeText(tr("Align %1"), [&](TextContent& t) { t.spec.align = static_cast<Align>(i); });
    });
    connect(capitals_, &QCheckBox::clicked, this,
            [this](bool on) { changeText(tr("Capitals of %1"), [&](TextContent& t) { t.capitals = on; }); });
    form->addRow(words_);
    form->addRow(inOneRow({fields, capitals_}));
    form->addRow(roleLabel(tr("Typeface"), "soft"), family_);
    form->addRow(roleLabel(tr("Style"), "soft"), style_);
    form->addRow(faceNote_);
    form->addRow(new FieldLabel(tr("Size"), size_), inOneRow({size_, textColour_}));
    form->addRow(new FieldLabel(tr("Tracking"), tracking_), inOneRow({tracking_, align_}));
    form->addRow(new FieldLabel(tr("Leading"), leading_), inOneRow({leading_, measure_}));
    measure_->setToolTip(tr("Width at which lines break; 0 breaks only where you do"));
    return box;
}

void PropertiesPanel::changeFill(const std::function<void(FillContent&)>& edit) {
    change(tr("Colour %1"), [&](Layer& l) {
        if (auto* fill = std::get_if<FillContent>(&l.content)) edit(*fill);
    });
}

QWidget* PropertiesPanel::makeFill() {
    auto* box = new QWidget;
    auto* form = formIn(box);
    fillColour_ = new ColourButton(tr("Colour of the fill"));
    fillTo_ = new ColourButton(tr("Colour at the far end"));
    gradient_ = new QCheckBox(tr("Run to"));
    fillTurn_ = new NumberField(tr("Direction of the run"), plain(QStringLiteral("°"), 0, 5, -360, 360));
    connect(fillColour_, &ColourButton::chosen, this,
            [this](const QColor& c) { changeFill([&](FillContent& f) { f.colour = fromQt(c); }); });
    connect(fillTo_, &ColourButton::chosen, this,
            [this](const QColor& c) { changeFill([&](FillContent& f) { f.to = fromQt(c); }); });
    connect(gradient_, &QCheckBox::clicked, this, [this](bool on) {
        changeFill([&](FillContent& f) {
            if (!on)
                f.to.reset();
            else if (!f.to)
                f.to = Rgba{f.colour.r, f.colour.g, f.colour.b, 0};
        });
    });
    bind(fillTurn_, tr("Turn the run of %1"), [](Layer& l, double v) {
        if (auto* fill = std::get_if<FillContent>(&l.content)) fill->turn = v;
    });
    form->addRow(roleLabel(tr("Colour"), "soft"), fillColour_);
    form->addRow(gradient_, fillTo_);
    form->addRow(new FieldLabel(tr("Direction"), fillTurn_), fillTurn_);
    return box;
}

void PropertiesPanel::fillStyles(const std::string& family) {
    style_->clear();
    for (const FamilyInfo& f : engine_.fonts.families())
        if (f.name == family)
            for (const std::string& s : f.styles) style_->addItem(q(s));
}

void PropertiesPanel::showPlace(const Layer& layer) {
    const FieldUnit unit = lengthUnit();
    for (NumberField* f : {x_, y_, w_, h_, size_, measure_}) f->setUnit(unit);
    const Frame frame =
        frameOf(layer, *document_->shown(), panel()->withBleed(), engine_.renderer.paragraphs());
    const Rect bounds = frame.bounds();
    x_->setValue(bounds.x);
    y_->setValue(bounds.y);
    w_->setValue(frame.box.w * frame.toPanel.scaleX());
    h_->setValue(frame.box.h * frame.toPanel.scaleY());
    turn_->setValue(layer.placement.turn);
    turn_->setEnabled(!layer.as<GroupContent>());
    const auto* picture = layer.as<PictureContent>();
    if (!picture) return;
    const Rect& c = picture->crop;
    cropLeft_->setValue(c.x * 100);
    cropTop_->setValue(c.y * 100);
    cropRight_->setValue((1 - c.right()) * 100);
    cropBottom_->setValue((1 - c.bottom()) * 100);
    const SourcePtr source = document_->shown()->source(picture->source);
    if (source && source->format == "svg") {
        sharpness_->setText(tr("drawing, sharp at any size"));
        return setRole(sharpness_, "good");
    }
    if (document_->piece()->flat->unit == Unit::Px) {
        const double percent = std::max(layer.placement.scaleX, layer.placement.scaleY) * 100;
        sharpness_->setText(tr("%1 % of its own size").arg(std::lround(percent)));
        return setRole(sharpness_, percent <= 100.5 ? "good" : percent <= 150 ? "caution" : "fault");
    }
    const double ppi = effectivePpi(layer.placement);
    sharpness_->setText(tr("%1 ppi at this size").arg(std::lround(ppi)));
    setRole(sharpness_, ppi >= 299.5 ? "good" : ppi >= 150 ? "caution" : "fault");
}

void PropertiesPanel::showText(const Layer&, const TextContent& text) {
    if (words_->toPlainText().toStdString() != text.spec.text) words_->setPlainText(q(text.spec.text));
    family_->setCurrentText(q(text.spec.family));
    fillStyles(text.spec.family);
    style_->setCurrentText(q(text.spec.style));
    size_->setValue(text.spec.size);
    tracking_->setValue(text.spec.tracking);
    leading_->setValue(text.spec.leading);
    measure_->setValue(text.spec.measure);
    align_->setCurrentIndex(int(text.spec.align));
    capitals_->setChecked(text.capitals);
    textColour_->setColour(toQt(text.colour));
    const auto paragraph = engine_.renderer.paragraphs().get(resolvedText(text, document_->shown()->brief));
    QStringList notes;
    if (paragraph->usedFamily != text.spec.family || paragraph->usedStyle != text.spec.style)
        notes << tr("%1 %2 is not on this machine; %3 %4 stands in.")
                     .arg(q(text.spec.family), q(text.spec.style), q(paragraph->usedFamily),
                          q(paragraph->usedStyle));
    for (const std::string& f : paragraph->stoodIn) notes << tr("Some letters come from %1.").arg(q(f));
    for (const std::string& c : paragraph->unprintable) notes << tr("No typeface here has “%1”.").arg(q(c));
    faceNote_->setText(notes.join(QLatin1Char(' ')));
    faceNote_->setVisible(!notes.isEmpty());
}

void PropertiesPanel::refresh() {
    const LayerPtr layer = panel() ? document_->selectedLayer() : nullptr;
    showing_ = true;
    title_->setText(layer ? q(layer->name).toUpper() : tr("NO LAYER IN HAND"));
    empty_->setVisible(!layer);
    const auto* fill = layer ? layer->as<FillContent>() : nullptr;
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    place_->setVisible(layer && !fill);
    blend_->setVisible(bool(layer));
    picture_->setVisible(layer && layer->as<PictureContent>());
    text_->setVisible(text);
    fill_->setVisible(fill);
    const auto* group = layer ? layer->as<GroupContent>() : nullptr;
    passing_->setVisible(group);
    if (group) {
        passing_->setChecked(group->passing);
        passing_->setEnabled(layer->blend == BlendMode::Normal);
    }
    if (layer) {
        mode_->setCurrentIndex(mode_->findData(int(layer->blend)));
        opacity_->setValue(int(std::lround(layer->opacity * 100)));
        opacityField_->setValue(layer->opacity * 100);
        if (!fill) showPlace(*layer);
    }
    if (text) showText(*layer, *text);
    if (fill) {
        fillColour_->setColour(toQt(fill->colour));
        gradient_->setChecked(fill->to.has_value());
        fillTo_->setEnabled(fill->to.has_value());
        fillTo_->setColour(fill->to ? toQt(*fill->to) : QColor(Qt::transparent));
        fillTurn_->setEnabled(fill->to.has_value());
        fillTurn_->setValue(fill->turn);
    }
    showing_ = false;
}

} // namespace glyptos
