#include "app/gather/colours_view.h"

#include "app/session/words.h"
#include "app/widgets/colours.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "color/colour_words.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "release/edits/palette_edits.h"

#include <QColorDialog>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>
#include <QtConcurrent>

namespace glyptos {
namespace {

constexpr int kCountSide = 360; // px of the longer side at which a piece is looked at for its colours

/// What a rendering shows, as a picture to count.
Picture pictureFrom(const QImage& image) {
    const QImage rgba = image.convertToFormat(QImage::Format_RGBA8888);
    Picture out = Picture::create<uint8_t>(rgba.width(), rgba.height());
    for (int y = 0; y < rgba.height(); ++y)
        std::copy_n(rgba.constScanLine(y), 4 * size_t(rgba.width()), out.row<uint8_t>(y));
    return out;
}

void clear(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (QWidget* widget = item->widget()) {
            widget->hide();
            widget->deleteLater();
        }
        if (item->layout()) clear(item->layout());
        delete item;
    }
}

} // namespace

ContrastCard::ContrastCard(QWidget* parent)
    : QWidget(parent) {
    setFixedHeight(96);
}

void ContrastCard::show(const QColor& words, const QColor& ground) {
    words_ = words;
    ground_ = ground;
    setAccessibleName(says());
    update();
}

QString ContrastCard::says() const {
    const double ratio = contrastRatio(fromQt(words_), fromQt(ground_));
    return tr("%1 : 1 · %2")
        .arg(std::floor(ratio * 100) / 100, 0, 'f', 2)
        .arg(QLatin1String(contrastGrade(ratio)));
}

void ContrastCard::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF left = QRectF(0.5, 0.5, width() / 2.0 - 4, height() - 1),
                 right = left.translated(width() / 2.0 + 3, 0);
    const std::pair<QRectF, std::pair<QColor, QColor>> sides[] = {{left, {words_, ground_}},
                                                                  {right, {ground_, words_}}};
    for (const auto& [area, colours] : sides) {
        painter.setPen(QPen(theme().hairline, 1));
        painter.setBrush(colours.second);
        painter.drawRoundedRect(area, 7, 7);
        painter.setPen(colours.first);
        painter.setFont(uiFont(26, 700));
        painter.drawText(area.adjusted(0, 4, 0, -26), Qt::AlignCenter, QStringLiteral("Ægir"));
        painter.setFont(uiFont(12, 500));
        painter.drawText(area.adjusted(0, 44, 0, -6), Qt::AlignCenter, says());
    }
}

ColoursView::ColoursView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(makeList(), 1);
    row->addWidget(makeSide());
}

QWidget* ColoursView::makeList() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(20, 14, 20, 14);
    column->setSpacing(8);
    column->addWidget(roleLabel(tr("Colours of the release"), "title"));
    column->addWidget(roleLabel(
        tr("What has one of these colours follows it: change it here, and it changes on every piece."),
        "soft"));
    auto* add = new QPushButton(tr("Add a colour…"));
    auto* fromSet = new QPushButton(tr("From the set"));
    fromSet->setToolTip(tr("The colours of all pieces as they look now"));
    auto* read = new QPushButton(tr("Read…"));
    read->setToolTip(tr("A palette as CSS variables, or as lines of red, green, blue and a name"));
    auto* write = new QPushButton(tr("Write…"));
    connect(add, &QPushButton::clicked, this, [this] { changeCurrent(true); });
    connect(fromSet, &QPushButton::clicked, this, &ColoursView::takeFromSet);
    connect(read, &QPushButton::clicked, this, &ColoursView::askRead);
    connect(write, &QPushButton::clicked, this, &ColoursView::askWrite);
    auto* buttons = new QHBoxLayout;
    for (QPushButton* b : {add, fromSet, read, write}) buttons->addWidget(b);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addWidget(
        empty_ = roleLabel(tr("No colours yet. Take them out of a picture in the crate, or add one by hand."),
                           "soft"));
    auto* rows = new QWidget;
    list_ = new QGridLayout(rows);
    list_->setContentsMargins(0, 6, 0, 0);
    list_->setHorizontalSpacing(8);
    list_->setVerticalSpacing(6);
    list_->setColumnStretch(1, 1);
    auto* holder = new QWidget;
    auto* inside = new QVBoxLayout(holder);
    inside->setContentsMargins(0, 0, 0, 0);
    inside->addWidget(rows);
    inside->addStretch();
    column->addWidget(scrolling(holder), 1);
    return page;
}

QWidget* ColoursView::makeSide() {
    side_ = new QWidget;
    auto* column = new QVBoxLayout(side_);
    column->setContentsMargins(18, 14, 18, 14);
    column->setSpacing(8);
    column->addWidget(sideTitle_ = roleLabel(QString(), "title"));
    column->addWidget(heading(tr("Can it be read on")));
    column->addWidget(others_ = new QWidget);
    auto* flow = new QHBoxLayout(others_);
    flow->setContentsMargins(0, 0, 0, 0);
    flow->setSpacing(0);
    column->addWidget(contrast_ = new ContrastCard);
    column->addWidget(roleLabel(
        tr("AA asks for 4.5 : 1 in words of ordinary size, and for 3 : 1 in large ones (WCAG 2.2)."),
        "soft"));
    column->addSpacing(6);
    column->addWidget(heading(tr("What goes with it")));
    column->addWidget(harmonies_ = new QWidget);
    auto* grid = new QGridLayout(harmonies_);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(3);
    column->addWidget(roleLabel(tr("A click puts a colour into the palette."), "soft"));
    column->addStretch();
    side_->setFixedWidth(380);
    return side_;
}

void ColoursView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    current_.clear();
    connect(document_, &Document::changed, this, &ColoursView::refresh);
    refresh();
}

const Swatch* ColoursView::swatch(const std::string& id) const {
    for (const Swatch& s : document_->shown()->palette)
        if (s.id == id) return &s;
    return nullptr;
}

void ColoursView::setCurrent(const std::string& swatch) {
    current_ = swatch;
    refresh();
}

void ColoursView::addRow() {
    const int at = int(rows_.size());
    Row row;
    row.chip = new ColourChip(Qt::black, {});
    row.chip->setFixedSize(46, 32);
    row.chip->setCheckable(true);
    row.name = new QLineEdit;
    row.says = roleLabel(QString(), "soft");
    row.says->setWordWrap(false);
    row.plate = new QComboBox;
    row.plate->addItems({tr("press inks"), tr("an ink of its own"), tr("over the others")});
    row.plate->setToolTip(tr("What it is printed in: the four inks, an ink of its own in their place, or one "
                             "over them, as a varnish is. Its name is that of the plate."));
    auto* change = new QPushButton(tr("Change…"));
    auto* up = new QPushButton(tr("Up"));
    auto* gone = new QPushButton(tr("Remove"));
    row.all = {row.chip, row.name, row.says, row.plate, change, up, gone};
    for (size_t i = 0; i < row.all.size(); ++i) list_->addWidget(row.all[i], at, int(i));
    const auto id = [this, at] { return rows_[size_t(at)].id; };
    connect(row.chip, &QToolButton::clicked, this, [=, this] { setCurrent(id()); });
    connect(row.name, &QLineEdit::textEdited, this, [=, this](const QString& text) {
        document_->edit(tr("Name of a colour"),
                        withSwatchName(document_->release(), id(), text.toStdString()),
                        QStringLiteral("swatch name ") + q(id()));
    });
    connect(row.name, &QLineEdit::editingFinished, this, [this] { document_->settle(); });
    connect(row.plate, &QComboBox::activated, this, [=, this](int plate) {
        document_->edit(tr("Ink of %1").arg(rows_[size_t(at)].name->text()),
                        withSwatchPlate(document_->release(), id(), static_cast<Plate>(plate)));
    });
    connect(change, &QPushButton::clicked, this, [=, this] {
        setCurrent(id());
        changeCurrent(false);
    });
    connect(up, &QPushButton::clicked, this, [=, this] {
        document_->edit(tr("Order of the palette"),
                        withMovedSwatch(document_->release(), id(), size_t(std::max(at - 1, 0))));
    });
    connect(gone, &QPushButton::clicked, this, [=, this] {
        document_->edit(tr("Remove %1 from the palette").arg(rows_[size_t(at)].name->text()),
                        withoutSwatch(document_->release(), id()));
    });
    rows_.push_back(row);
}

void ColoursView::refreshRow(Row& row, const Swatch& swatch) {
    row.id = swatch.id;
    row.chip->setColour(toQt(swatch.colour), q(swatch.name));
    row.chip->setChecked(swatch.id == current_);
    row.name->setAccessibleName(tr("Name of %1").arg(q(swatch.name)));
    if (row.name->text() != q(swatch.name)) row.name->setText(q(swatch.name));
    const int followers = followersOf(*document_->shown(), swatch.id);
    row.says->setText(
        toQt(swatch.colour).name() + QStringLiteral("  ·  ") +
        (followers == 0 ? tr("nothing follows it") : tr("layers that follow it: %1").arg(followers)));
    row.plate->setCurrentIndex(int(swatch.plate));
    const char* const names[] = {"", "", "", "What %1 prints in", "Change %1", "Move %1 up", "Remove %1"};
    for (size_t i = 3; i < row.all.size(); ++i)
        row.all[i]->setAccessibleName(tr(names[i]).arg(q(swatch.name)));
}

void ColoursView::showEvent(QShowEvent*) {
    refresh();
}

void ColoursView::refresh() {
    if (!isVisible()) return;
    const auto& palette = document_->shown()->palette;
    if (!swatch(current_)) current_ = palette.empty() ? std::string() : palette.front().id;
    while (rows_.size() < palette.size()) addRow();
    for (size_t i = 0; i < rows_.size(); ++i) {
        for (QWidget* w : rows_[i].all) w->setVisible(i < palette.size());
        if (i < palette.size()) refreshRow(rows_[i], palette[i]);
    }
    empty_->setVisible(palette.empty());
    refreshSide();
}

void ColoursView::refreshSide() {
    const Swatch* now = swatch(current_);
    side_->setVisible(now != nullptr);
    if (!now) return;
    sideTitle_->setText(q(now->name.empty() ? nameOf(now->colour) : now->name));
    auto* flow = static_cast<QHBoxLayout*>(others_->layout());
    clear(flow);
    std::vector<std::pair<std::string, NamedColour>> grounds;
    for (const Swatch& s : document_->shown()->palette)
        if (s.id != current_) grounds.push_back({s.id, {s.name, s.colour}});
    grounds.push_back({"white", {tr("White").toStdString(), {1, 1, 1, 1}}});
    grounds.push_back({"black", {tr("Black").toStdString(), {0, 0, 0, 1}}});
    auto found =
        std::find_if(grounds.begin(), grounds.end(), [&](const auto& g) { return g.first == against_; });
    if (found == grounds.end()) found = grounds.begin();
    against_ = found->first;
    for (const auto& [id, ground] : grounds) {
        auto* chip = new ColourChip(toQt(ground.colour), q(ground.name));
        chip->setCheckable(true);
        chip->setChecked(id == against_);
        chip->setMark(QString::number(std::floor(contrastRatio(now->colour, ground.colour) * 10) / 10));
        chip->setMinimumWidth(36);
        chip->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        flow->addWidget(chip);
        connect(chip, &QToolButton::clicked, this, [this, id = id] {
            against_ = id;
            refreshSide();
        });
    }
    contrast_->show(toQt(now->colour), toQt(found->second.colour));
    auto* grid = static_cast<QGridLayout*>(harmonies_->layout());
    clear(grid);
    int line = 0;
    for (const Harmony& harmony : harmoniesOf(now->colour)) {
        grid->addWidget(roleLabel(tr(harmony.name.c_str()), "soft"), line, 0);
        for (size_t i = 1; i < harmony.colours.size(); ++i) {
            const Rgba c = harmony.colours[i];
            auto* chip = new ColourChip(toQt(c), q(nameOf(c)));
            grid->addWidget(chip, line, int(i));
            connect(chip, &QToolButton::clicked, this, [this, c] { take({{nameOf(c), c}}); });
        }
        ++line;
    }
    grid->setColumnStretch(0, 1);
}

void ColoursView::take(const std::vector<NamedColour>& colours) {
    document_->edit(colours.size() == 1 ? tr("%1 into the palette").arg(q(colours[0].name))
                                        : tr("Colours into the palette"),
                    withSwatches(document_->release(), colours));
}

void ColoursView::changeCurrent(bool anew) {
    const Swatch* now = anew ? nullptr : swatch(current_);
    QColorDialog* dialog = colourChooser(now ? toQt(now->colour) : QColor(0x1e, 0x7a, 0x6c), this);
    dialog->setOption(QColorDialog::ShowAlphaChannel, false);
    if (now) {
        const std::string id = now->id;
        connect(dialog, &QColorDialog::currentColorChanged, this, [this, id](const QColor& c) {
            document_->preview(withSwatchColour(document_->release(), id, fromQt(c)));
        });
        connect(dialog, &QColorDialog::rejected, this, [this] { document_->preview(nullptr); });
        connect(dialog, &QColorDialog::colorSelected, this, [this, id, name = q(now->name)](const QColor& c) {
            document_->edit(tr("Colour of %1").arg(name),
                            withSwatchColour(document_->release(), id, fromQt(c)));
        });
    } else {
        connect(dialog, &QColorDialog::colorSelected, this, [this](const QColor& c) {
            take({{nameOf(fromQt(c)), fromQt(c)}});
        });
    }
    dialog->open();
}

void ColoursView::takeFromSet() {
    if (!counting_.empty()) return;
    const ReleasePtr release = document_->release();
    auto counts = std::make_shared<std::vector<ColourCount>>();
    const size_t all = release->pieces.size();
    for (const PiecePtr& piece : release->pieces) {
        auto& mini = counting_.emplace_back(std::make_unique<Miniature>(service_));
        connect(mini.get(), &Miniature::arrived, this, [this, counts, all, shown = mini.get()] {
            counts->emplace_back().add(pictureFrom(shown->image()));
            if (counts->size() < all) return;
            ColourCount together;
            for (const ColourCount& c : *counts) together.add(c, 1);
            std::vector<NamedColour> colours;
            for (const PaletteColour& c : paletteOf(together, 8))
                colours.push_back({nameOf(c.colour), c.colour});
            take(colours);
            QMetaObject::invokeMethod(
                this, [this] { counting_.clear(); }, Qt::QueuedConnection);
        });
        const Rect trim = piece->flat->trim();
        const double k = kCountSide / std::max(trim.w, trim.h);
        mini->ask(1, flatScene(release, piece->id, {k, false, {-trim.x * k, -trim.y * k}}),
                  {0, 0, std::max(1, snapEdge(trim.w * k)), std::max(1, snapEdge(trim.h * k))});
    }
}

void ColoursView::readFrom(const QString& file) {
    const auto bytes = readFile(file.toStdString());
    if (!bytes) return Q_EMIT told(q(bytes.error().message));
    const auto colours = paletteFromText({reinterpret_cast<const char*>(bytes->data()), bytes->size()},
                                         QFileInfo(file).fileName().toStdString());
    if (!colours) return Q_EMIT told(q(colours.error().message));
    document_->edit(tr("Palette from %1").arg(QFileInfo(file).fileName()),
                    withPalette(document_->release(), *colours));
}

void ColoursView::writeTo(const QString& file) {
    const auto colours = namedColours(document_->release()->palette);
    const std::string text =
        file.endsWith(QStringLiteral(".css")) ? paletteAsCss(colours) : paletteAsLines(colours);
    if (auto written =
            writeFile(file.toStdString(), {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
        !written)
        Q_EMIT told(q(written.error().message));
}

void ColoursView::askRead() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Read a palette"), {},
                                                      tr("Palettes (*.css *.txt);;All files (*)"));
    if (!file.isEmpty()) readFrom(file);
}

void ColoursView::askWrite() {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Write the palette"), QStringLiteral("palette.css"),
                                     tr("CSS variables (*.css);;Lines of r g b name (*.txt)"));
    if (!file.isEmpty()) writeTo(file);
}

} // namespace glyptos
