/// What elements go with: a set, or one part of it; and the lamps and the camera that a set's file brings, which go
/// with their parts.
#include "base/error.h"
#include "elements/kinds.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
/// As a setting says it: so that what was set comes back as it was.
double degreesOf(float radians) { return std::round(double(radians) * 1.8e6 / double(pi)) / 1e4 + 0.0; }

float sizeOf(const Mat4& m) { return Vec3(m[0][0], m[0][1], m[0][2]).length(); }

/// Where a part of a set stands: its place and its turn, in metres that are as large as the set's own.
Mat4 partFrame(const geometry::PlacedSet& placed, const geometry::Part& part)
{
    Mat4 m = part.toWorld * placed.toWorld;
    const float size = sizeOf(placed.frame);
    for (int a = 0; a < 3; ++a)
        if (const float length = Vec3(m[a][0], m[a][1], m[a][2]).length(); length > 1e-20f)
            for (int c = 0; c < 3; ++c)
                m[a][c] *= size / length;
    return m;
}
/// The set that `follows` names, and the part of it; empty: all of it.
std::pair<const scene::Element*, std::string> carrierOf(const scene::Project& project, const std::string& follows)
{
    if (const scene::Element* whole = project.find(follows))
        return {whole, {}};
    const auto cut = follows.find('/');
    if (cut == std::string::npos)
        return {nullptr, {}};
    return {project.find(follows.substr(0, cut)), follows.substr(cut + 1)};
}
} // namespace

std::optional<Mat4> frameOf(const scene::Project& project, const std::string& follows, Store& store, JobControl& job)
{
    if (follows.empty())
        return std::nullopt;
    const auto [set, part] = carrierOf(project, follows);
    const auto placed = set ? placedSet(project, *set, store, job) : std::nullopt;
    if (!placed || part.empty())
        return placed ? std::optional(placed->frame) : std::nullopt;
    const auto& parts = placed->set->parts;
    const auto found = std::find_if(parts.begin(), parts.end(),
                                    [&, &name = part](const auto& p) { return p.name == name; });
    return found == parts.end() ? std::nullopt : std::optional(partFrame(*placed, *found));
}

std::optional<Mat4> carried(const FreezeContext& c, const std::string& follows)
{
    if (follows.empty())
        return std::nullopt;
    const std::optional<Mat4> frame = frameOf(c.project, follows, c.store, c.job);
    if (!frame)
        c.note(carrierOf(c.project, follows).second.empty()
                   ? "The set it goes with is not there; its place is taken as it stands."
                   : "The part of the set that it goes with is not there; its place is taken as it stands.");
    return frame;
}

std::vector<std::string> partsOf(const scene::Project& project, const std::string& set, Store& store, JobControl& job)
{
    std::vector<std::string> names;
    const scene::Element* e = project.find(set);
    try {
        if (const auto placed = e ? placedSet(project, *e, store, job) : std::nullopt)
            for (const geometry::Part& p : placed->set->parts)
                names.push_back(p.name);
    } catch (const Error&) { // freezing says so
    }
    return names;
}

void lookFrom(scene::Project& project, const geometry::Camera& from, Store& store)
{
    scene::Element* camera = cameraOf(project);
    if (!camera)
        return;
    JobControl job;
    const geometry::Camera own = geometry::carriedBy(from, frameOf(project, *camera, store, job).inverse());
    camera->set("position", own.position);
    camera->set("aim", own.aim);
    camera->set("roll", degreesOf(own.roll));
}

Taken takeFromFile(scene::Project& project, const std::string& id, Store& store, double aspect)
{
    Taken taken;
    JobControl job;
    const scene::Element* set = project.find(id);
    const auto placed = set ? placedSet(project, *set, store, job) : std::nullopt;
    if (!placed)
        return taken;
    // Places in the file count in its unit, those of what goes with a part in metres.
    const float metres = sizeOf(placed->toWorld) / std::max(1e-20f, sizeOf(placed->frame));
    for (const geometry::FileLamp& from : placed->set->lamps) {
        const std::string follows = id + "/" + from.part;
        if (from.shape == geometry::FileLamp::Shape::Distant) {
            ++taken.distant;
            continue;
        }
        const bool there = std::any_of(project.elements.begin(), project.elements.end(), [&](const auto& e) {
            return kindOf(e).row == Kind::Row::Light && scene::findParameter(e.kind->parameters, "follows") &&
                   std::get<std::string>(e.value("follows")) == follows;
        });
        if (there)
            continue;
        const bool spot = from.shape == geometry::FileLamp::Shape::Spot;
        scene::Element& lamp = project.add(*findKind(spot ? "spot" : "bulb"), from.name);
        lamp.set("follows", follows);
        lamp.set("position", from.position * metres);
        lamp.set("colour", from.colour);
        if (spot) {
            lamp.set("aim", from.position * metres + from.along.normalized() * 3.f);
            lamp.set("angle", std::clamp(from.angle, 0.5, 170.0));
            lamp.set("edge", std::clamp(from.edge, 0.0, 1.0));
        }
        if (from.strength > 0.0) {
            lamp.set("given", std::string("candela"));
            lamp.set("candela", from.strength);
        }
        taken.lamps.push_back(lamp.id);
    }
    scene::Element* camera = cameraOf(project);
    if (camera && !placed->set->cameras.empty()) {
        const geometry::FileCamera& from = placed->set->cameras.front();
        camera->set("follows", id + "/" + from.part);
        camera->set("position", from.position * metres);
        camera->set("aim", from.position * metres + from.along.normalized() * 10.f);
        camera->set("roll", degreesOf(geometry::rollOf(from.along, from.up)));
        double half = std::tan(0.5 * from.width);
        if (from.width <= 0.0)
            half = std::tan(0.5 * from.height) * aspect;
        if (half > 0.0)
            camera->set("focal", std::clamp(std::get<double>(camera->value("sensor")) / (2.0 * half), 1.0, 5000.0));
        taken.camera = true;
    }
    return taken;
}
} // namespace hygros::elements
