// glyptos-drawing: draws one SVG drawing, or the first page of a PDF, from standard input to standard output,
// which must be files (wire.h). The sandbox of what a drawing may do to the machine: it runs out of its own
// time and memory.
#include "drawing/wire.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <librsvg/rsvg.h>
#include <memory>
#include <poppler.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

namespace {

using namespace glyptos::drawing;

constexpr double kPpi = 96; // at which a drawing has its own size

void limit(int what, rlim_t most) {
    const rlimit both{most, most + 1}; // the first of two limits of time says why
    setrlimit(static_cast<__rlimit_resource>(what), &both);
}

/// Before anything of the drawing is looked at.
void keepWithinLimits() {
    prctl(PR_SET_PDEATHSIG, SIGKILL); // nobody waits for it then
    limit(RLIMIT_CORE, 0);
    limit(RLIMIT_CPU, kMostSeconds);
#ifndef __SANITIZE_ADDRESS__ // which maps far more than it uses
    limit(RLIMIT_AS, kMostMemory + size_t(kMostPixels) * 4);
#endif
}

/// All of a file that is open.
struct Mapped {
    unsigned char* bytes = nullptr;
    size_t size = 0;
    Mapped(int file, size_t length, int access)
        : size(length) {
        void* at = length > 0 ? ::mmap(nullptr, length, access, MAP_SHARED, file, 0) : MAP_FAILED;
        if (at != MAP_FAILED) bytes = static_cast<unsigned char*>(at);
    }
    ~Mapped() {
        if (bytes) ::munmap(bytes, size);
    }
    Mapped(const Mapped&) = delete;
    Mapped& operator=(const Mapped&) = delete;
};

struct Unref {
    void operator()(void* object) const { g_object_unref(object); }
};
template <class T>
using Owned = std::unique_ptr<T, Unref>;

/// A drawing, or a page of a document.
struct Opened {
    Owned<RsvgHandle> svg;
    Owned<PopplerDocument> document;
    Owned<PopplerPage> page;
    explicit operator bool() const { return svg || page; }
};

Opened openedPdf(const Mapped& pdf) {
    Opened out;
    GBytes* bytes = g_bytes_new_static(pdf.bytes, pdf.size);
    GError* error = nullptr;
    out.document.reset(poppler_document_new_from_bytes(bytes, nullptr, &error));
    g_bytes_unref(bytes);
    if (error) g_error_free(error);
    if (out.document) out.page.reset(poppler_document_get_page(out.document.get(), 0));
    return out;
}

Opened openedSvg(const Mapped& svg) {
    Opened out;
    GError* error = nullptr;
    out.svg.reset(rsvg_handle_new_from_data(svg.bytes, svg.size, &error));
    if (error) g_error_free(error);
    if (out.svg) rsvg_handle_set_dpi(out.svg.get(), kPpi);
    return out;
}

void measurePage(const Opened& opened, Reply& reply) {
    double width = 0, height = 0;
    poppler_page_get_size(opened.page.get(), &width, &height);
    reply.pages = poppler_document_get_n_pages(opened.document.get());
    reply.drawingWidth = std::ceil(width / 72 * kPpi), reply.drawingHeight = std::ceil(height / 72 * kPpi);
}

void measureSvg(RsvgHandle* handle, Reply& reply) {
    constexpr double kStandard = 512; // px a side of one that says nothing
    gdouble width = 0, height = 0;
    if (!rsvg_handle_get_intrinsic_size_in_pixels(handle, &width, &height)) {
        gboolean hasBox = FALSE;
        RsvgRectangle box{};
        rsvg_handle_get_intrinsic_dimensions(handle, nullptr, nullptr, nullptr, nullptr, &hasBox, &box);
        width = hasBox ? box.width : kStandard;
        height = hasBox ? box.height : kStandard;
    }
    reply.drawingWidth = std::ceil(width), reply.drawingHeight = std::ceil(height);
}

bool fits(double width, double height) {
    return width >= 1 && height >= 1 && width <= kMostSide && height <= kMostSide &&
           width * height <= kMostPixels;
}

/// A page of a document says nothing of what it cannot draw.
bool draw(const Opened& opened, cairo_t* cairo, const Reply& reply) {
    if (opened.page) {
        const double scale = reply.width / reply.drawingWidth * kPpi / 72;
        cairo_scale(cairo, scale, scale);
        poppler_page_render(opened.page.get(), cairo);
        return true;
    }
    const RsvgRectangle viewport{0, 0, double(reply.width), double(reply.height)};
    return rsvg_handle_render_document(opened.svg.get(), cairo, &viewport, nullptr);
}

Answer drawn(const Opened& opened, const Reply& reply) {
    const size_t stride = size_t(reply.width) * 4, bytes = stride * size_t(reply.height);
    if (::ftruncate(STDOUT_FILENO, off_t(kPixelsAt + bytes + kBehind)) != 0) return Answer::Unwritable;
    const Mapped out(STDOUT_FILENO, kPixelsAt + bytes + kBehind, PROT_READ | PROT_WRITE);
    if (!out.bytes) return Answer::NoMemory;
    unsigned char* pixels = out.bytes + kPixelsAt;
    cairo_surface_t* surface = cairo_image_surface_create_for_data(pixels, CAIRO_FORMAT_ARGB32, reply.width,
                                                                   reply.height, int(stride));
    cairo_t* cairo = cairo_create(surface);
    const bool done = draw(opened, cairo, reply);
    const cairo_status_t status = cairo_status(cairo);
    cairo_destroy(cairo);
    cairo_surface_flush(surface);
    cairo_surface_destroy(surface);
    if (status == CAIRO_STATUS_NO_MEMORY) return Answer::NoMemory;
    if (!done) return Answer::Damaged;
    // Cairo's ARGB words are blue, green, red, alpha in memory.
    for (size_t i = 0; i < bytes; i += 4) std::swap(pixels[i], pixels[i + 2]);
    return Answer::Drawn;
}

Answer answer(const char* wish, Reply& reply) {
    struct stat info {};
    if (::fstat(STDIN_FILENO, &info) != 0) return Answer::Damaged;
    const Mapped file(STDIN_FILENO, size_t(info.st_size), PROT_READ);
    if (!file.bytes) return Answer::Damaged;
    const bool isPdf =
        file.size > kPdfMark.size() && std::memcmp(file.bytes, kPdfMark.data(), kPdfMark.size()) == 0;
    const Opened opened = isPdf ? openedPdf(file) : openedSvg(file);
    if (!opened) return Answer::Damaged;
    opened.page ? measurePage(opened, reply) : measureSvg(opened.svg.get(), reply);
    if (std::strcmp(wish, kSizeOnly) == 0) return Answer::Drawn;
    if (!fits(reply.drawingWidth, reply.drawingHeight)) return Answer::TooLarge;
    const double scale = std::strtod(wish, nullptr);
    const double width = std::max(1.0, std::round(reply.drawingWidth * scale)),
                 height = std::max(1.0, std::round(reply.drawingHeight * scale));
    if (!fits(width, height)) return Answer::TooLarge;
    reply.width = int32_t(width), reply.height = int32_t(height);
    return drawn(opened, reply);
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fputs("glyptos-drawing draws for Glyptos; it does nothing by itself.\n", stderr);
        return 2;
    }
    keepWithinLimits();
    Reply reply{};
    reply.answer = answer(argv[1], reply);
    return ::pwrite(STDOUT_FILENO, &reply, sizeof reply, 0) == ssize_t(sizeof reply) ? 0 : 1;
}
