/// What of a glTF file other things can be fixed to, and the lamps and cameras that it brings (KHR_lights_punctual:
/// candela for points and spots, lux for distant ones; all look along −Z).
#include "base/units.h"
#include "geometry/gltf.h"

#include <cmath>
#include <set>

namespace hygros::geometry::detail {

std::vector<std::string> partNames(const tinygltf::Model& model)
{
    std::vector<std::string> names;
    std::set<std::string> taken;
    for (std::size_t i = 0; i < model.nodes.size(); ++i) {
        const std::string own = model.nodes[i].name.empty() ? "node " + std::to_string(i + 1) : model.nodes[i].name;
        std::string name = own;
        for (int n = 2; !taken.insert(name).second; ++n)
            name = own + " (" + std::to_string(n) + ")";
        names.push_back(name);
    }
    return names;
}

namespace {
/// A finite number within a range; what is not is taken for `otherwise`.
double within(double v, double least, double most, double otherwise)
{
    return std::isfinite(v) && v >= least && v <= most ? v : otherwise;
}

FileLamp lampOf(const tinygltf::Light& from, const std::string& part)
{
    constexpr double degree = 180.0 / static_cast<double>(pi);
    FileLamp lamp;
    lamp.name = from.name.empty() ? part : from.name;
    lamp.part = part;
    lamp.shape = from.type == "spot"          ? FileLamp::Shape::Spot
                 : from.type == "directional" ? FileLamp::Shape::Distant
                                              : FileLamp::Shape::Bulb;
    for (int c = 0; c < 3 && from.color.size() == 3; ++c)
        lamp.colour[c] = static_cast<float>(within(from.color[static_cast<std::size_t>(c)], 0.0, 1.0, 1.0));
    lamp.strength = within(from.intensity, 0.0, 1e9, 0.0);
    const double outer = within(from.spot.outerConeAngle, 1e-3, 1.5, 0.785398);
    lamp.angle = 2.0 * outer * degree;
    lamp.edge = 1.0 - within(from.spot.innerConeAngle, 0.0, outer, 0.0) / outer;
    return lamp;
}
} // namespace

void readLampsAndCameras(const tinygltf::Model& model, SetGeometry& set)
{
    const std::vector<std::string> names = partNames(model);
    for (std::size_t i = 0; i < model.nodes.size(); ++i) {
        const tinygltf::Node& n = model.nodes[i];
        if (const auto e = n.extensions.find("KHR_lights_punctual"); e != n.extensions.end() && e->second.Has("light"))
            if (const int which = e->second.Get("light").GetNumberAsInt();
                which >= 0 && which < static_cast<int>(model.lights.size()))
                set.lamps.push_back(lampOf(model.lights[static_cast<std::size_t>(which)], names[i]));
        if (n.camera < 0 || n.camera >= static_cast<int>(model.cameras.size()))
            continue;
        const tinygltf::Camera& from = model.cameras[static_cast<std::size_t>(n.camera)];
        FileCamera camera;
        camera.part = names[i];
        camera.height = within(from.perspective.yfov, 1e-3, 3.1, 0.0);
        if (const double aspect = within(from.perspective.aspectRatio, 1e-2, 100.0, 0.0); aspect > 0.0)
            camera.width = 2.0 * std::atan(std::tan(0.5 * camera.height) * aspect);
        if (from.type == "perspective")
            set.cameras.push_back(camera);
    }
}
} // namespace hygros::geometry::detail
