#include "type/face.h"

#include <algorithm>
#include <cmath>
#include <hb-ot.h>
#include <hb.h>

namespace glyptos {

std::shared_ptr<const Face> Face::open(const std::string& file, int index, std::string family,
                                       std::string style) {
    hb_blob_t* blob = hb_blob_create_from_file_or_fail(file.c_str());
    if (!blob) return nullptr;
    auto made = opened(blob, index, std::move(family), std::move(style));
    if (made) made->file_ = file;
    return made;
}

std::shared_ptr<const Face> Face::open(const FontBytes& bytes, int index, std::string family,
                                       std::string style) {
    hb_blob_t* blob = hb_blob_create(reinterpret_cast<const char*>(bytes->data()), unsigned(bytes->size()),
                                     HB_MEMORY_MODE_READONLY, new FontBytes(bytes),
                                     [](void* own) { delete static_cast<FontBytes*>(own); });
    return opened(blob, index, std::move(family), std::move(style));
}

/// Takes the blob over.
std::shared_ptr<Face> Face::opened(hb_blob_t* blob, int index, std::string family, std::string style) {
    hb_face_t* face = hb_face_create(blob, static_cast<unsigned>(index & 0xffff));
    hb_blob_destroy(blob);
    if (hb_face_get_glyph_count(face) == 0) {
        hb_face_destroy(face);
        return nullptr;
    }
    std::shared_ptr<Face> made(new Face);
    made->unitsPerEm_ = hb_face_get_upem(face);
    made->font_ = hb_font_create(face);
    hb_face_destroy(face);
    // The upper half of fontconfig's index names an instance of a variable font, counted from 1.
    if (const int instance = index >> 16; instance > 0)
        hb_font_set_var_named_instance(made->font_, static_cast<unsigned>(instance - 1));
    made->measure();
    hb_font_make_immutable(made->font_);
    made->index_ = index;
    made->family_ = std::move(family);
    made->style_ = std::move(style);
    return made;
}

void Face::measure() {
    hb_font_extents_t extents;
    if (hb_font_get_h_extents(font_, &extents)) {
        ascentEm_ = extents.ascender / unitsPerEm_;
        descentEm_ = -extents.descender / unitsPerEm_;
    }
    hb_face_t* const face = hb_font_get_face(font_);
    unsigned known = 0;
    const float* at = hb_font_get_var_coords_design(font_, &known);
    unsigned count = hb_ot_var_get_axis_count(face);
    std::vector<hb_ot_var_axis_info_t> infos(count);
    hb_ot_var_get_axis_infos(face, 0, &count, infos.data());
    for (unsigned i = 0; i < count; ++i) {
        const hb_ot_var_axis_info_t& info = infos[i];
        char tag[5] = {}, name[64] = {};
        hb_tag_to_string(info.tag, tag);
        unsigned size = sizeof name;
        hb_ot_name_get_utf8(face, info.name_id, HB_LANGUAGE_INVALID, &size, name);
        axes_.push_back({tag, name, double(info.min_value), double(info.default_value),
                         double(info.max_value), i < known ? double(at[i]) : double(info.default_value)});
    }
}

std::shared_ptr<const Face> Face::at(const std::vector<AxisValue>& places) const {
    std::shared_ptr<Face> made(new Face);
    made->unitsPerEm_ = unitsPerEm_;
    made->family_ = family_, made->style_ = style_;
    made->file_ = file_, made->index_ = index_;
    made->font_ = hb_font_create_sub_font(font_);
    std::vector<float> coordinates;
    for (const FaceAxis& axis : axes_) {
        double value = axis.at;
        for (const AxisValue& place : places)
            if (place.tag == axis.tag && std::isfinite(place.value))
                value = std::max(axis.least, std::min(place.value, axis.most));
        coordinates.push_back(float(value));
    }
    hb_font_set_var_coords_design(made->font_, coordinates.data(), unsigned(coordinates.size()));
    made->measure();
    hb_font_make_immutable(made->font_);
    return made;
}

Face::~Face() {
    hb_font_destroy(font_);
}

bool Face::has(char32_t codepoint) const {
    hb_codepoint_t glyph = 0;
    return hb_font_get_nominal_glyph(font_, codepoint, &glyph) && glyph != 0;
}

} // namespace glyptos
