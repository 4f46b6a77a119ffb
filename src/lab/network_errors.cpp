#include "lab/network_errors.h"
#include "base/angles.h"
#include "base/json_file.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kUnit = 1e-3; ///< of the file: thousandths of the body's height
constexpr auto kSize = static_cast<Eigen::Index>(2 * kLandmarkCount);

/// The two views an angle of the right side lies between, and how far on the way to the second.
struct Between {
    explicit Between(double angle)
    {
        const double at = std::abs(angle) / NetworkErrors::kStep;
        first = std::min(NetworkErrors::kViews - 2, static_cast<std::size_t>(at));
        share = std::clamp(at - static_cast<double>(first), 0.0, 1.0);
    }
    std::size_t first;
    double share;
};

double thousandths(double share)
{
    return std::round(share / kUnit * 1e4) / 1e4;
}

std::string fileName(const std::filesystem::path& folder)
{
    return (folder / "measure/network-errors.json").string();
}

NetworkErrors::View viewFrom(const nlohmann::json& in)
{
    NetworkErrors::View view;
    for (Eigen::Index i = 0; i < kSize; ++i) {
        const auto row = static_cast<std::size_t>(i);
        for (Eigen::Index j = 0; j <= i; ++j)
            view.root(i, j) = view.root(j, i) =
                kUnit * in.at("root").at(row).at(static_cast<std::size_t>(j)).get<double>();
    }
    view.armSeen = in.at("arms_seen").get<std::array<double, 2>>();
    return view;
}

nlohmann::ordered_json jsonOf(const NetworkErrors::View& view)
{
    nlohmann::ordered_json out;
    out["arms_seen"] = view.armSeen;
    for (Eigen::Index i = 0; i < kSize; ++i) {
        nlohmann::ordered_json row;
        for (Eigen::Index j = 0; j <= i; ++j)
            row.push_back(thousandths(view.root(i, j)));
        out["root"].push_back(std::move(row));
    }
    return out;
}

} // namespace

PointErrors mirrored(const PointErrors& errors)
{
    PointErrors out;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        const auto from = static_cast<Eigen::Index>(2 * k);
        const auto to = static_cast<Eigen::Index>(2 * index(mirrored(static_cast<Landmark>(k))));
        out[to] = -errors[from];
        out[to + 1] = errors[from + 1];
    }
    return out;
}

double viewAngle(const BodyFrame& exact)
{
    const auto at = [&](Landmark l) { return exact.metric[index(l)]; };
    const Eigen::Vector3f across = at(Landmark::RightShoulder) - at(Landmark::LeftShoulder) +
                                   at(Landmark::RightHip) - at(Landmark::LeftHip);
    return kDegPerRad * std::atan2(-across.z(), -across.x());
}

double standingShare(const BodyFrame& exact)
{
    // Lengths of the trunk by which limbs end off from hanging straight, on average of the four.
    constexpr double stands = 0.3, moves = 0.6;
    const auto at = [&](Landmark l) { return exact.metric[index(l)]; };
    const auto off = [&](Landmark root, Landmark middle, Landmark end) {
        const float length = (at(middle) - at(root)).norm() + (at(end) - at(middle)).norm();
        return (at(end) - at(root) - length * Eigen::Vector3f::UnitY()).norm();
    };
    double sum = 0, trunk = 0;
    for (Side side : {Side::Left, Side::Right}) {
        const auto of = [&](Landmark left) { return sided(left, side); };
        sum += off(of(Landmark::LeftShoulder), of(Landmark::LeftElbow), of(Landmark::LeftWrist)) +
               off(of(Landmark::LeftHip), of(Landmark::LeftKnee), of(Landmark::LeftAnkle));
        trunk += (at(of(Landmark::LeftShoulder)) - at(of(Landmark::LeftHip))).norm();
    }
    const double mean = trunk > 0 ? (sum / 4) / (trunk / 2) : moves;
    return std::clamp((moves - mean) / (moves - stands), 0.0, 1.0);
}

NetworkErrors::NetworkErrors(Poses poses, std::array<double, kLandmarkCount> steady)
    : m_poses(std::move(poses)), m_steady(steady)
{
}

Result<NetworkErrors> NetworkErrors::load(const std::filesystem::path& folder)
{
    const auto file = readJson(fileName(folder));
    if (!file) return file.error();
    try {
        NetworkErrors errors;
        for (std::size_t n = 0; n < kViews; ++n) {
            errors.m_poses.moving[n] = viewFrom(file->at("moving").at(n));
            errors.m_poses.standing[n] = viewFrom(file->at("standing").at(n));
        }
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            errors.m_steady[k] =
                file->at("steady").at(std::string(landmarkName(static_cast<Landmark>(k)))).get<double>();
        return errors;
    } catch (const nlohmann::json::exception& e) {
        return Error{Error::Kind::BadInput,
                     "the errors of the networks cannot be read: " + std::string(e.what()), fileName(folder),
                     "Install the program's data anew."};
    }
}

std::string NetworkErrors::json() const
{
    nlohmann::ordered_json steady;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        steady[std::string(landmarkName(static_cast<Landmark>(k)))] = std::round(m_steady[k] * 1e3) / 1e3;
    const auto text = [](const Views& views) {
        std::string all; // a line for each row
        for (const View& view : views) {
            std::string one = jsonOf(view).dump();
            for (std::size_t at = 0; (at = one.find("],[", at)) != std::string::npos; at += 3)
                one.insert(at + 2, "\n   ");
            all += (all.empty() ? "\n  " : ",\n  ") + one;
        }
        return all;
    };
    return "{\n \"steady\": " + steady.dump() + ",\n \"moving\": [" + text(m_poses.moving) +
           "\n ],\n \"standing\": [" + text(m_poses.standing) + "\n ]\n}\n";
}

PointErrors NetworkErrors::spread(double angle, double standing, const PointErrors& unit) const
{
    const PointErrors of = angle < 0 ? mirrored(unit) : unit;
    const Between between(angle);
    const auto in = [&](const Views& views) -> PointErrors {
        return (1 - between.share) * (views[between.first].root * of) +
               between.share * (views[between.first + 1].root * of);
    };
    const PointErrors right = (1 - standing) * in(m_poses.moving) + standing * in(m_poses.standing);
    return angle < 0 ? mirrored(right) : right;
}

double NetworkErrors::armSeen(double angle, double standing, Side side) const
{
    const auto arm = static_cast<std::size_t>((side == Side::Right) != (angle < 0));
    const Between between(angle);
    const auto in = [&](const Views& views) {
        return std::lerp(views[between.first].armSeen[arm], views[between.first + 1].armSeen[arm],
                         between.share);
    };
    return std::lerp(in(m_poses.moving), in(m_poses.standing), standing);
}

} // namespace jl
