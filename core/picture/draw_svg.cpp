#include "core/picture/draw_svg.h"

#include <librsvg/rsvg.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <memory>

namespace punch {

Result<Picture> drawnSvg(const std::string& bytes, const std::string& name, double most) {
    const auto wrong = [&](const std::string& why) {
        return problem("the SVG cannot be drawn: " + why, name, "Save it again as a plain SVG, or as a PNG");
    };
    GError* error = nullptr;
    struct Free {
        void operator()(RsvgHandle* h) const { g_object_unref(h); }
        void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
        void operator()(cairo_t* c) const { cairo_destroy(c); }
    };
    const std::unique_ptr<RsvgHandle, Free> svg(
        rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(bytes.data()), bytes.size(), &error));
    if (!svg) {
        const std::string why = error == nullptr ? "it is broken" : error->message;
        g_clear_error(&error);
        return wrong(why);
    }
    gboolean hasWidth = FALSE, hasHeight = FALSE, hasBox = FALSE;
    RsvgLength width{}, height{};
    RsvgRectangle box{};
    rsvg_handle_get_intrinsic_dimensions(svg.get(), &hasWidth, &width, &hasHeight, &height, &hasBox, &box);
    double w = 0, h = 0;
    if (hasBox && box.width > 0 && box.height > 0) {
        w = box.width;
        h = box.height;
    } else if (!rsvg_handle_get_intrinsic_size_in_pixels(svg.get(), &w, &h) || !(w > 0 && h > 0)) {
        return wrong("it states no size");
    }
    const double scale = most / std::max(w, h);
    Picture picture;
    picture.width = std::max(1, static_cast<int>(std::ceil(w * scale)));
    picture.height = std::max(1, static_cast<int>(std::ceil(h * scale)));
    const std::unique_ptr<cairo_surface_t, Free> surface(
        cairo_image_surface_create(CAIRO_FORMAT_ARGB32, picture.width, picture.height));
    const std::unique_ptr<cairo_t, Free> cr(cairo_create(surface.get()));
    cairo_set_source_rgb(cr.get(), 1, 1, 1);
    cairo_paint(cr.get());
    const RsvgRectangle view{0, 0, static_cast<double>(picture.width), static_cast<double>(picture.height)};
    if (!rsvg_handle_render_document(svg.get(), cr.get(), &view, &error)) {
        const std::string why = error == nullptr ? "it is broken" : error->message;
        g_clear_error(&error);
        return wrong(why);
    }
    cairo_surface_flush(surface.get());
    picture.channels = 3;
    picture.data.resize(static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height) * 3);
    const unsigned char* from = cairo_image_surface_get_data(surface.get());
    const int stride = cairo_image_surface_get_stride(surface.get());
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            std::uint32_t pixel = 0;
            std::memcpy(&pixel, from + static_cast<std::ptrdiff_t>(y) * stride + 4 * x, 4);
            std::uint8_t* to = picture.row(y) + 3 * x;
            for (int k = 0; k < 3; ++k) to[k] = static_cast<std::uint8_t>(pixel >> (16 - 8 * k));
        }
    picture.format = "SVG";
    return picture;
}

}  // namespace punch
