#include "vision/sampler.h"
#include <algorithm>

namespace jl
{
namespace
{

/// One plane of a picture, sampled bilinearly at positions measured between pixel centres; the border is
/// repeated.
struct Plane {
    const std::uint8_t* data;
    int stride, lastX, lastY; ///< largest index that still has a neighbour
    float maxX, maxY;

    Plane(const std::uint8_t* plane, int bytes, int width, int height)
        : data(plane), stride(bytes), lastX(std::max(width - 2, 0)), lastY(std::max(height - 2, 0)),
          maxX(static_cast<float>(width - 1)), maxY(static_cast<float>(height - 1))
    {
    }

    float at(float x, float y) const
    {
        x = std::min(std::max(x, 0.f), maxX);
        y = std::min(std::max(y, 0.f), maxY);
        const int ix = std::min(static_cast<int>(x), lastX), iy = std::min(static_cast<int>(y), lastY);
        const float fx = x - static_cast<float>(ix), fy = y - static_cast<float>(iy);
        const std::uint8_t* p = data + static_cast<std::ptrdiff_t>(iy) * stride + ix;
        const auto p00 = static_cast<float>(p[0]), p01 = static_cast<float>(p[1]),
                   p10 = static_cast<float>(p[stride]), p11 = static_cast<float>(p[stride + 1]);
        const float top = p00 + fx * (p01 - p00), bottom = p10 + fx * (p11 - p10);
        return top + fy * (bottom - top);
    }
};

struct ColourMatrix {
    float lumaScale, lumaOffset, redFromV, greenFromU, greenFromV, blueFromU;
};

ColourMatrix matrixFor(const Frame& f)
{
    const float luma = f.fullRange ? 1.f : 255.f / 219.f, chroma = f.fullRange ? 1.f : 255.f / 224.f;
    const float kr = f.bt709 ? 0.2126f : 0.299f, kb = f.bt709 ? 0.0722f : 0.114f, kg = 1 - kr - kb;
    return {luma,
            f.fullRange ? 0.f : 16.f,
            2 * (1 - kr) * chroma,
            -2 * kb * (1 - kb) / kg * chroma,
            -2 * kr * (1 - kr) / kg * chroma,
            2 * (1 - kb) * chroma};
}

/// Map from the upright picture to the stored one, both in pixel coordinates (edges, not centres).
struct Unturn {
    double a, b, tx, c, d, ty;
};

Unturn unturn(const Frame& f)
{
    const double w = f.width, h = f.height;
    switch (f.quarterTurns) {
    case 1:
        return {0, 1, 0, -1, 0, h};
    case 2:
        return {-1, 0, w, 0, -1, h};
    case 3:
        return {0, -1, w, 1, 0, 0};
    default:
        return {1, 0, 0, 0, 1, 0};
    }
}

} // namespace

void sampleRegion(const Frame& frame, const Region& region, int n, int oversample, float scale, float offset,
                  float* out)
{
    const Plane luma(frame.plane[0], frame.stride[0], frame.width, frame.height);
    const int chromaWidth = (frame.width + 1) / 2, chromaHeight = (frame.height + 1) / 2;
    const Plane u(frame.plane[1], frame.stride[1], chromaWidth, chromaHeight),
        v(frame.plane[2], frame.stride[2], chromaWidth, chromaHeight);
    const ColourMatrix m = matrixFor(frame);
    const auto width = static_cast<float>(frame.width), height = static_cast<float>(frame.height);

    // One affine map from crop to stored pixels: region first, then the turn that was undone for display.
    const Unturn t = unturn(frame);
    const Eigen::Matrix2d linear = (Eigen::Matrix2d() << t.a, t.b, t.c, t.d).finished() * region.toPicture(n);
    const Eigen::Vector2d origin = (Eigen::Matrix2d() << t.a, t.b, t.c, t.d).finished() * region.centre +
                                   Eigen::Vector2d(t.tx, t.ty) - linear * Eigen::Vector2d::Constant(0.5 * n);
    const auto xx = static_cast<float>(linear(0, 0)), xy = static_cast<float>(linear(0, 1)),
               yx = static_cast<float>(linear(1, 0)), yy = static_cast<float>(linear(1, 1));
    const auto x0 = static_cast<float>(origin.x()), y0 = static_cast<float>(origin.y());
    const float step = 1.f / static_cast<float>(oversample), share = step * step * scale;

    for (int y = 0; y < n; ++y) {
        for (int x = 0; x < n; ++x, out += 3) {
            float r = 0, g = 0, b = 0;
            for (int k = 0; k < oversample * oversample; ++k) {
                const int column = k % oversample, row = k / oversample;
                const float cx = static_cast<float>(x) + (static_cast<float>(column) + 0.5f) * step;
                const float cy = static_cast<float>(y) + (static_cast<float>(row) + 0.5f) * step;
                const float px = x0 + xx * cx + xy * cy, py = y0 + yx * cx + yy * cy;
                if (px < 0 || py < 0 || px >= width || py >= height) continue;
                const float Y = (luma.at(px - 0.5f, py - 0.5f) - m.lumaOffset) * m.lumaScale;
                const float U = u.at(0.5f * px - 0.5f, 0.5f * py - 0.5f) - 128.f,
                            V = v.at(0.5f * px - 0.5f, 0.5f * py - 0.5f) - 128.f;
                r += std::min(std::max(Y + m.redFromV * V, 0.f), 255.f);
                g += std::min(std::max(Y + m.greenFromU * U + m.greenFromV * V, 0.f), 255.f);
                b += std::min(std::max(Y + m.blueFromU * U, 0.f), 255.f);
            }
            out[0] = r * share + offset;
            out[1] = g * share + offset;
            out[2] = b * share + offset;
        }
    }
}

} // namespace jl
