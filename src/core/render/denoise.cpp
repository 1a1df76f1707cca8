#include "render/denoise.h"

#include "base/parallel.h"
#include "base/simd.h"
#include "render/denoise_plane.h"

#include <algorithm>
#include <atomic>
#include <cmath>

namespace hygros::render {
namespace {
/// What weights are made from: a layer's colour with the variance of each channel, and features.
struct Guide {
    Plane colour[3], variance[3];
    struct Feature {
        Plane value;
        Plane variance; ///< as far as it is noise
        float scale;    ///< differences of this size count as different
        bool exact;     ///< it has no variance
    };
    std::vector<Feature> features;
};

/// One picture to look for pixels in: the frame itself, or another moved onto it.
struct Source {
    const Guide* guide = nullptr;
    std::vector<const Plane*> carried; ///< as many as go out
};

constexpr int patch = 2; ///< half a patch's side
constexpr int strip = 16;

/// Means of `sources` by weights; `out` holds one plane of the picture's size for each carried. `strictness` is how
/// much a difference counts.
void filter(int width, int height, int radius, float strictness, const Guide& own, const std::vector<Source>& sources,
            std::vector<std::vector<float>>& out, JobControl& job)
{
    const std::size_t carried = sources.front().carried.size();
    out.assign(carried, std::vector<float>(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), 0.f));
    const int strips = (height + strip - 1) / strip;
    const int wide = (width + 2 * patch + 15) & ~7;
    parallelFor(static_cast<std::size_t>(strips), [&](std::size_t index) {
        if (job.cancelled())
            return;
        const int y0 = static_cast<int>(index) * strip, y1 = std::min(height, y0 + strip), rows = y1 - y0;
        const auto line = static_cast<std::size_t>(wide);
        std::vector<float> apart(line * static_cast<std::size_t>(rows + 2 * patch) + 16), across(apart.size()),
            weights(line * static_cast<std::size_t>(rows) + 16, 0.f);
        std::vector<std::vector<float>> sums(carried,
                                             std::vector<float>(line * static_cast<std::size_t>(rows) + 16, 0.f));
        for (const Source& source : sources) {
            const Guide& other = *source.guide;
            for (int dy = -radius; dy <= radius; ++dy)
                for (int dx = -radius; dx <= radius; ++dx) {
                    const bool self = dx == 0 && dy == 0 && &other == &own;
                    if (!self) {
                        // How far every pixel is from the one it is compared with.
                        for (int y = -patch; y < rows + patch; ++y) {
                            float* to = &apart[static_cast<std::size_t>(y + patch) * line];
                            const float *a[3], *b[3], *va[3], *vb[3];
                            for (int c = 0; c < 3; ++c) {
                                a[c] = own.colour[c].row(y0 + y) - patch;
                                va[c] = own.variance[c].row(y0 + y) - patch;
                                b[c] = other.colour[c].row(y0 + y + dy) + dx - patch;
                                vb[c] = other.variance[c].row(y0 + y + dy) + dx - patch;
                            }
                            for (int x = 0; x < width + 2 * patch; x += lanes) {
                                F8 total = f8(0.f);
                                for (int c = 0; c < 3; ++c) {
                                    const F8 p = load8(a[c] + x), q = load8(b[c] + x), vp = load8(va[c] + x),
                                             vq = load8(vb[c] + x), d = p - q;
                                    total += (d * d - (vp + min8(vp, vq))) /
                                             ((vp + vq) * 0.5f + p * p * 1e-4f + 1e-12f);
                                }
                                store8(to + x, total * (strictness / 3.f));
                            }
                        }
                        for (int y = 0; y < rows + 2 * patch; ++y)
                            for (int x = 0; x < width; x += lanes) {
                                const float* at =
                                    &apart[static_cast<std::size_t>(y) * line + static_cast<std::size_t>(x)];
                                F8 s = load8(at);
                                for (int k = 1; k <= 2 * patch; ++k)
                                    s += load8(at + k);
                                store8(&across[static_cast<std::size_t>(y) * line + static_cast<std::size_t>(x)], s);
                            }
                    }
                    for (int y = 0; y < rows; ++y) {
                        float* weight = &weights[static_cast<std::size_t>(y) * line];
                        for (int x = 0; x < width; x += lanes) {
                            F8 w = f8(1.f);
                            if (!self) {
                                F8 s = f8(0.f);
                                for (int k = 0; k <= 2 * patch; ++k)
                                    s += load8(
                                        &across[static_cast<std::size_t>(y + k) * line + static_cast<std::size_t>(x)]);
                                constexpr float share = 1.f / static_cast<float>((2 * patch + 1) * (2 * patch + 1));
                                // A single far outlier in a patch that agrees is left out too.
                                F8 d = max8(s * share, load8(&apart[static_cast<std::size_t>(y + patch) * line +
                                                                    static_cast<std::size_t>(x + patch)]) *
                                                           0.03f);
                                for (const Guide::Feature& f : own.features) {
                                    const Guide::Feature& g =
                                        other.features[static_cast<std::size_t>(&f - own.features.data())];
                                    const F8 by = load8(f.value.row(y0 + y) + x) -
                                                  load8(g.value.row(y0 + y + dy) + x + dx);
                                    if (f.exact) {
                                        d = max8(d, by * by * (1.f / (f.scale * f.scale)));
                                    } else {
                                        const F8 v = load8(f.variance.row(y0 + y) + x) +
                                                     load8(g.variance.row(y0 + y + dy) + x + dx);
                                        d = max8(d, (by * by - v) / (v + f.scale * f.scale));
                                    }
                                }
                                w = exp8(-max8(d, f8(0.f)));
                                w = select(w > 0.02f, w, f8(0.f));
                                if (!any(w > 0.f))
                                    continue;
                            }
                            store8(weight + x, load8(weight + x) + w);
                            for (std::size_t c = 0; c < carried; ++c) {
                                float* to = &sums[c][static_cast<std::size_t>(y) * line + static_cast<std::size_t>(x)];
                                store8(to, load8(to) + w * load8(source.carried[c]->row(y0 + y + dy) + x + dx));
                            }
                        }
                    }
                }
        }
        for (int y = 0; y < rows; ++y)
            for (int x = 0; x < width; ++x)
                for (std::size_t c = 0; c < carried; ++c)
                    out[c][static_cast<std::size_t>(y0 + y) * static_cast<std::size_t>(width) +
                           static_cast<std::size_t>(x)] =
                        sums[c][static_cast<std::size_t>(y) * line + static_cast<std::size_t>(x)] /
                        weights[static_cast<std::size_t>(y) * line + static_cast<std::size_t>(x)];
    });
    job.check();
}

/// Mean of 3×3, edges repeated.
std::vector<float> evened(const std::vector<float>& v, int width, int height)
{
    std::vector<float> out(v.size());
    parallelFor(static_cast<std::size_t>(height), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width; ++x) {
            float s = 0.f;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx)
                    s += v[static_cast<std::size_t>(std::clamp(y + dy, 0, height - 1)) *
                               static_cast<std::size_t>(width) +
                           static_cast<std::size_t>(std::clamp(x + dx, 0, width - 1))];
            out[row * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)] = s * (1.f / 9.f);
        }
    });
    return out;
}

/// A picture as the filter takes it, whatever it came from.
struct Frame {
    int width = 0, height = 0;
    std::vector<float> seen; ///< RGB that is not filtered
    std::vector<float> albedo, normal, depth, through, throughVariance;
    struct Layer {
        std::vector<float> rgb;                ///< mean
        std::vector<float> variance;           ///< of its luminance
        std::vector<std::vector<float>> parts; ///< what shares its weights: RGB each
    } set, air;
    std::size_t pixels() const { return depth.size(); }
};

constexpr float leastAlbedo = 0.02f;
float albedoOf(const Frame& f, std::size_t i) { return std::max(leastAlbedo, f.albedo[i]); }

struct Planes {
    Guide guide;
    std::vector<Plane> carried;
};

/// Planes of one layer, moved by `from` (a pixel of `f`, or none, for every pixel of the picture).
template <class From>
Planes planesOf(const Frame& f, const Frame::Layer& layer, bool bySurface, int margin, const From& from)
{
    Planes out;
    const auto plane = [&](const auto& value, float none) {
        Plane p(f.width, f.height, margin);
        p.fill([&](std::size_t i) {
            const std::ptrdiff_t at = from(i);
            return at < 0 ? none : value(static_cast<std::size_t>(at));
        });
        return p;
    };
    // Light on surfaces without their texture.
    const auto divisor = [&](std::size_t i) { return bySurface ? albedoOf(f, i) : 1.f; };
    for (int c = 0; c < 3; ++c) {
        const auto ch = static_cast<std::size_t>(c);
        out.guide.colour[c] = plane([&](std::size_t p) { return layer.rgb[p * 3 + ch] / divisor(p * 3 + ch); }, -1e6f);
        out.guide.variance[c] = plane(
            [&](std::size_t p) {
                // As noisy in every channel as its luminance is, in proportion.
                const float l = luminance(Vec3(layer.rgb[p * 3], layer.rgb[p * 3 + 1], layer.rgb[p * 3 + 2]));
                const float own = l > 0.f ? std::min(4.f, layer.rgb[p * 3 + ch] / l) : 1.f;
                const float d = divisor(p * 3 + ch);
                return layer.variance[p] * std::max(0.05f, own * own) / (d * d);
            },
            0.f);
    }
    const auto feature = [&](const auto& value, float scale, float none) {
        Guide::Feature g;
        g.value = plane(value, none);
        g.scale = scale;
        g.exact = true;
        out.guide.features.push_back(std::move(g));
    };
    feature([&](std::size_t p) { return std::log(std::max(1e-3f, f.depth[p])); }, bySurface ? 0.08f : 0.25f, 1e6f);
    if (bySurface) {
        for (std::size_t c = 0; c < 3; ++c) {
            feature([&](std::size_t p) { return f.normal[p * 3 + c]; }, 0.25f, 1e6f);
            feature([&](std::size_t p) { return f.albedo[p * 3 + c]; }, 0.06f, 1e6f);
        }
    }
    Guide::Feature t;
    t.value = plane([&](std::size_t p) { return f.through[p]; }, 1e6f);
    t.variance = plane([&](std::size_t p) { return f.throughVariance[p]; }, 0.f);
    t.scale = 0.04f;
    t.exact = false;
    out.guide.features.push_back(std::move(t));
    const auto carry = [&](const std::vector<float>& rgb, bool divided) {
        for (std::size_t c = 0; c < 3; ++c)
            out.carried.push_back(
                plane([&](std::size_t p) { return rgb[p * 3 + c] / (divided ? divisor(p * 3 + c) : 1.f); }, 0.f));
    };
    carry(layer.rgb, true);
    for (const std::vector<float>& part : layer.parts)
        carry(part, true);
    return out;
}

/// Three box blurs one after the other, close to a Gaussian; what would leave the picture is held at its edge.
void spread(std::vector<float>& rgb, int width, int height, int radius)
{
    std::vector<float> line;
    const auto blur = [&](std::size_t start, std::size_t stride, int n) {
        line.resize(static_cast<std::size_t>(n));
        for (int pass = 0; pass < 3; ++pass) {
            const auto at = [&](int i) -> float& {
                return rgb[start + static_cast<std::size_t>(std::clamp(i, 0, n - 1)) * stride];
            };
            double sum = 0.0;
            for (int i = -radius; i <= radius; ++i)
                sum += static_cast<double>(at(i));
            for (int i = 0; i < n; ++i) {
                line[static_cast<std::size_t>(i)] = static_cast<float>(sum / (2 * radius + 1));
                sum += static_cast<double>(at(i + radius + 1)) - static_cast<double>(at(i - radius));
            }
            for (int i = 0; i < n; ++i)
                at(i) = line[static_cast<std::size_t>(i)];
        }
    };
    const auto w = static_cast<std::size_t>(width);
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t y = 0; y < static_cast<std::size_t>(height); ++y)
            blur(y * w * 3 + c, 3, width);
        for (std::size_t x = 0; x < w; ++x)
            blur(x * 3 + c, w * 3, height);
    }
}

/// Takes what single paths brought far above everything around out of a layer, and its parts with it; returns what was
/// taken, spread wide: first of the layer, then of its parts.
std::vector<std::vector<float>> takeOutliers(Frame::Layer& layer, int width, int height)
{
    const std::size_t n = layer.variance.size();
    std::vector<float> light(n), kept(n, 1.f), own = layer.variance;
    for (std::size_t p = 0; p < n; ++p)
        light[p] = luminance(Vec3(layer.rgb[p * 3], layer.rgb[p * 3 + 1], layer.rgb[p * 3 + 2]));
    std::atomic<bool> found{false};
    parallelFor(static_cast<std::size_t>(height), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width; ++x) {
            const std::size_t p = row * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
            // What stands on many paths is no outlier, however bright.
            if (!(own[p] > 0.04f * light[p] * light[p]) || light[p] <= 0.f)
                continue;
            constexpr int reach = 3, count = (2 * reach + 1) * (2 * reach + 1);
            float around[count], noise[count];
            for (int k = 0; k < count; ++k) {
                const int qx = std::clamp(x + k % (2 * reach + 1) - reach, 0, width - 1),
                          qy = std::clamp(y + k / (2 * reach + 1) - reach, 0, height - 1);
                const std::size_t q = static_cast<std::size_t>(qy) * static_cast<std::size_t>(width) +
                                      static_cast<std::size_t>(qx);
                around[k] = light[q];
                noise[k] = own[q];
            }
            std::nth_element(around, around + count * 3 / 4, around + count);
            std::nth_element(noise, noise + count / 2, noise + count);
            const float usual = around[count * 3 / 4], most = usual + 2.f * std::sqrt(noise[count / 2]);
            if (light[p] > 1.5f * most) {
                kept[p] = most / light[p];
                layer.variance[p] = noise[count / 2];
                found = true;
            }
        }
    });
    std::vector<std::vector<float>> taken;
    const auto take = [&](std::vector<float>& rgb) {
        std::vector<float> out(rgb.size(), 0.f);
        if (found) {
            for (std::size_t p = 0; p < n; ++p)
                for (std::size_t c = 0; c < 3 && kept[p] < 1.f; ++c) {
                    out[p * 3 + c] = rgb[p * 3 + c] * (1.f - kept[p]);
                    rgb[p * 3 + c] *= kept[p];
                }
            spread(out, width, height, 10);
        }
        taken.push_back(std::move(out));
    };
    take(layer.rgb);
    for (std::vector<float>& part : layer.parts)
        take(part);
    layer.variance = evened(layer.variance, width, height);
    return taken;
}

/// Filters one layer of `frame` and its parts in place.
template <class Moved>
void filterLayer(Frame& frame, Frame::Layer Frame::*which, bool bySurface, const DenoiseSettings& s, JobControl& job,
                 const std::vector<const Frame*>& others, const Moved& moved)
{
    Frame::Layer& layer = frame.*which;
    Frame::Layer before = layer;
    const std::vector<std::vector<float>> taken = takeOutliers(layer, frame.width, frame.height);
    const int margin = s.radius + patch + 8;
    std::vector<Planes> planes;
    planes.push_back(
        planesOf(frame, layer, bySurface, margin, [](std::size_t i) { return static_cast<std::ptrdiff_t>(i); }));
    for (std::size_t k = 0; k < others.size(); ++k)
        planes.push_back(
            planesOf(*others[k], others[k]->*which, bySurface, margin, [&](std::size_t i) { return moved(k, i); }));
    std::vector<Source> sources;
    for (const Planes& p : planes) {
        Source source{&p.guide, {}};
        for (const Plane& c : p.carried)
            source.carried.push_back(&c);
        sources.push_back(std::move(source));
    }
    std::vector<std::vector<float>> out;
    filter(frame.width, frame.height, s.radius, 1.f, planes.front().guide, sources, out, job);
    if (s.rounds > 1 && others.empty()) {
        // What came out is compared once more, now that little of its difference is noise; what goes into the mean is
        // the picture itself.
        Guide again = planes.front().guide;
        const auto w = static_cast<std::size_t>(frame.width);
        for (std::size_t c = 0; c < 3; ++c) {
            again.colour[c].fill([&](std::size_t p) { return out[c][p]; });
            again.variance[c].fill([&](std::size_t p) {
                return 0.1f * planes.front().guide.variance[c].row(static_cast<int>(p / w))[p % w] +
                       2e-3f * out[c][p] * out[c][p];
            });
        }
        Source source{&again, sources.front().carried};
        filter(frame.width, frame.height, s.radius, 1.f, again, {source}, out, job);
    }
    // What outliers brought comes back as a soft light that is never more than a part of what is there: the rest would
    // show as a spot.
    std::vector<float> returned(frame.pixels());
    for (std::size_t p = 0; p < frame.pixels(); ++p) {
        float there = 0.f, back = 0.f;
        for (std::size_t c = 0; c < 3; ++c) {
            there += out[c][p] * (bySurface ? albedoOf(frame, p * 3 + c) : 1.f);
            back += taken[0][p * 3 + c];
        }
        returned[p] = back > 0.f ? std::min(1.f, 0.12f * std::max(0.f, there) / back) : 0.f;
    }
    const auto put = [&](std::vector<float>& rgb, const std::vector<float>& noisy, const std::vector<float>& back,
                         std::size_t first) {
        for (std::size_t p = 0; p < frame.pixels(); ++p)
            for (std::size_t c = 0; c < 3; ++c) {
                const std::size_t i = p * 3 + c;
                const float filtered = out[first + c][p] * (bySurface ? albedoOf(frame, i) : 1.f) +
                                       back[i] * returned[p];
                rgb[i] = noisy[i] + (filtered - noisy[i]) * s.share;
            }
    };
    put(layer.rgb, before.rgb, taken[0], 0);
    for (std::size_t k = 0; k < layer.parts.size(); ++k)
        put(layer.parts[k], before.parts[k], taken[k + 1], 3 + k * 3);
}

/// Parts of a [pixel][source][3] array as pictures, and back.
std::vector<std::vector<float>> split(const std::vector<float>& by, std::size_t pixels, const std::vector<float>& paths)
{
    const std::size_t sources = by.size() / pixels / 3;
    std::vector<std::vector<float>> out(sources, std::vector<float>(pixels * 3));
    for (std::size_t s = 0; s < sources; ++s)
        for (std::size_t p = 0; p < pixels; ++p)
            for (std::size_t c = 0; c < 3; ++c)
                out[s][p * 3 + c] = by[(p * sources + s) * 3 + c] / std::max(1.f, paths[p]);
    return out;
}
void join(std::vector<float>& by, std::span<const std::vector<float>> parts, std::size_t pixels,
          const std::vector<float>& paths)
{
    for (std::size_t s = 0; s < parts.size(); ++s)
        for (std::size_t p = 0; p < pixels; ++p)
            for (std::size_t c = 0; c < 3; ++c)
                by[(p * parts.size() + s) * 3 + c] = parts[s][p * 3 + c] * std::max(1.f, paths[p]);
}

Frame frameOf(const Accumulation& a, bool parts)
{
    Frame f;
    f.width = a.width;
    f.height = a.height;
    const std::size_t n = a.pixels();
    const auto means = [&](const std::vector<float>& v) {
        std::vector<float> out(v.size());
        const std::size_t each = v.size() / n;
        for (std::size_t i = 0; i < v.size(); ++i)
            out[i] = v[i] / std::max(1.f, a.paths[i / each]);
        return out;
    };
    f.albedo = means(a.albedo);
    f.normal = means(a.normal);
    f.depth = a.depth;
    f.set.rgb = means(a.set);
    f.seen = means(a.seen);
    for (std::size_t i = 0; i < f.seen.size(); ++i)
        f.set.rgb[i] -= f.seen[i];
    f.air.rgb = means(a.air);
    const std::vector<float> through = means(a.through);
    f.through.resize(n);
    f.throughVariance.resize(n);
    for (auto [layer, squares] : {std::pair(&f.set, &a.setSquares), std::pair(&f.air, &a.airSquares)}) {
        layer->variance.resize(n);
        for (std::size_t p = 0; p < n; ++p) {
            const float count = std::max(1.f, a.paths[p]),
                        l = luminance(Vec3(layer->rgb[p * 3], layer->rgb[p * 3 + 1], layer->rgb[p * 3 + 2]));
            // Few paths know little of their own variance: it is never less than a path's own light would have.
            layer->variance[p] = std::max((*squares)[p] / count - l * l, 0.f) / std::max(1.f, count - 1.f);
        }
    }
    for (std::size_t p = 0; p < n; ++p) {
        const float t = (through[p * 3] + through[p * 3 + 1] + through[p * 3 + 2]) / 3.f;
        f.through[p] = t;
        f.throughVariance[p] = std::clamp(t * (1.f - t), 0.f, 0.25f) / std::max(1.f, a.paths[p] - 1.f);
    }
    f.throughVariance = evened(f.throughVariance, a.width, a.height);
    f.set.parts.push_back(through);
    if (parts) {
        for (auto& part : split(a.setBy, n, a.paths))
            f.set.parts.push_back(std::move(part));
        for (auto& part : split(a.airBy, n, a.paths))
            f.air.parts.push_back(std::move(part));
        for (auto& part : split(a.shadowBy, n, a.paths))
            f.air.parts.push_back(std::move(part));
    }
    return f;
}

/// Where a pixel of one camera's picture lies in another's: by its surface, or where there is none by its direction.
std::ptrdiff_t movedPixel(const geometry::View& from, const geometry::View& to, int width, int height, float depth,
                          std::size_t pixel)
{
    const float x = static_cast<float>(pixel % static_cast<std::size_t>(width)) + 0.5f,
                y = static_cast<float>(pixel / static_cast<std::size_t>(width)) + 0.5f;
    Vec2 at;
    float along = 0.f;
    if (!to.project(from.position() + from.direction(x, y) * depth, at, along))
        return -1;
    const int px = static_cast<int>(std::floor(at.x)), py = static_cast<int>(std::floor(at.y));
    return px < 0 || py < 0 || px >= width || py >= height ? -1 : static_cast<std::ptrdiff_t>(py) * width + px;
}
} // namespace

void denoise(Accumulation& sums, const DenoiseSettings& s, JobControl& job, const geometry::Camera& camera,
             std::span<const DenoiseNeighbour> neighbours)
{
    if (s.share <= 0.f || sums.pixels() == 0)
        return;
    Frame frame = frameOf(sums, true);
    std::vector<Frame> frames;
    std::vector<geometry::View> views;
    for (const DenoiseNeighbour& n : neighbours)
        if (n.sums && n.sums->width == sums.width && n.sums->height == sums.height) {
            frames.push_back(frameOf(*n.sums, true));
            // Parts are weighed like the layer; a neighbour with other sources gives none.
            if (frames.back().set.parts.size() != frame.set.parts.size() ||
                frames.back().air.parts.size() != frame.air.parts.size())
                frames.pop_back();
            else
                views.emplace_back(n.camera, sums.width, sums.height);
        }
    std::vector<const Frame*> others;
    for (const Frame& f : frames)
        others.push_back(&f);
    const geometry::View own(camera, sums.width, sums.height);
    const auto moved = [&](std::size_t k, std::size_t pixel) {
        return movedPixel(own, views[k], sums.width, sums.height, frame.depth[pixel], pixel);
    };
    job.report(0.1f, "filtering");
    filterLayer(frame, &Frame::air, false, s, job, others, moved);
    job.report(0.55f, "filtering");
    filterLayer(frame, &Frame::set, true, s, job, others, moved);
    const std::size_t n = sums.pixels();
    for (std::size_t i = 0; i < n * 3; ++i) {
        const float count = std::max(1.f, sums.paths[i / 3]);
        sums.set[i] = (frame.set.rgb[i] + frame.seen[i]) * count;
        sums.air[i] = frame.air.rgb[i] * count;
        sums.through[i] = frame.set.parts[0][i] * count;
    }
    const std::span<const std::vector<float>> setParts(frame.set.parts.begin() + 1, frame.set.parts.end());
    join(sums.setBy, setParts, n, sums.paths);
    const std::size_t airs = sums.airBy.size() / n / 3;
    join(sums.airBy, std::span<const std::vector<float>>(frame.air.parts).first(airs), n, sums.paths);
    join(sums.shadowBy, std::span<const std::vector<float>>(frame.air.parts).subspan(airs), n, sums.paths);
}

void denoise(Layers& l, const DenoiseSettings& s, JobControl& job)
{
    const std::size_t n = l.pixels();
    if (s.share <= 0.f || n == 0)
        return;
    Frame f;
    f.width = l.width;
    f.height = l.height;
    f.depth = l.depth;
    f.albedo = l.plate; // as sharp as the set, and free of the air's noise
    for (float& a : f.albedo)
        a = a / (1.f + std::abs(a));
    f.normal.assign(n * 3, 0.f);
    f.through.resize(n);
    f.throughVariance.assign(n, 1e-6f);
    f.set.rgb.resize(n * 3);
    f.air.rgb = l.air;
    for (std::size_t i = 0; i < n * 3; ++i)
        f.set.rgb[i] = l.plate[i] * l.transmittance[i];
    for (std::size_t p = 0; p < n; ++p)
        f.through[p] = (l.transmittance[p * 3] + l.transmittance[p * 3 + 1] + l.transmittance[p * 3 + 2]) / 3.f;
    for (Frame::Layer* layer : {&f.set, &f.air}) {
        // Noise is what a pixel differs by from the mean of its four neighbours, as the middle of nine places has it,
        // so that edges do not count.
        std::vector<float> apart(n);
        const auto at = [&](int x, int y) {
            const std::size_t p = static_cast<std::size_t>(std::clamp(y, 0, l.height - 1)) *
                                      static_cast<std::size_t>(l.width) +
                                  static_cast<std::size_t>(std::clamp(x, 0, l.width - 1));
            return luminance(Vec3(layer->rgb[p * 3], layer->rgb[p * 3 + 1], layer->rgb[p * 3 + 2]));
        };
        for (int y = 0; y < l.height; ++y)
            for (int x = 0; x < l.width; ++x)
                apart[static_cast<std::size_t>(y * l.width + x)] = std::abs(
                    at(x, y) - 0.25f * (at(x - 1, y) + at(x + 1, y) + at(x, y - 1) + at(x, y + 1)));
        layer->variance.resize(n);
        for (int y = 0; y < l.height; ++y)
            for (int x = 0; x < l.width; ++x) {
                float nine[9];
                for (int k = 0; k < 9; ++k)
                    nine[k] = apart[static_cast<std::size_t>(std::clamp(y + k / 3 - 1, 0, l.height - 1) * l.width +
                                                             std::clamp(x + k % 3 - 1, 0, l.width - 1))];
                std::nth_element(nine, nine + 4, nine + 9);
                const float sigma = nine[4] * 1.33f; // of the median of |normal|, and the four neighbours' own part
                layer->variance[static_cast<std::size_t>(y * l.width + x)] = sigma * sigma;
            }
    }
    for (auto& by : l.setBy)
        f.set.parts.push_back(by.air);
    for (auto& by : l.airBy)
        f.air.parts.push_back(by.air);
    for (auto& by : l.shadowBy)
        f.air.parts.push_back(by.air);
    const auto none = [](std::size_t, std::size_t) { return std::ptrdiff_t(-1); };
    filterLayer(f, &Frame::air, false, s, job, {}, none);
    filterLayer(f, &Frame::set, true, s, job, {}, none);
    for (std::size_t i = 0; i < n * 3; ++i)
        l.plate[i] = l.transmittance[i] > 1e-8f ? f.set.rgb[i] / l.transmittance[i] : 0.f;
    l.air = f.air.rgb;
    for (std::size_t k = 0; k < l.setBy.size(); ++k)
        l.setBy[k].air = f.set.parts[k];
    for (std::size_t k = 0; k < l.airBy.size(); ++k)
        l.airBy[k].air = f.air.parts[k];
    for (std::size_t k = 0; k < l.shadowBy.size(); ++k)
        l.shadowBy[k].air = f.air.parts[l.airBy.size() + k];
}
} // namespace hygros::render
