/// Surfaces of a frame: what pixels see and mirror, by distance.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;
using shot::Shot;

void Frame::addMirror(int y, std::size_t pixel, const SurfaceSample::Mirror& m, float t1, const Vec3* lamps)
{
    auto& row = mirrors_[static_cast<std::size_t>(y)];
    auto& rowLamps = mirrorLampLight_[static_cast<std::size_t>(y)];
    if (mirrorOf_[pixel] < 0) {
        mirrorOf_[pixel] = static_cast<std::int32_t>(row.size());
        row.push_back({static_cast<std::uint32_t>(pixel), {}});
        rowLamps.resize(row.size() * 2 * lampCount_, Vec3(0.f));
    }
    const auto at = static_cast<std::size_t>(mirrorOf_[pixel]);
    Mirror& mirror = row[at];
    // The nearer in distance of the two, or a free one for something clearly elsewhere.
    int use = 0;
    for (int i = 0; i < 2; ++i) {
        const MirrorCluster& c = mirror.clusters[i];
        if (c.weight == 0.f || std::abs(std::log(c.t / m.t)) < 0.25f) {
            use = i;
            break;
        }
        use = 1;
    }
    MirrorCluster& c = mirror.clusters[use];
    const float w = c.weight, inv = 1.f / (w + 1.f);
    c.t1 = (c.t1 * w + t1) * inv;
    c.t = (c.t * w + m.t) * inv;
    c.point = (c.point * w + m.point) * inv;
    c.direction = (c.direction * w + m.direction).normalized();
    c.reflectance = (c.reflectance * w + m.reflectance) * inv;
    c.weight = w + 1.f;
    c.light += m.light;
    for (std::size_t l = 0; l < lampCount_; ++l)
        rowLamps[(at * 2 + static_cast<std::size_t>(use)) * lampCount_ + l] += lamps[l];
}

namespace {
constexpr int meterEvery = 16; ///< one pixel or group of so many is measured and stands for the others
} // namespace

struct Frame::Looks {
    std::size_t count = 0;
    float enough = 8.f; ///< looks at the light of a surface, after which others find out about coverage alone
    int x[lanes];
    bool shade[lanes];
    PixelRandom random[lanes];
    geometry::SightRays8 rays{};
    geometry::Hit hits[lanes];
    unsigned met = 0;
    SunSeen sun[lanes];
};

void Frame::surfacesRow(int y, int pass)
{
    std::vector<Vec3> lamps(lampCount_ + 1), mirrorLamps(lampCount_);
    Meter meter;
    meter.prepare(lampCount_, 0);
    const std::uint64_t begun = ticks();
    Looks ahead;
    const auto look = [&](bool toSun) {
        if (ahead.count == 0)
            return;
        lookAhead(ahead, y, toSun);
        for (std::size_t i = 0; i < ahead.count; ++i)
            lookAtSurface(ahead, i, y, lamps, mirrorLamps,
                          (ahead.x[i] * 5 + y) % meterEvery == 0 ? meter.lamps.data() : nullptr);
        ahead.count = 0;
    };
    const auto add = [&](int x, bool shade) {
        ahead.x[ahead.count] = x;
        ahead.shade[ahead.count] = shade;
        if (++ahead.count == lanes)
            look(false);
    };
    for (int first = 0; first < width_; first += lanes) {
        // Where several distances meet most of the error is in how much of a pixel each covers: looked at six times a
        // pass at first, as is where a lamp stands so near that its light is never the same; then as often as noise is
        // seen there. Bare sky only now and then.
        int looks[lanes];
        bool steep[lanes];
        const int end = std::min(first + lanes, width_);
        for (int x = first; x < end; ++x) {
            const std::size_t pixel = index(x, y);
            const Coverage coverage = coverage_.empty() ? Coverage::Even : coverage_[pixel];
            steep[x - first] = coverage == Coverage::Steep || coverage == Coverage::Disc;
            const bool blurred = !blurred_.empty() && blurred_[pixel];
            if (blurred && pass == 1)
                forgetSharp(x, y);
            if (looks_.empty() || coverage == Coverage::Disc || coverage == Coverage::BareSky) {
                looks[x - first] = coverage == Coverage::Disc                                  ? 48
                                   : blurred || coverage == Coverage::Edge || steep[x - first] ? 6
                                   : coverage == Coverage::BareSky ? ((x + 3 * y + pass) & 7) == 0
                                                                   : 1;
            } else {
                const int shared = looks_[pixel] & ~shadeAll;
                looks[x - first] = blurred || steep[x - first] ? std::max(6, shared)
                                   : shared > 0                ? shared
                                                               : (x + y + pass) & 1;
                steep[x - first] = steep[x - first] || (looks_[pixel] & shadeAll);
            }
            if (looks[x - first] > 0) {
                ahead.x[ahead.count] = x;
                ahead.shade[ahead.count++] = true;
            }
        }
        look(true);
        for (int x = first; x < end; ++x)
            for (int more = 1; more < looks[x - first]; ++more)
                add(x, steep[x - first]);
        look(false);
    }
    for (double& lamp : meter.lamps)
        lamp *= meterEvery;
    meter.total = static_cast<double>(ticks() - begun);
    meterRow(meter);
}

void Frame::edgesRow(int y)
{
    std::vector<Vec3> lamps(lampCount_ + 1), mirrorLamps(lampCount_);
    Looks ahead;
    ahead.enough = 1.f;
    const auto look = [&] {
        lookAhead(ahead, y, false);
        for (std::size_t i = 0; i < ahead.count; ++i)
            lookAtSurface(ahead, i, y, lamps, mirrorLamps, nullptr);
        ahead.count = 0;
    };
    constexpr int more = 5;
    for (int x = 0; x < width_; ++x)
        for (int k = 0; k < more && coverage_[index(x, y)] == Coverage::Edge; ++k) {
            ahead.x[ahead.count] = x;
            ahead.shade[ahead.count] = false;
            if (++ahead.count == lanes)
                look();
        }
    if (ahead.count > 0)
        look();
}

void Frame::lookAhead(Looks& looks, int y, bool toSun) const
{
    std::uint32_t before = 0; ///< looks of the same pixel ahead of it
    for (std::size_t i = 0; i < looks.count; ++i) {
        const int x = looks.x[i];
        before = i > 0 && looks.x[i - 1] == x ? before + 1 : 0;
        const std::size_t pixel = index(x, y);
        PixelRandom& random = looks.random[i];
        random = {x, y, static_cast<std::uint32_t>(samples_[pixel]) + before + 6u * static_cast<std::uint32_t>(draw_)};
        if (shot_->scene->moves())
            random.time = random(purposeTime);
        const bool lens = !blurred_.empty() && blurred_[pixel];
        const geometry::SightRay sight = view_.ray(
            static_cast<float>(x) + tent(random(purposePixel)), static_cast<float>(y) + tent(random(purposePixel + 1)),
            lens ? random(purposeLens) : 0.5f, lens ? random(purposeLens + 1) : 0.5f, random.time);
        looks.rays.origin[i] = sight.origin;
        looks.rays.direction[i] = sight.direction;
        looks.rays.time[i] = random.time;
        looks.sun[i] = SunSeen::Unknown;
    }
    looks.met = sampler_->meetFromEye8(looks.rays, (1u << looks.count) - 1u, looks.hits);
    if (toSun)
        sampler_->lookToSun8(looks.rays, looks.random, looks.hits, looks.met, looks.sun);
}

int Frame::clusterFor(std::size_t pixel, float t)
{
    Cluster* c = &clusters_[pixel * clusterCount];
    float gap[clusterCount];
    for (int i = 0; i < clusterCount; ++i) {
        if (c[i].weight == 0.f)
            return i;
        gap[i] = std::abs(std::log(c[i].t / t));
        if (gap[i] < 0.12f)
            return i;
    }
    // More distances than clusters: the two most alike become one, be it two clusters or one of them and this sample.
    // The sky is farther from everything than anything else, so it keeps a cluster of its own.
    const int nearest = static_cast<int>(std::min_element(gap, gap + clusterCount) - gap);
    int into = -1, from = -1;
    float least = gap[nearest];
    for (int i = 0; i < clusterCount; ++i)
        for (int j = i + 1; j < clusterCount; ++j)
            if (const float between = std::abs(std::log(c[i].t / c[j].t)); between < least) {
                least = between;
                into = i;
                from = j;
            }
    if (into < 0)
        return nearest;
    Cluster &a = c[into], &b = c[from];
    a.t = (a.t * a.weight + b.t * b.weight) / (a.weight + b.weight);
    a.weight += b.weight;
    // Their mean light by coverage, as a sum over as many looks as both have had.
    a.sum += b.sum;
    a.square += b.square;
    const float looks = a.shaded + b.shaded, shareB = b.weight / a.weight,
                weightA = a.shaded > 0.f ? (1.f - shareB) * looks / a.shaded : 0.f,
                weightB = b.shaded > 0.f ? shareB * looks / b.shaded : 0.f;
    a.fromPlate = static_cast<std::uint16_t>(a.fromPlate + b.fromPlate);
    a.held = static_cast<std::uint16_t>(a.held + b.held);
    a.light = a.light * Vec3(weightA);
    a.light += b.light * Vec3(weightB);
    const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_)),
              y = static_cast<int>(pixel / static_cast<std::size_t>(width_));
    const std::size_t group = groupAt(x, y);
    for (std::size_t j = 0; j < lampsOf(group).size(); ++j) {
        Vec3 &lampA = *lampOn(group, into, x % lanes, j), &lampB = *lampOn(group, from, x % lanes, j);
        lampA = lampA * weightA + lampB * weightB;
        lampB = Vec3(0.f);
    }
    a.shaded = looks;
    b = Cluster();
    for (std::size_t q = 0; q < air_->noisyCount() && !surfaceNoise_.empty(); ++q)
        surfaceNoise_.at(groupAt(x, y), static_cast<std::size_t>(from) * air_->noisyCount() + q)[x % lanes] = 0;
    return from;
}

void Frame::lookAtSurface(const Looks& looks, std::size_t at, int y, std::span<Vec3> lamps, std::span<Vec3> mirrorLamps,
                          double* clock)
{
    const int x = looks.x[at];
    const std::size_t pixel = index(x, y);
    if (samples_[pixel] >= 60000.f)
        return; // counts are 16 bits, and nothing is left to find
    const bool shade = looks.shade[at];
    const PixelRandom& random = looks.random[at];
    const Vec3 &origin = looks.rays.origin[at], &direction = looks.rays.direction[at];
    const geometry::Hit& hit = looks.hits[at];
    const bool met = (looks.met >> at) & 1u;
    const std::size_t group = groupAt(x, y);
    const auto which = lampsOf(group);
    float lampDistance = met ? hit.t : Shot::farDistance;
    Vec3 radiance(0.f);
    const int source = which.empty() || sampler_->eyeIn()
                           ? -1
                           : sampler_->meetsLamp(origin, direction, view_.pixelAngle(), which, lampDistance, radiance);
    const float plate = plateDepth_.empty() ? -1.f : plateDepth_[pixel];
    // A matte stands for something that is on the plate.
    if (source >= 0 && (plate < 0.f || lampDistance < plate)) {
        // A lamp's own glow is light of that lamp.
        samples_[pixel] += 1.f;
        const int use = clusterFor(pixel, lampDistance);
        Cluster& to = clusters_[pixel * clusterCount + static_cast<std::size_t>(use)];
        to.t = (to.t * to.weight + lampDistance) / (to.weight + 1.f);
        to.weight += 1.f;
        lampMet_[pixel] = 1;
        // (As surfaces below: what is looked at more often than they would count for more than it covers.)
        if (!shade && to.shaded >= looks.enough)
            return;
        to.shaded += 1.f;
        const float sent = luminance(radiance * shot_->lamps[which[static_cast<std::size_t>(source)]].intensity);
        to.sum += sent;
        to.square += sent * sent;
        if (only_ == WaterPart::All)
            *lampOn(group, use, x % lanes, static_cast<std::size_t>(source)) += radiance;
        return;
    }
    const bool matte = met && hit.matte, onPlate = plate >= 0.f && (!met || hit.t > plate || matte);
    const float none = sampler_->eyeIn() ? SurfaceSampler::reachUnder(*sampler_->eyeIn()) : Shot::farDistance;
    const float t = onPlate && !(matte && hit.t < plate) ? plate : met ? hit.t : none;
    samples_[pixel] += 1.f;
    const int use = clusterFor(pixel, t);
    Cluster& to = clusters_[pixel * clusterCount + static_cast<std::size_t>(use)];
    to.t = (to.t * to.weight + t) / (to.weight + 1.f);
    to.weight += 1.f;
    if (onPlate) {
        if (only_ == WaterPart::All)
            ++to.fromPlate;
        else
            to.shaded += 1.f;
        return;
    }
    if (matte) {
        ++to.held;
        to.shaded += 1.f;
        return;
    }
    // Coverage alone is cheap; light is looked at once a pass, and always where there is little of it yet.
    // (The sky is as cheap, and the sun's disc in it is not even.)
    if (!shade && met && to.shaded >= looks.enough && !SurfaceSampler::isMirror(hit) && mirrorOf_[pixel] < 0)
        return;
    const SurfaceSample s = sampler_->shadedFromEye(met ? &hit : nullptr, origin, direction, view_.pixelAngle(), random,
                                                    which, lamps.first(which.size()), mirrorLamps,
                                                    {clock, looks.sun[at]});
    to.shaded += 1.f;
    to.light += s.light;
    float sent = luminance(s.light.emitted + s.light.sun * sunLight_ + s.light.sky);
    for (std::size_t j = 0; j < which.size(); ++j) {
        *lampOn(group, use, x % lanes, j) += lamps[j];
        sent += luminance(lamps[j] * shot_->lamps[which[j]].intensity);
    }
    if (s.mirror)
        sent += luminance(s.mirror->light.emitted + s.mirror->light.sun * sunLight_ + s.mirror->light.sky);
    to.sum += sent;
    to.square += sent * sent;
    if (s.mirror)
        addMirror(y, pixel, *s.mirror, s.t, mirrorLamps.data());
}
} // namespace hygros::render
