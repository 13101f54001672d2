#include "file/print/pdf_parts.h"

#include "file/disk/deflate.h"

#include <qpdf/Buffer.hh>
#include <qpdf/QPDFWriter.hh>

namespace glyptos {
namespace {

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

} // namespace

QPDFObjectHandle pdfPicture(QPDF& pdf, std::span<const uint8_t> samples, const IntRect& area,
                            const QPDFObjectHandle& space, const std::atomic<bool>* cancel) {
    QPDFObjectHandle image = QPDFObjectHandle::newStream(&pdf);
    image.replaceStreamData(std::make_shared<PackedProvider>(deflated(samples, cancel)),
                            QPDFObjectHandle::newName("/FlateDecode"), QPDFObjectHandle::newNull());
    QPDFObjectHandle dict = image.getDict();
    dict.replaceKey("/Type", QPDFObjectHandle::newName("/XObject"));
    dict.replaceKey("/Subtype", QPDFObjectHandle::newName("/Image"));
    dict.replaceKey("/Width", QPDFObjectHandle::newInteger(area.w));
    dict.replaceKey("/Height", QPDFObjectHandle::newInteger(area.h));
    dict.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(8));
    dict.replaceKey("/ColorSpace", space);
    return pdf.makeIndirectObject(image);
}

QPDFObjectHandle pdfSeparation(const std::string& name, const Cmyk& look) {
    QPDFObjectHandle tint = QPDFObjectHandle::parse("<< /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] /N 1 >>");
    QPDFObjectHandle full = QPDFObjectHandle::newArray();
    for (const double share : {look.c, look.m, look.y, look.k})
        full.appendItem(QPDFObjectHandle::newReal(share, 4));
    tint.replaceKey("/C1", full);
    QPDFObjectHandle out = QPDFObjectHandle::newArray();
    out.appendItem(QPDFObjectHandle::newName("/Separation"));
    out.appendItem(QPDFObjectHandle::newName("/" + name));
    out.appendItem(QPDFObjectHandle::newName("/DeviceCMYK"));
    out.appendItem(tint);
    return out;
}

std::vector<uint8_t> pdfBytes(QPDF& pdf, const char* version) {
    QPDFWriter writer(pdf);
    writer.setOutputMemory();
    writer.setMinimumPDFVersion(version);
    writer.setDeterministicID(true);
    writer.setDecodeLevel(qpdf_dl_none);
    writer.setCompressStreams(true);
    writer.write();
    const auto bytes = writer.getBufferSharedPointer();
    return {bytes->getBuffer(), bytes->getBuffer() + bytes->getSize()};
}

} // namespace glyptos
