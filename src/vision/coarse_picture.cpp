#include "vision/coarse_picture.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Share of a body's extent by which hair, clothes and fingers stand out beyond its points.
constexpr double kBodyMargin = 0.10;

} // namespace

CoarsePicture::CoarsePicture(const Frame& f, int longer)
{
    const int step = std::max(1, std::max(f.uprightWidth(), f.uprightHeight()) / longer);
    scale = step;
    width = f.uprightWidth() / step;
    height = f.uprightHeight() / step;
    light.resize(static_cast<std::size_t>(width) * static_cast<std::size_t>(height));
    // One step across or down the upright picture, in the picture as it is stored.
    const std::ptrdiff_t row = f.stride[0];
    const std::ptrdiff_t across = f.quarterTurns == 0   ? 1
                                  : f.quarterTurns == 1 ? -row
                                  : f.quarterTurns == 2 ? -1
                                                        : row;
    const std::ptrdiff_t down = f.quarterTurns == 0   ? row
                                : f.quarterTurns == 1 ? 1
                                : f.quarterTurns == 2 ? -row
                                                      : -1;
    const std::uint8_t* corner = f.plane[0];
    if (f.quarterTurns == 1 || f.quarterTurns == 2) corner += row * (f.height - 1);
    if (f.quarterTurns == 2 || f.quarterTurns == 3) corner += f.width - 1;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            int sum = 0;
            const std::uint8_t* at = corner + y * step * down + x * step * across;
            for (int j = 0; j < step; ++j)
                for (int i = 0; i < step; ++i)
                    sum += at[j * down + i * across];
            light[static_cast<std::size_t>(y) * width + x] =
                static_cast<float>(sum) / static_cast<float>(step * step);
        }
}

/// By running sums along rows and then columns.
CoarsePicture CoarsePicture::softened(int reach) const
{
    CoarsePicture out = *this;
    const auto run = [&](int count, int length, int stepAlong, int stepAcross) {
        std::vector<float> line(static_cast<std::size_t>(length));
        for (int k = 0; k < count; ++k) {
            float* first = out.light.data() + k * stepAcross;
            float sum = 0;
            for (int i = 0; i < length; ++i)
                line[static_cast<std::size_t>(i)] = first[i * stepAlong];
            const auto at = [&](int i) {
                return line[static_cast<std::size_t>(std::clamp(i, 0, length - 1))];
            };
            for (int i = -reach; i <= reach; ++i)
                sum += at(i);
            for (int i = 0; i < length; ++i) {
                first[i * stepAlong] = sum / static_cast<float>(2 * reach + 1);
                sum += at(i + reach + 1) - at(i - reach);
            }
        }
    };
    run(out.height, out.width, 1, out.width);
    run(out.width, out.height, out.width, 1);
    return out;
}

BodyBox::BodyBox(const BodyFrame& body, double scale)
{
    if (!body.seen) return;
    const auto [l, r] = std::minmax_element(body.point.begin(), body.point.end(),
                                            [](const auto& a, const auto& b) { return a.x() < b.x(); });
    const auto [t, b] = std::minmax_element(body.point.begin(), body.point.end(),
                                            [](const auto& a, const auto& c) { return a.y() < c.y(); });
    const double margin = kBodyMargin * std::max(r->x() - l->x(), b->y() - t->y());
    left = (l->x() - margin) / scale;
    right = (r->x() + margin) / scale;
    top = (t->y() - margin) / scale;
    bottom = (b->y() + margin) / scale;
}

} // namespace jl
