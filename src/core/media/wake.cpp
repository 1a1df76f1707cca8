#include "media/wake.h"

#include "base/parallel.h"
#include "media/transform.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <mutex>

namespace hygros::media {
namespace {
constexpr double turn = 2.0 * 3.14159265358979323846;
constexpr float rim = 0.12f; ///< share of the patch's side over which waves fade toward its edges
constexpr int mirrored = 16; ///< cells behind a wall that hold the image of what is before it

/// Number of a wave along a side.
int wave(int i, int n) { return i <= n / 2 ? i : i - n; }

/// What is kept at a sample of a patch a step long: all of it, and less toward its edges.
float keptAt(int i, int n, double seconds)
{
    const float edge = rim * static_cast<float>(n), in = static_cast<float>(std::min(i, n - 1 - i)) + 0.5f;
    if (in >= edge)
        return 1.f;
    const float u = 1.f - in / edge;
    return static_cast<float>(std::exp(-double(6.f * u * u) * seconds));
}

/// Puts the image of what is before walls behind them.
void mirror(std::vector<float>& height, std::vector<float>& potential, const std::vector<std::uint8_t>& open, int n)
{
    const auto at = [n](int x, int z) {
        return static_cast<std::size_t>(z) * static_cast<std::size_t>(n) + static_cast<std::size_t>(x);
    };
    std::vector<float> h = height, p = potential;
    parallelFor(static_cast<std::size_t>(n), [&](std::size_t row) {
        const int z = static_cast<int>(row);
        for (int x = 0; x < n; ++x) {
            if (open[at(x, z)])
                continue;
            // The nearest water along each of four ways; as far behind the wall as that image stands before it.
            float sumH = 0.f, sumP = 0.f, weight = 0.f;
            for (const auto& [dx, dz] : {std::array{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
                for (int k = 1; k <= mirrored; ++k) {
                    const int wx = x + dx * k, wz = z + dz * k;
                    if (wx < 0 || wz < 0 || wx >= n || wz >= n)
                        break;
                    if (!open[at(wx, wz)])
                        continue;
                    const int ix = x + dx * (2 * k - 1), iz = z + dz * (2 * k - 1);
                    if (ix >= 0 && iz >= 0 && ix < n && iz < n && open[at(ix, iz)]) {
                        const float w = 1.f / static_cast<float>(k * k);
                        sumH += w * height[at(ix, iz)];
                        sumP += w * potential[at(ix, iz)];
                        weight += w;
                    }
                    break;
                }
            h[at(x, z)] = weight > 0.f ? sumH / weight : 0.f;
            p[at(x, z)] = weight > 0.f ? sumP / weight : 0.f;
        }
    });
    height.swap(h);
    potential.swap(p);
}
/// What a step does to a wave: of its height and of its potential.
struct Turn {
    float stays, rises, falls;
};
using Turns = std::vector<Turn>;
/// Of all waves of a grid; the last ones are kept.
std::shared_ptr<const Turns> turnsOf(const WakeGrid& grid, double seconds)
{
    struct Kept {
        WakeGrid grid;
        double seconds;
        std::shared_ptr<const Turns> turns;
    };
    static std::mutex mutex;
    static std::vector<Kept> kept;
    const std::lock_guard lock(mutex);
    for (const Kept& k : kept)
        if (k.grid == grid && std::abs(k.seconds - seconds) < 1e-9)
            return k.turns;
    const int n = grid.n, half = n / 2 + 1;
    auto out = std::make_shared<Turns>(static_cast<std::size_t>(n) * static_cast<std::size_t>(half));
    const double step = turn / (n * double(grid.cell)),
                 lost = std::exp2(-seconds / std::max(1e-3, double(grid.halves))),
                 whole = lost / (double(n) * double(n));
    parallelFor(static_cast<std::size_t>(n), [&](std::size_t row) {
        const double kz = wave(static_cast<int>(row), n) * step;
        for (int i = 0; i < half; ++i) {
            Turn& to = (*out)[row * static_cast<std::size_t>(half) + static_cast<std::size_t>(i)];
            const double k = std::hypot(i * step, kz);
            if (!(k > 0.0)) { // the mean of it goes away as all else does
                to = {static_cast<float>(whole * std::exp2(-seconds)), 0.f, 0.f};
                continue;
            }
            const double w = frequencyOf(k, grid.depth), under = gravityOfWaves + skinOfWater * k * k;
            // Waves of two samples are no waves.
            const double fine = k * double(grid.cell) / (0.5 * turn), over = std::max(0.0, fine - 0.7),
                         keep = whole * std::exp(-400.0 * over * over * seconds);
            to = {static_cast<float>(keep * std::cos(w * seconds)),
                  static_cast<float>(keep * std::sin(w * seconds) * w / under),
                  static_cast<float>(keep * std::sin(w * seconds) * under / w)};
        }
    });
    if (kept.size() >= 6)
        kept.erase(kept.begin());
    kept.push_back({grid, seconds, out});
    return out;
}
} // namespace

namespace {
/// Foam of a step: what there is fades and spreads, and it is made where a hull goes in and out fast and where waves
/// are too steep to stand.
void whiten(WakeState& s, const WakeGrid& grid, const std::vector<float>& push, const std::vector<std::uint8_t>& open,
            double seconds)
{
    constexpr float spreads = 0.015f;              // [m²/s]
    constexpr float slow = 0.3f, fast = 1.6f;      // how fast a hull displaces [m/s]
    constexpr float stands = 0.42f, breaks = 0.8f; // slopes
    const int n = grid.n;
    const auto side = static_cast<std::size_t>(n);
    const auto dt = static_cast<float>(seconds);
    const float left = grid.foamHalves > 0.f ? std::exp2(-dt / grid.foamHalves) : 0.f,
                mixes = std::min(0.2f, spreads * dt / (grid.cell * grid.cell));
    const std::vector<float> was = s.foam;
    const auto made = [](float low, float high, float v) { return std::clamp((v - low) / (high - low), 0.f, 1.f); };
    parallelFor(side, [&](std::size_t row) {
        const std::size_t up = row > 0 ? side : 0, down = row + 1 < side ? side : 0;
        for (std::size_t x = 0; x < side; ++x) {
            const std::size_t at = row * side + x, before = x > 0 ? 1 : 0, after = x + 1 < side ? 1 : 0;
            if (!open.empty() && !open[at]) {
                s.foam[at] = 0.f;
                continue;
            }
            const float around = was[at - before] + was[at + after] + was[at - up] + was[at + down],
                        own = (was[at] + (around - 4.f * was[at]) * mixes) * left;
            const float sx = (s.height[at + after] - s.height[at - before]) / (2.f * grid.cell),
                        sz = (s.height[at + down] - s.height[at - up]) / (2.f * grid.cell);
            const float torn = push.empty() || !(dt > 0.f) ? 0.f : made(slow, fast, std::abs(push[at]) / dt),
                        steep = made(stands, breaks, std::sqrt(sx * sx + sz * sz));
            s.foam[at] = std::max(own, std::max(torn, steep));
        }
    });
}
} // namespace

WakeState stepped(const WakeState& before, const WakeGrid& grid, const Vec2& corner, const std::vector<float>& push,
                  double seconds, const WakeWalls& walls)
{
    const int n = grid.n, half = n / 2 + 1;
    const auto side = static_cast<std::size_t>(n), all = side * side, halfAll = side * static_cast<std::size_t>(half);
    WakeState out(grid, corner);
    // Moved by whole cells with the patch.
    const int sx = static_cast<int>(std::lround((corner.x - before.corner.x) / grid.cell)),
              sz = static_cast<int>(std::lround((corner.y - before.corner.y) / grid.cell));
    std::vector<std::uint8_t> open;
    if (walls)
        open.resize(all);
    std::vector<float> fades(side);
    for (int i = 0; i < n; ++i)
        fades[static_cast<std::size_t>(i)] = keptAt(i, n, seconds);
    parallelFor(side, [&](std::size_t row) {
        const int z = static_cast<int>(row) + sz;
        for (int x = 0; x < n; ++x) {
            const std::size_t at = row * side + static_cast<std::size_t>(x);
            const int fx = x + sx;
            const float kept = fades[row] * fades[static_cast<std::size_t>(x)];
            if (z >= 0 && z < n && fx >= 0 && fx < n) {
                const std::size_t from = static_cast<std::size_t>(z) * side + static_cast<std::size_t>(fx);
                out.height[at] = before.height[from] * kept;
                out.potential[at] = before.potential[from] * kept;
                out.foam[at] = before.foam[from] * kept;
            }
            if (!push.empty())
                out.height[at] += push[at];
            if (walls)
                open[at] = walls(corner.x + (static_cast<float>(x) + 0.5f) * grid.cell,
                                 corner.y + (static_cast<float>(row) + 0.5f) * grid.cell);
        }
    });
    if (walls)
        mirror(out.height, out.potential, open, n);
    // Every wave turns at its own frequency.
    const Complexes h = complexesOf(halfAll), p = complexesOf(halfAll);
    const Reals r = realsOf(all), q = realsOf(all);
    std::copy(out.height.begin(), out.height.end(), r.get());
    std::copy(out.potential.begin(), out.potential.end(), q.get());
    const fftwf_plan forward = toComplex(n), back = toReal(n);
    parallelFor(2, [&](std::size_t which) {
        fftwf_execute_dft_r2c(forward, which ? q.get() : r.get(), which ? p.get() : h.get());
    });
    const auto turns = turnsOf(grid, seconds);
    parallelRanges(halfAll, 8192, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const Turn& by = (*turns)[at];
            fftwf_complex &a = h[at], &b = p[at];
            const float h0 = a[0], h1 = a[1], p0 = b[0], p1 = b[1];
            a[0] = by.stays * h0 + by.rises * p0;
            a[1] = by.stays * h1 + by.rises * p1;
            b[0] = by.stays * p0 - by.falls * h0;
            b[1] = by.stays * p1 - by.falls * h1;
        }
    });
    parallelFor(2, [&](std::size_t which) {
        fftwf_execute_dft_c2r(back, which ? p.get() : h.get(), which ? q.get() : r.get());
    });
    for (std::size_t i = 0; i < all; ++i) {
        const bool isWater = !walls || open[i];
        out.height[i] = isWater ? r[i] : 0.f;
        out.potential[i] = isWater ? q[i] : 0.f;
    }
    whiten(out, grid, push, open, seconds);
    return out;
}

double foamOf(const WakeState& state, const WakeGrid& grid)
{
    double sum = 0.0;
    for (const float f : state.foam)
        sum += double(f);
    return sum * double(grid.cell) * double(grid.cell);
}

double energyOf(const WakeState& state, const WakeGrid& grid)
{
    // ½·g·h² of what is high; ½·φ·k·tanh(k·depth)·φ of what moves, by its waves.
    const int n = grid.n, half = n / 2 + 1;
    const auto side = static_cast<std::size_t>(n), all = side * side;
    const Reals q = realsOf(all);
    const Complexes p = complexesOf(side * static_cast<std::size_t>(half));
    std::copy(state.potential.begin(), state.potential.end(), q.get());
    fftwf_execute_dft_r2c(toComplex(n), q.get(), p.get());
    const double step = turn / (n * double(grid.cell)), area = double(grid.cell) * double(grid.cell);
    double out = 0.0;
    for (const float h : state.height)
        out += 0.5 * gravityOfWaves * double(h) * double(h) * area;
    for (int j = 0; j < n; ++j)
        for (int i = 0; i < half; ++i) {
            const fftwf_complex& c =
                p[static_cast<std::size_t>(j) * static_cast<std::size_t>(half) + static_cast<std::size_t>(i)];
            const double k = std::hypot(i * step, wave(j, n) * step), twice = i == 0 || i == n / 2 ? 1.0 : 2.0;
            out += 0.5 * twice * k * std::tanh(std::min(50.0, k * grid.depth)) *
                   (double(c[0]) * double(c[0]) + double(c[1]) * double(c[1])) / double(all) * area;
        }
    return out;
}

float WakePatch::foamAt(float x, float z) const
{
    const int n = levels_.front().n;
    const float u = std::clamp((x - corner_.x) * perMetre_, 0.f, static_cast<float>(n) - 1.001f),
                v = std::clamp((z - corner_.y) * perMetre_, 0.f, static_cast<float>(n) - 1.001f);
    const int i = static_cast<int>(u), j = static_cast<int>(v);
    const float a = u - static_cast<float>(i), b = v - static_cast<float>(j);
    const float* f = &foam_[static_cast<std::size_t>(j * n + i)];
    return (f[0] * (1.f - a) + f[1] * a) * (1.f - b) + (f[n] * (1.f - a) + f[n + 1] * a) * b;
}

WakePatch::WakePatch(const WakeState& state, const WakeGrid& grid, float choppy)
    : foam_(state.foam), corner_(state.corner), perMetre_(1.f / grid.cell), side_(static_cast<float>(grid.n - 1)),
      scale_(std::log2(grid.cell))
{
    const int n = grid.n, half = n / 2 + 1;
    const auto side = static_cast<std::size_t>(n), all = side * side, halfAll = side * static_cast<std::size_t>(half);
    constexpr int planes = 8;
    const Complexes in = complexesOf(halfAll * planes);
    const Reals out = realsOf(all * planes);
    std::copy(state.height.begin(), state.height.end(), out.get());
    const Complexes h = complexesOf(halfAll);
    fftwf_execute_dft_r2c(toComplex(n), out.get(), h.get());
    const double step = turn / (n * double(grid.cell));
    parallelFor(side, [&](std::size_t row) {
        for (int i = 0; i < half; ++i) {
            const std::size_t at = row * static_cast<std::size_t>(half) + static_cast<std::size_t>(i);
            const auto kx = static_cast<float>(i * step),
                       kz = static_cast<float>(wave(static_cast<int>(row), n) * step), k = std::sqrt(kx * kx + kz * kz);
            const bool isEdge = i == n / 2 || static_cast<int>(row) == n / 2;
            const float x = k > 0.f && !isEdge ? choppy * kx / k : 0.f, z = k > 0.f && !isEdge ? choppy * kz / k : 0.f,
                        sx = isEdge ? 0.f : kx, sz = isEdge ? 0.f : kz, re = h[at][0] / static_cast<float>(all),
                        im = h[at][1] / static_cast<float>(all);
            const auto put = [&](std::size_t plane, float a, float b) {
                in[plane * halfAll + at][0] = a;
                in[plane * halfAll + at][1] = b;
            };
            put(0, re, im);
            put(1, -im * x, re * x);
            put(2, -im * z, re * z);
            put(3, -im * sx, re * sx);
            put(4, -im * sz, re * sz);
            put(5, -re * sx * x, -im * sx * x);
            put(6, -re * sz * z, -im * sz * z);
            put(7, -re * sx * z, -im * sx * z);
        }
    });
    parallelFor(planes,
                [&](std::size_t p) { fftwf_execute_dft_c2r(toReal(n), in.get() + p * halfAll, out.get() + p * all); });
    Level first{n, perMetre_, std::vector<F8>(all), {}};
    for (std::size_t i = 0; i < all; ++i)
        for (std::size_t p = 0; p < planes; ++p)
            first.all[i][static_cast<int>(p)] = out[p * all + i];
    for (const F8& v : first.all) {
        lowest_ = std::min(lowest_, v[0]);
        highest_ = std::max(highest_, v[0]);
    }
    levels_.push_back(std::move(first));
    while (levels_.back().n > 8) {
        const Level& fine = levels_.back();
        const int m = fine.n / 2;
        Level coarse{
            m, fine.perMetre * 0.5f, std::vector<F8>(static_cast<std::size_t>(m) * static_cast<std::size_t>(m)), {}};
        for (int z = 0; z < m; ++z)
            for (int x = 0; x < m; ++x) {
                F8 sum = f8(0.f);
                for (int b = -1; b <= 1; ++b)
                    for (int a = -1; a <= 1; ++a) {
                        const int fx = std::clamp(2 * x + a, 0, fine.n - 1), fz = std::clamp(2 * z + b, 0, fine.n - 1);
                        sum += fine.all[static_cast<std::size_t>(fz * fine.n + fx)] *
                               ((a ? 0.25f : 0.5f) * (b ? 0.25f : 0.5f));
                    }
                coarse.all[static_cast<std::size_t>(z * m + x)] = sum;
            }
        levels_.push_back(std::move(coarse));
    }
    for (Level& l : levels_) {
        l.shape.resize(l.all.size());
        for (std::size_t i = 0; i < l.all.size(); ++i)
            l.shape[i] = SwellShape{l.all[i][0], l.all[i][1], l.all[i][2], 0.f};
    }
}

template <class V, class All> V WakePatch::mixed(float x, float z, float scale, const All& all) const
{
    const float level = std::max(0.f, scale - scale_);
    const int most = static_cast<int>(levels_.size()) - 1, lower = static_cast<int>(level);
    if (lower > most)
        return V{};
    const auto look = [&](int i) {
        const Level& l = levels_[static_cast<std::size_t>(i)];
        const float u = std::clamp((x - corner_.x) * l.perMetre, 0.f, static_cast<float>(l.n) - 1.001f),
                    v = std::clamp((z - corner_.y) * l.perMetre, 0.f, static_cast<float>(l.n) - 1.001f);
        const int iu = static_cast<int>(u), iv = static_cast<int>(v);
        const float a = u - static_cast<float>(iu), b = v - static_cast<float>(iv);
        const auto* p = &all(l)[static_cast<std::size_t>(iv * l.n + iu)];
        const V near = p[0] + (p[1] - p[0]) * a, far = p[l.n] + (p[l.n + 1] - p[l.n]) * a;
        return near + (far - near) * b;
    };
    V own = look(lower);
    const float more = level - static_cast<float>(lower);
    if (lower == most)
        own *= 1.f - more; // nothing of it is left that is as long as that
    else if (more > 0.02f)
        own += (look(lower + 1) - own) * more;
    return own;
}

SwellSample WakePatch::at(float x, float z, float width) const
{
    const F8 s = mixed<F8>(x, z, std::log2(std::max(width, 1e-6f)),
                           [](const Level& l) -> const std::vector<F8>& { return l.all; });
    return {s[0], s[1], s[2], s[3], s[4], s[5], s[6], s[7]};
}

SwellShape WakePatch::shapeAt(float x, float z, float scale) const
{
    return mixed<SwellShape>(x, z, scale, [](const Level& l) -> const std::vector<SwellShape>& { return l.shape; });
}

std::size_t WakePatch::bytes() const
{
    std::size_t out = sizeof *this + foam_.size() * sizeof(float);
    for (const Level& l : levels_)
        out += l.all.size() * (sizeof(F8) + sizeof(SwellShape));
    return out;
}
} // namespace hygros::media
