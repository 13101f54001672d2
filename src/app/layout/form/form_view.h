// Changing the form of the piece in hand: bench and side together, the printer's sheet under it, and its
// trace.
#pragma once

#include "app/layout/form/form_bench.h"
#include "app/layout/form/form_side.h"
#include "file/dieline/printers_sheet.h"

#include <QFutureWatcher>

namespace glyptos {

class FormView : public QObject {
    Q_OBJECT
  public:
    FormView(Engine& engine, RenderService& service);
    ~FormView() override;
    void setDocument(Document* document);
    FormBench* bench() const { return bench_; }
    FormSide* side() const { return side_; }
    /// Lays a printer's sheet under the form, without asking for its name.
    void laySheet(const QString& file, size_t page = 0);
    void trace();
    /// Keeps the form for new pieces under that name.
    void keep(const QString& name);
    void share(const QString& file);
    bool isBusy() const { return reading_.isRunning() || writing_.isRunning(); }

  Q_SIGNALS:
    void formsChanged(); ///< there is one more to choose from
    void done(const QString& sentence);
    void refused(const QString& sentence);

  private:
    struct Read {
        PrintersSheet sheet;
        SourcePtr source; ///< to lie under the form; nothing when it does already
        std::string piece;
        Vec2 origin;     ///< of the board that its lines cut, on the sheet
        QString file;    ///< where it was read from, when it was just chosen
        size_t page = 0; ///< of that file
    };
    void refresh();
    void readSheetOfPiece();
    void take(const Read& read);
    void apply(const QString& name, Form form, bool settled = true);
    void add(PartKind kind);
    void askSheet();
    void write(std::function<Result<void>()> job, const QString& done);
    std::string sheetShown() const { return side_->sheets()->currentData().toString().toStdString(); }
    /// From the printer's sheet to the form, as it lies under it.
    Affine sheetToForm() const;

    Engine& engine_;
    Document* document_ = nullptr;
    FormBench* bench_;
    FormSide* side_;
    std::optional<PartRef> inHand_;
    std::shared_ptr<const Form> shown_;
    std::string pieceShown_;
    std::shared_ptr<const PrintersSheet> sheet_;
    std::string sheetSource_; ///< the source that it was read from
    QString sheetFile_;       ///< whose other pages can be had; empty: not known
    QFutureWatcher<Result<Read>> reading_;
    QFutureWatcher<Result<QString>> writing_;
};

} // namespace glyptos
