// Before Qt, whose keywords clash with GLib's names.
#include <librsvg/rsvg.h>

#include "file/pictures/codecs.h"

#include <QXmlStreamReader>
#include <cmath>
#include <cstring>

namespace glyptos::codecs {
namespace {

struct Unref {
    void operator()(RsvgHandle* h) const { g_object_unref(h); }
};
using HandlePtr = std::unique_ptr<RsvgHandle, Unref>;

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
            if (attribute.name() == QLatin1String("href") && !link && !staysInside(attribute.value()))
                return outside(attribute.value().toString());
            if (const QString url = leavingUrl(attribute.value().toString()); !url.isEmpty())
                return outside(url);
        }
    }
    if (xml.hasError()) return cutShort();
    return {};
}

Result<HandlePtr> open(Data bytes) {
    if (auto safe = checkReferences(bytes); !safe) return tl::unexpected(safe.error());
    GError* error = nullptr;
    HandlePtr handle(rsvg_handle_new_from_data(bytes.data(), bytes.size(), &error));
    if (error) g_error_free(error);
    if (!handle) return cutShort();
    rsvg_handle_set_dpi(handle.get(), 96);
    return handle;
}

Result<std::pair<double, double>> sizeOf(RsvgHandle* handle) {
    gdouble width = 0, height = 0;
    if (!rsvg_handle_get_intrinsic_size_in_pixels(handle, &width, &height)) {
        gboolean hasBox = FALSE;
        RsvgRectangle box{};
        rsvg_handle_get_intrinsic_dimensions(handle, nullptr, nullptr, nullptr, nullptr, &hasBox, &box);
        width = hasBox ? box.width : 512;
        height = hasBox ? box.height : 512;
    }
    width = std::ceil(width), height = std::ceil(height);
    if (auto size = checkSize(width, height); !size) return tl::unexpected(size.error());
    return std::pair{width, height};
}

} // namespace

Result<PictureInfo> inspectSvg(Data bytes) {
    auto handle = open(bytes);
    if (!handle) return tl::unexpected(handle.error());
    auto size = sizeOf(handle->get());
    if (!size) return tl::unexpected(size.error());
    return PictureInfo{"svg", static_cast<int>(size->first), static_cast<int>(size->second)};
}

Result<RawPicture> decodeSvg(Data bytes, double scale) {
    auto handle = open(bytes);
    if (!handle) return tl::unexpected(handle.error());
    auto size = sizeOf(handle->get());
    if (!size) return tl::unexpected(size.error());
    RawPicture out;
    out.width = std::max(1, static_cast<int>(std::lround(size->first * scale)));
    out.height = std::max(1, static_cast<int>(std::lround(size->second * scale)));
    out.alpha = out.premultiplied = true;
    out.allocate();
    std::memset(out.samples.data(), 0, out.samples.size());
    cairo_surface_t* surface = cairo_image_surface_create_for_data(
        out.samples.data(), CAIRO_FORMAT_ARGB32, out.width, out.height, static_cast<int>(out.rowBytes()));
    cairo_t* cairo = cairo_create(surface);
    const RsvgRectangle viewport{0, 0, double(out.width), double(out.height)};
    const bool drawn = rsvg_handle_render_document(handle->get(), cairo, &viewport, nullptr);
    cairo_destroy(cairo);
    cairo_surface_flush(surface);
    cairo_surface_destroy(surface);
    if (!drawn) return fail(Fault::Damaged, "cannot be drawn");
    // Cairo's ARGB words are blue, green, red, alpha in memory.
    for (size_t i = 0; i < out.samples.size(); i += 4) std::swap(out.samples[i], out.samples[i + 2]);
    return out;
}

} // namespace glyptos::codecs
