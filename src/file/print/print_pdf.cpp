#include "file/print/print_pdf.h"

#include "file/disk/atomic_file.h"
#include "file/disk/deflate.h"
#include "file/print/inked_art.h"
#include "file/print/page_content.h"
#include "file/print/pdf_x.h"

#include <ctime>
#include <qpdf/Buffer.hh>
#include <qpdf/QPDFWriter.hh>

namespace glyptos {
namespace {

/// The registry's name of the profile that is shipped.
constexpr const char* kShippedCondition = "FOGRA39";

/// Feeds bytes to the writer without a second copy in memory.
class PackedProvider : public QPDFObjectHandle::StreamDataProvider {
  public:
    explicit PackedProvider(Buffer<uint8_t> bytes)
        : bytes_(std::move(bytes)) {}
    void provideStreamData(QPDFObjGen const&, Pipeline* pipeline) override {
        pipeline->write(bytes_.data(), bytes_.size());
        pipeline->finish();
    }

  private:
    Buffer<uint8_t> bytes_;
};

QPDFObjectHandle imageObject(QPDF& pdf, const InkedArt& art, const std::atomic<bool>* cancel) {
    QPDFObjectHandle image = QPDFObjectHandle::newStream(&pdf);
    image.replaceStreamData(
        std::make_shared<PackedProvider>(deflated({art.cmyk.data(), art.cmyk.size()}, cancel)),
        QPDFObjectHandle::newName("/FlateDecode"), QPDFObjectHandle::newNull());
    QPDFObjectHandle dict = image.getDict();
    dict.replaceKey("/Type", QPDFObjectHandle::newName("/XObject"));
    dict.replaceKey("/Subtype", QPDFObjectHandle::newName("/Image"));
    dict.replaceKey("/Width", QPDFObjectHandle::newInteger(art.area.w));
    dict.replaceKey("/Height", QPDFObjectHandle::newInteger(art.area.h));
    dict.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(8));
    dict.replaceKey("/ColorSpace", QPDFObjectHandle::newName("/DeviceCMYK"));
    return image;
}

void addPage(QPDF& pdf, const PrintPage& page, QPDFObjectHandle image, const std::string& content) {
    QPDFObjectHandle object =
        QPDFObjectHandle::parse("<< /Type /Page /Resources << /XObject << >> /ColorSpace << >> >> >>");
    object.replaceKey("/MediaBox", pdfBox(page.media()));
    object.replaceKey("/BleedBox", pdfBox(page.onPage(page.sheet().withBleed)));
    object.replaceKey("/TrimBox", pdfBox(page.onPage(page.sheet().trim)));
    QPDFObjectHandle resources = object.getKey("/Resources");
    resources.getKey("/XObject").replaceKey("/Art", pdf.makeIndirectObject(image));
    // All inks at once, for marks that must stand on every plate (ISO 32000-1, 8.6.6.4).
    resources.getKey("/ColorSpace")
        .replaceKey("/Registration",
                    QPDFObjectHandle::parse("[/Separation /All /DeviceCMYK << /FunctionType 2 /Domain [0 1] "
                                            "/C0 [0 0 0 0] /C1 [1 1 1 1] /N 1 >>]"));
    object.replaceKey("/Contents", pdf.makeIndirectObject(QPDFObjectHandle::newStream(&pdf, content)));
    pdf.addPage(pdf.makeIndirectObject(object), false);
}

/// A print file while it is made.
class PrintFile {
  public:
    PrintFile(Renderer& renderer, const ReleasePtr& release, const Piece& piece, const PrintOptions& options,
              const ToPress& press)
        : renderer_(renderer)
        , release_(release)
        , piece_(piece)
        , options_(options)
        , press_(press)
        , resolution_{options.ppi > 0 ? options.ppi : piece.flat->ppi} {
        report_.bleedMm = piece.flat->bleed, report_.ppi = resolution_.value;
        pdf_.emptyPDF();
    }

    void add(size_t sheet) {
        Scene scene = flatScene(release_, piece_.id, {pxPerMm(resolution_), true, {}, {}, true, sheet});
        const std::vector<OutlinedText> words = takeFrontWords(scene, renderer_.paragraphs());
        const InkedArt art = inkedArt(renderer_, scene, press_, options_.cancel);
        if (isCancelled(options_.cancel)) return;
        const PrintPage page(*piece_.flat, sheet, resolution_);
        const Sheet& s = page.sheet();
        report_.pages.push_back({s.name, s.trim.w, s.trim.h, art.mostInk, int(words.size())});
        const std::string content =
            artOperators(page, art.area) + wordOperators(page, words, press_) + page.marks();
        addPage(pdf_, page, imageObject(pdf_, art, options_.cancel), content);
    }

    /// The finished file.
    std::shared_ptr<::Buffer> bytes() {
        const std::string title =
            release_->brief.artist + " – " + release_->brief.title + " – " + piece_.name;
        addOutputIntent(pdf_, options_.pressProfile, press_.description(),
                        options_.pressProfile.data() == pressProfileBytes().data() ? kShippedCondition : "");
        addIdentification(pdf_, title, options_.moment ? options_.moment : std::time(nullptr),
                          title + piece_.id);
        QPDFWriter writer(pdf_);
        // Made in memory, since the writer does not notice a disk that is full.
        writer.setOutputMemory();
        writer.setMinimumPDFVersion("1.6");
        writer.setDeterministicID(true);
        writer.setDecodeLevel(qpdf_dl_none);
        writer.setCompressStreams(true);
        writer.write();
        return writer.getBufferSharedPointer();
    }

    PrintReport& report() { return report_; }

  private:
    Renderer& renderer_;
    const ReleasePtr& release_;
    const Piece& piece_;
    const PrintOptions& options_;
    const ToPress& press_;
    Ppi resolution_;
    QPDF pdf_;
    PrintReport report_;
};

} // namespace

Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                  const PrintOptions& options, const std::filesystem::path& file) {
    const auto order = printOrder(*release, id, options);
    if (!order) return tl::unexpected(order.error());
    const PiecePtr& piece = order->piece;
    auto press = ToPress::create(options.pressProfile, options.inkLimit);
    if (!press) return tl::unexpected(press.error());
    try {
        auto notes = readBackCodes(renderer, release, *order, options.cancel);
        if (!notes) return tl::unexpected(notes.error());
        PrintFile made(renderer, release, *piece, options, **press);
        made.report().notes = std::move(*notes);
        for (const size_t sheet : order->sheets) {
            made.add(sheet);
            if (isCancelled(options.cancel)) return cancelled();
        }
        const auto bytes = made.bytes();
        if (isCancelled(options.cancel)) return cancelled();
        if (auto written = writeFile(file, {bytes->getBuffer(), bytes->getSize()}); !written)
            return tl::unexpected(written.error());
        made.report().bytes = bytes->getSize();
        return std::move(made.report());
    } catch (const std::exception& e) {
        return fail(Fault::Unwritable, "The print file of " + piece->name + " could not be made (" +
                                           e.what() + "); nothing was written.");
    }
}

} // namespace glyptos
