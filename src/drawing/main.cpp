// glyptos-drawing: draws one SVG drawing from standard input to standard output, which must be files
// (wire.h). The sandbox of what a drawing may do to the machine: it runs out of its own time and memory.
#include "drawing/wire.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <librsvg/rsvg.h>
#include <memory>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

namespace {

using namespace glyptos::drawing;

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
    void operator()(RsvgHandle* handle) const { g_object_unref(handle); }
};
using Handle = std::unique_ptr<RsvgHandle, Unref>;

Handle opened() {
    struct stat info {};
    if (::fstat(STDIN_FILENO, &info) != 0) return nullptr;
    const Mapped svg(STDIN_FILENO, size_t(info.st_size), PROT_READ);
    if (!svg.bytes) return nullptr;
    GError* error = nullptr;
    Handle handle(rsvg_handle_new_from_data(svg.bytes, svg.size, &error));
    if (error) g_error_free(error);
    if (handle) rsvg_handle_set_dpi(handle.get(), 96);
    return handle;
}

void measure(RsvgHandle* handle, Reply& reply) {
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

Answer drawn(RsvgHandle* handle, const Reply& reply) {
    const size_t stride = size_t(reply.width) * 4, bytes = stride * size_t(reply.height);
    if (::ftruncate(STDOUT_FILENO, off_t(kPixelsAt + bytes + kBehind)) != 0) return Answer::Unwritable;
    const Mapped out(STDOUT_FILENO, kPixelsAt + bytes + kBehind, PROT_READ | PROT_WRITE);
    if (!out.bytes) return Answer::NoMemory;
    unsigned char* pixels = out.bytes + kPixelsAt;
    cairo_surface_t* surface = cairo_image_surface_create_for_data(pixels, CAIRO_FORMAT_ARGB32, reply.width,
                                                                   reply.height, int(stride));
    cairo_t* cairo = cairo_create(surface);
    const RsvgRectangle viewport{0, 0, double(reply.width), double(reply.height)};
    const bool done = rsvg_handle_render_document(handle, cairo, &viewport, nullptr);
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
    const Handle handle = opened();
    if (!handle) return Answer::Damaged;
    measure(handle.get(), reply);
    if (std::strcmp(wish, kSizeOnly) == 0) return Answer::Drawn;
    if (!fits(reply.drawingWidth, reply.drawingHeight)) return Answer::TooLarge;
    const double scale = std::strtod(wish, nullptr);
    const double width = std::max(1.0, std::round(reply.drawingWidth * scale)),
                 height = std::max(1.0, std::round(reply.drawingHeight * scale));
    if (!fits(width, height)) return Answer::TooLarge;
    reply.width = int32_t(width), reply.height = int32_t(height);
    return drawn(handle.get(), reply);
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
