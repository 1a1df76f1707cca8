#include "elements/kinds.h"

#include <cstdint>
#include <cstdio>

namespace hygros::elements {

std::string stateOf(const scene::Project& project, int width, int height)
{
    scene::Project light = project;
    light.name.clear();
    std::erase_if(light.elements, [](const scene::Element& e) { return e.kind->id == "look"; });
    std::string all = scene::toJson(light) + std::to_string(width) + "x" + std::to_string(height);
    for (scene::Element& e : light.elements)
        for (const scene::Parameter& p : e.kind->parameters)
            if (p.type == scene::ValueType::File) {
                const scene::Value value = e.value(p.id);
                const std::filesystem::path file = scene::resolved(project, std::get<std::string>(value));
                std::error_code ec;
                const auto size = std::filesystem::file_size(file, ec);
                if (!ec)
                    all += file.string() + std::to_string(size) +
                           std::to_string(std::filesystem::last_write_time(file, ec).time_since_epoch().count());
            }
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
