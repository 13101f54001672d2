// Drawings: what they refer to is looked at here, and another program draws them.
#include "file/pictures/drawing_program.h"

#include <QXmlStreamReader>
#include <cmath>

namespace glyptos::codecs {
namespace {

bool staysInside(QStringView reference) {
    reference = reference.trimmed();
    return reference.isEmpty() || reference.startsWith(u'#') ||
           reference.startsWith(QLatin1String("data:"), Qt::CaseInsensitive);
}

/// The first url(…) or @import in CSS or an attribute that leaves the file; empty when all stay inside.
QString leavingUrl(const QString& text) {
    if (text.contains(QLatin1String("@import"), Qt::CaseInsensitive)) return QStringLiteral("@import");
    for (qsizetype at = 0; (at = text.indexOf(QLatin1String("url("), at, Qt::CaseInsensitive)) >= 0;) {
        at += 4;
        QString inner = text.mid(at, text.indexOf(u')', at) - at).trimmed();
        if (inner.startsWith(u'"') || inner.startsWith(u'\'')) inner = inner.mid(1, inner.size() - 2);
        if (!staysInside(inner)) return inner;
    }
    return {};
}

/// A picture that stands in the drawing itself: its limit of pixels holds there, too.
Result<void> checkEmbedded(QStringView reference) {
    const qsizetype comma = reference.indexOf(u',');
    const bool isPacked = reference.first(std::max<qsizetype>(comma, 0)).contains(QLatin1String(";base64"));
    if (comma < 0 || !isPacked) return {};
    const QByteArray bytes = QByteArray::fromBase64(reference.sliced(comma + 1).toLatin1());
    const auto info =
        inspectPicture({reinterpret_cast<const uint8_t*>(bytes.data()), size_t(bytes.size())}, "");
    if (!info && info.error().fault != Fault::TooLarge) return {}; // left out, as any that cannot be read
    if (info && int64_t(info->width) * info->height <= drawing::kMostEmbeddedPixels) return {};
    return fail(Fault::TooLarge, "holds a picture of more than " +
                                     std::to_string(drawing::kMostEmbeddedPixels / 1'000'000) +
                                     " megapixels; bring that picture in by itself");
}

Result<void> checkReferences(Data bytes) {
    QXmlStreamReader xml(QByteArray::fromRawData(reinterpret_cast<const char*>(bytes.data()),
                                                 static_cast<qsizetype>(bytes.size())));
    const auto outside = [](const QString& what) {
        return fail(Fault::Unsafe, "refers to something outside itself (" + what.left(80).toStdString() +
                                       "); save it again with everything embedded");
    };
    bool inStyle = false;
    while (!xml.atEnd()) {
        const auto token = xml.readNext();
        if (token == QXmlStreamReader::DTD && !xml.entityDeclarations().isEmpty())
            return fail(Fault::Unsafe,
                        "declares XML entities, which are not allowed; save it again as plain SVG");
        if (token == QXmlStreamReader::ProcessingInstruction &&
            xml.processingInstructionTarget() == QLatin1String("xml-stylesheet"))
            return outside(QStringLiteral("a style sheet"));
        if (token == QXmlStreamReader::Characters && inStyle)
            if (const QString url = leavingUrl(xml.text().toString()); !url.isEmpty()) return outside(url);
        if (token == QXmlStreamReader::StartElement || token == QXmlStreamReader::EndElement)
            inStyle = token == QXmlStreamReader::StartElement && xml.name() == QLatin1String("style");
        if (token != QXmlStreamReader::StartElement) continue;
        for (const QXmlStreamAttribute& attribute : xml.attributes()) {
            const bool link = xml.name() == QLatin1String("a");
            const bool isReference = attribute.name() == QLatin1String("href") && !link;
            if (isReference && !staysInside(attribute.value())) return outside(attribute.value().toString());
            if (isReference && xml.name() == QLatin1String("image"))
                if (auto fits = checkEmbedded(attribute.value().trimmed()); !fits) return fits;
            if (const QString url = leavingUrl(attribute.value().toString()); !url.isEmpty())
                return outside(url);
        }
    }
    if (xml.hasError()) return cutShort();
    return {};
}

Result<PictureInfo> measured(Data bytes, const char* format) {
    const auto asked = askDrawingProgram(bytes, drawing::kSizeOnly);
    if (!asked) return tl::unexpected(asked.error());
    const double width = asked->reply.drawingWidth, height = asked->reply.drawingHeight;
    if (auto size = checkSize(width, height); !size) return tl::unexpected(size.error());
    return PictureInfo{format, static_cast<int>(width), static_cast<int>(height),
                       std::max(1, int(asked->reply.pages))};
}

Result<RawPicture> drawnAt(Data bytes, double scale) {
    auto asked = askDrawingProgram(bytes, QByteArray::number(scale, 'g', 17).toStdString());
    if (!asked) return tl::unexpected(asked.error());
    RawPicture out;
    out.width = asked->reply.width, out.height = asked->reply.height;
    out.alpha = out.premultiplied = true;
    out.samples = std::move(asked->pixels);
    return out;
}

} // namespace

Result<PictureInfo> inspectSvg(Data bytes) {
    if (auto safe = checkReferences(bytes); !safe) return tl::unexpected(safe.error());
    return measured(bytes, "svg");
}

Result<RawPicture> decodeSvg(Data bytes, double scale) {
    if (auto safe = checkReferences(bytes); !safe) return tl::unexpected(safe.error());
    return drawnAt(bytes, scale);
}

Result<PictureInfo> inspectPdf(Data bytes) {
    return measured(bytes, "pdf");
}

Result<RawPicture> decodePdf(Data bytes, double scale) {
    return drawnAt(bytes, scale);
}

} // namespace glyptos::codecs
