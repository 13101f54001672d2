#include "app/letter/table_section.h"

#include "release/fields.h"

namespace glyptos {
namespace {

constexpr const char* kLeaders[] = {"", ".", " .", "·", "–", "_"};

} // namespace

TableSection::TableSection(Engine& engine)
    : LayerSection(engine) {
    auto* form = figuresForm(this);
    const auto field = [](const QString& name, const QString& why) {
        auto* out = new NumberField(name);
        out->setToolTip(why);
        return out;
    };
    width_ = field(tr("Width of the table"), tr("Of all strips and what is between them"));
    height_ = field(tr("Height of the table"), tr("0: as high as the rows are"));
    grid_ = field(tr("Baseline grid"),
                  tr("From baseline to baseline, through all columns and strips; 0: the leading"));
    gap_ = field(tr("Between columns"), tr("Air between the columns"));
    gutter_ = field(tr("Between strips"), tr("Air between strips that stand side by side"));
    strips_ = new NumberField(tr("Strips"), plainUnit(QString(), 0, 1, 1, 20));
    strips_->setToolTip(tr("Side by side, about as high as each other; rows stay whole"));
    leader_ = new QComboBox;
    leader_->setAccessibleName(tr("Leader"));
    leader_->setToolTip(tr("What leads the eye over to the next column"));
    leader_->addItems(
        {tr("No leader"), tr("Points . . ."), tr("Wide points"), tr("Dots ···"), tr("Dashes"), tr("A line")});
    hangs_ = new QCheckBox(tr("Numbers hang"));
    hangs_->setToolTip(tr("The first column stands outside, so that the titles begin at the edge"));
    form->addRow(new FieldLabel(tr("Table"), width_), inOneRow({width_, height_}));
    form->addRow(new FieldLabel(tr("Grid"), grid_), inOneRow({grid_, hangs_}));
    form->addRow(new FieldLabel(tr("Columns"), gap_), inOneRow({gap_, leader_}));
    form->addRow(new FieldLabel(tr("Strips"), strips_), inOneRow({strips_, gutter_}));
    form->addRow(centred_ = roleLabel(tr("Centred lists read badly: every line begins elsewhere, and the eye "
                                         "has to look for the next title. Left is the better side."),
                                      "caution"));
    centred_->setWordWrap(true);
    bindTable(width_, tr("Width of %1"), [](InTable& t, double v) { t.width = v; });
    bindTable(height_, tr("Height of %1"), [](InTable& t, double v) { t.height = v; });
    bindTable(grid_, tr("Grid of %1"), [](InTable& t, double v) { t.grid = v; });
    bindTable(gap_, tr("Columns of %1"), [](InTable& t, double v) { t.gap = v; });
    bindTable(gutter_, tr("Strips of %1"), [](InTable& t, double v) { t.gutter = v; });
    bindTable(strips_, tr("Strips of %1"), [](InTable& t, double v) { t.strips = int(v); });
    connect(leader_, &QComboBox::activated, this,
            [this](int i) { changeTable(tr("Leader of %1"), [i](InTable& t) { t.leader = kLeaders[i]; }); });
    connect(hangs_, &QCheckBox::clicked, this,
            [this](bool on) { changeTable(tr("Numbers of %1"), [on](InTable& t) { t.hangs = on; }); });
}

bool TableSection::fits(const Layer& layer) const {
    const auto* text = layer.as<TextContent>();
    return text && std::holds_alternative<InTable>(text->spec.frame);
}

void TableSection::changeTable(const QString& name, const Change& edit) {
    change(name, [&](Layer& l) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (auto* table = text ? std::get_if<InTable>(&text->spec.frame) : nullptr) edit(*table);
    });
}

void TableSection::bindTable(NumberField* field, const QString& name,
                             std::function<void(InTable&, double)> set) {
    bind(field, name, [set = std::move(set)](Layer& l, double v) {
        auto* text = std::get_if<TextContent>(&l.content);
        if (auto* table = text ? std::get_if<InTable>(&text->spec.frame) : nullptr) set(*table, v);
    });
}

void TableSection::refresh(const Layer& layer) {
    const auto& text = *layer.as<TextContent>();
    const auto& table = std::get<InTable>(text.spec.frame);
    FieldUnit length = lengthUnit();
    length.least = 0;
    for (NumberField* f : {width_, height_, grid_, gap_, gutter_}) f->setUnit(length);
    width_->setValue(table.width), height_->setValue(table.height), grid_->setValue(table.grid);
    gap_->setValue(table.gap), gutter_->setValue(table.gutter), strips_->setValue(table.strips);
    gutter_->setEnabled(table.strips > 1);
    const auto* known = std::find(std::begin(kLeaders), std::end(kLeaders), table.leader);
    if (known == std::end(kLeaders) && leader_->count() == int(std::size(kLeaders)))
        leader_->addItem(QString());
    if (known == std::end(kLeaders))
        leader_->setItemText(leader_->count() - 1, QString::fromStdString(table.leader));
    leader_->setCurrentIndex(int(known - std::begin(kLeaders)));
    const bool hasColumns = text.spec.align == Align::Left || text.spec.align == Align::Justified;
    // Of a track list only numbers hang.
    const bool mayHang =
        !text.tracks || (!text.tracks->facts.empty() && text.tracks->facts.front() == TrackFact::Number);
    hangs_->setChecked(table.hangs), hangs_->setEnabled(hasColumns && mayHang), gap_->setEnabled(hasColumns);
    leader_->setEnabled(hasColumns);
    centred_->setVisible(text.spec.align == Align::Centre);
}

} // namespace glyptos
