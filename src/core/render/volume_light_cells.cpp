/// Light in voxel volumes: what photons left in the cells, evened and looked up.
#include "base/parallel.h"
#include "render/volume_light.h"

#include <algorithm>

namespace hygros::render {

void VolumeLight::gather()
{
    const float share = 1.f / std::max(1.f, photons_);
    parallelRanges(mass_.size(), 512, [&](std::size_t from, std::size_t end) {
        for (std::size_t cell = from; cell < end; ++cell) {
            float* to = &toEye_[cell * values];
            for (std::size_t v = 0; v < atOpen; ++v)
                to[v] = sums_[cell * atOpen + v] * share;
            to[atOpen] = open_[cell] * share;
            to[atMass] = to[atSmoothMass] = mass_[cell];
        }
    });
    // What comes from everywhere is smooth by nature and is evened more, all of it more while there are few photons.
    // With the mass it is the mean over the matter, as it is between cells.
    const int broad = batches_ < 4 ? 3 : 2, fine = batches_ < 4 ? 2 : 1;
    for (int i = 0; i < broad; ++i) {
        I8 of[2];
        for (int v = 0; v < values; ++v) {
            const bool isFine = v < atSky || v == atMass, isBroad = (v >= atSky && v < atOpen) || v == atSmoothMass;
            of[v / lanes][v % lanes] = isBroad || (isFine && i < fine) ? -1 : 0;
        }
        smooth(of);
    }
}

void VolumeLight::smooth(const I8 of[2])
{
    static_assert(values == 2 * lanes);
    // ¼ ½ ¼ along each axis; ends count twice.
    const auto across = static_cast<std::size_t>(size_[0]), down = static_cast<std::size_t>(size_[1]);
    const std::size_t stride[3] = {1, across, across * down};
    for (int axis = 0; axis < 3; ++axis) {
        const auto n = static_cast<std::size_t>(size_[static_cast<std::size_t>(axis)]);
        if (n < 3)
            continue;
        const std::size_t own = stride[axis], next = own * values;
        parallelRanges(toEye_.size() / values / n, 64, [&](std::size_t from, std::size_t end) {
            for (std::size_t line = from; line < end; ++line)
                for (std::size_t half = 0; half < 2; ++half) {
                    float* at = &toEye_[(line / own * own * n + line % own) * values + half * lanes];
                    F8 before = load8(at), here = before;
                    for (std::size_t i = 0; i < n; ++i, at += next) {
                        const F8 after = i + 1 < n ? load8(at + next) : here;
                        store8(at, select(of[half], 0.25f * (before + 2.f * here + after), here));
                        before = here;
                        here = after;
                    }
                }
        });
    }
}

void VolumeLight::at8(F8 x, F8 y, F8 z, Scattered8& out) const
{
    const Mat4& m = volume_.toIndex;
    const auto place = [&](int a) {
        const F8 p = x * m[0][a] + y * m[1][a] + z * m[2][a] + m[3][a];
        return clamp8((p - origin_[a]) * (1.f / cell_) - 0.5f, 0.f,
                      std::max(0.f, static_cast<float>(size_[static_cast<std::size_t>(a)]) - 1.001f));
    };
    const F8 u = place(0), v = place(1), w = place(2);
    const I8 iu = toInt(u), iv = toInt(v), iw = toInt(w);
    const F8 fu = u - toFloat(iu), fv = v - toFloat(iv), fw = w - toFloat(iw);
    const int dx = size_[0] > 1 ? values : 0, dy = size_[1] > 1 ? values * size_[0] : 0,
              dz = size_[2] > 1 ? values * size_[0] * size_[1] : 0;
    alignas(32) float all[lanes][values];
    for (int i = 0; i < lanes; ++i) {
        const float* at = &toEye_[static_cast<std::size_t>((iw[i] * size_[1] + iv[i]) * size_[0] + iu[i]) * values];
        F8 low = f8(0.f), high = low;
        for (int k = 0; k < 8; ++k) {
            const float weight = (k & 1 ? fu[i] : 1.f - fu[i]) * (k & 2 ? fv[i] : 1.f - fv[i]) *
                                 (k & 4 ? fw[i] : 1.f - fw[i]);
            const float* cell = at + (k & 1 ? dx : 0) + (k & 2 ? dy : 0) + (k & 4 ? dz : 0);
            low += load8(cell) * weight;
            high += load8(cell + lanes) * weight;
        }
        store8(all[i], low);
        store8(all[i] + lanes, high);
    }
    for (int i = 0; i < lanes; ++i)
        out.open[i] = all[i][atOpen];
    F8 perMass, perSmoothMass;
    for (int i = 0; i < lanes; ++i) {
        perMass[i] = 1.f / std::max(1e-20f, all[i][atMass]);
        perSmoothMass[i] = 1.f / std::max(1e-20f, all[i][atSmoothMass]);
    }
    for (int c = 0; c < 3; ++c) {
        F8 fromAround = f8(0.f);
        for (int i = 0; i < lanes; ++i) {
            out.sun[c][i] = all[i][atSun + c];
            out.sky[c][i] = all[i][atSky + c];
            out.own[c][i] = all[i][atOwn + c];
            fromAround[i] = all[i][atAround + c];
        }
        out.sun[c] = out.sun[c] * perMass + fromAround * perSmoothMass;
        out.sky[c] = out.sky[c] * perSmoothMass;
        out.own[c] = out.own[c] * perSmoothMass;
    }
}
} // namespace hygros::render
