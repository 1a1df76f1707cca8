#include "elements/wakes.h"

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

private:
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
    const auto [x0, x1] = range(box.min.x, box.max.x, corner.x);
    const auto [z0, z1] = range(box.min.z, box.max.z, corner.y);
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

std::vector<std::shared_ptr<const media::WakePatch>> wakesOf(const FreezeContext& c, const WakeWish& wish)
{
    std::vector<std::shared_ptr<const media::WakePatch>> out;
    if (!(wish.strength > 0.0))
        return out;
    for (const scene::Element& e : c.whole.elements) {
        if (!kindOf(e).placed || c.whole.silent(e))
            continue;
        const scene::Parameter* plays = scene::findParameter(e.kind->parameters, "plays");
        if (e.motion.empty() && !(plays && std::get<bool>(e.value("plays"))))
            continue;
        if (auto patch = Mover(c, e, wish).patch(c.whole.frame))
            out.push_back(std::move(patch));
    }
    return out;
}
} // namespace hygros::elements
