#include "file/print/pdf_parts.h"

#include "file/disk/atomic_file.h"
#include "file/disk/deflate.h"

#include <qpdf/Pipeline.hh>
#include <qpdf/QPDFWriter.hh>
#include <vector>

namespace glyptos {
namespace {

/// Feeds bytes to the writer without a second copy in memory.
class PackedProvider : public QPDFObjectHandle::StreamDataProvider {
  public:
    explicit PackedProvider(std::vector<Buffer<uint8_t>> parts)
        : parts_(std::move(parts)) {}
    void provideStreamData(QPDFObjGen const&, Pipeline* pipeline) override {
        for (const Buffer<uint8_t>& part : parts_) pipeline->write(part.data(), part.size());
        pipeline->finish();
    }

  private:
    std::vector<Buffer<uint8_t>> parts_;
};

/// Writes to an open file. The writer does not notice a disk that is full; this keeps what was wrong.
class FilePipeline : public Pipeline {
  public:
    explicit FilePipeline(int file)
        : Pipeline("file", nullptr)
        , file_(file) {}
    void write(unsigned char const* data, size_t size) override {
        bytes_ += size;
        if (held_.size() + size > kHold) flush();
        if (size > kHold)
            put({data, size});
        else
            held_.insert(held_.end(), data, data + size);
    }
    void finish() override { flush(); }
    const Result<void>& state() const { return state_; }
    size_t bytes() const { return bytes_; }

  private:
    static constexpr size_t kHold = size_t(1) << 18;
    void flush() {
        put(held_);
        held_.clear();
    }
    void put(std::span<const uint8_t> data) {
        if (state_ && !data.empty()) state_ = writeAll(file_, data);
    }

    int file_;
    size_t bytes_ = 0;
    std::vector<uint8_t> held_;
    Result<void> state_;
};

} // namespace

QPDFObjectHandle pdfPicture(QPDF& pdf, std::span<const uint8_t> samples, const IntRect& area,
                            const QPDFObjectHandle& space, const std::atomic<bool>* cancel) {
    QPDFObjectHandle image = QPDFObjectHandle::newStream(&pdf);
    image.replaceStreamData(std::make_shared<PackedProvider>(deflatedParts(samples, cancel)),
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

Result<size_t> writePdf(QPDF& pdf, const char* version, const std::filesystem::path& file,
                        const std::atomic<bool>* cancel) {
    size_t bytes = 0;
    const auto written = replaceFile(file, [&](int descriptor) -> Result<void> {
        FilePipeline out(descriptor);
        QPDFWriter writer(pdf);
        writer.setOutputPipeline(&out);
        writer.setMinimumPDFVersion(version);
        writer.setDeterministicID(true);
        writer.setDecodeLevel(qpdf_dl_none);
        writer.setCompressStreams(true);
        writer.write();
        out.finish();
        bytes = out.bytes();
        return isCancelled(cancel) ? cancelled() : out.state();
    });
    if (!written) return tl::unexpected(written.error());
    return bytes;
}

} // namespace glyptos
