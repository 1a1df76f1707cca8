#include "elements/buoy.h"

#include "base/words.h"

#include "base/shown_units.h"
#include "elements/probe.h"
#include "media/floating.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct BuoySettings final : scene::SettingsOf<BuoySettings> {
    Vec3 position{0.f};
};
struct WavesKey {
    Identity modes;
    double loop;
    bool operator==(const WavesKey&) const = default;
};
struct MeasuredKey {
    Identity waves;
    Vec2 place;
    double pace;
    bool operator==(const MeasuredKey&) const = default;
};

/// All its waves, as a speck on it feels them.
std::shared_ptr<const media::Floating> wavesOf(const BuoyWish& w, Store& store, JobControl& job)
{
    const auto modes = modesOf(w.waves, w.swell, store, job);
    const double loop = w.time.loop * w.waves.pace;
    return store.get(
        WavesKey{modes, loop},
        [&] { return std::make_shared<const media::Floating>(*modes, media::Hull(), 0.0, loop, 1.0); }, &job);
}
} // namespace

std::optional<BuoyWish> buoyWish(const scene::Project& project, const scene::Element& element)
{
    const auto* s = settingsOf<BuoySettings>(&element);
    const auto water = s ? waterNear(project) : std::nullopt;
    if (!water)
        return std::nullopt;
    return BuoyWish{Vec2(s->position.x, s->position.z), water->swell, *water->waves, project.time};
}

std::vector<double> buoyHeights(const BuoyWish& w, Store& store, JobControl& job)
{
    const auto waves = wavesOf(w, store, job);
    std::vector<double> out;
    for (int f = w.time.first; f <= w.time.last; ++f) {
        job.check();
        const double seconds = w.time.looped(w.time.seconds(f)) * w.waves.pace;
        out.push_back(waves->heights(w.place, seconds, 1.0, 1).front());
    }
    return out;
}

std::shared_ptr<const BuoyMeasured> buoyMeasured(const BuoyWish& w, Store& store, JobControl& job)
{
    const auto waves = wavesOf(w, store, job);
    return store.get(
        MeasuredKey{waves, w.place, w.waves.pace},
        [&] {
            // As fine as its shortest waves that count, a tenth of the mean period.
            BuoyMeasured out;
            const double step = std::clamp(0.1 * w.swell.meanPeriod(), 0.02, 1.0);
            const int count = static_cast<int>(std::min(12000.0, 60.0 * BuoyMeasured::minutes / step));
            const std::vector<double> h = waves->heights(w.place, 0.0, step, count);
            double sum = 0.0, squares = 0.0, begun = -1.0, ended = -1.0;
            int crossings = -1;
            for (std::size_t i = 0; i < h.size(); ++i) {
                sum += h[i];
                squares += h[i] * h[i];
                out.lowest = std::min(out.lowest, h[i]);
                out.highest = std::max(out.highest, h[i]);
                if (i > 0 && h[i - 1] < 0.0 && h[i] >= 0.0) {
                    ended = (static_cast<double>(i) - h[i] / (h[i] - h[i - 1])) * step;
                    begun = crossings < 0 ? ended : begun;
                    ++crossings;
                }
            }
            const auto n = static_cast<double>(h.size());
            out.height = n > 0.0 ? 4.0 * std::sqrt(std::max(0.0, squares / n - (sum / n) * (sum / n))) : 0.0;
            out.period = crossings > 0 ? (ended - begun) / crossings : 0.0;
            return std::make_shared<const BuoyMeasured>(out);
        },
        &job);
}

std::string buoyText(double height) { return formatQuantity(height, Quantity::Length); }

Kind buoyKind()
{
    using S = BuoySettings;
    Kind k;
    k.id = "buoy";
    k.label = "Buoy";
    k.help = "A pin on the water that tells how high it stands there over time, on the Motion page, and what waves "
             "it measures.";
    k.family = scene::Family::Water;
    asPin(k, 0.f);
    scene::TableOf<S> t;
    t.point("position", "position", &S::position)
        .place()
        .in("Place")
        .says("Where it is moored; its height is the water's.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto wish = buoyWish(c.project, c.element);
        if (!wish)
            return c.note("There is no water that it could lie on: add Open water or a Pool.");
        const auto now = buoyMeasured(*wish, c.store, c.job);
        const auto metres = [](double v) { return formatQuantity(v, Quantity::Length); };
        const auto seconds = [](double v) { return formatQuantity(v, Quantity::Time); };
        if (!(now->height > 0.0))
            return c.tell(words("It lies still: there is no wind and no swell."));
        c.tell(words("Measured over %1 min: significant height %2, mean period %3; the spectrum says %4 and %5. "
                     "Between %6 and %7 of the level.",
                     {shownNumber(BuoyMeasured::minutes), metres(now->height), seconds(now->period),
                      metres(wish->swell.significantHeight()), seconds(wish->swell.meanPeriod()), metres(now->lowest),
                      metres(now->highest)}));
    };
    return k;
}
} // namespace hygros::elements
