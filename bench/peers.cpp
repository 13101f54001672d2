#include "peers.h"

#include <QPainter>

#ifdef WITH_PIXMAN
#include <pixman.h>
#endif
#ifdef WITH_VIPS
#include <vips/vips.h>
#endif
#ifdef WITH_OPENCV
#include <opencv2/core.hpp>
#endif

namespace glyptos::bench {
namespace {

Peer withQPainter(const Layers& layers) {
    auto images = std::make_shared<std::vector<QImage>>();
    for (const uint8_t* p : layers.pixels)
        images->push_back(
            QImage(p, layers.width, layers.height, layers.width * 4, QImage::Format_RGBA8888_Premultiplied)
                .convertToFormat(QImage::Format_ARGB32_Premultiplied));
    auto out = std::make_shared<QImage>(layers.width, layers.height, QImage::Format_ARGB32_Premultiplied);
    return {"QPainter", 0.15,
            [=, &layers] {
                constexpr std::array modes{
                    QPainter::CompositionMode_SourceOver, QPainter::CompositionMode_Multiply,
                    QPainter::CompositionMode_Screen, QPainter::CompositionMode_Overlay,
                    QPainter::CompositionMode_SoftLight};
                out->fill(Qt::transparent);
                QPainter painter(out.get());
                for (size_t i = 0; i < images->size(); ++i) {
                    painter.setCompositionMode(modes[i % modes.size()]);
                    painter.setOpacity(layers.opacity(i));
                    painter.drawImage(0, 0, (*images)[i]);
                }
            },
            true,
            [=](int x, int y) {
                const QColor c = out->pixelColor(x, y);
                return std::array{c.red(), c.green(), c.blue()};
            }};
}

#if defined(WITH_PIXMAN) || defined(WITH_VIPS) || defined(WITH_OPENCV)
/// A layer's bytes with its opacity in them.
[[maybe_unused]] std::vector<uint8_t> faded(const Layers& layers, size_t i) {
    const size_t n = size_t(layers.width) * size_t(layers.height) * 4;
    std::vector<uint8_t> out(layers.pixels[i], layers.pixels[i] + n);
    for (uint8_t& v : out) v = static_cast<uint8_t>(v * layers.opacity(i) + 0.5);
    return out;
}
#endif

#ifdef WITH_PIXMAN
Peer withPixman(const Layers& layers) {
    struct State {
        std::vector<pixman_image_t*> images;
        pixman_image_t *out = nullptr, *fade = nullptr;
        ~State() {
            for (pixman_image_t* image : images) pixman_image_unref(image);
            pixman_image_unref(out);
            pixman_image_unref(fade);
        }
    };
    auto state = std::make_shared<State>();
    const int w = layers.width, h = layers.height;
    for (const uint8_t* p : layers.pixels)
        state->images.push_back(pixman_image_create_bits(
            PIXMAN_a8b8g8r8, w, h, reinterpret_cast<uint32_t*>(const_cast<uint8_t*>(p)), w * 4));
    state->out = pixman_image_create_bits(PIXMAN_a8b8g8r8, w, h, nullptr, w * 4);
    const pixman_color_t fade{0, 0, 0, uint16_t(Layers::kOpacity * 65535)};
    state->fade = pixman_image_create_solid_fill(&fade);
    return {"pixman", 0,
            [=, &layers] {
                constexpr std::array ops{PIXMAN_OP_OVER, PIXMAN_OP_MULTIPLY, PIXMAN_OP_SCREEN,
                                         PIXMAN_OP_OVERLAY, PIXMAN_OP_SOFT_LIGHT};
                for (size_t i = 0; i < state->images.size(); ++i)
                    pixman_image_composite32(i == 0 ? PIXMAN_OP_SRC : ops[i % ops.size()], state->images[i],
                                             layers.opacity(i) < 1 ? state->fade : nullptr, state->out, 0, 0,
                                             0, 0, 0, 0, w, h);
            },
            true,
            [=](int x, int y) {
                const uint32_t v = pixman_image_get_data(state->out)[size_t(y) * size_t(w) + size_t(x)];
                return std::array{int(v & 255), int(v >> 8 & 255), int(v >> 16 & 255)};
            }};
}
#endif

#ifdef WITH_VIPS
Peer withVips(const Layers& layers) {
    struct State {
        std::vector<std::vector<uint8_t>> bytes;
        std::vector<VipsImage*> images;
        std::vector<int> modes;
        void* out = nullptr;
        ~State() {
            for (VipsImage* image : images) g_object_unref(image);
            g_free(out);
        }
    };
    static const bool started = VIPS_INIT("glyptos-bench") == 0;
    (void)started;
    constexpr std::array modes{VIPS_BLEND_MODE_OVER, VIPS_BLEND_MODE_MULTIPLY, VIPS_BLEND_MODE_SCREEN,
                               VIPS_BLEND_MODE_OVERLAY, VIPS_BLEND_MODE_SOFT_LIGHT};
    auto state = std::make_shared<State>();
    for (size_t i = 0; i < layers.pixels.size(); ++i) {
        state->bytes.push_back(faded(layers, i));
        VipsImage* raw = vips_image_new_from_memory(state->bytes.back().data(), state->bytes.back().size(),
                                                    layers.width, layers.height, 4, VIPS_FORMAT_UCHAR);
        VipsImage* typed = nullptr;
        vips_copy(raw, &typed, "interpretation", VIPS_INTERPRETATION_sRGB, nullptr);
        g_object_unref(raw);
        state->images.push_back(typed);
        if (i > 0) state->modes.push_back(modes[i % modes.size()]);
    }
    const int w = layers.width;
    return {"libvips", 0.12,
            [=] {
                VipsImage* flat = nullptr;
                vips_composite(state->images.data(), &flat, int(state->images.size()), state->modes.data(),
                               "premultiplied", TRUE, "compositing_space", VIPS_INTERPRETATION_sRGB, nullptr);
                size_t size = 0;
                g_free(std::exchange(state->out, vips_image_write_to_memory(flat, &size)));
                g_object_unref(flat);
            },
            false,
            [=](int x, int y) {
                const auto* p =
                    static_cast<const uint8_t*>(state->out) + (size_t(y) * size_t(w) + size_t(x)) * 4;
                return std::array{int(p[0]), int(p[1]), int(p[2])};
            }};
}
#endif

#ifdef WITH_OPENCV
cv::Mat mixed(BlendMode mode, const cv::Mat& b, const cv::Mat& s) {
    const cv::Scalar one = cv::Scalar::all(1);
    switch (mode) {
    case BlendMode::Multiply:
        return b.mul(s);
    case BlendMode::Screen:
        return b + s - b.mul(s);
    case BlendMode::Overlay: {
        cv::Mat out = 2 * (b + s - b.mul(s)) - one;
        cv::Mat(2 * b.mul(s)).copyTo(out, b <= 0.5);
        return out;
    }
    case BlendMode::SoftLight: {
        cv::Mat root;
        cv::sqrt(b, root);
        cv::Mat(((16 * b - cv::Scalar::all(12)).mul(b) + cv::Scalar::all(4)).mul(b)).copyTo(root, b <= 0.25);
        const cv::Mat up = 2 * s - one;
        cv::Mat out = b + up.mul(root - b);
        cv::Mat(b + up.mul(b.mul(one - b))).copyTo(out, s <= 0.5);
        return out;
    }
    default:
        return s;
    }
}

/// OpenCV has no blend modes; these are the formulas on whole float matrices, over an opaque backdrop: out =
/// (1 - a)·b + a·B(b, s). Layers are made float as they come, since all of them at once would not fit in
/// memory.
Peer withOpenCv(const Layers& layers) {
    auto out = std::make_shared<cv::Mat>();
    const auto layer = [&layers](size_t i, cv::Mat& colour, cv::Mat& alpha) {
        const cv::Mat bytes(layers.height, layers.width, CV_8UC4, const_cast<uint8_t*>(layers.pixels[i]));
        cv::Mat all;
        bytes.convertTo(all, CV_32F, 1 / 255.0);
        std::vector<cv::Mat> channels;
        cv::split(all, channels);
        cv::merge(std::vector{channels[3], channels[3], channels[3]}, alpha);
        cv::merge(std::vector{channels[0], channels[1], channels[2]}, colour);
        cv::divide(colour, cv::max(alpha, 1e-6), colour);
        alpha *= layers.opacity(i);
    };
    return {"OpenCV", 0,
            [=, &layers] {
                cv::Mat b, s, alpha;
                layer(0, b, alpha);
                for (size_t i = 1; i < layers.pixels.size(); ++i) {
                    layer(i, s, alpha);
                    b = b + alpha.mul(mixed(layers.mode(i), b, s) - b);
                }
                b.convertTo(*out, CV_8U, 255);
            },
            true,
            [=](int x, int y) {
                const auto p = out->at<cv::Vec3b>(y, x);
                return std::array{int(p[0]), int(p[1]), int(p[2])};
            }};
}
#endif

} // namespace

std::vector<Peer> peersFor(const Layers& layers) {
    std::vector<Peer> out{withQPainter(layers)};
#ifdef WITH_VIPS
    out.push_back(withVips(layers));
#endif
#ifdef WITH_PIXMAN
    out.push_back(withPixman(layers));
#endif
#ifdef WITH_OPENCV
    out.push_back(withOpenCv(layers));
#endif
    return out;
}

} // namespace glyptos::bench
