#include "light/gobo.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/random.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>
#include <sstream>
#include <stdexcept>

namespace hygros::light {
namespace {
/// Distance around a ring of length 1.
float apart(float a, float b)
{
    const float d = std::abs(a - b);
    return std::min(d, 1.f - d);
}

/// Smooth noise that repeats on the unit square, about `cells` blobs across; three octaves.
float blobs(float u, float v, int cells, std::uint32_t seed)
{
    float total = 0.f, weight = 1.f;
    for (int octave = 0; octave < 3; ++octave, cells *= 2, weight *= 0.5f) {
        const float x = u * static_cast<float>(cells), y = v * static_cast<float>(cells);
        const int x0 = static_cast<int>(x), y0 = static_cast<int>(y);
        const float fx = x - static_cast<float>(x0), fy = y - static_cast<float>(y0);
        const auto corner = [&](int dx, int dy) {
            const std::uint32_t h = hash32(static_cast<std::uint32_t>((x0 + dx) % cells * 4096 + (y0 + dy) % cells),
                                           seed + static_cast<std::uint32_t>(octave) * 977u);
            const float a = static_cast<float>(h >> 8) * (2.f * pi * 0x1p-24f);
            return std::cos(a) * (fx - static_cast<float>(dx)) + std::sin(a) * (fy - static_cast<float>(dy));
        };
        const auto eased = [](float t) { return t * t * t * (t * (t * 6.f - 15.f) + 10.f); };
        const float ex = eased(fx), ey = eased(fy);
        const float low = corner(0, 0) + (corner(1, 0) - corner(0, 0)) * ex,
                    high = corner(0, 1) + (corner(1, 1) - corner(0, 1)) * ex;
        total += weight * (low + (high - low) * ey);
    }
    return total;
}

/// Three box blurs one after the other come close to a Gaussian.
void blur(std::vector<float>& p, int size, int radius, bool repeats)
{
    std::vector<float> line(static_cast<std::size_t>(size));
    for (int round = 0; round < 3; ++round)
        for (const int stride : {1, size}) {
            const int other = stride == 1 ? size : 1;
            for (int row = 0; row < size; ++row) {
                float* at = &p[static_cast<std::size_t>(row * other)];
                const auto value = [&](int i) {
                    return i >= 0 && i < size ? at[i * stride]
                           : repeats          ? at[((i % size + size) % size) * stride]
                                              : 0.f;
                };
                double sum = 0.0;
                for (int i = -radius; i <= radius; ++i)
                    sum += double(value(i));
                for (int i = 0; i < size; ++i) {
                    line[static_cast<std::size_t>(i)] = static_cast<float>(sum / double(2 * radius + 1));
                    sum += double(value(i + radius + 1)) - double(value(i - radius));
                }
                for (int i = 0; i < size; ++i)
                    at[i * stride] = std::max(0.f, line[static_cast<std::size_t>(i)]);
            }
        }
}

/// One plane with the seam that bilinear reading wants.
std::vector<float> seamed(const std::vector<float>& p, int size, bool repeats)
{
    const auto n = static_cast<std::size_t>(size), wide = n + 1;
    std::vector<float> out(wide * wide + 1, 0.f);
    for (std::size_t y = 0; y < wide; ++y)
        for (std::size_t x = 0; x < wide; ++x)
            if (repeats || (x < n && y < n))
                out[y * wide + x] = p[(y % n) * n + x % n];
    return out;
}

bool insideOutlines(const std::vector<std::vector<Vec2>>& outlines, float x, float y)
{
    bool in = false;
    for (const auto& o : outlines)
        for (std::size_t i = 0, j = o.size() - 1; i < o.size(); j = i++)
            if ((o[i].y > y) != (o[j].y > y) && x < (o[j].x - o[i].x) * (y - o[i].y) / (o[j].y - o[i].y) + o[i].x)
                in = !in;
    return in;
}
} // namespace

Gobo::Gobo(const Settings& s)
{
    repeats_ = s.pattern == Pattern::Blinds || s.pattern == Pattern::Foliage || s.pattern == Pattern::Breakup ||
               s.pattern == Pattern::Stars;
    const int count = std::clamp(s.count, 1, 64);
    const float open = std::clamp(s.open, 0.f, 1.f), n = static_cast<float>(count);
    constexpr int fine = 2; // samples each way in a cell
    std::vector<float> p(static_cast<std::size_t>(size) * size, 0.f);
    if (s.pattern == Pattern::Foliage) {
        // Leaves fall until the wanted share is dark.
        std::fill(p.begin(), p.end(), 1.f);
        Random random(s.seed * 7919u + 3u);
        std::size_t dark = 0;
        const auto wanted = static_cast<std::size_t>((1.f - open) * static_cast<float>(p.size()));
        for (int leaf = 0; leaf < 20000 && dark < wanted; ++leaf) {
            const float cx = random.next(), cy = random.next(), a = random.next() * 2.f * pi,
                        length = (0.55f + 0.6f * random.next()) / n, wide = length * 0.38f;
            const float c = std::cos(a), q = std::sin(a);
            const int reach = static_cast<int>(length * size) + 1;
            for (int y = -reach; y <= reach; ++y)
                for (int x = -reach; x <= reach; ++x) {
                    const float fx = static_cast<float>(x) / size, fy = static_cast<float>(y) / size;
                    const float along = (fx * c + fy * q) / length, across = (fy * c - fx * q) / wide;
                    // Two arcs that meet in points.
                    if (std::abs(along) >= 1.f || std::abs(across) > 1.f - along * along)
                        continue;
                    const int px = ((static_cast<int>(cx * size) + x) % size + size) % size,
                              py = ((static_cast<int>(cy * size) + y) % size + size) % size;
                    float& cell = p[static_cast<std::size_t>(py * size + px)];
                    dark += cell > 0.f;
                    cell = 0.f;
                }
        }
    } else if (s.pattern == Pattern::Stars) {
        Random random(s.seed * 104729u + 11u);
        for (int i = 0; i < count * count; ++i) {
            const float cx = random.next(), cy = random.next(), r = (0.25f + 0.75f * random.next()) * 0.5f * open / n;
            const int reach = static_cast<int>(r * size) + 1;
            for (int y = -reach; y <= reach; ++y)
                for (int x = -reach; x <= reach; ++x)
                    if (static_cast<float>(x * x + y * y) <= std::max(1.f, r * r * size * size)) {
                        const int px = ((static_cast<int>(cx * size) + x) % size + size) % size,
                                  py = ((static_cast<int>(cy * size) + y) % size + size) % size;
                        p[static_cast<std::size_t>(py * size + px)] = 1.f;
                    }
        }
    } else if (s.pattern == Pattern::Breakup) {
        parallelFor(size, [&](std::size_t y) {
            for (std::size_t x = 0; x < size; ++x)
                p[y * size + x] = blobs((static_cast<float>(x) + 0.5f) / size, (static_cast<float>(y) + 0.5f) / size,
                                        count, s.seed);
        });
        std::vector<float> sorted = p;
        const auto at = sorted.begin() +
                        static_cast<std::ptrdiff_t>((1.f - open) * static_cast<float>(sorted.size() - 1));
        std::nth_element(sorted.begin(), at, sorted.end());
        const float threshold = *at;
        for (float& v : p)
            v = std::clamp((v - threshold) * 24.f + 0.5f, 0.f, 1.f);
    } else {
        parallelFor(size, [&](std::size_t row) {
            for (int column = 0; column < size; ++column)
                for (int sub = 0; sub < fine * fine; ++sub) {
                    const float u = (static_cast<float>(column) + (static_cast<float>(sub % fine) + 0.5f) / fine) /
                                    size;
                    const float v = (static_cast<float>(row) + (static_cast<float>(sub / fine) + 0.5f) / fine) / size;
                    const float x = 2.f * u - 1.f, y = 2.f * v - 1.f;
                    bool lit = false;
                    switch (s.pattern) {
                    case Pattern::Window: {
                        // Panes a third higher than wide in a frame that fits the beam; bars take what is not open.
                        const float fx = (x / 0.56f * 0.5f + 0.5f) * n, fy = (y / 0.74f * 0.5f + 0.5f) * n,
                                    bar = 0.5f * (1.f - std::sqrt(open));
                        const float inX = fx - std::floor(fx), inY = fy - std::floor(fy);
                        lit = fx >= 0.f && fx < n && fy >= 0.f && fy < n && std::min(inX, 1.f - inX) > bar &&
                              std::min(inY, 1.f - inY) > bar;
                        break;
                    }
                    case Pattern::Blinds: lit = apart(v * n - std::floor(v * n), 0.5f) < 0.5f * open; break;
                    case Pattern::Slit: lit = std::abs(x) < 0.5f * open && std::abs(y) < 0.92f; break;
                    default: lit = insideOutlines(s.outlines, x, y); break;
                    }
                    p[row * size + static_cast<std::size_t>(column)] += lit ? 1.f / (fine * fine) : 0.f;
                }
        });
    }
    if (const int radius = static_cast<int>(std::clamp(s.softness, 0.f, 1.f) * 0.25f * size); radius > 0)
        blur(p, size, radius, repeats_);
    planes_ = std::make_shared<std::vector<Plane>>(1, seamed(p, size, repeats_));
}

std::shared_ptr<const Gobo> Gobo::load(const std::filesystem::path& file, float softness)
{
    const image::Image picture = image::readColour(file);
    std::shared_ptr<Gobo> out(new Gobo);
    out->repeats_ = false;
    auto planes = std::make_shared<std::vector<Plane>>();
    // The longer side fills the beam; averaged over what a cell covers.
    const float longest = static_cast<float>(std::max(picture.width, picture.height)), step = longest / size;
    const auto clean = [&](float v) {
        if (std::isfinite(v) && v >= 0.f)
            return v;
        ++out->refused_;
        return 0.f;
    };
    for (std::size_t c = 0; c < 3; ++c) {
        std::vector<float> p(static_cast<std::size_t>(size) * size, 0.f);
        for (int y = 0; y < size; ++y)
            for (int x = 0; x < size; ++x) {
                const float px = (static_cast<float>(x) + 0.5f) * step -
                                 0.5f * (longest - static_cast<float>(picture.width));
                const float py = (static_cast<float>(size - 1 - y) + 0.5f) * step -
                                 0.5f * (longest - static_cast<float>(picture.height));
                if (px < 0.f || py < 0.f || px >= static_cast<float>(picture.width) ||
                    py >= static_cast<float>(picture.height))
                    continue;
                const int half = std::max(0, static_cast<int>(0.5f * step));
                float sum = 0.f;
                int some = 0;
                for (int dy = -half; dy <= half; ++dy)
                    for (int dx = -half; dx <= half; ++dx) {
                        const int qx = std::clamp(static_cast<int>(px) + dx, 0, picture.width - 1),
                                  qy = std::clamp(static_cast<int>(py) + dy, 0, picture.height - 1);
                        sum += clean(picture.at(qx, qy)[c]);
                        ++some;
                    }
                p[static_cast<std::size_t>(y) * size + static_cast<std::size_t>(x)] = std::min(
                    1.f, sum / static_cast<float>(some));
            }
        if (const int radius = static_cast<int>(std::clamp(softness, 0.f, 1.f) * 0.25f * size); radius > 0)
            blur(p, size, radius, false);
        planes->push_back(seamed(p, size, false));
    }
    out->planes_ = planes;
    return out;
}

std::shared_ptr<const Gobo> Gobo::placed(const Placing& placing) const
{
    std::shared_ptr<Gobo> out(new Gobo(*this));
    out->cos_ = std::cos(placing.turn);
    out->sin_ = std::sin(placing.turn);
    out->perScale_ = 1.f / std::max(1e-3f, placing.scale);
    out->shift_ = placing.shift;
    return out;
}

void Gobo::at8(F8 x, F8 y, F8 out[3]) const
{
    const F8 u = ((x * cos_ + y * sin_ - shift_.x) * perScale_ * 0.5f + 0.5f) * float(size) - 0.5f,
             v = ((y * cos_ - x * sin_ - shift_.y) * perScale_ * 0.5f + 0.5f) * float(size) - 0.5f;
    const F8 us = repeats_ ? u - floor8(u * (1.f / size)) * float(size) : u,
             vs = repeats_ ? v - floor8(v * (1.f / size)) * float(size) : v;
    const I8 in = (us > -1.f) & (vs > -1.f) & (us < float(size)) & (vs < float(size));
    const F8 cu = clamp8(us, 0.f, size - 1e-2f), cv = clamp8(vs, 0.f, size - 1e-2f);
    const I8 iu = toInt(cu), iv = toInt(cv), cell = iv * (size + 1) + iu;
    const F8 fu = cu - toFloat(iu), fv = cv - toFloat(iv);
    for (std::size_t c = 0; c < planes_->size(); ++c) {
        const float* p = (*planes_)[c].data();
        F8 a, b, d, e;
        for (int i = 0; i < lanes; ++i) {
            const float* q = p + cell[i];
            a[i] = q[0], b[i] = q[1], d[i] = q[size + 1], e[i] = q[size + 2];
        }
        const F8 low = a + (b - a) * fu, high = d + (e - d) * fu;
        out[c] = select(in, low + (high - low) * fv, f8(0.f));
    }
    if (planes_->size() == 1)
        out[1] = out[2] = out[0];
}

Vec3 Gobo::at(float x, float y) const
{
    F8 out[3];
    at8(f8(x), f8(y), out);
    return {out[0][0], out[1][0], out[2][0]};
}

Vec3 Gobo::mean() const
{
    Vec3 total(0.f);
    int some = 0;
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x) {
            const float fx = (static_cast<float>(x) + 0.5f) / 32.f - 1.f,
                        fy = (static_cast<float>(y) + 0.5f) / 32.f - 1.f;
            if (fx * fx + fy * fy > 1.f)
                continue;
            total += at(fx, fy);
            ++some;
        }
    return total * (1.f / static_cast<float>(some));
}

std::vector<std::vector<Vec2>> outlinesOf(const std::string& text)
{
    std::vector<std::vector<Vec2>> out;
    std::istringstream shapes(text);
    for (std::string shape; std::getline(shapes, shape, ';');) {
        if (shape.find_first_not_of(" \t\n") == std::string::npos)
            continue;
        std::vector<Vec2> points;
        std::istringstream list(shape);
        for (std::string point; std::getline(list, point, ',');) {
            std::istringstream two(point);
            Vec2 p;
            if (!(two >> p.x >> p.y) || !std::isfinite(p.x) || !std::isfinite(p.y))
                throw std::invalid_argument(
                    "“" + point +
                    "” is no point; write x and y apart by a blank, points apart by commas, outlines by semicolons");
            points.push_back(p);
        }
        if (points.size() < 3)
            throw std::invalid_argument("an outline needs at least three points");
        out.push_back(std::move(points));
    }
    return out;
}

std::string textOf(const std::vector<std::vector<Vec2>>& outlines)
{
    std::ostringstream out;
    for (std::size_t i = 0; i < outlines.size(); ++i) {
        out << (i ? "; " : "");
        for (std::size_t k = 0; k < outlines[i].size(); ++k)
            out << (k ? ", " : "") << outlines[i][k].x << ' ' << outlines[i][k].y;
    }
    return out.str();
}
} // namespace hygros::light
