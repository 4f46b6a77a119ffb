#pragma once
#include "base/image.h"
#include "render/hall.h"
#include "render/skin_mesh.h"
#include <Eigen/Geometry>
#include <cstdint>
#include <span>

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

/// Someone else in the picture: another dressed body, or the same one in a mirror.
struct Extra {
    const SkinMesh* mesh = nullptr;
    Figure figure;                                       ///< of that mesh's body
    Eigen::Affine3f place = Eigen::Affine3f::Identity(); ///< from the figure's room to the hall; may reflect
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

    /// With extras, those that are further from the camera are drawn first: bodies that touch each other are
    /// not resolved.
    RgbImage draw(const Figure& figure, std::uint32_t frame, Workspace& work,
                  std::span<const Extra> extras = {}) const;

    const SkinMesh& mesh() const { return m_mesh; }

private:
    struct ShadowMap;
    void add(const Extra& body, Workspace& work, RgbImage& image) const;
    ShadowMap castShadow(const SkinMesh& mesh, Workspace& work) const;
    void shade(const SkinMesh& mesh, const ShadowMap& shadow, Workspace& work) const;
    void shadeFloor(const ShadowMap& shadow, const Workspace& work, RgbImage& image) const;
    void drawBody(const SkinMesh& mesh, bool reflected, Workspace& work, RgbImage& image) const;
    void addNoise(std::uint32_t frame, RgbImage& image) const;

    SceneOptions m_options;
    SkinMesh m_mesh;
    RgbImage m_background;
    std::vector<std::int8_t> m_noise;
};

} // namespace jl
