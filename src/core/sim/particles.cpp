#include "sim/particles.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/random.h"
#include "sim/air_lattice.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

namespace hygros::sim {
namespace {
constexpr float gravity = 9.81f, lift = 1e-3f, farthest = 1e5f;

/// A number of 0 to 1 that is one's own.
float ownOf(const media::Particles& p, std::uint32_t number, std::uint32_t which)
{
    return unitFloat(hash32(p.seed * 7919u + which, number, 0x9a27u));
}
/// Normally distributed about 0, standard deviation 1 (Box & Muller 1958).
float normalOf(const media::Particles& p, std::uint32_t number, std::uint32_t which)
{
    return std::sqrt(-2.f * std::log(std::max(1e-7f, ownOf(p, number, which)))) *
           std::cos(2.f * pi * ownOf(p, number, which + 1));
}
float lifeOf(const media::Particles& p, std::uint32_t number)
{
    return p.life > 0.f ? p.life * (0.4f + 1.2f * ownOf(p, number, 4)) : std::numeric_limits<float>::infinity();
}

std::uint32_t packed(const Vec3& n)
{
    std::uint32_t out = 0;
    for (int a = 0; a < 3; ++a)
        out |= static_cast<std::uint32_t>(std::clamp(127.f * (n[a] + 1.f) + 0.5f, 0.f, 254.f)) << (8 * a);
    return out;
}

} // namespace

class Ceiling {
public:
    explicit Ceiling(const std::vector<geometry::PlacedSet>& sets)
    {
        constexpr int most = 1024;
        Box3 box;
        const auto each = [&](const auto& use) {
            for (const geometry::PlacedSet& s : sets)
                for (const geometry::Mesh& m : s.set->meshes)
                    for (const Mat4* to : {&s.toWorld, &s.later()}) {
                        std::vector<Vec3> at(m.positions.size());
                        for (std::size_t i = 0; i < at.size(); ++i)
                            at[i] = m.positions[i] * *to;
                        for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
                            Box3 own;
                            for (std::size_t k = 0; k < 3; ++k)
                                own.extendBy(at[m.indices[i + k]]);
                            use(own);
                        }
                        if (!s.moves())
                            break;
                    }
        };
        each([&](const Box3& b) { box.extendBy(b); });
        if (box.isEmpty())
            return;
        cell_ = std::max({0.25f, (box.max.x - box.min.x) / most, (box.max.z - box.min.z) / most});
        highest_ = box.max.y;
        x0_ = box.min.x;
        z0_ = box.min.z;
        wide_ = static_cast<int>((box.max.x - x0_) / cell_) + 1;
        deep_ = static_cast<int>((box.max.z - z0_) / cell_) + 1;
        top_.assign(static_cast<std::size_t>(wide_) * static_cast<std::size_t>(deep_), -1e30f);
        each([&](const Box3& b) {
            for (int j = row(b.min.z); j <= row(b.max.z); ++j)
                for (int i = column(b.min.x); i <= column(b.max.x); ++i)
                    at(i, j) = std::max(at(i, j), b.max.y);
        });
    }
    float highest() const { return highest_; }
    /// Whether a way from one place to another may meet something.
    bool mayMeet(const Vec3& from, const Vec3& to, float radius) const
    {
        if (top_.empty())
            return false;
        const float low = std::min(from.y, to.y) - radius, x0 = std::min(from.x, to.x) - radius,
                    x1 = std::max(from.x, to.x) + radius, z0 = std::min(from.z, to.z) - radius,
                    z1 = std::max(from.z, to.z) + radius;
        if (x1 < x0_ || z1 < z0_ || x0 > x0_ + cell_ * static_cast<float>(wide_) ||
            z0 > z0_ + cell_ * static_cast<float>(deep_))
            return false;
        for (int j = row(z0); j <= row(z1); ++j)
            for (int i = column(x0); i <= column(x1); ++i)
                if (top_[static_cast<std::size_t>(j) * static_cast<std::size_t>(wide_) + static_cast<std::size_t>(i)] >=
                    low)
                    return true;
        return false;
    }

private:
    int column(float x) const { return std::clamp(static_cast<int>((x - x0_) / cell_), 0, wide_ - 1); }
    int row(float z) const { return std::clamp(static_cast<int>((z - z0_) / cell_), 0, deep_ - 1); }
    float& at(int i, int j)
    {
        return top_[static_cast<std::size_t>(j) * static_cast<std::size_t>(wide_) + static_cast<std::size_t>(i)];
    }
    float x0_ = 0.f, z0_ = 0.f, cell_ = 1.f, highest_ = -1e30f;
    int wide_ = 0, deep_ = 0;
    std::vector<float> top_;
};

namespace {
struct Contacts {
    const media::Particles& p;
    const shot::Shot& shot;
    const Ceiling& ceiling;

    /// The first surface on a way; its distance and normal.
    bool meets(const Vec3& from, const Vec3& along, float reach, float& t, Vec3& normal) const
    {
        geometry::Hit hit;
        bool found = shot.scene->blocked(from, along, reach, hit);
        if (found) {
            t = hit.t;
            normal = hit.geometricNormal;
        }
        if (along.y < 0.f && from.y + along.y * reach < p.ground && from.y >= p.ground - lift) {
            const float down = std::max(0.f, (p.ground - from.y) / along.y);
            if (!found || down < t) {
                t = down;
                normal = Vec3(0.f, 1.f, 0.f);
                found = true;
            }
        }
        return found;
    }
    /// Moves one over `way` in `seconds`, off whatever it meets; true: it lies now, on what faces `facing`.
    bool move(Vec3& place, Vec3& velocity, Vec3 way, float seconds, float radius, Vec3& facing) const
    {
        constexpr int most = 4;
        const float grip = 1.f / std::sqrt(1.f + p.friction * p.friction); // cosine of the slope on which it holds
        float left = 1.f;
        for (int k = 0; k < most; ++k) {
            const float length = way.length();
            if (length < 1e-7f)
                return false;
            const Vec3 along = way / length;
            float t = 0.f;
            Vec3 normal(0.f);
            if (!meets(place, along, length + radius, t, normal)) {
                place += way;
                return false;
            }
            // Its middle stays a radius off the surface.
            const float into = -along.dot(normal), back = radius / std::max(0.2f, into);
            const float gone = std::clamp(t - back - lift, 0.f, length);
            place += along * gone;
            left *= 1.f - gone / length;
            const float fast = -velocity.dot(normal);
            if (fast <= 0.f) // it leaves already
                return false;
            const float slow = 4.f * gravity * seconds, bounce = fast > slow ? p.bounce : 0.f;
            Vec3 level = velocity + normal * fast;
            const float speed = level.length(), taken = p.friction * (1.f + bounce) * fast;
            level = speed > taken ? level * (1.f - taken / speed) : Vec3(0.f);
            velocity = level + normal * (fast * bounce);
            if (bounce * fast < slow && normal.y > grip && level.length() < std::max(0.05f, slow)) {
                velocity = Vec3(0.f);
                facing = normal;
                return true;
            }
            way = velocity * (seconds * left);
        }
        return false;
    }
};
} // namespace

Vec3 facingOf(std::uint32_t packed)
{
    Vec3 n(0.f);
    for (int a = 0; a < 3; ++a)
        n[a] = static_cast<float>(packed >> (8 * a) & 255u) / 127.f - 1.f;
    return n.length2() > 0.f ? n.normalized() : Vec3(0.f, 1.f, 0.f);
}

void ParticleState::Moving::resize(std::size_t n)
{
    count = n;
    const std::size_t padded = (n + lanes - 1) / lanes * lanes;
    for (auto* values : {&x, &y, &z, &u, &v, &w, &size, &age})
        values->resize(padded);
    number.resize(padded);
    for (std::size_t i = n; i < padded; ++i) {
        for (auto* values : {&x, &y, &z, &u, &v, &w, &age})
            (*values)[i] = 0.f;
        size[i] = 1e-3f;
        number[i] = 0;
    }
}
void ParticleState::Moving::after(const Moving& o, std::size_t more)
{
    resize(o.count + more);
    for (std::size_t i = o.count / lanes * lanes; i < o.count; ++i) {
        for (auto values :
             {&Moving::x, &Moving::y, &Moving::z, &Moving::u, &Moving::v, &Moving::w, &Moving::size, &Moving::age})
            (this->*values)[i] = (o.*values)[i];
        number[i] = o.number[i];
    }
}
std::size_t ParticleState::lyingCount() const
{
    std::size_t n = 0;
    for (const auto& some : lying)
        n += some->size();
    return n;
}
std::size_t ParticleState::bytes() const
{
    return moving.x.size() * (8 * sizeof(float) + sizeof(std::uint32_t)) + lyingCount() * sizeof(Lying);
}

const media::Particles& ParticleSolver::particles(const shot::Shot& shot) const
{
    for (const media::Particles& p : shot.airflow.particles)
        if (p.id == element_)
            return p;
    throw inputError("Baking", element_, "it is muted, begins nowhere, or there is no such element",
                     "Say on its card where it begins.");
}

std::shared_ptr<const State> ParticleSolver::begin(const shot::Shot& shot) const
{
    particles(shot);
    return std::make_shared<ParticleState>();
}

int ParticleSolver::stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const
{
    const ParticleState::Moving& m = static_cast<const ParticleState&>(from).moving;
    float fastest = particles(shot).velocity.length();
    for (std::size_t i = 0; i < m.count; ++i)
        fastest = std::max(fastest, std::sqrt(m.u[i] * m.u[i] + m.v[i] * m.v[i] + m.w[i] * m.w[i]));
    return std::clamp(static_cast<int>(std::ceil(double(fastest) * frameSeconds / 0.5)), 2, 6);
}

std::shared_ptr<const State> ParticleSolver::step(const State& from, const shot::Shot& shot, double seconds,
                                                  JobControl& job) const
{
    const media::Particles& p = particles(shot);
    const auto& before = static_cast<const ParticleState&>(from);
    auto state = std::make_shared<ParticleState>();
    const auto dt = static_cast<float>(seconds);
    state->seconds = before.seconds + seconds;
    state->born = before.born + double(p.rate) * seconds;
    const auto births = static_cast<std::size_t>(std::floor(state->born) - std::floor(before.born));
    const double expected = p.life > 0.f && p.lies > 0.f ? double(p.rate) * double(p.life) * 1.6 : 0.0;
    if (!(state->born < 4e9) || expected > most || double(before.moving.count + before.lyingCount() + births) > most)
        throw inputError("Baking", element_, "there would be more than twelve million at a time",
                         "Lower how many begin a second, or how long they live and lie.");
    ParticleState::Moving& m = state->moving;
    const std::size_t old = before.moving.count, whole = old / lanes * lanes;
    m.after(before.moving, births);
    job.check();

    const AirMotion air{shot.airflow, p.before, p.after,
                        static_cast<float>(std::clamp(p.frame - p.frameBefore, 0.0, 1.0)), p.pace};
    std::size_t nowhere = 0;
    for (std::size_t k = 0; k < births; ++k) {
        const std::size_t i = old + k;
        const double n = std::floor(before.born) + 1.0 + double(k);
        const auto number = static_cast<std::uint32_t>(n);
        Vec3 place(0.f), normal(0.f, 1.f, 0.f);
        bool found = false;
        for (std::uint32_t t = 0; t < 24 && !found; ++t)
            found = media::beginsAt(p.from, ownOf(p, number, 20 + 3 * t), ownOf(p, number, 21 + 3 * t),
                                    ownOf(p, number, 22 + 3 * t), place, normal);
        nowhere += found ? 0 : 1;
        const Vec3 v = p.velocity + normal * p.outward +
                       Vec3(normalOf(p, number, 5), normalOf(p, number, 7), normalOf(p, number, 9)) * p.scatter;
        m.size[i] = p.size * std::exp(p.spread * normalOf(p, number, 11));
        // Off the surface that it begins on; born evenly over the step.
        place += normal * (0.5f * m.size[i] + lift);
        m.x[i] = place.x;
        m.y[i] = place.y;
        m.z[i] = place.z;
        m.u[i] = v.x;
        m.v[i] = v.y;
        m.w[i] = v.z;
        m.age[i] = -dt * static_cast<float>((n - before.born) / std::max(1e-12, double(p.rate) * seconds));
        m.number[i] = number;
    }
    if (births > 0 && nowhere == births)
        throw inputError("Baking", element_, "there is no place where they could begin",
                         "Choose an object that has an area, or a mask that leaves some.");

    const std::size_t count = m.count;
    const auto places = [](const ParticleState::Moving& of, std::size_t first, std::size_t end) {
        return Places{std::span(of.x).subspan(first, end - first), std::span(of.y).subspan(first, end - first),
                      std::span(of.z).subspan(first, end - first)};
    };
    const AirLattice lattice(air, std::array{places(before.moving, 0, whole), places(m, whole, count)});
    std::shared_ptr<const Ceiling> ceiling;
    if (p.lands) {
        ceiling = before.ceiling && before.under == p.obstacles ? before.ceiling
                                                                : std::make_shared<const Ceiling>(p.obstacles);
        state->ceiling = ceiling;
        state->under = p.obstacles;
    }
    const float top = std::max(p.ground, ceiling ? ceiling->highest() : p.ground);
    const float lowest = (shot.scene->bounds().isEmpty() ? 0.f : shot.scene->bounds().min.y) - 100.f;
    const float bottom = std::max(lowest, p.ground - 100.f);
    enum : std::uint8_t { Flies, Lies, Gone };
    std::vector<std::uint8_t> becomes(count, Flies);
    std::vector<std::uint32_t> faces(p.lands ? count : 0, 0u);
    parallelRanges((count + lanes - 1) / lanes, 256, [&](std::size_t begin, std::size_t end) {
        for (std::size_t block = begin; block < end; ++block) {
            const std::size_t i = block * lanes;
            const ParticleState::Moving& is = i < whole ? before.moving : m;
            const F8 x = load8(&is.x[i]), y = load8(&is.y[i]), z = load8(&is.z[i]), u = load8(&is.u[i]),
                     v = load8(&is.v[i]), w = load8(&is.w[i]), size = load8(&is.size[i]), age = load8(&is.age[i]);
            if (i < whole) {
                store8(&m.size[i], size);
                std::memcpy(&m.number[i], &is.number[i], lanes * sizeof is.number[i]);
            }
            F8 blown[3];
            if (lattice.isUsed())
                lattice.at8(x, y, z, blown);
            else
                air.at8(x, y, z, blown);
            // One that was born in this step has had a part of it.
            const F8 own = clamp8(age + dt, 0.f, dt);
            const F8 ru = u - blown[0], rv = v - blown[1], rw = w - blown[2],
                     speed = max8(sqrt8(ru * ru + rv * rv + rw * rw), f8(1e-4f));
            F8 rate;
            if (p.flat)
                rate = speed * (0.5f * 1.2f * 1.2f / p.weight);
            else {
                // As media::dragRate has it.
                constexpr float viscosity = 1.8e-5f;
                const F8 reynolds = speed * size * (1.2f / viscosity), unit = (viscosity / p.weight) / (size * size);
                rate = unit *
                       max8(18.f * (1.f + 0.15f * exp8(0.687f * log8(max8(reynolds, f8(1e-20f))))), 0.33f * reynolds);
            }
            rate = clamp8(rate, 1e-6f, 1e6f);
            // The approach to the speed that air and weight lead to, without the difference of what is nearly alike:
            // v + a·t·(1 − e^(−x))/x and v·t + a·t²·(x − 1 + e^(−x))/x², x = rate·t, a what it begins with.
            const F8 k = rate * own, small = 1.f - k * (0.5f - k * (1.f / 6.f - k * (1.f / 24.f)));
            const F8 one = select(k < 0.05f, small, (1.f - exp8(-k)) / max8(k, f8(1e-3f)));
            const F8 two = select(k < 0.05f, 0.5f - k * (1.f / 6.f - k * (1.f / 24.f)),
                                  (1.f - one) / max8(k, f8(1e-3f)));
            const F8 du = -ru * rate, dv = -rv * rate - gravity, dw = -rw * rate;
            F8 nu = u + du * own * one, nv = v + dv * own * one, nw = w + dw * own * one;
            const F8 ax = own * (u + du * own * two), ay = own * (v + dv * own * two), az = own * (w + dw * own * two);
            F8 nx = x + ax, ny = y + ay, nz = z + az;
            store8(&m.age[i], age + dt);
            const std::size_t some = std::min<std::size_t>(lanes, count - i);
            // Most are in the air, high over everything, and not yet at their end.
            const F8 radii = p.flat ? f8(lift) : 0.5f * size + lift;
            const F8 reaches = max8(max8(abs8(nx), abs8(nz)), abs8(ny));
            const bool isPlain = !p.lands || !any(min8(y, ny) - radii < top);
            if (isPlain && p.life <= 0.f && !any(~(reaches < farthest)) && !any(ny < bottom)) {
                store8(&m.x[i], nx);
                store8(&m.y[i], ny);
                store8(&m.z[i], nz);
                store8(&m.u[i], nu);
                store8(&m.v[i], nv);
                store8(&m.w[i], nw);
                continue;
            }
            for (std::size_t l = 0; l < some; ++l) {
                const Vec3 a(x[l], y[l], z[l]), b(nx[l], ny[l], nz[l]);
                const float radius = p.flat ? 0.f : 0.5f * size[l];
                if (p.lands && (b.y - radius < p.ground || ceiling->mayMeet(a, b, radius + lift))) {
                    Vec3 place = a, velocity(nu[l], nv[l], nw[l]), facing(0.f);
                    if (Contacts{p, shot, *ceiling}.move(place, velocity, b - a, std::max(1e-6f, own[l]), radius,
                                                         facing)) {
                        becomes[i + l] = Lies;
                        faces[i + l] = packed(facing);
                    }
                    nx[l] = place.x;
                    ny[l] = place.y;
                    nz[l] = place.z;
                    nu[l] = velocity.x;
                    nv[l] = velocity.y;
                    nw[l] = velocity.z;
                }
                if (!(std::abs(nx[l]) < farthest && std::abs(ny[l]) < farthest && std::abs(nz[l]) < farthest) ||
                    ny[l] < bottom || (p.life > 0.f && m.age[i + l] > lifeOf(p, m.number[i + l])))
                    becomes[i + l] = Gone;
            }
            store8(&m.x[i], nx);
            store8(&m.y[i], ny);
            store8(&m.z[i], nz);
            store8(&m.u[i], nu);
            store8(&m.v[i], nv);
            store8(&m.w[i], nw);
        }
    });
    job.check();

    // What lies goes into a list of its own; the others close up.
    auto landed = std::make_shared<std::vector<Lying>>();
    std::size_t to = 0;
    for (std::size_t i = 0; i < count; ++i) {
        if (becomes[i] == Lies)
            landed->push_back(
                {Vec3(m.x[i], m.y[i], m.z[i]), m.size[i], static_cast<float>(state->seconds), m.number[i], faces[i]});
        if (becomes[i] != Flies)
            continue;
        if (to != i) {
            for (auto* values : {&m.x, &m.y, &m.z, &m.u, &m.v, &m.w, &m.size, &m.age})
                (*values)[to] = (*values)[i];
            m.number[to] = m.number[i];
        }
        ++to;
    }
    m.resize(to);
    const auto isOver = [&](const Lying& l) {
        return p.lies > 0.f && state->seconds - double(l.since) > double(p.lies);
    };
    for (const auto& some : before.lying) {
        const bool all = !std::any_of(some->begin(), some->end(), isOver);
        if (all)
            state->lying.push_back(some);
        else {
            auto rest = std::make_shared<std::vector<Lying>>();
            std::copy_if(some->begin(), some->end(), std::back_inserter(*rest),
                         [&](const Lying& l) { return !isOver(l); });
            if (!rest->empty())
                state->lying.push_back(std::move(rest));
        }
    }
    if (!landed->empty())
        state->lying.push_back(std::move(landed));
    // Few long lists rather than many short ones: each is joined to one not twice as long.
    while (state->lying.size() > 1) {
        const auto& last = state->lying.back();
        const auto& other = *(state->lying.end() - 2);
        if (other->size() > 2 * last->size())
            break;
        auto joined = std::make_shared<std::vector<Lying>>(*other);
        joined->insert(joined->end(), last->begin(), last->end());
        state->lying.pop_back();
        state->lying.back() = std::move(joined);
    }
    return state;
}

namespace {
struct Head {
    std::uint64_t moving = 0, lying = 0;
    double born = 0.0, seconds = 0.0;
};
static_assert(sizeof(Lying) == 28);
} // namespace

std::string ParticleSolver::write(const State& state) const
{
    const auto& s = static_cast<const ParticleState&>(state);
    const Head head{s.moving.count, s.lyingCount(), s.born, s.seconds};
    std::string bytes;
    bytes.reserve(sizeof head + head.moving * 36 + head.lying * sizeof(Lying));
    const auto add = [&](const void* from, std::size_t size) {
        if (size > 0)
            bytes.append(static_cast<const char*>(from), size);
    };
    add(&head, sizeof head);
    const ParticleState::Moving& m = s.moving;
    for (const auto* values : {&m.x, &m.y, &m.z, &m.u, &m.v, &m.w, &m.size, &m.age})
        add(values->data(), m.count * sizeof(float));
    add(m.number.data(), m.count * sizeof(std::uint32_t));
    for (const auto& some : s.lying)
        add(some->data(), some->size() * sizeof(Lying));
    return bytes;
}

std::shared_ptr<const State> ParticleSolver::read(std::span<const char> bytes) const
{
    const auto bad = [&](const char* why) {
        return inputError("Reading baked particles", element_, why, "Bake them again.");
    };
    Head head;
    if (bytes.size() >= sizeof head)
        std::memcpy(&head, bytes.data(), sizeof head);
    if (bytes.size() < sizeof head || head.moving > static_cast<std::uint64_t>(2 * most) ||
        head.lying > static_cast<std::uint64_t>(2 * most) ||
        bytes.size() - sizeof head != head.moving * 36 + head.lying * sizeof(Lying))
        throw bad("they are not what was written");
    if (!(head.born >= 0.0 && head.born < 5e9 && head.seconds >= 0.0 && head.seconds < 1e9))
        throw bad("their count is no number");
    auto state = std::make_shared<ParticleState>();
    state->born = head.born;
    state->seconds = head.seconds;
    ParticleState::Moving& m = state->moving;
    m.resize(head.moving);
    const char* from = bytes.data() + sizeof head;
    const auto take = [&](void* to, std::size_t size) {
        if (size > 0)
            std::memcpy(to, from, size);
        from += size;
    };
    for (auto* values : {&m.x, &m.y, &m.z, &m.u, &m.v, &m.w, &m.size, &m.age}) {
        take(values->data(), m.count * sizeof(float));
        if (!std::all_of(values->begin(), values->end(), [](float v) { return std::abs(v) < 1e8f; }))
            throw bad("one of them is not a number");
    }
    take(m.number.data(), m.count * sizeof(std::uint32_t));
    if (!std::all_of(m.size.begin(), m.size.end(), [](float v) { return v > 0.f; }))
        throw bad("one of them has no size");
    if (head.lying > 0) {
        auto lying = std::make_shared<std::vector<Lying>>(head.lying);
        take(static_cast<void*>(lying->data()), head.lying * sizeof(Lying));
        for (const Lying& l : *lying)
            for (const float v : {l.place.x, l.place.y, l.place.z, l.size, l.since})
                if (!(std::abs(v) < 1e8f))
                    throw bad("one that lies is not a number");
        state->lying.push_back(std::move(lying));
    }
    return state;
}
} // namespace hygros::sim
