/// What is made of a march: the picture, its overlays, the layers.
#include "render/frame.h"

#include "base/parallel.h"

#include <algorithm>

namespace hygros::render {
using media::Ray8;

void Frame::keepVeilWisps()
{
    const auto& veils = shot_->veils;
    veilWisps_.resize(veils.size());
    for (std::size_t v = 0; v < veils.size(); ++v) {
        Wisps& own = veilWisps_[v];
        if (veils[v].horizonStrength == 0.f) {
            own = {};
            continue;
        }
        if (!own.noise.empty() && own.angle == veils[v].horizonAngle && own.size == veils[v].horizonSize &&
            own.seed == veils[v].seed)
            continue;
        own = {veils[v].horizonAngle, veils[v].horizonSize, veils[v].seed,
               std::vector<float>(static_cast<std::size_t>(height_) * groupsPerRow() * lanes)};
        parallelFor(static_cast<std::size_t>(height_), [&](std::size_t y) {
            for (int x = 0; x < width_; x += lanes)
                store8(&own.noise[groupAt(x, static_cast<int>(y)) * lanes],
                       media::veilWisps8(raysAt(x, static_cast<int>(y)), veils[v]));
        });
    }
}

void Frame::overlay8(int x, int y, const Ray8& ray, F8 depth, F8 tint[3], F8 times[3], F8 plus[3]) const
{
    for (int c = 0; c < 3; ++c) {
        tint[c] = times[c] = f8(1.f);
        plus[c] = f8(0.f);
    }
    if (air_->hasClean())
        air_->cleanTint(ray, depth, tint);
    if (bodies_.coloured)
        tintByBodies(x, y, depth, tint);
    for (std::size_t i = 0; i < veilWisps_.size(); ++i) {
        F8 wisps = f8(0.f);
        if (!veilWisps_[i].noise.empty())
            wisps = load8(&veilWisps_[i].noise[groupAt(x, y) * lanes]);
        media::veil8(shot_->veils[i], ray, depth, shot::Shot::farDistance, times, plus, &wisps);
    }
}

void Frame::overlaysAt(int x, int y, const Ray8& ray, Overlay (*out)[clusterCount]) const
{
    for (int k = 0; k < clusterCount; ++k) {
        F8 depth = f8(1.f);
        bool used = false;
        for (int i = 0; i < lanes; ++i) {
            const Cluster& c =
                clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount + static_cast<std::size_t>(k)];
            if (c.weight > 0.f) {
                depth[i] = c.t;
                used = true;
            }
        }
        if (!used)
            break;
        F8 tint[3], times[3], plus[3];
        overlay8(x, y, ray, depth, tint, times, plus);
        for (int i = 0; i < lanes; ++i)
            out[i][k] = {Vec3(tint[0][i], tint[1][i], tint[2][i]), Vec3(times[0][i], times[1][i], times[2][i]),
                         Vec3(plus[0][i], plus[1][i], plus[2][i])};
    }
}

template <class Use> void Frame::overSeenRow(int y, const Use& use, int source) const
{
    Overlay overlays[lanes][clusterCount];
    std::vector<F8> lamps;
    const RatioRow ratios = ratioRow(y);
    for (int x = 0; x < width_; ++x) {
        if (x % lanes == 0) {
            const Ray8 ray = raysAt(x, y);
            if (hasOverlay())
                overlaysAt(x, y, ray, overlays);
            if (lampCount_)
                lampsThrough(x, y, ray, lamps);
        }
        const std::size_t p = index(x, y);
        use(x, p,
            behindAir(p, y, through_[p], hasOverlay() ? overlays[x % lanes] : nullptr, ratios,
                      lampCount_ ? reinterpret_cast<const float*>(lamps.data()) + x % lanes : nullptr, -1, source),
            ratios);
    }
}

Vec3 Frame::airOf(std::size_t q, float beamShare, const PathRatios::By& ratio) const
{
    Vec3 lamps(0.f);
    if (!airOwn_.empty())
        lamps = airOwn_.of(q);
    const std::size_t group = groupOf(q), lane = q % static_cast<std::size_t>(width_) % lanes;
    for (std::size_t slot = lampBase_[group]; slot < lampBase_[group + 1]; ++slot)
        lamps += airLamp_.of(slot * lanes + lane) * beamShare;
    return airSun_.of(q) * ratio.of[PathRatios::sun] + airSky_.of(q) * ratio.of[PathRatios::sky] +
           lamps * ratio.of[PathRatios::lamps];
}

void Frame::resolve(std::vector<float>& rgb) const
{
    rgb.resize(span_.size() * 3);
    const bool smooth = std::min(tracedPasses_, noisePasses()) <= 2;
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[row]));
        const auto airAt = [&](std::size_t q, const PathRatios::By& ratio) { return airOf(q, beamShare, ratio); };
        overSeenRow(y, [&](int x, std::size_t p, const Seen& seen, const RatioRow& ratios) {
            Vec3 air(0.f);
            const PathRatios::By ratio = airRatio(x, y, ratios);
            if (smooth) {
                // One value a pixel carries a whole dither tile's error: average over 4×4 where the depth agrees.
                float weights = 0.f;
                for (int dy = -2; dy < 2; ++dy)
                    for (int dx = -2; dx < 2; ++dx) {
                        const std::size_t q = index(std::clamp(x + dx, 0, width_ - 1),
                                                    std::clamp(y + dy, 0, height_ - 1));
                        const float farther = clusters_[q * clusterCount].t / clusters_[p * clusterCount].t;
                        const bool same = q == p || (farther > 0.8f && farther < 1.25f &&
                                                     clusters_[q * clusterCount + 1].weight == 0.f &&
                                                     clusters_[p * clusterCount + 1].weight == 0.f);
                        if (same) {
                            air += airAt(q, ratio);
                            weights += 1.f;
                        }
                    }
                air *= 1.f / weights;
            } else {
                air = airAt(p, ratio);
            }
            const Vec3 picture = seen.behind + air * seen.airTimes + seen.veils;
            for (std::size_t c = 0; c < 3; ++c)
                rgb[p * 3 + c] = picture[static_cast<int>(c)];
        });
    });
    shimmer_.bend(rgb, 3);
    rain_.addTo(rgb);
    sparks_.addTo(rgb);
}

namespace {
/// Lamps of one element (a volume's glow is several) are one layer.
void joinSame(std::vector<Layers::ByLamp>& layers)
{
    for (std::size_t i = 0; i < layers.size(); ++i)
        for (std::size_t j = i + 1; j < layers.size();) {
            if (layers[j].id != layers[i].id) {
                ++j;
                continue;
            }
            for (std::size_t k = 0; k < layers[i].air.size(); ++k)
                layers[i].air[k] += layers[j].air[k];
            layers.erase(layers.begin() + static_cast<std::ptrdiff_t>(j));
        }
}
} // namespace

Layers Frame::layers(bool sources) const
{
    Layers out;
    out.width = width_;
    out.height = height_;
    out.samples = tracedPasses_;
    const std::size_t n = span_.size();
    out.plate.resize(n * 3);
    out.transmittance.resize(n * 3);
    out.air.assign(n * 3, 0.f);
    out.depth.resize(n);
    if (shot_->sky) {
        out.airBy.push_back({shot_->sunId, std::vector<float>(n * 3)});
        out.airBy.push_back({"sky", std::vector<float>(n * 3)});
    }
    for (const light::Lamp& s : shot_->lamps)
        out.airBy.push_back({s.id, std::vector<float>(n * 3)});
    const bool matte = std::any_of(clusters_.begin(), clusters_.end(), [](const Cluster& c) { return c.held > 0; });
    out.alpha.resize(matte ? n : 0);
    if (!airOwn_.empty())
        out.airBy.push_back({"matter", std::vector<float>(n * 3)});
    if (!shot_->veils.empty())
        out.airBy.push_back({"veils", std::vector<float>(n * 3)});
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[row]));
        overSeenRow(y, [&](int x, std::size_t p, const Seen& seen, const RatioRow& ratios) {
            const bool untouched = !plateColour_.empty() && isPlate(p);
            const PathRatios::By ratio = airRatio(x, y, ratios);
            for (std::size_t c = 0; c < 3; ++c) {
                const int ch = static_cast<int>(c);
                // Plate is what multiplied by the transmittance gives what is seen behind the air; where nothing comes
                // through, its own value does not matter and 0 is used. A plate from a file goes out as it came.
                const float t = seen.transmittance[ch];
                out.plate[p * 3 + c] = untouched ? plateColour_.at(p)[c] : t > 1e-8f ? seen.behind[ch] / t : 0.f;
                out.transmittance[p * 3 + c] = t;
                std::size_t by = 0;
                const float kept = seen.airTimes[ch];
                if (shot_->sky) {
                    out.airBy[by++].air[p * 3 + c] = airSun_.at(p)[c] * kept * ratio.of[PathRatios::sun][ch];
                    out.airBy[by++].air[p * 3 + c] = airSky_.at(p)[c] * kept * ratio.of[PathRatios::sky][ch];
                }
                const std::size_t group = groupAt(x, y);
                for (std::size_t j = 0; j < lampsOf(group).size(); ++j)
                    out.airBy[by + lampsOf(group)[j]].air[p * 3 + c] = airLamp_.at(inSlots(group, j, x))[c] *
                                                                       beamShare * kept *
                                                                       ratio.of[PathRatios::lamps][ch];
                by += lampCount_;
                if (!airOwn_.empty())
                    out.airBy[by++].air[p * 3 + c] = airOwn_.at(p)[c] * kept * ratio.of[PathRatios::lamps][ch];
                if (!shot_->veils.empty())
                    out.airBy[by].air[p * 3 + c] = seen.veils[ch];
                for (const Layers::ByLamp& lamp : out.airBy)
                    out.air[p * 3 + c] += lamp.air[p * 3 + c];
            }
            out.depth[p] = depthAt(x, y);
            float open = 0.f;
            for (int k = 0; k < clusterCount; ++k)
                if (const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)]; c.held > 0)
                    open += static_cast<float>(c.held) / samples_[p] * std::max(0.f, through_[p].view[k]);
            if (matte)
                out.alpha[p] = 1.f - open;
        });
    });
    // The set's light, source by source.
    const auto light = [&](const std::string& id, int source) {
        Layers::ByLamp by{id, std::vector<float>(n * 3)};
        parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
            overSeenRow(
                static_cast<int>(row),
                [&](int, std::size_t p, const Seen& seen, const RatioRow&) {
                    for (std::size_t c = 0; c < 3; ++c)
                        by.air[p * 3 + c] = seen.behind[static_cast<int>(c)];
                },
                source);
        });
        out.setBy.push_back(std::move(by));
    };
    if (sources)
        light("own", sourceOwn);
    if (sources && shot_->sky) {
        light(shot_->sunId, sourceSun);
        light("sky", sourceSky);
    }
    for (std::size_t l = 0; l < lampCount_ && sources; ++l)
        light(shot_->lamps[l].id, sourceLamps + static_cast<int>(l));
    joinSame(out.airBy);
    joinSame(out.setBy);
    return out;
}

void Frame::addShadows(Layers& out)
{
    const std::size_t n = span_.size();
    Unshadowed open;
    open.sun.resize(n);
    open.lamps.resize(airLamp_.size());
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) { lightRow(static_cast<int>(row), &open); });
    for (std::size_t i = 0; i < lampCount_ + (shot_->sky ? 1 : 0); ++i)
        out.shadowBy.push_back({shot_->sky && i == 0 ? shot_->sunId : shot_->lamps[i - (shot_->sky ? 1 : 0)].id,
                                std::vector<float>(n * 3, 0.f)});
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[row]));
        overSeenRow(static_cast<int>(row), [&](int x, std::size_t p, const Seen& seen, const RatioRow& ratios) {
            const std::size_t group = groupAt(x, static_cast<int>(row)), first = shot_->sky ? 1 : 0;
            const PathRatios::By ratio = airRatio(x, static_cast<int>(row), ratios);
            for (std::size_t c = 0; c < 3; ++c) {
                const float all = seen.airTimes[static_cast<int>(c)],
                            kept = all * ratio.of[PathRatios::lamps][static_cast<int>(c)];
                if (shot_->sky)
                    out.shadowBy[0].air[p * 3 + c] = std::max(0.f, open.sun.at(p)[c] - airSun_.at(p)[c]) * all *
                                                     ratio.of[PathRatios::sun][static_cast<int>(c)];
                for (std::size_t j = 0; j < lampsOf(group).size(); ++j) {
                    const std::size_t slot = inSlots(group, j, x);
                    const float straight = (airLamp_.at(slot)[c] - airGlow_.at(slot)[c]) * beamShare;
                    out.shadowBy[first + lampsOf(group)[j]].air[p * 3 + c] = std::max(0.f, open.lamps.at(slot)[c] -
                                                                                               straight) *
                                                                             kept;
                }
            }
        });
    });
}

Layers Frame::layers(LayerWish wish)
{
    Layers out = layers(wish.sources);
    if (wish.shadows)
        addShadows(out);
    joinSame(out.shadowBy);
    return out;
}

float Frame::depthAt(int x, int y) const
{
    const Cluster* c = &clusters_[index(x, y) * clusterCount];
    int most = 0;
    for (int k = 1; k < clusterCount; ++k)
        if (c[k].weight > c[most].weight)
            most = k;
    return c[most].t;
}

std::size_t Frame::bytes() const
{
    std::size_t total = clusters_.capacity() * sizeof(Cluster) + through_.capacity() * sizeof(Through) +
                        (samples_.capacity() + span_.capacity() + plateDepth_.capacity()) * sizeof(float) +
                        quickProfile_.capacity() * sizeof(std::uint16_t) + lampLight_.bytes() + sheet_.bytes() +
                        sunLit_.bytes() + skyLit_.bytes() + beamLit_.bytes() + airNoise_.bytes() +
                        surfaceNoise_.bytes() + bodySeen_.bytes() + plateColour_.bytes() + airSun_.bytes() +
                        airSky_.bytes() + airOwn_.bytes() + airLamp_.bytes() + airGlow_.bytes() + quickSunLit_.bytes() +
                        quickSkyLit_.bytes() + quickBeams_.bytes() + quickNoise_.bytes() + quickBodies_.bytes() +
                        quickKept_.bytes() + surfaceKept_.bytes();
    total += looks_.capacity();
    for (const auto& row : mirrors_)
        total += row.capacity() * sizeof(Mirror);
    for (const MirrorsSeen& row : mirrorsSeen_)
        total += row.looks.size() + row.sunLit.size() + row.noise.size() * sizeof(std::uint16_t) +
                 row.noiseLooks.size() + row.lampAir.size() * sizeof(Vec3) + row.lampLooks.size();
    for (const auto& glow : lampGlows_)
        total += glow ? glow->bytes() : 0;
    return total + ratios_.bytes() + (sunMap_[0] ? sunMaps * sunMap_[0]->bytes() : 0);
}
} // namespace hygros::render
