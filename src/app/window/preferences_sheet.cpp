#include "app/window/preferences_sheet.h"

#include "app/figures/layer_section.h"

#include <QComboBox>
#include <QSettings>
#include <QVBoxLayout>

namespace glyptos {

PreferencesSheet::PreferencesSheet(Engine& engine, CrateService& crate, QWidget* parent)
    : QDialog(parent) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Preferences"));
    auto* column = new QVBoxLayout(this);
    auto* share = new NumberField(tr("Memory for pictures and tiles"),
                                  plainUnit(QStringLiteral("%"), 0, 5, kLeastMemoryShare, kMostMemoryShare));
    auto* says = roleLabel(QString(), "soft");
    const auto tell = [says](double percent) {
        const double gib = double(installedMemory()) / double(size_t(1) << 30);
        says->setText(
            tr("%1 of the %2 GiB of this machine. More keeps more pictures ready; pictures beyond it are "
               "read again when they are needed.")
                .arg(tr("%1 GiB").arg(gib * percent / 100, 0, 'f', 1))
                .arg(gib, 0, 'f', 1));
    };
    share->setValue(memoryShare());
    tell(memoryShare());
    connect(share, &NumberField::edited, this, [&engine, tell](double percent, bool) {
        setMemoryShare(engine, int(percent));
        tell(percent);
    });
    auto* form = new QFormLayout;
    form->addRow(new FieldLabel(tr("Memory for pictures"), share), share);
    column->addLayout(form);
    says->setMinimumWidth(320);
    column->addWidget(says);
    auto* line = new QComboBox;
    line->setAccessibleName(tr("Line to the agency"));
    line->addItems({tr("good"), tr("slow"), tr("cut"), tr("failing every other time")});
    line->setCurrentIndex(int(keptLine()));
    connect(line, &QComboBox::activated, this, [&crate](int i) {
        QSettings().setValue(QStringLiteral("drawer/line"), i);
        crate.setLine(static_cast<AgencyLine>(i));
    });
    auto* lineForm = new QFormLayout;
    lineForm->addRow(roleLabel(tr("Line to the agency"), "soft"), line);
    column->addLayout(lineForm);
    column->addWidget(roleLabel(
        tr("The stock drawer stands in for an agency; so can be seen what happens on a bad line."), "soft"));
    auto* done = new QPushButton(tr("Done"));
    done->setAutoDefault(false);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    column->addWidget(done);
}

AgencyLine keptLine() {
    return static_cast<AgencyLine>(
        std::clamp(QSettings().value(QStringLiteral("drawer/line"), 0).toInt(), 0, int(AgencyLine::Failing)));
}

} // namespace glyptos
