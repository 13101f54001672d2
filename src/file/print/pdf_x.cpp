#include "file/print/pdf_x.h"

#include "file/disk/xml_text.h"
#include "file/print/page_content.h"

#include <array>
#include <ctime>
#include <xxhash.h>

namespace glyptos {
namespace {

constexpr const char* kProducer = "Glyptos";
constexpr const char* kVersion = "PDF/X-4";

std::string timeAs(const char* format, int64_t moment) {
    const std::time_t seconds = moment;
    std::tm parts{};
    gmtime_r(&seconds, &parts);
    std::array<char, 64> text{};
    return {text.data(), std::strftime(text.data(), text.size(), format, &parts)};
}

/// A UUID (RFC 9562, version 8) of the text.
std::string uuidOf(const std::string& text) {
    XXH128_hash_t h = XXH3_128bits(text.data(), text.size());
    constexpr uint64_t kVersionBits = uint64_t(0xf) << 12, kVariantBits = uint64_t(3) << 62;
    h.high64 = (h.high64 & ~kVersionBits) | uint64_t(8) << 12;
    h.low64 = (h.low64 & ~kVariantBits) | uint64_t(2) << 62;
    std::array<char, 40> out{};
    const int n =
        std::snprintf(out.data(), out.size(), "%08x-%04x-%04x-%04x-%012llx", unsigned(h.high64 >> 32),
                      unsigned(h.high64 >> 16 & 0xffff), unsigned(h.high64 & 0xffff), unsigned(h.low64 >> 48),
                      static_cast<unsigned long long>(h.low64 & 0xffffffffffff));
    return {out.data(), size_t(n)};
}

std::string xmp(const std::string& title, int64_t moment, const std::string& seed) {
    const std::string time = timeAs("%Y-%m-%dT%H:%M:%SZ", moment);
    const std::string document = uuidOf("document " + seed), version = uuidOf("version " + seed + time);
    return "<?xpacket begin=\"\xef\xbb\xbf\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>\n"
           "<x:xmpmeta xmlns:x=\"adobe:ns:meta/\">\n"
           "<rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\">\n"
           "<rdf:Description rdf:about=\"\"\n"
           " xmlns:dc=\"http://purl.org/dc/elements/1.1/\"\n"
           " xmlns:xmp=\"http://ns.adobe.com/xap/1.0/\"\n"
           " xmlns:xmpMM=\"http://ns.adobe.com/xap/1.0/mm/\"\n"
           " xmlns:pdf=\"http://ns.adobe.com/pdf/1.3/\"\n"
           " xmlns:pdfxid=\"http://www.npes.org/pdfx/ns/id/\">\n"
           "<dc:format>application/pdf</dc:format>\n"
           "<dc:title><rdf:Alt><rdf:li xml:lang=\"x-default\">" +
           xmlText(title) +
           "</rdf:li></rdf:Alt></dc:title>\n"
           "<xmp:CreatorTool>" +
           kProducer + "</xmp:CreatorTool>\n<xmp:CreateDate>" + time + "</xmp:CreateDate>\n<xmp:ModifyDate>" +
           time + "</xmp:ModifyDate>\n<xmp:MetadataDate>" + time +
           "</xmp:MetadataDate>\n"
           "<xmpMM:DocumentID>uuid:" +
           document + "</xmpMM:DocumentID>\n<xmpMM:InstanceID>uuid:" + version +
           "</xmpMM:InstanceID>\n<xmpMM:VersionID>1</xmpMM:VersionID>\n"
           "<xmpMM:RenditionClass>default</xmpMM:RenditionClass>\n"
           "<pdf:Producer>" +
           kProducer +
           "</pdf:Producer>\n<pdf:Trapped>False</pdf:Trapped>\n"
           "<pdfxid:GTS_PDFXVersion>" +
           kVersion +
           "</pdfxid:GTS_PDFXVersion>\n"
           "</rdf:Description>\n</rdf:RDF>\n</x:xmpmeta>\n<?xpacket end=\"r\"?>\n";
}

} // namespace

void addOutputIntent(QPDF& pdf, std::span<const uint8_t> profile, const std::string& description,
                     const std::string& condition) {
    QPDFObjectHandle stream = QPDFObjectHandle::newStream(&pdf, std::string(profile.begin(), profile.end()));
    stream.getDict().replaceKey("/N", QPDFObjectHandle::newInteger(4));
    QPDFObjectHandle intent = QPDFObjectHandle::parse("<< /Type /OutputIntent /S /GTS_PDFX >>");
    intent.replaceKey("/OutputConditionIdentifier",
                      QPDFObjectHandle::newString(condition.empty() ? "Custom" : condition));
    if (!condition.empty())
        intent.replaceKey("/RegistryName", QPDFObjectHandle::newString("http://www.color.org"));
    intent.replaceKey("/Info", QPDFObjectHandle::newUnicodeString(description));
    intent.replaceKey("/DestOutputProfile", pdf.makeIndirectObject(stream));
    QPDFObjectHandle list = QPDFObjectHandle::newArray();
    list.appendItem(intent);
    pdf.getRoot().replaceKey("/OutputIntents", list);
}

void addIdentification(QPDF& pdf, const std::string& title, int64_t moment, const std::string& seed) {
    const std::string time = timeAs("D:%Y%m%d%H%M%SZ", moment);
    QPDFObjectHandle info = QPDFObjectHandle::parse("<< /Trapped /False >>");
    info.replaceKey("/Title", QPDFObjectHandle::newUnicodeString(title));
    info.replaceKey("/Producer", QPDFObjectHandle::newString(kProducer));
    info.replaceKey("/Creator", QPDFObjectHandle::newString(kProducer));
    info.replaceKey("/CreationDate", QPDFObjectHandle::newString(time));
    info.replaceKey("/ModDate", QPDFObjectHandle::newString(time));
    info.replaceKey("/GTS_PDFXVersion", QPDFObjectHandle::newString(kVersion));
    pdf.getTrailer().replaceKey("/Info", pdf.makeIndirectObject(info));
    QPDFObjectHandle metadata = QPDFObjectHandle::newStream(&pdf, xmp(title, moment, seed));
    metadata.getDict().replaceKey("/Type", QPDFObjectHandle::newName("/Metadata"));
    metadata.getDict().replaceKey("/Subtype", QPDFObjectHandle::newName("/XML"));
    pdf.getRoot().replaceKey("/Metadata", pdf.makeIndirectObject(metadata));
}

QPDFObjectHandle pdfBox(const Rect& r) {
    return QPDFObjectHandle::parse("[" + pdfNumber(r.x) + " " + pdfNumber(r.y) + " " + pdfNumber(r.right()) +
                                   " " + pdfNumber(r.bottom()) + "]");
}

} // namespace glyptos
