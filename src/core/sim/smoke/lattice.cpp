#include "sim/smoke/lattice.h"

#include <algorithm>
#include <cmath>
#include <new>
#include <sys/mman.h>

namespace hygros::sim {

Activity::Activity(const Lattice& lattice, std::vector<std::uint8_t> on) : on_(std::move(on))
{
    const auto b = lattice.blocks();
    for (int bz = 0; bz < b[2]; ++bz)
        for (int by = 0; by < b[1]; ++by)
            for (int bx = 0; bx < b[0];) {
                const int first = bx;
                while (bx < b[0] && on_[lattice.block(bx, by, bz)])
                    ++bx;
                if (bx > first) {
                    spans_.push_back({static_cast<std::int16_t>(first), static_cast<std::int16_t>(bx),
                                      static_cast<std::int16_t>(by), static_cast<std::int16_t>(bz)});
                    count_ += static_cast<std::size_t>(bx - first);
                }
                bx += bx == first;
            }
}

std::vector<std::uint8_t> Activity::withEnds(const Lattice& l) const
{
    std::vector<std::uint8_t> out = on_;
    const auto b = l.blocks();
    for (int bz = 0; bz < b[2]; ++bz)
        for (int by = 0; by < b[1]; ++by)
            for (int bx = 0; bx < b[0]; ++bx)
                if (on_[l.block(bx, by, bz)]) {
                    if (bx + 1 < b[0])
                        out[l.block(bx + 1, by, bz)] = 1;
                    if (by + 1 < b[1])
                        out[l.block(bx, by + 1, bz)] = 1;
                    if (bz + 1 < b[2])
                        out[l.block(bx, by, bz + 1)] = 1;
                }
    return out;
}

Activity Activity::grown(const Lattice& l) const
{
    const auto b = l.blocks();
    std::vector<std::uint8_t> out(on_.size(), 0);
    for (int bz = 0; bz + 1 < b[2]; ++bz)
        for (int by = 0; by + 1 < b[1]; ++by)
            for (int bx = 0; bx + 1 < b[0]; ++bx) {
                bool near = false;
                for (int z = std::max(0, bz - 1); z <= bz + 1 && !near; ++z)
                    for (int y = std::max(0, by - 1); y <= by + 1 && !near; ++y)
                        for (int x = std::max(0, bx - 1); x <= bx + 1 && !near; ++x)
                            near = on_[l.block(x, y, z)] != 0;
                out[l.block(bx, by, bz)] = near;
            }
    return {l, std::move(out)};
}

void Field::Unmap::operator()(float* p) const { munmap(p, bytes); }

Field::Field(std::size_t size) : size_(size)
{
    const std::size_t bytes = size * sizeof(float);
    void* at = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS | MAP_NORESERVE, -1, 0);
    if (at == MAP_FAILED)
        throw std::bad_alloc();
    data_ = {static_cast<float*>(at), Unmap{bytes}};
}

void fillBlock(const Lattice& l, float* values, int bx, int by, int bz, float value)
{
    for (int z = 0; z < Lattice::side; ++z)
        for (int y = 0; y < Lattice::side; ++y)
            std::fill_n(values + l.at(bx * Lattice::side, by * Lattice::side + y, bz * Lattice::side + z),
                        Lattice::side, value);
}

Activity Activity::shrunk(const Lattice& l) const
{
    const auto b = l.blocks();
    std::vector<std::uint8_t> out(on_.size(), 0);
    for (const Span& s : spans_)
        for (int bx = s.first; bx < s.end; ++bx) {
            bool inner = true;
            for (int side = 0; side < 6 && inner; ++side) {
                int at[3] = {bx, s.by, s.bz};
                at[side / 2] += side % 2 ? 1 : -1;
                inner = at[0] >= 0 && at[1] >= 0 && at[2] >= 0 && at[0] < b[0] && at[1] < b[1] && at[2] < b[2] &&
                        isOn(l.block(at[0], at[1], at[2]));
            }
            out[l.block(bx, s.by, s.bz)] = inner;
        }
    return {l, std::move(out)};
}

float valueAt(const Lattice& l, const Field& f, const Vec3& cells)
{
    int low[3];
    Vec3 on;
    for (int a = 0; a < 3; ++a) {
        const float floor = std::floor(cells[a]);
        if (!(floor >= -1.f && floor < static_cast<float>(l.n[static_cast<std::size_t>(a)])))
            return 0.f;
        low[a] = static_cast<int>(floor);
        on[a] = cells[a] - floor;
    }
    const float* v = f.data() + l.at(low[0], low[1], low[2]);
    const auto along = [&](std::ptrdiff_t i) { return v[i] + (v[i + 1] - v[i]) * on.x; };
    const auto flat = [&](std::ptrdiff_t i) { return along(i) + (along(i + l.row()) - along(i)) * on.y; };
    return flat(0) + (flat(l.plane()) - flat(0)) * on.z;
}

Field FieldPool::take(const Activity& activity)
{
    Kept kept;
    {
        const std::lock_guard lock(mutex_);
        if (kept_.empty())
            return Field(lattice_.size());
        kept = std::move(kept_.back());
        kept_.pop_back();
    }
    const auto b = lattice_.blocks();
    for (int bz = 0; bz < b[2]; ++bz)
        for (int by = 0; by < b[1]; ++by)
            for (int bx = 0; bx < b[0]; ++bx)
                if (const std::size_t i = lattice_.block(bx, by, bz); kept.written[i] && !activity.isOn(i))
                    fillBlock(lattice_, kept.field.data(), bx, by, bz, 0.f);
    return std::move(kept.field);
}

void FieldPool::give(Field field, std::vector<std::uint8_t> written)
{
    const std::lock_guard lock(mutex_);
    if (field && field.size() == lattice_.size())
        kept_.push_back({std::move(field), std::move(written)});
}
} // namespace hygros::sim
