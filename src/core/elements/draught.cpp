/// What a baked fire's draught does to banks of mist.
#include "media/draught.h"
#include "elements/air.h"
#include "elements/plume_parts.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/plume.h"
#include "sim/smoke/rising.h"

#include <cmath>

namespace hygros::elements {
namespace {
using media::Draught;

struct RisingKey {
    FileVersion version;
    float around = 288.f;
    bool operator==(const RisingKey&) const = default;
};

/// How strongly a plume rises over its bake: looked at now and then, even between.
class Strength {
public:
    Strength(const FreezeContext& c, const PlumeMeasures& plume) : time_(c.whole.time)
    {
        constexpr int looks = 12;
        const int step = std::max(1, (time_.last - time_.first + looks - 1) / looks);
        double weight = 0.0;
        for (int frame = time_.first; frame < time_.last + step; frame += step) {
            const auto kept = keptFrame(c.project, c.element.id, std::min(frame, time_.last), c.store);
            if (!kept)
                continue;
            const auto rising = c.store.get(
                RisingKey{kept->version, plume.around},
                [&] {
                    const Payload payload = kept->read();
                    const auto gas = sim::readGas(payload.bytes().subspan(sim::headOf(payload.bytes())));
                    return std::make_shared<const sim::Rising>(sim::risingOf(*gas, plume.around));
                },
                &c.job);
            const double root = std::cbrt(rising->buoyancy);
            looks_.push_back({time_.seconds(std::min(frame, time_.last)), root});
            mean_ += root;
            if (rising->buoyancy > 0.0) {
                foot_ += rising->foot * static_cast<float>(rising->buoyancy);
                radius_ += double(rising->radius) * rising->buoyancy;
                weight += rising->buoyancy;
            }
        }
        if (weight <= 0.0)
            return;
        mean_ /= static_cast<double>(looks_.size());
        foot_ /= static_cast<float>(weight);
        radius_ /= weight;
        if (retimingOf(c).isOn || time_.loop > 0.0)
            looks_ = {{0.0, mean_}}; // shown at other times than it was baked for, or again and again
    }
    bool isThere() const { return mean_ > 0.0 && radius_ > 0.0; }
    const Vec3& foot() const { return foot_; }
    float radius() const { return static_cast<float>(radius_); }
    double mean() const { return mean_; }
    /// B^⅓ at a time; before the first look as then.
    double at(double seconds) const
    {
        if (seconds <= looks_.front().seconds)
            return looks_.front().root;
        for (std::size_t i = 1; i < looks_.size(); ++i)
            if (const Look& a = looks_[i - 1], &b = looks_[i]; seconds < b.seconds)
                return a.root + (b.root - a.root) * (seconds - a.seconds) / (b.seconds - a.seconds);
        return looks_.back().root;
    }
    /// ∫B^⅓ over the time before.
    double before(double seconds, double length) const
    {
        const double first = looks_.front().seconds, begins = seconds - length;
        double sum = 0.0;
        if (begins < first)
            sum += (std::min(first, seconds) - begins) * looks_.front().root;
        const double from = std::max(begins, first);
        if (from < seconds) {
            constexpr int pieces = 64;
            for (int i = 0; i < pieces; ++i)
                sum += at(from + (seconds - from) * (i + 0.5) / pieces) * (seconds - from) / pieces;
        }
        return sum;
    }

private:
    struct Look {
        double seconds, root;
    };
    scene::TimeSettings time_;
    std::vector<Look> looks_;
    Vec3 foot_{0.f};
    double radius_ = 0.0, mean_ = 0.0;
};

bool isBank(const media::Medium& m)
{
    return !m.clean && m.sigmaT > 0.f && m.shape != media::Shape::Uniform && m.shape != media::Shape::Thinning;
}
} // namespace

void addDraughts(FreezeContext& c, double strength)
{
    const auto plume = measuresOf(&c.element);
    const Strength fire(c, *plume);
    // In a second of the film; warmth and lean are of the gas itself.
    const double draws = double(Draught::draws) * strength * double(plume->pace);
    if (!fire.isThere())
        return; // nothing is baked, which is told; or nothing rises
    const double loop = c.project.time.loop;
    const Vec3 wind = media::windAt(c.shot.airflow.winds, fire.foot() + Vec3(0.f, 3.f, 0.f));
    int banks = 0;
    for (media::Medium& m : c.shot.media) {
        if (!isBank(m))
            continue;
        ++banks;
        Draught d;
        d.foot = fire.foot();
        d.radius = fire.radius();
        media::Draughts& all = m.draughts;
        if (!all.any()) {
            // A pattern begins anew once what is two cells away has come nearer by half a cell, two metres up.
            const double scale = double(m.noise.scale), height = std::pow(2.0 + double(d.depth()), 2.0 / 3);
            double period = std::clamp(scale * scale / (draws * fire.mean() * height), 1.0, 1e5);
            if (loop > 0.0)
                period = loop / std::max(1.0, std::round(loop / period));
            all.period = static_cast<float>(period);
            const double u = c.seconds / period - std::floor(c.seconds / period), second = std::abs(2.0 * u - 1.0);
            all.turned = static_cast<float>(second * second * (3.0 - 2.0 * second));
        }
        const double period = double(all.period), turns = c.seconds / period;
        const scene::Element* bank = c.project.find(m.id);
        const auto* drift = bank ? dynamic_cast<const DriftSettings*>(bank->settings.get()) : nullptr;
        const double passing = drift && drift->wind.empty() ? drift->driftSpeed
                                                            : double(Vec3(wind.x, 0.f, wind.z).length());
        for (int i = 0; i < 2; ++i) {
            const double age = (turns + 0.5 * i - std::floor(turns + 0.5 * i)) * period;
            d.drawn[i] = static_cast<float>(2.0 * draws * fire.before(c.seconds, age));
            d.passes[i] = static_cast<float>(passing * age);
        }
        const double now = fire.at(c.seconds);
        d.warmth = static_cast<float>(strength * now * now * double(Draught::warms) /
                                      double(Draught::dries * m.sigmaT));
        if (now > 1e-6)
            d.lean = Vec2(wind.x, wind.z) * static_cast<float>(0.75 / (double(Draught::rises) * now));
        all.fires.push_back(d);
    }
    if (!banks)
        c.note("There is no bank of mist that its draught could move: haze is left as it is.");
}
} // namespace hygros::elements
