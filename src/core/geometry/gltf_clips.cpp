/// Clips of glTF files: what moves which node, and how it stands at a time (glTF 2.0, appendix C: interpolation).
#include "geometry/gltf.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hygros::geometry::detail {

std::vector<float> GltfData::floats(int accessor, int components) const
{
    std::size_t count = 0, stride = 0;
    int type = 0;
    const unsigned char* from = at(accessor, components, count, stride, type);
    if (type != TINYGLTF_COMPONENT_TYPE_FLOAT)
        throw damaged("numbers in it are not floating-point where they should be");
    std::vector<float> out(count * static_cast<std::size_t>(components));
    for (std::size_t i = 0; i < count; ++i, from += stride)
        std::memcpy(&out[i * static_cast<std::size_t>(components)], from,
                    sizeof(float) * static_cast<std::size_t>(components));
    return out;
}

namespace {
/// Throws a sentence without its subject.
void check(bool good, const char* why)
{
    if (!good)
        throw std::runtime_error(why);
}

GltfChannel channelOf(const GltfData& data, const tinygltf::Animation& a, const tinygltf::AnimationChannel& c)
{
    using What = GltfChannel::What;
    GltfChannel out;
    out.node = c.target_node;
    check(out.node >= 0 && out.node < static_cast<int>(data.model.nodes.size()), "moves a node that is not there");
    check(c.sampler >= 0 && c.sampler < static_cast<int>(a.samplers.size()), "refers to keys that are not there");
    const tinygltf::AnimationSampler& s = a.samplers[static_cast<std::size_t>(c.sampler)];
    out.what = c.target_path == "translation" ? What::Place
               : c.target_path == "rotation"  ? What::Turn
               : c.target_path == "scale"     ? What::Size
                                              : What::Weights;
    out.way = s.interpolation == "STEP"          ? GltfChannel::Way::Step
              : s.interpolation == "CUBICSPLINE" ? GltfChannel::Way::Cubic
                                                 : GltfChannel::Way::Linear;
    out.width = out.what == What::Turn ? 4 : out.what == What::Weights ? 1 : 3;
    out.times = data.floats(s.input, 1);
    out.values = data.floats(s.output, out.width);
    check(!out.times.empty() && out.times.size() <= 10'000'000, "has no keys");
    for (std::size_t i = 0; i < out.times.size(); ++i)
        check(std::isfinite(out.times[i]) && (i == 0 || out.times[i] > out.times[i - 1]),
              "has keys whose times do not rise");
    for (const float v : out.values)
        check(std::isfinite(v), "has keys that are not numbers");
    const std::size_t each = out.times.size() * (out.way == GltfChannel::Way::Cubic ? 3 : 1);
    if (out.what == What::Weights) {
        check(out.values.size() % each == 0 && out.values.size() >= each, "has too few values for its keys");
        out.width = static_cast<int>(out.values.size() / each);
    }
    check(out.values.size() == each * static_cast<std::size_t>(out.width), "has too few values for its keys");
    return out;
}
} // namespace

std::vector<GltfClip> clipsOf(const GltfData& data, std::string& trouble)
{
    std::vector<GltfClip> all;
    for (std::size_t i = 0; i < data.model.animations.size(); ++i) {
        const tinygltf::Animation& a = data.model.animations[i];
        GltfClip clip;
        clip.name = a.name.empty() ? "clip " + std::to_string(i + 1) : a.name;
        try {
            for (const tinygltf::AnimationChannel& c : a.channels) {
                if (c.target_path != "translation" && c.target_path != "rotation" && c.target_path != "scale" &&
                    c.target_path != "weights")
                    continue; // pointers of extensions
                clip.channels.push_back(channelOf(data, a, c));
                clip.seconds = std::max(clip.seconds, static_cast<double>(clip.channels.back().times.back()));
            }
        } catch (const std::exception& e) {
            trouble += (trouble.empty() ? "" : " ") + ("Its clip '" + clip.name + "' ") +
                       (dynamic_cast<const Error*>(&e) ? "is damaged" : e.what()) + " and is left out.";
            continue;
        }
        if (!clip.channels.empty())
            all.push_back(std::move(clip));
    }
    return all;
}

std::vector<float> GltfChannel::valueAt(double seconds) const
{
    const auto w = static_cast<std::size_t>(width);
    const auto key = [&](std::size_t k, std::size_t part) { // of cubic keys the middle part is the value
        const std::size_t at = way == Way::Cubic ? (3 * k + part) * w : k * w;
        return &values[at];
    };
    const auto t = static_cast<float>(seconds);
    const auto after = static_cast<std::size_t>(std::upper_bound(times.begin(), times.end(), t) - times.begin());
    if (after == 0 || after == times.size()) {
        const float* v = key(after == 0 ? 0 : times.size() - 1, 1);
        return {v, v + w};
    }
    const std::size_t before = after - 1;
    const float span = times[after] - times[before], u = (t - times[before]) / span;
    const float *a = key(before, 1), *b = key(after, 1);
    std::vector<float> out(a, a + w);
    if (way == Way::Step)
        return out;
    if (way == Way::Cubic) {
        const float *slopeA = key(before, 2), *slopeB = key(after, 0), u2 = u * u, u3 = u2 * u;
        for (std::size_t i = 0; i < w; ++i)
            out[i] = (2 * u3 - 3 * u2 + 1) * a[i] + span * (u3 - 2 * u2 + u) * slopeA[i] + (3 * u2 - 2 * u3) * b[i] +
                     span * (u3 - u2) * slopeB[i];
        return out;
    }
    float shareA = 1.f - u, shareB = u;
    if (what == What::Turn) {
        // Along the shorter arc of the sphere.
        float dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
        const float sign = dot < 0.f ? -1.f : 1.f;
        dot = std::min(1.f, std::abs(dot));
        if (dot < 0.9995f) {
            const float angle = std::acos(dot), s = std::sin(angle);
            shareA = std::sin((1.f - u) * angle) / s;
            shareB = std::sin(u * angle) / s;
        }
        shareB *= sign;
    }
    for (std::size_t i = 0; i < w; ++i)
        out[i] = shareA * a[i] + shareB * b[i];
    return out;
}

std::vector<GltfPose> posesAt(const GltfClip& clip, double seconds, std::size_t nodes)
{
    std::vector<GltfPose> poses(nodes);
    for (const GltfChannel& c : clip.channels) {
        GltfPose& p = poses[static_cast<std::size_t>(c.node)];
        const std::vector<float> v = c.valueAt(seconds);
        switch (c.what) {
        case GltfChannel::What::Place: p.place = Vec3(v[0], v[1], v[2]); break;
        case GltfChannel::What::Size: p.size = Vec3(v[0], v[1], v[2]); break;
        case GltfChannel::What::Turn: p.turn = {v[0], v[1], v[2], v[3]}; break;
        case GltfChannel::What::Weights: p.weights = v; break;
        }
    }
    return poses;
}
} // namespace hygros::geometry::detail
