/// Where paths are followed beside the march, and what they say of it.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_lit.h"
#include "render/frame_rows.h"
#include "render/path_integrator.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace hygros::render {
namespace {
/// Neighbours so much alike, in distance and in the cosine between normals, have the same ratios but for their place.
constexpr float alikeDepth = 0.1f, alikeNormal = 0.94f;
/// Looks of one round are repeated so often while they have met no more events than this a look: paths are cheap beside
/// a pass, and what they have not told yet is soon most of the noise. Where air is deep and paths are long they are
/// not.
constexpr int mostBatches = 4;
constexpr double eventsEnough = 16.0;
constexpr int firstMarches = 4; ///< whose own noise is greater
} // namespace

/// What the artist has turned away from what is physical is the march's alone.
std::array<bool, PathRatios::sources> Frame::comparable() const
{
    const shot::Shot& s = *shot_;
    const bool orders = s.scatteringOrders >= shot::Shot().scatteringOrders;
    bool plain = std::all_of(s.media.begin(), s.media.end(), [](const auto& m) { return m.ambient == 1.f; });
    shot::Bodies::each(s, [&](const auto& body) { plain = plain && body.ambient == 1.f; });
    const bool quick = std::any_of(s.lamps.begin(), s.lamps.end(), [](const light::Lamp& l) { return l.quick; });
    return {orders && s.sky, orders && s.sky && plain, orders && (lampCount_ > 0 || bodies_.own) && !quick};
}

bool Frame::pathsLeft() const
{
    const auto compared = comparable();
    return followsPaths_ && lit_ && pathMarches_ < std::min(tracedPasses_, pathsEnough) &&
           std::any_of(compared.begin(), compared.end(), [](bool c) { return c; });
}

bool Frame::followPaths(const std::atomic<bool>& stop)
{
    if (!pathsLeft())
        return true;
    const auto compared = comparable();
    if (!paths_)
        paths_ = std::make_shared<PathIntegrator>(shot_, 8, 8);
    constexpr std::size_t pixelsALook = 64, fewest = 2048;
    const std::size_t count = std::max(fewest, span_.size() / pixelsALook) * looksTimes_;
    const std::vector<std::string>& sources = paths_->gathered().sources;
    std::vector<int> kind; // of the paths' sources; < 0: nothing to compare
    for (const std::string& id : sources)
        kind.push_back(id == "own"                        ? -1
                       : shot_->sky && id == shot_->sunId ? PathRatios::sun
                       : shot_->sky && id == "sky"        ? PathRatios::sky
                                                          : PathRatios::lamps);
    const int batches = pathMarches_ >= firstMarches && looksTimes_ == 1 ? mostBatches : 1;
    const double marches = pathMarches_;
    const auto enough = static_cast<long long>(eventsEnough * static_cast<double>(count));
    long long events = 0;
    for (int batch = 0; batch < batches && events < enough; ++batch) {
        std::vector<PathRatios::Look> looks(count);
        if (const long long met = lookByPaths(kind, looks, stop); met >= 0)
            events += met;
        else if (batch == 0) // half a picture's looks say nothing
            return false;
        else
            break;
        // Photons come in between marches, and so does noise: the newest looks met the best march, by much at first.
        if (std::exchange(marchedAnew_, false))
            ratios_.fade(std::pow(marches / (marches + 1.0), marches < 8.0 ? 2.0 : 0.3));
        addLooks(looks, compared);
    }
    ++pathMarches_;
    ratios_.solve();
    return true;
}

long long Frame::lookByPaths(std::span<const int> kind, std::vector<PathRatios::Look>& looks,
                             const std::atomic<bool>& stop)
{
    const std::uint32_t begun = pathLooks_;
    std::atomic<long long> events{0};
    parallelRanges(looks.size(), 64, [&](std::size_t first, std::size_t last) {
        std::vector<float> setBy(kind.size() * 3), airBy(setBy.size());
        long long met = 0;
        for (std::size_t i = first; i < last && !stop; ++i) {
            // Evenly over the picture, however many there will be: Roberts' R2 sequence.
            const std::uint32_t k = begun + static_cast<std::uint32_t>(i);
            const auto part = [k](double step) {
                const double v = 0.5 + step * static_cast<double>(k);
                return static_cast<float>(v - std::floor(v));
            };
            const int x = std::min(width_ - 1, static_cast<int>(part(0.7548776662466927) * static_cast<float>(width_))),
                      y = std::min(height_ - 1,
                                   static_cast<int>(part(0.5698402909980532) * static_cast<float>(height_)));
            // The same draw in every frame of a sequence: what is left of noise stands still.
            Random random(hash32(k, 0x70617468u, 0u));
            std::fill(setBy.begin(), setBy.end(), 0.f);
            std::fill(airBy.begin(), airBy.end(), 0.f);
            looks[i] = lookByPath(x, y, random, kind, setBy, airBy, met);
        }
        events += met;
    });
    if (stop)
        return -1;
    pathLooks_ += static_cast<std::uint32_t>(looks.size());
    return events;
}

void Frame::addLooks(std::vector<PathRatios::Look>& looks, const std::array<bool, PathRatios::sources>& compared)
{
    const auto count = static_cast<float>(looks.size());
    // A single path that is many times as bright as all others says nothing about its place: it counts there as far
    // as this.
    constexpr float brightest = 40.f;
    std::array<float, PathRatios::sources> airMean{}, setMean{};
    for (const PathRatios::Look& look : looks)
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            airMean[s] += luminance(look.airMarched[s]) / count;
            setMean[s] += luminance(look.setMarched[s]) / count;
        }
    for (PathRatios::Look& look : looks) {
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            look.airMost[s] = brightest * (airMean[s] + luminance(look.airMarched[s]));
            look.setMost[s] = brightest * (setMean[s] + luminance(look.setMarched[s]));
        }
        for (std::size_t s = 0; s < PathRatios::sources; ++s)
            if (!compared[s])
                look.air[s] = look.airMarched[s] = look.set[s] = look.setMarched[s] = Vec3(0.f);
        ratios_.add(look);
    }
}

PathRatios::Look Frame::lookByPath(int x, int y, Random& random, std::span<const int> kind, std::span<float> setBy,
                                   std::span<float> airBy, long long& events) const
{
    const std::size_t p = index(x, y);
    PathIntegrator::Probe probe;
    probe.pixelAngle = view_.pixelAngle();
    probe.time = shot_->scene->moves() ? random.next() : 0.f;
    const float dx = tent(random.next()), dy = tent(random.next());
    const bool lens = !blurred_.empty() && blurred_[p];
    const float u = lens ? random.next() : 0.5f, v = lens ? random.next() : 0.5f;
    const geometry::SightRay sight = view_.ray(static_cast<float>(x) + dx, static_cast<float>(y) + dy, u, v,
                                               probe.time);
    probe.origin = sight.origin;
    probe.direction = sight.direction;
    // What shines itself is the same by both, and brighter than anything that paths meet beside it.
    const bool showsLamp = !lampMet_.empty() && lampMet_[p];
    if (!plateDepth_.empty()) {
        probe.onPlate = true;
        probe.limit = plateDepth_[p];
    }
    const PathIntegrator::PathLight light = paths_->light(probe, random, setBy.data(), airBy.data());
    events += light.events;

    PathRatios::Look look;
    look.x = (static_cast<float>(x) + 0.5f) / static_cast<float>(width_);
    look.y = (static_cast<float>(y) + 0.5f) / static_cast<float>(height_);
    const float depth = depthAt(x, y);
    look.t = depth;
    look.isSky = depth >= shot::Shot::farDistance;
    for (std::size_t s = 0; s < PathRatios::sources; ++s)
        look.air[s] = look.airMarched[s] = look.set[s] = look.setMarched[s] = Vec3(0.f);
    for (std::size_t s = 0; s < kind.size(); ++s)
        for (std::size_t c = 0; c < 3 && kind[s] >= 0; ++c) {
            look.air[static_cast<std::size_t>(kind[s])][static_cast<int>(c)] += airBy[s * 3 + c];
            look.set[static_cast<std::size_t>(kind[s])][static_cast<int>(c)] += setBy[s * 3 + c];
        }
    // Under water there is no air before the eye; what is seen out of it counts with the surface.
    const bool inWater = sampler_->eyeIn() != nullptr;
    if (inWater)
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            look.set[s] += look.air[s];
            look.air[s] = Vec3(0.f);
        }
    const std::size_t group = groupOf(p);
    const auto lane = static_cast<std::size_t>(x % lanes);
    const auto which = lampsOf(group);
    const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[static_cast<std::size_t>(y)]));
    for (std::size_t c = 0; c < 3 && !inWater; ++c) {
        const int ch = static_cast<int>(c);
        look.airMarched[PathRatios::sun][ch] = airSun_.at(p)[c];
        look.airMarched[PathRatios::sky][ch] = airSky_.at(p)[c];
        float lamps = airOwn_.empty() ? 0.f : airOwn_.at(p)[c];
        for (std::size_t slot = lampBase_[group]; slot < lampBase_[group + 1]; ++slot)
            lamps += airLamp_.at(slot * lanes + lane)[c] * beamShare;
        look.airMarched[PathRatios::lamps][ch] = lamps;
    }
    // The surface that the path has met, as the march has it; of mirrors all that is in the pixel. Plates and lamps
    // that are seen are left alone.
    const Cluster* c = &clusters_[p * clusterCount];
    const bool mirror = mirrorOf_[p] >= 0;
    int met = -1;
    float known = 0.f;
    for (int k = 0; k < clusterCount; ++k) {
        if (c[k].weight == 0.f || through_[p].view[k] < 0.f)
            continue;
        if (c[k].held > 0 || c[k].fromPlate > 0 || c[k].shaded == 0.f)
            return look;
        known += c[k].weight;
        if (mirror ? met < 0 || c[k].weight > c[met].weight
                   : std::abs(c[k].t - light.depth) < 0.1f * light.depth &&
                         (met < 0 || std::abs(c[k].t - light.depth) < std::abs(c[met].t - light.depth)))
            met = k;
    }
    if (met < 0 || showsLamp || light.lampSeen || light.matte || c[met].t >= shot::Shot::farDistance)
        return look;
    look.surface = true;
    look.mirror = mirror;
    look.t = look.isSky ? look.t : c[met].t;
    look.normal = c[met].light.normal();
    Vec3 view[clusterCount]{Vec3(0.f), Vec3(0.f), Vec3(0.f)};
    Overlay overlays[lanes][clusterCount];
    if (hasOverlay()) {
        const int x0 = x / lanes * lanes;
        overlaysAt(x0, y, raysAt(x0, y), overlays);
    }
    for (int k = 0; k < clusterCount; ++k)
        view[k] = overlays[lane][k].tint * std::max(0.f, through_[p].view[k]);
    const auto from = [&](int source) {
        Vec3 sum(0.f);
        for (int k = mirror ? 0 : met; k < (mirror ? clusterCount : met + 1); ++k) {
            if (c[k].weight == 0.f || through_[p].view[k] < 0.f)
                continue;
            const auto point = [&] {
                return view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).at(c[k].t);
            };
            sum += lit(c[k].light, which, lampOn(group, k, static_cast<int>(lane)), lampStride, point,
                       through_[p].onto[k], c[k].shaded, nullptr, source) *
                   view[k] * (mirror ? c[k].weight / known : 1.f);
        }
        return mirror ? sum + litMirrors(p, y, view, -1, source) : sum;
    };
    if (shot_->sky) {
        look.setMarched[PathRatios::sun] = from(sourceSun);
        look.setMarched[PathRatios::sky] = from(sourceSky);
    }
    if (mirror && bodies_.own)
        look.setMarched[PathRatios::lamps] += litMirrors(p, y, view, -1, sourceBodies);
    // A mirror sees lamps beyond its own group's.
    for (std::size_t l = 0; l < lampCount_; ++l)
        if (mirror || std::find(which.begin(), which.end(), l) != which.end())
            look.setMarched[PathRatios::lamps] += from(sourceLamps + static_cast<int>(l));
    return look;
}

void Frame::beginWith(const Known& known)
{
    ratios_ = known.ratios;
    ratios_.begin();
    knownGlows_ = known.glows;
}

void Frame::holdRatios(const PathRatios& ratios)
{
    if (!ratios.known()) {
        looksTimes_ = 4;
        return;
    }
    ratios_ = ratios;
    followsPaths_ = false;
}

bool Frame::setRatioOf(std::size_t pixel, int y, int cluster, const RatioRow& row, PathRatios::By& out) const
{
    const Cluster& c = clusters_[pixel * clusterCount + static_cast<std::size_t>(cluster)];
    // A lamp's own glow has no surface that sends anything back.
    if (!ratios_.known() || (!lampMet_.empty() && lampMet_[pixel]) || c.t >= shot::Shot::farDistance ||
        c.light.facing.length2() == 0.f)
        return false;
    const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_));
    out = mirrorOf_[pixel] >= 0 ? mirrorRatio(x, y, row) : row.set(x, c.t, c.light.normal()).unpacked();
    return true;
}

void Frame::quickRatiosAt(int x, int y, const float depth[lanes], const std::uint16_t* sheet, const RatioRow& row,
                          QuickRatios& out) const
{
    const F8 open = loadHalf8(sheet + 10 * lanes) + loadHalf8(sheet + 11 * lanes) + loadHalf8(sheet + 12 * lanes);
    F8 normal[3];
    unpackNormals(sheet + 13 * lanes, normal);
    const F8 t = load8(depth);
    int mirrors = 0;
    for (int i = 0; i < lanes; ++i)
        mirrors += mirrorOf_[index(std::min(x + i, width_ - 1), y)] >= 0 ? 1 : 0;
    const auto facing = [&](int i) { return Vec3(normal[0][i], normal[1][i], normal[2][i]); };
    const auto airAt = [&](int to, int column, float depth_) {
        const PathRatios::Packed air = row.air(column, depth_);
        for (int c = 0; c < 3; ++c)
            out.air[c][to] = air.at(PathRatios::all, c);
    };
    const Vec3 ahead = facing(0);
    if ((mirrors == 0 || mirrors == lanes) && !any(abs8(t - t[0]) > alikeDepth * t[0]) &&
        (mirrors > 0 || !any(normal[0] * ahead.x + normal[1] * ahead.y + normal[2] * ahead.z < alikeNormal))) {
        // Neighbours that are alike lie between two ends.
        constexpr float step = 1.f / lanes;
        const F8 ramp{0.f, step, 2 * step, 3 * step, 4 * step, 5 * step, 6 * step, 7 * step};
        const auto between = [&](const PathRatios::Packed& a, const PathRatios::Packed& b, int s, int c) {
            return a.at(s, c) + ramp * (b.at(s, c) - a.at(s, c));
        };
        const PathRatios::Packed air = row.air(x, t[0]), airEnd = row.air(x + lanes, t[0]);
        for (int c = 0; c < 3; ++c)
            out.air[c] = between(air, airEnd, PathRatios::all, c);
        PathRatios::Packed set = {{f8(1.f), f8(1.f)}}, setEnd = set;
        if (t[0] < shot::Shot::farDistance && mirrors > 0) {
            set = row.mirror(x, t[0]);
            setEnd = row.mirror(x + lanes, t[0]);
            out.mirror = PathRatios::Packed{{(set.v[0] + setEnd.v[0]) * 0.5f, (set.v[1] + setEnd.v[1]) * 0.5f}}
                             .unpacked();
        } else if (t[0] < shot::Shot::farDistance && any(open > 0.f)) {
            set = row.set(x, t[0], ahead);
            setEnd = row.set(x + lanes, t[0], ahead);
        }
        // A lamp's own glow has no surface that sends anything back.
        for (int s = 0; s < PathRatios::sources; ++s)
            for (int c = 0; c < 3; ++c)
                out.set[s][c] = select(open > 0.f, between(set, setEnd, s, c), f8(1.f));
        return;
    }
    for (int i = 0; i < lanes; ++i) {
        const int column = std::min(x + i, width_ - 1);
        const bool far = depth[i] >= shot::Shot::farDistance, mirror = mirrorOf_[index(column, y)] >= 0;
        airAt(i, column, depth[i]);
        PathRatios::Packed set = {{f8(1.f), f8(1.f)}};
        if (mirror && !far) {
            set = row.mirror(column, depth[i]);
            out.mirror = set.unpacked(); // neighbours' mirrors have one
        } else if (open[i] > 0.f && !far) {
            set = row.set(column, depth[i], facing(i));
        }
        for (int s = 0; s < PathRatios::sources; ++s)
            for (int c = 0; c < 3; ++c)
                out.set[s][c][i] = open[i] > 0.f ? set.at(s, c) : 1.f;
    }
}
} // namespace hygros::render
