#include "sim/embers.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/random.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hygros::sim {
namespace {
constexpr float gravity = 9.81f, lift = 0.002f;

/// A number of 0 to 1 that is an ember's own.
float ownOf(const media::Embers& e, std::uint32_t number, std::uint32_t which)
{
    return unitFloat(hash32(e.seed * 7919u + which, number, 0x5eedu));
}
/// Normally distributed about 0, standard deviation 1 (Box & Muller 1958).
float normalOf(const media::Embers& e, std::uint32_t number, std::uint32_t which)
{
    return std::sqrt(-2.f * std::log(std::max(1e-7f, ownOf(e, number, which)))) *
           std::cos(2.f * pi * ownOf(e, number, which + 1));
}

Vec3 birthplace(const media::Embers& e, std::uint32_t number)
{
    using Form = media::Feed::Form;
    const media::Feed& f =
        e.feeds[std::min(e.feeds.size() - 1, static_cast<std::size_t>(ownOf(e, number, 0) * float(e.feeds.size())))];
    const float u = 2.f * ownOf(e, number, 1) - 1.f, v = 2.f * ownOf(e, number, 2) - 1.f,
                w = 2.f * ownOf(e, number, 3) - 1.f;
    if (f.form == Form::Points) {
        const std::size_t count = f.points ? f.points->size() : 0;
        return count == 0
                   ? Vec3(0.f) * f.toWorld
                   : (*f.points)[std::min(count - 1, static_cast<std::size_t>((u + 1.f) * 0.5f * float(count)))].at *
                         f.toWorld;
    }
    Vec3 p(u, v, w);
    if (f.form == Form::Disc) {
        const float r = std::sqrt(0.5f * (u + 1.f));
        p = Vec3(r * std::cos(pi * w), v, r * std::sin(pi * w));
    } else if (f.form == Form::Ball) {
        const float r = std::cbrt(0.5f * (u + 1.f)), flat = std::sqrt(std::max(0.f, 1.f - v * v));
        p = Vec3(flat * std::cos(pi * w), v, flat * std::sin(pi * w)) * r;
    }
    return (p * f.half) * f.toWorld;
}
} // namespace

const media::Embers& EmberSolver::embers(const shot::Shot& shot) const
{
    for (const media::Embers& e : shot.airflow.embers)
        if (e.id == element_)
            return e;
    throw inputError("Baking", element_, "it is muted, rides no plume, or there is no such element",
                     "Choose the plume that it rides.");
}

std::shared_ptr<const State> EmberSolver::begin(const shot::Shot& shot) const
{
    embers(shot);
    return std::make_shared<EmberState>();
}

int EmberSolver::stepsAFrame(const State& from, const shot::Shot&, double frameSeconds) const
{
    // None flies farther than a hand's breadth or so in a step: the gas that carries it changes over that.
    float fastest = 0.f;
    for (const EmberState::Ember& e : static_cast<const EmberState&>(from).embers)
        fastest = std::max(fastest, e.velocity.length());
    return std::clamp(static_cast<int>(std::ceil(double(fastest) * frameSeconds / 0.12)), 1, 32);
}

std::shared_ptr<const State> EmberSolver::step(const State& from, const shot::Shot& shot, double seconds,
                                               JobControl&) const
{
    const media::Embers& e = embers(shot);
    const auto& before = static_cast<const EmberState&>(from);
    auto state = std::make_shared<EmberState>();
    const auto dt = static_cast<float>(seconds);
    const auto share = static_cast<float>(std::clamp(e.frame - e.frameBefore, 0.0, 1.0));
    const auto air = [&](const Vec3& p) {
        Vec3 v = media::airAt(shot.airflow.winds, shot.airflow.forces, p);
        if (e.before)
            v += e.before->at(p) * (e.pace * (e.after ? 1.f - share : 1.f));
        if (e.after)
            v += e.after->at(p) * (e.pace * (e.before ? share : 1.f));
        return v;
    };
    state->born = before.born + (e.feeds.empty() ? 0.0 : double(e.rate) * seconds);
    if (double(e.rate) * double(e.life) * 1.6 > most || state->born > 4e9)
        throw inputError("Baking", element_, "there would be more than half a million embers at a time",
                         "Lower their rate or their life.");
    for (const EmberState::Ember& one : before.embers)
        if (one.age + dt < one.life)
            state->embers.push_back(one);
    const std::size_t old = state->embers.size();
    float widest = 0.f;
    for (const media::Feed& f : e.feeds)
        widest = std::max({widest, 2.f * f.half.x, 2.f * f.half.z});
    for (double n = std::floor(before.born) + 1.0; n <= state->born; n += 1.0) {
        EmberState::Ember one;
        one.number = static_cast<std::uint32_t>(n);
        // Only what is lifted flies: the first of some places in what feeds and over it where the gas rises fast
        // enough.
        constexpr std::uint32_t tries = 8;
        one.place = birthplace(e, one.number);
        if (e.before || e.after)
            for (std::uint32_t k = 0; k < tries; ++k) {
                const Vec3 p = one.place + Vec3(0.f,
                                                widest * ownOf(e, one.number, 20 + k) * static_cast<float>(k) /
                                                    static_cast<float>(tries - 1),
                                                0.f);
                if (air(p).y > 1.5f * e.fall) {
                    one.place = p;
                    break;
                }
            }
        one.life = e.life * (0.4f + 1.2f * ownOf(e, one.number, 4));
        one.velocity = air(one.place) + Vec3(normalOf(e, one.number, 5), std::abs(normalOf(e, one.number, 7)),
                                             normalOf(e, one.number, 9)) *
                                            e.scatter;
        // Born evenly over the step.
        one.age = dt * static_cast<float>((state->born - n) / std::max(1e-12, double(e.rate) * seconds)) - dt;
        state->embers.push_back(one);
    }
    const float falls = std::max(1e-3f, e.fall), kept = std::exp(-dt * gravity / falls);
    parallelRanges(state->embers.size(), 64, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            EmberState::Ember& one = state->embers[i];
            one.age += dt;
            if (one.hasLanded != 0)
                continue;
            const float own = i < old ? dt : std::clamp(one.age, 0.f, dt);
            const float stays = i < old ? kept : std::exp(-own * gravity / falls);
            const Vec3 wanted = air(one.place + one.velocity * (0.5f * own)) - Vec3(0.f, e.fall, 0.f);
            const Vec3 next = wanted + (one.velocity - wanted) * stays;
            // The way of an exponential approach.
            Vec3 way = wanted * own + (one.velocity - wanted) * ((1.f - stays) * falls / gravity);
            one.velocity = next;
            const float length = way.length();
            geometry::Hit hit;
            if (length > 1e-6f && shot.scene->blocked(one.place, way / length, length + lift, hit)) {
                way *= std::max(0.f, hit.t - lift) / length;
                one.velocity = Vec3(0.f);
                one.hasLanded = 1;
            }
            one.place += way;
        }
    });
    return state;
}

namespace {
struct Head {
    std::uint64_t count = 0;
    double born = 0.0;
};
static_assert(sizeof(EmberState::Ember) == 40);
} // namespace

std::string EmberSolver::write(const State& state) const
{
    const auto& s = static_cast<const EmberState&>(state);
    const Head head{s.embers.size(), s.born};
    const std::size_t size = s.embers.size() * sizeof(EmberState::Ember);
    std::string bytes(sizeof head + size, '\0');
    std::memcpy(bytes.data(), &head, sizeof head);
    if (size > 0)
        std::memcpy(bytes.data() + sizeof head, s.embers.data(), size);
    return bytes;
}

std::shared_ptr<const State> EmberSolver::read(std::span<const char> bytes) const
{
    const auto bad = [&](const char* why) {
        return inputError("Reading baked embers", element_, why, "Bake them again.");
    };
    Head head;
    if (bytes.size() >= sizeof head)
        std::memcpy(&head, bytes.data(), sizeof head);
    if (bytes.size() < sizeof head || head.count > static_cast<std::uint64_t>(2 * most) ||
        bytes.size() - sizeof head != head.count * sizeof(EmberState::Ember))
        throw bad("they are not what was written");
    auto state = std::make_shared<EmberState>();
    state->born = head.born;
    state->embers.resize(head.count);
    if (head.count > 0)
        std::memcpy(static_cast<void*>(state->embers.data()), bytes.data() + sizeof head,
                    head.count * sizeof(EmberState::Ember));
    const auto isPlace = [](const Vec3& v) {
        return std::abs(v.x) < 1e8f && std::abs(v.y) < 1e8f && std::abs(v.z) < 1e8f;
    };
    for (const EmberState::Ember& e : state->embers)
        if (!isPlace(e.place) || !isPlace(e.velocity) || !(e.age >= 0.f && e.life > 0.f && e.life < 1e8f))
            throw bad("one of them is not a number");
    if (!(head.born >= 0.0 && head.born < 5e9))
        throw bad("their count is no number");
    return state;
}
} // namespace hygros::sim
