#include "elements/spray.h"

#include "base/parallel.h"
#include "base/random.h"
#include "base/shown_units.h"
#include "base/words.h"
#include "media/floating.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr double pace = 0.12;      ///< from one burst to the next at a place [s]
constexpr float wallCell = 0.4f;   ///< of what stands in water, so much is one place [m]
constexpr float wallsTo = 40.f;    ///< from the eye [m]
constexpr double least = 0.35;     ///< how fast water must rise at it to be thrown up [m/s]
constexpr float crestCell = 1.5f;  ///< [m]
constexpr float crestsTo = 48.f;   ///< [m]
constexpr double crestsFrom = 9.0; ///< wind that tears water off crests (E. L. Andreas, J. Phys. Oceanogr. 28,
                                   ///< 1998: spume comes with winds of 7 to 11 m/s)

struct WavesKey {
    Identity modes;
    double loop, choppy;
    bool operator==(const WavesKey&) const = default;
};
struct WallsKey {
    Identity shores;
    Vec2 centre;
    bool operator==(const WallsKey&) const = default;
};
struct SurgesKey {
    Identity waves, walls;
    double first;
    int count;
    bool operator==(const SurgesKey&) const = default;
};
struct CrestsKey {
    Identity modes;
    media::SwellMoment moment;
    Vec2 centre;
    double share;
    bool operator==(const CrestsKey&) const = default;
};

/// Places at what stands in water, and which way is away from it.
struct Walls {
    struct Place {
        Vec2 at, away;
    };
    std::vector<Place> places;
    std::size_t bytes() const { return sizeof *this + places.size() * sizeof(Place); }
};
/// How high the water stands at each of them, by moment [m].
struct Surges {
    std::vector<std::vector<double>> heights;
    std::size_t bytes() const
    {
        std::size_t all = sizeof *this;
        for (const auto& h : heights)
            all += h.size() * sizeof(double);
        return all;
    }
};
/// Where crests are torn at a moment.
struct Torn {
    std::vector<Vec3> places; ///< over the still level
    std::size_t bytes() const { return sizeof *this + places.size() * sizeof(Vec3); }
};

struct FlyingKey {
    std::vector<media::SprayBurst> bursts;
    media::SpraySettings settings;
    bool operator==(const FlyingKey&) const = default;
};
struct Flying {
    std::vector<media::Drop> drops;
    std::size_t bytes() const { return sizeof *this + drops.size() * sizeof(media::Drop); }
};

class Spraying {
public:
    Spraying(FreezeContext& c, const SprayWish& wish) : c_(c), wish_(wish), time_(c.whole.time)
    {
        // In the middle of the open shutter, as what falls.
        const double open = time_.shutterAngle / 360.0;
        frame_ = c.whole.frameNumber() + time_.shutterPhase / 360.0 + 0.5 * open;
        seconds_ = time_.looped(time_.seconds(frame_));
        loop_ = time_.loop;
        // So many moments go into a loop.
        pace_ = loop_ > 0.0 ? loop_ / std::max(1.0, std::round(loop_ / pace)) : pace;
        slot_ = static_cast<std::int64_t>(std::floor(seconds_ / pace_));
        slots_ = static_cast<int>(std::ceil(double(media::sprayLasts) / pace_));
        inLoop_ = loop_ > 0.0 ? std::llround(loop_ / pace_) : 0;
        const auto toward = static_cast<float>(wish.swell.toward);
        toward_ = Vec2(std::sin(toward), -std::cos(toward));
        const geometry::Camera& camera = c.shot.camera;
        const Vec3 ahead = camera.aim - camera.position;
        const float far = std::max(1e-3f, Vec2(ahead.x, ahead.z).length());
        constexpr float step = 8.f, before = 20.f;
        centre_ = Vec2(std::round((camera.position.x + before * ahead.x / far) / step) * step,
                       std::round((camera.position.z + before * ahead.z / far) / step) * step);
    }
    std::vector<media::SprayBurst> bursts()
    {
        std::vector<media::SprayBurst> out = thrownBySets(c_, wish_.wakes, frame_);
        if (!out.empty())
            lift(out);
        if (wish_.shores)
            atWalls(out);
        if (wish_.swell.wind > crestsFrom)
            offCrests(out);
        for (media::SprayBurst& b : out)
            b.volume *= static_cast<float>(wish_.waves->spray);
        return out;
    }
    Vec2 toward() const { return toward_; }

private:
    /// A number of a burst at a place, the same in every loop.
    std::uint32_t numberOf(const Vec2& place, std::int64_t slot, std::uint32_t purpose) const
    {
        const auto cell = [](float v) {
            return static_cast<std::uint32_t>(static_cast<std::int32_t>(std::lround(v * 20.f)));
        };
        const std::int64_t turn = inLoop_ > 0 ? ((slot % inLoop_) + inLoop_) % inLoop_ : slot;
        return hash32(hash32(cell(place.x), cell(place.y), purpose), static_cast<std::uint32_t>(turn),
                      static_cast<std::uint32_t>(wish_.waves->seed));
    }
    double pacedSeconds(std::int64_t slot) const { return static_cast<double>(slot) * pace_ * wish_.waves->pace; }
    float ageOf(std::int64_t slot) const { return static_cast<float>(seconds_ - static_cast<double>(slot) * pace_); }

    /// Within something solid: as many faces over it as make an odd number.
    bool isInside(const Vec2& at) const
    {
        Vec3 from(at.x, static_cast<float>(wish_.wakes.level), at.y);
        int faces = 0;
        geometry::Hit hit;
        while (wish_.bare && faces < 16 && wish_.bare->traceSets(from, Vec3(0.f, 1.f, 0.f), 1e-3f, 500.f, hit)) {
            from.y += hit.t + 1e-3f;
            ++faces;
        }
        return faces % 2 == 1;
    }
    /// Waves that are long beside a post: those run up at it.
    std::shared_ptr<const media::Floating> longWaves() const
    {
        const double loop = loop_ * wish_.waves->pace;
        return c_.store.get(
            WavesKey{wish_.modes, loop, wish_.waves->choppy},
            [&] {
                media::Hull wide;
                wide.length = wide.beam = std::clamp(0.06 * wish_.swell.peakLength(), 0.1, 3.0);
                return std::make_shared<const media::Floating>(*wish_.modes, wide, 0.0, loop, wish_.waves->choppy,
                                                               1200);
            },
            &c_.job);
    }
    /// What sets throw up begins where waves have the water.
    void lift(std::vector<media::SprayBurst>& bursts) const
    {
        const auto waves = longWaves();
        float age = -1.f, height = 0.f;
        for (media::SprayBurst& b : bursts) {
            if (b.age != age) // of one moment, and near each other
                height = static_cast<float>(
                    waves->heights(Vec2(b.place.x, b.place.z), (seconds_ - double(b.age)) * wish_.waves->pace, 1.0, 1)
                        .front());
            age = b.age;
            b.place.y += height;
        }
    }
    /// Where waves run up at what stands in the water.
    void atWalls(std::vector<media::SprayBurst>& out)
    {
        const auto walls = c_.store.get(WallsKey{wish_.shores, centre_}, [&] {
            Walls w;
            const geometry::Shores& s = *wish_.shores;
            const int n = static_cast<int>(wallsTo / wallCell);
            for (int z = -n; z < n; ++z)
                for (int x = -n; x < n; ++x) {
                    const Vec2 at = centre_ + Vec2(static_cast<float>(x), static_cast<float>(z)) * wallCell;
                    const float here = s.away(at.x, at.y);
                    if (!(here > 0.02f) || here > wallCell || isInside(at))
                        continue;
                    const float e = 0.5f * wallCell;
                    const Vec2 away(s.away(at.x + e, at.y) - s.away(at.x - e, at.y),
                                    s.away(at.x, at.y + e) - s.away(at.x, at.y - e));
                    if (away.length2() > 1e-6f)
                        w.places.push_back({at, away.normalized()});
                }
            constexpr std::size_t most = 400;
            if (w.places.size() > most) { // the nearest to the eye
                const Vec3& eye = c_.shot.camera.position;
                const auto far = [&](const Walls::Place& p) { return (p.at - Vec2(eye.x, eye.z)).length2(); };
                std::nth_element(w.places.begin(), w.places.begin() + most, w.places.end(),
                                 [&](const auto& a, const auto& b) { return far(a) < far(b); });
                w.places.resize(most);
            }
            return std::make_shared<const Walls>(std::move(w));
        });
        if (walls->places.empty())
            return;
        const auto waves = longWaves();
        const double first = pacedSeconds(slot_ - slots_), step = pace_ * wish_.waves->pace;
        const auto surges = c_.store.get(SurgesKey{waves, walls, first, slots_ + 2}, [&] {
            Surges s;
            s.heights.resize(walls->places.size());
            parallelFor(s.heights.size(), [&](std::size_t i) {
                s.heights[i] = waves->heights(walls->places[i].at, first, step, slots_ + 3);
            });
            return std::make_shared<const Surges>(std::move(s));
        });
        for (std::size_t i = 0; i < walls->places.size(); ++i) {
            const Walls::Place& p = walls->places[i];
            // As waves come straight at it.
            const float facing = std::max(0.f, -(p.away.x * toward_.x + p.away.y * toward_.y));
            for (int k = 0; k <= slots_; ++k) {
                const std::int64_t slot = slot_ - slots_ + k;
                const double *h = &surges->heights[i][static_cast<std::size_t>(k)],
                             rises = step > 0.0 ? (h[1] - h[0]) / step : 0.0;
                const float rise = static_cast<float>(rises) * facing;
                if (double(rise) <= least || ageOf(slot) >= media::sprayLasts)
                    continue;
                Random random(numberOf(p.at, slot, 0x3a11u));
                // What is shut in between crest and wall leaves it several times as fast.
                const float more = (rise - static_cast<float>(least)) * 1.4f + static_cast<float>(least),
                            up = 3.2f * more * random.range(0.5f, 1.3f);
                media::SprayBurst b;
                b.place = Vec3(p.at.x, static_cast<float>(wish_.wakes.level + h[1]), p.at.y);
                b.velocity = Vec3(p.away.x, 0.f, p.away.y) * (0.3f * up) + Vec3(0.f, up, 0.f);
                b.scatter = 0.45f;
                b.wide = 0.5f * wallCell;
                b.volume = wallCell * static_cast<float>(pace_) * (rise - static_cast<float>(least)) * 0.08f *
                           random.range(0.f, 2.f);
                b.age = ageOf(slot);
                b.lasts = static_cast<float>(pace_);
                b.own = numberOf(p.at, slot, 0x3a12u);
                out.push_back(b);
            }
        }
    }
    /// What the wind tears off crests near the eye.
    void offCrests(std::vector<media::SprayBurst>& out)
    {
        const double share = std::min(0.3, 0.25 * media::whiteShare(wish_.swell.wind));
        const auto over = static_cast<float>(wish_.swell.wind - crestsFrom);
        constexpr int every = 2; // moments between two looks at crests
        const double loop = loop_ * wish_.waves->pace;
        std::int64_t newest = slot_ - ((slot_ % every) + every) % every;
        for (std::int64_t slot = newest; ageOf(slot) < 0.7f * media::sprayLasts; slot -= every) {
            const std::int64_t turn = inLoop_ > 0 ? ((slot % inLoop_) + inLoop_) % inLoop_ : slot;
            const media::SwellMoment moment{pacedSeconds(turn), loop, wish_.waves->choppy};
            const auto torn = c_.store.get(
                CrestsKey{wish_.modes, moment, centre_, share},
                [&] {
                    Torn t;
                    const media::SwellField field(wish_.modes, moment, c_.job);
                    std::vector<float> all = field.jacobians(0.25f, 4000);
                    std::sort(all.begin(), all.end());
                    const float limit =
                        all.empty() ? -9.f : all[static_cast<std::size_t>(share * static_cast<double>(all.size() - 1))];
                    const int n = static_cast<int>(crestsTo / crestCell);
                    for (int z = -n; z < n; ++z)
                        for (int x = -n; x < n; ++x) {
                            const Vec2 from = centre_ +
                                              Vec2(static_cast<float>(x) + 0.5f, static_cast<float>(z) + 0.5f) *
                                                  crestCell;
                            const media::SwellSample s = field.at(from.x, from.y, 0.25f);
                            if (s.jacobian() < limit && s.height > 0.f)
                                t.places.push_back(Vec3(from.x + s.dx, s.height, from.y + s.dz));
                        }
                    return std::make_shared<const Torn>(std::move(t));
                },
                &c_.job);
            for (const Vec3& p : torn->places) {
                const Vec2 place(p.x, p.z);
                if (wish_.wakes.basin && !wish_.wakes.basin->holds(p.x, p.z))
                    continue;
                Random random(numberOf(place, slot, 0x7042u));
                media::SprayBurst b;
                b.place = p + Vec3(0.f, static_cast<float>(wish_.wakes.level), 0.f);
                const float fast = 0.25f * static_cast<float>(wish_.swell.wind);
                b.velocity = Vec3(toward_.x, 0.f, toward_.y) * fast + Vec3(0.f, random.range(0.4f, 1.6f), 0.f);
                b.scatter = 0.5f;
                b.wide = 0.6f * crestCell;
                b.volume = crestCell * crestCell * static_cast<float>(every * pace_) * 2e-5f * over * over *
                           random.range(0.f, 2.f);
                b.age = ageOf(slot);
                b.lasts = static_cast<float>(every * pace_);
                b.own = numberOf(place, slot, 0x7043u);
                out.push_back(b);
            }
        }
    }

    FreezeContext& c_;
    const SprayWish& wish_;
    const scene::TimeSettings& time_;
    double frame_ = 0.0, seconds_ = 0.0, loop_ = 0.0, pace_ = pace;
    std::int64_t slot_ = 0, inLoop_ = 0;
    int slots_ = 0;
    Vec2 toward_{0.f}, centre_{0.f};
};
} // namespace

void putSpray(FreezeContext& c, const SprayWish& wish)
{
    if (!(wish.waves->spray > 0.0))
        return;
    const auto level = static_cast<float>(wish.wakes.level);
    Spraying spraying(c, wish);
    const std::vector<media::SprayBurst> bursts = spraying.bursts();
    const Vec2 toward = spraying.toward();
    if (!bursts.empty()) {
        media::SpraySettings s;
        s.level = level - 0.5f * static_cast<float>(wish.swell.significantHeight());
        s.wind = Vec3(toward.x, 0.f, toward.y) * static_cast<float>(0.7 * wish.swell.wind);
        // Kept, so that pictures of one moment know that they are alike.
        const auto flying = c.store.get(FlyingKey{bursts, s}, [&] {
            Flying all;
            media::sprayOf(bursts, s, all.drops);
            return std::make_shared<const Flying>(std::move(all));
        });
        const std::shared_ptr<const std::vector<media::Drop>> drops(flying, &flying->drops);
        double water = 0.0;
        for (const media::SprayBurst& b : bursts)
            water += b.age >= 0.f && b.age < media::sprayLasts ? double(b.volume) : 0.0;
        if (!drops->empty()) {
            media::Falling f;
            f.id = c.element.id;
            f.form = media::Falling::Form::Spray;
            f.wind = s.wind;
            f.blur = static_cast<float>(c.whole.time.shutterAngle / 360.0 / c.whole.time.rate.perSecond());
            f.seed = static_cast<std::uint32_t>(wish.waves->seed);
            f.all = drops;
            c.shot.falling.push_back(std::move(f));
            c.tell(words("Spray: %1 drops are in the air, of %2 l.",
                         {shownNumber(double(drops->size()), 6), shownNumber(water * 1000.0, 3)}));
        }
    }
    // Of the whole sea: fine drops that do not come down, as high as its waves.
    const double mist = media::sprayMist(wish.swell.wind) * wish.waves->spray;
    if (!wish.wakes.basin && mist > extinctionOfVisibility(2e4)) {
        media::Medium m;
        m.id = c.element.id;
        m.shape = media::Shape::Thinning;
        m.base = level;
        m.top = level + 200.f;
        m.thinning = static_cast<float>(std::max(1.0, 1.5 * wish.swell.significantHeight()));
        m.sigmaT = static_cast<float>(mist);
        m.phase = media::rain::phase;
        c.shot.media.push_back(m);
        c.tell(words("Fine spray hangs %1 deep over it; level through it one sees %2.",
                     {formatQuantity(double(m.thinning), Quantity::Length),
                      formatQuantity(visibilityOfExtinction(mist), Quantity::Length)}));
    }
}
} // namespace hygros::elements
