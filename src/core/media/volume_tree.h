#pragma once
/// Which of a shot's volumes may lie on a way: a tree of their boxes, so that hundreds of them cost what is met of
/// them.
#include "media/volume.h"

#include <algorithm>
#include <span>
#include <vector>

namespace hygros::media {

class VolumeTree {
public:
    /// Volumes whose grids are empty are left out. `grown`: metres that each box is grown by on all sides, by volume;
    /// empty: none.
    explicit VolumeTree(std::span<const Volume> volumes, const std::vector<float>& grown = {})
    {
        std::vector<Box3> boxes(volumes.size());
        for (std::size_t k = 0; k < volumes.size(); ++k) {
            const Volume& v = volumes[k];
            if (!v.density || v.density->empty() || v.bounds.isEmpty())
                continue;
            const Vec3 by(grown.empty() ? 0.f : grown[k]);
            boxes[k] = Box3(v.bounds.min - by, v.bounds.max + by);
            items_.push_back(k);
        }
        if (!items_.empty())
            split(boxes, 0, items_.size());
    }

    /// Calls visit(index) for the volumes whose boxes a ray meets before `length` [m], and maybe for a few beside them,
    /// nearer boxes about first, until it returns false. `length` is read anew each time: visit() may shorten it.
    template <class Visit> void over(const Vec3& o, const Vec3& d, const float& length, const Visit& visit) const
    {
        const Vec3 inverse(inverseOf(d.x), inverseOf(d.y), inverseOf(d.z));
        walk(
            [&](const Box3& box) {
                float t0 = 0.f, t1 = length;
                for (int a = 0; a < 3; ++a) {
                    const float u = (box.min[a] - o[a]) * inverse[a], v = (box.max[a] - o[a]) * inverse[a];
                    t0 = std::max(t0, std::min(u, v));
                    t1 = std::min(t1, std::max(u, v));
                }
                return t0 <= t1;
            },
            [&](int axis) { return d[axis] < 0.f; }, visit);
    }
    /// The same for those that any of eight rays meets before its own `end`.
    template <class Visit> void over8(const Ray8& ray, F8 end, const Visit& visit) const
    {
        const F8 origin[3] = {ray.ox, ray.oy, ray.oz}, direction[3] = {ray.dx, ray.dy, ray.dz};
        F8 inverse[3];
        for (int a = 0; a < 3; ++a)
            inverse[a] = 1.f / select(abs8(direction[a]) < 1e-9f, f8(1e-9f), direction[a]);
        walk(
            [&](const Box3& box) {
                F8 t0 = f8(0.f), t1 = end;
                for (int a = 0; a < 3; ++a) {
                    const F8 u = (box.min[a] - origin[a]) * inverse[a], v = (box.max[a] - origin[a]) * inverse[a];
                    t0 = max8(t0, min8(u, v));
                    t1 = min8(t1, max8(u, v));
                }
                return any(t0 <= t1);
            },
            [&](int axis) { return direction[axis][0] < 0.f; }, visit);
    }

private:
    /// So few are looked at one after the other without asking for their boxes.
    static constexpr std::size_t few = 4;
    struct Node {
        Box3 box;
        std::size_t first, last; ///< of items_; a node of no more than `few` is a leaf
        std::size_t far = 0;     ///< the second child; the first comes right after this
        int axis = 0;
    };

    static float inverseOf(float d) { return 1.f / (std::abs(d) < 1e-9f ? 1e-9f : d); }

    void split(const std::vector<Box3>& boxes, std::size_t first, std::size_t last)
    {
        const std::size_t own = nodes_.size();
        Node node{{}, first, last};
        Box3 centres;
        for (std::size_t i = first; i < last; ++i) {
            node.box.extendBy(boxes[items_[i]]);
            centres.extendBy(boxes[items_[i]].center());
        }
        node.axis = static_cast<int>(centres.majorAxis());
        nodes_.push_back(node);
        if (last - first <= few)
            return;
        const std::size_t middle = (first + last) / 2;
        const auto at = [&](std::size_t i) { return items_.begin() + static_cast<std::ptrdiff_t>(i); };
        std::nth_element(at(first), at(middle), at(last), [&](std::size_t a, std::size_t b) {
            return boxes[a].center()[node.axis] < boxes[b].center()[node.axis];
        });
        split(boxes, first, middle);
        nodes_[own].far = nodes_.size();
        split(boxes, middle, last);
    }
    template <class Meets, class Backward, class Visit>
    void walk(const Meets& meets, const Backward& backward, const Visit& visit) const
    {
        if (nodes_.empty())
            return;
        std::size_t waiting[64]; // halves: no deeper than the bits of a size
        int count = 0;
        waiting[count++] = 0;
        while (count > 0) {
            const std::size_t own = waiting[--count];
            const Node& node = nodes_[own];
            // All of a few are looked at as they would be without a tree.
            if (nodes_.size() > 1 && !meets(node.box))
                continue;
            if (node.far == 0) {
                for (std::size_t i = node.first; i < node.last; ++i)
                    if (!visit(items_[i]))
                        return;
                continue;
            }
            const bool farFirst = backward(node.axis);
            waiting[count++] = farFirst ? own + 1 : node.far;
            waiting[count++] = farFirst ? node.far : own + 1;
        }
    }

    std::vector<std::size_t> items_;
    std::vector<Node> nodes_;
};
} // namespace hygros::media
