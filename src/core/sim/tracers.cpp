#include "sim/tracers.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/random.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hygros::sim {
namespace {
constexpr float lift = 0.02f; ///< over the ground [m]

float groundOf(const shot::Shot& shot)
{
    float ground = -1e30f;
    for (const media::Wind& w : shot.airflow.winds)
        ground = std::max(ground, w.ground);
    return ground;
}

Vec3 beginning(const media::Tracers& t, std::uint32_t index, std::uint32_t lives)
{
    Vec3 p = t.centre;
    for (std::uint32_t axis = 0; axis < 3; ++axis)
        p[static_cast<int>(axis)] += t.half[static_cast<int>(axis)] *
                                     (2.f * unitFloat(hash32(t.seed + axis * 101u, index, lives)) - 1.f);
    return p;
}
bool hasLeft(const media::Tracers& t, const Vec3& p)
{
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(p[axis] - t.centre[axis]) <= 3.f * t.half[axis]))
            return true;
    return false;
}
} // namespace

const media::Tracers& TracerSolver::tracers(const shot::Shot& shot) const
{
    for (const media::Tracers& t : shot.airflow.tracers)
        if (t.id == element_)
            return t;
    throw inputError("Baking", element_, "it is muted, or there is no such element",
                     "An element that is not in the shot cannot be baked.");
}

std::shared_ptr<const State> TracerSolver::begin(const shot::Shot& shot) const
{
    const media::Tracers& t = tracers(shot);
    auto state = std::make_shared<TracerState>();
    state->points.resize(t.count);
    const float ground = groundOf(shot) + lift;
    for (std::uint32_t i = 0; i < t.count; ++i) {
        TracerState::Point& p = state->points[i];
        p.place = beginning(t, i, 0);
        p.place.y = std::max(p.place.y, ground);
        p.age = t.life * unitFloat(hash32(t.seed + 977u, i)); // so that not all begin anew at once
    }
    return state;
}

int TracerSolver::stepsAFrame(const State&, const shot::Shot& shot, double frameSeconds) const
{
    double steps = 1.0;
    for (const media::Wind& w : shot.airflow.winds) {
        // A quarter of the largest eddy at most.
        const double fast = double(w.velocity.length()) * 1.5 + 3.0 * double(w.gusts);
        steps = std::max(steps, std::ceil(fast * frameSeconds / (0.25 * double(w.pattern.scale))));
    }
    for (const media::Force& f : shot.airflow.forces) {
        const double size = f.form == media::Force::Form::Swirl ? double(f.radius) : double(f.pattern.scale);
        steps = std::max(steps, std::ceil(2.0 * std::abs(double(f.speed)) * frameSeconds / (0.25 * size)));
    }
    return static_cast<int>(std::min(steps, 32.0));
}

std::shared_ptr<const State> TracerSolver::step(const State& from, const shot::Shot& shot, double seconds,
                                                JobControl&) const
{
    const media::Tracers& t = tracers(shot);
    const auto& before = static_cast<const TracerState&>(from).points;
    auto state = std::make_shared<TracerState>();
    state->points = before;
    const auto dt = static_cast<float>(seconds);
    const float ground = groundOf(shot) + lift;
    const auto air = [&](const Vec3& place) { return media::airAt(shot.airflow.winds, shot.airflow.forces, place); };
    parallelRanges(state->points.size(), 256, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            TracerState::Point& p = state->points[i];
            const Vec3 half = p.place + air(p.place) * (0.5f * dt);
            p.place += air(half) * dt;
            p.age += dt;
            if (p.age >= t.life || hasLeft(t, p.place)) {
                p.lives += 1;
                p.age = std::fmod(p.age, t.life);
                p.place = beginning(t, static_cast<std::uint32_t>(i), p.lives);
            }
            p.place.y = std::max(p.place.y, ground);
        }
    });
    return state;
}

std::string TracerSolver::write(const State& state) const
{
    const auto& points = static_cast<const TracerState&>(state).points;
    static_assert(sizeof(TracerState::Point) == 20);
    const auto count = static_cast<std::uint64_t>(points.size());
    std::string bytes(sizeof count + points.size() * sizeof points[0], '\0');
    std::memcpy(bytes.data(), &count, sizeof count);
    std::memcpy(bytes.data() + sizeof count, points.data(), points.size() * sizeof points[0]);
    return bytes;
}

std::shared_ptr<const State> TracerSolver::read(std::span<const char> bytes) const
{
    std::uint64_t count = 0;
    auto state = std::make_shared<TracerState>();
    if (bytes.size() >= sizeof count)
        std::memcpy(&count, bytes.data(), sizeof count);
    if (bytes.size() < sizeof count || bytes.size() - sizeof count != count * sizeof(TracerState::Point))
        throw inputError("Reading baked tracers", element_, "they are not what was written", "Bake them again.");
    state->points.resize(count);
    std::memcpy(static_cast<void*>(state->points.data()), bytes.data() + sizeof count,
                count * sizeof(TracerState::Point));
    for (const TracerState::Point& p : state->points)
        if (!(std::abs(p.place.x) < 1e8f && std::abs(p.place.y) < 1e8f && std::abs(p.place.z) < 1e8f && p.age >= 0.f))
            throw inputError("Reading baked tracers", element_, "a point is not a number", "Bake them again.");
    return state;
}
} // namespace hygros::sim
