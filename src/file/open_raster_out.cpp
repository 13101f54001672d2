#include "file/open_raster.h"

#include "file/disk/atomic_file.h"

#include "base/text.h"
#include "file/open_raster_blends.h"
#include "file/pictures/picture_writer.h"
#include "file/zip_archive.h"
#include "release/edits/treatment_edits.h"

#include <QByteArray>
#include <QString>
#include <QXmlStreamWriter>
#include <algorithm>

namespace glyptos {
namespace {

constexpr std::string_view kMimeType = "image/openraster";
constexpr int kThumbnail = 256; // px, the most that the specification allows

/// Bounds of what is not wholly transparent; at least one pixel.
IntRect inkOf(const Buffer<uint8_t>& rgba, int width, int height) {
    int l = width, t = height, r = 0, b = 0;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            if (rgba[(size_t(y) * size_t(width) + size_t(x)) * 4 + 3])
                l = std::min(l, x), r = std::max(r, x + 1), t = std::min(t, y), b = std::max(b, y + 1);
    return r > l ? IntRect{l, t, r - l, b - t} : IntRect{0, 0, 1, 1};
}

/// The pixels of `area` out of rows of `width` pixels.
Buffer<uint8_t> part(const Buffer<uint8_t>& rgba, int width, const IntRect& area) {
    Buffer<uint8_t> out(size_t(area.w) * size_t(area.h) * 4);
    for (int y = 0; y < area.h; ++y)
        std::copy_n(rgba.data() + (size_t(area.y + y) * size_t(width) + size_t(area.x)) * 4,
                    size_t(area.w) * 4, out.data() + size_t(y) * size_t(area.w) * 4);
    return out;
}

class StackWriter {
  public:
    StackWriter(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                const OpenRasterOptions& options)
        : renderer_(renderer)
        , cancel_(options.cancel) {
        const Rect area = release->piece(panel.piece)->flat->panel(panel.panel)->withBleed();
        const double k = options.pxPerUnit;
        scene_ = panelScene(release, panel, {k, true, {-area.x * k, -area.y * k}});
        canvas_ = scene_.bounds();
    }

    Result<std::vector<std::string>> write(const std::filesystem::path& file) {
        QByteArray xml;
        QXmlStreamWriter out(&xml);
        out.setAutoFormatting(true);
        out.writeStartDocument();
        out.writeStartElement(QStringLiteral("image"));
        attribute(out, "version", "0.0.5");
        attribute(out, "w", std::to_string(canvas_.w));
        attribute(out, "h", std::to_string(canvas_.h));
        out.writeStartElement(QStringLiteral("stack"));
        if (auto done = layers(out, scene_.panels.at(0).stack); !done) return tl::unexpected(done.error());
        out.writeEndDocument();
        if (scene_.release->linearLight)
            notes_.push_back("The release blends in linear light; others will blend its layers as encoded.");
        auto merged = picture(scene_, canvas_);
        if (!merged) return tl::unexpected(merged.error());
        auto small = thumbnail();
        if (!small) return tl::unexpected(small.error());
        std::vector<ZipEntry> entries{
            {"mimetype", bytesOf(kMimeType), false},
            {"stack.xml", bytesOf(std::string_view(xml.constData(), size_t(xml.size()))), true},
            {"mergedimage.png", *merged, false},
            {"Thumbnails/thumbnail.png", *small, false}};
        for (const auto& [name, bytes] : pictures_) entries.push_back({name, bytes, false});
        if (auto written = writeZip(file, entries); !written) return tl::unexpected(written.error());
        return std::move(notes_);
    }

  private:
    static void attribute(QXmlStreamWriter& out, const char* name, const std::string& value) {
        out.writeAttribute(QString::fromLatin1(name), QString::fromStdString(value));
    }

    Result<std::vector<uint8_t>> picture(const Scene& scene, const IntRect& area) {
        const Buffer<uint8_t> rgba = renderer_.renderStraightRgba8(scene, area, cancel_);
        if (isCancelled(cancel_)) return cancelled();
        return encodePng({rgba.data(), rgba.size()}, area.w, area.h, {72});
    }

    Result<std::vector<uint8_t>> thumbnail() {
        const double k = std::min(1.0, double(kThumbnail) / std::max(canvas_.w, canvas_.h));
        Scene small = scene_;
        small.panels[0].toOutput = Affine::scaling(k, k) * small.panels[0].toOutput;
        small.panels[0].clip = {0, 0, std::max(1, snapEdge(canvas_.w * k)),
                                std::max(1, snapEdge(canvas_.h * k))};
        return picture(small, small.panels[0].clip);
    }

    Result<void> layers(QXmlStreamWriter& out, const Stack& stack) {
        for (size_t i = 0; i < stack.size(); ++i) {
            const size_t base = clipBase(stack, i);
            const Layer& layer = *stack[base];
            const auto* content = layer.as<GroupContent>();
            Result<void> done;
            if (layer.as<GradeContent>()) {
                if (layer.on && isTreated(layer))
                    notes_.push_back(
                        "“" + layer.name +
                        "” is a grade, which OpenRaster does not know; it acts in the whole picture alone.");
                i = base;
                continue;
            }
            if (base == i && content && !layer.mask && !isTreated(layer))
                done = group(out, layer);
            else
                done = pixels(out, Stack(stack.begin() + long(i), stack.begin() + long(base) + 1));
            if (!done) return done;
            i = base;
        }
        return {};
    }

    void common(QXmlStreamWriter& out, const Layer& layer) {
        attribute(out, "name", layer.name);
        attribute(out, "opacity", shortNumber(layer.opacity, 6));
        attribute(out, "visibility", layer.on ? "visible" : "hidden");
        const auto known = std::find_if(kOpenRasterBlends.begin(), kOpenRasterBlends.end(),
                                        [&](const auto& b) { return b.second == layer.blend; });
        if (known == kOpenRasterBlends.end())
            notes_.push_back("“" + layer.name + "” blends by " + std::string(infoOf(layer.blend).label) +
                             ", which OpenRaster does not know; it was written as Normal.");
        attribute(out, "composite-op",
                  std::string(known == kOpenRasterBlends.end() ? kOpenRasterBlends[0].first : known->first));
    }

    Result<void> group(QXmlStreamWriter& out, const Layer& layer) {
        const auto& content = *layer.as<GroupContent>();
        out.writeStartElement(QStringLiteral("stack"));
        common(out, layer);
        attribute(out, "isolation", content.passing ? "auto" : "isolate");
        if (content.passing && layer.opacity < 1)
            notes_.push_back("“" + layer.name +
                             "” passes through at less than full opacity, which OpenRaster does not know; "
                             "others will isolate it.");
        if (auto done = layers(out, content.layers); !done) return done;
        out.writeEndElement();
        return {};
    }

    /// A layer, with what is clipped into it, by itself at full strength; strength, blend and lamp of the
    /// lowest travel as words.
    Result<void> pixels(QXmlStreamWriter& out, Stack run) {
        const Layer layer = *run.back();
        auto alone = std::make_shared<Layer>(layer);
        alone->on = true;
        alone->opacity = 1;
        alone->blend = BlendMode::Normal;
        run.back() = alone;
        if (run.size() > 1)
            notes_.push_back("“" + layer.name + "” and what is clipped into it were written as one layer.");
        else if (layer.as<GroupContent>())
            notes_.push_back("“" + layer.name + "” has a mask or treatments and was written as one layer.");
        Scene scene = scene_;
        scene.panels[0].stack = std::move(run);
        const Buffer<uint8_t> whole = renderer_.renderStraightRgba8(scene, canvas_, cancel_);
        if (isCancelled(cancel_)) return cancelled();
        const IntRect ink = inkOf(whole, canvas_.w, canvas_.h);
        const Buffer<uint8_t> cut = part(whole, canvas_.w, ink);
        auto png = encodePng({cut.data(), cut.size()}, ink.w, ink.h, {72});
        if (!png) return tl::unexpected(png.error());
        const std::string entry = "data/layer" + std::to_string(pictures_.size() + 1) + ".png";
        out.writeStartElement(QStringLiteral("layer"));
        common(out, layer);
        attribute(out, "src", entry);
        attribute(out, "x", std::to_string(ink.x));
        attribute(out, "y", std::to_string(ink.y));
        out.writeEndElement();
        pictures_.emplace_back(entry, std::move(*png));
        return {};
    }

    Renderer& renderer_;
    const std::atomic<bool>* cancel_;
    Scene scene_;
    IntRect canvas_;
    std::vector<std::pair<std::string, std::vector<uint8_t>>> pictures_;
    std::vector<std::string> notes_;
};

} // namespace

Result<std::vector<std::string>> writeOpenRaster(Renderer& renderer, const ReleasePtr& release,
                                                 const PanelRef& ref, const OpenRasterOptions& options,
                                                 const std::filesystem::path& file) {
    const PiecePtr piece = release->piece(ref.piece);
    if (!piece || !piece->flat->panel(ref.panel))
        return fail(Fault::Usage, "There is no such panel in this release; nothing was written.");
    return StackWriter(renderer, release, ref, options).write(file);
}

} // namespace glyptos
