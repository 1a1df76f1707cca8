#include "sim/smoke/retime.h"

#include "sim/smoke/slice.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
Activity together(const Gas& a, const Gas& b)
{
    std::vector<std::uint8_t> on = a.activity.on();
    for (std::size_t i = 0; i < on.size(); ++i)
        on[i] = on[i] || b.activity.on()[i];
    return {a.lattice, std::move(on)};
}
/// One of heat and soot only, in blocks that either has in use.
std::shared_ptr<Gas> room(const Gas& a, const Gas& b)
{
    auto out = std::make_shared<Gas>();
    out->lattice = a.lattice;
    out->activity = together(a, b);
    out->heat = Field(a.lattice.size());
    out->soot = Field(a.lattice.size());
    return out;
}
} // namespace

std::shared_ptr<const Gas> between(const std::shared_ptr<const Gas>& before, const std::shared_ptr<const Gas>& after,
                                   float share, float seconds, const std::vector<media::Wind>& winds)
{
    if (!(before->lattice == after->lattice) || share <= 0.f || share >= 1.f)
        return share < 0.5f ? before : after;
    const Lattice& l = before->lattice;
    auto out = room(*before, *after);
    float* to[2] = {out->heat.data(), out->soot.data()};
    out->activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; ++x) {
            const Vec3 place = l.middle(x, y, z),
                       cell(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z));
            const Vec3 wind = media::windAt(winds, place);
            // Back to where it was, and on to where it will be.
            const Vec3 from = cell - (velocityAt(*before, place) + wind) * (share * seconds / l.h),
                       into = cell + (velocityAt(*after, place) + wind) * ((1.f - share) * seconds / l.h);
            const std::ptrdiff_t i = l.at(x, y, z);
            to[0][i] = valueAt(l, before->heat, from) * (1.f - share) + valueAt(l, after->heat, into) * share;
            to[1][i] = valueAt(l, before->soot, from) * (1.f - share) + valueAt(l, after->soot, into) * share;
        }
    });
    return out;
}

std::shared_ptr<const Gas> mixed(const std::shared_ptr<const Gas>& one, const std::shared_ptr<const Gas>& other,
                                 float share)
{
    if (!(one->lattice == other->lattice) || share <= 0.f || share >= 1.f)
        return share >= 0.5f ? one : other;
    auto out = room(*one, *other);
    const auto blend = [&](const Field& a, const Field& b, Field& to) {
        const float *va = a.data(), *vb = b.data();
        float* v = to.data();
        out->activity.rows([&](int x0, int x1, int y, int z) {
            for (std::ptrdiff_t i = out->lattice.at(x0, y, z), end = out->lattice.at(x1, y, z); i < end; ++i)
                v[i] = va[i] * share + vb[i] * (1.f - share);
        });
    };
    blend(one->heat, other->heat, out->heat);
    blend(one->soot, other->soot, out->soot);
    return out;
}

SeenGas seenGas(const Gas& gas, float around, JobControl& job)
{
    const Lattice& l = gas.lattice;
    Mat4 scale, move;
    scale.setScale(Vec3(l.h));
    move.setTranslation(l.middle(0, 0, 0));
    const auto load = [&](const Field& field, const auto& shown) {
        std::vector<float> values(gas.activity.cells());
        std::vector<media::BrickGrid::Block> blocks;
        float* at = values.data();
        for (const Activity::Span& span : gas.activity.spans())
            for (int bx = span.first; bx < span.end; ++bx, at += 512) {
                for (int i = 0; i < 8; ++i)
                    for (int j = 0; j < 8; ++j)
                        for (int k = 0; k < 8; ++k)
                            at[(i * 8 + j) * 8 + k] = shown(
                                field.data()[l.at(bx * 8 + i, span.by * 8 + j, span.bz * 8 + k)]);
                blocks.push_back({bx, span.by, span.bz, at, 0.f});
            }
        media::LoadedGrid out;
        out.values = media::BrickGrid::fromBlocks(blocks, job);
        out.toWorld = scale * move;
        return out;
    };
    return {load(gas.soot, [](float v) { return std::max(0.f, v * 1000.f); }),
            load(gas.heat, [&](float v) { return v > 0.5f ? v + around : 0.f; })};
}
} // namespace hygros::sim
