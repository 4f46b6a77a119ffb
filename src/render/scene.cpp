#include "render/scene.h"
#include <algorithm>
#include <cmath>
#include <random>

namespace jl
{

using Eigen::Vector2f;
using Eigen::Vector3d;
using Eigen::Vector3f;

namespace
{

constexpr int kOversample = 2;
constexpr std::size_t kNoiseSize = 1u << 18;

std::uint8_t toByte(float value)
{
    // Never negative. NOLINTNEXTLINE(bugprone-incorrect-roundings)
    return static_cast<std::uint8_t>(std::clamp(value, 0.f, 1.f) * 255.f + 0.5f);
}

RgbImage drawHall(const SceneOptions& o)
{
    RgbImage image(o.width, o.height);
    for (int y = 0; y < o.height; ++y) {
        for (int x = 0; x < o.width; ++x) {
            Vector3f sum = Vector3f::Zero();
            for (int s = 0; s < 4; ++s) {
                const Eigen::Vector2d pixel(x + 0.25 + 0.5 * (s & 1), y + 0.25 + 0.5 * (s >> 1));
                sum += hallColour(o.hall, o.camera.position, o.camera.ray(pixel).normalized());
            }
            for (int c = 0; c < 3; ++c)
                image.row(y)[3 * x + c] = toByte(sum[c] * 0.25f);
        }
    }
    return image;
}

/// Calls plot(x, y, b0, b1, b2) with the barycentric weights of every pixel centre inside a triangle.
template <class Plot>
void fill(const Vector3f& a, const Vector3f& b, const Vector3f& c, int width, int height, Plot plot)
{
    const float area = (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
    if (std::abs(area) < 1e-9f) return;
    const int x0 = std::max(0, static_cast<int>(std::ceil(std::min({a.x(), b.x(), c.x()}) - 0.5f)));
    const int x1 = std::min(width - 1, static_cast<int>(std::floor(std::max({a.x(), b.x(), c.x()}) - 0.5f)));
    const int y0 = std::max(0, static_cast<int>(std::ceil(std::min({a.y(), b.y(), c.y()}) - 0.5f)));
    const int y1 = std::min(height - 1, static_cast<int>(std::floor(std::max({a.y(), b.y(), c.y()}) - 0.5f)));
    const float inverse = 1.f / area;
    for (int y = y0; y <= y1; ++y) {
        const float py = static_cast<float>(y) + 0.5f;
        for (int x = x0; x <= x1; ++x) {
            const float px = static_cast<float>(x) + 0.5f;
            const float w0 = ((b.x() - px) * (c.y() - py) - (b.y() - py) * (c.x() - px)) * inverse;
            const float w1 = ((c.x() - px) * (a.y() - py) - (c.y() - py) * (a.x() - px)) * inverse;
            const float w2 = 1.f - w0 - w1;
            if (w0 >= 0 && w1 >= 0 && w2 >= 0) plot(x, y, w0, w1, w2);
        }
    }
}

} // namespace

/// Depth of the body seen from the light, on a plane square to it.
struct Scene::ShadowMap {
    static constexpr float kCell = 0.009f; ///< m
    Vector3f u, v, towards;
    float u0 = 0, v0 = 0;
    int width = 0, height = 0;
    const std::vector<float>* depth = nullptr; ///< largest distance towards the light a cell

    /// Share of light that reaches a point, 0 to 1; softened over a few cells.
    float light(const Vector3f& p, float bias, int radius) const
    {
        const int x = static_cast<int>((u.dot(p) - u0) / kCell),
                  y = static_cast<int>((v.dot(p) - v0) / kCell);
        const float own = towards.dot(p) + bias;
        int lit = 0, all = 0;
        for (int j = y - radius; j <= y + radius; ++j) {
            for (int i = x - radius; i <= x + radius; ++i) {
                ++all;
                if (i < 0 || j < 0 || i >= width || j >= height ||
                    (*depth)[static_cast<std::size_t>(j) * width + i] < own)
                    ++lit;
            }
        }
        return static_cast<float>(lit) / static_cast<float>(all);
    }
};

Scene::Scene(const BodyShape& body, const SceneOptions& options)
    : m_options(options), m_mesh(SkinMesh::build(body)), m_background(drawHall(options)), m_noise(kNoiseSize)
{
    std::mt19937 random(options.seed);
    std::normal_distribution<double> normal(0, options.noise);
    for (std::int8_t& n : m_noise)
        n = static_cast<std::int8_t>(std::lround(std::clamp(normal(random), -100.0, 100.0)));
}

Scene::ShadowMap Scene::castShadow(const SkinMesh& mesh, Workspace& w) const
{
    ShadowMap map;
    map.towards = m_options.hall.towardsLight.normalized().cast<float>();
    map.u = map.towards.cross(Vector3f::UnitX()).normalized();
    map.v = map.towards.cross(map.u);
    float u1 = -1e9f, v1 = -1e9f;
    map.u0 = map.v0 = 1e9f;
    for (const Vector3f& p : w.positions) {
        map.u0 = std::min(map.u0, map.u.dot(p));
        map.v0 = std::min(map.v0, map.v.dot(p));
        u1 = std::max(u1, map.u.dot(p));
        v1 = std::max(v1, map.v.dot(p));
    }
    map.width = static_cast<int>((u1 - map.u0) / ShadowMap::kCell) + 1;
    map.height = static_cast<int>((v1 - map.v0) / ShadowMap::kCell) + 1;
    w.shadowDepth.assign(static_cast<std::size_t>(map.width) * map.height, -1e9f);
    w.screen.resize(w.positions.size());
    for (std::size_t i = 0; i < w.positions.size(); ++i) {
        const Vector3f& p = w.positions[i];
        w.screen[i] = {(map.u.dot(p) - map.u0) / ShadowMap::kCell, (map.v.dot(p) - map.v0) / ShadowMap::kCell,
                       map.towards.dot(p)};
    }
    for (const SkinMesh::Triangle& t : mesh.triangles()) {
        const Vector3f &a = w.screen[t[0]], &b = w.screen[t[1]], &c = w.screen[t[2]];
        const float top = std::max({a.z(), b.z(), c.z()});
        fill(a, b, c, map.width, map.height, [&](int x, int y, float, float, float) {
            float& d = w.shadowDepth[static_cast<std::size_t>(y) * map.width + x];
            d = std::max(d, top);
        });
    }
    map.depth = &w.shadowDepth;
    return map;
}

void Scene::shade(const SkinMesh& mesh, const ShadowMap& shadow, Workspace& w) const
{
    const Vector3f towardsCamera = -m_options.camera.rotation.row(2).transpose().cast<float>();
    const Vector3f tint = m_options.hall.light;
    w.shaded.resize(w.positions.size());
    for (std::size_t i = 0; i < w.positions.size(); ++i) {
        const Vector3f& n = w.normals[i];
        const float facing = n.dot(shadow.towards);
        const float sun = facing > 0 ? facing * shadow.light(w.positions[i], 0.03f, 1) : 0.f;
        const float sky = 0.5f + 0.5f * n.z();
        const float fillLight = std::max(0.f, n.dot(towardsCamera));
        // Light bounced from the floor warms the lower sides; deep folds near the floor stay darker.
        const float amount = 0.34f + 0.30f * sky + 0.46f * sun + 0.16f * fillLight;
        w.shaded[i] = (mesh.colours()[i] * amount).cwiseProduct(tint);
    }
}

void Scene::shadeFloor(const ShadowMap& shadow, const Workspace& w, RgbImage& image) const
{
    // The floor that can lie in shadow: the body's outline moved down the light onto the floor.
    const Camera& camera = m_options.camera;
    const Vector3f slope = shadow.towards / shadow.towards.z();
    Eigen::Vector2d low(1e9, 1e9), high(-1e9, -1e9);
    for (std::size_t i = 0; i < w.positions.size(); i += 7) {
        const Vector3f onFloor = w.positions[i] - slope * w.positions[i].z();
        const Eigen::Vector2d p = camera.project(onFloor.cast<double>());
        low = low.cwiseMin(p);
        high = high.cwiseMax(p);
    }
    const int x0 = std::clamp(static_cast<int>(low.x()) - 8, 0, image.width),
              x1 = std::clamp(static_cast<int>(high.x()) + 8, 0, image.width);
    const int y0 = std::clamp(static_cast<int>(low.y()) - 6, 0, image.height),
              y1 = std::clamp(static_cast<int>(high.y()) + 6, 0, image.height);
    for (int y = y0; y < y1; ++y) {
        for (int x = x0; x < x1; ++x) {
            const Vector3d ray = camera.ray({x + 0.5, y + 0.5});
            if (ray.z() >= -1e-6) continue;
            const Vector3d p = camera.position - ray * (camera.position.z() / ray.z());
            if (std::max(std::abs(p.x()), std::abs(p.y())) > m_options.hall.halfSize) continue;
            const float light = shadow.light(p.cast<float>(), 0.004f, 2);
            if (light >= 1) continue;
            const float dim = 1 - 0.46f * (1 - light);
            std::uint8_t* pixel = image.row(y) + 3 * x;
            for (int c = 0; c < 3; ++c)
                pixel[c] = static_cast<std::uint8_t>(static_cast<float>(pixel[c]) * dim);
        }
    }
}

void Scene::drawBody(const SkinMesh& mesh, bool reflected, Workspace& w, RgbImage& image) const
{
    const Camera& camera = m_options.camera;
    const Eigen::Matrix3f rotation = camera.rotation.cast<float>();
    const Vector3f position = camera.position.cast<float>();
    const auto focal = static_cast<float>(camera.focal * kOversample);
    const Vector2f centre = (camera.centre * kOversample).cast<float>();
    Vector2f low(1e9f, 1e9f), high(-1e9f, -1e9f);
    for (std::size_t i = 0; i < w.positions.size(); ++i) {
        const Vector3f p = rotation * (w.positions[i] - position);
        const float inverse = p.z() > 0.05f ? 1.f / p.z() : 0.f; // depth as 1/z, which is linear on screen
        w.screen[i] = {centre.x() + focal * p.x() * inverse, centre.y() + focal * p.y() * inverse, inverse};
        if (inverse == 0.f) continue;
        low = low.cwiseMin(w.screen[i].head<2>());
        high = high.cwiseMax(w.screen[i].head<2>());
    }
    const int x0 = std::clamp(static_cast<int>(low.x()) / kOversample - 1, 0, image.width),
              x1 = std::clamp(static_cast<int>(high.x()) / kOversample + 2, 0, image.width);
    const int y0 = std::clamp(static_cast<int>(low.y()) / kOversample - 1, 0, image.height),
              y1 = std::clamp(static_cast<int>(high.y()) / kOversample + 2, 0, image.height);
    const int width = (x1 - x0) * kOversample, height = (y1 - y0) * kOversample;
    if (width <= 0 || height <= 0) return;
    w.depth.assign(static_cast<std::size_t>(width) * height, 0.f);
    w.colour.resize(w.depth.size());
    const Vector3f corner(static_cast<float>(x0 * kOversample), static_cast<float>(y0 * kOversample), 0);
    for (const SkinMesh::Triangle& t : mesh.triangles()) {
        const Vector3f a = w.screen[t[0]] - corner, b = w.screen[t[1]] - corner, c = w.screen[t[2]] - corner;
        if (a.z() == 0 || b.z() == 0 || c.z() == 0) continue;
        const float area = (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
        if (reflected ? area <= 0 : area >= 0) continue; // seen from behind
        const Vector3f &ca = w.shaded[t[0]], &cb = w.shaded[t[1]], &cc = w.shaded[t[2]];
        fill(a, b, c, width, height, [&](int x, int y, float wa, float wb, float wc) {
            const std::size_t at = static_cast<std::size_t>(y) * width + x;
            const float depth = wa * a.z() + wb * b.z() + wc * c.z();
            if (depth <= w.depth[at]) return;
            w.depth[at] = depth;
            const Vector3f colour = wa * ca + wb * cb + wc * cc;
            w.colour[at] = static_cast<std::uint32_t>(toByte(colour.x())) |
                           static_cast<std::uint32_t>(toByte(colour.y())) << 8 |
                           static_cast<std::uint32_t>(toByte(colour.z())) << 16;
        });
    }
    constexpr int samples = kOversample * kOversample;
    for (int y = 0; y < height / kOversample; ++y) {
        for (int x = 0; x < width / kOversample; ++x) {
            std::uint8_t* pixel = image.row(y0 + y) + 3 * (x0 + x);
            int sum[3] = {}, covered = 0;
            for (int s = 0; s < samples; ++s) {
                const std::size_t at = static_cast<std::size_t>(kOversample * y + s / kOversample) * width +
                                       kOversample * x + s % kOversample;
                if (w.depth[at] <= 0) continue;
                ++covered;
                for (int c = 0; c < 3; ++c)
                    sum[c] += static_cast<int>(w.colour[at] >> (8 * c) & 255u);
            }
            if (covered == 0) continue;
            for (int c = 0; c < 3; ++c)
                pixel[c] = static_cast<std::uint8_t>((sum[c] + (samples - covered) * pixel[c]) / samples);
        }
    }
}

void Scene::addNoise(std::uint32_t frame, RgbImage& image) const
{
    if (m_options.noise <= 0) return;
    std::uint32_t state = m_options.seed * 2654435761u + frame * 40503u + 1;
    for (int y = 0; y < image.height; ++y) {
        state = state * 1664525u + 1013904223u;
        std::size_t at = state % kNoiseSize;
        std::uint8_t* row = image.row(y);
        for (int i = 0; i < 3 * image.width; ++i) {
            row[i] = static_cast<std::uint8_t>(std::clamp(row[i] + m_noise[at], 0, 255));
            at = (at + 1) & (kNoiseSize - 1);
        }
    }
}

void Scene::add(const Extra& body, Workspace& work, RgbImage& image) const
{
    body.mesh->bend(body.figure, work.positions, work.normals);
    const Eigen::Matrix3f turn = body.place.linear();
    const bool moved = !body.place.isApprox(Eigen::Affine3f::Identity());
    for (std::size_t i = 0; moved && i < work.positions.size(); ++i) {
        work.positions[i] = body.place * work.positions[i];
        work.normals[i] = turn * work.normals[i];
    }
    const ShadowMap shadow = castShadow(*body.mesh, work);
    shade(*body.mesh, shadow, work);
    shadeFloor(shadow, work, image);
    drawBody(*body.mesh, turn.determinant() < 0, work, image);
}

RgbImage Scene::draw(const Figure& figure, std::uint32_t frame, Workspace& work,
                     std::span<const Extra> extras) const
{
    RgbImage image = m_background;
    std::vector<Extra> bodies(extras.begin(), extras.end());
    bodies.push_back({&m_mesh, figure, Eigen::Affine3f::Identity()});
    const auto away = [&](const Extra& b) {
        return m_options.camera.toCamera((b.place * b.figure.midHip.cast<float>()).cast<double>()).z();
    };
    std::sort(bodies.begin(), bodies.end(),
              [&](const Extra& a, const Extra& b) { return away(a) > away(b); });
    for (const Extra& body : bodies)
        add(body, work, image);
    addNoise(frame, image);
    return image;
}

} // namespace jl
