#pragma once
#include "base/image.h"
#include "render/hall.h"
#include "render/skin_mesh.h"
#include <cstdint>

namespace jl
{

struct SceneOptions {
    int width = 1280;
    int height = 720;
    Camera camera;
    Hall hall = halls().front();
    double noise = 2.0;     ///< standard deviation of the sensor noise, 8 bit levels
    std::uint32_t seed = 1; ///< of the noise
};

/// Draws a dressed performer in a hall: z-buffered, smooth shaded, twice oversampled, with soft shadows.
/// draw() may run in several threads at once, each with its own Workspace.
class Scene
{
public:
    Scene(const BodyShape& body, const SceneOptions& options);

    /// Buffers that are used again from picture to picture.
    struct Workspace {
        std::vector<Eigen::Vector3f> positions, normals, shaded, screen;
        std::vector<float> depth, shadowDepth;
        std::vector<std::uint32_t> colour;
    };

    RgbImage draw(const Figure& figure, std::uint32_t frame, Workspace& work) const;

private:
    struct ShadowMap;
    ShadowMap castShadow(Workspace& work) const;
    void shade(const ShadowMap& shadow, Workspace& work) const;
    void shadeFloor(const ShadowMap& shadow, const Workspace& work, RgbImage& image) const;
    void drawBody(Workspace& work, RgbImage& image) const;
    void addNoise(std::uint32_t frame, RgbImage& image) const;

    SceneOptions m_options;
    SkinMesh m_mesh;
    RgbImage m_background;
    std::vector<std::int8_t> m_noise;
};

} // namespace jl
