#include "elements/plume_join.h"

#include "elements/kinds.h"

#include <algorithm>

namespace hygros::elements {
namespace {
Box3 boxOf(const scene::Element& plume)
{
    const Vec3 floor = std::get<Vec3>(plume.value("position")), size = std::get<Vec3>(plume.value("size"));
    return {floor - Vec3(0.5f * size.x, 0.f, 0.5f * size.z), floor + Vec3(0.5f * size.x, size.y, 0.5f * size.z)};
}
bool meet(const Box3& a, const Box3& b)
{
    for (int axis = 0; axis < 3; ++axis)
        if (!(a.min[axis] < b.max[axis] && b.min[axis] < a.max[axis]))
            return false;
    return true;
}
std::vector<const scene::Element*> others(const scene::Project& project, const scene::Element& plume)
{
    std::vector<const scene::Element*> out;
    const Box3 box = boxOf(plume);
    for (const scene::Element& e : project.elements)
        if (kindOf(e).isGas && e.id != plume.id && !project.silent(e) && meet(boxOf(e), box))
            out.push_back(&e);
    return out;
}
} // namespace

std::vector<std::string> overlapping(const scene::Project& project, const scene::Element& plume)
{
    std::vector<std::string> names;
    for (const scene::Element* e : others(project, plume))
        names.push_back(e->name);
    return names;
}

int joinPlumes(scene::Project& project, const std::string& id)
{
    int joined = 0;
    for (;;) {
        const auto found = others(project, *project.find(id));
        if (found.empty())
            return joined;
        const std::string other = found.front()->id;
        Box3 box = boxOf(*project.find(id));
        box.extendBy(boxOf(*found.front()));
        const auto cell = [&](const std::string& plume) {
            return std::get<double>(project.find(plume)->value("voxel"));
        };
        const double voxel = std::min(cell(id), cell(other));
        for (scene::Element& e : project.elements)
            for (const scene::Parameter& p : e.kind->parameters)
                if (p.linksTo == "plume" && std::get<std::string>(e.value(p.id)) == other)
                    e.set(p.id, id);
        scene::Element& plume = *project.find(id);
        plume.set("voxel", voxel);
        plume.set("size", box.max - box.min);
        plume.set("position", Vec3(0.5f * (box.min.x + box.max.x), box.min.y, 0.5f * (box.min.z + box.max.z)));
        project.remove(other);
        ++joined;
    }
}
} // namespace hygros::elements
