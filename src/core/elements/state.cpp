#include "elements/kinds.h"
#include "scene/evaluate.h"

#include <cstdint>
#include <cstdio>

namespace hygros::elements {

std::string stateOf(const scene::Project& project, const shot::Shot& shot, int width, int height)
{
    scene::Project light = scene::evaluated(project, project.frame);
    light.name.clear();
    std::erase_if(light.elements, [](const scene::Element& e) { return kindOf(e).onlyLook; });
    std::string all = scene::toJson(light) + std::to_string(width) + "x" + std::to_string(height);
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
