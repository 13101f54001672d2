#include "type/faces/brought_font.h"

#include "type/font_library.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fontconfig/fontconfig.h>
#include <hb-ot.h>
#include <hb.h>
#include <string_view>

namespace glyptos {
namespace {

struct DestroyFace {
    void operator()(hb_face_t* face) const { hb_face_destroy(face); }
};
using HbFacePtr = std::unique_ptr<hb_face_t, DestroyFace>;
struct DestroyBlob {
    void operator()(hb_blob_t* blob) const { hb_blob_destroy(blob); }
};
using HbBlobPtr = std::unique_ptr<hb_blob_t, DestroyBlob>;

constexpr unsigned kMostFaces = 256; // of a collection, and instances of a face

std::string nameOf(hb_face_t* face, hb_ot_name_id_t id) {
    for (const hb_language_t language : {hb_language_from_string("en", -1), HB_LANGUAGE_INVALID}) {
        std::array<char, 256> text{};
        unsigned size = text.size();
        if (hb_ot_name_get_utf8(face, id, language, &size, text.data()) > 0) return text.data();
    }
    return {};
}

/// The first of two names that the font tells.
std::string nameOf(hb_face_t* face, hb_ot_name_id_t id, hb_ot_name_id_t otherwise) {
    const std::string name = nameOf(face, id);
    return name.empty() ? nameOf(face, otherwise) : name;
}

size_t tableSize(hb_face_t* face, const char (&tag)[5]) {
    const HbBlobPtr table(hb_face_reference_table(face, HB_TAG(tag[0], tag[1], tag[2], tag[3])));
    return hb_blob_get_length(table.get());
}

bool hasOutlines(hb_face_t* face) {
    return tableSize(face, "glyf") > 0 || tableSize(face, "CFF ") > 0 || tableSize(face, "CFF2") > 0;
}

/// A font without that table says nothing against it.
FontEmbedding embeddingOf(hb_face_t* face) {
    const HbBlobPtr table(hb_face_reference_table(face, HB_TAG('O', 'S', '/', '2')));
    unsigned length = 0;
    const auto* bytes = reinterpret_cast<const uint8_t*>(hb_blob_get_data(table.get(), &length));
    constexpr unsigned kAt = 8, kRestricted = 2, kPreview = 4, kEditable = 8, kBitmapsOnly = 0x200;
    if (length < kAt + 2) return FontEmbedding::Installable;
    const unsigned type = unsigned(bytes[kAt]) << 8 | bytes[kAt + 1];
    if (type & kBitmapsOnly) return FontEmbedding::BitmapsOnly;
    if (type & kEditable) return FontEmbedding::Editable;
    if (type & kPreview) return FontEmbedding::PreviewAndPrint;
    return type & kRestricted ? FontEmbedding::Restricted : FontEmbedding::Installable;
}

StyleTraits traitsOf(const Face& face) {
    constexpr int kItalic = 100, kOblique = 110;
    const auto value = [&](hb_style_tag_t tag) { return double(hb_style_get_value(face.font(), tag)); };
    StyleTraits out;
    out.weight = int(std::lround(FcWeightFromOpenTypeDouble(value(HB_STYLE_TAG_WEIGHT))));
    out.width = int(std::lround(value(HB_STYLE_TAG_WIDTH)));
    if (value(HB_STYLE_TAG_ITALIC) > 0.5)
        out.slant = kItalic;
    else if (std::abs(value(HB_STYLE_TAG_SLANT_ANGLE)) > 1)
        out.slant = kOblique;
    return out;
}

/// One face of a file and, of a variable font, all its named instances.
void addFaces(const FontBytes& bytes, hb_face_t* face, unsigned index, const std::string& otherwise,
              std::vector<BroughtFace>& out) {
    std::string family = nameOf(face, HB_OT_NAME_ID_TYPOGRAPHIC_FAMILY, HB_OT_NAME_ID_FONT_FAMILY);
    if (family.empty()) family = otherwise;
    const auto add = [&](unsigned instance, std::string style) {
        if (style.empty()) style = "Regular";
        if (auto made = Face::open(bytes, int(index | instance << 16), family, std::move(style)))
            out.push_back({made, traitsOf(*made)});
    };
    const unsigned instances = std::min(hb_ot_var_get_named_instance_count(face), kMostFaces);
    for (unsigned i = 0; i < instances; ++i)
        add(i + 1, nameOf(face, hb_ot_var_named_instance_get_subfamily_name_id(face, i)));
    if (instances == 0)
        add(0, nameOf(face, HB_OT_NAME_ID_TYPOGRAPHIC_SUBFAMILY, HB_OT_NAME_ID_FONT_SUBFAMILY));
}

} // namespace

std::string fontFormatOf(std::span<const uint8_t> bytes) {
    if (bytes.size() < 4) return {};
    const std::string_view head(reinterpret_cast<const char*>(bytes.data()), 4);
    if (head == std::string_view("\0\1\0\0", 4) || head == "true") return "ttf";
    if (head == "OTTO") return "otf";
    if (head == "ttcf") return "ttc";
    if (head == "wOFF") return "woff";
    return head == "wOF2" ? "woff2" : "";
}

Result<BroughtFontPtr> readFont(const FontBytes& bytes, const std::string& id, const std::string& name) {
    const std::string format = fontFormatOf(*bytes);
    if (format.empty()) return fail(Fault::Unsupported, "it is no TrueType or OpenType font");
    if (format == "woff" || format == "woff2")
        return fail(
            Fault::Unsupported,
            "it is a font packed for pages of the web; bring in the TrueType or OpenType file instead");
    const HbBlobPtr blob(hb_blob_create(reinterpret_cast<const char*>(bytes->data()), unsigned(bytes->size()),
                                        HB_MEMORY_MODE_READONLY, nullptr, nullptr));
    auto out = std::make_shared<BroughtFont>();
    out->id = id;
    bool isBitmap = false;
    const unsigned count = std::min(hb_face_count(blob.get()), kMostFaces);
    for (unsigned i = 0; i < count; ++i) {
        const HbFacePtr face(hb_face_create(blob.get(), i));
        if (!hasOutlines(face.get())) {
            isBitmap = isBitmap || hb_face_get_glyph_count(face.get()) > 0;
            continue;
        }
        addFaces(bytes, face.get(), i, name, out->faces);
        // Of a collection what its strictest face allows.
        out->embedding = std::max(out->embedding, embeddingOf(face.get()));
    }
    if (out->faces.empty())
        return isBitmap ? fail(Fault::Unsupported, "it has no outlines, only small pictures of its letters")
                        : fail(Fault::Damaged, "it is damaged: it has no letters that can be drawn");
    return out;
}

} // namespace glyptos
