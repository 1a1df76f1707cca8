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
    std::vector<PathRatios::Look> looks(count);
    const std::uint32_t begun = pathLooks_;
    parallelRanges(count, 64, [&](std::size_t first, std::size_t last) {
        std::vector<float> setBy(sources.size() * 3), airBy(setBy.size());
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
            looks[i] = lookByPath(x, y, random, kind, setBy, airBy);
        }
    });
    if (stop) // half a picture's looks say nothing
        return false;
    // Photons come in between marches, and so does noise: the newest looks met the best march.
    const double marches = pathMarches_++;
    if (std::exchange(marchedAnew_, false))
        ratios_.fade(std::pow(marches / (marches + 1.0), 2.0));
    pathLooks_ += static_cast<std::uint32_t>(count);
    // A single path that is many times as bright as all others says nothing about its place: it counts there as far
    // as this.
    constexpr float brightest = 40.f;
    std::array<float, PathRatios::sources> airMean{}, setMean{};
    for (const PathRatios::Look& look : looks)
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            airMean[s] += luminance(look.airMarched[s]) / static_cast<float>(count);
            setMean[s] += luminance(look.setMarched[s]) / static_cast<float>(count);
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
    ratios_.solve();
    return true;
}

PathRatios::Look Frame::lookByPath(int x, int y, Random& random, std::span<const int> kind, std::span<float> setBy,
                                   std::span<float> airBy) const
{
    const std::size_t p = index(x, y);
    PathIntegrator::Probe probe;
    probe.pixelAngle = view_.pixelAngle();
    probe.time = shot_->scene->moves() ? random.next() : 0.f;
    const float dx = tent(random.next()), dy = tent(random.next());
    const geometry::SightRay sight = view_.ray(static_cast<float>(x) + dx, static_cast<float>(y) + dy, 0.5f, 0.5f,
                                               probe.time);
    probe.origin = sight.origin;
    probe.direction = sight.direction;
    if (!plateDepth_.empty()) {
        probe.onPlate = true;
        probe.limit = plateDepth_[p];
    }
    const PathIntegrator::PathLight light = paths_->light(probe, random, setBy.data(), airBy.data());

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
    const std::size_t group = groupOf(p);
    const auto lane = static_cast<std::size_t>(x % lanes);
    const auto which = lampsOf(group);
    const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[static_cast<std::size_t>(y)]));
    for (std::size_t c = 0; c < 3; ++c) {
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
    // (What a mirror shows of bodies' own light is not kept apart from the sun's.)
    if (met < 0 || (mirror && bodies_.own) || light.lampSeen || light.matte || c[met].t >= shot::Shot::farDistance)
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
    // A mirror sees lamps beyond its own group's.
    for (std::size_t l = 0; l < lampCount_; ++l)
        if (mirror || std::find(which.begin(), which.end(), l) != which.end())
            look.setMarched[PathRatios::lamps] += from(sourceLamps + static_cast<int>(l));
    return look;
}

void Frame::beginWith(const PathRatios& ratios)
{
    ratios_ = ratios;
    ratios_.begin();
}

template <class LookUp>
const PathRatios::Packed* Frame::spanEnds(RatioSpan& span, int x, int y, float t, const Vec3& normal,
                                          const LookUp& lookUp) const
{
    const std::size_t group = groupAt(x, y);
    const int first = x / lanes * lanes;
    const bool alike = std::abs(t - span.t) <= alikeDepth * span.t && normal.dot(span.normal) >= alikeNormal;
    if (span.group == group && alike)
        return span.ends;
    const auto at = [&](int column) {
        return lookUp((static_cast<float>(column) + 0.5f) / static_cast<float>(width_),
                      (static_cast<float>(y) + 0.5f) / static_cast<float>(height_));
    };
    // One group's far end is the next one's near end.
    const bool goesOn = first > 0 && span.group + 1 == group && alike;
    span.ends[0] = goesOn ? span.ends[1] : at(first);
    span.ends[1] = at(first + lanes);
    span.group = group;
    if (!goesOn) {
        span.t = t;
        span.normal = normal;
    }
    return span.ends;
}

template <class LookUp>
PathRatios::By Frame::spanned(RatioSpan& span, int x, int y, float t, const Vec3& normal, const LookUp& lookUp) const
{
    if (!ratios_.known())
        return {};
    const PathRatios::Packed* ends = spanEnds(span, x, y, t, normal, lookUp);
    return PathRatios::mix(ends[0], ends[1], static_cast<float>(x % lanes) / static_cast<float>(lanes)).unpacked();
}

PathRatios::By Frame::airRatio(int x, int y, float depth, RatioRow& row) const
{
    return spanned(row.air, x, y, depth, Vec3(0, 1, 0),
                   [&](float u, float v) { return ratios_.air(u, v, depth, depth >= shot::Shot::farDistance); });
}

PathRatios::By Frame::mirrorRatio(int x, int y, float depth, RatioRow& row) const
{
    return spanned(row.mirror, x, y, depth, Vec3(0, 1, 0),
                   [&](float u, float v) { return ratios_.mirror(u, v, depth); });
}

PathRatios::By Frame::setRatio(int x, int y, float depth, const Vec3& normal, RatioSpan& span) const
{
    return spanned(span, x, y, depth, normal, [&](float u, float v) { return ratios_.set(u, v, depth, normal); });
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

bool Frame::setRatioOf(std::size_t pixel, int y, int cluster, RatioRow& row, PathRatios::By& out) const
{
    const Cluster& c = clusters_[pixel * clusterCount + static_cast<std::size_t>(cluster)];
    // A lamp's own glow has no surface that sends anything back.
    if (!ratios_.known() || c.t >= shot::Shot::farDistance || c.light.facing.length2() == 0.f)
        return false;
    const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_));
    out = mirrorOf_[pixel] >= 0 ? mirrorRatio(x, y, depthAt(x, y), row)
                                : setRatio(x, y, c.t, c.light.normal(), row.set[cluster]);
    return true;
}

void Frame::quickRatiosAt(int x, int y, const float depth[lanes], const std::uint16_t* sheet, RatioRow& row,
                          QuickRatios& out) const
{
    const std::uint16_t* packed = sheet + 13 * lanes;
    const F8 open = loadHalf8(sheet + 10 * lanes) + loadHalf8(sheet + 11 * lanes) + loadHalf8(sheet + 12 * lanes);
    F8 normal[3];
    unpackNormals(packed, normal);
    const F8 t = load8(depth);
    int mirrors = 0;
    for (int i = 0; i < lanes; ++i)
        mirrors += mirrorOf_[index(std::min(x + i, width_ - 1), y)] >= 0 ? 1 : 0;
    const Vec3 facing(normal[0][0], normal[1][0], normal[2][0]);
    const bool isSky = t[0] >= shot::Shot::farDistance;
    const auto ramped = [](const PathRatios::Packed* ends, int source, int channel) {
        constexpr float step = 1.f / lanes;
        const F8 ramp{0.f, step, 2 * step, 3 * step, 4 * step, 5 * step, 6 * step, 7 * step};
        const float a = ends[0].at(source, channel);
        return a + ramp * (ends[1].at(source, channel) - a);
    };
    if ((mirrors == 0 || mirrors == lanes) && !any(abs8(t - t[0]) > alikeDepth * t[0]) &&
        (mirrors > 0 || !any(normal[0] * facing.x + normal[1] * facing.y + normal[2] * facing.z < alikeNormal))) {
        // Neighbours that are alike lie between two ends.
        const auto* air = spanEnds(row.air, x, y, t[0], Vec3(0, 1, 0),
                                   [&](float u, float v) { return ratios_.air(u, v, t[0], isSky); });
        const PathRatios::Packed* set = nullptr;
        if (mirrors > 0 && !isSky) {
            set = spanEnds(row.mirror, x, y, t[0], Vec3(0, 1, 0),
                           [&](float u, float v) { return ratios_.mirror(u, v, t[0]); });
            out.mirror = PathRatios::mix(set[0], set[1], 0.5f).unpacked();
        } else if (any(open > 0.f) && !isSky) {
            set = spanEnds(row.set[0], x, y, t[0], facing,
                           [&](float u, float v) { return ratios_.set(u, v, t[0], facing); });
        }
        for (int c = 0; c < 3; ++c) {
            out.air[c] = ramped(air, PathRatios::all, c);
            for (int s = 0; s < PathRatios::sources; ++s)
                out.set[s][c] = set ? select(open > 0.f, ramped(set, s, c), f8(1.f)) : f8(1.f);
        }
        return;
    }
    for (int i = 0; i < lanes; ++i) {
        const int column = std::min(x + i, width_ - 1);
        const bool far = depth[i] >= shot::Shot::farDistance, mirror = mirrorOf_[index(column, y)] >= 0;
        const PathRatios::By air = airRatio(column, y, depth[i], row);
        PathRatios::By set;
        if (mirror && !far)
            set = out.mirror = mirrorRatio(column, y, depth[i], row); // neighbours' mirrors have one
        else if (open[i] > 0.f && !far)
            set = setRatio(column, y, depth[i], Vec3(normal[0][i], normal[1][i], normal[2][i]), row.set[0]);
        if (open[i] == 0.f) // a lamp's own glow
            set = PathRatios::By();
        for (std::size_t c = 0; c < 3; ++c) {
            const int ch = static_cast<int>(c);
            out.air[c][i] = air.of[PathRatios::all][ch];
            for (std::size_t s = 0; s < PathRatios::sources; ++s)
                out.set[s][c][i] = set.of[s][ch];
        }
    }
}
} // namespace hygros::render
