#include "app/compose/brush_options.h"

#include "app/figures/layer_section.h"
#include "app/widgets/form_rows.h"

#include <QHBoxLayout>
#include <cmath>

namespace glyptos {

BrushOptions::BrushOptions(ComposeBench& bench, QWidget* parent)
    : QWidget(parent)
    , bench_(bench) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(value_ = new QComboBox);
    value_->setAccessibleName(tr("The brush"));
    value_->addItems({tr("hides"), tr("shows"), tr("shows in part"), tr("works out the edge")});
    connect(value_, &QComboBox::activated, this, [this](int i) {
        set([=](HandSettings& s) {
            s.refines = i == 3;
            if (!s.refines) s.maskValue = i == 2 ? 0.5 : i;
        });
    });
    row->addWidget(grey_ = new NumberField(tr("How much it shows"), {QStringLiteral("%"), 0, 5, 0, 100}));
    grey_->setFixedWidth(58);
    connect(grey_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.maskValue = v / 100; }); });
    row->addWidget(way_ = new QComboBox);
    way_->setAccessibleName(tr("Painted by"));
    way_->addItems({tr("by strokes"), tr("by a run")});
    way_->setToolTip(tr("A run is dragged from where it begins to where it has faded out"));
    connect(way_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.maskRuns = i == 1; }); });
    row->addWidget(asPaint_ = new QCheckBox(tr("Paint's brush")));
    asPaint_->setToolTip(tr("Paints the mask with the brush that Paint has in hand, whatever its tip"));
    connect(asPaint_, &QCheckBox::clicked, this,
            [this](bool on) { set([=](HandSettings& s) { s.maskAsPaint = on; }); });
    ofMask_ = {value_, grey_, way_, asPaint_};
    makeEdge(row);
    makeMend(row);
    makeBrush(row);
    connect(&bench_, &ComposeBench::handChanged, this, &BrushOptions::refresh);
    refresh();
}

void BrushOptions::makeEdge(QLayout* row) {
    row->addWidget(edge_ =
                       wordButton(tr("All of it"), tr("Works out the whole edge of the mask, hair by hair")));
    connect(edge_, &QToolButton::clicked, this, &BrushOptions::edgeAsked);
    band_ = new NumberField(tr("Width of the band"), {QStringLiteral("px"), 0, 2, 1, 2000});
    connect(band_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.edgeBand = v; }); });
    firmness_ = new NumberField(tr("Firmness of the edge"), {QStringLiteral("%"), 0, 5, 0, 100});
    connect(firmness_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.edgeFirmness = v / 100; }); });
    outwards_ = new NumberField(tr("The edge outwards"), {QStringLiteral("%"), 0, 5, -100, 100});
    outwards_->setToolTip(tr("Below 0 it moves inwards"));
    connect(outwards_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.edgeOutwards = v / 100; }); });
    ofEdge_ = {edge_};
    for (const auto& [text, field] :
         {std::pair{tr("band"), band_}, {tr("firm"), firmness_}, {tr("out"), outwards_}}) {
        field->setFixedWidth(56);
        auto* label = new FieldLabel(text, field);
        row->addWidget(label);
        row->addWidget(field);
        ofEdge_.insert(ofEdge_.end(), {label, field});
    }
    row->addWidget(firm_ =
                       wordButton(tr("Firm up"), tr("Makes the edge firmer and moves it, as is set here")));
    connect(firm_, &QToolButton::clicked, this, &BrushOptions::firmAsked);
    ofEdge_.push_back(firm_);
}

void BrushOptions::makeMend(QLayout* row) {
    row->addWidget(by_ = new QComboBox);
    by_->setAccessibleName(tr("Mend by"));
    by_->addItems({tr("filling from around"), tr("laying a patch"), tr("copying along")});
    connect(by_, &QComboBox::activated, this,
            [this](int i) { set([=](HandSettings& s) { s.mendBy = static_cast<MendBy>(i); }); });
    aligned_ = new QCheckBox(tr("in one piece"));
    aligned_->setToolTip(tr("Every stroke goes on from the same place; else each begins at the ring anew"));
    connect(aligned_, &QCheckBox::clicked, this,
            [this](bool on) { set([=](HandSettings& s) { s.aligned = on; }); });
    turn_ = new NumberField(tr("Turn of the copy"), {QStringLiteral("°"), 1, 1, -360, 360});
    turn_->setFixedWidth(58);
    connect(turn_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.cloneTurn = v; }); });
    scale_ = new NumberField(tr("Size of the copy"), {QStringLiteral("%"), 0, 5, 5, 2000});
    scale_->setFixedWidth(58);
    connect(scale_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.cloneScale = v / 100; }); });
    selected_ = wordButton(tr("Mend the selection"), tr("Fills what is selected from around"));
    connect(selected_, &QToolButton::clicked, this, &BrushOptions::mendSelectionAsked);
    again_ = wordButton(tr("Mend again"),
                        tr("Fills anew what this layer has mended, from what lies below it now"));
    connect(again_, &QToolButton::clicked, this, &BrushOptions::mendAgainAsked);
    for (QWidget* widget : std::initializer_list<QWidget*>{aligned_, turn_, scale_, selected_, again_})
        row->addWidget(widget);
    ofMend_ = {by_};
    ofClone_ = {aligned_, turn_, scale_};
}

NumberField* BrushOptions::share(const QString& name, double BrushSettings::*which) {
    auto* field = new NumberField(name, {QStringLiteral("%"), 0, 5, 0, 100});
    field->setFixedWidth(54);
    connect(field, &NumberField::edited, this,
            [=, this](double v) { set([=](HandSettings& s) { s.brush.*which = v / 100; }); });
    return field;
}

void BrushOptions::makeBrush(QLayout* row) {
    size_ = new NumberField(tr("Size of the brush"));
    size_->setFixedWidth(72);
    connect(size_, &NumberField::edited, this,
            [this](double v) { set([=](HandSettings& s) { s.brush.diameter = v; }); });
    hardness_ = share(tr("Hardness"), &BrushSettings::hardness);
    opacity_ = share(tr("Opacity of a stroke"), &BrushSettings::opacity);
    flow_ = share(tr("Flow of the brush"), &BrushSettings::flow);
    for (const auto& [text, field] : {std::pair{tr("size"), size_},
                                      {tr("hard"), hardness_},
                                      {tr("opacity"), opacity_},
                                      {tr("flow"), flow_}}) {
        row->addWidget(new FieldLabel(text, field));
        row->addWidget(field);
        std::vector<QWidget*>& of = field == opacity_ ? ofMask_ : field == flow_ ? ofFlow_ : ofTip_;
        of.insert(of.end(), {field, row->itemAt(row->count() - 2)->widget()});
    }
}

void BrushOptions::set(const std::function<void(HandSettings&)>& change) {
    HandSettings next = bench_.settings();
    change(next);
    bench_.setSettings(next);
}

void BrushOptions::refresh() {
    const HandSettings& s = bench_.settings();
    const bool mends = bench_.hand() == Hand::Mend, clones = mends && s.mendBy == MendBy::Clone;
    const bool refines = !mends && s.refines;
    for (QWidget* widget : ofMask_) widget->setVisible(!mends && (!refines || widget == value_));
    // A run has no tip.
    const bool runs = !mends && !refines && s.maskRuns;
    const bool asPaint = !mends && !refines && s.maskAsPaint;
    for (QWidget* widget : ofTip_) widget->setVisible(!runs && !asPaint);
    for (QWidget* widget : ofFlow_) widget->setVisible(!mends && !refines && !runs && !asPaint);
    asPaint_->setVisible(!mends && !refines && !runs);
    asPaint_->setChecked(s.maskAsPaint);
    for (QWidget* widget : ofEdge_) widget->setVisible(refines);
    band_->setValue(s.edgeBand), firmness_->setValue(s.edgeFirmness * 100),
        outwards_->setValue(s.edgeOutwards * 100);
    for (QWidget* widget : ofMend_) widget->setVisible(mends);
    for (QWidget* widget : ofClone_) widget->setVisible(clones);
    const bool surroundings = mends && s.mendBy == MendBy::Surroundings;
    selected_->setVisible(surroundings), again_->setVisible(surroundings);
    const bool grey = s.maskValue > 0 && s.maskValue < 1;
    value_->setCurrentIndex(refines ? 3 : grey ? 2 : int(s.maskValue));
    grey_->setVisible(!mends && grey && !refines);
    grey_->setValue(s.maskValue * 100);
    way_->setCurrentIndex(s.maskRuns ? 1 : 0);
    by_->setCurrentIndex(int(s.mendBy));
    aligned_->setChecked(s.aligned);
    turn_->setValue(s.cloneTurn), scale_->setValue(s.cloneScale * 100);
    hardness_->setValue(s.brush.hardness * 100), opacity_->setValue(s.brush.opacity * 100),
        flow_->setValue(s.brush.flow * 100);
    if (!bench_.panel()) return;
    size_->setUnit(lengthUnitOf(bench_.document()->piece().get()));
    size_->setValue(bench_.tip(1).diameter);
    selected_->setEnabled(bench_.selection().selection().has_value());
}

} // namespace glyptos
