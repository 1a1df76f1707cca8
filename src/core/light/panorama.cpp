#include "light/panorama.h"

#include "base/error.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {

std::shared_ptr<const Panorama> Panorama::load(const std::filesystem::path& file)
{
    image::Image in = image::readColour(file);
    if (in.height < 4 || std::abs(static_cast<float>(in.width) / static_cast<float>(in.height) - 2.f) > 0.1f)
        throw inputError("Reading the panorama", file.string(),
                         "it is " + std::to_string(in.width) + "×" + std::to_string(in.height) +
                             ", a whole sphere is twice as wide as high",
                         "Choose a picture of the whole sphere in equal angles.");
    return std::make_shared<const Panorama>(in.width, in.height, std::move(in.pixels));
}

Panorama::Panorama(int width, int height, std::vector<float> rgb) : width_(width), height_(height), rgb_(std::move(rgb))
{
    for (float& v : rgb_)
        if (!std::isfinite(v) || v < 0.f) {
            v = 0.f;
            ++refused_;
        }
    measure();
}

float Panorama::solidAngle(int y, int width, int height)
{
    const float a = pi * static_cast<float>(y) / static_cast<float>(height),
                b = pi * static_cast<float>(y + 1) / static_cast<float>(height);
    return (std::cos(a) - std::cos(b)) * 2.f * pi / static_cast<float>(width);
}

void Panorama::measure()
{
    total_ = Vec3(0.f);
    int parts = 1; // odd, so that a pixel's middle stays one
    while (height_ * parts < 128)
        parts += 2;
    fineWidth_ = width_ * parts;
    fineHeight_ = height_ * parts;
    const float size = 1.f / static_cast<float>(parts);
    rows_.assign(static_cast<std::size_t>(fineHeight_) + 1, 0.0);
    cells_.assign(static_cast<std::size_t>(fineHeight_) * (static_cast<std::size_t>(fineWidth_) + 1), 0.0);
    double sums[3] = {};
    for (int y = 0; y < fineHeight_; ++y) {
        const double omega = double(solidAngle(y, fineWidth_, fineHeight_));
        double* row = &cells_[static_cast<std::size_t>(y) * (static_cast<std::size_t>(fineWidth_) + 1)];
        for (int x = 0; x < fineWidth_; ++x) {
            const Vec3 c = between((static_cast<float>(x) + 0.5f) * size, (static_cast<float>(y) + 0.5f) * size);
            for (int k = 0; k < 3; ++k)
                sums[k] += double(c[k]) * omega;
            row[x + 1] = row[x] + double(luminance(c)) * omega;
        }
        rows_[static_cast<std::size_t>(y) + 1] = rows_[static_cast<std::size_t>(y)] + row[fineWidth_];
    }
    total_ = Vec3(static_cast<float>(sums[0]), static_cast<float>(sums[1]), static_cast<float>(sums[2]));
    weight_ = rows_.back();
}

Vec3 Panorama::directionAt(float x, float y) const
{
    const float phi = (x / static_cast<float>(width_) - 0.5f) * 2.f * pi, theta = y / static_cast<float>(height_) * pi,
                s = std::sin(theta);
    return {s * std::sin(phi), std::cos(theta), -s * std::cos(phi)};
}

namespace {
void placeOf(const Vec3& d, int width, int height, float& x, float& y)
{
    x = (std::atan2(d.x, -d.z) / (2.f * pi) + 0.5f) * static_cast<float>(width);
    y = std::acos(std::clamp(d.y, -1.f, 1.f)) / pi * static_cast<float>(height);
}
} // namespace

Vec3 Panorama::radiance(const Vec3& d) const
{
    float x, y;
    placeOf(d, width_, height_, x, y);
    return between(x, y);
}

Vec3 Panorama::between(float x, float y) const
{
    x -= 0.5f;
    y = std::clamp(y - 0.5f, 0.f, static_cast<float>(height_ - 1));
    const int x0 = static_cast<int>(std::floor(x)), y0 = std::min(static_cast<int>(y), height_ - 2);
    const float fx = x - static_cast<float>(x0), fy = y - static_cast<float>(y0);
    const auto cell = [&](int cx, int cy) {
        const float* c = &rgb_[at((cx % width_ + width_) % width_, cy)];
        return Vec3(c[0], c[1], c[2]);
    };
    return lerp(lerp(cell(x0, y0), cell(x0 + 1, y0), fx), lerp(cell(x0, y0 + 1), cell(x0 + 1, y0 + 1), fx), fy);
}

Vec3 Panorama::sample(float u, float v, float& density) const
{
    if (weight_ <= 0.0) {
        const float c = 1.f - 2.f * u, s = std::sqrt(std::max(0.f, 1.f - c * c));
        density = 0.25f / pi;
        return {s * std::cos(2.f * pi * v), c, s * std::sin(2.f * pi * v)};
    }
    const double wanted = double(u) * weight_;
    const auto row = std::clamp<std::ptrdiff_t>(
        std::upper_bound(rows_.begin(), rows_.end(), wanted) - rows_.begin() - 1, 0, fineHeight_ - 1);
    const double* cells = &cells_[static_cast<std::size_t>(row) * (static_cast<std::size_t>(fineWidth_) + 1)];
    const double inRow = double(v) * cells[fineWidth_];
    const auto column = std::clamp<std::ptrdiff_t>(std::upper_bound(cells, cells + fineWidth_ + 1, inRow) - cells - 1,
                                                   0, fineWidth_ - 1);
    const double fy = (wanted - rows_[static_cast<std::size_t>(row)]) /
                      std::max(1e-300, rows_[static_cast<std::size_t>(row) + 1] - rows_[static_cast<std::size_t>(row)]);
    const double fx = (inRow - cells[column]) / std::max(1e-300, cells[column + 1] - cells[column]);
    density = static_cast<float>((cells[column + 1] - cells[column]) /
                                 (weight_ * double(solidAngle(static_cast<int>(row), fineWidth_, fineHeight_))));
    const double size = static_cast<double>(width_) / fineWidth_;
    return directionAt(static_cast<float>((double(column) + std::clamp(fx, 0.0, 1.0)) * size),
                       static_cast<float>((double(row) + std::clamp(fy, 0.0, 1.0)) * size));
}

float Panorama::pdf(const Vec3& d) const
{
    if (weight_ <= 0.0)
        return 0.25f / pi;
    float x, y;
    placeOf(d, fineWidth_, fineHeight_, x, y);
    const auto column = static_cast<std::size_t>(std::clamp(static_cast<int>(x), 0, fineWidth_ - 1)),
               row = static_cast<std::size_t>(std::clamp(static_cast<int>(y), 0, fineHeight_ - 1));
    const double* cells = &cells_[row * (static_cast<std::size_t>(fineWidth_) + 1)];
    return static_cast<float>((cells[column + 1] - cells[column]) /
                              (weight_ * double(solidAngle(static_cast<int>(row), fineWidth_, fineHeight_))));
}

std::shared_ptr<const Panorama> Panorama::withoutSun(Sun& sun) const
{
    sun = {};
    int bx = 0, by = 0;
    float most = 0.f;
    for (int y = 0; y < height_ / 2; ++y)
        for (int x = 0; x < width_; ++x) {
            const float* c = &rgb_[at(x, y)];
            if (const float l = luminance(Vec3(c[0], c[1], c[2])); l > most) {
                most = l;
                bx = x;
                by = y;
            }
        }
    auto out = std::make_shared<Panorama>(width_, height_, rgb_);
    const Vec3 centre = directionAt(static_cast<float>(bx) + 0.5f, static_cast<float>(by) + 0.5f);
    // The ring from 3° to 6° around it says what the sky is like there; the sun is what stands out within 3°.
    const float inner = std::cos(radians(3)), outer = std::cos(radians(6));
    Vec3 ring(0.f);
    float ringWeight = 0.f;
    for (int y = 0; y < height_; ++y)
        for (int x = 0; x < width_; ++x)
            if (const float c = directionAt(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).dot(centre);
                c >= outer && c < inner) {
                const float* p = &rgb_[at(x, y)];
                ring += Vec3(p[0], p[1], p[2]) * solidAngle(y, width_, height_);
                ringWeight += solidAngle(y, width_, height_);
            }
    ring = ringWeight > 0.f ? ring / ringWeight : Vec3(0.f);
    if (most < 10.f * luminance(ring) || most <= 0.f)
        return out;
    Vec3 taken(0.f), direction(0.f);
    for (int y = 0; y < height_; ++y)
        for (int x = 0; x < width_; ++x) {
            const Vec3 d = directionAt(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f);
            if (d.dot(centre) < inner)
                continue;
            float* p = &out->rgb_[at(x, y)];
            const float omega = solidAngle(y, width_, height_);
            for (int c = 0; c < 3; ++c) {
                const float more = std::max(0.f, p[c] - ring[c]);
                taken[c] += more * omega;
                p[c] -= more;
            }
            const float* was = &rgb_[at(x, y)];
            direction += d * (luminance(Vec3(was[0], was[1], was[2])) * omega);
        }
    out->measure();
    sun.found = true;
    sun.direction = direction.normalized();
    sun.irradiance = taken;
    return out;
}
} // namespace hygros::light
