#include "elements/water.h"

#include "base/shown_units.h"
#include "base/words.h"

#include "elements/snow_cover.h"
#include "elements/spray.h"
#include "elements/wakes.h"
#include "elements/wet_ground.h"
#include "elements/wind.h"
#include "media/wind.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct ModesKey {
    media::Swell swell;
    int finest;
    std::uint32_t seed;
    bool operator==(const ModesKey&) const = default;
};
struct FieldKey {
    Identity modes;
    media::SwellMoment moment;
    bool holds;
    double limit;
    bool operator==(const FieldKey&) const = default;
};
struct ShoresKey {
    Identity scene;
    float level;
    Vec2 centre;
    bool operator==(const ShoresKey&) const = default;
};
struct SurfaceKey {
    Identity field, basin, rings, shores;
    std::vector<Identity> wakes;
    media::OpenWater::Settings settings;
    bool operator==(const SurfaceKey&) const = default;
};
/// A field, and what was needed to hold its folds under a limit.
struct KeptField {
    std::shared_ptr<const media::SwellField> field;
    double choppy = 1.0;
    std::size_t bytes() const { return sizeof *this + field->bytes(); }
};

std::shared_ptr<const KeptField> fieldOf(const FreezeContext& c, const WaveSettings& s, const media::Swell& swell)
{
    const auto modes = modesOf(s, swell, c.store, c.job);
    media::SwellMoment moment{c.seconds * s.pace, c.whole.time.loop * s.pace, s.choppy};
    return c.store.get(
        FieldKey{modes, moment, s.holdsFolds, s.foldLimit},
        [&] {
            KeptField kept{std::make_shared<const media::SwellField>(modes, moment, c.job), moment.choppy};
            // What folds grows with how far waves lean together; less of that until it is under the limit.
            if (s.holdsFolds && double(kept.field->shareUnder(0.f)) > s.foldLimit) {
                double low = 0.0, high = moment.choppy;
                for (int i = 0; i < 6; ++i) {
                    const double middle = 0.5 * (low + high);
                    (double(kept.field->foldedAt(static_cast<float>(middle / moment.choppy))) > s.foldLimit
                         ? high
                         : low) = middle;
                }
                moment.choppy = kept.choppy = low;
                kept.field = std::make_shared<const media::SwellField>(modes, moment, c.job);
            }
            return std::make_shared<const KeptField>(std::move(kept));
        },
        &c.job);
}

} // namespace

std::shared_ptr<const media::SwellModes> modesOf(const WaveSettings& s, const media::Swell& swell, Store& store,
                                                 JobControl& job)
{
    const int finest = s.detail == "finest" ? 1024 : s.detail == "fine" ? 512 : 256;
    const auto seed = static_cast<std::uint32_t>(s.seed);
    return store.get(
        ModesKey{swell, finest, seed},
        [&] { return std::make_shared<const media::SwellModes>(swell, finest, seed, job); }, &job);
}

std::optional<WaterLevel> waterLevelOf(const scene::Project& project, const scene::Element& element)
{
    auto open = openWaterLevel(project, element);
    return open ? open : poolLevel(project, element);
}

std::optional<WaterLevel> waterNear(const scene::Project& project)
{
    for (const scene::Element& e : project.elements) {
        if (project.silent(e))
            continue;
        if (auto water = waterLevelOf(project, e))
            return water;
    }
    return std::nullopt;
}

std::vector<std::string> waterTypeIds()
{
    std::vector<std::string> out;
    for (const media::WaterType& t : media::waterTypes())
        out.push_back(t.id);
    return out;
}

media::Swell swellOf(const scene::Project& project, const WaveSettings& s, double level, double depth)
{
    media::Swell w;
    w.wind = s.speed;
    w.toward = double(radians(s.heading));
    const scene::Element* linked = project.find(s.wind);
    if (const auto* by = settingsOf<WindSettings>(linked)) {
        media::Wind profile;
        profile.velocity = Vec3(static_cast<float>(by->speed), 0.f, 0.f);
        profile.reference = static_cast<float>(by->reference);
        profile.roughness = static_cast<float>(by->roughness);
        profile.ground = static_cast<float>(by->ground);
        w.wind = project.silent(*linked)
                     ? 0.0
                     : double(profile.mean(static_cast<float>(std::max(level, by->ground) + 10.0)).x);
        w.toward = double(radians(by->heading));
    }
    w.fetch = s.fetch;
    w.depth = depth;
    w.narrow = s.narrow;
    w.opposing = s.opposing;
    w.shortest = s.shortest;
    w.strength = s.strength;
    return w;
}

void putWater(FreezeContext& c, const WaveSettings& s, const media::Swell& swell, double level,
              std::shared_ptr<const geometry::Basin> basin)
{
    if (!s.wind.empty() && !c.project.find(s.wind))
        c.note("The Wind that makes its waves is not there; its own numbers do.");
    const auto kept = fieldOf(c, s, swell);
    media::OpenWater::Settings to;
    to.level = static_cast<float>(level);
    const geometry::Camera& camera = c.shot.camera;
    to.eye = camera.position;
    to.pixelAngle = camera.sensorMm / std::max(1.f, camera.focalMm) / 1600.f;
    for (const media::WaterType& t : media::waterTypes())
        if (t.id == s.type)
            to.body = t.body;
    const double white = std::min(1.0, s.foam * media::whiteShare(swell.wind));
    to.foam = static_cast<float>(white);
    to.foamHalves = static_cast<float>(s.foamLife);
    to.foamOfWakes = static_cast<float>(std::min(3.0, s.foam));
    to.waveHeight = static_cast<float>(swell.significantHeight());
    // What breaks runs nearly as fast as the waves at the peak.
    const double k = 2.0 * double(pi) / std::max(1e-3, swell.peakLength()),
                 fast = 0.8 * media::frequencyOf(k, swell.depth) / k;
    const auto toward = static_cast<float>(swell.toward);
    to.crests = Vec2(std::sin(toward), -std::cos(toward)) * static_cast<float>(std::isfinite(fast) ? fast : 0.0);
    std::shared_ptr<const geometry::RayScene> bareScene;
    to.foamAtShores = media::shoreFoamOf(to.waveHeight) * to.foamOfWakes;
    if (to.foamAtShores > 0.f || (s.spray > 0.0 && media::shoreFoamOf(to.waveHeight) > 0.f)) {
        // (Where it lies is told anew as the camera goes on by so much.)
        constexpr float pace = 8.f;
        const Vec3 ahead = camera.aim - camera.position;
        const float far = std::max(1e-3f, Vec2(ahead.x, ahead.z).length());
        const auto stepped = [&](float v) { return std::round(v / pace) * pace; };
        const Vec2 centre(stepped(camera.position.x + 16.f * ahead.x / far),
                          stepped(camera.position.z + 16.f * ahead.z / far));
        const std::vector<geometry::PlacedSet> bare = bareOf(c.placed);
        if (!bare.empty()) {
            const auto scene = bareScene = keptScene(c.store, bare, c.job);
            to.shores = c.store.get(
                ShoresKey{scene, to.level, centre},
                [&] { return std::make_shared<const geometry::Shores>(*scene, to.level, centre, c.job); }, &c.job);
        }
    }
    to.seed = static_cast<std::uint32_t>(s.seed);
    const int samples = s.detail == "finest" ? 512 : s.detail == "fine" ? 256 : 128;
    if (const light::Sky* sky = c.shot.sky.get(); sky && sky->hasSun())
        to.toSun = sky->sunDirection();
    const WakeWish wish{level, swell.depth, s.wakes, s.choppy, s.foamLife, samples, basin};
    const auto wakes = wakesOf(c, wish);
    const auto rings = ringsOf(c.shot, c.store);
    const auto shores = std::exchange(to.shores, nullptr);
    SurfaceKey key{kept->field, basin, rings, shores, {}, to}; // a key owns nothing
    for (const auto& w : wakes)
        key.wakes.push_back(w);
    to.basin = basin;
    to.rings = rings;
    to.shores = shores;
    const auto surface = c.store.get(key,
                                     [&] { return std::make_shared<const media::OpenWater>(kept->field, to, wakes); });
    c.shot.waters.push_back({surface, c.element.id, 0});
    putSpray(c, {&s, swell, wish, kept->field->modesShared(), shores, bareScene});
    if (surface->isUnder(camera.position))
        c.tell(words("The camera is under it."));
    const auto metres = [](double v) { return formatQuantity(v, Quantity::Length); };
    const auto share = [](double v) { return shownNumber(std::round(v * 1000.0) / 10.0, 3) + " %"; };
    const auto& tiles = kept->field->modes().tiles();
    const std::string sight = " " + words("One sees %1 far under it.", {metres(double(to.body.sight()))});
    if (tiles.empty()) {
        c.tell(words("No wind and no swell: it lies like a mirror.") + sight);
        return;
    }
    c.tell(words("Waves of %1 (significant height), %2 long at the peak, down to %3, %4 s apart on average. They "
                 "repeat after %5; %6 folds over, %7 is white.",
                 {metres(swell.significantHeight()), metres(swell.peakLength()), metres(swell.shortest),
                  shownNumber(swell.meanPeriod(), 3), metres(tiles.front().length),
                  share(double(kept->field->shareUnder(0.f))), share(white)}) +
           sight);
    if (kept->choppy < s.choppy - 1e-9)
        c.tell(words("To hold folds under %1 its waves lean together by %2 only.",
                     {share(s.foldLimit), share(kept->choppy)}));
}
} // namespace hygros::elements
