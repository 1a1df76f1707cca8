#include "reading/why.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::reading {
namespace {
double bright(const Vec3& c) { return std::max(0.0, double(luminance(c))); }
constexpr double leastGiven = 1e-3, leastTaken = 0.01;

/// Optical depth of an element from the eye to the end.
double depthOf(const render::Sounding& s, const render::Sounding::ByElement& e)
{
    double sum = 0.0;
    for (std::size_t i = 1; i < s.distance.size(); ++i)
        sum += double(e.extinction[i]) * (double(s.distance[i]) - double(s.distance[i - 1]));
    return sum;
}
} // namespace

Why whyOf(const render::Sounding& s, const std::function<std::string(const std::string&)>& nameOf)
{
    Why out;
    if (!s.known() || s.transmittance.empty())
        return out;
    const double through = double(s.transmittance.back()), behind = bright(s.surface) * through,
                 all = behind + bright(s.airLight());
    out.luminance = all;
    const auto give = [&](const std::string& id, const std::string& text, double light) {
        const double share = all > 0.0 ? light / all : 0.0;
        if (share >= leastGiven)
            out.gives.push_back(
                {id, text, share,
                 share < 1.0 - 1e-9 ? -std::log2(1.0 - share) : std::numeric_limits<double>::infinity()});
    };
    const std::string place = s.sky ? "" : " on the surface";
    for (const auto& by : s.surfaceBy) {
        const double light = bright(by.light) * through;
        if (by.id == "own")
            give(by.id, s.sky ? "What shines there" : "The surface's own light", light);
        else if (by.id == "sky")
            give(by.id, s.sky ? "The sky behind" : "Skylight on the surface", light);
        else
            give(by.id, nameOf(by.id) + place, light);
    }
    for (const auto& e : s.elements)
        if (!e.light.empty())
            give(e.id, nameOf(e.id) + ", lit", bright(e.light.back()));
    for (const auto& l : s.lamps)
        if (!l.light.empty())
            give(l.id, nameOf(l.id) + " in the air", bright(l.light.back()));
    for (const auto& e : s.elements) {
        const double tau = depthOf(s, e), taken = behind * std::expm1(std::min(tau, 60.0)),
                     stops = all > 0.0 ? std::log2((all + taken) / all) : 0.0;
        if (stops >= leastTaken)
            out.takes.push_back({e.id, nameOf(e.id), -std::expm1(-tau), -stops});
    }
    if (!s.sky)
        for (const auto& by : s.surfaceBy) {
            if (by.id == "own" || bright(by.light) > 1e-5 * std::max(bright(s.surface), 1e-9))
                continue;
            const auto lamp = std::find_if(s.lamps.begin(), s.lamps.end(),
                                           [&](const auto& l) { return l.id == by.id; });
            // A lamp that is nowhere near is no reason.
            if (lamp != s.lamps.end() && (lamp->light.empty() || bright(lamp->light.back()) < leastGiven * all))
                continue;
            out.nothing.push_back((by.id == "sky" ? "Skylight" : nameOf(by.id)) +
                                  " gives this surface nothing: something stands before it, or it faces away");
        }
    const auto order = [](const Reason& a, const Reason& b) { return std::abs(a.stops) > std::abs(b.stops); };
    std::stable_sort(out.gives.begin(), out.gives.end(), order);
    std::stable_sort(out.takes.begin(), out.takes.end(), order);
    return out;
}
} // namespace hygros::reading
