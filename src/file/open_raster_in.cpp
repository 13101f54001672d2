#include "file/open_raster.h"

#include "base/text.h"
#include "file/open_raster_blends.h"
#include "file/pictures/picture_reader.h"
#include "file/zip_archive.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <QString>
#include <QXmlStreamReader>
#include <algorithm>
#include <cmath>
#include <map>

namespace glyptos {
namespace {

constexpr std::string_view kMimeType = "image/openraster";
constexpr size_t kMostXmlBytes = size_t(16) << 20;
constexpr int kDeepest = kDeepestGroup - 2; // a group of its own goes round all of them
constexpr size_t kMostLayers = 10000;

/// Thrown inside this file only.
struct Wrong {
    Error error;
};
[[noreturn]] void give(Fault fault, const std::string& what) {
    throw Wrong{{fault, what}};
}

/// Reads stack.xml from outside in; the file's layers run front to back, as ours do.
class StackReader {
  public:
    StackReader(const ZipReader& zip, const std::string& xml, const std::atomic<bool>* cancel)
        : zip_(zip)
        , cancel_(cancel)
        , xml_(QByteArray::fromRawData(xml.data(), qsizetype(xml.size()))) {}

    OpenRaster read() {
        if (!next() || xml_.name() != QLatin1String("image"))
            give(Fault::Damaged, "stack.xml holds no image");
        out_.width = side("w");
        out_.height = side("h");
        if (long(out_.width) * out_.height > kMostPixels)
            give(Fault::TooLarge, "its canvas is over the limit");
        while (next())
            if (xml_.name() == QLatin1String("stack"))
                children(out_.layers, 0);
            else
                skip();
        if (xml_.hasError()) give(Fault::Damaged, "stack.xml is not well-formed XML");
        return std::move(out_);
    }

  private:
    /// The next element inside the present one; false at its end.
    bool next() {
        while (!xml_.atEnd()) {
            const auto token = xml_.readNext();
            if (token == QXmlStreamReader::DTD)
                give(Fault::Unsafe, "stack.xml has a DTD, which is not allowed");
            if (token == QXmlStreamReader::StartElement) return true;
            if (token == QXmlStreamReader::EndElement || token == QXmlStreamReader::EndDocument) return false;
        }
        if (xml_.hasError()) give(Fault::Damaged, "stack.xml is not well-formed XML");
        return false;
    }

    void skip() { xml_.skipCurrentElement(); }
    std::string text(const char* name) const {
        return xml_.attributes().value(QLatin1String(name)).toString().toStdString();
    }

    double number(const char* name, double missing) const {
        const auto value = xml_.attributes().value(QLatin1String(name));
        if (value.isEmpty()) return missing;
        bool fine = false;
        const double v = value.toDouble(&fine);
        if (!fine || !std::isfinite(v))
            give(Fault::Damaged, std::string("stack.xml: ") + name + " is not a number");
        return v;
    }

    int side(const char* name) const {
        const double v = number(name, 0);
        if (!(v >= 1 && v <= kMostPixelsASide) || v != std::floor(v))
            give(Fault::Damaged, "its canvas has no size that can be worked with");
        return static_cast<int>(v);
    }

    void children(Stack& stack, int depth) {
        if (depth > kDeepest) give(Fault::TooLarge, "its groups are nested too deeply");
        while (next()) {
            if (++count_ > kMostLayers) give(Fault::TooLarge, "it has too many layers");
            if (xml_.name() == QLatin1String("stack"))
                group(stack, depth);
            else if (xml_.name() == QLatin1String("layer"))
                layer(stack);
            else
                note("“" + xml_.name().toString().toStdString() +
                     "” is not a kind of layer that is known; it was left out."),
                    skip();
        }
    }

    /// What layers and stacks have in common.
    Layer common() {
        Layer layer;
        layer.id = "ora" + std::to_string(count_);
        layer.name = text("name");
        layer.on = text("visibility") != "hidden";
        layer.opacity = std::clamp(number("opacity", 1), 0.0, 1.0);
        const std::string op = text("composite-op");
        const auto known = std::find_if(kOpenRasterBlends.begin(), kOpenRasterBlends.end(),
                                        [&](const auto& b) { return b.first == op; });
        if (known != kOpenRasterBlends.end())
            layer.blend = known->second;
        else if (!op.empty())
            note("“" + layer.name + "” blends by “" + op + "”, which is not known; Normal stands in.");
        return layer;
    }

    void group(Stack& stack, int depth) {
        Layer made = common();
        GroupContent content;
        // A stack whose isolation is "auto", or not said, passes through when nothing of its own asks for
        // isolation.
        content.passing =
            text("isolation") != "isolate" && made.blend == BlendMode::Normal && made.opacity >= 1;
        if (made.name.empty()) made.name = "Group";
        children(content.layers, depth + 1);
        made.content = std::move(content);
        stack.push_back(std::make_shared<const Layer>(std::move(made)));
    }

    void layer(Stack& stack) {
        Layer made = common();
        const std::string entry = text("src");
        const double x = number("x", 0), y = number("y", 0);
        skip();
        const SourcePtr source = picture(entry);
        if (made.name.empty()) made.name = source->name;
        made.content = PictureContent{source->id, {0, 0, 1, 1}};
        made.placement.position = {x + source->width / 2.0, y + source->height / 2.0};
        stack.push_back(std::make_shared<const Layer>(std::move(made)));
    }

    SourcePtr picture(const std::string& entry) {
        if (entry.empty()) give(Fault::Damaged, "a layer names no picture");
        if (entry.front() == '/' || entry.find("..") != entry.npos || entry.find('\\') != entry.npos)
            give(Fault::Unsafe, "a layer's picture “" + entry + "” points outside the file");
        if (const auto known = byEntry_.find(entry); known != byEntry_.end()) return known->second;
        if (isCancelled(cancel_)) throw Wrong{{Fault::Cancelled, "it was stopped"}};
        auto bytes = zip_.read(entry, kMostFileBytes);
        if (!bytes) give(bytes.error().fault, bytes.error().message);
        auto imported = importBytes(std::move(*bytes), nameOf(entry));
        if (!imported)
            give(imported.error().fault, "a layer's picture cannot be used: " + imported.error().message);
        const SourcePtr& source = imported->source;
        if (std::none_of(out_.sources.begin(), out_.sources.end(),
                         [&](const SourcePtr& s) { return s->id == source->id; }))
            out_.sources.push_back(source);
        return byEntry_[entry] = source;
    }

    void note(std::string sentence) { out_.notes.push_back(std::move(sentence)); }

    const ZipReader& zip_;
    const std::atomic<bool>* cancel_;
    QXmlStreamReader xml_;
    OpenRaster out_;
    std::map<std::string, SourcePtr> byEntry_;
    size_t count_ = 0;
};

} // namespace

bool isOpenRaster(const std::filesystem::path& file) {
    const auto zip = ZipReader::open(file, "an archive");
    if (!zip) return false;
    const auto type = zip->readText("mimetype", 256);
    return type && type->starts_with(kMimeType);
}

Result<OpenRaster> readOpenRaster(const std::filesystem::path& file, const std::atomic<bool>* cancel) {
    const auto notRead = [&](const Error& error) {
        std::string message = error.message;
        if (message.ends_with('.')) message.pop_back();
        return fail(error.fault, "“" + nameOf(file) + "” was not brought in: " + message + ".");
    };
    const auto zip = ZipReader::open(file, "an OpenRaster file");
    if (!zip) return notRead(zip.error());
    const auto xml = zip->readText("stack.xml", kMostXmlBytes);
    if (!xml) return notRead(xml.error());
    try {
        return StackReader(*zip, *xml, cancel).read();
    } catch (const Wrong& w) {
        return notRead(w.error);
    }
}

Result<ReleasePtr> releaseOf(const OpenRaster& raster, const std::string& name) {
    auto form = std::make_shared<Form>();
    form->id = "open-raster";
    form->name = name;
    form->unit = Unit::Px;
    form->panels.push_back(wholePanel("front", "Front", raster.width, raster.height));
    auto release = withPiece(std::make_shared<const Release>(), form);
    if (!release) return release;
    ReleasePtr all = *release;
    for (const SourcePtr& s : raster.sources) all = withSource(all, s);
    const PanelRef front{all->pieces[0]->id, "front"};
    for (auto it = raster.layers.rbegin(); it != raster.layers.rend(); ++it)
        all = withLayer(all, front, **it);
    return all;
}

Layer asGroup(const OpenRaster& raster, const std::string& name, const Rect& area) {
    Layer group;
    group.name = name;
    group.content = GroupContent{raster.layers};
    const double k = std::max(area.w / raster.width, area.h / raster.height);
    const Vec2 corner{area.x + (area.w - raster.width * k) / 2, area.y + (area.h - raster.height * k) / 2};
    return moved(scaled(std::move(group), {0, 0}, k), corner);
}

} // namespace glyptos
