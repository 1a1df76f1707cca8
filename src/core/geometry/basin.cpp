#include "geometry/basin.h"

#include "base/parallel.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::geometry {

Basin::Basin(std::shared_ptr<const RayScene> bare, const Settings& settings, JobControl& job)
    : bare_(std::move(bare)), level_(settings.from.y)
{
    // As fine as holds all of it: a basin of 50 m by tenths of a metre, a larger one by more.
    const float widest = 2.f * std::max(0.5f, settings.reach) / cells;
    for (cell_ = std::min(0.1f, widest);; cell_ = std::min(widest, cell_ * 2.f)) {
        if (fill(settings, job) || isBlocked_)
            break;
        if (cell_ >= widest) {
            runsOut_ = !settings.runsOn;
            break;
        }
    }
    if (isBlocked_ || runsOut_)
        wet_.clear();
    else
        sound(job);
}

bool Basin::isInside(const Vec3& place) const
{
    // By the number of surfaces that a straight way crosses: odd inside of what is closed. Ground is no closed thing,
    // and a way along it may meet it once; so the way up must say so, and one to the side.
    const auto isOdd = [&](const Vec3& way) {
        Hit hit;
        int crossed = 0;
        for (float from = 0.f; crossed < 64 && bare_->trace(place, way, from, 1000.f, hit); ++crossed)
            from = hit.t * (1.f + 1e-5f) + 1e-4f;
        return crossed % 2 == 1;
    };
    return isOdd(Vec3(0.f, 1.f, 0.f)) && (isOdd(Vec3(0.8f, 0.f, 0.6f)) || isOdd(Vec3(-0.28f, 0.f, 0.96f)));
}

bool Basin::fill(const Settings& s, JobControl& job)
{
    constexpr int middle = cells / 2;
    // On whole cells of the world, the place itself in the middle of one.
    x0_ = s.from.x - (middle + 0.5f) * cell_;
    z0_ = s.from.z - (middle + 0.5f) * cell_;
    wet_.assign(std::size_t(cells) * cells, 0);
    const auto at = [](int x, int z) { return static_cast<std::size_t>(z) * cells + static_cast<std::size_t>(x); };
    const auto place = [&](int x, int z, float y) {
        return Vec3(x0_ + (static_cast<float>(x) + 0.5f) * cell_, y, z0_ + (static_cast<float>(z) + 0.5f) * cell_);
    };
    if (isInside(s.from)) {
        isBlocked_ = true;
        return false;
    }
    std::vector<std::array<int, 2>> open{{middle, middle}};
    wet_[at(middle, middle)] = wet;
    bool isClosed = true;
    for (std::size_t next = 0; next < open.size(); ++next) {
        if (next % 4096 == 0)
            job.check();
        const auto [x, z] = open[next];
        if (x == 0 || z == 0 || x == cells - 1 || z == cells - 1) {
            isClosed = false;
            if (!s.runsOn)
                return false;
            continue;
        }
        for (const auto& [dx, dz] : {std::array{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
            std::uint8_t& other = wet_[at(x + dx, z + dz)];
            if (other)
                continue;
            const Vec3 way(static_cast<float>(dx), 0.f, static_cast<float>(dz));
            // At the line itself and a hand under it.
            if (bare_->occluded(place(x, z, s.from.y), way, 1.05f * cell_) ||
                bare_->occluded(place(x, z, s.from.y - 0.03f), way, 1.05f * cell_)) {
                continue;
            }
            other = wet;
            open.push_back({x + dx, z + dz});
        }
    }
    // Walls stand somewhere between a cell's middle and the next one's: at the rim each place is asked for by itself.
    for (const auto& [x, z] : open)
        for (int dz = -1; dz <= 1; ++dz)
            for (int dx = -1; dx <= 1; ++dx)
                if (x + dx < 0 || z + dz < 0 || x + dx >= cells || z + dz >= cells) {
                    continue;
                } else if (std::uint8_t& other = wet_[at(x + dx, z + dz)]; !(other & wet)) {
                    other = rim;
                    wet_[at(x, z)] = wet | rim;
                }
    area_ = static_cast<float>(open.size()) * cell_ * cell_;
    return isClosed;
}

void Basin::sound(JobControl& job)
{
    std::vector<float> sums(cells, 0.f), most(cells, 0.f);
    std::vector<int> counts(cells, 0);
    parallelFor(cells, [&](std::size_t row) {
        for (int x = 0; x < cells && !job.cancelled(); ++x) {
            Hit hit;
            if (!(wet_[row * cells + static_cast<std::size_t>(x)] & wet))
                continue;
            const Vec3 from(x0_ + (static_cast<float>(x) + 0.5f) * cell_, level_,
                            z0_ + (static_cast<float>(row) + 0.5f) * cell_);
            if (bare_->trace(from, Vec3(0.f, -1.f, 0.f), 0.f, 1000.f, hit)) {
                sums[row] += hit.t;
                most[row] = std::max(most[row], hit.t);
                ++counts[row];
            }
        }
    });
    job.check();
    double sum = 0.0, count = 0.0;
    for (std::size_t i = 0; i < cells; ++i) {
        sum += double(sums[i]);
        count += counts[i];
        deepest_ = std::max(deepest_, most[i]);
    }
    meanDepth_ = count > 0.0 ? static_cast<float>(sum / count) : 0.f;
}

bool Basin::holds(float x, float z) const
{
    const float u = (x - x0_) / cell_, v = (z - z0_) / cell_;
    if (wet_.empty() || !(u >= 0.f && v >= 0.f && u < cells && v < cells))
        return false;
    const int i = static_cast<int>(u), j = static_cast<int>(v);
    const auto at = [](int a, int b) { return static_cast<std::size_t>(b) * cells + static_cast<std::size_t>(a); };
    if (!(wet_[at(i, j)] & rim))
        return wet_[at(i, j)] == wet;
    // Is there a way to the water beside it?
    const Vec3 place(x, level_, z);
    for (int b = std::max(0, j - 1); b <= std::min(cells - 1, j + 1); ++b)
        for (int a = std::max(0, i - 1); a <= std::min(cells - 1, i + 1); ++a)
            if (wet_[at(a, b)] & wet) {
                const Vec3 way = Vec3(x0_ + (static_cast<float>(a) + 0.5f) * cell_, level_,
                                      z0_ + (static_cast<float>(b) + 0.5f) * cell_) -
                                 place;
                if (!bare_->occluded(place, way.normalized(), way.length()))
                    return true;
            }
    return false;
}
} // namespace hygros::geometry
