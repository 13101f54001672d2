#include "app/layout/form/form_view.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "base/units.h"
#include "file/dieline/own_forms.h"
#include "file/disk/atomic_file.h"
#include "file/pictures/picture_reader.h"
#include "release/edits/edits.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <utility>

namespace glyptos {
namespace {

constexpr double kSheetPpi = 96; // at which drawings have their own size

} // namespace

FormView::FormView(Engine& engine, RenderService& service)
    : engine_(engine)
    , bench_(new FormBench(engine, service))
    , side_(new FormSide) {
    connect(bench_, &FormBench::taken, this, [this](const std::optional<PartRef>& part) {
        inHand_ = part;
        refresh();
    });
    connect(bench_, &FormBench::boxDragged, this,
            [this](const PartRef& part, const Rect& from, const Rect& to, bool settled) {
                apply(tr("Measures of %1").arg(q(nameOf(*shown_, part))),
                      withBox(*document_->piece()->form, part, from, to), settled);
            });
    connect(bench_, &FormBench::lineDragged, this, [this](size_t fold, Vec2 from, Vec2 to, bool settled) {
        apply(tr("Place of a fold"), withLine(*document_->piece()->form, fold, from, to), settled);
    });
    connect(side_, &FormSide::changed, this,
            [this](const QString& name, const Form& form) { apply(name, form); });
    connect(side_, &FormSide::chosen, this, [this](const std::optional<PartRef>& part) {
        inHand_ = part;
        refresh();
    });
    connect(side_, &FormSide::partAsked, this, &FormView::add);
    connect(side_, &FormSide::measureToggled, bench_, &FormBench::setMeasuring);
    connect(side_, &FormSide::sheetFileAsked, this, &FormView::askSheet);
    connect(side_, &FormSide::pageAsked, this, [this](int page) {
        if (!sheetFile_.isEmpty()) laySheet(sheetFile_, size_t(page - 1));
    });
    connect(side_, &FormSide::traceAsked, this, &FormView::trace);
    connect(side_, &FormSide::keepAsked, this, [this] {
        bool good = false;
        const QString name = QInputDialog::getText(side_, tr("Keep as own form"), tr("Its name"),
                                                   QLineEdit::Normal, q(shown_->name), &good);
        if (good && !name.trimmed().isEmpty()) keep(name.trimmed());
    });
    connect(side_, &FormSide::shareAsked, this, [this] {
        const QString file = QFileDialog::getSaveFileName(side_, tr("Share the form"),
                                                          q(shown_->id) + ".json", QStringLiteral("*.json"));
        if (!file.isEmpty()) share(file);
    });
    connect(side_->sheets(), &QComboBox::activated, this, [this] {
        inHand_.reset();
        refresh();
    });
    connect(&writing_, &QFutureWatcherBase::finished, this, [this] {
        const auto written = writing_.future().result();
        if (!written) return void(Q_EMIT refused(q(written.error().message)));
        Q_EMIT formsChanged();
        Q_EMIT done(*written);
    });
    connect(&reading_, &QFutureWatcherBase::finished, this, [this] {
        const auto read = reading_.future().result();
        if (read)
            take(*read);
        else
            Q_EMIT refused(q(read.error().message));
    });
}

FormView::~FormView() {
    reading_.waitForFinished();
    writing_.waitForFinished();
}

void FormView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    bench_->setDocument(document);
    connect(document_, &Document::changed, this, &FormView::refresh);
    connect(document_, &Document::selectionChanged, this, &FormView::refresh);
    refresh();
}

void FormView::refresh() {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    if (!piece) return;
    if (std::exchange(pieceShown_, piece->id) != piece->id) inHand_.reset();
    shown_ = piece->form;
    auto parts = partsOf(*shown_, piece->flat->values, sheetShown());
    if (!parts) return;
    const auto there = [&](const PartRef& ref) {
        return std::any_of(parts->begin(), parts->end(), [&](const FormPart& p) { return p.ref == ref; });
    };
    if (inHand_ && !there(*inHand_)) inHand_.reset();
    side_->show(*shown_, *parts, inHand_);
    bench_->setParts(std::move(*parts));
    bench_->setInHand(inHand_);
    readSheetOfPiece();
}

/// A release that is opened has the sheet, but not what was read of its lines.
void FormView::readSheetOfPiece() {
    const PiecePtr piece = document_->piece();
    const auto reference = referenceOf(*document_->release(), {piece->id, {}});
    const SourcePtr source = reference ? document_->release()->source(reference->source) : nullptr;
    const std::string id = source ? source->id : std::string();
    if (id != sheetSource_) {
        sheetSource_ = id;
        sheet_.reset();
        sheetFile_.clear();
        side_->setPages(1, 1);
        if (source && source->bytes && !reading_.isRunning())
            reading_.setFuture(inBackground([source, piece = piece->id]() -> Result<Read> {
                const auto bytes = source->bytes->read();
                if (!bytes) return tl::unexpected(bytes.error());
                auto sheet = readPrintersSheet(**bytes, source->name);
                if (!sheet) return tl::unexpected(sheet.error());
                return Read{std::move(*sheet), nullptr, piece, {}, {}};
            }));
    }
    std::vector<DielineLine> lines;
    if (sheet_ && reference) {
        const Affine map = sheetToForm();
        lines = sheet_->lines;
        for (DielineLine& line : lines)
            for (Vec2& p : line.line.points) p = map.map(p);
    }
    bench_->setLines(std::move(lines));
    if (!sheet_) return side_->setSheetNote({}, false);
    const auto count = [&](DielineRole role) {
        return std::count_if(sheet_->lines.begin(), sheet_->lines.end(),
                             [&](const DielineLine& l) { return l.role == role; });
    };
    side_->setSheetNote(tr("%1: lines to cut %2, to fold %3, of the bleed %4.")
                            .arg(q(sheet_->name))
                            .arg(count(DielineRole::Cut))
                            .arg(count(DielineRole::Fold))
                            .arg(count(DielineRole::Bleed)),
                        count(DielineRole::Cut) > 0);
}

Affine FormView::sheetToForm() const {
    const auto reference = referenceOf(*document_->shown(), {document_->panel().piece, {}});
    if (!reference || !sheet_) return {};
    const Placement& p = reference->placement;
    return Affine::translation(p.position.x - sheet_->width / 2, p.position.y - sheet_->height / 2);
}

void FormView::laySheet(const QString& file, size_t page) {
    if (reading_.isRunning() || !document_->piece()) return;
    reading_.setFuture(inBackground([file, page, piece = document_->panel().piece]() -> Result<Read> {
        const std::string name = file.toStdString();
        auto bytes = readFile(name);
        if (!bytes) return tl::unexpected(bytes.error());
        const std::string title = std::filesystem::path(name).filename().string();
        auto sheet = readPrintersSheet(*bytes, title, page);
        if (!sheet) return tl::unexpected(sheet.error());
        auto imported = importBytes(sheet->bytes, title);
        if (!imported) return tl::unexpected(imported.error());
        // Its board lies where the form's does, where it says what is cut.
        const auto traced = tracedForm(sheet->lines, "traced", sheet->name);
        const Vec2 origin = traced ? traced->origin : Vec2{};
        return Read{std::move(*sheet), imported->source, piece, origin, file, page};
    }));
}

void FormView::take(const Read& read) {
    sheet_ = std::make_shared<const PrintersSheet>(read.sheet);
    if (!read.source) return refresh();
    sheetSource_ = read.source->id;
    sheetFile_ = read.file;
    side_->setPages(int(read.page) + 1, int(read.sheet.pages));
    Reference under;
    under.source = read.source->id;
    under.placement.scaleX = under.placement.scaleY = kMmPerInch / kSheetPpi;
    under.placement.position = {read.sheet.width / 2 - read.origin.x, read.sheet.height / 2 - read.origin.y};
    ReleasePtr next = withSource(document_->release(), read.source);
    next = withReference(next, {read.piece, {}}, under);
    document_->edit(tr("Lay %1 under the form").arg(q(read.sheet.name)), next);
    Q_EMIT done(read.sheet.pages > 1 ? tr("Page %1 of the %2 pages of %3 lies under the form.")
                                           .arg(read.page + 1)
                                           .arg(read.sheet.pages)
                                           .arg(q(read.sheet.name))
                                     : tr("%1 lies under the form.").arg(q(read.sheet.name)));
}

void FormView::trace() {
    if (!sheet_) return;
    const std::string name = QFileInfo(q(sheet_->name)).completeBaseName().toStdString();
    auto traced = tracedForm(sheet_->lines, "traced", name);
    if (!traced) {
        return void(Q_EMIT refused(q(traced.error().message)));
    }
    inHand_.reset();
    apply(tr("Trace %1").arg(q(sheet_->name)), asOwn(std::move(traced->form), name));
}

/// What cannot be worked out while it is dragged keeps what was there before.
void FormView::apply(const QString& name, Form form, bool settled) {
    if (const std::string own = form.name + ", own"; !form.own) form = asOwn(std::move(form), own);
    const auto next = withForm(document_->release(), document_->panel().piece,
                               std::make_shared<const Form>(std::move(form)));
    if (!settled) {
        if (next) document_->preview(*next);
        return;
    }
    document_->preview(nullptr);
    document_->edit(name, next);
    const PanelRef panel = document_->panel();
    if (next && document_->piece() && !document_->piece()->flat->panel(panel.panel))
        document_->selectPanel({panel.piece, document_->piece()->flat->frontPanel().id});
}

/// New parts stand where they break nothing: panels beside the board, folds and holes on the largest panel.
void FormView::add(PartKind kind) {
    constexpr double kShare = 0.3; // of the panel's shorter side
    Rect board;
    const FormPart* largest = nullptr;
    for (const FormPart& p : bench_->parts()) {
        if (p.ref.kind != PartKind::Panel && p.ref.kind != PartKind::Flap) continue;
        board = board.united(p.outline.box);
        const auto area = [](const FormPart& part) { return part.outline.box.w * part.outline.box.h; };
        if (p.ref.kind == PartKind::Panel && (!largest || area(p) > area(*largest))) largest = &p;
    }
    if (!largest) return;
    const Rect on = largest->outline.box;
    const double side = kShare * std::min(on.w, on.h);
    const Rect middle{on.centre().x - side / 2, on.centre().y - side / 2, side, side};
    const Rect box = kind == PartKind::Panel  ? Rect{board.right(), on.y, on.w / 2, on.h}
                     : kind == PartKind::Flap ? Rect{board.right(), on.y, side / 2, on.h}
                     : kind == PartKind::Fold ? Rect{on.right(), on.y, 0, on.h}
                                              : middle;
    PartRef made;
    Form next = withPart(*shown_, kind, box, sheetShown(), made);
    inHand_ = made;
    apply(tr("Add to the form"), std::move(next));
    refresh();
}

void FormView::askSheet() {
    const QString file = QFileDialog::getOpenFileName(side_, tr("The printer's sheet"), {},
                                                      tr("Sheets (*.pdf *.svg);;All files (*)"));
    if (file.isEmpty()) return;
    laySheet(file);
}

void FormView::keep(const QString& name) {
    const Form own = asOwn(*shown_, name.toStdString());
    apply(tr("Keep the form as %1").arg(name), own);
    write([own] { return keepOwnForm(own); }, tr("%1 stands in “+ Piece” from now on.").arg(name));
}

void FormView::share(const QString& file) {
    write([form = *shown_, to = file.toStdString()] { return writeForm(form, to); },
          tr("Wrote %1.").arg(QFileInfo(file).fileName()));
}

/// One file at a time, off the window's thread.
void FormView::write(std::function<Result<void>()> job, const QString& done) {
    if (writing_.isRunning()) return;
    writing_.setFuture(inBackground([job = std::move(job), done]() -> Result<QString> {
        if (const auto written = job(); !written) return tl::unexpected(written.error());
        return done;
    }));
}

} // namespace glyptos
