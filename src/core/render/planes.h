#pragma once
/// Arrays that know their layout: what a frame keeps by groups of eight pixels, and colours by place.
#include "base/simd.h"
#include "base/vec.h"

#include <cstddef>
#include <vector>

namespace hygros::render {

/// Values of groups of eight things side by side: [group][plane][8].
template <class T> class Planes {
public:
    /// All hold `value` where there were others groups or planes; else nothing changes.
    void resize(std::size_t groups, std::size_t planes, T value = T())
    {
        if (groups != groups_ || planes != planes_)
            assign(groups, planes, value);
    }
    void assign(std::size_t groups, std::size_t planes, T value = T())
    {
        groups_ = groups;
        planes_ = planes;
        values_.assign(groups * planes * lanes, value);
    }
    void clear() { *this = Planes(); }
    bool empty() const { return values_.empty(); }
    std::size_t planes() const { return planes_; }
    std::size_t bytes() const { return values_.capacity() * sizeof(T); }
    /// The eight of a plane; those of the next ones follow. Nothing to read where the group has no planes.
    T* at(std::size_t group, std::size_t plane = 0) { return values_.data() + (group * planes_ + plane) * lanes; }
    const T* at(std::size_t group, std::size_t plane = 0) const
    {
        return values_.data() + (group * planes_ + plane) * lanes;
    }

private:
    std::size_t groups_ = 0, planes_ = 0;
    std::vector<T> values_;
};

/// Colours one after the other: [place][3].
class Colours {
public:
    void resize(std::size_t places, float value = 0.f) { values_.resize(places * 3, value); }
    bool empty() const { return values_.empty(); }
    std::size_t bytes() const { return values_.capacity() * sizeof(float); }
    std::size_t size() const { return values_.size() / 3; }
    float* at(std::size_t place) { return values_.data() + place * 3; }
    const float* at(std::size_t place) const { return values_.data() + place * 3; }
    Vec3 of(std::size_t place) const
    {
        const float* v = at(place);
        return Vec3(v[0], v[1], v[2]);
    }

private:
    std::vector<float> values_;
};
} // namespace hygros::render
