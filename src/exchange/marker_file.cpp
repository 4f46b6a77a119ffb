#include "exchange/marker_file.h"
#include "base/json_file.h"
#include <algorithm>
#include <cmath>
#include <fstream>
#include <limits>
#include <map>
#include <sstream>

namespace jl
{
namespace
{

using Eigen::Vector3d;
constexpr double kNone = std::numeric_limits<double>::quiet_NaN();

struct Markers {
    double framesPerSecond = 0;
    std::vector<double> time;
    std::map<std::string, std::vector<Vector3d>> course; ///< as in the file, m
};

std::vector<std::string> cells(std::string line)
{
    if (!line.empty() && line.back() == '\r') line.pop_back();
    std::vector<std::string> out;
    std::string cell;
    std::istringstream in(line);
    while (std::getline(in, cell, '\t'))
        out.push_back(cell);
    return out;
}

double number(const std::string& cell)
{
    char* end = nullptr;
    const double value = std::strtod(cell.c_str(), &end);
    return end == cell.c_str() ? kNone : value;
}

Result<Markers> readTrc(const std::filesystem::path& file)
{
    std::ifstream in(file);
    const auto wrong = [&](const std::string& what, int line) {
        return Error{Error::Kind::BadInput, what, file.string() + ", line " + std::to_string(line),
                     "Export the markers again as TRC text."};
    };
    if (!in) return wrong("the file cannot be opened", 0);
    std::string line;
    std::vector<std::vector<std::string>> head;
    while (head.size() < 5 && std::getline(in, line))
        head.push_back(cells(line));
    if (head.size() < 5 || head[0].empty() || head[0][0] != "PathFileType" || head[2].size() < 5)
        return wrong("this is not marker text (TRC)", 1);
    Markers markers;
    markers.framesPerSecond = number(head[2][0]);
    const std::string units = head[2][4];
    if (units != "m" && units != "mm") return wrong("the unit \"" + units + "\" is not known", 3);
    const double metres = units == "mm" ? 0.001 : 1;
    std::vector<std::string> names; // one every three columns, from the third on
    for (std::size_t i = 2; i < head[3].size(); i += 3)
        names.push_back(head[3][i]);
    if (names.empty()) return wrong("no marker is named", 4);
    for (int n = 6; std::getline(in, line); ++n) {
        const auto row = cells(line);
        if (row.size() < 2 || row[0].empty()) continue;
        const double time = number(row[1]);
        if (!std::isfinite(time) || (!markers.time.empty() && time <= markers.time.back()))
            return wrong("the times do not rise", n);
        markers.time.push_back(time);
        for (std::size_t k = 0; k < names.size(); ++k) {
            Vector3d p = Vector3d::Constant(kNone);
            for (std::size_t axis = 0; axis < 3 && 2 + 3 * k + axis < row.size(); ++axis)
                p[static_cast<Eigen::Index>(axis)] = metres * number(row[2 + 3 * k + axis]);
            markers.course[names[k]].push_back(p);
        }
    }
    if (markers.time.size() < 2) return wrong("there are no frames", 6);
    return markers;
}

/// Bridges gaps evenly; what lacks at the ends stays away.
void bridge(std::vector<Vector3d>& course)
{
    std::size_t last = course.size();
    for (std::size_t i = 0; i < course.size(); ++i) {
        if (!course[i].allFinite()) continue;
        for (std::size_t k = last + 1; last < course.size() && k < i; ++k)
            course[k] = course[last] + (course[i] - course[last]) * static_cast<double>(k - last) /
                                           static_cast<double>(i - last);
        last = i;
    }
}

/// From the file's axes to z up.
Vector3d upright(const Vector3d& p, char up)
{
    return up == 'y' ? Vector3d(p.x(), -p.z(), p.y()) : up == 'x' ? Vector3d(p.y(), p.z(), p.x()) : p;
}

void putOnFloor(BodyMotion& motion)
{
    std::vector<double> lowest;
    for (const BodyPoints& p : motion.frames) {
        double low = std::numeric_limits<double>::infinity();
        for (std::size_t i = index(Landmark::LeftAnkle); i < kLandmarkCount; ++i)
            if (std::isfinite(p[i].z())) low = std::min(low, p[i].z());
        if (std::isfinite(low)) lowest.push_back(low);
    }
    if (lowest.empty()) return;
    const auto middle = lowest.begin() + static_cast<std::ptrdiff_t>(lowest.size() / 2);
    std::nth_element(lowest.begin(), middle, lowest.end());
    constexpr double solePoints = 0.025; // m: heel and toe points lie this high in a foot on the floor
    for (BodyPoints& p : motion.frames)
        for (Vector3d& v : p)
            v.z() += solePoints - *middle;
}

} // namespace

Result<BodyMotion> readMarkers(const std::filesystem::path& file, const std::filesystem::path& mapping)
{
    auto markers = readTrc(file);
    if (!markers) return markers.error();
    const auto json = readJson(mapping);
    if (!json) return json.error();
    const auto wrong = [&](const std::string& what) {
        return Error{Error::Kind::BadInput, what, mapping.string(),
                     "docs/formats.md shows how a mapping is written."};
    };
    for (auto& [name, course] : markers->course)
        bridge(course);
    BodyMotion motion;
    motion.framesPerSecond = markers->framesPerSecond;
    motion.time = markers->time;
    BodyPoints nothing;
    nothing.fill(Vector3d::Constant(kNone));
    motion.frames.assign(motion.time.size(), nothing);
    try {
        const std::string up = json->value("up", "y");
        if (up != "x" && up != "y" && up != "z") return wrong("\"up\" is not x, y or z");
        for (const auto& [point, names] : json->at("points").items()) {
            const auto landmark = landmarkFromName(point);
            if (!landmark) return wrong("there is no body point \"" + point + "\"");
            const std::size_t l = index(*landmark);
            for (const std::string name : names) {
                const auto course = markers->course.find(name);
                if (course == markers->course.end())
                    return wrong("the marker \"" + name + "\" of " + point + " is not in the data");
                for (std::size_t i = 0; i < motion.frames.size(); ++i) {
                    Vector3d& p = motion.frames[i][l];
                    const Vector3d part =
                        upright(course->second[i], up[0]) / static_cast<double>(names.size());
                    p = p.allFinite() ? Vector3d(p + part) : part;
                }
            }
        }
    } catch (const nlohmann::json::exception& e) {
        return wrong(std::string("the mapping is misshapen: ") + e.what());
    }
    putOnFloor(motion);
    return motion;
}

} // namespace jl
