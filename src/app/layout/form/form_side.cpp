#include "app/layout/form/form_side.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"

#include <QGridLayout>
#include <QSignalBlocker>

namespace glyptos {
namespace {

QComboBox* choice(const QString& name, const QStringList& words) {
    auto* made = new QComboBox;
    made->setAccessibleName(name);
    made->addItems(words);
    return made;
}

QLineEdit* field(const QString& name) {
    auto* made = new QLineEdit;
    made->setAccessibleName(name);
    return made;
}

} // namespace

FormSide::FormSide(QWidget* parent)
    : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    column->addWidget(heading(tr("Form")));
    column->addWidget(formName_ = roleLabel(QString(), "soft"));
    column->addWidget(sheets_ = choice(tr("Sheet of the form"), {}));
    column->addWidget(parts_ = choice(tr("Part of the form"), {}));
    connect(parts_, &QComboBox::activated, this, [this](int i) {
        const QVariant kind = parts_->itemData(i), index = parts_->itemData(i, Qt::UserRole + 1);
        Q_EMIT chosen(kind.isValid()
                          ? std::optional(PartRef{static_cast<PartKind>(kind.toInt()), index.toULongLong()})
                          : std::nullopt);
    });
    column->addWidget(inHandBox_ = makeFigures());
    column->addSpacing(6);
    column->addWidget(heading(tr("Add")));
    column->addWidget(makeAdding());
    column->addSpacing(6);
    column->addWidget(heading(tr("The printer's sheet")));
    column->addWidget(makeSheet());
    column->addSpacing(6);
    column->addWidget(heading(tr("Keep")));
    auto* keep = new QPushButton(tr("Keep as own form…"));
    keep->setToolTip(tr("It stands in “+ Piece” from now on; the release carries it in any case"));
    auto* share = new QPushButton(tr("Share…"));
    share->setToolTip(tr("The form as a file for others"));
    connect(keep, &QPushButton::clicked, this, &FormSide::keepAsked);
    connect(share, &QPushButton::clicked, this, &FormSide::shareAsked);
    column->addWidget(inOneRow({keep, share}));
    column->addStretch();
}

QWidget* FormSide::makeAdding() {
    auto* box = new QWidget;
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(6);
    const std::tuple<QString, PartKind, QString> kinds[] = {
        {tr("Panel"), PartKind::Panel, tr("A face that art goes on")},
        {tr("Fold"), PartKind::Fold, tr("A line that the board is folded along")},
        {tr("Hole"), PartKind::Cutout, tr("A hole or a window, cut out of the board")},
        {tr("Flap"), PartKind::Flap, tr("Board that is not printed, such as a glue flap")},
        {tr("Zone"), PartKind::Zone, tr("A place that is for something, or for nothing")}};
    int i = 0;
    for (const auto& [text, kind, why] : kinds) {
        auto* button = new QPushButton(text);
        button->setToolTip(why);
        button->setAccessibleName(tr("Add: %1").arg(text));
        connect(button, &QPushButton::clicked, this, [this, kind = kind] { Q_EMIT partAsked(kind); });
        grid->addWidget(button, i / 3, i % 3);
        ++i;
    }
    return box;
}

QWidget* FormSide::makeFigures() {
    auto* box = new QWidget;
    rows_ = new QFormLayout(box);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setVerticalSpacing(6);
    rows_->addRow(roleLabel(tr("Name"), "soft"), name_ = field(tr("Name of the part")));
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (inHand_ && name_->text() != q(nameOf(form_, *inHand_)))
            change(tr("Name of a part"),
                   [this](Form& f) { f = withName(f, *inHand_, name_->text().toStdString()); });
    });
    for (size_t i = 0; i < 4; ++i) {
        figures_[i] = field(QString());
        figures_[i]->setToolTip(tr("A figure in mm, or a sum over the form's figures"));
        rows_->addRow(labels_[i] = roleLabel(QString(), "soft"), figures_[i]);
        connect(figures_[i], &QLineEdit::editingFinished, this, [this, i] {
            if (!inHand_ || figures_[i]->text() == q(figuresOf(form_, *inHand_)[i])) return;
            change(tr("Measures of %1").arg(q(nameOf(form_, *inHand_))), [this](Form& f) {
                std::array<std::string, 4> set;
                for (size_t k = 0; k < 4; ++k) set[k] = figures_[k]->text().trimmed().toStdString();
                f = withFigures(f, *inHand_, set);
            });
        });
    }
    turn_ =
        choice(tr("Prints"), {tr("upright"), tr("turned by 90°"), tr("upside down"), tr("turned by 270°")});
    connect(turn_, &QComboBox::activated, this, [this](int i) {
        change(tr("Turn of a panel"),
               [&](Form& f) { f.panels[inHand_->index].turn = std::to_string(90 * i); });
    });
    fold_ = choice(tr("Way it is folded"), {tr("mountain"), tr("valley")});
    connect(fold_, &QComboBox::activated, this, [this](int i) {
        change(tr("Kind of a fold"),
               [&](Form& f) { f.folds[inHand_->index].kind = static_cast<FoldKind>(i); });
    });
    zone_ = choice(tr("What it is for"), {tr("bare: nothing prints"), tr("ink shows unevenly"),
                                          tr("the code's place"), tr("clear: nothing that matters")});
    connect(zone_, &QComboBox::activated, this, [this](int i) {
        change(tr("Kind of a zone"),
               [&](Form& f) { f.zones[inHand_->index].kind = static_cast<ZoneKind>(i); });
    });
    rows_->addRow(roleLabel(tr("Prints"), "soft"), turn_);
    rows_->addRow(roleLabel(tr("Fold"), "soft"), fold_);
    rows_->addRow(roleLabel(tr("For"), "soft"), zone_);
    rows_->addRow(roleLabel(tr("Angle"), "soft"), angle_ = field(tr("Angle of the fold")));
    rows_->addRow(roleLabel(tr("Order"), "soft"), order_ = field(tr("Order of the fold")));
    for (QLineEdit* edit : {angle_, order_})
        connect(edit, &QLineEdit::editingFinished, this, [this] {
            const FoldForm& fold = form_.folds[inHand_->index];
            const std::string angle = angle_->text().trimmed().toStdString(),
                              order = order_->text().trimmed().toStdString();
            if (angle != fold.angle || order != fold.order)
                change(tr("Angle of a fold"), [&](Form& f) {
                    f.folds[inHand_->index].angle = angle, f.folds[inHand_->index].order = order;
                });
        });
    remove_ = new QPushButton(tr("Take it away"));
    connect(remove_, &QPushButton::clicked, this, [this] {
        const PartRef gone = *inHand_;
        Form next = withoutPart(form_, gone);
        const QString name = q(nameOf(form_, gone));
        Q_EMIT chosen(std::nullopt);
        Q_EMIT changed(tr("Take away %1").arg(name), next);
    });
    rows_->addRow(remove_);
    return box;
}

QWidget* FormSide::makeSheet() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(sheetNote_ = roleLabel(QString(), "soft"));
    auto* open = new QPushButton(tr("Lay one under…"));
    open->setToolTip(tr("A PDF or SVG as the plant sends it; it is never printed"));
    trace_ = new QPushButton(tr("Trace it"));
    trace_->setToolTip(tr("A form of its lines: what is cut, folded and bleeds, by layer or ink"));
    measure_ = new QPushButton(tr("Measure"));
    measure_->setCheckable(true);
    measure_->setToolTip(tr("Drag from line to line"));
    connect(open, &QPushButton::clicked, this, &FormSide::sheetFileAsked);
    connect(trace_, &QPushButton::clicked, this, &FormSide::traceAsked);
    connect(measure_, &QPushButton::toggled, this, &FormSide::measureToggled);
    column->addWidget(open);
    page_ = new QSpinBox;
    page_->setAccessibleName(tr("Page of the printer's file"));
    page_->setKeyboardTracking(false);
    connect(page_, &QSpinBox::valueChanged, this, &FormSide::pageAsked);
    column->addWidget(pageRow_ =
                          inOneRow({roleLabel(tr("Page"), "soft"), page_, pages_ = roleLabel({}, "soft")}));
    column->addWidget(inOneRow({trace_, measure_}));
    setPages(1, 1);
    setSheetNote({}, false);
    return box;
}

void FormSide::setSheetNote(const QString& note, bool canTrace) {
    sheetNote_->setText(note.isEmpty() ? tr("None. A plant's own sheet can lie under the form, to measure "
                                            "and to trace.")
                                       : note);
    trace_->setEnabled(canTrace);
}

void FormSide::setPages(int page, int pages) {
    const QSignalBlocker quiet(page_);
    page_->setRange(1, pages);
    page_->setValue(page);
    pages_->setText(tr("of %1").arg(pages));
    pageRow_->setVisible(pages > 1);
}

void FormSide::change(const QString& name, const std::function<void(Form&)>& edit) {
    if (!inHand_) return;
    Form next = form_;
    edit(next);
    Q_EMIT changed(name, next);
}

void FormSide::show(const Form& form, const std::vector<FormPart>& parts,
                    const std::optional<PartRef>& inHand) {
    form_ = form;
    inHand_ = inHand;
    formName_->setText(form.own ? tr("%1, your own").arg(q(form.name))
                                : tr("%1. What you change makes it your own.").arg(q(form.name)));
    const QSignalBlocker quiet(parts_), quieter(sheets_);
    const QVariant sheet = sheets_->currentData();
    sheets_->clear();
    for (const SheetForm& s : form.sheets)
        if (s.presence.as.empty()) sheets_->addItem(q(s.name), q(s.id));
    sheets_->setVisible(sheets_->count() > 1);
    sheets_->setCurrentIndex(std::max(0, sheets_->findData(sheet)));
    parts_->clear();
    parts_->addItem(tr("No part in hand"));
    for (const FormPart& part : parts) {
        if (part.repeats) continue;
        parts_->addItem(q(part.name), int(part.ref.kind));
        parts_->setItemData(parts_->count() - 1, qulonglong(part.ref.index), Qt::UserRole + 1);
        if (inHand == part.ref) parts_->setCurrentIndex(parts_->count() - 1);
    }
    showKind();
}

void FormSide::showKind() {
    const bool any = inHand_.has_value();
    inHandBox_->setVisible(any);
    if (!any) return;
    const PartKind kind = inHand_->kind;
    const bool fold = kind == PartKind::Fold;
    if (!name_->hasFocus()) name_->setText(q(nameOf(form_, *inHand_)));
    const auto figures = figuresOf(form_, *inHand_);
    const std::array<QString, 4> words = fold ? std::array{tr("From x"), tr("From y"), tr("To x"), tr("To y")}
                                              : std::array{tr("Left"), tr("Top"), tr("Width"), tr("Height")};
    for (size_t i = 0; i < 4; ++i) {
        labels_[i]->setText(words[i]);
        figures_[i]->setAccessibleName(words[i]);
        if (!figures_[i]->hasFocus()) figures_[i]->setText(q(figures[i]));
    }
    rows_->setRowVisible(turn_, kind == PartKind::Panel);
    rows_->setRowVisible(fold_, fold);
    rows_->setRowVisible(zone_, kind == PartKind::Zone);
    rows_->setRowVisible(angle_, fold);
    rows_->setRowVisible(order_, fold);
    if (kind == PartKind::Panel) {
        const QString turn = q(form_.panels[inHand_->index].turn);
        bool plain = false;
        const int degrees = turn.toInt(&plain);
        turn_->setCurrentIndex(plain ? degrees / 90 : -1); // a sum over figures is neither
    }
    if (fold) {
        fold_->setCurrentIndex(int(form_.folds[inHand_->index].kind));
        if (!angle_->hasFocus()) angle_->setText(q(form_.folds[inHand_->index].angle));
        if (!order_->hasFocus()) order_->setText(q(form_.folds[inHand_->index].order));
    }
    if (kind == PartKind::Zone) zone_->setCurrentIndex(int(form_.zones[inHand_->index].kind));
}

} // namespace glyptos
