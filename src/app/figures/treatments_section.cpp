#include "app/figures/treatments_section.h"

#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/scope_drawing.h"
#include "release/placing.h"
#include "release/walks.h"
#include "render/painting.h"

#include <QActionGroup>
#include <QVBoxLayout>

namespace glyptos {
namespace {

QString familyWord(TreatmentFamily family) {
    switch (family) {
    case TreatmentFamily::Grade:
        return TreatmentsSection::tr("Colour");
    case TreatmentFamily::Blur:
        return TreatmentsSection::tr("Blur");
    case TreatmentFamily::Detail:
        return TreatmentsSection::tr("Detail");
    case TreatmentFamily::Drawn:
        return TreatmentsSection::tr("Drawn from a photo");
    case TreatmentFamily::Worn:
        return TreatmentsSection::tr("Worn");
    case TreatmentFamily::Outline:
        return TreatmentsSection::tr("Letters and shapes");
    case TreatmentFamily::Light:
        return TreatmentsSection::tr("Light");
    default:
        return TreatmentsSection::tr("Surfaces");
    }
}

} // namespace

TreatmentsSection::TreatmentsSection(Engine& engine, RenderService& service, LookShelf& looks)
    : LayerSection(engine)
    , looks_(looks)
    , toCut_(service)
    , reference_(service)
    , before_(service) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    add_ = wordButton(tr("Add ▾"), tr("Another treatment, behind the one that is marked"));
    add_->setAccessibleName(tr("Add a treatment"));
    add_->setPopupMode(QToolButton::InstantPopup);
    add_->setMenu(addMenu_ = new QMenu(add_));
    sheet_ = wordButton(tr("Try…"), tr("The layer under many treatments at once; a click takes one"));
    more_ = wordButton(tr("List ▾"), tr("Copy the list, keep it as a look, write it as a table"));
    more_->setPopupMode(QToolButton::InstantPopup);
    more_->setMenu(moreMenu_ = new QMenu(more_));
    connect(sheet_, &QToolButton::clicked, this, &TreatmentsSection::sheetAsked);
    column->addWidget(inOneRow({add_, sheet_, more_, makeBefore()}));
    column->addWidget(empty_ = roleLabel(
                          tr("Nothing is done to this layer yet. What is added here can be changed, switched "
                             "and taken away at any time."),
                          "soft"));
    column->addWidget(list_ = new TreatmentList);
    column->addWidget(unknown_ =
                          roleLabel(tr("This version of Glyptos does not know this treatment. It is kept "
                                       "in the file as it is, and drawn without."),
                                    "caution"));
    byPicture_ =
        wordButton(tr("Set from the picture"),
                   tr("Works these figures out from the colours beneath; they can be changed afterwards"));
    connect(byPicture_, &QToolButton::clicked, this, &TreatmentsSection::setByPicture);
    match_ =
        wordButton(tr("Match to ▾"), tr("A table that gives what is beneath the colours of another picture"));
    match_->setAccessibleName(tr("Match the colours of"));
    match_->setPopupMode(QToolButton::InstantPopup);
    match_->setMenu(matchMenu_ = new QMenu(match_));
    connect(matchMenu_, &QMenu::aboutToShow, this, &TreatmentsSection::makeMatchMenu);
    papers_ = wordButton(tr("Keep as shapes"), tr("The papers as shapes in a group in front of the layer"));
    connect(papers_, &QToolButton::clicked, this, &TreatmentsSection::askPapers);
    connect(&toCut_, &Miniature::arrived, this, &TreatmentsSection::keepPapers);
    connect(&reference_, &Miniature::arrived, this,
            [this] { setMatch(referenceName_, coloursOf(reference_.image())); });
    column->addWidget(fromPictures_ = inOneRow({byPicture_, match_, papers_}));
    column->addWidget(figures_ = new TreatmentFigures);
    column->addWidget(common_ = new QWidget);
    makeCommon(figuresForm(common_));
    makeAddMenu();
    makeListMenu();
    connect(list_, &TreatmentList::chosen, this, &TreatmentsSection::choose);
    connect(list_, &TreatmentList::removeAsked, this, &TreatmentsSection::remove);
    connect(list_, &TreatmentList::toggled, this, [this](int row) {
        current_ = row;
        changeOne(tr("Switch %2 of %1"), [](Treatment& t) { t.on = !t.on; });
    });
    connect(list_, &TreatmentList::moved, this, [this](int from, int to) {
        current_ = to;
        changeList(tr("Order of the treatments of %1"), [=](Treatments& all) {
            Treatment moving = std::move(all[size_t(from)]);
            all.erase(all.begin() + from);
            all.insert(all.begin() + to, std::move(moving));
        });
    });
    connect(list_, &TreatmentList::menuAsked, this, [this](int row, QPoint at) {
        QMenu menu;
        menu.addAction(tr("Another like it"), this, [this, row] {
            changeList(tr("Another treatment of %1"), [row](Treatments& all) {
                const Treatment copy = all[size_t(row)];
                all.insert(all.begin() + row + 1, copy);
            });
        });
        menu.addAction(tr("Back to its standards"), this, [this] {
            changeOne(tr("%2 of %1 back to its standards"), [this](Treatment& t) {
                if (t.kind) t.figures = newTreatment(*t.kind, unitHere()).figures;
            });
        });
        menu.addAction(tr("Remove"), this, [this, row] { remove(row); });
        menu.exec(at);
    });
    connect(figures_, &TreatmentFigures::edited, this, &TreatmentsSection::setFigure);
    connect(figures_, &TreatmentFigures::lookFileAsked, this, &TreatmentsSection::chooseLookFile);
    connect(figures_, &TreatmentFigures::pointPickAsked, this, &TreatmentsSection::curvePointPickAsked);
    connect(figures_, &TreatmentFigures::colourPickAsked, this, &TreatmentsSection::colourPickAsked);
    connect(figures_, &TreatmentFigures::pathAsked, this, &TreatmentsSection::takePath);
    connect(&before_, &Miniature::arrived, this, &TreatmentsSection::showHistogram);
}

/// The work before and after, by a line on the bench.
QToolButton* TreatmentsSection::makeBefore() {
    QToolButton* button =
        wordButton(tr("Before ▾"), tr("The work before and after its treatments, by a line"));
    button->setAccessibleName(tr("Before and after"));
    button->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(button);
    auto* group = new QActionGroup(menu);
    for (const auto& [text, which] :
         {std::pair{tr("does not show"), TreatmentLens::Before::Off},
          {tr("without those of the layer in hand"), TreatmentLens::Before::OfLayer},
          {tr("without any treatment"), TreatmentLens::Before::OfAll}}) {
        QAction* action = menu->addAction(text, this, [this, which = which] { Q_EMIT beforeChosen(which); });
        action->setCheckable(true);
        action->setActionGroup(group);
        action->setChecked(which == TreatmentLens::Before::Off);
    }
    button->setMenu(menu);
    return button;
}

void TreatmentsSection::makeCommon(QFormLayout* form) {
    opacity_ = new NumberField(tr("Opacity of the treatment"), plainUnit(QStringLiteral("%"), 0, 5, 0, 100));
    opacity_->setFixedWidth(66);
    blend_ = new QComboBox;
    blend_->setAccessibleName(tr("Blend of the treatment"));
    for (const BlendModeInfo& mode : kBlendModes)
        blend_->addItem(QString::fromUtf8(mode.label.data(), qsizetype(mode.label.size())));
    blend_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    mask_ = new QPushButton;
    mask_->setAccessibleName(tr("Mask of the treatment"));
    mask_->setMenu(maskMenu_ = new QMenu(mask_));
    connect(maskMenu_, &QMenu::aboutToShow, this, &TreatmentsSection::makeMaskMenu);
    connect(opacity_, &NumberField::edited, this, [this](double v, bool settled) {
        changeOne(
            tr("Opacity of %2 of %1"), [=](Treatment& t) { t.opacity = v / 100; }, settled,
            QStringLiteral("treatment opacity"));
    });
    connect(blend_, &QComboBox::activated, this, [this](int i) {
        changeOne(tr("Blend %2 of %1"), [=](Treatment& t) { t.blend = static_cast<BlendMode>(i); });
    });
    form->addRow(new FieldLabel(tr("Opacity"), opacity_), inOneRow({blend_, opacity_}));
    form->addRow(roleLabel(tr("Acts"), "soft"), mask_);
}

/// All kinds by what one would look for them under.
void TreatmentsSection::makeAddMenu() {
    QMenu* menu = nullptr;
    std::optional<TreatmentFamily> last;
    for (const TreatmentKind* kind : treatmentKinds()) {
        if (last != kind->family) {
            menu = nullptr;
            for (QAction* action : addMenu_->actions())
                if (action->menu() && action->menu()->title() == familyWord(kind->family))
                    menu = action->menu();
            if (!menu) menu = addMenu_->addMenu(familyWord(kind->family));
        }
        last = kind->family;
        menu->addAction(treatmentWord(kind->title), this, [this, kind] { add(*kind); });
    }
}

void TreatmentsSection::changeList(const QString& name, const ListChange& edit, bool settled,
                                   const QString& merge) {
    change(
        name,
        [&](Layer& layer) {
            Treatments all = layer.treatments ? *layer.treatments : Treatments{};
            edit(all);
            layer.treatments = all.empty() ? nullptr : std::make_shared<const Treatments>(std::move(all));
        },
        settled, merge);
}

void TreatmentsSection::changeOne(const QString& name, const std::function<void(Treatment&)>& edit,
                                  bool settled, const QString& merge) {
    const Treatment* shown = shownTreatment();
    if (!shown) return;
    QString words = name;
    words.replace(QStringLiteral("%2"),
                  shown->kind ? treatmentWord(shown->kind->title).toLower() : tr("treatment"));
    changeList(
        words, [&](Treatments& all) { edit(all[size_t(current_)]); }, settled,
        merge.isEmpty() ? merge : merge + QString::number(current_));
}

void TreatmentsSection::setFigure(size_t figure, const FigureValue& value, bool settled) {
    const Treatment* shown = shownTreatment();
    if (!shown || !shown->kind) return;
    const QString label = treatmentWord(shown->kind->figures[figure].label);
    changeOne(
        tr("%3 of %2 of %1").replace(QStringLiteral("%3"), label),
        [&](Treatment& t) { t.figures.set(figure, value); }, settled, label);
}

const Treatment* TreatmentsSection::shownTreatment() const {
    const LayerPtr layer = document_ ? document_->selectedLayer() : nullptr;
    if (!layer || !layer->treatments || current_ < 0 || current_ >= int(layer->treatments->size()))
        return nullptr;
    return &(*layer->treatments)[size_t(current_)];
}

void TreatmentsSection::add(const TreatmentKind& kind) {
    const Panel* here = panel();
    if (!here) return;
    Treatment treatment = newTreatment(kind, unitHere());
    // What acts about a point begins in the middle of what it acts on.
    const LayerPtr layer = document_->selectedLayer();
    if (layer && !isFrameless(*layer))
        for (size_t i = 0; i < kind.figures.size(); ++i)
            if (kind.figures[i].kind == FigureKind::Point)
                treatment.figures.set(i, std::optional<Vec2>(frameOfLayer(*layer).bounds().centre()));
    const int at = current_ < 0 ? 0 : current_ + 1;
    current_ = at;
    QString words = tr("%2 on %1");
    words.replace(QStringLiteral("%2"), treatmentWord(kind.title));
    changeList(words,
               [&](Treatments& all) { all.insert(all.begin() + std::min(at, int(all.size())), treatment); });
}

void TreatmentsSection::choose(int row) {
    current_ = row;
    if (const LayerPtr layer = document_->selectedLayer()) showLayer(layer);
    Q_EMIT currentChanged();
}

void TreatmentsSection::remove(int row) {
    current_ = row;
    changeList(tr("Remove a treatment of %1"), [row](Treatments& all) { all.erase(all.begin() + row); });
}

double TreatmentsSection::unitHere() const {
    return unitsPerMm(document_->piece()->flat->unit == Unit::Px);
}

double TreatmentsSection::shorterSide() const {
    const Panel* here = panel();
    return here ? std::min(here->width, here->height) : 1;
}

void TreatmentsSection::makeMaskMenu() {
    maskMenu_->clear();
    const Treatment* shown = shownTreatment();
    const auto put = [this](const QString& name, const std::shared_ptr<const Mask>& mask) {
        changeOne(name, [mask](Treatment& t) { t.mask = mask; });
    };
    const auto selection = selectionOf(*document_->release(), document_->panel());
    maskMenu_
        ->addAction(tr("Where it is selected"), this,
                    [=] { put(tr("Mask %2 of %1"), std::make_shared<const Mask>(maskOf(*selection))); })
        ->setEnabled(selection.has_value());
    const auto gradient = [=, this](double turn) {
        const Panel* here = panel();
        if (!here) return;
        Mask mask;
        mask.form = evenRun(here->withBleed(), turn, {1, 1, 1, 1}, {0, 0, 0, 1});
        put(tr("Mask %2 of %1"), std::make_shared<const Mask>(std::move(mask)));
    };
    maskMenu_->addAction(tr("Less towards the foot"), this, [=] { gradient(0); });
    maskMenu_->addAction(tr("Less towards the head"), this, [=] { gradient(180); });
    maskMenu_->addAction(tr("Round the middle"), this, [=, this] {
        const Panel* here = panel();
        if (!here) return;
        const Rect area = here->withBleed();
        Gradient run = evenRun(area, 0, {1, 1, 1, 1}, {0, 0, 0, 1});
        run.kind = GradientKind::Radial;
        run.from = area.centre();
        run.to = area.centre() + Vec2{std::max(area.w, area.h) / 2, 0};
        Mask mask;
        mask.form = run;
        put(tr("Mask %2 of %1"), std::make_shared<const Mask>(std::move(mask)));
    });
    maskMenu_->addSeparator();
    maskMenu_
        ->addAction(tr("The other way round"), this,
                    [this] {
                        changeOne(tr("Invert the mask of %2 of %1"), [](Treatment& t) {
                            if (!t.mask) return;
                            Mask mask = *t.mask;
                            mask.inverted = !mask.inverted;
                            t.mask = std::make_shared<const Mask>(std::move(mask));
                        });
                    })
        ->setEnabled(shown && shown->mask);
    maskMenu_->addAction(tr("Everywhere"), this, [=] { put(tr("Unmask %2 of %1"), nullptr); })
        ->setEnabled(shown && shown->mask);
}

FigureSurroundings TreatmentsSection::surroundings() const {
    FigureSurroundings out;
    out.length = lengthUnit();
    constexpr double kLongest = 0.25; // of the shorter side, at the far end of a slider
    out.longest = kLongest * shorterSide();
    out.palette = document_->shown()->palette;
    for (const SourcePtr& source : document_->shown()->sources)
        out.pictures.emplace_back(q(source->name), source->id);
    eachLayer(stackOf(*document_->shown(), document_->panel()), [&](const LayerPtr& other) {
        if (other->id != layer_ && !other->as<GradeContent>())
            out.pictures.emplace_back(tr("Layer: %1").arg(q(other->name)),
                                      std::string(kLayerMark) + other->id);
    });
    return out;
}

void TreatmentsSection::refresh(const Layer& layer) {
    const Treatments none;
    const Treatments& all = layer.treatments ? *layer.treatments : none;
    if (layer.id != layer_) current_ = 0;
    layer_ = layer.id;
    current_ = std::clamp(current_, -1, int(all.size()) - 1);
    if (current_ < 0 && !all.empty()) current_ = 0;
    list_->setTreatments(all, current_);
    empty_->setVisible(all.empty());
    const Treatment* shown = shownTreatment();
    unknown_->setVisible(shown && !shown->kind);
    figures_->setVisible(shown && shown->kind);
    fromPictures_->setVisible(false);
    common_->setVisible(shown && shown->kind);
    if (!shown || !shown->kind) return;
    showFromPictures(*shown);
    figures_->show(*shown, surroundings());
    opacity_->setValue(shown->opacity * 100);
    blend_->setCurrentIndex(int(shown->blend));
    mask_->setText(!shown->mask                                             ? tr("everywhere")
                   : std::holds_alternative<Gradient>(shown->mask->form)    ? tr("along a run")
                   : std::holds_alternative<PaintedMask>(shown->mask->form) ? tr("where it is painted")
                                                                            : tr("inside a mask"));
    askHistogram();
}

} // namespace glyptos
