/// What single elements add to the picture, at a quarter of its size.
#include "render/frame.h"

#include "base/parallel.h"

#include <algorithm>

namespace hygros::render {
Frame::Contribution Frame::mediumAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(quickCells_.size() * 3, 0.f);
    const auto media = air_->media();
    const std::atomic<bool> never{false};
    for (std::size_t k = 0; k < media.size(); ++k)
        if (media[k].medium->id == id && quickBuilt_) {
            std::vector<std::uint16_t> profile;
            marchQuick(never, static_cast<int>(k), profile);
            for (std::size_t c = 0; c < quickCells_.size(); ++c)
                for (std::size_t ch = 0; ch < 3; ++ch)
                    out.rgb[c * 3 + ch] += _cvtsh_ss(
                        profile[(c * (quickSegments + 1) + static_cast<std::size_t>(quickCells_[c].segments)) * 4 +
                                ch]);
            break; // the march takes all media of one element together
        }
    // Of a body, those of its kind together.
    int firstSlab = 0, slabs = 0;
    for (const auto& body : bodies_.list) {
        for (std::size_t k = 0; k < body->count() && slabs == 0; ++k)
            slabs = body->id(k) == id ? body->slabs() : 0;
        if (slabs > 0)
            break;
        firstSlab += body->slabs();
    }
    const std::size_t groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    for (std::size_t c = 0; slabs > 0 && !quickBodies_.empty() && c < quickCells_.size(); ++c) {
        const std::size_t x = c % static_cast<std::size_t>(quickWidth_),
                          group = c / static_cast<std::size_t>(quickWidth_) * groups + x / lanes;
        float left = 1.f;
        for (int b = 0; b < slabs; ++b) {
            const float* seen = quickBodies_.at(group, static_cast<std::size_t>((firstSlab + b) * bodyPlanes)) +
                                x % lanes;
            for (std::size_t ch = 0; ch < 3; ++ch)
                out.rgb[c * 3 + ch] += left * (seen[ch * lanes] + seen[(3 + ch) * lanes] + seen[(6 + ch) * lanes]);
            left *= seen[bodyThrough * lanes];
        }
    }
    const auto veil = std::find_if(shot_->veils.begin(), shot_->veils.end(),
                                   [&](const media::Veil& v) { return v.id == id; });
    for (int gy = 0; veil != shot_->veils.end() && gy < quickHeight_; ++gy)
        for (int gx = 0; gx < quickWidth_; ++gx) {
            const int x = std::min(width_ - 1, gx * 4 + 2), y = std::min(height_ - 1, gy * 4 + 2);
            F8 times[3] = {f8(1.f), f8(1.f), f8(1.f)}, plus[3] = {f8(0.f), f8(0.f), f8(0.f)};
            media::veil8(*veil, media::ray8(view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f)),
                         f8(clusters_[index(x, y) * clusterCount].t), shot::Shot::farDistance, times, plus);
            for (std::size_t ch = 0; ch < 3; ++ch)
                out.rgb[static_cast<std::size_t>(gy * quickWidth_ + gx) * 3 + ch] = plus[ch][0];
        }
    return out;
}

Frame::Contribution Frame::lampAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(static_cast<std::size_t>(quickWidth_ * quickHeight_) * 3, 0.f);
    if (through_.empty())
        return out;
    parallelFor(static_cast<std::size_t>(quickHeight_), [&](std::size_t gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            const std::size_t p = index(std::min(width_ - 1, gx * 4 + 2),
                                        std::min(height_ - 1, static_cast<int>(gy) * 4 + 2));
            const Cluster& c = clusters_[p * clusterCount];
            const Through& t = through_[p];
            Vec3 l(0.f);
            const float view = std::max(0.f, t.view[0]),
                        beamShare = 1.f / static_cast<float>(
                                              std::max<int>(1, rowBeams_[p / static_cast<std::size_t>(width_)]));
            if (shot_->sky && id == shot_->sunId) {
                l = ((c.light.sun * t.onto[0].sun + c.light.open * t.onto[0].diffuse) * sunLight_ +
                     c.light.sky * t.onto[0].sky + c.light.open * air_->skyOnLevel() * t.onto[0].around) *
                    (view / std::max(1.f, c.shaded));
                for (int ch = 0; ch < 3; ++ch)
                    l[ch] += airSun_.at(p)[ch] + airSky_.at(p)[ch];
            }
            const std::size_t group = groupOf(p), lane = p % static_cast<std::size_t>(width_) % lanes;
            for (std::size_t j = 0; j < lampsOf(group).size(); ++j)
                if (const light::Lamp& lamp = shot_->lamps[lampsOf(group)[j]]; lamp.id == id) {
                    l = *lampOn(group, 0, static_cast<int>(lane), j) * lamp.intensity *
                        (view / std::max(1.f, c.shaded));
                    for (int ch = 0; ch < 3; ++ch)
                        l[ch] += airLamp_.at((lampBase_[group] + j) * lanes + lane)[ch] * beamShare;
                }
            for (std::size_t ch = 0; ch < 3; ++ch)
                out.rgb[(gy * static_cast<std::size_t>(quickWidth_) + static_cast<std::size_t>(gx)) * 3 + ch] =
                    l[static_cast<int>(ch)];
        }
    });
    return out;
}
} // namespace hygros::render
