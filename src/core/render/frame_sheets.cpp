/// What quick pictures read of surfaces, packed: they are as fast as memory is.
#include "render/frame_lit.h"

#include "base/parallel.h"

#include <algorithm>

namespace hygros::render {
using shot::Shot;

void Frame::packSurfaces()
{
    sheet_.resize(static_cast<std::size_t>(height_) * groupsPerRow(), sheetPlanes);
    plain_.resize(span_.size());
    // What lamps light in the mirrored air comes with the marches.
    const bool lampsShow = std::any_of(shot_->lamps.begin(), shot_->lamps.end(),
                                       [](const light::Lamp& l) { return l.lightsAir(); });
    if (std::any_of(mirrors_.begin(), mirrors_.end(), [](const auto& row) { return !row.empty(); }))
        mirrorSheet_.resize(span_.size());
    parallelRanges(span_.size(), 4096, [&](std::size_t begin, std::size_t end) {
        for (std::size_t p = begin; p < end; ++p) {
            const Cluster* c = &clusters_[p * clusterCount];
            const float plate = c[0].plateShare(), inv = c[0].shaded > 0.f ? (1.f - plate) / c[0].shaded : 0.f;
            const auto column = static_cast<int>(p % static_cast<std::size_t>(width_)),
                       row = static_cast<int>(p / static_cast<std::size_t>(width_));
            std::uint16_t* sheet = sheet_.at(groupAt(column, row)) + column % lanes;
            sheet[0] = halfOf(c[0].t);
            for (int ch = 0; ch < 3; ++ch) {
                sheet[(1 + ch) * lanes] = halfOf(c[0].light.emitted[ch] * inv +
                                                 (plate > 0.f ? plateAt(p)[ch] * plate : 0.f));
                sheet[(4 + ch) * lanes] = halfOf(c[0].light.sun[ch] * inv);
                sheet[(7 + ch) * lanes] = halfOf(c[0].light.sky[ch] * inv);
                sheet[(10 + ch) * lanes] = halfOf(c[0].light.open[ch] * inv);
            }
            sheet[13 * lanes] = packedNormal(c[0].light.normal());
            if (const std::int32_t at = mirrorOf_[p]; at >= 0) {
                const MirrorCluster* m = mirrors_[static_cast<std::size_t>(row)][static_cast<std::size_t>(at)].clusters;
                const Vec3* byLamp = mirrorLampLight_[static_cast<std::size_t>(row)].data() +
                                     static_cast<std::size_t>(at) * 2 * lampCount_;
                const bool alone = m[0].weight > 0.f && m[1].weight == 0.f && !lampsShow &&
                                   std::all_of(byLamp, byLamp + lampCount_,
                                               [](const Vec3& l) { return maxComponent(l) <= 0.f; });
                MirrorSheet own{};
                own.t = m[0].t;
                own.share = halfOf(alone ? m[0].weight / samples_[p] : 0.f);
                for (int ch = 0; ch < 3 && alone; ++ch) {
                    own.emitted[ch] = halfOf(m[0].light.emitted[ch] / m[0].weight);
                    own.sun[ch] = halfOf(m[0].light.sun[ch] / m[0].weight);
                    own.sky[ch] = halfOf(m[0].light.sky[ch] / m[0].weight);
                    own.open[ch] = halfOf(m[0].light.open[ch] / m[0].weight);
                    own.reflectance[ch] = halfOf(m[0].reflectance[ch]);
                }
                mirrorSheet_[p] = own;
            }
            plain_[p] = c[1].weight == 0.f && !(plate > 0.f && c[0].t >= Shot::farDistance && shot_->plateSky != 1.f);
        }
    });
}

void Frame::packLamps()
{
    lampSheet_.resize(lampCount_ ? static_cast<std::size_t>(height_) : 0);
    parallelFor(lampSheet_.size(), [&](std::size_t y) {
        LampSheet& sheet = lampSheet_[y];
        sheet.base.assign(1, 0);
        sheet.which.clear();
        sheet.halves.clear();
        for (int x = 0; x < width_; x += lanes) {
            const std::size_t group = groupAt(x, static_cast<int>(y));
            F8 inverse = f8(0.f);
            for (int i = 0; i < lanes && x + i < width_; ++i)
                if (const Cluster& c = clusters_[index(x + i, static_cast<int>(y)) * clusterCount]; c.shaded > 0.f)
                    inverse[i] = lampSheetScale * (1.f - c.plateShare()) / c.shaded;
            for (std::size_t j = 0; j < lampsOf(group).size(); ++j) {
                const Vec3* light = lampOn(group, 0, 0, j);
                if (std::all_of(light, light + lanes, [](const Vec3& l) { return maxComponent(l) <= 0.f; }))
                    continue;
                sheet.which.push_back(static_cast<std::uint16_t>(j));
                for (int ch = 0; ch < 3; ++ch)
                    for (int i = 0; i < lanes; ++i)
                        sheet.halves.push_back(halfOf(light[i][ch] * inverse[i]));
            }
            sheet.base.push_back(static_cast<std::uint32_t>(sheet.which.size()));
        }
    });
}
} // namespace hygros::render
