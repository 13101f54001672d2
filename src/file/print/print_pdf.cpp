#include "file/print/print_pdf.h"

#include "color/profile.h"

#include "base/text.h"
#include "file/disk/atomic_file.h"
#include "file/print/print_marks.h"
#include "release/edits/treatment_edits.h"
#include "release/fields.h"
#include "render/inked_words.h"

#include <algorithm>
#include <cmath>
#include <qpdf/Buffer.hh>
#include <qpdf/Pl_Buffer.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFPageObjectHelper.hh>
#include <qpdf/QPDFWriter.hh>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

std::string number(double v) {
    return shortNumber(v, 4);
}

/// A text layer drawn as outlines over the art.
struct OutlinedText {
    std::shared_ptr<const Path> outline;
    Affine toOutput;
    Rgba colour;
    IntRect clip;
};

/// Whether no letter lets through what is behind it.
bool areSolid(const TextContent& text) {
    const auto isSolid = [](const Ink& ink) { return ink.a >= 1; };
    const auto fades = [](const LetterRule& rule) {
        return rule.kind == LetterRule::Kind::Falling && rule.fade > 0;
    };
    const TextSpec& spec = text.spec;
    return std::all_of(text.colours.begin(), text.colours.end(), isSolid) &&
           std::none_of(spec.rules.begin(), spec.rules.end(), fades) &&
           std::all_of(spec.poses.begin(), spec.poses.end(),
                       [](const LetterPose& p) { return p.opacity >= 1; });
}

bool canBeOutlined(const Layer& layer) {
    const auto* text = layer.as<TextContent>();
    return text && !layer.mask && !layer.clipped && layer.blend == BlendMode::Normal && layer.opacity >= 1 &&
           text->colour.a >= 1 && areSolid(*text) && !isTreated(layer);
}

/// Takes the words that lie in front of all art out of the scene, back to front.
std::vector<OutlinedText> takeFrontWords(Scene& scene, ParagraphCache& paragraphs) {
    std::vector<OutlinedText> words;
    for (PanelView& view : scene.panels) {
        const auto firstArt = std::find_if(view.stack.begin(), view.stack.end(),
                                           [](const LayerPtr& l) { return l->on && !canBeOutlined(*l); });
        for (auto it = firstArt; it != view.stack.begin();) {
            const Layer& layer = **--it;
            if (!layer.on) continue;
            const auto* text = layer.as<TextContent>();
            const auto paragraph = paragraphs.get(resolvedText(*text, *scene.release));
            for (const InkedOutline& ink : inkedWords(*text, paragraph)) {
                OutlinedText word{ink.outline, view.toOutput * textToPanel(layer.placement), ink.colour,
                                  view.clip};
                if (layer.warp) {
                    constexpr double kTolerance = 0.02; // px of the print
                    const Mapping seen =
                        Mapping(view.toOutput) * seenOnPanel(layer, *scene.release, paragraphs);
                    word.outline = std::make_shared<const Path>(mapped(*word.outline, seen, kTolerance));
                    word.toOutput = {};
                }
                words.push_back(std::move(word));
            }
        }
        view.stack.erase(view.stack.begin(), firstArt);
    }
    return words;
}

std::string pathOperators(const Path& path, const Affine& map) {
    std::string out;
    const Vec2* p = path.points().data();
    Vec2 at;
    const auto put = [&](Vec2 v) { out += number(v.x) + ' ' + number(v.y) + ' '; };
    const auto next = [&] { return map.map(*p++); };
    for (const Path::Verb verb : path.verbs()) {
        switch (verb) {
        case Path::Verb::Move:
            put(at = next()), out += "m\n";
            break;
        case Path::Verb::Line:
            put(at = next()), out += "l\n";
            break;
        case Path::Verb::Quad: {
            // A quadratic as the cubic with the same shape: controls two thirds of the way to its own.
            const Vec2 control = next(), end = next();
            put(at + (control - at) * (2.0 / 3)), put(end + (control - end) * (2.0 / 3)), put(end),
                out += "c\n";
            at = end;
            break;
        }
        case Path::Verb::Cubic: {
            put(next()), put(next());
            put(at = next()), out += "c\n";
            break;
        }
        }
    }
    return out;
}

struct InkedArt {
    std::shared_ptr<Buffer<uint8_t>> cmyk;
    IntRect area; ///< output pixels
    const std::atomic<bool>* cancel = nullptr;
    double mostInk = 0;
};

/// The art on white paper, in inks, row by row in parallel.
InkedArt inkedArt(Renderer& renderer, const Scene& scene, const IntRect& area, const ToPress& press,
                  const std::atomic<bool>* cancel) {
    const Buffer<uint8_t> rgb = renderer.renderRgb8OnWhite(scene, area, cancel);
    InkedArt out{std::make_shared<Buffer<uint8_t>>(size_t(area.w) * size_t(area.h) * 4), area, cancel, 0};
    std::vector<int> most(size_t(area.h));
    tbb::parallel_for(tbb::blocked_range<int>(0, area.h, 16), [&](const tbb::blocked_range<int>& rows) {
        for (int y = rows.begin(); y < rows.end() && !isCancelled(cancel); ++y) {
            uint8_t* ink = out.cmyk->data() + size_t(y) * size_t(area.w) * 4;
            press.convert(rgb.data() + size_t(y) * size_t(area.w) * 3, ink, size_t(area.w));
            for (int x = 0; x < area.w; ++x, ink += 4)
                most[size_t(y)] = std::max(most[size_t(y)], ink[0] + ink[1] + ink[2] + ink[3]);
        }
    });
    out.mostInk = *std::max_element(most.begin(), most.end()) / 255.0;
    return out;
}

/// Feeds pixels to the writer without a second copy in memory.
class PixelProvider : public QPDFObjectHandle::StreamDataProvider {
  public:
    PixelProvider(std::shared_ptr<Buffer<uint8_t>> pixels, const std::atomic<bool>* cancel)
        : pixels_(std::move(pixels))
        , cancel_(cancel) {}
    void provideStreamData(QPDFObjGen const&, Pipeline* pipeline) override {
        constexpr size_t kPart = size_t(1) << 20;
        for (size_t at = 0; at < pixels_->size() && !isCancelled(cancel_); at += kPart)
            pipeline->write(pixels_->data() + at, std::min(kPart, pixels_->size() - at));
        pipeline->finish();
    }

  private:
    std::shared_ptr<Buffer<uint8_t>> pixels_;
    const std::atomic<bool>* cancel_;
};

QPDFObjectHandle imageObject(QPDF& pdf, const InkedArt& art) {
    QPDFObjectHandle image = QPDFObjectHandle::newStream(&pdf);
    image.replaceStreamData(std::make_shared<PixelProvider>(art.cmyk, art.cancel),
                            QPDFObjectHandle::newNull(), QPDFObjectHandle::newNull());
    QPDFObjectHandle dict = image.getDict();
    dict.replaceKey("/Type", QPDFObjectHandle::newName("/XObject"));
    dict.replaceKey("/Subtype", QPDFObjectHandle::newName("/Image"));
    dict.replaceKey("/Width", QPDFObjectHandle::newInteger(art.area.w));
    dict.replaceKey("/Height", QPDFObjectHandle::newInteger(art.area.h));
    dict.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(8));
    dict.replaceKey("/ColorSpace", QPDFObjectHandle::newName("/DeviceCMYK"));
    return image;
}

void addOutputIntent(QPDF& pdf, std::span<const uint8_t> profile, const std::string& description) {
    QPDFObjectHandle stream = QPDFObjectHandle::newStream(&pdf, std::string(profile.begin(), profile.end()));
    stream.getDict().replaceKey("/N", QPDFObjectHandle::newInteger(4));
    QPDFObjectHandle intent = QPDFObjectHandle::parse("<< /Type /OutputIntent /S /GTS_PDFX >>");
    intent.replaceKey("/OutputConditionIdentifier", QPDFObjectHandle::newString("FOGRA39"));
    intent.replaceKey("/RegistryName", QPDFObjectHandle::newString("http://www.color.org"));
    intent.replaceKey("/Info", QPDFObjectHandle::newUnicodeString(description));
    intent.replaceKey("/DestOutputProfile", pdf.makeIndirectObject(stream));
    QPDFObjectHandle list = QPDFObjectHandle::newArray();
    list.appendItem(intent);
    pdf.getRoot().replaceKey("/OutputIntents", list);
}

QPDFObjectHandle box(const Rect& r) {
    return QPDFObjectHandle::parse("[" + number(r.x) + " " + number(r.y) + " " + number(r.right()) + " " +
                                   number(r.bottom()) + "]");
}

/// Everything about one print page, in points with the origin at the lower left of the MediaBox.
class PrintPage {
  public:
    PrintPage(const Flat& flat, Ppi resolution)
        : flat_(flat)
        , resolution_(resolution)
        , mediaMm_(pageArea(flat)) {}
    /// From the flat in mm (y down) to the page in points (y up).
    Affine mmToPage() const {
        const double k = kPtPerInch / kMmPerInch;
        return {k, 0, 0, -k, -mediaMm_.x * k, mediaMm_.bottom() * k};
    }
    Rect onPage(const Rect& mm) const { return mmToPage().mapBounds(mm); }
    Rect media() const { return onPage(mediaMm_); }
    /// From output pixels to the page.
    Affine pxToPage() const {
        return mmToPage() * Affine::scaling(1 / pxPerMm(resolution_), 1 / pxPerMm(resolution_));
    }
    const Flat& flat() const { return flat_; }

  private:
    const Flat& flat_;
    Ppi resolution_;
    Rect mediaMm_;
};

std::string artOperators(const PrintPage& page, const IntRect& area) {
    const Rect r = page.pxToPage().mapBounds(area.toRect());
    return "q " + number(r.w) + " 0 0 " + number(r.h) + " " + number(r.x) + " " + number(r.y) +
           " cm /Art Do Q\n";
}

std::string wordOperators(const PrintPage& page, const std::vector<OutlinedText>& words,
                          const ToPress& press) {
    std::string out;
    for (const OutlinedText& word : words) {
        const Rect clip = page.pxToPage().mapBounds(word.clip.toRect());
        const Cmyk ink = press.convertSolid(word.colour);
        out += "q " + number(clip.x) + " " + number(clip.y) + " " + number(clip.w) + " " + number(clip.h) +
               " re W n\n";
        out += number(ink.c) + " " + number(ink.m) + " " + number(ink.y) + " " + number(ink.k) + " k\n";
        out += pathOperators(*word.outline, page.pxToPage() * word.toOutput) + "f Q\n";
    }
    return out;
}

void assemble(QPDF& pdf, const PrintPage& page, const InkedArt& art, const std::string& content,
              const std::string& title) {
    pdf.emptyPDF();
    QPDFObjectHandle object =
        QPDFObjectHandle::parse("<< /Type /Page /Resources << /XObject << >> /ColorSpace << >> >> >>");
    object.replaceKey("/MediaBox", box(page.media()));
    object.replaceKey("/BleedBox", box(page.onPage(page.flat().withBleed())));
    object.replaceKey("/TrimBox", box(page.onPage(page.flat().trim())));
    QPDFObjectHandle resources = object.getKey("/Resources");
    resources.getKey("/XObject").replaceKey("/Art", pdf.makeIndirectObject(imageObject(pdf, art)));
    // All inks at once, for marks that must stand on every plate (ISO 32000-1, 8.6.6.4).
    resources.getKey("/ColorSpace")
        .replaceKey("/Registration",
                    QPDFObjectHandle::parse("[/Separation /All /DeviceCMYK << /FunctionType 2 /Domain [0 1] "
                                            "/C0 [0 0 0 0] /C1 [1 1 1 1] /N 1 >>]"));
    object.replaceKey("/Contents", pdf.makeIndirectObject(QPDFObjectHandle::newStream(&pdf, content)));
    pdf.addPage(pdf.makeIndirectObject(object), false);
    QPDFObjectHandle info = QPDFObjectHandle::parse("<< /Producer (Glyptos) /Trapped /False >>");
    info.replaceKey("/Title", QPDFObjectHandle::newUnicodeString(title));
    pdf.getTrailer().replaceKey("/Info", pdf.makeIndirectObject(info));
}

} // namespace

Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                  const PrintOptions& options, const std::filesystem::path& file) {
    const PiecePtr piece = release->piece(id);
    if (!piece)
        return fail(Fault::Usage, "There is no piece “" + id + "” in this release; nothing was written.");
    if (piece->flat->unit != Unit::Mm)
        return fail(Fault::Usage,
                    piece->name +
                        " is made for screens and has no size in mm; send it as JPEG or PNG instead.");
    auto press = ToPress::create(options.pressProfile, options.inkLimit);
    if (!press) return tl::unexpected(press.error());

    const Ppi resolution{options.ppi > 0 ? options.ppi : piece->flat->ppi};
    Scene scene = flatScene(release, id, {pxPerMm(resolution), true});
    const std::vector<OutlinedText> words = takeFrontWords(scene, renderer.paragraphs());
    const IntRect area = scene.bounds();
    const InkedArt art = inkedArt(renderer, scene, area, **press, options.cancel);
    if (isCancelled(options.cancel)) return cancelled();
    const PrintPage page(*piece->flat, resolution);
    const std::string content = artOperators(page, area) + wordOperators(page, words, **press) +
                                markOperators(*piece->flat, page.mmToPage());

    try {
        QPDF pdf;
        assemble(pdf, page, art, content,
                 release->brief.artist + " – " + release->brief.title + " – " + piece->name);
        addOutputIntent(pdf, options.pressProfile, (*press)->description());
        // Made in memory, since the writer does not notice a disk that is full.
        QPDFWriter writer(pdf);
        writer.setOutputMemory();
        writer.setMinimumPDFVersion("1.6");
        writer.setDeterministicID(true);
        writer.setStreamDataMode(qpdf_s_compress);
        writer.write();
        if (isCancelled(options.cancel)) return cancelled();
        const auto bytes = writer.getBufferSharedPointer();
        if (auto written = writeFile(file, {bytes->getBuffer(), bytes->getSize()}); !written)
            return tl::unexpected(written.error());
    } catch (const std::exception& e) {
        return fail(Fault::Unwritable, "The print file of " + piece->name + " could not be made (" +
                                           e.what() + "); nothing was written.");
    }
    const Rect trim = piece->flat->trim();
    return PrintReport{trim.w,
                       trim.h,
                       piece->flat->bleed,
                       resolution.value,
                       art.mostInk,
                       static_cast<int>(words.size()),
                       std::filesystem::file_size(file)};
}

} // namespace glyptos
