#include "render/sounding.h"

#include <sstream>

namespace hygros::render {
namespace {
/// Names may hold commas and quotes.
std::string quoted(const std::string& text)
{
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}
} // namespace

std::string Sounding::csv() const
{
    std::ostringstream s;
    s.imbue(std::locale::classic());
    s << "distance_m,transmittance,extinction_per_m,air_light";
    for (const ByElement& e : elements)
        s << ',' << quoted(e.id + " extinction_per_m") << ',' << quoted(e.id + " light");
    for (const ByLamp& l : lamps)
        s << ',' << quoted(l.id + " light");
    s << '\n';
    for (std::size_t i = 0; i < distance.size(); ++i) {
        float sigma = 0.f;
        Vec3 light = sunAndSky[i];
        for (const ByElement& e : elements)
            sigma += e.extinction[i];
        for (const ByLamp& l : lamps)
            light += l.light[i];
        s << distance[i] << ',' << transmittance[i] << ',' << sigma << ',' << luminance(light);
        for (const ByElement& e : elements)
            s << ',' << e.extinction[i] << ',' << luminance(e.light[i]);
        for (const ByLamp& l : lamps)
            s << ',' << luminance(l.light[i]);
        s << '\n';
    }
    return s.str();
}
} // namespace hygros::render
