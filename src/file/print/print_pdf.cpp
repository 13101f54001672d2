#include "file/print/print_pdf.h"

#include "base/text.h"
#include "file/print/inked_art.h"
#include "file/print/page_content.h"
#include "file/print/page_slug.h"
#include "file/print/pdf_parts.h"
#include "file/print/pdf_x.h"
#include "release/press/spot_inks.h"
#include "render/press/plates.h"

#include <algorithm>
#include <cmath>
#include <ctime>
#include <set>

namespace glyptos {
namespace {

/// The registry's name of the profile that is shipped.
constexpr const char* kShippedCondition = "FOGRA39";

/// A page and what its content names.
struct PageParts {
    std::vector<std::pair<std::string, QPDFObjectHandle>> pictures, spaces;
    std::string content;
};

void addPage(QPDF& pdf, const PrintPage& page, const PageParts& parts) {
    QPDFObjectHandle object =
        QPDFObjectHandle::parse("<< /Type /Page /Resources << /XObject << >> /ColorSpace << >> /ExtGState << "
                                "/Over << /Type /ExtGState /OP true /op true /OPM 1 >> >> >> >>");
    object.replaceKey("/MediaBox", pdfBox(page.media()));
    object.replaceKey("/BleedBox", pdfBox(page.onPage(page.sheet().withBleed)));
    object.replaceKey("/TrimBox", pdfBox(page.onPage(page.sheet().trim)));
    QPDFObjectHandle resources = object.getKey("/Resources");
    for (const auto& [name, picture] : parts.pictures) resources.getKey("/XObject").replaceKey(name, picture);
    for (const auto& [name, space] : parts.spaces) resources.getKey("/ColorSpace").replaceKey(name, space);
    object.replaceKey("/Contents", pdf.makeIndirectObject(QPDFObjectHandle::newStream(&pdf, parts.content)));
    pdf.addPage(pdf.makeIndirectObject(object), false);
}

/// A plate that no layer of the art asks for.
Swatch extraPlate(const std::string& name, const Rgba& look) {
    return {name, name, look, Plate::Over};
}

/// A print file while it is made.
class PrintFile {
  public:
    PrintFile(Renderer& renderer, const PrintOrder& order, const PrintOptions& options, const ToPress& press)
        : renderer_(renderer)
        , order_(order)
        , options_(options)
        , press_(press)
        , resolution_{options.ppi > 0 ? options.ppi : order.piece->flat->ppi}
        , spots_(spotInksOf(*order.release, *order.piece)) {
        report_.bleedMm = order.piece->flat->bleed, report_.ppi = resolution_.value;
        pdf_.emptyPDF();
    }

    void add(size_t sheet) {
        Scene scene = sceneOf(sheet);
        PrintedPage printed = describe(sheet);
        printing_.clear();
        PageParts parts;
        const PrintPage page(*order_.piece->flat, sheet, resolution_, options_.slug);
        InkedPlate white;
        if (options_.extra.white)
            white = coverPlate(renderer_, inPressInks(scene), chokePx(), options_.cancel);
        const std::vector<OutlinedText> words = takeFrontWords(scene, renderer_.paragraphs());
        if (options_.sharpen > 0) scene = sharpened(std::move(scene), options_.sharpen, 1);
        const InkedArt art =
            inkedArt(renderer_, spots_.empty() ? scene : inPressInks(scene), press_, options_.cancel);
        if (isCancelled(options_.cancel)) return;
        addPicture(parts, page, "Art", {art.cmyk.data(), art.cmyk.size()}, art.area,
                   QPDFObjectHandle::newName("/DeviceCMYK"), false);
        for (size_t i = 0; i < spots_.size(); ++i)
            addPlate(parts, page, i, inkedPlate(renderer_, inSpotInk(scene, spots_[i]), options_.cancel));
        const WordInks inks{press_, spots_, options_.richBlackFrom};
        parts.content += wordOperators(page, words, inks);
        addExtras(parts, page, white);
        tellInks(printed, art, words, inks);
        printed.mostInk = art.mostInk, printed.outlinedTexts = int(words.size());
        parts.content += page.marks();
        if (options_.slug)
            parts.content += slugOperators(page, slugLine(printed), spots_, renderer_.paragraphs());
        addSpaces(parts);
        addPage(pdf_, page, parts);
        report_.pages.push_back(std::move(printed));
    }

    Result<size_t> write(const std::filesystem::path& file) {
        const std::string title =
            order_.release->brief.artist + " – " + order_.release->brief.title + " – " + order_.piece->name;
        addOutputIntent(pdf_, options_.pressProfile, press_.description(),
                        options_.pressProfile.data() == pressProfileBytes().data() ? kShippedCondition : "");
        addIdentification(pdf_, title, options_.moment ? options_.moment : std::time(nullptr),
                          title + order_.piece->id);
        return writePdf(pdf_, "1.6", file, options_.cancel);
    }

    PrintReport& report() { return report_; }

  private:
    Scene sceneOf(size_t sheet) const {
        return flatScene(order_.release, order_.piece->id, {pxPerMm(resolution_), true, {}, {}, true, sheet});
    }

    int chokePx() const {
        constexpr Mm kChoke{0.1}; // what plates may be out of register by
        return int(std::lround(kChoke.value * pxPerMm(resolution_)));
    }

    PrintedPage describe(size_t sheet) const {
        const Sheet& s = order_.piece->flat->sheets[sheet];
        PrintedPage page{s.name, s.trim.w, s.trim.h};
        page.coarsest = coarsestOn(order_, sheet);
        return page;
    }

    void addPicture(PageParts& parts, const PrintPage& page, const std::string& name,
                    std::span<const uint8_t> samples, const IntRect& area, const QPDFObjectHandle& space,
                    bool overprints) {
        parts.pictures.emplace_back("/" + name, pdfPicture(pdf_, samples, area, space, options_.cancel));
        parts.content += pictureOperators(page, area, name, overprints);
    }

    void addPlate(PageParts& parts, const PrintPage& page, size_t i, const InkedPlate& plate) {
        if (!plate.any) return;
        const Swatch ink = plates()[i];
        printing_.insert(ink.name);
        addPicture(parts, page, "Tint" + std::to_string(i), {plate.tint.data(), plate.tint.size()},
                   plate.area, pdfSeparation(ink.name, press_.convertSolid(ink.colour)), true);
    }

    /// The plates besides the four inks, as the page's colour spaces number them.
    std::vector<Swatch> plates() const {
        std::vector<Swatch> out = spots_;
        if (options_.extra.white) out.push_back(extraPlate("White", {0.92f, 0.92f, 0.92f, 1}));
        if (options_.extra.dieline) {
            out.push_back(extraPlate("Cut", {0.85f, 0.1f, 0.5f, 1}));
            out.push_back(extraPlate("Crease", {0.1f, 0.6f, 0.85f, 1}));
        }
        return out;
    }

    void addExtras(PageParts& parts, const PrintPage& page, const InkedPlate& white) {
        size_t next = spots_.size();
        if (options_.extra.white) addPlate(parts, page, next++, white);
        if (!options_.extra.dieline) return;
        printing_.insert({"Cut", "Crease"});
        parts.content += page.cutOperators(next);
        parts.content += page.creaseOperators(next + 1);
    }

    /// All inks at once, for marks that must stand on every plate, and each plate alone.
    void addSpaces(PageParts& parts) const {
        parts.spaces.emplace_back("/Registration", pdfSeparation("All", {1, 1, 1, 1}));
        const std::vector<Swatch> all = plates();
        for (size_t i = 0; i < all.size(); ++i)
            parts.spaces.emplace_back(plateSpace(i),
                                      pdfSeparation(all[i].name, press_.convertSolid(all[i].colour)));
    }

    void tellInks(PrintedPage& page, const InkedArt& art, const std::vector<OutlinedText>& words,
                  const WordInks& inks) const {
        std::array<bool, 4> used = inksOf(words, inks);
        for (size_t c = 0; c < 4; ++c) used[c] = used[c] || art.used[c];
        page.inks = processInks(used);
        for (const Swatch& plate : plates()) {
            const bool inWords = std::any_of(words.begin(), words.end(), [&](const OutlinedText& word) {
                return word.spot && word.spot->id == plate.id;
            });
            if (inWords || printing_.contains(plate.name)) page.inks.push_back(plate.name);
        }
    }

    std::string slugLine(const PrintedPage& page) const {
        const Brief& brief = order_.release->brief;
        std::string out = brief.artist + " – " + brief.title + "  ·  " + order_.piece->name;
        if (!brief.catalogue.empty()) out += "  ·  " + brief.catalogue;
        if (!page.sheet.empty()) out += "  ·  " + page.sheet;
        out += "  ·  trim " + shortNumber(page.trimWidthMm) + " × " + shortNumber(page.trimHeightMm) +
               " mm, bleed " + shortNumber(report_.bleedMm) + " mm  ·  ";
        for (size_t i = 0; i < page.inks.size(); ++i) out += (i ? ", " : "") + page.inks[i];
        return out;
    }

    Renderer& renderer_;
    const PrintOrder& order_;
    const PrintOptions& options_;
    const ToPress& press_;
    Ppi resolution_;
    std::vector<Swatch> spots_;
    std::set<std::string> printing_; ///< plates besides the four inks that the page in hand has anything on
    QPDF pdf_;
    PrintReport report_;
};

} // namespace

Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                                  const PrintOptions& options, const std::filesystem::path& file) {
    const auto order = printOrder(release, id, options);
    if (!order) return tl::unexpected(order.error());
    const PiecePtr& piece = order->piece;
    auto press = ToPress::create(options.pressProfile, options.inkLimit, options.look);
    if (!press) return tl::unexpected(press.error());
    try {
        auto notes = readBackCodes(renderer, *order, options.cancel);
        if (!notes) return tl::unexpected(notes.error());
        PrintFile made(renderer, *order, options, **press);
        made.report().notes = std::move(*notes);
        for (const size_t sheet : order->sheets) {
            made.add(sheet);
            if (isCancelled(options.cancel)) return cancelled();
        }
        const auto bytes = made.write(file);
        if (!bytes) return tl::unexpected(bytes.error());
        made.report().bytes = *bytes;
        return std::move(made.report());
    } catch (const std::exception& e) {
        return fail(Fault::Unwritable, "The print file of " + piece->name + " could not be made (" +
                                           e.what() + "); nothing was written.");
    }
}

} // namespace glyptos
