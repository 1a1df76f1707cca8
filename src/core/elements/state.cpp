#include "elements/kinds.h"
#include "scene/evaluate.h"
#include "scene/track_json.h"

#include <algorithm>
#include <cstdint>
#include <cstdio>

namespace hygros::elements {

std::string momentOf(const scene::Project& project)
{
    std::string all;
    const double opens = project.time.shutterPhase / 360.0, open = project.time.shutterAngle / 360.0;
    for (const double at : {0.0, opens, opens + 0.5 * open, opens + open}) {
        scene::Project now = scene::evaluated(project, project.frame + at);
        now.name.clear();
        now.time.first = now.time.last = 0; // where the range ends changes no picture
        all += scene::toJson(now);
    }
    // Water remembers where all has been that moved in it.
    const bool remembers = std::any_of(project.elements.begin(), project.elements.end(), [&](const scene::Element& e) {
        return e.kind->family == scene::Family::Water && !project.silent(e);
    });
    for (const scene::Element& e : project.elements)
        for (const auto& [id, track] : e.motion)
            if (const scene::Parameter* p = scene::findParameter(e.kind->parameters, id);
                p && (p->addsUp || (remembers && kindOf(e).placed)))
                all += scene::trackToJson(*p, *track).dump();
    return all;
}

std::string stateOf(const scene::Project& project, const shot::Shot& shot, int width, int height)
{
    scene::Project light = project;
    std::erase_if(light.elements, [](const scene::Element& e) { return kindOf(e).onlyLook; });
    std::string all = momentOf(light) + std::to_string(width) + "x" + std::to_string(height);
    for (const FileVersion& source : shot.sources)
        all += source.path.string() + std::to_string(source.size) + "," + std::to_string(source.modified);
    // FNV-1a, twice over from different starts: 128 bits.
    std::string out;
    for (std::uint64_t h : {0xcbf29ce484222325ull, 0x84222325cbf29ce4ull}) {
        for (const char c : all)
            h = (h ^ static_cast<unsigned char>(c)) * 0x100000001b3ull;
        char text[17];
        std::snprintf(text, sizeof text, "%016llx", static_cast<unsigned long long>(h));
        out += text;
    }
    return out;
}
} // namespace hygros::elements
