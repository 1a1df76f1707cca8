#include "elements/wakes.h"

#include "base/random.h"
#include "geometry/basin.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct StateKey {
    Identity set, basin;
    std::string keys; ///< of all that has any, and the element
    double first, level, strength, seconds;
    media::WakeGrid grid;
    std::int64_t frame;
    bool operator==(const StateKey&) const = default;
};
struct ExtentKey {
    Identity set;
    std::string keys;
    double level, last;
    bool operator==(const ExtentKey&) const = default;
};
/// How a set moves over the project's range.
struct Extent {
    bool makesWaves = false;           ///< it moves, and reaches the water
    float length = 1.f, fastest = 0.f; ///< [m], [m/s]
    std::size_t bytes() const { return sizeof *this; }
};
struct ThrownKey {
    Identity set;
    std::string keys;
    double level;
    std::int64_t slot, frames;
    double perSecond;
    bool operator==(const ThrownKey&) const = default;
};
struct Thrown {
    std::vector<media::SprayBurst> bursts; ///< as they begin
    std::size_t bytes() const { return sizeof *this + bursts.size() * sizeof(media::SprayBurst); }
};
struct PatchKey {
    Identity state;
    double frame, choppy;
    bool operator==(const PatchKey&) const = default;
};

/// One set that moves: where it is at any frame, and the patch around it.
class Mover {
public:
    Mover(const FreezeContext& c, const scene::Element& e, const WakeWish& wish)
        : c_(c), id_(e.id), wish_(wish), alone_(c.whole)
    {
        // Without water, keyed or not: what floats pushes it from where it lies in still water, not as waves lift it.
        std::erase_if(alone_.elements, [&](const scene::Element& o) {
            return o.id != id_ && (o.motion.empty() || o.kind->family == scene::Family::Water);
        });
        keys_ = scene::toJson(alone_);
    }
    std::optional<geometry::PlacedSet> at(double frame) const
    {
        scene::Project now = scene::evaluated(alone_, frame);
        now.frame = frame;
        const scene::Element* e = now.find(id_);
        return e ? placedSet(now, *e, c_.store, c_.job) : std::nullopt;
    }
    Box3 boundsAt(double frame) const
    {
        Box3 out;
        if (const auto p = at(frame))
            for (int i = 0; i < 8; ++i) {
                const Box3& b = p->set->bounds;
                Vec3 corner;
                p->toWorld.multVecMatrix(
                    Vec3(i & 1 ? b.max.x : b.min.x, i & 2 ? b.max.y : b.min.y, i & 4 ? b.max.z : b.min.z), corner);
                out.extendBy(corner);
            }
        return out;
    }

    std::shared_ptr<const media::WakePatch> patch(double frame)
    {
        const scene::TimeSettings& time = c_.whole.time;
        const double first = time.first;
        if (frame <= first || !prepare())
            return nullptr;
        const auto whole = static_cast<std::int64_t>(std::floor(frame));
        std::shared_ptr<const media::WakeState> state = stateAt(whole);
        if (const double more = frame - double(whole); more > 1e-6)
            state = std::make_shared<const media::WakeState>(onward(*state, double(whole), frame));
        const auto make = [&] {
            return std::make_shared<const media::WakePatch>(*state, grid_, static_cast<float>(wish_.choppy));
        };
        // Moments between frames are of one picture.
        return frame == double(whole) ? c_.store.get(PatchKey{state, frame, wish_.choppy}, make, &c_.job) : make();
    }

    void thrown(double frame, std::vector<media::SprayBurst>& out)
    {
        if (frame <= c_.whole.time.first || !prepare())
            return;
        const double perSecond = c_.whole.time.rate.perSecond();
        const auto frames = std::max<std::int64_t>(1, std::llround(0.08 * perSecond)),
                   first = static_cast<std::int64_t>(c_.whole.time.first);
        const auto p = at(double(first));
        for (auto slot = static_cast<std::int64_t>(std::floor((frame - double(first)) / double(frames))); slot >= 0;
             --slot) {
            const double begin = double(first + slot * frames);
            const auto age = static_cast<float>((frame - begin) / perSecond);
            if (age >= media::sprayLasts)
                break;
            const auto kept = c_.store.get(
                ThrownKey{p ? Identity(p->set) : Identity(), keys_, wish_.level, slot, frames, perSecond},
                [&] {
                    return std::make_shared<const Thrown>(
                        Thrown{thrownBetween(begin, begin + double(frames), static_cast<std::uint32_t>(slot))});
                },
                &c_.job);
            for (media::SprayBurst b : kept->bursts) {
                b.age = age;
                out.push_back(b);
            }
        }
    }

private:
    /// What is struck between two frames: where it gets wet that was not.
    std::vector<media::SprayBurst> thrownBetween(double from, double to, std::uint32_t slot) const
    {
        constexpr int n = 80;
        constexpr float least = 1.3f;     // speed against the water from which it is thrown up [m/s]
        constexpr std::size_t most = 160; // bursts at once
        constexpr float thick = 0.01f;    // of the sheet, of how high its speed carries it
        std::vector<media::SprayBurst> out;
        const auto before = at(from), after = at(to);
        const auto level = static_cast<float>(wish_.level);
        Box3 box = boundsAt(from);
        const Box3 later = boundsAt(to);
        if (!before || !after || box.isEmpty() || later.min.y >= level || later.max.y < level - 2.f * length_)
            return out;
        box.extendBy(later);
        const auto seconds = static_cast<float>((to - from) / c_.whole.time.rate.perSecond());
        const float wide = std::max(box.size().x, box.size().z) * 1.2f + 0.1f, cell = wide / n;
        const Vec2 corner(box.center().x - 0.5f * wide, box.center().z - 0.5f * wide);
        const auto scene = keptScene(c_.store, {*after}, c_.job);
        const std::vector<float> was = draughtOf(*keptScene(c_.store, {*before}, c_.job), level, corner, n, cell,
                                                 false),
                                 now = draughtOf(*scene, level, corner, n, cell, false);
        const auto of = [](const std::vector<float>& d, int x, int z) {
            return d[std::size_t(std::clamp(z, 0, n - 1)) * std::size_t(n) + std::size_t(std::clamp(x, 0, n - 1))];
        };
        const Mat4 back = after->toWorld.inverse() * before->toWorld;
        for (int z = 0; z < n; ++z)
            for (int x = 0; x < n; ++x) {
                if (of(was, x, z) > 0.f || !(of(now, x, z) > 0.f))
                    continue;
                const Vec3 under(corner.x + static_cast<float>(x) * cell, box.min.y - 0.01f,
                                 corner.y + static_cast<float>(z) * cell);
                geometry::Hit hit;
                if (!scene->trace(under, Vec3(0.f, 1.f, 0.f), 0.f, level - under.y, hit))
                    continue;
                const Vec3 skin = under + Vec3(0.f, hit.t, 0.f), velocity = (skin - skin * back) / seconds;
                Vec3 bottom = hit.geometricNormal;
                if (bottom.y > 0.f)
                    bottom = -bottom;
                // Out to the side: down the slope of how deep it stands; of what is flat, away from its middle.
                Vec2 out2(0.f);
                for (int k = 1; k <= 3; ++k)
                    out2 += Vec2(of(now, x - k, z) - of(now, x + k, z), of(now, x, z - k) - of(now, x, z + k));
                const float steep = out2.length() / (6.f * cell);
                const Vec2 aside = out2.length() > 1e-5f ? out2.normalized() : Vec2(0.f);
                const Vec3 side(aside.x, 0.f, aside.y);
                const float struck = std::max(velocity.dot(bottom), steep > 0.5f ? velocity.dot(side) : 0.f);
                if (struck <= least)
                    continue;
                // Beside it, where the water is open; what is struck far under a hull does not come out.
                int steps = 0;
                while (steps < n / 6 &&
                       of(now, x + static_cast<int>(std::lround(aside.x * static_cast<float>(steps))),
                          z + static_cast<int>(std::lround(aside.y * static_cast<float>(steps)))) > 0.f)
                    ++steps;
                if (steps >= n / 6 || aside == Vec2(0.f))
                    continue;
                const float fast = struck - 0.5f * least, high = fast * fast / (2.f * 9.81f);
                media::SprayBurst b;
                b.place = Vec3(under.x, level, under.z) + side * (static_cast<float>(steps) * cell);
                b.velocity = (side * 0.55f + Vec3(0.f, 0.85f, 0.f)) * (0.9f * fast) +
                             Vec3(velocity.x, 0.f, velocity.z) * 0.35f;
                b.wide = cell;
                b.volume = cell * cell * std::min(0.2f, thick * high);
                b.lasts = seconds;
                b.own = hash32(static_cast<std::uint32_t>(z * n + x), slot, 0x5b1au);
                out.push_back(b);
            }
        // So many at most, which then stand for all.
        if (out.size() > most) {
            const float each = static_cast<float>(out.size()) / static_cast<float>(most);
            std::vector<media::SprayBurst> some;
            for (std::size_t i = 0; i < most; ++i) {
                some.push_back(out[static_cast<std::size_t>(static_cast<float>(i) * each)]);
                some.back().volume *= each;
            }
            out = std::move(some);
        }
        return out;
    }
    /// Whether it moves and reaches the water; and how large its patch is.
    bool prepare()
    {
        const auto p = at(double(c_.whole.time.first));
        if (!p)
            return false;
        const double last = std::max(double(c_.whole.time.last), double(c_.whole.time.first) + 1.0);
        const auto extent = c_.store.get(ExtentKey{p->set, keys_, wish_.level, last},
                                         [&] { return std::make_shared<const Extent>(extentTo(last)); });
        length_ = extent->length;
        // Eight lengths of it, or six of the waves that follow it: 2π·v²/g.
        const float wave = 2.f * pi * extent->fastest * extent->fastest / 9.81f;
        grid_.n = wish_.samples;
        grid_.cell = std::clamp(std::max(8.f * length_, 6.f * wave), 2.f, 2000.f) / static_cast<float>(grid_.n);
        grid_.depth = wish_.depth;
        grid_.foamHalves = static_cast<float>(wish_.foamHalves);
        return extent->makesWaves;
    }
    Extent extentTo(double last) const
    {
        Extent out;
        const double first = c_.whole.time.first;
        const auto level = static_cast<float>(wish_.level);
        const Box3 start = boundsAt(first);
        if (start.isEmpty())
            return out;
        const Vec3 size = start.size();
        out.length = std::max(0.1f, std::max(size.x, size.z));
        bool reaches = start.min.y < level;
        Vec3 before = start.center();
        constexpr int looks = 24;
        for (int i = 1; i <= looks; ++i) {
            const Box3 b = boundsAt(first + (last - first) * i / looks);
            if (b.isEmpty())
                continue;
            reaches = reaches || (b.min.y < level && b.max.y > level - 2.f * out.length);
            out.fastest = std::max(out.fastest,
                                   (b.center() - before).length() /
                                       static_cast<float>((last - first) / looks / c_.whole.time.rate.perSecond()));
            before = b.center();
        }
        out.makesWaves = reaches && out.fastest > 1e-3f;
        return out;
    }
    /// Where the patch begins: what it leaves behind is seen more of than what lies ahead.
    Vec2 cornerAt(double frame) const
    {
        const double back = 1.5 * c_.whole.time.rate.perSecond();
        const Vec3 here = boundsAt(frame).center(),
                   there = boundsAt(std::max(double(c_.whole.time.first), frame - back)).center();
        const float wide = grid_.cell * static_cast<float>(grid_.n);
        Vec3 way = here - there;
        way.y = 0.f;
        const float far = way.length();
        const Vec3 middle = far > 1e-4f ? here - way * (0.28f * wide / far * std::min(1.f, far / length_)) : here;
        return Vec2(std::round((middle.x - 0.5f * wide) / grid_.cell) * grid_.cell,
                    std::round((middle.z - 0.5f * wide) / grid_.cell) * grid_.cell);
    }
    std::vector<float> draughtAt(double frame, const Vec2& corner) const
    {
        const auto p = at(frame);
        if (!p)
            return std::vector<float>(std::size_t(grid_.n) * std::size_t(grid_.n), 0.f);
        const auto scene = keptScene(c_.store, {*p}, c_.job);
        return draughtOf(*scene, static_cast<float>(wish_.level), corner, grid_.n, grid_.cell);
    }
    /// From one time to another, in as many steps as it takes not to leap over a sample.
    media::WakeState onward(const media::WakeState& from, double frame, double to) const
    {
        const float far = (boundsAt(to).center() - boundsAt(frame).center()).length();
        const int steps = std::clamp(static_cast<int>(std::ceil(far / grid_.cell)), 1, 8);
        media::WakeWalls walls;
        if (wish_.basin)
            walls = [&](float x, float z) { return wish_.basin->holds(x, z); };
        media::WakeState state = from;
        for (int i = 0; i < steps; ++i) {
            c_.job.check();
            const double a = frame + (to - frame) * i / steps, b = frame + (to - frame) * (i + 1) / steps;
            const Vec2 corner = cornerAt(b);
            const std::vector<float> was = draughtAt(a, corner);
            std::vector<float> push = draughtAt(b, corner);
            for (std::size_t k = 0; k < push.size(); ++k)
                push[k] = (push[k] - was[k]) * static_cast<float>(wish_.strength);
            state = media::stepped(state, grid_, corner, push, (b - a) / c_.whole.time.rate.perSecond(), walls);
        }
        return state;
    }
    std::shared_ptr<const media::WakeState> stateAt(std::int64_t frame) const
    {
        const auto first = static_cast<std::int64_t>(c_.whole.time.first);
        const auto p = at(double(first));
        const auto key = [&](std::int64_t f) {
            return StateKey{p ? Identity(p->set) : Identity(),
                            wish_.basin ? Identity(wish_.basin) : Identity(),
                            keys_,
                            double(first),
                            wish_.level,
                            wish_.strength,
                            1.0 / c_.whole.time.rate.perSecond(),
                            grid_,
                            f};
        };
        std::int64_t at = frame;
        std::shared_ptr<const media::WakeState> state;
        while (at > first && !(state = c_.store.atHand<media::WakeState>(key(at))))
            --at;
        if (!state)
            state = std::make_shared<const media::WakeState>(grid_, cornerAt(double(first)));
        for (; at < frame; ++at) {
            c_.job.report(static_cast<float>(at - first) / static_cast<float>(std::max<std::int64_t>(1, frame - first)),
                          "Stepping what moves in the water");
            state = c_.store.get(
                key(at + 1),
                [&] { return std::make_shared<const media::WakeState>(onward(*state, double(at), double(at + 1))); },
                &c_.job);
        }
        return state;
    }

    const FreezeContext& c_;
    std::string id_;
    WakeWish wish_;
    scene::Project alone_;
    std::string keys_;
    media::WakeGrid grid_;
    float length_ = 1.f;
};
} // namespace

std::vector<float> draughtOf(const geometry::RayScene& set, float level, const Vec2& corner, int n, float cell,
                             bool softly)
{
    const auto side = static_cast<std::size_t>(n);
    std::vector<float> out(side * side, 0.f);
    const Box3& box = set.bounds();
    if (box.isEmpty() || box.min.y >= level)
        return out;
    const auto range = [&](float low, float high, float from) {
        return std::pair(std::clamp(static_cast<int>(std::floor((low - from) / cell)) - 1, 0, n),
                         std::clamp(static_cast<int>(std::ceil((high - from) / cell)) + 2, 0, n));
    };
    const std::pair<int, int> xs = range(box.min.x, box.max.x, corner.x), zs = range(box.min.z, box.max.z, corner.y);
    const int x0 = xs.first, x1 = xs.second, z0 = zs.first, z1 = zs.second;
    std::vector<float> sharp(out);
    for (int z = z0; z < z1; ++z)
        for (int x = x0; x < x1; ++x) {
            const Vec3 from(corner.x + static_cast<float>(x) * cell, box.min.y - 0.01f,
                            corner.y + static_cast<float>(z) * cell);
            geometry::Hit hit;
            if (!set.trace(from, Vec3(0.f, 1.f, 0.f), 0.f, level - from.y, hit))
                continue;
            const float bottom = from.y + hit.t;
            // Down from the level: what is met there is its top, where all of it is under water.
            float top = level;
            if (box.max.y < level &&
                set.trace(Vec3(from.x, level, from.z), Vec3(0.f, -1.f, 0.f), 0.f, level - bottom, hit))
                top = level - hit.t;
            sharp[static_cast<std::size_t>(z) * side + static_cast<std::size_t>(x)] = std::max(0.f, top - bottom);
        }
    if (!softly)
        return sharp;
    constexpr int soft = 2;
    constexpr float weights[soft + 1] = {0.375f, 0.25f, 0.0625f};
    std::vector<float> across(out);
    const auto blur = [&](const std::vector<float>& from, std::vector<float>& to, bool alongX) {
        for (int z = std::max(0, z0 - soft); z < std::min(n, z1 + soft); ++z)
            for (int x = std::max(0, x0 - soft); x < std::min(n, x1 + soft); ++x) {
                float sum = 0.f;
                for (int k = -soft; k <= soft; ++k) {
                    const int xx = std::clamp(x + (alongX ? k : 0), 0, n - 1),
                              zz = std::clamp(z + (alongX ? 0 : k), 0, n - 1);
                    sum += weights[std::abs(k)] *
                           from[static_cast<std::size_t>(zz) * side + static_cast<std::size_t>(xx)];
                }
                to[static_cast<std::size_t>(z) * side + static_cast<std::size_t>(x)] = sum;
            }
    };
    blur(sharp, across, true);
    blur(across, out, false);
    return out;
}

namespace {
/// Each set that moves.
template <class Use> void eachMover(const FreezeContext& c, const WakeWish& wish, const Use& use)
{
    for (const scene::Element& e : c.whole.elements) {
        if (!kindOf(e).placed || c.whole.silent(e))
            continue;
        const scene::Parameter* plays = scene::findParameter(e.kind->parameters, "plays");
        if (e.motion.empty() && !(plays && std::get<bool>(e.value("plays"))))
            continue;
        use(Mover(c, e, wish));
    }
}
} // namespace

std::vector<std::shared_ptr<const media::WakePatch>> wakesOf(const FreezeContext& c, const WakeWish& wish)
{
    std::vector<std::shared_ptr<const media::WakePatch>> out;
    if (wish.strength > 0.0)
        eachMover(c, wish, [&](Mover mover) {
            if (auto patch = mover.patch(c.whole.frame))
                out.push_back(std::move(patch));
        });
    return out;
}

std::vector<media::SprayBurst> thrownBySets(const FreezeContext& c, const WakeWish& wish, double frame)
{
    std::vector<media::SprayBurst> out;
    eachMover(c, wish, [&](Mover mover) { mover.thrown(frame, out); });
    return out;
}
} // namespace hygros::elements
