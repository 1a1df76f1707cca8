#include "media/swell_field.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/transform.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <mutex>

namespace hygros::media {
namespace {
constexpr double turn = 2.0 * 3.14159265358979323846;
constexpr double tilesWide = 60.0;                    ///< how many waves of the peak the longest tile holds
constexpr double shorterWide = 10.0;                  ///< how many of its own longest the others
constexpr double perWave = 3.0, perShorterWave = 4.0; ///< samples to the shortest wave of a tile
constexpr int shorterSide = 256;
constexpr float finestWidth = 1e-3f;
constexpr int planes = 8;

/// Two numbers of a normal law.
std::array<double, 2> normals(std::uint32_t seed)
{
    Random random(seed);
    const double u = std::max(1e-7, 1.0 - double(random.next())), v = double(random.next());
    const double r = std::sqrt(-2.0 * std::log(u));
    return {r * std::cos(turn * v), r * std::sin(turn * v)};
}
} // namespace

namespace {
/// Rings of a swell by the logarithm of k, straight between.
class Rings {
public:
    Rings(const Swell& swell, double from, double to) : low_(std::log(from)), perStep_(steps / (std::log(to) - low_))
    {
        parallelFor(steps + 1, [&](std::size_t i) { all_[i] = swell.ring(std::exp(low_ + double(i) / perStep_)); });
    }
    Swell::Ring at(double k) const
    {
        const double u = std::clamp((std::log(k) - low_) * perStep_, 0.0, steps - 1e-6);
        const auto i = static_cast<std::size_t>(u);
        const double f = u - double(i);
        const Swell::Ring &a = all_[i], &b = all_[i + 1];
        return {a.own + (b.own - a.own) * f, a.other + (b.other - a.other) * f, a.narrow + (b.narrow - a.narrow) * f};
    }

private:
    static constexpr std::size_t steps = 2000;
    double low_, perStep_;
    std::array<Swell::Ring, steps + 1> all_;
};
/// Two numbers of a normal law for each wave of a tile and for what comes against it; the same for all winds, so the
/// last ones are kept.
using Chances = std::vector<std::array<float, 4>>;
std::shared_ptr<const Chances> chancesOf(std::uint32_t seed, int number, int n)
{
    static std::mutex mutex;
    static std::map<std::array<std::int64_t, 3>, std::shared_ptr<const Chances>> kept;
    const std::array<std::int64_t, 3> key{seed, number, n};
    const std::lock_guard lock(mutex);
    if (const auto found = kept.find(key); found != kept.end())
        return found->second;
    const int half = n / 2 + 1;
    auto out = std::make_shared<Chances>(static_cast<std::size_t>(n) * static_cast<std::size_t>(half));
    const std::uint32_t own = hash32(seed, static_cast<std::uint32_t>(number));
    for (int row = 0; row < n; ++row)
        for (int i = 0; i < half; ++i) {
            const int j = row <= n / 2 ? row : row - n;
            const auto a = normals(hash32(own, static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(j))),
                       b = normals(hash32(own, static_cast<std::uint32_t>(-i), static_cast<std::uint32_t>(-j)));
            (*out)[static_cast<std::size_t>(row) * static_cast<std::size_t>(half) + static_cast<std::size_t>(i)] = {
                static_cast<float>(a[0]), static_cast<float>(a[1]), static_cast<float>(b[0]), static_cast<float>(b[1])};
        }
    if (kept.size() > 12)
        kept.clear();
    kept[key] = out;
    return out;
}
} // namespace

SwellModes::SwellModes(const Swell& swell, int finest, std::uint32_t seed, JobControl& job) : swell_(swell)
{
    const double peak = swell.peakLength();
    if (!(peak > 0.0))
        return;
    const double shortest = std::max(5e-3, swell.shortest);
    // What is much longer than the peak is so little that it is left to the longest tile.
    double longest = std::max(peak, shortest);
    // From the finest on, each with what is between it and the one before.
    double under = 0.0, before = 1e9;
    for (int i = 0; i < 48; ++i) {
        const double k = turn / (double(finestWidth) * std::pow(2.0, 0.5 * i));
        under += swell.slopeVariance(k, before);
        slopes_.push_back(static_cast<float>(under));
        before = k;
    }
    const Rings rings(swell, 0.5 * turn / (longest * tilesWide), 2.0 * turn / shortest);
    for (int number = 0; number < 6; ++number) {
        Tile t;
        t.n = number == 0 ? finest : std::min(finest, shorterSide);
        t.length = longest * (number == 0 ? tilesWide : shorterWide);
        t.from = number == 0 ? 0.0 : turn / longest;
        const double least = std::max(shortest, (number == 0 ? perWave : perShorterWave) * t.length / t.n);
        t.to = turn / least;
        const int half = t.n / 2 + 1;
        const auto count = static_cast<std::size_t>(t.n) * static_cast<std::size_t>(half);
        for (auto* v : {&t.re, &t.im, &t.reBack, &t.imBack, &t.frequency})
            v->assign(count, 0.f);
        const double step = turn / t.length;
        const auto chances = chancesOf(seed, number, t.n);
        // Between samples lies what lies straight between them: less than there is of short waves.
        std::vector<double> straight(static_cast<std::size_t>(t.n));
        for (int i = 0; i < t.n; ++i)
            straight[static_cast<std::size_t>(i)] = (2.0 + std::cos(turn * i / t.n)) / 3.0;
        parallelFor(static_cast<std::size_t>(t.n), [&](std::size_t row) {
            if (job.cancelled())
                return;
            const int j = static_cast<int>(row) <= t.n / 2 ? static_cast<int>(row) : static_cast<int>(row) - t.n;
            for (int i = 0; i < half; ++i) {
                const double kx = i * step, kz = j * step, k = std::hypot(kx, kz);
                if (!(k > 0.0) || k < t.from || k >= t.to || i == t.n / 2 || std::abs(j) == t.n / 2)
                    continue;
                const std::size_t at = row * static_cast<std::size_t>(half) + static_cast<std::size_t>(i);
                const Swell::Ring ring = rings.at(k);
                const double way = std::atan2(kx, -kz),
                             made = 0.25 / (straight[static_cast<std::size_t>(i)] * straight[row]);
                const auto along = static_cast<float>(std::sqrt(swell.density(ring, way) * made) * step),
                           back = static_cast<float>(std::sqrt(swell.density(ring, way + 0.5 * turn) * made) * step);
                const auto& chance = (*chances)[at];
                t.re[at] = along * chance[0];
                t.im[at] = along * chance[1];
                t.reBack[at] = back * chance[2];
                t.imBack[at] = -back * chance[3];
                t.frequency[at] = static_cast<float>(frequencyOf(k, swell.depth));
            }
        });
        job.check();
        tiles_.push_back(std::move(t));
        longest = least;
        if (least <= shortest * 1.001)
            break;
    }
}

std::size_t SwellModes::bytes() const
{
    std::size_t out = sizeof *this;
    for (const Tile& t : tiles_)
        out += sizeof t + 5 * sizeof(float) * t.re.size();
    out += slopes_.size() * sizeof(float);
    return out;
}

namespace {
/// Room for transforms, taken from what was given back.
class Scratch {
public:
    Scratch(std::size_t complexes, std::size_t reals)
    {
        {
            const std::lock_guard lock(mutex());
            if (!spare().empty()) {
                room_ = std::move(spare().back());
                spare().pop_back();
            }
        }
        if (room_.complexes < complexes || room_.reals < reals)
            room_ = {complexesOf(complexes), realsOf(reals), complexes, reals};
    }
    ~Scratch()
    {
        const std::lock_guard lock(mutex());
        if (spare().size() < 2)
            spare().push_back(std::move(room_));
    }
    Scratch(const Scratch&) = delete;
    Scratch& operator=(const Scratch&) = delete;
    fftwf_complex* in() const { return room_.in.get(); }
    float* out() const { return room_.out.get(); }

private:
    struct Room {
        Complexes in;
        Reals out;
        std::size_t complexes = 0, reals = 0;
    };
    static std::mutex& mutex()
    {
        static std::mutex m;
        return m;
    }
    static std::vector<Room>& spare()
    {
        static std::vector<Room> all;
        return all;
    }
    Room room_;
};
} // namespace

SwellField::SwellField(std::shared_ptr<const SwellModes> modes, const SwellMoment& moment, JobControl& job)
    : modes_(std::move(modes))
{
    for (const SwellModes::Tile& from : modes_->tiles()) {
        const int n = from.n, half = n / 2 + 1;
        const auto halfCount = static_cast<std::size_t>(n) * static_cast<std::size_t>(half);
        const auto count = static_cast<std::size_t>(n) * static_cast<std::size_t>(n);
        const fftwf_plan plan = toReal(n);
        // What is needed on the way is kept for the next field.
        const Scratch scratch(halfCount * planes, count * planes);
        fftwf_complex* in = scratch.in();
        float* out = scratch.out();
        const double step = turn / from.length;
        const auto depth = static_cast<float>(modes_->swell().depth);
        const auto choppy = static_cast<float>(moment.choppy);
        parallelFor(static_cast<std::size_t>(n), [&](std::size_t row) {
            const int j = static_cast<int>(row) <= n / 2 ? static_cast<int>(row) : static_cast<int>(row) - n;
            for (int i = 0; i < half; ++i) {
                const std::size_t at = row * static_cast<std::size_t>(half) + static_cast<std::size_t>(i);
                const auto put = [&](int plane, float re, float im) {
                    fftwf_complex& c = in[static_cast<std::size_t>(plane) * halfCount + at];
                    c[0] = re;
                    c[1] = im;
                };
                double frequency = double(from.frequency[at]);
                if (!(frequency > 0.0)) {
                    for (int p = 0; p < planes; ++p)
                        put(p, 0.f, 0.f);
                    continue;
                }
                // All comes back to where it was after a loop: so many whole turns.
                if (moment.loop > 0.0)
                    frequency = std::round(frequency * moment.loop / turn) * turn / moment.loop;
                const double turns = frequency * moment.seconds * (1.0 / turn);
                const auto phase = static_cast<float>((turns - std::floor(turns)) * turn);
                const float c = std::cos(phase), s = std::sin(phase);
                const float re = from.re[at] * c + from.im[at] * s + from.reBack[at] * c - from.imBack[at] * s,
                            im = from.im[at] * c - from.re[at] * s + from.imBack[at] * c + from.reBack[at] * s;
                const float kx = static_cast<float>(i * step), kz = static_cast<float>(j * step),
                            k = std::sqrt(kx * kx + kz * kz);
                // Over shallow ground what moves does so more to the sides than up and down.
                const float aside = choppy / std::max(0.3f, std::tanh(std::min(20.f, k * depth))), x = kx / k * aside,
                            z = kz / k * aside;
                put(0, re, im);
                put(1, -im * x, re * x);
                put(2, -im * z, re * z);
                put(3, -im * kx, re * kx);
                put(4, -im * kz, re * kz);
                put(5, -re * kx * x, -im * kx * x);
                put(6, -re * kz * z, -im * kz * z);
                put(7, -re * kx * z, -im * kx * z);
            }
        });
        job.check();
        parallelFor(planes, [&](std::size_t p) {
            if (!job.cancelled())
                fftwf_execute_dft_c2r(plan, in + p * halfCount, out + p * count);
        });
        job.check();
        Tile tile;
        tile.scale = static_cast<float>(std::log2(from.length / n));
        tile.scaleOfLongest = static_cast<float>(
            std::log2(from.from > 0.0 ? turn / from.from : 4.0 * from.length / tilesWide));
        Level first{n, static_cast<float>(n / from.length), Samples<F8>(count), Samples<SwellShape>(count)};
        F8 low = f8(0.f), high = f8(0.f);
        std::mutex mutex;
        parallelRanges(count / lanes, 1024, [&](std::size_t begin, std::size_t end) {
            F8 least = f8(0.f), most = f8(0.f);
            for (std::size_t i = begin * lanes; i < end * lanes; i += lanes) {
                F8 v[lanes];
                for (std::size_t p = 0; p < planes; ++p)
                    v[p] = load8(out + p * count + i);
                transpose8(v);
                for (std::size_t k = 0; k < lanes; ++k) {
                    least = min8(least, v[k]);
                    most = max8(most, v[k]);
                    first.all[i + k] = v[k];
                    first.shape[i + k] = SwellShape{v[k][0], v[k][1], v[k][2], 0.f};
                }
            }
            const std::lock_guard lock(mutex);
            low = min8(low, least);
            high = max8(high, most);
        });
        rest_.push_back(std::max(high[0], -low[0]));
        highest_ += high[0];
        lowest_ += low[0];
        tile.levels.push_back(std::move(first));
        while (tile.levels.back().n > 4) {
            const Level& fine = tile.levels.back();
            const int m = fine.n / 2;
            const auto samples = static_cast<std::size_t>(m) * static_cast<std::size_t>(m);
            Level coarse{m, fine.perMetre * 0.5f, Samples<F8>(samples), Samples<SwellShape>(samples)};
            // Each of the coarse stands in the middle of where the one of the fine stood, so that nothing shifts.
            const auto row = [&](int z) {
                return fine.all.data() + static_cast<std::size_t>(z & (fine.n - 1)) * static_cast<std::size_t>(fine.n);
            };
            parallelRanges(static_cast<std::size_t>(m), 16, [&](std::size_t begin, std::size_t end) {
                for (std::size_t z = begin; z < end; ++z) {
                    const int fz = 2 * static_cast<int>(z);
                    const F8 *above = row(fz - 1), *here = row(fz), *below = row(fz + 1);
                    const auto down = [&](int x) {
                        const auto i = static_cast<std::size_t>(x & (fine.n - 1));
                        return here[i] * 0.5f + (above[i] + below[i]) * 0.25f;
                    };
                    F8 left = down(-1);
                    for (int x = 0; x < m; ++x) {
                        const F8 right = down(2 * x + 1), v = down(2 * x) * 0.5f + (left + right) * 0.25f;
                        const std::size_t at = z * static_cast<std::size_t>(m) + static_cast<std::size_t>(x);
                        coarse.all[at] = v;
                        coarse.shape[at] = SwellShape{v[0], v[1], v[2], 0.f};
                        left = right;
                    }
                }
            });
            tile.levels.push_back(std::move(coarse));
        }
        tiles_.push_back(std::move(tile));
    }
    rest_.push_back(0.f);
    for (std::size_t i = rest_.size() - 1; i-- > 0;)
        rest_[i] += rest_[i + 1];
    bound();
    judge();
}

void SwellField::bound()
{
    if (tiles_.empty())
        return;
    const Level& from = tiles_.front().levels.front();
    Bound finest{from.n / 2, 2.f / from.perMetre, {}};
    const int n = finest.n, mask = n - 1;
    const auto at = [](int x, int z, int side) {
        return static_cast<std::size_t>(z) * static_cast<std::size_t>(side) + static_cast<std::size_t>(x);
    };
    finest.most.assign(at(0, n, n), -1e9f);
    // Where each sample stands, and what lies between it and the next.
    const float perCell = 1.f / finest.cell;
    for (int z = 0; z < from.n; ++z)
        for (int x = 0; x < from.n; ++x) {
            const SwellShape& s = from.shape[at(x, z, from.n)];
            const int u = static_cast<int>(std::floor((static_cast<float>(x) / from.perMetre + s[1]) * perCell)) & mask,
                      v = static_cast<int>(std::floor((static_cast<float>(z) / from.perMetre + s[2]) * perCell)) & mask;
            float& most = finest.most[at(u, v, n)];
            most = std::max(most, s[0]);
        }
    std::vector<float> wide(finest.most.size());
    for (const bool alongX : {true, false}) {
        for (int z = 0; z < n; ++z)
            for (int x = 0; x < n; ++x) {
                float most = -1e9f;
                for (int k = -1; k <= 1; ++k)
                    most = std::max(most, finest.most[alongX ? at((x + k) & mask, z, n) : at(x, (z + k) & mask, n)]);
                wide[at(x, z, n)] = most;
            }
        finest.most.swap(wide);
    }
    bounds_.push_back(std::move(finest));
    while (bounds_.back().n > 8) {
        const Bound& fine = bounds_.back();
        Bound coarse{fine.n / 2, fine.cell * 2.f, {}};
        coarse.most.resize(at(0, coarse.n, coarse.n));
        for (int z = 0; z < coarse.n; ++z)
            for (int x = 0; x < coarse.n; ++x)
                coarse.most[at(x, z, coarse.n)] = std::max(
                    {fine.most[at(2 * x, 2 * z, fine.n)], fine.most[at(2 * x + 1, 2 * z, fine.n)],
                     fine.most[at(2 * x, 2 * z + 1, fine.n)], fine.most[at(2 * x + 1, 2 * z + 1, fine.n)]});
        bounds_.push_back(std::move(coarse));
    }
}

float SwellField::clearOf(const Vec3& place, const Vec3& way, float more, float far) const
{
    if (bounds_.empty())
        return place.y <= more ? 0.f : way.y >= 0.f ? far : std::min(far, (more - place.y) / way.y);
    float gone = 0.f;
    int level = 1;
    const int coarsest = static_cast<int>(bounds_.size()) - 1;
    for (int i = 0; i < 96 && gone < far; ++i) {
        const Bound& b = bounds_[static_cast<std::size_t>(level)];
        const float x = place.x + way.x * gone, z = place.z + way.z * gone, fu = std::floor(x / b.cell),
                    fv = std::floor(z / b.cell);
        // To where it leaves this square.
        const float toX = std::abs(way.x) > 1e-6f ? ((way.x > 0.f ? fu + 1.f : fu) * b.cell - x) / way.x : 1e9f,
                    toZ = std::abs(way.z) > 1e-6f ? ((way.z > 0.f ? fv + 1.f : fv) * b.cell - z) / way.z : 1e9f,
                    out = std::min(std::min(toX, toZ) + 1e-3f * b.cell, far - gone + 1e-3f * b.cell);
        const int u = static_cast<int>(fu) & (b.n - 1), v = static_cast<int>(fv) & (b.n - 1);
        const float lowest = place.y + way.y * (way.y < 0.f ? gone + out : gone);
        if (lowest > b.most[static_cast<std::size_t>(v * b.n + u)] + more) {
            gone += out;
            level = std::min(coarsest, level + 1);
        } else if (level == 0) {
            break;
        } else {
            --level;
        }
    }
    return std::min(gone, far);
}

void SwellField::judge()
{
    constexpr int places = 8000;
    stretches_.resize(places);
    jacobians_.resize(places);
    parallelRanges(places, 1000, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            const auto n = static_cast<std::uint32_t>(i);
            const float wide = tiles_.empty() ? 1.f : static_cast<float>(modes_->tiles().front().length);
            const SwellSample s = at(unitFloat(hash32(n, 1u)) * wide, unitFloat(hash32(n, 2u)) * wide, 0.f);
            stretches_[i] = Vec3(s.xx, s.zz, s.xz);
            jacobians_[i] = s.jacobian();
        }
    });
    std::sort(jacobians_.begin(), jacobians_.end());
}

namespace {
/// What lies between four of a level's samples.
template <class V> V between(const Samples<V>& all, int n, float u, float v)
{
    const float fu = std::floor(u), fv = std::floor(v), a = u - fu, b = v - fv;
    const auto x = static_cast<std::int32_t>(fu), z = static_cast<std::int32_t>(fv), mask = n - 1;
    const auto x0 = static_cast<std::size_t>(x & mask), x1 = static_cast<std::size_t>((x + 1) & mask),
               z0 = static_cast<std::size_t>((z & mask) * n), z1 = static_cast<std::size_t>(((z + 1) & mask) * n);
    const V near = all[z0 + x0] + (all[z0 + x1] - all[z0 + x0]) * a,
            far = all[z1 + x0] + (all[z1 + x1] - all[z1 + x0]) * a;
    return near + (far - near) * b;
}
/// Of a tile's levels the one for a width and the next, mixed; waves near the width fade away before they are gone.
template <class V, class Tile, class All> V mixed(const Tile& t, float x, float z, float scale, const All& all)
{
    const float level = std::max(0.f, scale - t.scale);
    const int most = static_cast<int>(t.levels.size()) - 1, lower = std::min(most, static_cast<int>(level));
    const auto look = [&](int i) {
        const auto& l = t.levels[static_cast<std::size_t>(i)];
        return between<V>(all(l), l.n, x * l.perMetre, z * l.perMetre);
    };
    V own = look(lower);
    if (const float more = level - static_cast<float>(lower); lower < most && more > 0.02f)
        own += (look(lower + 1) - own) * more;
    return own;
}
} // namespace

SwellSample SwellField::at(float x, float z, float width, std::size_t tiles) const
{
    const float scale = std::log2(std::max(width, 1e-6f));
    F8 sum = f8(0.f);
    for (std::size_t i = 0; i < std::min(tiles, tiles_.size()); ++i)
        if (scale < tiles_[i].scaleOfLongest)
            sum += mixed<F8>(tiles_[i], x, z, scale, [](const Level& l) -> const Samples<F8>& { return l.all; });
    return {sum[0], sum[1], sum[2], sum[3], sum[4], sum[5], sum[6], sum[7]};
}

SwellShape SwellField::shapeAt(float x, float z, float scale, std::size_t tiles) const
{
    SwellShape sum{};
    for (std::size_t i = 0; i < tiles; ++i) {
        const Tile& t = tiles_[i];
        if (scale >= t.scaleOfLongest)
            continue;
        const int level = std::clamp(static_cast<int>(scale - t.scale + 0.5f), 0,
                                     static_cast<int>(t.levels.size()) - 1);
        const Level& l = t.levels[static_cast<std::size_t>(level)];
        sum += between(l.shape, l.n, x * l.perMetre, z * l.perMetre);
    }
    return sum;
}

float SwellField::shareUnder(float jacobian) const
{
    const auto n = std::lower_bound(jacobians_.begin(), jacobians_.end(), jacobian) - jacobians_.begin();
    return static_cast<float>(n) / static_cast<float>(std::max<std::size_t>(1, jacobians_.size()));
}

float SwellField::foldedAt(float times) const
{
    const auto folded = std::count_if(stretches_.begin(), stretches_.end(), [&](const Vec3& v) {
        return (1.f + times * v.x) * (1.f + times * v.y) < times * times * v.z * v.z;
    });
    return static_cast<float>(folded) / static_cast<float>(std::max<std::size_t>(1, stretches_.size()));
}

std::vector<float> SwellField::jacobians(float width, std::size_t places) const
{
    std::vector<float> out(places);
    const float wide = tiles_.empty() ? 1.f : static_cast<float>(modes_->tiles().front().length);
    parallelRanges(places, 500, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            const auto n = static_cast<std::uint32_t>(i);
            out[i] = at(unitFloat(hash32(n, 3u)) * wide, unitFloat(hash32(n, 4u)) * wide, width).jacobian();
        }
    });
    return out;
}

float SwellModes::slopeVarianceUnder(float wave) const
{
    if (slopes_.empty())
        return 0.f;
    const float at = 2.f * std::log2(std::max(wave, finestWidth) / finestWidth);
    const auto i = std::min(static_cast<std::size_t>(at), slopes_.size() - 2);
    const float u = std::clamp(at - static_cast<float>(i), 0.f, 1.f);
    return slopes_[i] + (slopes_[i + 1] - slopes_[i]) * u;
}

float SwellField::slopeVarianceUnder(float width) const
{
    constexpr float halved = 3.5f; // times the width is the wave of which half of the power is left
    return modes_->slopeVarianceUnder(halved * width);
}

std::size_t SwellField::bytes() const
{
    std::size_t out = sizeof *this + sizeof(float) * jacobians_.size() + sizeof(Vec3) * stretches_.size();
    for (const Tile& t : tiles_)
        for (const Level& l : t.levels)
            out += l.all.size() * (sizeof(F8) + sizeof(SwellShape));
    for (const Bound& b : bounds_)
        out += b.most.size() * sizeof(float);
    return out;
}
} // namespace hygros::media
